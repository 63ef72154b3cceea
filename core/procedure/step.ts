import type { Rating } from "../battery/ratings";
import { hasCapacitor } from "../machine/capacitor";
import { directionsOf, fieldWires, leadsOf } from "../machine/families/family";
import { familyOf, isBelted, isMirrored } from "../machine/families/registry";
import type { Part } from "../machine/part";
import type { Point } from "../machine/points";
import type { Sheet } from "../machine/sheet";
import type { ReadingValue } from "../units";
import { CATALOGUE, type Loads, type Test, type TestId, testOf } from "./catalogue";
import { isOfLoose } from "./loose";

/** Where, at what speed and under which loads one reading of a test is taken. */
export interface Step {
  test: TestId;
  /** A leg "1", a pair "1-2", a directed diode "1>B+", a fuse or a place. */
  at?: string | undefined;
  rpm?: number | "idle" | undefined;
  loads?: Loads | undefined;
}

/** The post's own lead, or the cable's lug on it: a bad post lies in between. */
export const TOUCHED = ["post", "lug"] as const;
export type Touched = (typeof TOUCHED)[number];

/** One kept reading: a step with what the meter showed. */
export interface Reading extends Step {
  id: string;
  value: ReadingValue;
  /** True while the lead zero is still in the value. */
  raw?: boolean | undefined;
  /** The lead zero at the time; absent means the meter's own. */
  leadOhms?: number | undefined;
  /** Last digit on ohms of the meter it was read on, Ω; absent means the job's meter. */
  ohmsResolution?: number | undefined;
  /** Read on the second meter: what the first one has off says nothing of it. */
  secondMeter?: boolean | undefined;
  hot?: boolean | undefined;
  /** The battery had been charged fully since the machine came in. */
  charged?: boolean | undefined;
  restHours?: number | undefined;
  amps?: number | undefined;
  /**
   * How far the figure swung to and fro over some ten seconds at one speed, highest minus lowest; of a crank's lowest that was caught whole,
   * how far its first pull went below the lowest once it turned.
   */
  swing?: number | undefined;
  /** The standard of a tester's cranking amps; SAE where it is not said. */
  rating?: Rating | undefined;
  /** What the probe or clamp touched at the battery; left out where the test's usual one was. */
  touched?: Touched | undefined;
  note?: string | undefined;
  takenAt?: string | undefined;
  afterRepair?: boolean | undefined;
  /** The parts that had been mended by then, where that is known. */
  mended?: readonly Part[] | undefined;
}

/** A crank's lowest without its first pull, where that was caught: what the engine turned at, as a slow meter's hold would have it, V. */
export const turningVolts = (value: number, { test, swing }: Pick<Reading, "test" | "swing">): number =>
  test === "battery.crank" && swing !== undefined ? Number((value + swing).toFixed(4)) : value;

/** What of a sheet says at which points its tests are taken. */
type Pointed = Pick<Sheet, "family" | "legs" | "fuses" | "systemVolts" | "tach">;

/** Cells of a lead battery. */
export function cellsOf({ systemVolts }: Pick<Sheet, "systemVolts">): number {
  return systemVolts / 2;
}

/** Between which wires the windings of a machine are read. */
export function pairsOf(sheet: Pick<Sheet, "family" | "legs">): string[] {
  return familyOf(sheet.family).pairs(leadsOf(sheet));
}

/** Where the AC volts of a machine's windings are read. */
export function acPairsOf(sheet: Pick<Sheet, "family" | "legs">): string[] {
  return familyOf(sheet.family).acPairs(leadsOf(sheet));
}

/** The diode directions of a machine's unit, `red>black`. */
export function diodesOf(sheet: Pick<Sheet, "family" | "legs">): string[] {
  return directionsOf(familyOf(sheet.family), leadsOf(sheet));
}

/** The two ends of a directed diode point. */
export function diodeEnds(at: string): { red: string; black: string } {
  const [red = "", black = ""] = at.split(">");
  return { red, black };
}

