import { loadLimit } from "../battery/figures";
import { newMilliohms } from "../battery/model";
import { RATINGS, type Rating, saeAmps } from "../battery/ratings";
import type { FamilyBand, UnitPlan } from "../machine/families/family";
import { samePoint } from "../machine/families/family";
import { familyOf } from "../machine/families/registry";
import type { Sheet, SheetBand } from "../machine/sheet";
import { type TestId, testOf } from "./catalogue";
import { COMMON_BANDS, RISE, type School, type SchoolBand } from "./schools";
import { diodeEnds, type Step } from "./step";

/**
 * A band: what a healthy machine shows at one step, and where that figure comes from.
 * `between` has a low limit, a high limit or both; `open` means no path at all.
 */
export type Band =
  | { kind: "between"; low?: number; high?: number; from: "sheet" | "school"; says: string }
  | { kind: "open"; from: "sheet" | "school"; says: string }
  | { kind: "words"; good: readonly string[]; from: "school"; says: string };

/** Above this many ohms a path to the case counts as open: moisture and fingers show less. */
export const OPEN_OHMS = 1e6;

/** Where the idle rpm lies, a sheet band at test rpm says nothing about charging: many machines charge only above it. */
const IDLE_SAYS = "at idle many machines do not charge yet; only the ceiling counts";

/** Volts lost on the way out where an isolator's diode stands in it. */
const ISOLATED = { low: 0.4, high: 1.2 } as const;

/** Volts of a sound lead cell at rest. */
const CELL = { low: 2.05, high: 2.2 } as const;

/** How far below a plain diode a transistor's body diode may read, V. */
const BODY_DIODE_LOWER = 0.1;

/** Words that are a clean bill for the tests answered in words. */
const GOOD_WORDS: Record<string, readonly string[]> = {
  "inspect.terminals": ["tight"],
  "inspect.connector": ["clean"],
  "inspect.ground": ["sound"],
  "inspect.fluid": ["ok"],
  "rotor.pull": ["even"],
  "inspect.tach": ["steady"],
  "swap.unit": ["same"],
  "inspect.belt": ["ok"],
  "inspect.brushes": ["ok"],
  "generator.motoring": ["turns"],
  "regulator.feedLamp": ["bright"],
  "regulator.groundLamp": ["bright"],
};

/**
 * The band for a step. The sheet's own figure wins; the school fills what the sheet leaves out; volts of a school
 * are scaled to the system by cell count; AC figures are scaled with rpm (unloaded EMF of a permanent-magnet machine is
 * proportional to speed).
 * @param restVolts this machine's own rest volts, for schools that judge by the rise
 * @param celsius air temperature, for the battery's load test
 */
