import { type Advice, advise, type JobFacts, type PartStanding } from "../core/diagnosis/advice";
import { looseVerdict } from "../core/diagnosis/loose";
import { ASSUMED_PRICES } from "../core/diagnosis/planning/prices";
import { type History, NO_HISTORY } from "../core/diagnosis/population/hypotheses";
import type { Population } from "../core/diagnosis/population/population";
import { observe } from "../core/diagnosis/posterior/posterior";
import { type Push, pushesOf } from "../core/diagnosis/posterior/push";
import { isWhole, remediesOf } from "../core/diagnosis/remedies";
import { isListed } from "../core/diagnosis/words/marks";
import { headline, misfitWords, reasonFor, togetherWords, turnWords, whereWords } from "../core/diagnosis/words/words";
import { faultOf, needsNoPart } from "../core/machine/faults";
import type { Loose } from "../core/machine/loose";
import { PARTS, type Part } from "../core/machine/part";
import { testOf } from "../core/procedure/catalogue";
import { COMPLAINTS } from "../core/procedure/complaints";
import { type JudgedReading, judgeAll } from "../core/procedure/judge";
import { oddityOf } from "../core/procedure/oddities";
import { schoolOf } from "../core/procedure/schools";
import { stepTitle } from "../core/procedure/step";
import type { Case } from "./case";

/** The result document of a diagnosis, as the case file's contract lays it down. */
interface Result {
  verdict: {
    status: string;
    part?: string;
    parts?: string[];
    fault?: string;
    where?: string;
    odds: number;
    says: string;
    sure: PartResult[];
    open: PartResult[];
    /** Parts that are judged once those named are mended: likely failed as well, and not sure enough to be bought with them. */
    later?: string[];
  };
  /** Of a part that came without its machine: good, bad, or which reading would settle it. */
  loose?: { part: string; says: "good" | "bad" | "open"; badOdds: number; settle?: { test: string; at?: string; charged?: true; why: string } };
  parts: { part: string; odds: number }[];
  faults: { fault: string; odds: number }[];
  readings: {
    test: string;
    at?: string;
    judged: string;
    value: number | string;
    band?: (number | null)[] | "open";
    bandFrom: string;
    bandSays?: string;
    corrections?: string[];
    /** What is odd about how it is said to have been taken. */
    odd?: string;
    push?: Push;
  }[];
  /** A plan: the entries of one stand follow each other, each with what must be done with the machine first. */
  next: {
    test: string;
    at?: string;
    rpm?: number | "idle";
    loads?: string;
    hot?: true;
    charged?: true;
    why: string;
    minutes: number;
    gainBits: number;
    stand: { engine: string; key: string; parted: readonly string[] };
    moves: { move: string; what?: string; handsMinutes: number; clockMinutes: number }[];
  }[];
  /** What a machine with each of the likeliest sets would show for every reading taken. */
  suspects: { set: string; odds: number; shows: { reading: number; expected: number | string; low?: number; high?: number; misfit?: true }[] }[];
  doubts: { reading: number; odds: number; why: string }[];
  /** Readings that are likely off together, and what they may share. */
  together: { readings: number[]; odds: number; why: string }[];
  ruledOut: { part: string; by: number[] }[];
  wouldChange: string;
  /** What of the case leans nothing, a sentence each. */
  notes?: string[];
}

interface PartResult {
  part: string;
  odds: number;
  fault: string;
  where?: string;
}

/** A part is ruled out below these odds. */
const OUT = 0.02;
const NEXT = 8;
/** Odds of a part by itself from which the verdict names it. */
const NAMED = 0.85;

/** What the engine is told of a case: its meter, its past, the prices that are assumed where no shop is. */
function factsOf(file: Case): JobFacts {
  const history: History = { ...NO_HISTORY, complaint: file.complaint, batteryAgeYears: file.batteryAgeYears };
  return {
    readings: file.readings,
    meter: file.meter,
    prices: ASSUMED_PRICES,
    history,
    mended: file.readings.at(-1)?.mended ?? [],
    skipped: [],
    tools: file.tools,
    restHours: schoolOf(file.school ?? "").restHours,
  };
}

