import type { Part } from "../../machine/part";
import type { Column } from "../population/column";
import { isWorded, noiseOf, offScale } from "../population/gauges";
import { type Look, visitOf } from "../population/look";
import { normalBelow } from "../posterior/linear";
import type { Posterior } from "../posterior/posterior";
import { lossOf, MONEY_A_BIT, type Prices } from "./prices";

/** The outcome of a look that would turn the decision. */
export interface Turn {
  to: string;
  /** A figure as the meter would show it; nought for the open line and for words. */
  at: number;
  open: boolean;
  word: number;
  probability: number;
}

const BINS = 16;
/** Figures further apart than so many times their scatter are told apart whatever lies between. */
const WIDEST = 4;
/** Particles that stand for the posterior when readings are weighed up; more where machines of many makes are thought of: few of them tell apart by chance. */
const STANDING_FOR_ALL = { whole: 320, open: 380 } as const;
/** Decisions that are weighed: no other set can be the best. */
const MOST_DECISIONS = 8;
const TURN = { least: 0.08 } as const;
/** A figure within so many standard deviations of where most expect it is unremarkable. */
const USUAL = 3;

interface Outcomes {
  /** Mass by bin, then by set. */
  of: Float64Array;
  bins: number;
  name: (bin: number) => { at: number; open: boolean; word: number };
}

/** Information that a figure can give at most is ½·log2(1 + variance between / within) (Shannon's bound); less than this many bits is none. */
const LEAST_BITS = 0.004;
/** Open lines are no news while all but this share of the weight expects the same. */
const AGREED = 0.002;

/** The posterior as the ranking sees it: its heaviest particles, the sets they need, and what doing one for another loses. */
export class Weighing {
  readonly #posterior: Posterior;
  readonly #ohmsResolution: number;
  /** The heaviest particles, each with its share of their weight and its set's place in {@link Weighing.#names}. */
  readonly #heavy: Int32Array;
  readonly #share: Float64Array;
  readonly #set: Int32Array;
  readonly #names: string[] = [];
  readonly #odds: Float64Array;
  readonly #entropy: number;
  /** The sets that could be decided on, and what each loses where another is needed. */
  readonly #decisions: number[];
  readonly #losses: Float64Array[];
  readonly #now: { loss: number; best: number };
  readonly #table: Float64Array;
  readonly #means: Float64Array;
  readonly #spreads: Float64Array;
  /** Edges of the bins that the figures of the look last weighed fell in; undefined where all expect much the same. */
  #binned: Float64Array | undefined;

