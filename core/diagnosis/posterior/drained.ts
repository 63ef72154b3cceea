import { isDrained } from "../../battery/charge";
import type { Sheet } from "../../machine/sheet";
import type { TestId } from "../../procedure/catalogue";
import type { Hypothesis } from "../population/hypotheses";
import type { Look } from "../population/look";

/** What is weighed of a battery by itself: drained past empty it shows neither what it is worth nor what drained it. */
const BATTERY: readonly TestId[] = [
  "battery.rest",
  "battery.settled",
  "battery.crank",
  "battery.firstPull",
  "battery.load",
  "battery.conductance",
  "battery.crankingAmps",
  "battery.innerOhms",
];
/** What shows the battery's volts elsewhere while nothing charges it. */
const FED: readonly TestId[] = ["regulator.feed", "field.supply"];

/** A figure with where it was taken; not a number for words and the open line. */
interface Taken {
  look: Look;
  at: number;
}

const asItCame = ({ look }: Taken): boolean => !look.charged && look.mended.length === 0;

/** Volts that a battery shows under a load lie at most this far above its rest volts, on 12 V: beyond that one of the two was misread. */
const ABOVE_REST = 0.4;
const LOADED: readonly TestId[] = ["battery.settled", "battery.crank", "regulator.feed"];

/**
 * True where the rest volts before any charge or repair are those of a battery drained past empty, however often they were read, and
 * nothing that was read of it then contradicts them.
 */
export function cameDrained(taken: readonly Taken[], { battery, systemVolts }: Sheet): boolean {
  const came = taken.filter(asItCame);
  const rests = came.flatMap(({ look, at }) => (look.step.test === "battery.rest" && !Number.isNaN(at) ? [at] : []));
  const most = Math.max(...rests) + ABOVE_REST * (systemVolts / 12);
  return (
    rests.length > 0 &&
    rests.every((volts) => isDrained(volts, battery.chemistry, systemVolts)) &&
    came.every(({ look, at }) => !LOADED.includes(look.step.test) || !(at > most))
  );
}

/** True where it was charged since, read at rest and no longer found drained: from then on what it showed before tells nothing more. */
export function isRefilled(taken: readonly Taken[], { battery, systemVolts }: Sheet): boolean {
  return taken.some(
    ({ look, at }) =>
      look.step.test === "battery.rest" && (look.charged || look.mended.includes("battery")) && at >= 0 && !isDrained(at, battery.chemistry, systemVolts),
  );
}

/** A machine with nothing the matter, not even a light left on, hardly ever lets its battery go so far: its odds are this part of what they were. */
const SOUND_AND_DRAINED = 0.15;

/** Prior odds of the hypotheses of a machine whose battery came in drained, summing to one. */
export function priorsOfDrained(priors: Float64Array, hypotheses: readonly Hypothesis[]): Float64Array {
  const leant = priors.map((prior, h) => (hypotheses[h]?.set === "" ? SOUND_AND_DRAINED * prior : prior));
  const sum = leant.reduce((total, prior) => total + prior, 0);
  return leant.map((prior) => prior / sum);
}

/** True for what a battery showed as it came in. */
export function isOfDrained(taken: Taken): boolean {
  return BATTERY.includes(taken.look.step.test) && asItCame(taken);
}

/** True for volts or figures that a drained battery has off, its own and those behind it. */
export function isDrainedOff(taken: Taken): boolean {
  return isOfDrained(taken) || (FED.includes(taken.look.step.test) && asItCame(taken));
}