/** Diagnoses a case and lays the result out. Readings are numbered from 0. */
export function resultOf(file: Case, population: Population): Result {
  const facts = factsOf(file);
  const advice = advise(population, facts);
  const others = file.readings.length - 1;
  const observations = observe(facts.readings, population, facts.meter);
  const pushes = pushesOf(population, population.priors(facts.history), observations);
  const pushOf = new Map(observations.map((observation, k) => [observation.reading, pushes[k] as Push]));
  const judged = judgeAll(file.readings, { sheet: file.sheet, school: schoolOf(file.school ?? ""), meter: file.meter, ambientC: file.ambientC });
  const notes = unheard(file);
  return {
    verdict: verdictOf(advice, file),
    ...(file.sheet.loose ? { loose: looseResult(advice, file.sheet.loose) } : {}),
    parts: [...advice.parts.filter(({ what }) => what !== "charge").map(({ what, odds }) => ({ part: what, odds: round3(odds) })), noneOf(advice)]
      .filter(({ odds }) => odds > 0)
      .sort((a, b) => b.odds - a.odds),
    faults: advice.faults.slice(0, 8).map(({ what, odds }) => ({ fault: what, odds: round3(odds) })),
    readings: judged.map((judgedReading, i) =>
      readingResult(judgedReading, pushOf.get(i), oddityOf(judgedReading.reading, file.readings.slice(0, i), file.tools, file.sheet)),
    ),
    next: advice.next.slice(0, NEXT).map(({ step, look, minutes, gainBits, ...suggestion }) => ({
      test: step.test,
      ...(step.at ? { at: step.at } : {}),
      ...(step.rpm === undefined ? {} : { rpm: step.rpm }),
      ...(step.loads ? { loads: step.loads } : {}),
      ...(look.hot ? { hot: true as const } : {}),
      ...(look.charged ? { charged: true as const } : {}),
      why: reasonFor({ step, look, minutes, gainBits, ...suggestion }, advice),
      minutes: round3(minutes + suggestion.hands),
      gainBits: round3(gainBits),
      stand: { engine: testOf(step.test).setUp.engine, key: testOf(step.test).setUp.key, parted: testOf(step.test).setUp.unplug },
      moves: suggestion.moves.map(({ id, what, hands, clock }) => ({ move: id, ...(what ? { what } : {}), handsMinutes: hands, clockMinutes: clock })),
    })),
    suspects: advice.suspects.map(({ set, odds, shows }) => ({
      set,
      odds: round3(odds),
      shows: shows.map(({ reading, expected, range, misfit }) => ({
        reading,
        expected: typeof expected === "number" ? round3(expected) : expected,
        ...(range ? { low: round3(range[0]), high: round3(range[1]) } : {}),
        ...(misfit ? { misfit: true as const } : {}),
      })),
    })),
    doubts: advice.doubts.map(({ reading, odds }) => ({
      reading,
      odds: round3(odds),
      why: `${stepTitle(file.readings[reading] as Case["readings"][number])} ${others > 0 ? `disagrees with the other ${others}` : misfitWords(1)}; take it again`,
    })),
    together: advice.together.map(({ readings, odds }) => ({
      readings,
      odds: round3(odds),
      why: togetherWords(readings.flatMap((reading) => file.readings[reading] ?? [])),
    })),
    ruledOut:
      file.readings.length === 0
        ? []
        : PARTS.filter((part) => isListed(advice, part) && oddsFor(advice, part) < OUT).map((part) => ({ part, by: against(part, pushOf) })),
    wouldChange: advice.next.flatMap((suggestion) => turnWords(suggestion, advice) ?? [])[0] ?? "No single reading that is left would.",
    ...(notes.length > 0 ? { notes } : {}),
  };
}

/** What the owner is said to have said that this edition does not know: it leans nothing, and whoever wrote the case hears so. */
function unheard({ complaint }: Case): string[] {
  const known: readonly string[] = COMPLAINTS.map(({ id }) => id);
  return complaint.flatMap((id, i) =>
    known.includes(id) ? [] : [`complaint.${i}: “${id}” is not one this edition knows, and leans nothing; it knows ${known.join(", ")}`],
  );
}

