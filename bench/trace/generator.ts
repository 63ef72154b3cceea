import { Chance } from "../diagnosis/chance";

/**
 * Logged traces of a machine that is taken through a job, by formulas of its own: a battery with surface charge and two time constants,
 * a starter with its first pull and the strokes of its engine, a regulator, hands and loggers with their disturbances. It shares nothing
 * with what reads them.
 */

type Name = "rest" | "key-on" | "crank" | "idle" | "run" | "loads" | "off" | "gap";

export interface Made {
  seconds: Float64Array;
  volts: Float64Array;
  systemVolts: 6 | 12;
  rate: number;
  /** What was really done, and from when to when. */
  phases: { phase: Name; from: number; to: number }[];
  /** What the logger would have shown without noise, by test and phase. */
  figures: { test: string; value: number; from: number; to: number }[];
  disturbances: string[];
}

const DISTURBANCES = ["spikes", "gap", "drop-outs", "handheld", "cranks", "coarse", "noisy", "jitter", "pulsing", "weak", "reversed", "drifting"] as const;

interface Leg {
  phase: Name;
  seconds: number;
  /** Volts it heads for, the time constant with which it gets there, and how long the hand takes over it. */
  to: number;
  tau: number;
  ramp: number;
  ripple: number;
}

/** A trace by its seed. */
export function traceOf(seed: number): Made {
  const c = new Chance(seed);
  const disturbances = DISTURBANCES.filter(() => c.next() < 0.22);
  const has = (name: (typeof DISTURBANCES)[number]): boolean => disturbances.includes(name);
  const systemVolts = c.next() < 0.12 ? 6 : 12;
  const k = systemVolts / 12;
  const rate = has("handheld") ? 10 : c.pick([20, 50, 100, 200, 500, 1000]);
  const rest = c.between(12.2, 12.95) * k;
  const keyDrop = c.between(0.08, 0.6) * k;
  const set = c.between(13.9, 14.8) * k;
  const dead = has("weak");
  const idleVolts = dead ? rest + c.between(0.18, 0.35) * k : c.next() < 0.3 ? set - c.between(0.15, 0.4) * k : rest + c.between(0.3, 0.9) * k;
  const runVolts = dead ? idleVolts + c.between(0.25, 0.5) * k : set;
  // Volts are all that is told: plateaus that follow one another stand apart by what a meter shows.
  const idleBelow = runVolts - idleVolts;
  const drop = c.between(0.18, 0.5) * k;
  const loadDrop = Math.abs(drop - idleBelow) < 0.1 * k ? idleBelow + (drop < idleBelow && idleBelow > 0.28 * k ? -0.1 : 0.1) * k : drop;
  const crankSteady = rest - keyDrop - c.between(1.2, 2.6) * k;
  const inrush = c.between(0.6, 1.8) * k;
  const ripple = c.between(0.015, 0.06) * k;
  const legs: Leg[] = [];
  const leg = (phase: Name, seconds: number, to: number, tau = 0.02, ramp = 0, waves = 0): void => {
    legs.push({ phase, seconds, to, tau, ramp, ripple: waves });
  };
  leg("rest", c.between(3, 12), rest);
  leg("key-on", c.between(4, 20), rest - keyDrop, c.between(0.1, 0.8));
  const cranks = has("cranks") ? c.pick([2, 3]) : 1;
  for (let n = 0; n < cranks; n++) {
    leg("crank", c.between(0.8, 4), crankSteady, 0.015);
    if (n < cranks - 1) leg("key-on", c.between(2, 6), rest - keyDrop - c.between(0.02, 0.08) * k, c.between(0.1, 0.5));
  }
  leg("idle", c.between(5, 15), idleVolts, c.between(0.2, 0.6), 0, ripple);
  const rounds = c.pick([1, 1, 2]);
  for (let n = 0; n < rounds; n++) {
    leg("run", c.between(4, 12), runVolts, 0.1, c.between(0.2, 0.9), ripple);
    if (c.next() < 0.7) {
      leg("loads", c.between(4, 10), runVolts - loadDrop, 0.1, 0, ripple);
      if (c.next() < 0.4) leg("run", c.between(4, 8), runVolts, 0.1, 0, ripple);
    }
    leg("idle", c.between(4, 10), idleVolts, 0.1, c.between(0.2, 0.8), ripple);
  }
  leg("off", c.between(12, 30), rest + c.between(0.02, 0.1) * k, c.between(3, 7));
  const clean = drawn(
    legs,
    rate,
    { inrush, strokes: c.between(0.15, 0.5) * k, hertz: c.between(2.5, 6), surge: has("pulsing") ? c.between(0.5, 1) * k : 0, rest },
    c,
  );
  const figures = figuresOf(legs, clean, rate);
  const { seconds, volts, phases } = disturbed(legs, clean, rate, k, has, c);
  return { seconds, volts, systemVolts, rate, phases, figures, disturbances };
}

interface Shape {
  inrush: number;
  strokes: number;
  hertz: number;
  surge: number;
  rest: number;
}

