import type { Meter } from "../../meter/meter";
import { testOf } from "../../procedure/catalogue";
import type { Reading } from "../../procedure/step";
import { isNumber, isOpen } from "../../units";
import { type Look, lookOfReading } from "../population/look";
import { type Column, type Population, SPREAD_COUNT } from "../population/population";
import { gaugeOf, isWorded, modelVariance, noiseOf, onScale, wordsOf } from "../population/predict";
import { invert } from "./linear";

/** A reading as the engine weighs it. */
export interface Observation {
  /** Its index among the readings given. */
  reading: number;
  look: Look;
  /** On the test's scale; not a number for the open line and for words. */
  at: number;
  open: boolean;
  /** Index of the word chosen, −1 for figures. */
  word: number;
  noise: number;
}

/** Share of readings that are taken wrongly altogether: wrong hole, wrong dial, a digit misread. */
const MISREAD = 0.025;
/** Share of words that say nothing: eyes elsewhere. */
const BLIND = 0.05;
/** A figure where nothing should conduct, or the open line where something should, is a misread of this probability on that particle. */
const CONTRADICTED = 0.8;
/** Of a particle's readings, this many most unlikely ones are tried as misread two at a time. */
const SUSPECTS = 6;
/** Pairs are tried where leaving one reading out changes the logarithm of the likelihood by this: below it a pair is one in hundreds. */
const SUSPICIOUS = -3;
const LOG_2PI = Math.log(2 * Math.PI);

/** Readings on their scales, each with where it was taken; those the engine does not weigh are left out. */
export function observe(readings: readonly Reading[], population: Population, meter: Meter): Observation[] {
  return readings.flatMap((reading, index): Observation[] => {
    const its = lookOfReading(reading, population.sheet);
    if (!its) return [];
    const { look, factor } = its;
    const base = { reading: index, look, at: Number.NaN, open: false, word: -1, noise: 0 };
    if (isWorded(reading.test)) {
      const word = wordsOf(reading.test).indexOf(String(reading.value));
      return word < 0 ? [] : [{ ...base, word }];
    }
    if (isOpen(reading.value)) return [{ ...base, open: true }];
    if (!isNumber(reading.value) || !Number.isFinite(reading.value)) return [];
    const test = testOf(reading.test);
    if (test.dial === "diode" && reading.value >= Math.min(2, meter.diodeMaxVolts)) return [{ ...base, open: true }];
    const lead = test.leadZero && reading.raw ? (reading.leadOhms ?? meter.leadOhms) : 0;
    const at = onScale(reading.test, (reading.value - lead) * factor);
    return [{ ...base, at, noise: noiseOf(reading.test, at, meter.ohmsResolution) }];
  });
}

/** What the readings so far leave of the population. */
export class Posterior {
  readonly population: Population;
  readonly observations: readonly Observation[];
  /** Weight of each particle, summing to one. */
  readonly weights: Float64Array;
  /** Probability of each observation, given all, that it was misread. */
  readonly misread: Float64Array;
  /** By particle: C⁻¹·r, and from it the mean of each spread, in standard deviations, once {@link foresee} asks. */
  readonly #alphas: (Float64Array | undefined)[] = [];
  readonly #shifts: (Float64Array | undefined)[] = [];
  readonly #logPriors: Float64Array;
  readonly #groups: Group[] = [];
  readonly #groupOf: Int32Array;

  constructor(population: Population, priors: Float64Array, observations: readonly Observation[]) {
    this.#logPriors = priors.map(Math.log);
    this.population = population;
    this.observations = observations;
    const count = population.particles.length;
    const columns = observations.map(({ look }) => population.column(look));
    const logs = new Float64Array(count);
    const doubt = observations.map(() => new Float64Array(count));
    this.#groupOf = new Int32Array(count);
    const figures = observations.map(({ open, word }) => word < 0 && !open);
    const opens = columns.map(({ open }) => open);
    const alike = (one: number, other: number): boolean => {
      for (let j = 0; j < figures.length; j++) {
        if (!figures[j]) continue;
        const its = opens[j] as Float64Array;
        if ((its[one] as number) < 0.5 !== (its[other] as number) < 0.5) return false;
      }
      return true;
    };
    for (const { members } of population.cells) {
      // Members for which other readings are open lines than for their neighbours are worked out apart.
      let left = members;
      while (left.length > 0) {
        const first = left[0] as number;
        const same = left.filter((member) => alike(first, member));
        this.#weigh(same, columns, logs, doubt);
        left = same.length === left.length ? [] : left.filter((member) => !alike(first, member));
      }
    }
    this.weights = normalised(logs);
    this.misread = Float64Array.from(doubt, (its) => its.reduce((sum, probability, i) => sum + probability * (this.weights[i] as number), 0));
  }