function looseResult(advice: Advice, part: Loose): NonNullable<Result["loose"]> {
  const { says, bad, settle } = looseVerdict(advice);
  return {
    part,
    says,
    badOdds: round3(bad),
    ...(settle
      ? {
          settle: {
            test: settle.step.test,
            ...(settle.step.at ? { at: settle.step.at } : {}),
            ...(settle.look.charged ? { charged: true as const } : {}),
            why: reasonFor(settle, advice),
          },
        }
      : {}),
  };
}

/** Odds that no part has to be bought or mended. */
function noneOf({ sets }: Advice): { part: string; odds: number } {
  return { part: "none", odds: round3(sets.filter(({ what }) => isWhole(what)).reduce((sum, { odds }) => sum + odds, 0)) };
}

function verdictOf(advice: Advice, file: Case): Result["verdict"] {
  const { decision, status, sure, open } = advice;
  const said = {
    status,
    odds: round3(decision.odds),
    says: headline(advice),
    sure: sure.map((partStanding) => partResult(partStanding, file)),
    open: open.map((partStanding) => partResult(partStanding, file)),
    ...(advice.later.length > 0 ? { later: advice.later } : {}),
  };
  const [surest] = [...sure, ...open];
  if (surest && surest.odds >= NAMED) {
    const parts = sure.map(({ part }) => part);
    const { part, fault, where } = partResult(surest, file);
    const known = advice.fault === fault ? (whereWords(advice, file.sheet) ?? where) : where;
    return { ...said, odds: round3(surest.odds), part, ...(parts.length > 1 ? { parts } : {}), fault, ...(known ? { where: known } : {}) };
  }
  if (status === "not-enough" || status === "contradiction") return said;
  if (status === "healthy") return { ...said, odds: noneOf(advice).odds, part: "none" };
  if (decision.set === "charge") return { ...said, part: "battery", fault: advice.fault && needsNoPart(advice.fault) ? advice.fault : "battery.discharged" };
  const parts = remediesOf(decision.set) as Part[];
  const [first] = [...parts].sort((a, b) => oddsFor(advice, b) - oddsFor(advice, a));
  if (!first) return { ...said, odds: noneOf(advice).odds, part: "none" };
  const fault = advice.fault;
  const where = whereWords(advice, file.sheet);
  return {
    ...said,
    part: fault ? faultOf(fault).part : first,
    ...(parts.length > 1 ? { parts } : {}),
    ...(fault ? { fault } : {}),
    ...(where ? { where } : {}),
  };
}

function partResult({ part, odds, fault, places }: PartStanding, { sheet }: Case): PartResult {
  const where = whereWords({ fault, places, along: undefined }, sheet);
  return { part, odds: round3(odds), fault, ...(where ? { where } : {}) };
}

function oddsFor(advice: Advice, part: Part): number {
  return advice.parts.find(({ what }) => what === part)?.odds ?? 0;
}

/** The readings that speak most against a part, the strongest first. */
function against(part: Part, pushes: ReadonlyMap<number, Push>): number[] {
  return [...pushes]
    .filter(([, push]) => (push[part] ?? 0) < 0)
    .sort((a, b) => (a[1][part] ?? 0) - (b[1][part] ?? 0))
    .slice(0, 3)
    .map(([reading]) => reading);
}

const round3 = (value: number): number => Number(value.toFixed(3));

function readingResult(judgedReading: JudgedReading, push: Push | undefined, odd: string | undefined): Result["readings"][number] {
  const { reading, band, corrections } = judgedReading;
  const limits = band?.kind === "between" ? [band.low ?? null, band.high ?? null] : band?.kind === "open" ? ("open" as const) : undefined;
  return {
    test: reading.test,
    ...(reading.at ? { at: reading.at } : {}),
    judged: judgedReading.judged,
    value: judgedReading.value,
    ...(limits ? { band: limits } : {}),
    bandFrom: band?.from ?? "none",
    ...(band ? { bandSays: band.says } : {}),
    ...(corrections.length > 0 ? { corrections } : {}),
    ...(odd ? { odd } : {}),
    ...(push && Object.keys(push).length > 0 ? { push } : {}),
  };
}
