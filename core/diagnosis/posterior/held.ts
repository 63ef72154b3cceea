import type { Cleared } from "./cleared";
import { normalBelow } from "./linear";

const LOG_2PI = Math.log(2 * Math.PI);

/** How far volts that a unit holds lie from its particle's set point, V. */
export const HELD_VOLTS = 0.32;
/** A prediction lies below what its unit holds from so many volts on. */
export const BELOW_SET = 0.05;
/** Volts of a generator that turns out too weak lie anywhere within so many below what its unit would hold; how blurred the ends are. */
const TOO_WEAK = { span: 2.2, blur: 0.15 } as const;
/** How closely a generator's strength against what is asked of it is predicted, as the logarithm of a factor. */
export const SPARE_MODEL = 0.08;
/** The set point is never as good as sure to be reached, or not to be. */
const SURELY = 0.995;

const logNormal = (x: number, spread: number): number => -0.5 * (x / spread) ** 2 - Math.log(spread) - 0.5 * LOG_2PI;
const reachedAt = (spare: number, spread: number): number => Math.min(SURELY, Math.max(1 - SURELY, normalBelow(spare / spread)));

/**
 * How what a generator has to spare for one reading follows from the figures: its covariance with each, that times C⁻¹ at the reading's
 * own place, and its variance given all.
 */
export interface Knee {
  covariance: Float64Array;
  own: number;
  variance: number;
}

/**
 * How likely the generator turns out strong enough for its unit to hold one reading, as all other readings have it, gross misreads left out.
 * @param own C⁻¹ at the reading's own place @param spare what the particle has to spare
 */
export function reachedBy(n: number, place: number, own: number, spare: number, knee: Knee, { alpha, places, downdates }: Cleared): number {
  const { covariance } = knee;
  let expected = spare;
  for (let b = 0; b < n; b++) expected += (covariance[b] as number) * (alpha[b] as number);
  let [at, given, mine] = [knee.own, knee.variance, own];
  for (const downdate of downdates) {
    let along = 0;
    for (let b = 0; b < n; b++) along += (covariance[b] as number) * (downdate[b] as number);
    at -= along * (downdate[place] as number);
    given += along * along;
    mine -= (downdate[place] as number) ** 2;
  }
  if (!places.includes(place)) {
    expected -= (at * (alpha[place] as number)) / mine;
    given += (at * at) / mine;
  }
  return reachedAt(expected, Math.sqrt(Math.max(SPARE_MODEL ** 2, given)));
}

/** Logarithm of how likely volts that a generator could give still lie so far above what its unit holds, V: by no more than set points and meters differ. */
export function logPassed(off: number): number {
  return off <= HELD_VOLTS ? 0 : Math.log(Math.max(1e-12, 2 * normalBelow(1 - off / HELD_VOLTS)));
}

/** Logarithm of the density of a reading that shows the other of the two: what the unit holds, or a generator too weak for that. @param off from the held volts, V */
export function logInstead(off: number, below: boolean): number {
  if (below) return logNormal(off, HELD_VOLTS);
  const { span, blur } = TOO_WEAK;
  return Math.log(Math.max(1e-12, normalBelow((off + span) / blur) - normalBelow(off / blur)) / span);
}

/**
 * One run shows held volts and another, at the same speed and loads, less: read at most so far below the set point as held and from so
 * far as not, V; how much a generator must lack for each volt short, as the logarithm of a factor, and how closely what it lacks in
 * two such runs is known.
 */
const TWO_RUNS = { held: 0.35, short: 0.6, lacks: 0.15, spread: 0.1, least: 1e-3 } as const;

/**
 * How likely a generator that was strong enough in one run is too weak for the other by what was read: 1 where the figures are no such
 * two. @param held how far the one reads from its held volts, V @param short the same of the other @param more how much more the
 * generator has to spare in the one
 */
function bothOf(held: number, short: number, more: number): number {
  if (!(held > -TWO_RUNS.held && short < -TWO_RUNS.short)) return 1;
  return Math.max(TWO_RUNS.least, normalBelow((more + TWO_RUNS.lacks * short) / TWO_RUNS.spread));
}

/**
 * How likely at most a figure is what its particle's middle is not, held or not held, by what the same run showed other times: a
 * generator is about as strong then. @param again the figures of the same run @param below whether the middle is too weak to be held
 * @param held by figure, how far it reads from its held volts, V; not a number where nothing holds it, which tells nothing
 * @param spare by figure, what the generator has to spare
 */
export function besidesOf(place: number, again: readonly number[], below: boolean, held: Float64Array, spare: Float64Array): number {
  return again.reduce((most, other) => {
    const [strong, weak] = below ? [place, other] : [other, place];
    return Math.min(most, bothOf(held[strong] as number, held[weak] as number, (spare[strong] as number) - (spare[weak] as number)));
  }, 1);
}

/** How closely the volts between a unit's output and the battery are known where its generator turns out otherwise than its particle's middle: V, and a share of them. */
const BETWEEN = { volts: 0.15, share: 0.4 } as const;

/**
 * Logarithm of the density of what lies between a unit's output and the battery, where the generator turns out otherwise than its
 * particle's middle: what is not held at the one is not held at the other. @param off from the volts predicted between them, V
 */
export function logBetween(off: number, between: number): number {
  return logNormal(off, Math.hypot(BETWEEN.volts, BETWEEN.share * between));
}

/**
 * Mean and variance of a look that a unit may hold: the mixture of what the generator gives and what is held.
 * @param seen the particle's middle, given the readings: its mean and variance, what is to spare and how vague that is, and whether that
 * middle is too weak to be held @param set the held volts
 */
export function mixed(
  seen: { mean: number; variance: number; spare: number; spareSpread: number; below: boolean },
  set: number,
): { mean: number; variance: number } {
  const { mean, variance, spare, spareSpread, below } = seen;
  const reached = reachedAt(spare, spareSpread);
  const low = below ? Math.min(mean, set) : set - TOO_WEAK.span / 2;
  const high = below ? set : mean;
  const lowVariance = below ? variance : TOO_WEAK.span ** 2 / 12;
  const highVariance = below ? HELD_VOLTS ** 2 : variance;
  return {
    mean: reached * high + (1 - reached) * low,
    variance: reached * highVariance + (1 - reached) * lowVariance + reached * (1 - reached) * (high - low) ** 2,
  };
}
