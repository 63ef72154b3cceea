import type { Part } from "../machine/part";
import { type TestId, testOf } from "../procedure/catalogue";
import type { Step } from "../procedure/step";
import { type Look, lookOf, weighedSteps } from "./look";
import type { Population } from "./population";
import type { Posterior } from "./posterior";
import { isWorded, noiseOf } from "./predict";
import { lossOf, type Prices } from "./prices";

/** A reading worth taking, and what it is worth. */
export interface Suggestion {
  step: Step;
  look: Look;
  /** Minutes at the point, and to reach it; access that is open already costs nothing. */
  minutes: number;
  accessMinutes: number;
  /** Bits about what must be mended. */
  gainBits: number;
  /** Money that knowing it saves on average. */
  worth: number;
  score: number;
  /** Where a test has many points: what all of them gain together, in money, and their minutes with access. */
  visit: { gain: number; minutes: number } | undefined;
  /** The two sets it tells apart best. */
  splits: readonly [string, string] | undefined;
  /** The outcome that would turn the verdict, if one is likely enough. */
  turns: { to: string; at: number; open: boolean; word: number; probability: number } | undefined;
}

/** State of the job as ranking needs it. */
export interface Bench {
  /** Keys of looks already taken in the present state, or skipped. */
  done: ReadonlySet<string>;
  /** Tests read so far, in any state. */
  tests: ReadonlySet<TestId>;
  charged: boolean;
  hot: boolean;
  mended: readonly Part[];
  prices: Prices;
  ohmsResolution: number;
}

/** Money that a bit is worth for itself: it is what the readings after this one stand on. */
const MONEY_A_BIT = 20;
/** Share of a place's access that the reading pays for; others will use it too. */
const ACCESS_SHARE = 1 / 3;
const BINS = 16;
/** Particles that stand for the posterior when readings are weighed up: the heaviest, to this share of the weight. */
const HEAVIEST = { share: 0.99, most: 180 } as const;
/** Decisions that are weighed: no other set can be the best. */
const MOST_DECISIONS = 8;
/** What a charge or a warm-up costs before the first reading that needs it, min. */
const PREPARE = { charge: 10, heat: 12 } as const;
/** Tests that need a tool few shops have, or a spare unit: never asked for, weighed when taken. */
const SELDOM: readonly TestId[] = ["battery.conductance", "swap.unit", "rotor.pull", "inspect.fluid"];
/** What must have been read before a step makes sense. */
const AFTER: Partial<Record<TestId, TestId>> = { "drain.unitUnplugged": "drain.current", "drain.fusePulled": "drain.current" };
const CHARGED: readonly TestId[] = ["battery.rest", "battery.settled", "battery.crank", "battery.load"];
const HEATED: readonly TestId[] = ["stator.resistance", "charge.volts"];
const TURN = { least: 0.08 } as const;
/** What splits the sets is worked out for the best few, which are shown. */
const SHOWN = 8;

const LOOKS = new WeakMap<Population, Map<string, Look[]>>();

/** Every look that could be asked for in the present state of the job. */
function candidates(population: Population, bench: Bench): Look[] {
  let byState = LOOKS.get(population);
  if (!byState) {
    byState = new Map();
    LOOKS.set(population, byState);
  }
  const state = `${bench.charged}${bench.tests.has("drain.current")}${bench.mended.join()}`;
  const all = byState.get(state) ?? allLooks(population, bench);
  byState.set(state, all);
  return all.filter((look) => !bench.done.has(look.key));
}

function allLooks(population: Population, bench: Bench): Look[] {
  const looks: Look[] = [];
  for (const step of weighedSteps(population.sheet)) {
    const { test } = step;
    if (SELDOM.includes(test)) continue;
    const before = AFTER[test];
    if (before && !bench.tests.has(before)) continue;
    if (test === "fuse.continuity" && step.at !== population.sheet.fuses[0]?.id) continue;
    const state = { mended: bench.mended };
    const battery = CHARGED.includes(test);
    looks.push(lookOf(step, { ...state, charged: bench.charged && (battery || test === "charge.volts") }));
    if (battery && !bench.charged && bench.mended.length === 0) looks.push(lookOf(step, { ...state, charged: true }));
    if (HEATED.includes(test) && step.rpm !== "idle" && step.loads !== "all")
      looks.push(lookOf(step, { ...state, hot: true, charged: bench.charged && test === "charge.volts" }));
  }
  return looks;
}

