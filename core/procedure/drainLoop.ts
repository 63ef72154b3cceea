import { daysUntilFlat } from "../battery/figures";
import type { Sheet } from "../machine/sheet";
import { isNumber } from "../units";
import { testOf } from "./catalogue";
import { isBad, type JudgedReading } from "./judge";
import { answers, type Step, stepsOf } from "./step";

/** One thing taken out of the circuit while the meter is in series, and what that did to the drain. */
export interface Pull {
  step: Step;
  /** What is pulled: "The unit's plug", "Fuse F2, instruments". */
  what: string;
  reading: JudgedReading | undefined;
  /** What the drain fell by with it out, mA; undefined until both are read. */
  fell: number | undefined;
  /** The drain is within its limit with it out. */
  under: boolean;
}

/** The search for a drain as far as it has come. */
export interface DrainLadder {
  /** The drain with everything in, and whether it is too much. */
  base: JudgedReading | undefined;
  tooMuch: boolean;
  /** Days until it leaves too little to start; undefined while nothing is read or nobody knows the battery. */
  days: number | undefined;
  pulls: Pull[];
  /** The first pull that brought the drain within its limit: what draws hangs on it. */
  found: Pull | undefined;
  /** What is to be pulled next; undefined once it is found, or nothing is left to pull. */
  next: Pull | undefined;
}

/**
 * Lays the pulls out: the unit first, whose leaking diodes are the commonest cause, then fuse by fuse, then the connectors that were
 * parted. Each is put back before the next is pulled, so that what it changed is its own.
 * @param judged readings of the machine as it stands now
 */
export function drainLadder(sheet: Sheet, judged: readonly JudgedReading[]): DrainLadder {
  const latest = (step: Step): JudgedReading | undefined => judged.findLast(({ reading }) => answers(reading, step));
  const base = latest({ test: "drain.current" });
  const from = base && isNumber(base.value) ? base.value : undefined;
  const tooMuch = base !== undefined && isBad(base.judged);
  const pull = (step: Step, what: string): Pull => {
    const reading = latest(step);
    const to = reading && isNumber(reading.value) ? reading.value : undefined;
    return {
      step,
      what,
      reading,
      fell: from === undefined || to === undefined ? undefined : Number((from - to).toPrecision(6)),
      under: reading !== undefined && !isBad(reading.judged),
    };
  };
  const parted = [...new Set(judged.flatMap(({ reading }) => (reading.test === "drain.connectorParted" && reading.at ? [reading.at] : [])))];
  const pulls = [
    ...stepsOf(testOf("drain.unitUnplugged"), sheet).map((step) => pull(step, "The unit's plugs")),
    ...sheet.fuses.map(({ id, feeds }) => pull({ test: "drain.fusePulled", at: id }, `Fuse ${id}, ${feeds}`)),
    ...parted.map((at) => pull({ test: "drain.connectorParted", at }, `Connector ${at}`)),
  ];
  const found = tooMuch ? pulls.find(({ under }) => under) : undefined;
  return {
    base,
    tooMuch,
    days: from === undefined || sheet.battery.ah === undefined ? undefined : daysUntilFlat(from, sheet.battery.ah),
    pulls,
    found,
    next: tooMuch && !found ? pulls.find(({ reading }) => !reading) : undefined,
  };
}
