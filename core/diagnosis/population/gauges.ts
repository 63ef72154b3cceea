import { type TestId, testOf } from "../../procedure/catalogue";
import type { Step } from "../../procedure/step";
import { falsePosition } from "./falsePosition";
import type { Spread } from "./nuisance";

/** The scale on which a test's readings are compared: where errors are alike over the whole range. */
type Scale = "plain" | "log" | "decades" | "signed" | "lacking";

interface Gauge {
  scale: Scale;
  /** Added before a logarithm is taken, so that nothing is not minus infinity. */
  floor?: number;
  /** Standard deviations on the scale: of the prediction (shared by repeats of a reading), and of a reading. */
  model: number;
  noise: number;
  /** Width of the scale over which a misread could fall. */
  range: number;
  /** The spreads that move it. */
  moved: readonly Spread[];
  /** From here on a figure means the open line: what creeps across a break, Ω. */
  opens?: number;
}

/** Copper and contacts read ohms; megohms there are damp. */
const OPENS = 1e6;

const CHARGE: readonly Spread[] = [
  "emf",
  "output",
  "henries",
  "setVolts",
  "droop",
  "loads",
  "unlit",
  "switched",
  "batteryOhms",
  "steepness",
  "capacity",
  "wires",
  "rating",
  "openVolts",
  "charge",
  "refused",
  "volts",
  "rpmCharge",
  "rpmChargeIdle",
  "severity",
  "severity2",
];
const STORED: readonly Spread[] = ["openVolts", "charge", "refused", "batteryOhms", "capacity", "rating", "volts", "severity", "severity2"];
const WINDING: readonly Spread[] = ["ohms", "ohmsOther", "rating", "lead", "leadCold", "leadHot", "severity"];
const DRAIN: readonly Spread[] = ["draw", "back", "severity", "severity2"];
const AC: readonly Spread[] = ["emf", "emfOther", "ac", "stray", "rpmAc", "rpmAcIdle", "rpmUnit", "severity"];

