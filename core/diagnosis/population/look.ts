import { saeAmps } from "../../battery/ratings";
import { familyOf } from "../../machine/families/registry";
import type { Part } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import type { TestId } from "../../procedure/catalogue";
import { CATALOGUE, testOf } from "../../procedure/catalogue";
import { isPaired, pairsOf, type Reading, type Step, stepKey, stepsOf, type Touched } from "../../procedure/step";
import { switchesOff } from "./charts";

/** Where a reading was taken and in which state of the job: the question that a prediction answers. */
export interface Look {
  key: string;
  step: Step;
  hot: boolean;
  /** The battery was charged fully since the machine came in. */
  charged: boolean;
  /** Parts that had been mended by then. */
  mended: readonly Part[];
  restHours: number | undefined;
  amps: number | undefined;
  /** What the probe or clamp touched at the battery, where that was said and makes a difference. */
  touched: Touched | undefined;
}

/** Where the engine weighs readings of it; the others are noted and move nothing. */
const WEIGHED: readonly TestId[] = [
  "battery.rest",
  "battery.settled",
  "battery.crank",
  "battery.recovery",
  "battery.firstPull",
  "battery.postDrop",
  "battery.load",
  "battery.cell",
  "battery.conductance",
  "battery.crankingAmps",
  "battery.innerOhms",
  "starter.cableDrop",
  "starter.amps",
  "charge.volts",
  "charge.outputVolts",
  "charge.positiveDrop",
  "charge.groundDrop",
  "charge.current",
  "stator.resistance",
  "stator.toGround",
  "stator.acVolts",
  "stator.acVoltsAtUnit",
  "stator.legDrop",
  "stator.dcVolts",
  "stator.diode",
  "regulator.diode",
  "regulator.feed",
  "regulator.ground",
  "fuse.continuity",
  "drain.current",
  "drain.unitUnplugged",
  "drain.fusePulled",
  "inspect.connector",
  "inspect.terminals",
  "inspect.ground",
  "inspect.fluid",
  "rotor.pull",
  "inspect.tach",
  "inspect.belt",
  "inspect.brushes",
  "field.resistance",
  "field.resistanceAtUnit",
  "field.supply",
  "field.fullField",
  "generator.motoring",
  "generator.output",
  "generator.field",
  "generator.atUnit",
  "generator.armature",
  "regulator.feedLamp",
  "regulator.groundLamp",
  "swap.unit",
];

/** Whether the odds weigh a test on a machine; the others are judged and noted. How a field's regulator chops, and what ripple that leaves, nobody prints. */
export function isWeighed(test: TestId, sheet: Pick<Sheet, "family">): boolean {
  return WEIGHED.includes(test) || (test === "charge.ripple" && !familyOf(sheet.family).field);
}

/** Read of a battery by itself once more after a full charge. */
const OF_BATTERY: readonly TestId[] = ["battery.rest", "battery.settled", "battery.crank", "battery.firstPull", "battery.load", "battery.cell"];
/** Volts that come from it, and those that charge it. */
const FROM_BATTERY: readonly TestId[] = ["regulator.feed", "field.supply", "charge.volts"];

export const isOfBattery = (test: TestId): boolean => OF_BATTERY.includes(test);

/** True for a test that reads otherwise once the battery has been charged. */
export const mindsCharge = (test: TestId): boolean => isOfBattery(test) || FROM_BATTERY.includes(test);

/** Readings in the order taken, each marked as of a charged battery that was taken after one so marked: a charge is not undone by forgetting to say so. */
export function sinceCharge(readings: readonly Reading[]): Reading[] {
  let full = false;
  return readings.map((reading) => {
    full ||= reading.charged === true;
    return full && !reading.charged && mindsCharge(reading.test) ? { ...reading, charged: true } : reading;
  });
}

/** True for running volts with the lights off where those switch a winding in, far from the speed at which that is charted. */
function isUncharted({ test, loads, rpm }: Step, sheet: Sheet): boolean {
  return (
    loads === "off" && test.startsWith("charge.") && switchesOff(sheet) && (rpm === "idle" || Math.abs(Math.log((rpm ?? sheet.testRpm) / sheet.testRpm)) > NEAR)
  );
}

/** Volts of windings that carry nothing: they grow with the speed, so that those of one speed tell those of another. */
const UNLOADED: readonly TestId[] = ["stator.acVolts", "stator.acVoltsAtUnit", "stator.dcVolts"];

