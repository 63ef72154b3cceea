import type { TestId } from "../procedure/catalogue";
import { type Bins, binsOf, lowerBound, type Trace, trimmedMean } from "./bins";
import { crankShapeOf, crankShapeWords } from "./crankShape";
import { type PhaseName, phasesOf } from "./phases";
import { segmentsOf } from "./segments";

/** One phase of a trace in seconds from its first sample. */
export interface TracePhase {
  phase: PhaseName;
  from: number;
  to: number;
  /** Its median, V; none for a gap. */
  volts: number | undefined;
}

/** A figure lifted out of a trace: a reading of a test, and where in the trace it stands, s. */
export interface TraceFigure {
  test: TestId;
  value: number;
  at: number;
  /** Which plateau of the running engine it is of, the first one 1. */
  plateau?: number;
  /** How far it swings to and fro; of a crank, how far its first pull goes below the lowest once it turns. */
  swing?: number;
  /** The phase it was lifted from. */
  phase: PhaseName;
}

/** All that a trace tells by itself. */
export interface TraceReading {
  samples: number;
  ratePerSecond: number;
  phases: TracePhase[];
  figures: TraceFigure[];
  notes: string[];
}

/** The last part of a rest, and of a key-on, that counts: what came before it was still on its way, s. */
const SETTLES = { rest: 3, key: 4 } as const;
/** Edges of a plateau that are left out, s: the way there, and the hand going off. */
const EDGE = 0.6;
/** A plateau that is shorter tells no volts, s. */
const SHORTEST_PLATEAU = 1.2;
/** After so many seconds of a stopped engine its volts are read, up to so many. */
const RECOVERED = { from: 2, to: 10 } as const;
/** The starter's first pull: until it turns it draws far more than after. */
const INRUSH_SECONDS = 0.3;
/** From this rate on a ripple can be seen at all, 1/s. */
const RIPPLE_RATE = 100;
/** Slow swinging at one speed, V on 12 V: from where a mean needs all of it, and from where it is said. */
const SWINGS = 0.2;
const PULSES = 0.4;
/** Share of a stretch's bins left out at either end. */
const OUTLIERS = 0.1;

/** Reads a trace: its phases, and the figures that can be lifted from it. @throws RangeError for fewer than five samples */
export function readTrace(trace: Trace, systemVolts: 6 | 12 = 12): TraceReading {
  if (trace.seconds.length < 5) throw new RangeError("A trace needs at least five samples.");
  const bins = binsOf(trace, systemVolts);
  const scale = systemVolts / 12;
  const phases = phasesOf(segmentsOf(bins, scale), bins, systemVolts).map(
    ({ phase, from, to, level }): TracePhase => ({
      phase,
      from: round(from * bins.width),
      to: round(Math.min(to, bins.count) * bins.width),
      volts: Number.isNaN(level) ? undefined : round(level),
    }),
  );
  return {
    samples: trace.seconds.length,
    ratePerSecond: Number(bins.rate.toPrecision(4)),
    phases,
    figures: figuresOf(trace, phases, bins),
    notes: notesOf(trace, phases, bins),
  };
}

const round = (value: number): number => Number(value.toFixed(3));

