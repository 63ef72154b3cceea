import { type Bins, MIDDLE, trimmedMean, withoutSpikes } from "./bins";
import { cranksOf } from "./cranks";
import { medianOf } from "./median";
import { swingAt, swingIn } from "./swing";

/** A stretch of a trace that stays where it is, or drifts: bins `from` up to, not including, `to`. */
export interface Segment {
  from: number;
  to: number;
  kind: "level" | "crank" | "gap";
  /** Median of its middles, V. */
  level: number;
  /** Median at its beginning and at its end, V: they differ where it drifts. */
  begins: number;
  ends: number;
  /** Its very first and very last bins, V: a step lies between two segments where these differ. */
  first: number;
  last: number;
  /** What rides on it, V: noise from bin to bin, and what its bins span within themselves. */
  unrest: number;
  ripple: number;
  /** How long the change took with which it begins, s: a switch is quicker than an engine. */
  way: number;
}

/** Nothing read for so long is a gap, s; less is bridged. */
const GAP_SECONDS = 0.5;
/** How far two neighbouring windows look, s: short for quick changes, longer for small and slow ones. */
const WINDOWS = [0.4, 1.5, 4] as const;
/** The least change between two windows that is one, V on 12 V, for each of them. */
const LEAST = [0.12, 0.035, 0.025] as const;
/** A change also has to stand so many times above the noise between bins. */
const ABOVE_NOISE = 5;
/** A change has begun once so much of it is done, and it stands so many times above the noise. */
const BEGUN = { share: 0.08, noise: 3 } as const;
/** Bins at either end of a segment that its first and last level are taken from, s. */
const END_SECONDS = 0.8;
/** Stretches that go up and down again within so many seconds each, so many in a row, are one that swings. */
const SWINGS = { seconds: 1.7, count: 3 } as const;
/** No lead battery rests above, V on 12 V. */
const MOST_REST = 13.75;
/** Rest volts where the trace holds none. */
const USUAL_REST = 12.6;
/** Bins that a first rest is taken from, s. */
const FIRST_SECONDS = 1;

/** Middles with short holes bridged; NaN in gaps. */
function bridged({ middle, width, count }: Pick<Bins, "middle" | "width" | "count">): Float64Array {
  const level = Float64Array.from(middle);
  for (let k = 0; k < count; k++) {
    if (!Number.isNaN(level[k] as number)) continue;
    let end = k;
    while (end < count && Number.isNaN(level[end] as number)) end++;
    const [before, after] = [k > 0 ? (level[k - 1] as number) : Number.NaN, end < count ? (level[end] as number) : Number.NaN];
    if ((end - k) * width < GAP_SECONDS) {
      // At either end of the trace there is but one neighbour.
      const [left, right] = [Number.isNaN(before) ? after : before, Number.isNaN(after) ? before : after];
      for (let j = k; j < end; j++) level[j] = left + ((right - left) * (j - k + 1)) / (end - k + 1);
    }
    k = end - 1;
  }
  return level;
}

/** Noise from bin to bin: the median of their second differences, which no drift adds to, as the standard deviation that a normal one would have. */
function noiseOf(level: Float64Array, from: number, to: number): number {
  const bends = new Float64Array(Math.max(0, to - from - 2));
  for (let k = from; k + 2 < to; k++) bends[k - from] = Math.abs((level[k] as number) - 2 * (level[k + 1] as number) + (level[k + 2] as number));
  const middle = medianOf(bends);
  return Number.isNaN(middle) ? 0 : (1.4826 * middle) / Math.sqrt(6);
}