/** Ranks what could be read next. @param setOf index of each particle's set among `sets`; `sets` in any order */
export function rank(posterior: Posterior, sets: readonly string[], setOf: Int32Array, bench: Bench): Suggestion[] {
  const { population, weights } = posterior;
  const heavy = heaviest(weights);
  const total = heavy.reduce((sum, i) => sum + (weights[i] as number), 0);
  const odds = new Float64Array(sets.length);
  for (const i of heavy) odds[setOf[i] as number] = (odds[setOf[i] as number] as number) + (weights[i] as number) / total;
  const entropy = bitsOf(odds, 0, odds.length, 1);
  const decisions = Array.from(odds.keys())
    .sort((a, b) => (odds[b] as number) - (odds[a] as number))
    .slice(0, MOST_DECISIONS);
  const losses = decisions.map((d) => Float64Array.from(sets, (needed) => lossOf(sets[d] as string, needed, bench.prices, bench.mended.length > 0)));
  const leastLoss = (table: Float64Array, from: number): { loss: number; best: number } => {
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    for (let d = 0; d < losses.length; d++) {
      const its = losses[d] as Float64Array;
      let sum = 0;
      for (let s = 0; s < its.length; s++) sum += (its[s] as number) * (table[from + s] as number);
      if (sum < least) {
        least = sum;
        best = d;
      }
    }
    return { loss: least, best };
  };
  const now = leastLoss(odds, 0);
  const spreadTable = new Float64Array((BINS + 1) * sets.length);
  const suggestions = candidates(population, bench).map((look): Suggestion => {
    const table = outcomes(posterior, look, heavy, total, setOf, sets.length, bench.ohmsResolution, spreadTable);
    let bits = entropy;
    let after = 0;
    let turns: Suggestion["turns"];
    for (let bin = 0; bin < table.bins; bin++) {
      let mass = 0;
      for (let s = 0; s < sets.length; s++) mass += table.of[bin * sets.length + s] as number;
      if (mass <= 0) continue;
      bits -= bitsOf(table.of, bin * sets.length, sets.length, mass) * mass;
      const then = leastLoss(table.of, bin * sets.length);
      after += then.loss;
      if (then.best !== now.best && mass > Math.max(TURN.least, turns?.probability ?? 0)) {
        turns = { to: sets[decisions[then.best] as number] as string, ...table.name(bin), probability: mass };
      }
    }
    const { minutes, access } = timeFor(look, bench);
    const worth = Math.max(0, now.loss - after);
    const gainBits = Math.max(0, bits);
    return {
      step: look.step,
      look,
      minutes,
      accessMinutes: access,
      gainBits,
      worth,
      score: (worth + MONEY_A_BIT * gainBits) / (minutes + ACCESS_SHARE * access),
      visit: undefined,
      splits: undefined,
      turns,
    };
  });
  visits(suggestions);
  suggestions.sort((a, b) => b.score - a.score);
  for (const one of suggestions.slice(0, SHOWN)) {
    one.splits = splitBy(outcomes(posterior, one.look, heavy, total, setOf, sets.length, bench.ohmsResolution, spreadTable), sets, odds);
  }
  return suggestions;
}

/**
 * A test of many points is one visit: the first diode tells little, all of them settle the unit. What the visit's points are
 * worth together is shared out among them, its access counted once.
 */
function visits(suggestions: readonly Suggestion[]): void {
  const byVisit = new Map<string, Suggestion[]>();
  for (const one of suggestions) {
    const { step, look } = one;
    const key = [step.test, step.rpm, step.loads, look.hot, look.charged].join();
    byVisit.set(key, [...(byVisit.get(key) ?? []), one]);
  }
  for (const visit of byVisit.values()) {
    if (visit.length < 2) continue;
    const first = visit[0] as Suggestion;
    const gain = SHARED * visit.reduce((sum, { worth, gainBits }) => sum + worth + MONEY_A_BIT * gainBits, 0);
    const minutes = visit.reduce((sum, one) => sum + pointMinutes(one), 0) + prepareMinutes(first);
    for (const one of visit) {
      one.visit = { gain, minutes: minutes + first.accessMinutes };
      one.score = Math.max(
        one.score,
        (gain / (minutes + ACCESS_SHARE * first.accessMinutes)) * (one.score / Math.max(1e-9, ...visit.map(({ score }) => score))),
      );
    }
  }
}

const pointMinutes = ({ step }: Suggestion): number => testOf(step.test).minutes;
const prepareMinutes = (one: Suggestion): number => one.minutes - pointMinutes(one);
/** Points of one visit tell partly the same. */
const SHARED = 0.8;

/** Indices of the heaviest particles. */
function heaviest(weights: Float64Array): number[] {
  const order = Array.from(weights.keys()).filter((i) => (weights[i] as number) > 1e-7);
  order.sort((a, b) => (weights[b] as number) - (weights[a] as number));
  let sum = 0;
  const taken: number[] = [];
  for (const i of order) {
    if (sum > HEAVIEST.share || taken.length >= HEAVIEST.most) break;
    taken.push(i);
    sum += weights[i] as number;
  }
  return taken;
}

/** Entropy of a slice of a table, in bits, its mass normalised away. */
function bitsOf(table: Float64Array, from: number, count: number, mass: number): number {
  let bits = 0;
  for (let s = 0; s < count; s++) {
    const share = (table[from + s] as number) / mass;
    if (share > 1e-12) bits -= share * Math.log2(share);
  }
  return bits;
}

interface Outcomes {
  of: Float64Array;
  bins: number;
  name: (bin: number) => { at: number; open: boolean; word: number };
}