/** How closely each test is predicted and read; volts on 12 V. */
const GAUGES: Partial<Record<TestId, Gauge>> = {
  "battery.rest": { scale: "plain", model: 0.05, noise: 0.03, range: 6, moved: STORED },
  "battery.settled": { scale: "plain", model: 0.2, noise: 0.05, range: 6, moved: [...STORED, "loads"] },
  "battery.crank": { scale: "plain", model: 0.35, noise: 0.15, range: 10, moved: [...STORED, "crank"] },
  "battery.recovery": { scale: "plain", model: 0.15, noise: 0.05, range: 6, moved: STORED },
  "battery.firstPull": { scale: "plain", model: 0.4, noise: 0.15, range: 10, moved: [...STORED, "crank", "cable"] },
  "battery.postDrop": {
    scale: "log",
    floor: 0.05,
    model: 0.4,
    noise: 0.12,
    range: 4.5,
    moved: ["crank", "capacity", "rating", "volts", "severity", "severity2"],
  },
  "battery.load": { scale: "plain", model: 0.3, noise: 0.12, range: 10, moved: [...STORED, "pile"] },
  "battery.cell": { scale: "lacking", floor: 0.05, model: 0.6, noise: 0.25, range: 4, moved: STORED },
  "battery.conductance": { scale: "log", floor: 5, model: 0.07, noise: 0.05, range: 3.3, moved: [...STORED, "tester"] },
  "battery.crankingAmps": { scale: "log", floor: 8, model: 0.09, noise: 0.05, range: 3.3, moved: [...STORED, "tester"] },
  "battery.innerOhms": { scale: "log", floor: 0.5, model: 0.15, noise: 0.05, range: 5, moved: [...STORED, "tester"] },
  "starter.amps": { scale: "log", floor: 3, model: 0.12, noise: 0.05, range: 3.3, moved: [...STORED, "crank"] },
  "starter.cableDrop": {
    scale: "log",
    floor: 0.05,
    model: 0.12,
    noise: 0.07,
    range: 4.5,
    moved: ["crank", "cable", "capacity", "rating", "volts", "severity", "severity2"],
  },
  "charge.volts": { scale: "plain", model: 0.1, noise: 0.06, range: 8, moved: CHARGE },
  "charge.outputVolts": { scale: "plain", model: 0.12, noise: 0.06, range: 10, moved: [...CHARGE, "floating"] },
  "charge.positiveDrop": { scale: "plain", model: 0.06, noise: 0.03, range: 6, moved: [...CHARGE, "floating"] },
  "charge.groundDrop": { scale: "plain", model: 0.05, noise: 0.03, range: 6, moved: CHARGE },
  "charge.ripple": {
    scale: "log",
    floor: 0.05,
    model: 0.6,
    noise: 0.2,
    range: 5,
    moved: ["emf", "henries", "loads", "batteryOhms", "capacity", "rating", "severity", "severity2"],
  },
  "charge.current": { scale: "plain", model: 1.3, noise: 0.6, range: 50, moved: [...CHARGE, "clamp"] },
  "stator.resistance": { scale: "plain", model: 0.012, noise: 0.02, range: 3, opens: OPENS, moved: WINDING },
  "stator.toGround": { scale: "decades", floor: 0.05, model: 0.18, noise: 0.2, range: 8, opens: OPENS, moved: ["lead", "leadCold", "severity"] },
  "stator.acVolts": { scale: "log", floor: 1, model: 0.03, noise: 0.025, range: 4, moved: AC },
  "stator.acVoltsAtUnit": { scale: "log", floor: 1, model: 0.03, noise: 0.025, range: 4, moved: AC },
  "stator.dcVolts": { scale: "log", floor: 1, model: 0.05, noise: 0.03, range: 4, moved: AC },
  "stator.diode": { scale: "plain", model: 0.03, noise: 0.015, range: 2.5, moved: ["junction"] },
  "stator.legDrop": { scale: "log", floor: 0.1, model: 0.35, noise: 0.1, range: 5, moved: ["emf", "henries", "rating", "legWires", "severity", "severity2"] },
  "regulator.diode": { scale: "plain", model: 0.03, noise: 0.015, range: 2.5, moved: ["junction", "severity", "severity2"] },
  "regulator.feed": { scale: "plain", model: 0.2, noise: 0.06, range: 14, moved: [...STORED, "loads"] },
  // Its floor is what a lead that was not zeroed is off by: below it no meter tells one good ground from another, and no lead makes ohms of it.
  "regulator.ground": { scale: "decades", floor: 0.2, model: 0.055, noise: 0.055, range: 5, moved: ["lead", "leadGround", "wires", "rating", "severity"] },
  "field.resistance": { scale: "decades", floor: 0.05, model: 0.015, noise: 0.012, range: 6, opens: OPENS, moved: WINDING },
  "field.resistanceAtUnit": { scale: "decades", floor: 0.05, model: 0.015, noise: 0.012, range: 6, opens: OPENS, moved: [...WINDING, "severity2"] },
  "field.supply": { scale: "plain", model: 0.2, noise: 0.06, range: 14, moved: [...STORED, "loads"] },
  "field.fullField": { scale: "plain", model: 0.4, noise: 0.2, range: 12, moved: CHARGE },
  "generator.output": { scale: "signed", model: 0.15, noise: 0.05, range: 12, moved: ["emf", "stray", "rpmChargeIdle", "severity", "severity2"] },
  "generator.field": { scale: "decades", floor: 0.05, model: 0.015, noise: 0.012, range: 6, opens: OPENS, moved: WINDING },
  "generator.atUnit": { scale: "decades", floor: 0.1, model: 0.06, noise: 0.05, range: 6, opens: OPENS, moved: [...WINDING, "severity2"] },
  "generator.armature": { scale: "decades", floor: 0.1, model: 0.06, noise: 0.05, range: 6, opens: OPENS, moved: WINDING },
  "fuse.continuity": { scale: "decades", floor: 0.03, model: 0.15, noise: 0.12, range: 6, opens: OPENS, moved: ["lead", "leadGround"] },
  "drain.current": { scale: "decades", floor: 0.1, model: 0.12, noise: 0.05, range: 5, moved: DRAIN },
  "drain.unitUnplugged": { scale: "decades", floor: 0.1, model: 0.12, noise: 0.05, range: 5, moved: DRAIN },
  "drain.fusePulled": { scale: "decades", floor: 0.1, model: 0.12, noise: 0.05, range: 5, moved: DRAIN },
};

/** How a numeric test is gauged. @throws when the test is answered in words or not weighed */
export function gaugeOf(test: TestId): Gauge {
  const gauge = GAUGES[test];
  if (!gauge) throw new Error(`${test} has no gauge`);
  return gauge;
}

/** Near the speed at which a machine breaks even a little EMF is many volts: predictions there are looser, V. */
const IDLE_MODEL = 0.25;

/** How many times as far off the running volts of an ailing generator are, and the unloaded AC of coils that failed: how they couple nobody prints. */
const AILING_MODEL = 1.6;
const COILS_MODEL = 2.5;
/** How far off running volts are that nothing holds, V: what a battery makes of an overcharge nobody prints. */
const RUNAWAY_MODEL = 0.55;

/** What ails a generator as far as predictions of it are concerned. */
export type Ailing = "no" | "generator" | "coils" | "burnt" | "runaway";

