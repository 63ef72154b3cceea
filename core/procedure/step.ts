import type { Part } from "../machine/part";
import type { Point } from "../machine/points";
import type { Leg, Sheet } from "../machine/sheet";
import type { ReadingValue } from "../units";
import { CATALOGUE, type Loads, type Test, type TestId, testOf } from "./catalogue";

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
  hot?: boolean | undefined;
  /** The battery had been charged fully since the machine came in. */
  charged?: boolean | undefined;
  restHours?: number | undefined;
  amps?: number | undefined;
  /** What the probe or clamp touched at the battery; left out where the test's usual one was. */
  touched?: Touched | undefined;
  note?: string | undefined;
  takenAt?: string | undefined;
  afterRepair?: boolean | undefined;
  /** The parts that had been mended by then, where that is known. */
  mended?: readonly Part[] | undefined;
}

/** The legs in pairs, in the order 1-2, 2-3, 3-1. */
export function pairsOf(legs: readonly Pick<Leg, "id">[]): string[] {
  if (legs.length < 2) return [];
  if (legs.length === 2) return [`${legs[0]?.id}-${legs[1]?.id}`];
  return legs.map((leg, i) => `${leg.id}-${legs[(i + 1) % legs.length]?.id}`);
}

/** The diode directions, `red>black`: every leg against both rails both ways, then rail to rail. */
export function diodesOf(legs: readonly Pick<Leg, "id">[]): string[] {
  const each = (name: (leg: string) => string) => legs.map((leg) => name(leg.id));
  return [...each((l) => `${l}>B+`), ...each((l) => `B+>${l}`), ...each((l) => `B->${l}`), ...each((l) => `${l}>B-`), "B->B+", "B+>B-"];
}

/** The two ends of a directed diode point. */
export function diodeEnds(at: string): { red: string; black: string } {
  const [red = "", black = ""] = at.split(">");
  return { red, black };
}

/** The points at which a test is taken on this machine; `[undefined]` where it has just one. */
export function pointsOf(test: Test, sheet: Pick<Sheet, "legs" | "fuses">): (string | undefined)[] {
  switch (test.points) {
    case "leg":
      return sheet.legs.map((leg) => leg.id);
    case "pair":
      return pairsOf(sheet.legs);
    case "diode":
      return diodesOf(sheet.legs);
    case "fuse":
      return sheet.fuses.map((fuse) => fuse.id);
    case "place":
      return [...(test.places ?? [])];
    default:
      return [undefined];
  }
}

/** Every step of a test on this machine: its runs, and at each run its points. */
export function stepsOf(test: Test, sheet: Pick<Sheet, "legs" | "fuses" | "testRpm">): Step[] {
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
  const test = CATALOGUE.find((one) => one.id === id);
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
  if (testOf(step.test).points !== "pair" || !step.at) return step.at ?? "";
  return step.at.split("-").sort().join("-");
}

/** The step's title with its legs, fuse or place filled in, and its speed and loads behind it. */
export function stepTitle(step: Step): string {
  const test = testOf(step.test);
  const title = capital(fill(test.title, step).replace("{place}", step.at ?? ""));
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
  if (test.points === "diode" && step.at) {
    const { red, black } = diodeEnds(step.at);
    return { red: diodePoint(red), black: diodePoint(black) };
  }
  if (!test.red || !test.black) return undefined;
  return { red: fill(test.red, step) as Point, black: fill(test.black, step) as Point };
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
