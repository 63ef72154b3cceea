import type { Bins } from "./bins";
import { medianOf } from "./median";
import type { Segment } from "./segments";

/** What the machine was doing in a stretch of a trace. */
export const PHASES = ["rest", "key-on", "crank", "idle", "run", "loads", "off", "gap"] as const;
export type PhaseName = (typeof PHASES)[number];

/** One phase: from when to when, in bins, and the level it stood at. */
interface Phase {
  phase: PhaseName;
  from: number;
  to: number;
  level: number;
  /** How long the change took with which it begins, s. */
  way: number;
  /** How far its end lies from its middle, V. */
  drift: number;
}

/** Figures in volts are of 12 V and scaled to the system. */
const VOLTS = {
  /** No lead battery rests above. */
  mostRest: 13.75,
  usualRest: 12.6,
  /** Charging shows from so far above rest. */
  charges: 0.1,
  /** A key turned on pulls at least so much. */
  key: 0.03,
  /** Two levels of one kind lie within this. */
  alike: 0.12,
  /** A stopped engine's volts come down to within so much of rest. */
  stopped: 0.6,
  /** …or to within this share of how far they stood above it: what was overcharged stays high for long. */
  share: 0.28,
  /** Nothing but an engine lifts volts by so much without a crank. */
  uncranked: 0.35,
  /** What rises again by so much had not stopped. */
  rises: 0.08,
} as const;
/** What an engine puts on the volts, as a multiple of what they showed at rest, and so much more, V on 12 V. */
const HEARD = { times: 1.8, unrest: 0.004, ripple: 0.012 } as const;
/** Phases shorter than this belong to what follows them, s: they are the way there. */
const PASSING = 0.7;
/** How near to the idle's level, as a share of the way to the highest, an engine is taken to idle. */
const IDLES = 0.3;

/** A level that lasts so long, s, and drifts by no more than this, V on 12 V, is one that the volts stay at. */
const STAYS = 2.5;
const STILL = 0.1;
/** So near to an idle's level an engine idles, however it came there: V on 12 V, or a share of the way to the highest. */
const SAME = { volts: 0.045, share: 0.05 } as const;
/** A switch is thrown within so long, s; an engine takes longer from one speed to another. */
const SWITCHED = 0.21;
/** What is slower than this does not see the difference, s. */
const SEES = 0.06;

/** What a trace shows while nothing is on. */
interface Still {
  rest: number;
  unrest: number;
  ripple: number;
  scale: number;
  width: number;
}

/**
 * Names the segments of a trace: a battery falls for a key, dips for a starter, rises for an engine, falls again for loads, and drifts
 * back to its rest once all is over. What volts alone cannot tell is told by what comes after: an engine was started where the volts
 * rise above rest without another crank.
 * @param systemVolts 6 or 12
 */
export function phasesOf(segments: readonly Segment[], bins: Bins, systemVolts: 6 | 12): Phase[] {
  const still = stillOf(segments, systemVolts / 12, bins.width);
  let [running, ran, stopped] = [false, false, false];
  const phases = segments.map((segment, k): Phase => {
    const { from, to, level, kind, way } = segment;
    const drift = segment.ends - level;
    const named = (phase: PhaseName): Phase => ({ phase, from, to, level, way, drift });
    if (kind === "gap") return named("gap");
    if (kind === "crank") {
      [running, stopped] = [false, false];
      return named("crank");
    }
    const last = segments.slice(0, k).findLast((segment) => segment.kind !== "gap");
    if (!running && !stopped && isStarted(segments, k, still, last?.kind === "crank")) running = true;
    if (running && isStopped(segments, k, bins, still)) [running, stopped] = [false, true];
    if (running) {
      ran = true;
      return named("run");
    }
    if (level < still.rest - (ran ? 3 : 1) * VOLTS.key * still.scale) return named("key-on");
    return named(ran ? "off" : "rest");
  });
  return joined(passedOver(plateaus(phases, still), still), bins);
}