export function bandFor(step: Step, sheet: Sheet, school: School, restVolts?: number, celsius?: number): Band | undefined {
  const test = testOf(step.test);
  const good = GOOD_WORDS[step.test];
  if (good) return { kind: "words", good, from: "school", says: good.join(" or ") };
  if (step.test === "stator.toGround") return { kind: "open", from: "school", says: "any path to case is a fault" };
  if (step.test === "stator.diode" && step.at) {
    return step.at.startsWith("G>")
      ? bandFor({ test: "regulator.diode", at: "B->1" }, sheet, school)
      : { kind: "open", from: "school", says: "blocks this way" };
  }
  if (step.test === "regulator.diode" && step.at) {
    const expected = diodeExpectation(step.at, familyOf(sheet.family).unit);
    if (expected === "open") return { kind: "open", from: "school", says: "blocks this way" };
    if (expected === "switched") return { kind: "open", from: "school", says: "a series unit's upper half blocks both ways until it runs" };
    if (expected === "rails")
      return {
        kind: "between",
        low: 0.5,
        high: 1.3,
        from: "school",
        says: "two diodes, three legs in parallel; cannot show one open diode",
      };
  }
  if (step.test === "battery.cell") return { kind: "between", ...CELL, from: "school", says: "common practice: 2.05 to 2.2 V a cell at rest" };
  if (step.test === "drain.connectorParted") return bandFor({ test: "drain.current" }, sheet, school);
  const own = sheetBand(step, sheet);
  if (own) return own;
  if (step.test === "charge.positiveDrop" && sheet.isolator === "diode")
    return { kind: "between", ...ISOLATED, from: "school", says: "common practice: an isolator's diode keeps 0.6 to 0.9 V of it" };
  if (test.id === "charge.volts" && school.chargingBy === "rise" && step.rpm !== "idle" && restVolts !== undefined) {
    const cells = sheet.systemVolts / 12;
    const least = (step.loads === "all" ? RISE.loaded : RISE.low) * cells;
    return {
      kind: "between",
      low: round2(restVolts + least),
      high: round2(restVolts + RISE.high * cells),
      from: "school",
      says: `school ${school.title}: ${least} to ${RISE.high * cells} V over the ${restVolts.toFixed(2)} V rest`,
    };
  }
  // What machines of the family show goes before what a school says of machines in general.
  const rules: readonly Rule[] = [...familyOf(sheet.family).bands, ...school.bands, ...COMMON_BANDS];
  const rated = ratedBand(step, sheet, school);
  if (rated) return rated;
  const line = rules.find((band) => isFor(band, step) && (!band.chemistry || band.chemistry.includes(sheet.battery.chemistry)));
  if (step.test === "battery.load" && celsius !== undefined && sheet.battery.chemistry !== "lithium-iron") {
    const low = round2(loadLimit(celsius, sheet.systemVolts));
    return { kind: "between", low, from: "school", says: `common practice: ${low.toFixed(2)} V after 15 s at ${celsius} °C` };
  }
  return line && schoolBand(line, step, sheet, school);
}

/** Share of its rating that a battery is to have left, and what a sound starter takes of it at most. */
const OF_RATING = { battery: 0.7, starter: 0.6 } as const;

/** Bands that follow from the battery's own label: what testers show of it, and what its starter takes. None where nobody has read it. */
function ratedBand({ test, rating = "sae" }: Step & { rating?: Rating | undefined }, sheet: Sheet, school: School): Band | undefined {
  const { cca, ah, chemistry } = sheet.battery;
  // A tester that speaks in amps or milliohms is held to the same share as one that speaks in percent.
  const left = (school.bands.find(({ test: id }) => id === "battery.conductance")?.low ?? 100 * OF_RATING.battery) / 100;
  const between = (limit: { low: number } | { high: number }, says: string): Band => ({
    kind: "between",
    ...limit,
    from: "school",
    says: `common practice: ${says}`,
  });
  if (test === "battery.crankingAmps" && cca !== undefined)
    return between(
      { low: Math.round((left * cca) / saeAmps(1, rating)) },
      `${Math.round(100 * left)} % of the label's ${cca} A${rating === "sae" ? "" : `, told in ${RATINGS[rating]}`}`,
    );
  if (test === "battery.innerOhms" && ah !== undefined && chemistry !== "capacitor")
    return between(
      { high: round2(newMilliohms(chemistry, ah, sheet.systemVolts) / left) },
      `what such a battery has when new, at ${Math.round(100 * left)} % of its rating`,
    );
  if (test === "starter.amps" && cca !== undefined) return between({ high: Math.round(OF_RATING.starter * cca) }, `no more than 60 % of the label's ${cca} A`);
  return undefined;
}

/** What a directed diode should do: pass, block, pass through two in a row (rail to rail), or block because it is a switch at rest. */
export function diodeExpectation(at: string, unit: UnitPlan | undefined): "pass" | "open" | "rails" | "switched" {
  const { red, black } = diodeEnds(at);
  if (unit?.upper === "thyristor" && black === "B+") return "switched";
  if (red === "B-" && black === "B+") return "rails";
  const pass = red === "B-" || black === "B+";
  return pass ? "pass" : "open";
}

type Rule = FamilyBand & Pick<SchoolBand, "chemistry">;

