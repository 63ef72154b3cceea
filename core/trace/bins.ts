/** A logged trace: times in seconds from its first sample, rising, and the figure at each; NaN where the logger had none. */
export interface Trace {
  seconds: Float64Array;
  volts: Float64Array;
}

/** A trace cut into short stretches of equal length, each with its median and its lowest and highest; NaN where it holds nothing. */
export interface Bins {
  /** Length of one, s. */
  width: number;
  count: number;
  middle: Float64Array;
  lowest: Float64Array;
  highest: Float64Array;
  /** Samples a second, by the middle of the steps between them. */
  rate: number;
  /** System volts over 12. */
  scale: number;
  /** The probes were the wrong way round: every figure is turned. */
  turned: boolean;
}

/** Shortest stretch, s: within it a crank's strokes and a ripple are told from a phase by their median. */
const SHORTEST = 0.05;
/** Figures that no battery shows with both probes on it, V on 12 V: a lifted probe, an overflow. */
const POSSIBLE = { low: 1.5, high: 30 } as const;
/** Samples looked at for the middle step between two: a regular logger shows itself soon. */
const STEPS_SEEN = 20_001;

/** The middle step between samples, s; 0 for less than two. */
function middleStep(seconds: Float64Array): number {
  const count = Math.min(seconds.length - 1, STEPS_SEEN);
  if (count < 1) return 0;
  const steps = new Float64Array(count);
  for (let k = 0; k < count; k++) steps[k] = (seconds[k + 1] as number) - (seconds[k] as number);
  return steps.sort()[count >> 1] as number;
}

/** Whether most of a trace is negative: red and black were changed over. */
function isTurned(volts: Float64Array): boolean {
  const stride = Math.max(1, Math.floor(volts.length / STEPS_SEEN));
  let [below, seen] = [0, 0];
  for (let k = 0; k < volts.length; k += stride) {
    const value = volts[k] as number;
    if (!Number.isFinite(value)) continue;
    seen++;
    if (value < -POSSIBLE.low) below++;
  }
  return below > seen / 2;
}

/** Cuts a trace into bins. @param systemVolts what is possible goes by it */
export function binsOf({ seconds, volts }: Trace, systemVolts: 6 | 12): Bins {
  const step = middleStep(seconds);
  const width = Math.max(SHORTEST, step);
  const turned = isTurned(volts);
  const sign = turned ? -1 : 1;
  const scale = systemVolts / 12;
  const [low, high] = [POSSIBLE.low * scale, POSSIBLE.high * scale];
  const first = seconds[0] ?? 0;
  const last = seconds.at(-1) ?? 0;
  const count = seconds.length === 0 ? 0 : Math.floor((last - first) / width + 1e-9) + 1;
  const [middle, lowest, highest] = [
    new Float64Array(count).fill(Number.NaN),
    new Float64Array(count).fill(Number.NaN),
    new Float64Array(count).fill(Number.NaN),
  ];
  let held: number[] = [];
  let bin = 0;
  const close = (): void => {
    if (held.length === 0 || bin >= count) return;
    [lowest[bin], highest[bin]] = extremesOf(held, Math.max(1, Math.round(CALM_SECONDS / Math.max(step, 1e-6))));
    const sorted = Float64Array.from(held).sort();
    middle[bin] = trimmedMean(sorted, MIDDLE);
    held = [];
  };
  const calm = withoutSpikes(possible(volts, sign, low, high), scale);
  for (let k = 0; k < seconds.length; k++) {
    const value = calm[k] as number;
    if (Number.isNaN(value)) continue;
    const at = Math.min(count - 1, Math.floor(((seconds[k] as number) - first) / width + 1e-9));
    if (at !== bin) {
      close();
      bin = at;
    }
    held.push(value);
  }
  close();
  return { width, count, middle, lowest, highest, rate: step > 0 ? 1 / step : 0, scale, turned };
}

/** A quick logger's noise is averaged over so long before its lowest is taken, s: no starter's pull is over as soon. */
const CALM_SECONDS = 0.012;

/** Lowest and highest of the means over some samples in a row. */
function extremesOf(values: readonly number[], over: number): [lowest: number, highest: number] {
  const count = Math.min(over, values.length);
  let [sum, lowest, highest] = [0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  values.forEach((value, k) => {
    sum += value - (k >= count ? (values[k - count] as number) : 0);
    if (k < count - 1) return;
    lowest = Math.min(lowest, sum / count);
    highest = Math.max(highest, sum / count);
  });
  return [lowest, highest];
}

/** Figures as a battery with both probes on it can show them; NaN for the others. */
function possible(volts: Float64Array, sign: 1 | -1, low: number, high: number): Float64Array {
  return volts.map((value) => (sign * value >= low && sign * value <= high ? sign * value : Number.NaN));
}

/** Share of a bin's samples left out at either end: a few spikes do not move what is left, and a coarse display is seen between its digits. */
export const MIDDLE = 0.25;

/** Mean of sorted figures without a share of them at either end. */
export function trimmedMean(sorted: Float64Array, share: number): number {
  const cut = Math.min(Math.floor(share * sorted.length), (sorted.length - 1) >> 1);
  let sum = 0;
  for (let k = cut; k < sorted.length - cut; k++) sum += sorted[k] as number;
  return sum / (sorted.length - 2 * cut);
}

/** Figures that stand out from two neighbours that agree, V on 12 V; so many in a row at most. */
const SPIKE = { out: 0.5, agree: [0.35, 0.35, 0.12] } as const;
/** No machine lifts its volts by so much for one sample, V on 12 V. */
const LIFTED = 1;

/**
 * Takes out what stands alone, or few in a row, among its neighbours: that is the logger's, not the battery's. The first pull of a
 * starter stands out too, but between two that are not alike. At either end there is one neighbour only.
 */
export function withoutSpikes(values: Float64Array, scale: number): Float64Array {
  const calm = Float64Array.from(values);
  const at = (k: number): number => values[Math.min(values.length - 1, Math.max(0, k))] as number;
  for (let k = 0; k < values.length; k++) {
    // Most stand where the one before them stood.
    if (k > 0 && Math.abs((values[k] as number) - (values[k - 1] as number)) <= SPIKE.out * scale) continue;
    const wide = SPIKE.agree.findIndex((agree, more) => {
      const [before, after] = k === 0 ? [at(more + 1), at(more + 2)] : k + more + 1 < values.length ? [at(k - 1), at(k + more + 1)] : [at(k - 1), at(k - 2)];
      if (!(Math.abs(before - after) < agree * scale)) return false;
      const [low, high] = [Math.min(before, after) - SPIKE.out * scale, Math.max(before, after) + SPIKE.out * scale];
      const spikes = values.subarray(k, k + more + 1);
      if (!spikes.every((value) => value < low || value > high)) return false;
      calm.fill((before + after) / 2, k, k + more + 1);
      return true;
    });
    if (wide >= 0) k += wide;
    else if (at(k) - Math.max(at(k - 1), at(k + 1)) > LIFTED * scale) calm[k] = (at(k - 1) + at(k + 1)) / 2;
  }
  return calm;
}

/** First place whose time is not before. */
export function lowerBound(seconds: Float64Array, time: number): number {
  let [low, high] = [0, seconds.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((seconds[middle] as number) < time) low = middle + 1;
    else high = middle;
  }
  return low;
}