/** Rest volts and quiet noise, from the first stretch that stands below any charge. */
function stillOf(segments: readonly Segment[], scale: number, width: number): Still {
  const levels = segments.filter(({ kind }) => kind === "level");
  const first = levels.find(({ from, to }) => (to - from) * width >= 1) ?? levels[0];
  const rests = first !== undefined && first.level < VOLTS.mostRest * scale && !risesUncranked(segments, first, scale);
  return {
    rest: rests ? first.ends : VOLTS.usualRest * scale,
    unrest: Math.max(0.003 * scale, rests ? first.unrest : 0),
    ripple: Math.max(0.01 * scale, rests ? first.ripple : 0),
    scale,
    width,
  };
}

/** Whether the volts rise from a segment without a crank: then its engine runs already. */
function risesUncranked(segments: readonly Segment[], first: Segment, scale: number): boolean {
  const crank = segments.findIndex(({ kind }) => kind === "crank");
  return segments.some(
    ({ kind, level, from }, k) => kind === "level" && from > first.from && (crank < 0 || k < crank) && level > first.level + VOLTS.uncranked * scale,
  );
}

const isHeard = ({ unrest, ripple }: Segment, still: Still): boolean =>
  unrest > HEARD.times * still.unrest + HEARD.unrest * still.scale || ripple > HEARD.times * still.ripple + HEARD.ripple * still.scale;

const loudness = ({ unrest, ripple }: Segment): number => unrest + ripple;
/** What is left of an engine's noise in another of its plateaus, at least. */
const STILL_THERE = 0.5;

/** Whether the engine runs from a segment on: after a crank where the volts come to stand above rest, or are heard, before there is another. */
function isStarted(segments: readonly Segment[], k: number, still: Still, afterCrank: boolean): boolean {
  const { rest, scale, width } = still;
  const segment = segments[k] as Segment;
  if (!afterCrank)
    return (
      segment.level > rest + 2 * VOLTS.stopped * scale || (k === 0 && (segment.level > VOLTS.mostRest * scale || risesUncranked(segments, segment, scale)))
    );
  for (let j = k; j < segments.length; j++) {
    const later = segments[j] as Segment;
    if (later.kind === "gap") continue;
    if (later.kind === "crank") return false;
    if (later.level > rest + VOLTS.charges * scale) return true;
    if (j === k && isHeard(later, still) && (later.to - later.from) * width > 1.5) return true;
  }
  return false;
}

/** A stopped engine: from here the volts only come down, quiet, to near their rest, until there is another crank. */
function isStopped(segments: readonly Segment[], k: number, bins: Bins, still: Still): boolean {
  const { rest, scale } = still;
  const segment = segments[k] as Segment;
  const before = segments.slice(0, k).findLast(({ kind }) => kind === "level");
  if (!before || segment.level > before.ends + 0.3 * VOLTS.key * scale) return false;
  const loud = isHeard(before, still) && isHeard(segment, still) && loudness(segment) > STILL_THERE * loudness(before);
  let ends = segment.ends;
  let last = segment;
  for (let j = k + 1; j < segments.length; j++) {
    const later = segments[j] as Segment;
    if (later.kind === "crank") break;
    if (later.kind === "gap") continue;
    if (later.level > ends + VOLTS.rises * scale) return false;
    // Stopped, the volts come down by themselves; a further step down to above rest is the engine's or a load's.
    if (segments[j - 1]?.kind === "level" && last.last - later.first > VOLTS.alike * scale && later.level > rest + VOLTS.charges * scale) return false;
    ends = Math.min(ends, later.ends);
    last = later;
  }
  return (
    !loud &&
    ends < before.ends - VOLTS.key * scale &&
    ends <= rest + Math.max(VOLTS.stopped * scale, VOLTS.share * (before.ends - rest)) &&
    !standsFirst(segment.from, last.to, ends, bins, still)
  );
}

/** What has stopped falls ever more slowly: between these seconds at no less than this share of its mean rate. Less than so much is no fall, V on 12 V. */
const SLOWS = { early: [0.8, 1.6], late: [3.2, 4.2], share: 0.6, least: 0.05 } as const;