/** Variance of a look's prediction, shared by repeats of the reading: the pulses of a generator with a fault are known less well than a sound one's. */
export function modelVariance({ test, rpm }: Step, ailing: Ailing): number {
  const model = test === "charge.volts" && rpm === "idle" ? IDLE_MODEL : gaugeOf(test).model;
  if (ailing === "runaway" && isHeld(test)) return RUNAWAY_MODEL ** 2;
  if (ailing !== "no" && test.startsWith("charge.")) return (AILING_MODEL * model) ** 2;
  return (ailing === "coils" && test.startsWith("stator.ac") ? COILS_MODEL * model : model) ** 2;
}

/** Width of the scale over which a figure that is misread could fall; ohms beyond their test's range could be anything up to what they are. @param at where on the scale it lies */
export function misreadRange(test: TestId, at: number): number {
  const { range, scale, opens } = gaugeOf(test);
  return opens !== undefined && scale === "plain" ? Math.max(range, at) : range;
}

/** True for a figure that says no more than the open line does. */
export function readsOpen(test: TestId, value: number): boolean {
  return value >= (gaugeOf(test).opens ?? Number.POSITIVE_INFINITY);
}

/** True for volts that a unit holds at its set point once the generator gives enough. */
export function isHeld(test: TestId): boolean {
  return test === "charge.volts" || test === "charge.outputVolts";
}

/** True for a test answered with a word. */
export function isWorded(test: TestId): boolean {
  return GAUGES[test] === undefined;
}

/** A value on its test's scale. */
export function onScale(test: TestId, value: number): number {
  const { scale, floor = 0 } = gaugeOf(test);
  if (scale === "plain") return value;
  if (scale === "signed") return signed(value);
  if (scale === "lacking") return Math.log(Math.max(0, FULL_CELL - value) + floor);
  const size = Math.max(0, value) + floor;
  return scale === "log" ? Math.log(size) : Math.log10(size);
}

/** A place on a test's scale as the meter would show it. */
export function offScale(test: TestId, at: number): number {
  const { scale, floor = 0 } = gaugeOf(test);
  if (scale === "plain") return at;
  if (scale === "lacking") return FULL_CELL + floor - Math.exp(at);
  if (scale === "signed") return falsePosition((value) => at - signed(value), -SIGNED.most, SIGNED.most, 0.005);
  return Math.max(0, (scale === "log" ? Math.exp(at) : 10 ** at) - floor);
}

/**
 * What a lead cell shows at most at rest, V. A cell is gauged by what it lacks of that, as a logarithm: one that fails has anything from
 * a few tenths to all of it missing, and nobody knows how much.
 */
const FULL_CELL = 2.17;

/**
 * Volts of either sign, whose sign tells more than their size: a step across a few tenths of a volt, and outside of it a logarithm, so
 * that no spread of sizes reaches from one sign to the other.
 */
const SIGNED = { step: 2, within: 0.5, size: 1.5, most: 400 } as const;
const signed = (value: number): number => SIGNED.step * Math.tanh(value / SIGNED.within) + Math.sign(value) * Math.log1p(Math.abs(value) / SIGNED.size);

/** What strays into the leads and an AC range shows near nothing, V. */
const STRAY_VOLTS = 0.6;

/** A touch of less than the first is one of copper, Ω: so many decades it is off, and so many ohms a clip on a bolt differs by. */
const HARD_TOUCH = 20;
const COPPER_NOISE = 0.04;
const CONTACT_OHMS = 0.02;

/**
 * Standard deviation of one reading on its test's scale: the gauge's own noise, and a third of the meter's last digit on ohms.
 * @param at where on the scale the reading lies
 */
export function noiseOf(test: TestId, at: number, ohmsResolution: number): number {
  const { noise, scale, floor = 0 } = gaugeOf(test);
  if (test.startsWith("stator.acVolts")) return Math.hypot(noise, STRAY_VOLTS / Math.exp(at));
  if (test === "stator.resistance") return Math.hypot(noise, 0.3 * ohmsResolution, 0.02 * at);
  if (scale === "decades" && !test.startsWith("drain")) {
    const ohms = offScale(test, at);
    // A hard touch is read like any copper, to a clip's contact; damp and charred varnish reads otherwise every time.
    if (test === "stator.toGround" && ohms < HARD_TOUCH) return Math.hypot(COPPER_NOISE, (CONTACT_OHMS + 0.3 * ohmsResolution) / ((ohms + 0.05) * Math.LN10));
    return Math.hypot(noise, (0.3 * ohmsResolution) / ((ohms + floor) * Math.LN10));
  }
  return noise;
}

/** The words of a test in the order in which a prediction gives them. */
export function wordsOf(test: TestId): readonly string[] {
  return testOf(test).choices ?? [];
}