/** Figures of phases as they stand: also of phases that a hand has moved. */
export function figuresOf(trace: Trace, phases: readonly TracePhase[], bins: Bins): TraceFigure[] {
  const figures: TraceFigure[] = [];
  const add = (test: TestId, value: number, at: number, phase: PhaseName, more: Pick<TraceFigure, "plateau" | "swing"> = {}): void => {
    if (Number.isFinite(value)) figures.push({ test, value: round(value), at: round(at), ...more, phase });
  };
  let plateau = 0;
  phases.forEach(({ phase, from, to }, k) => {
    const mean = (a: number, b: number): number => {
      const kept = bins.middle.slice(Math.floor(a / bins.width), Math.ceil(b / bins.width)).filter((value) => !Number.isNaN(value));
      return kept.length === 0 ? Number.NaN : trimmedMean(kept.sort(), OUTLIERS);
    };
    const seconds = to - from;
    if (phase === "rest" && seconds >= 0.5)
      add("battery.rest", mean(Math.max(from, to - SETTLES.rest - EDGE), Math.max(from + bins.width, to - EDGE / 2)), to, phase);
    if (phase === "key-on" && seconds >= 1)
      add("battery.settled", mean(Math.max(from + seconds / 2, to - SETTLES.key), Math.max(from + 0.6, to - EDGE / 2)), to, phase);
    if (phase === "crank") {
      const lowest = lowestOf(bins, from, to);
      const pull = firstPullOf(bins, from, to);
      add("battery.crank", lowest.volts, lowest.at, phase, pull && { swing: round(pull.turning - pull.lowest) });
      add("battery.firstPull", closingVolts(trace, bins, from, to), from, phase);
    }
    if (["idle", "run", "loads"].includes(phase)) {
      plateau++;
      if (seconds < SHORTEST_PLATEAU) return;
      const [a, b] = [from + Math.min(EDGE, seconds / 4), to - Math.min(EDGE / 2, seconds / 4)];
      // Volts climb for a while after a start: the last half of a plateau is what it came to; of one that swings, all of it.
      const swing = swingOf(bins, a + (b - a) / 3, b);
      const swings = swing > SWINGS * bins.scale;
      add("charge.volts", mean(swings ? a : a + (b - a) / 2, b), (a + b) / 2, phase, {
        plateau,
        ...(swing > PULSES * bins.scale ? { swing: round(swing) } : {}),
      });
      if (bins.rate >= RIPPLE_RATE) add("charge.ripple", rippleOf(trace, bins, a, b), (a + b) / 2, phase, { plateau });
    }
    const [before, gap, after] = [phases[k - 1]?.phase ?? "", phases[k + 1]?.phase, phases[k + 2]];
    if (phase === "off" && ["idle", "run", "loads"].includes(before)) {
      // Over a gap it is one stop still.
      const end = Math.min(gap === "gap" && after?.phase === "off" ? after.to : to, from + RECOVERED.to);
      if (end - from > RECOVERED.from + 0.5) add("battery.recovery", mean(from + RECOVERED.from, end), end, phase);
    }
  });
  return figures;
}

/** A lowest that stands alone so far below two neighbours so much alike is a spike, V on 12 V. */
const ALONE = { below: 0.7, alike: 0.6 } as const;

/** The lowest figure of a stretch, and where it stands. */
function lowestOf({ lowest, middle, width, scale }: Bins, from: number, to: number): { volts: number; at: number } {
  let [volts, at] = [Number.POSITIVE_INFINITY, from];
  const alone = (k: number): boolean => {
    const [a, b, c] = [middle[k - 1] as number, lowest[k] as number, middle[k + 1] as number];
    return Math.abs(a - c) < ALONE.alike * scale && Math.min(a, c) - b > ALONE.below * scale;
  };
  for (let k = Math.floor(from / width + 1e-6); k < Math.min(lowest.length, Math.ceil(to / width)); k++)
    if ((lowest[k] as number) < volts && !alone(k)) [volts, at] = [lowest[k] as number, k * width];
  return { volts, at };
}

/** How far the bins of a stretch swing to and fro, a few at either end left out. */
function swingOf({ middle, width }: Bins, from: number, to: number): number {
  const levels = middle
    .slice(Math.ceil(from / width), Math.floor(to / width))
    .filter((value) => !Number.isNaN(value))
    .sort();
  return levels.length < 10 ? 0 : (levels[Math.floor(0.95 * levels.length)] as number) - (levels[Math.floor(0.05 * levels.length)] as number);
}

/** True rms of what rides on the volts of a plateau, its slow part taken off bin by bin. */
function rippleOf({ seconds, volts }: Trace, { middle, width, turned }: Bins, from: number, to: number): number {
  const first = seconds[0] ?? 0;
  let [square, count] = [0, 0];
  for (let k = lowerBound(seconds, first + from); k < seconds.length && (seconds[k] as number) < first + to; k++) {
    const value = (turned ? -1 : 1) * (volts[k] as number);
    const base = middle[Math.floor(((seconds[k] as number) - first) / width)] as number;
    // A spike is no ripple.
    if (!Number.isFinite(value) || Number.isNaN(base) || Math.abs(value - base) > 3) continue;
    square += (value - base) ** 2;
    count++;
  }
  return count < 20 ? Number.NaN : Math.sqrt(square / count);
}

/** A first pull that goes below what follows it by less is none, V on 12 V. */
const LEAST_PULL = 0.2;
/** Samples a second from which the first pull of a crank is seen. */
const PULL_RATE = 20;