/** How far a running test's speed may lie from the sheet's for volts to be scaled to it, as a factor either way. */
const SCALABLE = 2.5;

/** How far from the test speed volts are told by its curve alone, as the logarithm of a factor. */
const NEAR = 0.3;

/** The look of a step in a state of the job. */
export function lookOf(step: Step, more: Partial<Omit<Look, "key" | "step">> = {}): Look {
  const full = { hot: false, charged: false, mended: [], restHours: undefined, amps: undefined, touched: undefined, ...more };
  const key = [
    stepKey(step),
    full.hot ? "hot" : "",
    full.charged ? "charged" : "",
    full.mended.join("+"),
    full.restHours ?? "",
    full.amps ?? "",
    full.touched ?? "",
  ];
  return { key: key.join("|"), step, ...full };
}

/** The name of the visit that a look belongs to: the same test in the same state of the machine. */
export const visitOf = ({ step, hot, charged }: Look): string => [step.test, step.rpm, step.loads, hot, charged].join();

/**
 * The look of a kept reading. Speeds near the sheet's are the sheet's; unloaded volts at another speed are scaled to it.
 * @returns undefined for readings the engine does not weigh; `factor` multiplies the value
 */
export function lookOfReading(reading: Reading, sheet: Sheet): { look: Look; factor: number } | undefined {
  if (!isWeighed(reading.test, sheet) || isUncharted(reading, sheet)) return undefined;
  // Taken after a repair that nobody can name, it speaks of another machine than the one that came in.
  if (reading.afterRepair && reading.mended === undefined) return undefined;
  const test = testOf(reading.test);
  let { rpm } = reading;
  let factor = reading.test === "battery.crankingAmps" && reading.rating ? saeAmps(1, reading.rating) : 1;
  if (test.runs && typeof rpm === "number") {
    if (UNLOADED.includes(reading.test)) {
      const ratio = sheet.testRpm / rpm;
      if (ratio > SCALABLE && rpm <= sheet.idleRpm * 1.3) {
        factor = sheet.idleRpm / rpm;
        rpm = "idle";
      } else {
        factor = ratio;
        rpm = sheet.testRpm;
      }
    } else rpm = Math.abs(rpm / sheet.testRpm - 1) < 0.1 ? sheet.testRpm : Math.round(rpm / 250) * 250 || 250;
  }
  const at = isPaired(test) && reading.at ? pairAs(reading.at, sheet) : placeOf(reading);
  const step: Step = {
    test: reading.test,
    ...(at === undefined ? {} : { at }),
    ...(rpm === undefined ? {} : { rpm }),
    ...(test.runs?.some((run) => run.loads) ? { loads: reading.loads ?? "normal" } : {}),
  };
  const look = lookOf(step, {
    hot: reading.hot === true,
    charged: reading.charged === true,
    mended: reading.mended ?? [],
    restHours: reading.restHours,
    // A load is set by the battery's own label: where that is all there is to go by, the amps say no more than it does.
    amps: sheet.battery.cca === undefined && sheet.battery.ah === undefined ? undefined : reading.amps,
    // A tester is clamped on the post, a probe lands on the lug: what goes without saying is the same look.
    touched: reading.touched === testOf(reading.test).touches ? undefined : reading.touched,
  });
  return { look, factor };
}

/** Which cell fails nobody can foresee: what is foreseen is the weakest, whichever it is. Nobody is asked to put probes in acid for it. */
export const WEAKEST_CELL: Step = { test: "battery.cell" };

const placeOf = ({ test, at }: Step): string | undefined => (test === WEAKEST_CELL.test ? undefined : at);

/** A pair the way round in which the machine names it. */
function pairAs(at: string, sheet: Sheet): string {
  const turned = at.split("-").reverse().join("-");
  return pairsOf(sheet).includes(turned) ? turned : at;
}

/** Every step of a machine that can be recommended. */
export function weighedSteps(sheet: Sheet): Step[] {
  return CATALOGUE.filter((test) => isWeighed(test.id, sheet) && test.id !== WEAKEST_CELL.test)
    .flatMap((test) => stepsOf(test, sheet))
    .filter((step) => !isUncharted(step, sheet));
}

/** True for a look at which no leg is named, so that which leg a fault sits on makes no difference. */
export function isLegless({ step: { test } }: Look): boolean {
  return ["none", "cell", "fuse", "place"].includes(testOf(test).points);
}