  /** Likelihood of all observations for particles of one cell with one pattern of open lines. */
  #weigh(members: readonly number[], columns: readonly Column[], logs: Float64Array, doubt: readonly Float64Array[]): void {
    const { observations, population } = this;
    const [first] = members as [number];
    const cell = (population.particles[first] as Population["particles"][number]).cell;
    const active: number[] = [];
    const others: number[] = [];
    for (let j = 0; j < observations.length; j++) (isFigure(observations[j] as Observation, columns[j] as Column, first) ? active : others).push(j);
    const group = new Group(cell, active, observations, columns);
    this.#groups.push(group);
    const n = active.length;
    const residual = new Float64Array(n);
    const share = new Float64Array(n);
    const readAt = active.map((j) => (observations[j] as Observation).at);
    const shownAt = active.map((j) => (columns[j] as Column).at);
    const figured = active.map((j) => (columns[j] as Column).figured);
    const doubted = active.map((j) => doubt[j] as Float64Array);
    for (const i of members) {
      this.#groupOf[i] = this.#groups.length - 1;
      const { hypothesis, share: part } = population.particles[i] as Population["particles"][number];
      let log = (this.#logPriors[hypothesis] as number) + Math.log(part);
      for (const j of others) {
        const its = categorical(observations[j] as Observation, columns[j] as Column, i);
        log += its.word;
        (doubt[j] as Float64Array)[i] = its.doubted;
      }
      for (let a = 0; a < n; a++) {
        residual[a] = (readAt[a] as number) - ((shownAt[a] as Float64Array)[i] as number);
        log += (figured[a] as Float64Array)[i] as number;
      }
      const alpha = new Float64Array(n);
      group.solve(residual, alpha);
      this.#alphas[i] = alpha;
      logs[i] = log + group.likelihood(residual, alpha, share);
      for (let a = 0; a < n; a++) (doubted[a] as Float64Array)[i] = share[a] as number;
    }
  }

  /** Probability of every hypothesis. */
  byHypothesis(): Float64Array {
    const sums = new Float64Array(this.population.hypotheses.length);
    this.population.particles.forEach(({ hypothesis }, i) => {
      sums[hypothesis] = (sums[hypothesis] as number) + (this.weights[i] as number);
    });
    return sums;
  }

  /** Mean and variance of what a figure would show on a particle, on the test's scale, the readings so far taken into account. */
  foresee(column: Column, particle: number, into: { mean: number; variance: number }): void {
    const { cell } = this.population.particles[particle] as Population["particles"][number];
    const group = this.#groups[this.#groupOf[particle] as number] as Group;
    const from = cell * SPREAD_COUNT;
    let shift = this.#shifts[particle];
    if (!shift) {
      shift = group.shift(this.#alphas[particle] as Float64Array);
      this.#shifts[particle] = shift;
    }
    let mean = column.at[particle] as number;
    const { moved, slopes } = column;
    for (let k = 0; k < moved.length; k++) {
      const s = moved[k] as number;
      mean += (slopes[from + s] as number) * (shift[s] as number);
    }
    into.mean = mean;
    into.variance = group.variance(column);
  }
}

/** True when both the reading and the prediction are figures. */
function isFigure({ open, word }: Observation, column: Column, particle: number): boolean {
  return word < 0 && !open && (column.open[particle] as number) < 0.5;
}

/** Logarithm of what open lines and words contribute, and how likely the reading then is a misread. */
function categorical({ open, word, look }: Observation, column: Column, particle: number): { word: number; doubted: number } {
  if (word >= 0) {
    const said = column.words[word]?.[particle] ?? 0;
    const likelihood = (1 - BLIND) * said + BLIND / Math.max(1, column.words.length);
    return { word: Math.log(likelihood), doubted: BLIND / column.words.length / likelihood };
  }
  const openly = column.open[particle] as number;
  if (open) return { word: Math.log(Math.max(MISREAD / 2, openly)), doubted: openly < 0.5 ? CONTRADICTED : 0 };
  if (openly < 0.5) return { word: Math.log(1 - openly), doubted: 0 };
  return { word: Math.log((1 - openly) / gaugeOf(look.step.test).range), doubted: CONTRADICTED };
}

/** Particles of one cell whose figures are the same readings: they share all matrices. */
class Group {
  readonly n: number;
  readonly #slopes: Float64Array;
  readonly #inverse: Float64Array;
  readonly #logDet: number;
  readonly #outside: Float64Array;
  /** Gain of leaving a reading out, its own error aside. */
  readonly #alone: Float64Array;
  readonly #gains: Float64Array;
  readonly #scratch = { order: new Int32Array(SUSPECTS), pairs: new Float64Array((SUSPECTS * (SUSPECTS - 1)) / 2) };
  readonly #cell: number;
  readonly #keys: readonly string[];
  #spreadCovariance: Float64Array | undefined;
  #last: { column: Column; variance: number } | undefined;

