import type { TestId } from "../../procedure/catalogue";
import { stepKey } from "../../procedure/step";
import type { Column } from "../population/column";
import { type Ailing, gaugeOf, isHeld, misreadRange, modelVariance } from "../population/gauges";
import { isOfBattery, type Look } from "../population/look";
import { isDrainedOff } from "./drained";
import type { Observation } from "./posterior";
import { ALIKE, DRAINED, METER, MISREAD, MISREAD_HIGH, SPOILT, UNEVEN } from "./slips";

/** Something that would explain figures of one visit together: which they are among the active ones, how likely it is, and what it does. */
export interface Event {
  /** Index of the visit among those of the readings; −1 for what no single visit has. */
  visit: number;
  members: readonly number[];
  /** Logarithm of its probability. */
  prior: number;
  /** Standard deviation of an error that all members share, and the logarithm of its share among such events. */
  common: number;
  shared: number;
  /** Where each member has an error of its own rather than none or any: its standard deviation, 0 otherwise. */
  each: number;
  /** Whether its figures may also say nothing at all, rather than share one error. */
  alone: boolean;
  /** Which machines have it: all, all but those with nothing the matter, not even flat, or those whose coils are burnt everywhere. */
  machines: "all" | "ailing" | "burnt";
}

/** Which visits observations belong to, and what else may have several of them off together. */
interface Visits {
  /** The visit of each observation, where it has more than one reading; −1 otherwise. */
  of: Int32Array;
  /** What stands for the meter among the visits. */
  meter: number;
  /** Whether the battery came in drained past empty. */
  drained: boolean;
}

/** What groups whose figures are the same readings have in common, whichever cell they are of. */
export class Frame {
  readonly n: number;
  /** Which observations are figures, in the order of the sums, and their columns. */
  readonly active: readonly number[];
  readonly columns: readonly Column[];
  /** Variance of each reading's own noise, and of its prediction by what ails the generator. */
  readonly noise: Float64Array;
  readonly models: Readonly<Record<Ailing, Float64Array>>;
  /** For each figure those before it and itself that repeat it: what a prediction is off by, it is off by at every repeat. */
  readonly repeats: readonly (readonly number[])[];
  /** Unloaded AC, which sound coils give alike. */
  readonly ofCoils: readonly boolean[];
  /** Logarithm of the density of a reading that could be anything, and of that with a misread's odds, below and above what is predicted. */
  readonly broad: Float64Array;
  readonly outside: Readonly<Record<"low" | "high", Float64Array>>;
  readonly events: readonly Event[];
  /** For volts at a unit's output, the figure of the battery's volts in the same run, and the reverse; −1 where there is none. */
  readonly batteryOf: Int32Array;
  readonly outputOf: Int32Array;
  /** For the battery's volts: how far those at the output read above them, V. */
  readonly readBetween: Float64Array;
  /** For each figure that a unit may hold: the others of the same test at the same speed and loads, read again, hot, or after a charge. */
  readonly again: readonly (readonly number[])[];

  constructor(active: readonly number[], observations: readonly Observation[], columns: readonly Column[], visits: Visits) {
    const read = active.map((j) => observations[j] as Observation);
    this.n = active.length;
    this.active = active;
    this.columns = active.map((j) => columns[j] as Column);
    this.noise = Float64Array.from(read, ({ noise }) => noise ** 2);
    const models = (ailing: Ailing): Float64Array => Float64Array.from(read, ({ look }) => modelVariance(look.step, ailing));
    this.models = { no: models("no"), generator: models("generator"), coils: models("coils"), burnt: models("burnt"), runaway: models("runaway") };
    this.repeats = read.map(({ look }, a) => read.slice(0, a + 1).flatMap((other, b) => (isRepeat(other.look, look) ? [b] : [])));
    this.broad = Float64Array.from(read, ({ look, at }) => -Math.log(misreadRange(look.step.test, at)));
    this.ofCoils = read.map(({ look }) => isOfCoils(look.step.test));
    const outside = (share: number): Float64Array =>
      this.broad.map((broad, a) => {
        const twice = this.ofCoils[a] ? 2 * share : 1;
        return Math.log((twice * MISREAD) / (1 - MISREAD)) + broad;
      });
    this.outside = { low: outside(1 - MISREAD_HIGH), high: outside(MISREAD_HIGH) };
    this.batteryOf = Int32Array.from(read, ({ look }) =>
      look.step.test === "charge.outputVolts" ? read.findLastIndex((other) => isBatteryThen(other.look, look)) : -1,
    );
    this.outputOf = Int32Array.from(read, (_, a) => this.batteryOf.lastIndexOf(a));
    this.readBetween = Float64Array.from(this.outputOf, (output, a) => (read[output]?.at ?? 0) - (read[a] as Observation).at);
    this.again = read.map(({ look }, a) => read.flatMap((other, b) => (b !== a && isHeld(look.step.test) && isSameRun(other.look, look) ? [b] : [])));
    this.events = eventsOf(
      read,
      active.map((j) => visits.of[j] as number),
      visits,
    );
  }
}