/** Bins where one window's middle (a coarse display is seen between its digits) differs most from the next one's, by at least so much. */
function changesIn(level: Float64Array, from: number, to: number, window: number, least: number): number[] {
  const found: number[] = [];
  let [best, at] = [0, -1];
  // Long windows change little from one bin to the next.
  const stride = Math.max(1, Math.floor(window / 10));
  for (let k = from + 1; k < to; k += stride) {
    const [a, b] = [Math.max(from, k - window), Math.min(to, k + window)];
    const apart = Math.abs(trimmedMean(level.slice(k, b).sort(), MIDDLE) - trimmedMean(level.slice(a, k).sort(), MIDDLE));
    if (apart >= least && apart > best) [best, at] = [apart, k];
    if (at >= 0 && (apart < least || k - at >= window)) {
      found.push(at);
      [best, at] = [0, -1];
    }
  }
  if (at >= 0) found.push(at);
  return found;
}

/** Cuts a trace at its cranks, where nothing was read, and where its level changes. @param scale system volts over 12 */
export function segmentsOf(bins: Bins, scale: number): Segment[] {
  const { width, count } = bins;
  const level = withoutSpikes(bridged(bins), scale);
  const first = medianOf(level.slice(0, Math.round(FIRST_SECONDS / width)));
  const rest = first < MOST_REST * scale ? first : USUAL_REST * scale;
  const cranks = cranksOf(level, width, rest, scale);
  const kinds = new Uint8Array(count);
  for (let k = 0; k < count; k++) if (Number.isNaN(level[k] as number)) kinds[k] = 1;
  for (const { from, to } of cranks) kinds.fill(2, from, to);
  const segments: Segment[] = [];
  for (let from = 0; from < count; ) {
    let to = from;
    while (to < count && kinds[to] === kinds[from]) to++;
    if (kinds[from] === 0) segments.push(...swungOut(calmed(levelsIn(bins, level, from, to, scale), bins, level), bins, level, scale));
    else segments.push(segmentAt(bins, level, from, to, kinds[from] === 1 ? "gap" : "crank"));
    from = to;
  }
  return segments;
}

/** A stretch without gaps or cranks, cut where its level changes. */
function levelsIn(bins: Bins, level: Float64Array, from: number, to: number, scale: number): Segment[] {
  const { width } = bins;
  const noise = noiseOf(level, from, to);
  const changes: number[] = [];
  WINDOWS.forEach((seconds, k) => {
    const window = Math.max(2, Math.round(seconds / width));
    const least = Math.max((LEAST[k] as number) * scale, (ABOVE_NOISE * noise) / Math.sqrt(window));
    for (const at of changesIn(level, from, to, window, least)) {
      // A change that the quick look found is not found once more by the slow one.
      if (!changes.some((other) => Math.abs(other - at) < window)) changes.push(at);
    }
  });
  changes.sort((a, b) => a - b);
  const reach = Math.max(2, Math.round(END_SECONDS / width));
  const cuts = changes.map((at, k) => {
    const [left, right] = [k > 0 ? (changes[k - 1] as number) : from, changes[k + 1] ?? to];
    const begun = begunAt(level, at, left, right, reach, noise);
    return onsetOf(level, begun, left, right, width);
  });
  const places = [...new Set([from, ...cuts, to])].sort((a, b) => a - b);
  return places.slice(0, -1).map((start, k) => segmentAt(bins, level, start, places[k + 1] as number, "level"));
}

/** The bin from which a change is under way, between the levels on both of its sides. */
function begunAt(level: Float64Array, at: number, left: number, right: number, reach: number, noise: number): number {
  const half = reach >> 1;
  // From well before it: a slow change has gone on for a while where it is seen best.
  const early = Math.max(left, at - 4 * reach);
  const before = medianOf(level.slice(early, Math.max(early + 1, Math.min(at - half, Math.max(at - Math.round(1.4 * reach), early + half)))));
  const after = medianOf(level.slice(Math.min(right - 1, at + half), Math.max(Math.min(right, at + half), Math.min(right, at + 2 * reach))));
  const rises = after > before;
  const begun = before + (rises ? 1 : -1) * Math.max(BEGUN.share * Math.abs(after - before), BEGUN.noise * noise);
  // Back from where it is surely under way to the last bin that had not begun.
  let k = Math.min(right - 1, at + 1);
  const past = (j: number): boolean => (rises ? (level[j] as number) >= begun : (level[j] as number) <= begun);
  while (k > left + 1 && (past(k - 1) || (k > left + 2 && past(k - 2)))) k--;
  return Math.max(left + 1, k);
}