/** The points at which a test is taken on this machine; `[undefined]` where it has just one. */
export function pointsOf(test: Test, sheet: Pointed): (string | undefined)[] {
  switch (test.points) {
    case "leg":
      return sheet.legs.map((leg) => leg.id);
    case "carrying": {
      const field = fieldWires(familyOf(sheet.family));
      return leadsOf(sheet).filter((lead) => !field.includes(lead));
    }
    case "acPair":
      return acPairsOf(sheet);
    case "innerLead":
      return familyOf(sheet.family).innerDiodes(leadsOf(sheet));
    case "innerDiode":
      return familyOf(sheet.family)
        .innerDiodes(leadsOf(sheet))
        .flatMap((lead) => [`G>${lead}`, `${lead}>G`]);
    case "tach":
      return sheet.tach === undefined ? [] : [sheet.tach];
    case "floating":
      return familyOf(sheet.family).floating(leadsOf(sheet));
    case "pair":
      return pairsOf(sheet);
    case "diode":
      return diodesOf(sheet);
    case "cell":
      return Array.from({ length: cellsOf(sheet) }, (_, k) => `${k + 1}`);
    case "fuse":
      return sheet.fuses.map((fuse) => fuse.id);
    case "place":
      return [...(test.places ?? [])];
    case "named":
      return [];
    default:
      return [undefined];
  }
}

/** What of a sheet says which tests can be taken. */
export type Takes = Pick<Sheet, "family" | "drive" | "isolator" | "loose" | "battery" | "tach">;

/** Whether a test can be taken on this machine at all. */
export function isTaken({ id, needs }: Pick<Test, "id" | "needs">, sheet: Takes): boolean {
  if (sheet.loose && !isOfLoose({ id }, sheet.loose)) return false;
  const { untested, field, turning, unit } = familyOf(sheet.family);
  const battery = !hasCapacitor(sheet);
  const has = {
    field: field !== undefined,
    "ring-field": field?.part === "rotor",
    armature: turning !== undefined,
    belt: isBelted(sheet),
    unit: !unit?.inLead,
    battery,
    caps: sheet.battery.chemistry === "flooded",
    tach: sheet.tach !== undefined,
    // A diode keeps the battery off the unit at rest: no volts there are as it should be.
    feed: battery && !unit?.inLead && sheet.isolator !== "diode",
  };
  return !untested.includes(id) && (!needs || has[needs]);
}

/** Every step of a test on this machine: its runs, and at each run its points; none where it cannot be taken. */
export function stepsOf(test: Test, sheet: Pointed & Takes & Pick<Sheet, "testRpm">): Step[] {
  if (!isTaken(test, sheet)) return [];
  const runs = test.runs ?? [undefined];
  return runs.flatMap((run) =>
    pointsOf(test, sheet).map((at) => ({
      test: test.id as TestId,
      ...(at === undefined ? {} : { at }),
      ...(run ? { rpm: run.rpm === "idle" ? ("idle" as const) : sheet.testRpm } : {}),
      ...(run?.loads ? { loads: run.loads } : {}),
    })),
  );
}

/** A short name for a step that can stand in an address: `stator.acVolts~1-2~5000`, `charge.volts~~idle~normal`. */
export function stepKey(step: Step): string {
  return [step.test, step.at ?? "", step.rpm ?? "", step.loads ?? ""].join("~").replace(/~+$/, "");
}

/** Reads a step's short name back; undefined when it names no test. */
export function stepFromKey(key: string): Step | undefined {
  const [id = "", at, rpm, loads] = key.split("~");
  const test = CATALOGUE.find((row) => row.id === id);
  if (!test) return undefined;
  const speed = rpm === "idle" ? "idle" : Number(rpm);
  return {
    test: test.id,
    ...(at ? { at } : {}),
    ...(rpm && (speed === "idle" || Number.isFinite(speed)) ? { rpm: speed } : {}),
    ...(loads === "off" || loads === "normal" || loads === "all" ? { loads } : {}),
  };
}

/** How far a reading's rpm may lie from a step's and still be that step, as a fraction. */
const RPM_TOLERANCE = 0.2;

