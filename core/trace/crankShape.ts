import { lowerBound, type Trace } from "./bins";

/** How an engine was turned by its starter, as its battery's volts show it. */
interface CrankShape {
  /** Volts at the posts once the first pull was over. */
  volts: number;
  /** Compression strokes a second; nought where the volts stand still, as of an engine that does not turn. */
  strokes: number;
}

/** The first pull, and the hand that lets go, are left out, s. */
const EDGES = { first: 0.35, last: 0.25 } as const;
/** So long a crank shows its strokes, s, at so many samples a second. */
const SHORTEST = 0.7;
const RATE = 40;
/** Strokes move the volts of a 12 V machine to and fro by so much at least, V; less than the second is an engine that does not turn. */
const STROKE = { turns: 0.12, stands: 0.07 } as const;
/** Volts so far from the middle of them are none of a crank's, on 12 V. */
const SLIPPED = 2.5;
/** Over so long volts are levelled: what is slower is the battery giving in. */
const LEVELLED = 0.5;
/** Over so long samples are averaged: what is quicker is noise, or the starter's brushes. */
const SMOOTHED = 0.03;

/**
 * What the volts between a starter's first pull and its letting go tell: every compression stroke takes more current than what lies
 * between, so a turning engine's volts go to and fro, and a stalled one's stand.
 * @returns undefined where a log is too slow, the crank too short, or the volts say neither
 */
export function crankShapeOf({ seconds, volts }: Trace, from: number, to: number, scale: number): CrankShape | undefined {
  const start = (seconds[0] ?? 0) + from + EDGES.first;
  const end = (seconds[0] ?? 0) + to - EDGES.last;
  const [a, b] = [lowerBound(seconds, start), lowerBound(seconds, end)];
  const length = (seconds[b - 1] ?? 0) - (seconds[a] ?? 0);
  if (length < SHORTEST || (b - a) / length < RATE) return undefined;
  const all = Float64Array.from(volts.subarray(a, b), Math.abs);
  const middle = all.filter(Number.isFinite).sort()[all.length >> 1] ?? 0;
  // What no starter does is a spike, or a probe that slipped.
  const isShown = (value: number): boolean => Math.abs(value - middle) < SLIPPED * scale;
  const shown = all.filter(isShown);
  const at = seconds.subarray(a, b).filter((_, k) => isShown(all[k] as number));
  if (shown.length < RATE * SHORTEST) return undefined;
  const smooth = movingMean(at, shown, SMOOTHED);
  const level = movingMean(at, shown, LEVELLED);
  const swing = smooth.map((value, k) => value - (level[k] as number));
  // At either end the level is of one side only.
  const inner = swing.filter((value, k) => Number.isFinite(value) && (at[k] as number) - start > LEVELLED / 4 && end - (at[k] as number) > LEVELLED / 4);
  const size = spread(inner);
  const mean = shown.reduce((sum, value) => sum + value, 0) / shown.length;
  if (size < STROKE.stands * scale) return { volts: mean, strokes: 0 };
  if (size < STROKE.turns * scale) return undefined;
  const rises = risesOf(swing, at, size / 4);
  return isRegular(rises) ? { volts: mean, strokes: (rises.length - 1) / ((rises.at(-1) as number) - (rises[0] as number)) } : undefined;
}

/** From one edge to the other of the middle four fifths. */
function spread(values: Float64Array): number {
  const sorted = values.slice().sort();
  return (sorted[Math.floor(0.9 * sorted.length)] ?? 0) - (sorted[Math.floor(0.1 * sorted.length)] ?? 0);
}

/** When a swing comes up through nought, by so much below before and so much above after, s. */
function risesOf(swing: Float64Array, at: Float64Array, by: number): number[] {
  const rises: number[] = [];
  let isLow = false;
  swing.forEach((value, k) => {
    if (value < -by) isLow = true;
    else if (isLow && value > by) {
      rises.push(at[k] as number);
      isLow = false;
    }
  });
  return rises;
}

/** Strokes come evenly, at least so many of them: what differs by more than this share from one to the next is noise. */
const EVEN = { strokes: 3, apart: 0.35 } as const;

function isRegular(rises: readonly number[]): boolean {
  if (rises.length < EVEN.strokes) return false;
  const gaps = rises.slice(1).map((rise, k) => rise - (rises[k] as number));
  const mean = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length;
  return gaps.every((gap) => Math.abs(gap - mean) < EVEN.apart * mean);
}

/** Each sample's mean with those around it, half of some seconds to either side. */
function movingMean(at: Float64Array, values: Float64Array, over: number): Float64Array {
  const means = new Float64Array(values.length);
  let [sum, low, high] = [0, 0, 0];
  for (let k = 0; k < values.length; k++) {
    while (high < values.length && (at[high] as number) <= (at[k] as number) + over / 2) sum += values[high++] as number;
    while ((at[low] as number) < (at[k] as number) - over / 2) sum -= values[low++] as number;
    means[k] = sum / (high - low);
  }
  return means;
}

/** Posts that stand above this while nothing turns, on 12 V: what the battery gives does not reach the starter. */
const HELD_UP = 9.3;

/** What a crank's shape says of where to look, in a sentence. */
export function crankShapeWords({ volts, strokes }: CrankShape, scale: number): string {
  const held = `${volts.toFixed(1)} V`;
  if (strokes > 0) return `turned at ${strokes.toFixed(1)} compression strokes a second on ${held}`;
  if (volts >= HELD_UP * scale)
    return `no compression strokes, and the posts held ${held}: silent, the volts are lost on the way (cable, strap, relay); whirring, the starter turns nothing`;
  return `no compression strokes, and the posts were pulled to ${held}: the engine did not turn; a load test tells the battery from a starter that is stuck`;
}
