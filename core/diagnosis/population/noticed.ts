import { drainLimitOf } from "../../machine/printed";
import type { Sheet } from "../../machine/sheet";
import type { TestId } from "../../procedure/catalogue";
import { isWhole } from "../remedies";
import { offScale } from "./gauges";
import { type Look, lookOf, weighedSteps } from "./look";
import type { Population } from "./population";

/**
 * Machines are brought in for what they do: of a fault that shows nowhere (a touch of some kilohms, a few turns of a winding whose
 * generator has plenty to spare) workshops see few. Volts under way that are right speak against coils and unit for that reason alone.
 */

/** Of faults that nobody notices, so many come in for each of the same rate that everybody does. */
const UNNOTICED = 0.3;

/** Where a figure begins to be noticed, and from where nobody overlooks it; volts on 12 V. */
interface Notice {
  low?: readonly [from: number, sure: number];
  high?: readonly [from: number, sure: number];
}

/** What an owner sees of a fault: an engine that cranks slowly on a full battery, volts that a ride does not refill, a battery flat in the morning. */
const NOTICED: Partial<Record<TestId, Notice>> = {
  "battery.rest": { low: [12.5, 12.3] },
  "battery.crank": { low: [9.9, 9.2] },
  "starter.cableDrop": { high: [0.45, 0.8] },
  "charge.volts": { low: [13.4, 12.8], high: [14.9, 15.4] },
  "drain.current": { high: [3, 15] },
};
/** In town volts may lie low: what does not keep up there is noticed by some. */
const IDLING: Notice = { low: [12.9, 12.2] };

const between = (value: number, [from, sure]: readonly [number, number]): number => Math.min(1, Math.max(0, (value - from) / (sure - from)));

/** How surely a figure at a look is noticed, 0 to 1. @param at on the test's scale */
function noticeOf({ step: { test, rpm } }: Look, at: number, sheet: Sheet): number {
  const limit = test === "drain.current" ? drainLimitOf(sheet) : undefined;
  // Where a limit is printed a draw is held against it.
  const { low, high }: Notice = rpm === "idle" ? IDLING : limit ? { high: [limit, 3 * limit] } : (NOTICED[test] ?? {});
  const figure = offScale(test, at) / (test === "drain.current" ? 1 : sheet.systemVolts / 12);
  return Math.max(low ? between(-figure, [-low[0], -low[1]]) : 0, high ? between(figure, high) : 0);
}

/** A look at which it shows whether a machine does what its owner expects, and how surely each particle's figure there is noticed. */
export interface Showing {
  look: Look;
  shown: Float64Array;
}

/** Every look at which an owner may notice something, the battery charged: as it came it may have been flat for any reason. */
export function showingsOf(population: Population): Showing[] {
  const { sheet, particles } = population;
  // A part that is brought in by itself comes for being suspected.
  if (sheet.loose) return [];
  const looks = weighedSteps(sheet)
    .filter(({ test, loads }) => NOTICED[test] && loads !== "off")
    .flatMap((step) => {
      const heats = step.test === "charge.volts" && step.rpm !== "idle" && step.loads === "normal" ? [false, true] : [false];
      return heats.map((hot) => lookOf(step, { charged: step.test.startsWith("battery."), hot }));
    });
  return looks.flatMap((look): Showing[] => {
    if (!population.knows(look)) return [];
    const { at, open } = population.column(look);
    const shown = Float64Array.from(particles, (_, i) => ((open[i] as number) > 0.5 ? 0 : noticeOf(look, at[i] as number, sheet)));
    return [{ look, shown }];
  });
}

const sameMoment = (look: Look, other: Look): boolean =>
  look.step.test === other.step.test &&
  look.step.rpm === other.step.rpm &&
  look.step.loads === other.step.loads &&
  look.hot === other.hot &&
  (look.charged === other.charged || !look.step.test.startsWith("battery.")) &&
  look.mended.join() === other.mended.join();

/**
 * How often each particle's machine is brought in, against one whose fault nobody overlooks. What was read counts as it was read,
 * whatever the particle would show: volts that are right have sent nobody to a workshop. What is flat, or has nothing the matter and is
 * brought in all the same, has a rate of its own.
 * @param readings figures on their tests' scales; not a number for the open line
 */
export function noticedIn(population: Population, readings: readonly { look: Look; at: number }[]): Float64Array {
  const { particles, hypotheses, showings, sheet } = population;
  const shows = new Float64Array(particles.length);
  for (const { look, shown } of showings) {
    const read = readings.findLast((reading) => !Number.isNaN(reading.at) && sameMoment(reading.look, look));
    const seen = read && noticeOf(look, read.at, sheet);
    for (let i = 0; i < shows.length; i++) shows[i] = Math.max(shows[i] as number, seen ?? (shown[i] as number));
  }
  const owed = hypotheses.map(({ set }) => showings.length === 0 || isWhole(set));
  return shows.map((shown, i) => (owed[(particles[i] as (typeof particles)[number]).hypothesis] ? 1 : UNNOTICED + (1 - UNNOTICED) * shown));
}