/** How far before a change is looked at for its beginning, s, how far back that is sought, and over how long what follows is fitted. */
const ONSET = { before: 2.5, back: 4, on: 0.2, after: 2.5, settles: 1 } as const;
/** Time constants with which a level may go over into the next, s: a switch, an engine that follows, a battery that settles. */
const CONSTANTS = [0.02, 0.12, 0.3, 0.8, 2, 6] as const;
/** Seconds over which a hand at the throttle takes it there. */
const RAMPS = [0.3, 0.6, 0.9] as const;

/** The shares of a change that are made by so many bins after it began, for each way in which it may go. */
function waysOver(count: number, width: number): Float64Array[] {
  const over = (share: (seconds: number) => number): Float64Array => Float64Array.from({ length: count }, (_, j) => share((j + 0.5) * width));
  return [
    ...CONSTANTS.map((constant) => over((seconds) => 1 - Math.exp(-seconds / constant))),
    ...RAMPS.map((ramp) => over((seconds) => Math.min(1, seconds / ramp))),
  ];
}

/** Where a change begins: the place from which a level that stood goes over to another, in one of those ways, with the least squares. */
function onsetOf(level: Float64Array, begun: number, left: number, right: number, width: number): number {
  const bins = (seconds: number): number => Math.max(2, Math.round(seconds / width));
  const [first, last] = [Math.max(left + Math.ceil((begun - left) / 2), begun - bins(ONSET.back)), Math.min(right - 3, begun + bins(ONSET.on))];
  // What is still on its way from the change before is no level yet.
  const stands = left + Math.min(bins(ONSET.settles), Math.floor((begun - left) / 3));
  const [from, to] = [Math.max(stands, first - bins(ONSET.before)), Math.min(right, begun + bins(ONSET.after))];
  if (last < first) return begun;
  const misfits = waysOver(to - from, width).map((way) => Float64Array.from({ length: last - first + 1 }, (_, k) => misfitOf(level, from, first + k, to, way)));
  const least = Math.min(...misfits.map((some) => Math.min(...some)));
  // Ways that fit about as well each have a beginning of their own: it is where half of what they weigh lies on either side.
  const variance = Math.max(least / Math.max(1, to - from - 3), 1e-9);
  const weights = Float64Array.from({ length: last - first + 1 }, (_, k) =>
    misfits.reduce((sum, some) => sum + Math.exp((least - (some[k] as number)) / (2 * variance)), 0),
  );
  const half = weights.reduce((sum, weight) => sum + weight, 0) / 2;
  let [k, sum] = [0, weights[0] as number];
  while (sum < half) sum += weights[++k] as number;
  return first + k;
}

/** How near to its end a stretch that swings is not taken for its swing, how far around that its end is sought, and how much of it tells, s. */
const SWUNG = { end: 1.3, back: 1.2, on: 1, least: 2.5, most: 8 } as const;

/** Where a stretch swings the next one begins where its swing ends: a level alone would end with its last way down. */
function swungOut(segments: readonly Segment[], bins: Bins, level: Float64Array, scale: number): Segment[] {
  const { width } = bins;
  const all = [...segments];
  const wide = (seconds: number): number => Math.round(seconds / width);
  for (let k = 0; k + 1 < all.length; k++) {
    const [segment, next] = [all[k] as Segment, all[k + 1] as Segment];
    const end = segment.to - wide(SWUNG.end);
    const begin = Math.max(segment.from + wide(ONSET.settles), end - wide(SWUNG.most));
    if (end - begin < wide(SWUNG.least)) continue;
    const swing = swingIn(level, begin, end, width, scale);
    if (!swing) continue;
    const first = segment.to - wide(SWUNG.back);
    const to = Math.min(next.to, segment.to + wide(2 * SWUNG.on));
    const last = Math.min(to - 3, segment.to + wide(SWUNG.on));
    const read = level.slice(begin, to);
    const calm = read.map((volts, j) => volts - swingAt(swing, begin + j));
    const ways = waysOver(read.length, width);
    let [best, least] = [segment.to, Number.POSITIVE_INFINITY];
    for (let at = first; at <= last; at++) {
      // Up to here it swings, from here it does not.
      const tried = read.slice();
      tried.set(calm.subarray(0, at - begin));
      for (const way of ways) {
        const misfit = misfitOf(tried, 0, at - begin, read.length, way);
        if (misfit < least) [best, least] = [at, misfit];
      }
    }
    if (best === segment.to) continue;
    all[k] = segmentAt(bins, level, segment.from, best, "level");
    all[k + 1] = segmentAt(bins, level, best, next.to, "level");
  }
  return all;
}