  constructor(cell: number, active: readonly number[], observations: readonly Observation[], columns: readonly Column[]) {
    const n = active.length;
    this.n = n;
    this.#cell = cell;
    this.#slopes = new Float64Array(n * SPREAD_COUNT);
    this.#inverse = new Float64Array(n * n);
    this.#outside = new Float64Array(n);
    this.#keys = active.map((j) => (observations[j] as Observation).look.key);
    active.forEach((j, a) => {
      const { slopes } = columns[j] as Column;
      this.#slopes.set(slopes.subarray(cell * SPREAD_COUNT, (cell + 1) * SPREAD_COUNT), a * SPREAD_COUNT);
      this.#outside[a] = Math.log(MISREAD / (1 - MISREAD) / gaugeOf((observations[j] as Observation).look.step.test).range);
    });
    const g = this.#slopes;
    const c = this.#inverse;
    const models = active.map((j) => modelVariance((observations[j] as Observation).look.step));
    for (let a = 0; a < n; a++) {
      const from = a * SPREAD_COUNT;
      const moved: number[] = [];
      for (let s = 0; s < SPREAD_COUNT; s++) if (g[from + s] !== 0) moved.push(s);
      for (let b = 0; b <= a; b++) {
        const other = b * SPREAD_COUNT;
        let sum = 0;
        for (let k = 0; k < moved.length; k++) {
          const s = moved[k] as number;
          sum += (g[from + s] as number) * (g[other + s] as number);
        }
        // What a prediction is off by, it is off by at every repeat.
        if (this.#keys[a] === this.#keys[b]) sum += models[a] as number;
        if (a === b) sum += (observations[active[a] as number] as Observation).noise ** 2;
        c[a * n + b] = sum;
        c[b * n + a] = sum;
      }
    }
    this.#logDet = invert(this.#inverse, n);
    this.#gains = new Float64Array(n);
    this.#alone = this.#outside.map((outside, a) => outside + 0.5 * (LOG_2PI - Math.log(c[a * n + a] as number)));
  }

  /** α = C⁻¹·r. */
  solve(residual: Float64Array, alpha: Float64Array): void {
    const { n } = this;
    const inverse = this.#inverse;
    for (let a = 0; a < n; a++) {
      let sum = 0;
      for (let b = 0; b < n; b++) sum += (inverse[a * n + b] as number) * (residual[b] as number);
      alpha[a] = sum;
    }
  }

  /** Mean of the spreads given the readings, in standard deviations: Gᵀ·α. */
  shift(alpha: Float64Array): Float64Array {
    const into = new Float64Array(SPREAD_COUNT);
    const slopes = this.#slopes;
    for (let a = 0; a < this.n; a++) {
      const by = alpha[a] as number;
      for (let s = 0; s < SPREAD_COUNT; s++) into[s] = (into[s] as number) + by * (slopes[a * SPREAD_COUNT + s] as number);
    }
    return into;
  }

  /**
   * Logarithm of the likelihood of all figures: none, any one or any two of them misread. A reading left out of a Gaussian has
   * the density that all others predict for it, of variance 1/c and mean error α/c with c its place on C⁻¹'s diagonal
   * (block inversion), so that no matrix is made anew.
   * @param share filled with how likely each reading is a misread on this particle
   */
  likelihood(residual: Float64Array, alpha: Float64Array, share: Float64Array): number {
    const { n } = this;
    const inverse = this.#inverse;
    const gains = this.#gains;
    let quad = 0;
    let most = Number.NEGATIVE_INFINITY;
    for (let a = 0; a < n; a++) {
      quad += (residual[a] as number) * (alpha[a] as number);
      const c = inverse[a * n + a] as number;
      const gain = (this.#alone[a] as number) + (0.5 * (alpha[a] as number) ** 2) / c;
      gains[a] = gain;
      if (gain > most) most = gain;
    }
    const all = -0.5 * (quad + this.#logDet + n * LOG_2PI) + n * Math.log(1 - MISREAD);
    const { order, pairs } = this.#scratch;
    let count = 0;
    if (most > SUSPICIOUS) {
      const suspects = largest(gains, n, order);
      for (let x = 1; x < suspects; x++) {
        for (let y = 0; y < x; y++) {
          const gain = this.#pairGain(order[x] as number, order[y] as number, alpha);
          pairs[count++] = gain;
          if (gain > most) most = gain;
        }
      }
    }
    most = Math.max(0, most);
    let sum = Math.exp(-most);
    for (let a = 0; a < n; a++) {
      const its = Math.exp((gains[a] as number) - most);
      share[a] = its;
      sum += its;
    }
    for (let x = 1, k = 0; k < count; x++) {
      for (let y = 0; y < x; y++, k++) {
        const its = Math.exp((pairs[k] as number) - most);
        const [a, b] = [order[x] as number, order[y] as number];
        sum += its;
        share[a] = (share[a] as number) + its;
        share[b] = (share[b] as number) + its;
      }
    }
    for (let a = 0; a < n; a++) share[a] = (share[a] as number) / sum;
    return all + most + Math.log(sum);
  }

  #pairGain(a: number, b: number, alpha: Float64Array): number {
    const { n } = this;
    const [aa, bb, ab] = [this.#inverse[a * n + a] as number, this.#inverse[b * n + b] as number, this.#inverse[a * n + b] as number];
    const det = Math.max(1e-12, aa * bb - ab * ab);
    const [x, y] = [alpha[a] as number, alpha[b] as number];
    const quad = (bb * x * x - 2 * ab * x * y + aa * y * y) / det;
    return (this.#outside[a] as number) + (this.#outside[b] as number) + LOG_2PI - 0.5 * Math.log(det) + 0.5 * quad;
  }

  /** Variance of a look's figure given the readings, the reading's own noise left out. Asked for one look after another. */
  variance(column: Column): number {
    if (this.#last?.column === column) return this.#last.variance;
    const from = this.#cell * SPREAD_COUNT;
    const { moved, slopes } = column;
    const covariance = this.#covariance();
    let sum = modelVariance(column.look.step);
    for (let k = 0; k < moved.length; k++) {
      const s = moved[k] as number;
      const slope = slopes[from + s] as number;
      if (slope === 0) continue;
      const row = s * SPREAD_COUNT;
      let others = 0;
      for (let l = 0; l < k; l++) {
        const t = moved[l] as number;
        others += (covariance[row + t] as number) * (slopes[from + t] as number);
      }
      sum += slope * (2 * others + slope * (covariance[row + s] as number));
    }
    const variance = Math.max(1e-9, sum);
    this.#last = { column, variance };
    return variance;
  }

  /** Covariance of the spreads given the readings: 1 − Gᵀ·C⁻¹·G, worked out for the spreads that any reading moves. */
  #covariance(): Float64Array {
    if (this.#spreadCovariance) return this.#spreadCovariance;
    const { n } = this;
    const size = SPREAD_COUNT;
    const slopes = this.#slopes;
    const inverse = this.#inverse;
    const moved: number[] = [];
    for (let s = 0; s < size; s++) {
      for (let a = 0; a < n; a++) {
        if (slopes[a * size + s] === 0) continue;
        moved.push(s);
        break;
      }
    }
    const weighed = new Float64Array(n * size);
    for (let a = 0; a < n; a++) {
      for (let b = 0; b < n; b++) {
        const c = inverse[a * n + b] as number;
        for (let k = 0; k < moved.length; k++) {
          const s = moved[k] as number;
          weighed[a * size + s] = (weighed[a * size + s] as number) + c * (slopes[b * size + s] as number);
        }
      }
    }
    const covariance = new Float64Array(size * size);
    for (let s = 0; s < size; s++) covariance[s * size + s] = 1;
    for (let a = 0; a < n; a++) {
      for (let k = 0; k < moved.length; k++) {
        const s = moved[k] as number;
        const slope = slopes[a * size + s] as number;
        if (slope === 0) continue;
        for (let l = 0; l < moved.length; l++) {
          const t = moved[l] as number;
          covariance[s * size + t] = (covariance[s * size + t] as number) - slope * (weighed[a * size + t] as number);
        }
      }
    }
    this.#spreadCovariance = covariance;
    return covariance;
  }
}

/** Indices of the largest values, as many as `into` holds, in falling order. @returns how many there are */
function largest(values: Float64Array, n: number, into: Int32Array): number {
  let count = 0;
  for (let a = 0; a < n; a++) {
    const its = values[a] as number;
    if (count === into.length && its <= (values[into[count - 1] as number] as number)) continue;
    let k = count < into.length ? count++ : count - 1;
    while (k > 0 && (values[into[k - 1] as number] as number) < its) {
      into[k] = into[k - 1] as number;
      k--;
    }
    into[k] = a;
  }
  return count;
}

/** Weights from logarithms, summing to one; equal where no particle explains anything. */
function normalised(logs: Float64Array): Float64Array {
  let most = Number.NEGATIVE_INFINITY;
  for (const log of logs) if (log > most) most = log;
  const weights = logs.map((log) => Math.exp(log - most));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
}