/** The volts without anybody's noise. */
function drawn(legs: readonly Leg[], rate: number, { inrush, strokes, hertz, surge, rest }: Shape, c: Chance): { level: Float64Array; wave: Float64Array } {
  const count = Math.floor(legs.reduce((sum, { seconds }) => sum + seconds, 0) * rate);
  const [level, wave] = [new Float64Array(count), new Float64Array(count)];
  let [at, began, value] = [0, 0, rest];
  const turn = c.between(0, 6.28);
  const swings = c.between(0.4, 1.2);
  for (const { phase, seconds, to, tau, ramp, ripple } of legs) {
    const from = value;
    const end = Math.min(count, Math.round((began + seconds) * rate));
    for (; at < end; at++) {
      const t = at / rate - began;
      const aim = ramp > 0 && t < ramp ? from + ((to - from) * t) / ramp : to;
      value += (aim - value) * (1 - Math.exp(-1 / rate / tau));
      level[at] = value;
      if (phase === "crank") {
        // The first pull dies away as the starter comes up to speed; then one stroke after another.
        const pull = inrush * Math.exp(-t / 0.06);
        const stroke = strokes * Math.sin(2 * Math.PI * hertz * t) * Math.min(1, t / 0.2);
        level[at] = value - pull - stroke;
      }
      if (ripple > 0)
        wave[at] =
          ripple * Math.SQRT2 * Math.sin(2 * Math.PI * 73.37 * (at / rate) + turn) +
          (phase === "run" && surge > 0 ? (surge / 2) * Math.sin(2 * Math.PI * swings * t) : 0);
    }
    began += seconds;
  }
  return { level, wave };
}

/** What a patient eye would have written down. */
function figuresOf(legs: readonly Leg[], { level }: { level: Float64Array }, rate: number): Made["figures"] {
  const figures: Made["figures"] = [];
  let began = 0;
  const mean = (from: number, to: number): number => {
    const part = level.subarray(Math.round(from * rate), Math.max(Math.round(from * rate) + 1, Math.round(to * rate)));
    return part.reduce((sum, sample) => sum + sample, 0) / part.length;
  };
  for (const { phase, seconds } of legs) {
    const end = began + seconds;
    if (phase === "rest") figures.push({ test: "battery.rest", value: mean(end - 2, end - 0.2), from: began, to: end });
    if (phase === "key-on") figures.push({ test: "battery.settled", value: mean(end - Math.min(2, seconds / 2), end - 0.2), from: began, to: end });
    if (phase === "crank")
      figures.push({ test: "battery.crank", value: Math.min(...level.subarray(Math.round(began * rate), Math.round(end * rate))), from: began, to: end });
    if (["idle", "run", "loads"].includes(phase)) figures.push({ test: "charge.volts", value: mean(began + seconds / 2, end - 0.2), from: began, to: end });
    if (phase === "off") figures.push({ test: "battery.recovery", value: mean(began + 2, began + 10), from: began, to: end });
    began = end;
  }
  return figures;
}

/** What logger, leads and hands make of it. */
function disturbed(
  legs: readonly Leg[],
  { level, wave }: { level: Float64Array; wave: Float64Array },
  rate: number,
  k: number,
  has: (name: (typeof DISTURBANCES)[number]) => boolean,
  c: Chance,
): Pick<Made, "seconds" | "volts" | "phases"> {
  const digit = has("coarse") ? 0.05 * k : 0.01;
  const noise = (has("noisy") ? 0.025 : 0.004) * k;
  const bias = has("drifting") ? c.between(-0.02, 0.02) * k : 0;
  const sign = has("reversed") ? -1 : 1;
  let phases: Made["phases"] = [];
  let began = 0;
  for (const { phase, seconds } of legs) {
    phases.push({ phase, from: began, to: began + seconds });
    began += seconds;
  }
  const lost = new Uint8Array(level.length);
  if (has("gap")) {
    const long = phases.filter(({ phase, from, to }) => phase !== "crank" && to - from > 6);
    const where = long.length > 0 ? c.pick(long) : undefined;
    if (where) {
      const [from, to] = [where.from + 2, where.from + 2 + c.between(0.8, 1.6)];
      for (let i = Math.round(from * rate); i < Math.round(to * rate); i++) lost[i] = 1;
      phases = phases.flatMap((phase) =>
        phase === where
          ? [
              { ...phase, to: from },
              { phase: "gap" as const, from, to },
              { ...phase, from: to },
            ]
          : [phase],
      );
    }
  }
  const [seconds, volts]: [number[], number[]] = [[], []];
  let dropped = 0;
  for (let i = 0; i < level.length; i++) {
    if (lost[i]) continue;
    let value = (level[i] as number) + (wave[i] as number) + c.normal(noise) + bias * (i / level.length);
    if (has("spikes") && c.next() < 0.5 / rate) value += c.pick([-1, 1]) * c.between(1, 8);
    if (has("drop-outs")) {
      if (dropped > 0) dropped--;
      else if (c.next() < 0.15 / rate) dropped = Math.max(1, Math.round(c.between(0.02, 0.2) * rate));
      if (dropped > 0) value = c.between(-0.02, 0.05);
    }
    seconds.push(i / rate + (has("jitter") ? c.between(-0.3, 0.3) / rate : 0));
    volts.push(sign * Math.round(value / digit) * digit);
  }
  return { seconds: Float64Array.from(seconds), volts: Float64Array.from(volts), phases };
}