/** The joint table of what a look shows (figures in bins, the open line in one of its own) and which set is needed. */
function outcomes(
  posterior: Posterior,
  look: Look,
  heavy: readonly number[],
  total: number,
  setOf: Int32Array,
  sets: number,
  ohmsResolution: number,
  table: Float64Array,
): Outcomes {
  const { population, weights } = posterior;
  const column = population.column(look);
  table.fill(0);
  const scale = 1 / total;
  const add = (bin: number, i: number, mass: number): void => {
    const at = bin * sets + (setOf[i] as number);
    table[at] = (table[at] as number) + mass * (weights[i] as number) * scale;
  };
  if (isWorded(look.step.test)) {
    for (const i of heavy) {
      for (const [k, its] of column.words.entries()) add(k, i, its[i] as number);
    }
    return { of: table, bins: column.words.length, name: (word) => ({ at: 0, open: false, word }) };
  }
  const seen = { mean: 0, variance: 0 };
  const means = new Float64Array(heavy.length);
  const spreads = new Float64Array(heavy.length);
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  heavy.forEach((i, k) => {
    if ((column.open[i] as number) >= 0.5) return;
    posterior.foresee(column, i, seen);
    const spread = Math.sqrt(seen.variance + noiseOf(look.step.test, seen.mean, ohmsResolution) ** 2);
    means[k] = seen.mean;
    spreads[k] = spread;
    low = Math.min(low, seen.mean - 2 * spread);
    high = Math.max(high, seen.mean + 2 * spread);
  });
  const width = Math.max(1e-9, (high - low) / BINS);
  heavy.forEach((i, k) => {
    const open = column.open[i] as number;
    add(BINS, i, open);
    if (open >= 0.5) {
      // A figure where nothing should conduct could be any.
      for (let bin = 0; bin < BINS; bin++) add(bin, i, (1 - open) / BINS);
      return;
    }
    const [mean, spread] = [means[k] as number, spreads[k] as number];
    let below = 0;
    const last = BINS - 1;
    for (let bin = Math.max(0, Math.floor((mean - 3.5 * spread - low) / width)); bin < BINS; bin++) {
      const to = bin === last ? 1 : normalBelow((low + (bin + 1) * width - mean) / spread);
      if (to > below) add(bin, i, (to - below) * (1 - open));
      below = to;
      if (to > 0.9998 && bin < last) {
        add(bin, i, (1 - to) * (1 - open));
        break;
      }
    }
  });
  return { of: table, bins: BINS + 1, name: (bin) => ({ at: low + (bin + 0.5) * width, open: bin === BINS, word: -1 }) };
}

/** Probability that a normal variable lies below x (table of the logistic-like closed form by Tocher, within 0.02). */
function normalBelow(x: number): number {
  if (x > 4) return 1;
  if (x < -4) return 0;
  return 1 / (1 + Math.exp(-1.5976 * x - 0.07056 * x * x * x));
}

/** The two likely sets whose outcomes differ most. */
function splitBy({ of, bins }: Outcomes, sets: readonly string[], odds: Float64Array): Suggestion["splits"] {
  const likely = Array.from(odds.keys())
    .filter((s) => (odds[s] as number) > 0.01)
    .sort((a, b) => (odds[b] as number) - (odds[a] as number))
    .slice(0, 6);
  let best: Suggestion["splits"];
  let most = 0;
  for (const a of likely) {
    for (const b of likely) {
      if (b <= a) continue;
      let apart = 0;
      for (let bin = 0; bin < bins; bin++) {
        apart += Math.abs((of[bin * sets.length + a] as number) / (odds[a] as number) - (of[bin * sets.length + b] as number) / (odds[b] as number));
      }
      const value = apart * Math.min(odds[a] as number, odds[b] as number);
      if (value > most) {
        most = value;
        best = (odds[a] as number) >= (odds[b] as number) ? [sets[a] as string, sets[b] as string] : [sets[b] as string, sets[a] as string];
      }
    }
  }
  return most > 0.02 ? best : undefined;
}

/** Minutes for a look: its own, access unless that is open, and what must be made ready for it. */
function timeFor(look: Look, bench: Bench): { minutes: number; access: number } {
  const test = testOf(look.step.test);
  const opened = bench.tests.has(test.id as TestId) || [...bench.tests].some((id) => isSameAccess(id, test.id as TestId));
  const charge = look.charged && !bench.charged ? PREPARE.charge : 0;
  const heat = look.hot && !bench.hot ? PREPARE.heat : 0;
  return { minutes: test.minutes + charge + heat, access: opened ? 0 : test.accessMinutes };
}

/** True when two tests are taken on the same opened machine: the same connectors apart, the engine alike. */
function isSameAccess(one: TestId, other: TestId): boolean {
  const [a, b] = [testOf(one), testOf(other)];
  return a.group === b.group && a.setUp.engine === b.setUp.engine && a.setUp.unplug.join() === b.setUp.unplug.join();
}