/** True for a band of the step's test, at its point where the band names one. */
function isFor(band: { test: string; at?: string | undefined }, { test, at }: Step): boolean {
  return band.test === test && (band.at === undefined || samePoint(band.at, at));
}

function sheetBand(step: Step, sheet: Sheet): Band | undefined {
  const test = testOf(step.test);
  const of = (id: TestId) => {
    const all = sheet.bands.filter((band) => isFor(band, { ...step, test: id }));
    const there = all.filter(({ at }) => at !== undefined);
    return there.length > 0 ? there : all;
  };
  const candidates = of(step.test === "stator.acVoltsAtUnit" && of(step.test).length === 0 ? "stator.acVolts" : step.test);
  const fitting = candidates.filter((band) => !band.loads || !step.loads || band.loads === step.loads);
  const best = fitting.sort((a, b) => rpmDistance(a, step, sheet) - rpmDistance(b, step, sheet))[0];
  if (!best) return undefined;
  const says = best.page ? `sheet p. ${best.page}` : "sheet";
  if (test.unit.startsWith("V") && test.group === "stator" && best.rpm) return scaled(best, rpmOf(step, sheet) / best.rpm, says);
  if (step.test === "charge.volts" && step.rpm === "idle" && rpmDistance(best, step, sheet) > 0.3) {
    return best.high === undefined ? undefined : { kind: "between", high: best.high, from: "sheet", says: `${says}; ${IDLE_SAYS}` };
  }
  return { kind: "between", ...limits(best.low, best.high), from: "sheet", says };
}

function schoolBand(band: Rule, step: Step, sheet: Sheet, school: School): Band {
  const name = school.bands.some((own) => own === band) ? `school ${school.title}` : "common practice";
  const says = `${name}: ${band.says}`;
  if (band.rpm) return { ...scaled(band, rpmOf(step, sheet) / band.rpm, says), from: "school" };
  const isSystemVolts = testOf(step.test).unit === "V" && step.test !== "regulator.diode" && band.low !== undefined;
  // A field for half the volts is wound for half the ohms.
  const isField = step.test === familyOf(sheet.family).field?.test;
  const cells = isSystemVolts || isField ? sheet.systemVolts / 12 : 1;
  const transistors = familyOf(sheet.family).unit?.lower === "transistor";
  if (step.test === "regulator.diode" && transistors)
    return {
      kind: "between",
      ...limits((band.low ?? 0) - BODY_DIODE_LOWER, band.high),
      from: "school",
      says: `${says}; body diodes read lower, judge the legs against each other`,
    };
  const { low, high } = limits(band.low, band.high, cells);
  if (step.test === "charge.volts" && step.rpm === "idle") {
    return { kind: "between", ...limits(undefined, high), from: "school", says: `${says}; ${IDLE_SAYS}` };
  }
  return { kind: "between", ...limits(low, high), from: "school", says };
}

function scaled(band: Pick<SheetBand, "low" | "high" | "rpm">, factor: number, says: string): Band & { kind: "between" } {
  const note = Math.abs(factor - 1) > 0.02 ? `${says}, scaled from ${band.rpm?.toLocaleString("en")} rpm` : says;
  return { kind: "between", ...limits(band.low, band.high, factor), from: "sheet", says: note };
}

function limits(low: number | undefined, high: number | undefined, factor = 1): { low?: number; high?: number } {
  return { ...(low === undefined ? {} : { low: round2(low * factor) }), ...(high === undefined ? {} : { high: round2(high * factor) }) };
}

/** The speed of a step in rpm; a step without one counts as taken at the sheet's test rpm. */
export function rpmOf(step: Step, sheet: Pick<Sheet, "idleRpm" | "testRpm">): number {
  return step.rpm === "idle" ? sheet.idleRpm : (step.rpm ?? sheet.testRpm);
}

function rpmDistance(band: SheetBand, step: Step, sheet: Sheet): number {
  if (band.rpm === undefined) return step.rpm === "idle" ? 1 : 0;
  return Math.abs(Math.log(rpmOf(step, sheet) / band.rpm));
}

function round2(value: number): number {
  return Number(value.toFixed(3));
}