/**
 * Before anything turns: so long about a crank's beginning, s, in a log of at least so many samples a second. From a quarter of the fall
 * to three quarters it takes no longer than this, s: a logger that averages shows what the engine turned at. So long it stands there:
 * then the engine's first stroke pulls, further down where it drags.
 */
const CLOSES = { before: 0.05, after: 0.08, rate: 100, falls: 0.015, stands: 0.02 } as const;

/** Volts as the starter's contact closes; NaN where the log is too slow to show them. */
function closingVolts({ seconds, volts }: Trace, bins: Bins, from: number, to: number): number {
  if (bins.rate < CLOSES.rate || to - from < 2 * INRUSH_SECONDS) return Number.NaN;
  const lowest = lowestOf(bins, from - CLOSES.before, from + CLOSES.after).volts;
  const base = bins.middle[Math.floor((from - CLOSES.before) / bins.width) - 1] ?? Number.NaN;
  const first = seconds[0] ?? 0;
  const sinks = (share: number): number => {
    let k = lowerBound(seconds, first + from - CLOSES.before);
    while (k < seconds.length && !(Math.abs(volts[k] as number) < base - share * (base - lowest))) k++;
    return seconds[k] ?? Number.NaN;
  };
  const closed = sinks(0.75);
  if (!(closed - sinks(0.25) <= CLOSES.falls + 1 / bins.rate)) return Number.NaN;
  const shown = volts.subarray(lowerBound(seconds, closed), lowerBound(seconds, closed + CLOSES.stands));
  // A spike below what the bins call the lowest is none of it.
  return Math.max(
    lowest,
    shown.reduce((least, value) => Math.min(least, Math.abs(value)), Number.POSITIVE_INFINITY),
  );
}

/** The lowest of a crank's first pull, and the lowest once it turned; undefined where the log is too slow or too short to tell, or neither is below the other. */
function firstPullOf(bins: Bins, from: number, to: number): { lowest: number; turning: number } | undefined {
  if (bins.rate < PULL_RATE || to - from <= 2 * INRUSH_SECONDS) return undefined;
  const lowest = lowestOf(bins, from, from + INRUSH_SECONDS).volts;
  const turning = lowestOf(bins, from + INRUSH_SECONDS, to).volts;
  return Number.isFinite(turning) && turning - lowest > LEAST_PULL * bins.scale ? { lowest, turning } : undefined;
}

/** What is worth saying of a trace beside its figures. */
function notesOf(trace: Trace, phases: readonly TracePhase[], bins: Bins): string[] {
  const { scale } = bins;
  const notes: string[] = [];
  if (bins.turned) notes.push("red and black were changed over: every figure was turned");
  const gaps = phases.filter(({ phase }) => phase === "gap");
  if (gaps.length > 0)
    notes.push(
      `${gaps.length} ${gaps.length === 1 ? "gap" : "gaps"} without readings, ${gaps.reduce((sum, { from, to }) => sum + to - from, 0).toFixed(1)} s in all`,
    );
  const cranks = phases.filter(({ phase }) => phase === "crank");
  if (cranks.length > 1) notes.push(`${cranks.length} cranks: each has its own lowest`);
  for (const { from, to } of cranks) {
    const pull = firstPullOf(bins, from, to);
    if (pull) notes.push(`crank at ${from.toFixed(1)} s: lowest ${pull.lowest.toFixed(2)} V at the first pull, ${pull.turning.toFixed(2)} V once it turned`);
    const shape = crankShapeOf(trace, from, to, scale);
    if (shape) notes.push(`crank at ${from.toFixed(1)} s: ${crankShapeWords(shape, scale)}`);
    if (bins.rate < PULL_RATE)
      notes.push(`at ${Number(bins.rate.toPrecision(2))} samples a second the first pull of the crank at ${from.toFixed(1)} s may be missed`);
  }
  for (const { phase, from, to } of phases) {
    if (!["idle", "run", "loads"].includes(phase) || to - from < 4) continue;
    const swing = swingOf(bins, from + EDGE, to - EDGE);
    if (swing > PULSES * scale) notes.push(`pulses by ${swing.toFixed(2)} V from ${from.toFixed(1)} to ${to.toFixed(1)} s`);
  }
  return notes;
}