  constructor(
    posterior: Posterior,
    sets: readonly string[],
    setOf: Int32Array,
    { prices, mended, ohmsResolution }: { prices: Prices; mended: readonly Part[]; ohmsResolution: number },
  ) {
    this.#posterior = posterior;
    this.#ohmsResolution = ohmsResolution;
    const { indices, shares } = standingForAll(posterior.weights, setOf, STANDING_FOR_ALL[posterior.population.builds.length > 1 ? "open" : "whole"]);
    this.#heavy = indices;
    const count = this.#heavy.length;
    this.#share = shares;
    const total = this.#share.reduce((sum, weight) => sum + weight, 0);
    // Sets that no heavy particle needs are left out of every table.
    const place = new Map<number, number>();
    this.#set = Int32Array.from(this.#heavy, (i) => {
      const set = setOf[i] as number;
      const at = place.get(set) ?? this.#names.push(sets[set] as string) - 1;
      place.set(set, at);
      return at;
    });
    this.#odds = new Float64Array(this.#names.length);
    for (let k = 0; k < count; k++) {
      this.#share[k] = (this.#share[k] as number) / total;
      const s = this.#set[k] as number;
      this.#odds[s] = (this.#odds[s] as number) + (this.#share[k] as number);
    }
    this.#entropy = bitsOf(this.#odds, 0, this.#odds.length, 1);
    this.#decisions = this.#inOrder().slice(0, MOST_DECISIONS);
    this.#losses = this.#decisions.map((d) => Float64Array.from(this.#names, (needed) => lossOf(this.#names[d] as string, needed, prices, mended.length > 0)));
    this.#now = this.#leastLoss(this.#odds, 0);
    this.#table = new Float64Array((BINS + 1) * this.#names.length);
    this.#means = new Float64Array(count);
    this.#spreads = new Float64Array(count);
  }

  /** Odds of every set as the ranking sees them. */
  get odds(): Map<string, number> {
    return new Map(this.#names.map((name, s) => [name, this.#odds[s] as number]));
  }

  /** Places of the sets, likeliest first. */
  #inOrder(): number[] {
    return Array.from(this.#odds.keys()).sort((a, b) => (this.#odds[b] as number) - (this.#odds[a] as number));
  }

  #leastLoss(table: Float64Array, from: number): { loss: number; best: number } {
    let best = 0;
    let least = Number.POSITIVE_INFINITY;
    for (let d = 0; d < this.#losses.length; d++) {
      const losses = this.#losses[d] as Float64Array;
      let sum = 0;
      for (let s = 0; s < losses.length; s++) sum += (losses[s] as number) * (table[from + s] as number);
      if (sum < least) {
        least = sum;
        best = d;
      }
    }
    return { loss: least, best };
  }

  /** What a look is worth: bits about the set, money saved by deciding after it, and the outcome that would turn the decision. */
  value(look: Look): { bits: number; worth: number; turns: Turn | undefined } {
    const table = this.#outcomes(look);
    if (!table) return { bits: 0, worth: 0, turns: undefined };
    const count = this.#names.length;
    let bits = this.#entropy;
    let after = 0;
    let turns: Turn | undefined;
    for (let bin = 0; bin < table.bins; bin++) {
      let mass = 0;
      for (let s = 0; s < count; s++) mass += table.of[bin * count + s] as number;
      if (mass <= 0) continue;
      bits -= bitsOf(table.of, bin * count, count, mass) * mass;
      const then = this.#leastLoss(table.of, bin * count);
      after += then.loss;
      if (then.best !== this.#now.best && mass > Math.max(TURN.least, turns?.probability ?? 0)) {
        turns = { to: this.#names[this.#decisions[then.best] as number] as string, ...table.name(bin), probability: mass };
      }
    }
    return { bits: Math.max(0, bits), worth: Math.max(0, this.#now.loss - after), turns };
  }

  /**
   * Takes a look into its visit. What most particles expect at a point (the open line, or a figure) is unremarkable there; points
   * are taken as independent on one particle. To be called right after {@link Weighing.value}, whose table it reads.
   * @param unremarkable by visit: each heavy particle's probability of showing nothing else at the points so far
   */
  narrow(unremarkable: Map<string, Float64Array>, look: Look): void {
    const visit = visitOf(look);
    const usual = unremarkable.get(visit) ?? new Float64Array(this.#share.length).fill(1);
    unremarkable.set(visit, usual);
    if (isWorded(look.step.test) || !this.#binned) return;
    const edges = this.#binned;
    const column = this.#posterior.population.column(look);
    const count = this.#names.length;
    const masses = Array.from({ length: BINS }, (_, bin) => this.#table.subarray(bin * count, (bin + 1) * count).reduce((sum, mass) => sum + mass, 0));
    const figured = masses.reduce((sum, mass) => sum + mass, 0);
    if (figured < 0.5) {
      for (let k = 0; k < usual.length; k++) usual[k] = (usual[k] as number) * (column.open[this.#heavy[k] as number] as number);
      return;
    }
    // The usual figure, as wide as it is seen to scatter.
    let scatter = Number.POSITIVE_INFINITY;
    for (let k = 0; k < usual.length; k++) {
      if ((column.open[this.#heavy[k] as number] as number) < 0.5) scatter = Math.min(scatter, this.#spreads[k] as number);
    }
    let [median, below] = [0, masses[0] as number];
    while (below < figured / 2) below += masses[++median] as number;
    const [from, to] = [edges[median] as number, edges[median + 1] as number];
    const [middle, half] = [(from + to) / 2, Math.max(1.5 * (to - from), USUAL * scatter)];
    for (let k = 0; k < usual.length; k++) {
      const open = column.open[this.#heavy[k] as number] as number;
      const [mean, spread] = [this.#means[k] as number, this.#spreads[k] as number];
      const inside = open >= 0.5 ? 0 : normalBelow((middle + half - mean) / spread) - normalBelow((middle - half - mean) / spread);
      usual[k] = (usual[k] as number) * (1 - open) * inside;
    }
  }

  /**
   * What a visit is worth, in money, if all that is told of it is whether any point is remarkable: the value of two outcomes, and so
   * never more than the visit's own. @param unremarkable as {@link Weighing.narrow} leaves it for this visit
   */
  together(unremarkable: Float64Array | undefined): number {
    if (!unremarkable) return 0;
    const count = this.#names.length;
    const table = this.#table.fill(0);
    for (let k = 0; k < unremarkable.length; k++) {
      const s = this.#set[k] as number;
      const usual = (unremarkable[k] as number) * (this.#share[k] as number);
      table[s] = (table[s] as number) + usual;
      table[count + s] = (table[count + s] as number) + (this.#share[k] as number) - usual;
    }
    let [bits, after] = [this.#entropy, 0];
    for (const from of [0, count]) {
      const mass = table.subarray(from, from + count).reduce((sum, share) => sum + share, 0);
      if (mass <= 0) continue;
      bits -= bitsOf(table, from, count, mass) * mass;
      after += this.#leastLoss(table, from).loss;
    }
    return Math.max(0, this.#now.loss - after) + MONEY_A_BIT * Math.max(0, bits);
  }

  /** The joint table of what a look shows (figures in bins, the open line in one of its own) and which set is needed; undefined where it tells nothing. */
  #outcomes(look: Look): Outcomes | undefined {
    const column = this.#posterior.population.column(look);
    const [table, count] = [this.#table, this.#names.length];
    const set = this.#set;
    const share = this.#share;
    if (isWorded(look.step.test)) {
      table.fill(0);
      for (const [word, chances] of column.words.entries()) {
        for (let k = 0; k < share.length; k++) {
          const at = word * count + (set[k] as number);
          table[at] = (table[at] as number) + (chances[this.#heavy[k] as number] as number) * (share[k] as number);
        }
      }
      return { of: table, bins: column.words.length, name: (word) => ({ at: 0, open: false, word }) };
    }
    const edges = this.#foresee(look, column);
    this.#binned = edges;
    if (!edges) return undefined;
    table.fill(0);
    for (let k = 0; k < share.length; k++) {
      const weight = share[k] as number;
      const s = set[k] as number;
      const open = column.open[this.#heavy[k] as number] as number;
      table[BINS * count + s] = (table[BINS * count + s] as number) + open * weight;
      if (open >= 0.5) {
        // A figure where nothing should conduct could be any.
        for (let bin = 0; bin < BINS; bin++) table[bin * count + s] = (table[bin * count + s] as number) + ((1 - open) / BINS) * weight;
        continue;
      }
      const [mean, spread] = [this.#means[k] as number, this.#spreads[k] as number];
      const figured = (1 - open) * weight;
      let below = 0;
      for (let bin = Math.max(0, binOf(edges, mean - 3.5 * spread)); bin < BINS; bin++) {
        const to = bin === BINS - 1 ? 1 : normalBelow(((edges[bin + 1] as number) - mean) / spread);
        const done = to > 0.9998;
        table[bin * count + s] = (table[bin * count + s] as number) + ((done ? 1 : to) - below) * figured;
        if (done) break;
        below = to;
      }
    }
    return {
      of: table,
      bins: BINS + 1,
      name: (bin) => ({ at: bin === BINS ? 0 : offScale(look.step.test, this.#typicalOf(edges, bin)), open: bin === BINS, word: -1 }),
    };
  }

  /** Mean and spread of a figure on every heavy particle, and the edges of the bins they fall in; undefined where all expect much the same. */
  #foresee(look: Look, column: Column): Float64Array | undefined {
    const { test } = look.step;
    const seen = { mean: 0, variance: 0 };
    const figured: number[] = [];
    let [weight, sum, squares, within] = [0, 0, 0, 0];
    for (let k = 0; k < this.#heavy.length; k++) {
      const i = this.#heavy[k] as number;
      if ((column.open[i] as number) >= 0.5) {
        this.#means[k] = Number.NaN;
        continue;
      }
      this.#posterior.foresee(column, i, seen);
      const variance = seen.variance + noiseOf(test, seen.mean, this.#ohmsResolution) ** 2;
      this.#means[k] = seen.mean;
      this.#spreads[k] = Math.sqrt(variance);
      figured.push(k);
      const share = this.#share[k] as number;
      weight += share;
      sum += share * seen.mean;
      squares += share * seen.mean ** 2;
      within += share * variance;
    }
    if (weight < AGREED) return undefined;
    const between = squares / weight - (sum / weight) ** 2;
    if (weight > 1 - AGREED && 0.5 * Math.log2(1 + between / (within / weight)) < LEAST_BITS) return undefined;
    figured.sort((a, b) => (this.#means[a] as number) - (this.#means[b] as number));
    return this.#edgesAmong(figured);
  }

  /**
   * Bins that are narrow where most is expected and wide where little is, measured in the scatter of the reading there: what is all but
   * never seen takes no room from where it is decided. The density of edges goes with the cube root of that of the figures (Panter and
   * Dite's quantiser, 1951).
   * @param figured heavy particles that show a figure, lowest first
   */
  #edgesAmong(figured: readonly number[]): Float64Array {
    const mean = (k: number): number => this.#means[k] as number;
    const [first, last] = [figured[0] as number, figured.at(-1) as number];
    const steps = Float64Array.from(figured.slice(1), (k, n) => {
      const before = figured[n] as number;
      const scatter = ((this.#spreads[before] as number) + (this.#spreads[k] as number)) / 2;
      const apart = Math.min(WIDEST, (mean(k) - mean(before)) / scatter);
      return Math.cbrt(apart ** 2 * ((this.#share[before] as number) + (this.#share[k] as number)));
    });
    const all = steps.reduce((sum, step) => sum + step, 0);
    const edges = new Float64Array(BINS + 1);
    edges[0] = mean(first) - 2 * (this.#spreads[first] as number);
    edges[BINS] = mean(last) + 2 * (this.#spreads[last] as number);
    let [n, passed] = [0, 0];
    for (let bin = 1; bin < BINS; bin++) {
      const due = (all * bin) / BINS;
      while (n < steps.length - 1 && passed + (steps[n] as number) < due) passed += steps[n++] as number;
      const step = steps[n] as number;
      const [from, to] = [mean(figured[n] as number), mean(figured[Math.min(n + 1, figured.length - 1)] as number)];
      edges[bin] = step > 0 ? from + ((to - from) * (due - passed)) / step : from;
    }
    return edges;
  }

  /** What is read where a figure falls in a bin: what those of its particles expect that expect one there. */
  #typicalOf(edges: Float64Array, bin: number): number {
    const [from, to] = [edges[bin] as number, edges[bin + 1] as number];
    let [sum, weight] = [0, 0];
    for (let k = 0; k < this.#means.length; k++) {
      const mean = this.#means[k] as number;
      if (!(mean >= from && mean < to)) continue;
      sum += mean * (this.#share[k] as number);
      weight += this.#share[k] as number;
    }
    return weight > 0 ? sum / weight : (from + to) / 2;
  }

  /** The two likely sets whose outcomes at a look differ most. */
  splits(look: Look): readonly [string, string] | undefined {
    const table = this.#outcomes(look);
    if (!table) return undefined;
    const count = this.#names.length;
    const likely = this.#inOrder()
      .filter((s) => (this.#odds[s] as number) > SPLIT.likely)
      .slice(0, SPLIT.most);
    let best: readonly [string, string] | undefined;
    let most: number = SPLIT.least;
    likely.forEach((a, place) => {
      for (const b of likely.slice(place + 1)) {
        const [first, other] = [this.#odds[a] as number, this.#odds[b] as number];
        let apart = 0;
        for (let bin = 0; bin < table.bins; bin++) {
          apart += Math.abs((table.of[bin * count + a] as number) / first - (table.of[bin * count + b] as number) / other);
        }
        if (apart * Math.min(first, other) <= most) continue;
        most = apart * Math.min(first, other);
        best = [this.#names[a] as string, this.#names[b] as string];
      }
    });
    return best;
  }
}

/** Sets that are told apart in words: likely enough, so many at most, and by so much of their mass at least. */
const SPLIT = { likely: 0.01, most: 6, least: 0.02 } as const;

/**
 * A few particles that stand for all: the heavy ones as they are, of the light ones every so manieth by weight, set after set, each
 * for its neighbours too, so that what is unlikely particle by particle is not forgotten where there are many of its kind (optimal
 * resampling of a discrete distribution: Fearnhead and Clifford, 2003).
 * @param most how many at most
 * @returns their indices, and their weights, which sum to one as all do
 */
function standingForAll(weights: Float64Array, setOf: Int32Array, most: number): { indices: Int32Array; shares: Float64Array } {
  const order = Array.from(weights.keys()).filter((i) => (weights[i] as number) > 1e-9);
  order.sort((a, b) => (weights[b] as number) - (weights[a] as number));
  // The heaviest k stand for themselves; the others share what is left, each standing for `light`.
  let rest = order.reduce((sum, i) => sum + (weights[i] as number), 0);
  let kept = 0;
  while (kept < Math.min(order.length, most) && (weights[order[kept] as number] as number) >= rest / (most - kept)) {
    rest -= weights[order[kept] as number] as number;
    kept++;
  }
  const light = rest / Math.max(1, most - kept);
  const indices = order.slice(0, kept);
  const shares = indices.map((i) => weights[i] as number);
  const others = order.slice(kept).sort((a, b) => (setOf[a] as number) - (setOf[b] as number) || a - b);
  let passed = light / 2;
  for (const i of others) {
    passed += weights[i] as number;
    if (passed < light) continue;
    passed -= light;
    indices.push(i);
    shares.push(light);
  }
  return { indices: Int32Array.from(indices), shares: Float64Array.from(shares) };
}

/** The bin that a figure falls in, by bisection; -1 below the first edge. */
function binOf(edges: Float64Array, figure: number): number {
  let [low, high] = [0, edges.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((edges[middle] as number) <= figure) low = middle + 1;
    else high = middle;
  }
  return low - 1;
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