/**
 * True when a reading answers a step: same test, point and loads, and a speed near enough.
 * A reading without loads is taken for normal loads.
 */
export function answers(reading: Step, step: Step): boolean {
  if (reading.test !== step.test || pointAlias(reading) !== pointAlias(step)) return false;
  if (step.loads && (reading.loads ?? "normal") !== step.loads) return false;
  if (step.rpm === undefined || reading.rpm === undefined) return step.rpm === reading.rpm;
  if (step.rpm === "idle" || reading.rpm === "idle") return step.rpm === reading.rpm;
  return Math.abs(reading.rpm - step.rpm) <= RPM_TOLERANCE * step.rpm;
}

/** A pair read either way round is the same pair. */
function pointAlias(step: Step): string {
  if (!isPaired(testOf(step.test)) || !step.at) return step.at ?? "";
  return step.at.split("-").sort().join("-");
}

/** The step's title with its legs, fuse or place filled in, and its speed and loads behind it. */
export function stepTitle(step: Step): string {
  const test = testOf(step.test);
  const title = capital(
    fill(isGrounded(step) ? test.title.replace("Pair {a}–{b}", "Wire {a} to engine,") : test.title, step).replace(/\{place\}|\{cell\}/, step.at ?? ""),
  );
  const run = runWords(step);
  return run ? `${title}, ${run}` : title;
}

/** A step's speed and loads in words: "idle", "5,000 rpm, all loads"; empty where it has neither. */
export function runWords(step: Step): string {
  const speed = step.rpm === "idle" ? "idle" : step.rpm ? `${step.rpm.toLocaleString("en")} rpm` : "";
  const loads = step.loads === "all" ? "all loads" : step.loads === "off" ? "loads off" : "";
  return [speed, loads].filter(Boolean).join(", ");
}

/** A test's title without any one leg, fuse or place: "Pair ohms", "Leg to engine case". */
export function testTitle(test: Pick<Test, "title">): string {
  return capital(test.title.replace(/\s*\{\w+\}(?:(?:–| to )\{\w+\})?/g, "").trim());
}

/** Where red and black go for a step; undefined for tests without probes. */
export function probesOf(step: Step): { red: Point; black: Point } | undefined {
  const test = testOf(step.test);
  if (step.at?.includes(">")) {
    const { red, black } = diodeEnds(step.at);
    const point = test.points === "innerDiode" ? innerPoint : diodePoint;
    return { red: point(red), black: point(black) };
  }
  if (!test.red || !test.black) return undefined;
  // A winding with one end on the engine is read against it.
  const black = isGrounded(step) ? "engine" : test.black;
  return { red: fill(test.red, step) as Point, black: fill(black, step) as Point };
}

/** Where red and black go on this machine: where every pole is turned round, so are the probes, and the figure keeps its sign. */
export function probesAt(step: Step, sheet: Pick<Sheet, "family" | "earth" | "legs">): { red: Point; black: Point } | undefined {
  const probes = probesOf(step);
  return probes && isMirrored(sheet) ? { red: probes.black, black: probes.red } : probes;
}

/** Whether a test is read on windings, where either probe may be on either wire. */
export const isPaired = ({ points }: Pick<Test, "points">): boolean => points === "pair" || points === "acPair";

/** True for a step on a winding that has one end on the engine: its point is one wire. */
function isGrounded(step: Step): boolean {
  return isPaired(testOf(step.test)) && step.at?.includes("-") === false;
}

/** An end of a diode built into a lead: the lead's own pin, or the engine. */
function innerPoint(end: string): Point {
  return end === "G" ? "engine" : `leg:${end}`;
}

function diodePoint(end: string): Point {
  return end === "B+" || end === "B-" ? end : `unitLeg:${end}`;
}

function fill(pattern: string, step: Step): string {
  const at = step.at ?? "";
  const [a = at, b = ""] = at.split("-");
  const { red, black } = diodeEnds(at);
  return pattern.replace("{a}", a).replace("{b}", b).replace("{fuse}", at).replace("{red}", red).replace("{black}", black);
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