/** True for the volts of coils that nothing loads. */
const isOfCoils = (test: TestId): boolean => test.startsWith("stator.ac");

/** True for the same reading taken again; of what does not hang on the battery a charge between the two makes no new one. */
function isRepeat(look: Look, other: Look): boolean {
  if (look.key === other.key) return true;
  return (
    look.step.test === other.step.test &&
    !isOfBattery(look.step.test) &&
    stepKey(look.step) === stepKey(other.step) &&
    look.hot === other.hot &&
    look.mended.join() === other.mended.join()
  );
}

/** True for one test at one speed, with one load, on one machine: cold or hot, before a charge or after it. */
function isSameRun({ step, mended }: Look, other: Look): boolean {
  return stepKey(step) === stepKey(other.step) && mended.join() === other.mended.join();
}

/** True for the battery's volts while the unit's output was read: one speed, one load, one machine. */
function isBatteryThen({ step, hot, charged, mended }: Look, output: Look): boolean {
  return (
    step.test === "charge.volts" &&
    step.rpm === output.step.rpm &&
    step.loads === output.step.loads &&
    hot === output.hot &&
    charged === output.charged &&
    mended.join() === output.mended.join()
  );
}

/** Volts at rest and under way: a meter that reads wrong is off on both. */
const STILL: readonly TestId[] = ["battery.rest", "battery.settled", "battery.crank", "battery.load", "regulator.feed"];
const RUNNING: readonly TestId[] = ["charge.volts", "charge.outputVolts"];

/** True for the volts by which a meter that reads wrong is found out. */
export function isMeterVolts(test: TestId): boolean {
  return STILL.includes(test) || RUNNING.includes(test);
}

/**
 * What could explain several figures at once: each visit with more than one, the volts of a running machine, all volts of a meter that
 * reads wrong, a battery drained past empty, and coils that are burnt each for itself.
 */
function eventsOf(read: readonly Observation[], visits: readonly number[], { meter, drained }: Visits): Event[] {
  const usual = { visit: -1, shared: 1, each: 0, alone: false, machines: "all" } as const;
  const events: Event[] = [];
  for (const visit of new Set(visits)) {
    if (visit < 0) continue;
    const members = visits.flatMap((other, a) => (other === visit ? [a] : []));
    const { range } = gaugeOf((read[members[0] as number] as Observation).look.step.test);
    events.push({ ...usual, visit, members, prior: Math.log(SPOILT.often), common: 0.5 * range, shared: SPOILT.shared, alone: true });
  }
  const among = (tests: readonly TestId[]): number[] => read.flatMap(({ look: { step } }, a) => (tests.includes(step.test) ? [a] : []));
  const [still, running] = [among(STILL), among(RUNNING)];
  if (running.length > 1) events.push({ ...usual, members: running, prior: Math.log(ALIKE.often), common: ALIKE.volts });
  const flat = drained ? read.flatMap((observation, a) => (isDrainedOff(observation) ? [a] : [])) : [];
  if (flat.length > 0)
    events.push({ ...usual, members: flat, prior: Math.log(DRAINED.often), common: DRAINED.volts, shared: DRAINED.shared, alone: true, machines: "ailing" });
  const onFirst = [...still, ...running].filter((a) => !(read[a] as Observation).second);
  if (onFirst.some((a) => still.includes(a)) && onFirst.some((a) => running.includes(a)))
    events.push({ ...usual, visit: meter, members: onFirst, prior: Math.log(METER.often), common: METER.volts });
  const coils = read.flatMap(({ look: { step } }, a) => (isOfCoils(step.test) ? [a] : []));
  const uneven = Math.log(UNEVEN.often / (1 - UNEVEN.often));
  if (coils.length > 1) events.push({ ...usual, members: coils, prior: uneven, common: 0, shared: 0, each: UNEVEN.each, alone: true, machines: "burnt" });
  return events;
}
