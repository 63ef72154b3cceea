import { conclude } from "../core/diagnosis/flowchart/flowchart";
import type { JudgedReading } from "../core/procedure/judge";
import { schoolOf } from "../core/procedure/schools";
import type { Case } from "./case";

/** The result document of a diagnosis, as the case file's contract lays it down. */
interface Result {
  verdict: { status: string; part?: string; fault?: string; where?: string; says: string };
  readings: {
    test: string;
    at?: string;
    judged: string;
    value: number | string;
    band?: (number | null)[] | "open";
    bandFrom: string;
    bandSays?: string;
    corrections?: string[];
  }[];
  ruledOut: { part: string; says: string; by: number[] }[];
  also: { fault: string; where?: string; says: string }[];
  wouldChange: string;
}

/** Diagnoses a case by the fixed order and lays the result out. `by` numbers the readings from 0. */
export function resultOf(file: Case): Result {
  const conclusion = conclude(file.readings, {
    sheet: file.sheet,
    school: schoolOf(file.school ?? ""),
    meter: file.meter,
    ambientC: file.ambientC,
  });
  const { status, part, fault, where, headline, ruledOut, also, wouldChange, judged } = conclusion;
  const number = (one: JudgedReading) => file.readings.indexOf(one.reading);
  return {
    verdict: { status, ...(part ? { part } : {}), ...(fault ? { fault } : {}), ...(where ? { where } : {}), says: headline },
    readings: judged.map(readingResult),
    ruledOut: ruledOut.map((one) => ({ part: one.part, says: one.says, by: one.because.map(number) })),
    also,
    wouldChange,
  };
}

function readingResult(one: JudgedReading): Result["readings"][number] {
  const { reading, band, corrections } = one;
  const limits = band?.kind === "between" ? [band.low ?? null, band.high ?? null] : band?.kind === "open" ? ("open" as const) : undefined;
  return {
    test: reading.test,
    ...(reading.at ? { at: reading.at } : {}),
    judged: one.judged,
    value: one.value,
    ...(limits ? { band: limits } : {}),
    bandFrom: band?.from ?? "none",
    ...(band ? { bandSays: band.says } : {}),
    ...(corrections.length > 0 ? { corrections } : {}),
  };
}