/** Sum of squares by which a level up to a bin, and one that leaves it in a given way, miss what was read. @param way share of the way made, by bins since it was left */
function misfitOf(level: Float64Array, from: number, at: number, to: number, way: Float64Array): number {
  let stood = 0;
  for (let j = from; j < at; j++) stood += level[j] as number;
  stood /= at - from;
  let [xy, xx] = [0, 0];
  for (let j = at; j < to; j++) {
    const x = way[j - at] as number;
    xy += x * ((level[j] as number) - stood);
    xx += x * x;
  }
  const goes = xy / xx;
  let misfit = 0;
  for (let j = from; j < to; j++) misfit += ((level[j] as number) - stood - (j < at ? 0 : goes * (way[j - at] as number))) ** 2;
  return misfit;
}

/** Several short stretches in a row, up and down again, are one that swings. */
function calmed(segments: readonly Segment[], bins: Bins, level: Float64Array): Segment[] {
  const short = ({ from, to }: Segment): boolean => (to - from) * bins.width <= SWINGS.seconds;
  const all: Segment[] = [];
  for (let k = 0; k < segments.length; ) {
    let end = k;
    while (end < segments.length && short(segments[end] as Segment)) end++;
    if (end - k >= SWINGS.count) {
      all.push(segmentAt(bins, level, (segments[k] as Segment).from, (segments[end - 1] as Segment).to, "level"));
      k = end;
    } else {
      all.push(...segments.slice(k, Math.max(end, k + 1)));
      k = Math.max(end, k + 1);
    }
  }
  return all;
}

function segmentAt({ width, lowest, highest }: Bins, level: Float64Array, from: number, to: number, kind: Segment["kind"]): Segment {
  const end = Math.max(1, Math.min(to - from, Math.round(END_SECONDS / width)));
  const spans = new Float64Array(to - from);
  for (let k = from; k < to; k++) {
    // What a bin spans for drifting through it is no ripple.
    const drift = Math.abs((level[Math.min(to - 1, k + 1)] as number) - (level[Math.max(from, k - 1)] as number)) / 2;
    spans[k - from] = Math.max(0, (highest[k] as number) - (lowest[k] as number) - drift);
  }
  const begins = medianOf(level.slice(from, from + end));
  return {
    from,
    to,
    kind,
    way: wayOf(level, from, to, begins, width),
    level: medianOf(level.slice(from, to)),
    begins,
    ends: medianOf(level.slice(to - end, to)),
    first: medianOf(level.slice(from, Math.min(to, from + EDGE_BINS))),
    last: medianOf(level.slice(Math.max(from, to - EDGE_BINS), to)),
    unrest: noiseOf(level, from, to),
    ripple: medianOf(spans) || 0,
  };
}

/** Bins that an edge is. */
const EDGE_BINS = 3;

/** Where a change counts as made: so much of it. */
const MADE = 0.75;

/** How long it takes from where a segment begins until most of its change is made, s. */
function wayOf(level: Float64Array, from: number, to: number, begins: number, width: number): number {
  const before = level[Math.max(0, from - 1)] as number;
  let k = from;
  while (k < to && Math.abs((level[k] as number) - before) < MADE * Math.abs(begins - before)) k++;
  return (k - from + 1) * width;
}
