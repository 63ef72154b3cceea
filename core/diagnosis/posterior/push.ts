import { PARTS, type Part } from "../../machine/part";
import type { Meter } from "../../meter/meter";
import type { Reading } from "../../procedure/step";
import type { History } from "../population/hypotheses";
import type { Population } from "../population/population";
import { remediesOf } from "../remedies";
import { type Observation, observe, Posterior } from "./posterior";

/** What one reading, taken by itself, does to the odds of each part: the logarithm of the factor; for is positive. */
export type Push = Partial<Record<Part, number>>;

/** Pushes weaker than this are none. */
const FAINT = 0.15;

/** Odds of each part, from the weights of its hypotheses. */
function partOdds(population: Population, byHypothesis: ArrayLike<number>): Record<Part, number> {
  const odds = Object.fromEntries(PARTS.map((part) => [part, 1e-6])) as Record<Part, number>;
  population.hypotheses.forEach(({ set }, h) => {
    for (const remedy of remediesOf(set)) if (remedy !== "charge") odds[remedy] += byHypothesis[h] as number;
  });
  return odds;
}

/** Each reading's push by itself, so that the order of readings plays no part in it. */
export function pushesOf(population: Population, priors: Float64Array, observations: readonly Observation[]): Push[] {
  const before = partOdds(population, priors);
  const ratio = (p: number): number => Math.log(p / Math.max(1e-9, 1 - p));
  return observations.map((observation) => {
    const after = partOdds(population, new Posterior(population, priors, [observation]).byHypothesis());
    return Object.fromEntries(
      PARTS.flatMap((part) => {
        const push = ratio(Math.min(1 - 1e-9, after[part])) - ratio(before[part]);
        return Math.abs(push) < FAINT ? [] : [[part, Math.round(push * 10) / 10]];
      }),
    );
  });
}

/** The pushes of a job's readings, by each one's place in the list; those that are not weighed have none. */
export function pushesByReading(
  population: Population,
  { readings, meter, history }: { readings: readonly Reading[]; meter: Meter; history: History },
): Record<number, Push> {
  const observations = observe(readings, population, meter);
  const pushes = pushesOf(population, population.priors(history), observations);
  return Object.fromEntries(observations.map(({ reading }, k) => [reading, pushes[k] as Push]));
}