/** Whether a level stands for a while before it falls to where it ends: a stopped engine's does not. @param end bin up to which it falls */
function standsFirst(from: number, end: number, ends: number, { middle }: Bins, { scale, width }: Still): boolean {
  const between = ([a, b]: readonly [number, number]): number =>
    medianOf(middle.slice(from + Math.round(a / width), Math.min(end, from + Math.round(b / width) + 1)));
  const [first, then] = [between(SLOWS.early), between(SLOWS.late)];
  if (Number.isNaN(then) || first - ends < SLOWS.least * scale) return false;
  const rate = (first - then) / (SLOWS.late[0] - SLOWS.early[0]);
  return rate < (SLOWS.share * (first - ends)) / ((end - from) * width);
}

/** Phases of one name that follow one another are one. */
function joined(phases: readonly Phase[], { middle }: Bins): Phase[] {
  const all: Phase[] = [];
  for (const phase of phases) {
    const last = all.at(-1);
    if (last?.phase === phase.phase) {
      last.to = phase.to;
      last.level = medianOf(middle.slice(last.from, last.to));
    } else all.push({ ...phase });
  }
  return all;
}

/** What lasts a moment only, and is neither crank nor gap, is the way to what follows it. */
function passedOver(phases: readonly Phase[], { width }: Still): Phase[] {
  const kept: Phase[] = [];
  let from: number | undefined;
  for (const [k, phase] of phases.entries()) {
    const next = phases[k + 1]?.phase;
    const passing =
      phase.phase !== "crank" && phase.phase !== "gap" && (phase.to - phase.from) * width < PASSING && next !== undefined && next !== "gap" && next !== "crank";
    if (passing) from ??= phase.from;
    else {
      kept.push({ ...phase, from: from ?? phase.from });
      from = undefined;
    }
  }
  return kept;
}

/** Names the stretches of a running engine by their levels: it idles after a start, is revved where it stands higher, and loaded where it falls from there. */
function plateaus(phases: readonly Phase[], { scale, width }: Still): Phase[] {
  const alike = VOLTS.alike * scale;
  const named: Phase[] = [];
  for (let k = 0; k < phases.length; ) {
    let end = k;
    while (phases[end]?.phase === "run" || (end > k && phases[end]?.phase === "gap" && phases[end + 1]?.phase === "run")) end++;
    if (end === k) {
      named.push(phases[k] as Phase);
      k++;
      continue;
    }
    const stretch = phases.slice(k, end);
    const levels = stretch.filter(({ phase, from, to }) => phase === "run" && (to - from) * width >= PASSING).map(({ level }) => level);
    const started = named.findLast(({ phase }) => phase !== "gap")?.phase === "crank";
    // Just after a start the volts are still on their way up: it idles where they first stay.
    const idleAt = Math.max(
      0,
      stretch.findIndex(({ phase, from, to, drift }) => phase === "run" && (to - from) * width >= STAYS && Math.abs(drift) < STILL * scale),
    );
    const idle = stretch[idleAt]?.level ?? 0;
    const top = Math.max(...levels, idle);
    // An engine that ran before the trace began idles there where it is revved later.
    const idling = started || top - idle > alike;
    let revved = idling ? undefined : idle;
    for (const [n, phase] of stretch.entries()) {
      if (phase.phase === "gap") {
        named.push(phase);
        continue;
      }
      const apart = Math.abs(phase.level - idle);
      // From revved to about as low as its idle: a switch does it at once, an engine takes its time.
      const slowed = width <= SEES && phase.way > SWITCHED && apart <= Math.max(0.3 * alike, IDLES * (top - idle));
      const idles = idling && (n < idleAt || apart <= Math.max(SAME.volts * scale, SAME.share * (top - idle)) || (slowed && named.at(-1)?.phase !== "loads"));
      // What rises from an idle is revved, however high it stood before: no load lifts the volts.
      const falls = revved !== undefined && phase.level < revved - 0.5 * alike && named.at(-1)?.phase !== "idle";
      const name: PhaseName = idles ? "idle" : phase.level < idle || falls ? "loads" : "run";
      if (name === "run") revved = Math.max(phase.level, revved ?? phase.level);
      named.push({ ...phase, phase: name });
    }
    k = end;
  }
  return named;
}
