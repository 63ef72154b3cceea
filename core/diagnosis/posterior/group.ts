import { type Column, SPREAD_COUNT } from "../population/column";
import { type Ailing, modelVariance } from "../population/gauges";
import type { Hypothesis } from "../population/hypotheses";
import { SPREAD_IDS } from "../population/nuisance";
import { type Cleared, clearOf, leaveOneOut } from "./cleared";
import type { Event, Frame } from "./frame";
import { BELOW_SET, besidesOf, type Knee, logBetween, logInstead, logPassed, reachedBy, SPARE_MODEL } from "./held";
import { gainOfLeavingOut, invert } from "./linear";
import { LARGER_SETS, suspectsAmong } from "./misreads";
import { grow, scratch } from "./scratch";
import { FAINT, LOOSE, LOOSE_COILS, MISREAD, PLAIN, SPOILT, SUSPICIOUS, UNEVEN } from "./slips";

const LOG_2PI = Math.log(2 * Math.PI);

/** Logarithm of the sum of two exponentials. */
const logAdd = (a: number, b: number): number => (a > b ? a + Math.log1p(Math.exp(b - a)) : b + Math.log1p(Math.exp(a - b)));

/** An event as one group sees it. */
interface Weighed {
  event: Event;
  /** Sum of the inverse over the members: with it the gain of a shared error is a rank-one update. */
  ones: number;
  /** What of the logarithm of that gain no particle changes. */
  shared: number;
  /** The inverse of the inverse's block, and its log determinant with the broad densities; worked out when it is first needed. */
  block: { factor: Float64Array; constant: number } | undefined;
}

/**
 * The figures of one particle: how far each lies from its prediction, C⁻¹ times that (all, and with gross misreads left
 * out), how far from where a unit would hold it (not a number: nowhere), and what the generator has to spare for that.
 */
interface Figures {
  residual: Float64Array;
  alpha: Float64Array;
  cleared: Cleared;
  held: Float64Array;
  spare: Float64Array;
}

const EMF = SPREAD_IDS.indexOf("emf");
/** Change a standard deviation of the magnets' strength from which a figure hangs on the generator. */
const FREE = 0.03;

/** True where a cell's figure hangs on the generator: while the unit holds the volts, they are the unit's, whatever ails the coils. */
const isFree = (slopes: Float64Array, from: number): boolean => Math.abs(slopes[from + EMF] as number) > FREE;

/** Particles of one cell whose figures are the same readings: they share all matrices. */
export class Group {
  readonly n: number;
  /** Which observations are figures here, in the order of the sums. */
  readonly active: readonly number[];
  readonly #frame: Frame;
  /** Of figures that a unit holds once its generator is strong enough. */
  readonly #knees: readonly (Knee | undefined)[];
  readonly #inverse: Float64Array;
  readonly #logDet: number;
  /** Gain of leaving a reading out, its own error and what it may be instead aside. */
  readonly #alone: Float64Array;
  /** For a model error of one reading that is larger than usual: its variance, and the logarithm of what stands before its exponential. */
  readonly #tails: Float64Array;
  readonly #tailed: Float64Array;
  readonly #events: Weighed[];
  /** Logarithm of how often coils that may be burnt each for itself are burnt alike. */
  readonly #alike: number;
  readonly #cell: number;
  readonly #ailing: Ailing;
  #spreadCovariance: Float64Array | undefined;
  #last: { column: Column; variance: number; spare: number } | undefined;

  /** @param hypothesis what is the matter with these particles: what an ailing generator does under way is known less well */
  constructor(cell: number, frame: Frame, { ailing, set }: Pick<Hypothesis, "ailing" | "set">) {
    const { n, columns, noise, repeats } = frame;
    const models = frame.models.no.slice();
    this.n = n;
    this.active = frame.active;
    this.#frame = frame;
    this.#cell = cell;
    this.#ailing = ailing;
    this.#inverse = new Float64Array(n * n);
    const c = this.#inverse;
    const home = cell * SPREAD_COUNT;
    if (scratch.gains.length < n) grow(n);
    const { slopes: own } = scratch;
    for (let a = 0; a < n; a++) {
      const { moved, slopes } = columns[a] as Column;
      if (ailing !== "no" && isFree(slopes, home)) models[a] = frame.models[ailing][a] as number;
      for (let s = 0; s < SPREAD_COUNT; s++) own[a * SPREAD_COUNT + s] = slopes[home + s] as number;
      for (let b = 0; b <= a; b++) {
        let sum = 0;
        for (let k = 0; k < moved.length; k++) {
          const s = moved[k] as number;
          sum += (own[a * SPREAD_COUNT + s] as number) * (own[b * SPREAD_COUNT + s] as number);
        }
        c[a * n + b] = sum;
      }
      // Before and after a charge a repeat may be less sure than the first: shared is what both are off by, or the matrix were none of variances.
      for (const b of repeats[a] as readonly number[]) c[a * n + b] = (c[a * n + b] as number) + Math.min(models[a] as number, models[b] as number);
      c[a * n + a] = (c[a * n + a] as number) + (noise[a] as number);
    }
    this.#logDet = invert(c, n);
    this.#alone = new Float64Array(n);
    this.#tails = new Float64Array(n);
    this.#tailed = new Float64Array(n);
    for (let a = 0; a < n; a++) {
      const diagonal = c[a * n + a] as number;
      const { often, times } = ailing !== "coils" && (frame.ofCoils[a] as boolean) ? LOOSE_COILS : LOOSE;
      const tail = times ** 2 * ((models[a] as number) + (noise[a] as number));
      this.#alone[a] = 0.5 * (LOG_2PI - Math.log(diagonal));
      this.#tails[a] = tail;
      this.#tailed[a] = Math.log(often) - 0.5 * Math.log1p(tail * diagonal);
    }
    this.#knees = columns.map((_, a) => this.#kneeOf(a));
    const events = frame.events.filter(({ machines }) => machines === "all" || (machines === "ailing" ? set !== "" : ailing === "burnt"));
    this.#alike = events.some(({ machines }) => machines === "burnt") ? Math.log(1 - UNEVEN.often) : 0;
    this.#events = events.map((event) => {
      let ones = 0;
      for (const a of event.members) for (const b of event.members) ones += c[a * n + b] as number;
      return { event, shared: Math.log(event.shared) - 0.5 * Math.log1p(event.common ** 2 * ones), ones, block: undefined };
    });
  }

  /** What the figures tell of what the generator has to spare for one of them; undefined for what no unit holds. */
  #kneeOf(place: number): Knee | undefined {
    const { n } = this;
    const { columns } = this.#frame;
    const { held, moved } = columns[place] as Column;
    if (!held) return undefined;
    const home = this.#cell * SPREAD_COUNT;
    const covariance = new Float64Array(n);
    let variance = SPARE_MODEL ** 2;
    for (let k = 0; k < moved.length; k++) {
      const s = home + (moved[k] as number);
      const slope = held.slopes[s] as number;
      if (slope === 0) continue;
      variance += slope * slope;
      for (let b = 0; b < n; b++) covariance[b] = (covariance[b] as number) + slope * ((columns[b] as Column).slopes[s] as number);
    }
    const own = this.#row(place, covariance);
    for (let b = 0; b < n; b++) if (covariance[b] !== 0) variance -= (covariance[b] as number) * this.#row(b, covariance);
    return { covariance, own, variance };
  }

  /** C⁻¹·r without gross misreads: {@link clearOf}. */
  clear(alpha: Float64Array, held: Float64Array): Cleared {
    return clearOf(this.n, this.#inverse, alpha, held);
  }

  /** What all other readings predict for one of the figures: {@link leaveOneOut}. */
  leaveOneOut(place: number, cleared: Cleared): { off: number; spread: number } {
    return leaveOneOut(this.n, this.#inverse, place, cleared);
  }

  /** One row of C⁻¹ times a vector. */
  #row(place: number, vector: Float64Array): number {
    let sum = 0;
    for (let b = 0; b < this.n; b++) sum += (this.#inverse[place * this.n + b] as number) * (vector[b] as number);
    return sum;
  }

  /** What weighs the members' errors as if none of them had been read, or each had one more of its own. */
  #blockOf({ event: { members, each } }: Weighed): NonNullable<Weighed["block"]> {
    const size = members.length;
    const factor = new Float64Array(size * size);
    for (let x = 0; x < size; x++)
      for (let y = 0; y < size; y++) factor[x * size + y] = this.#inverse[(members[x] as number) * this.n + (members[y] as number)] as number;
    if (each > 0) for (let x = 0; x < size; x++) factor[x * size + x] = (factor[x * size + x] as number) + 1 / each ** 2;
    const logDet = invert(factor, size);
    // det(1 + D·M) = det D · det(D⁻¹ + M), for an added variance D.
    if (each > 0) return { factor, constant: -0.5 * logDet - size * Math.log(each) };
    return { factor, constant: members.reduce((sum, a) => sum + (this.#frame.broad[a] as number), 0) + 0.5 * (size * LOG_2PI - logDet) };
  }

  /** Logarithm of what an event makes of the likelihood: one error that all its figures share, or figures that say nothing. */
  #eventGain(weighed: Weighed, alpha: Float64Array, expected: boolean): number {
    const { ones } = weighed;
    const { members, common, shared, alone } = weighed.event;
    let sum = 0;
    // An error that lifts them past what a unit holds is not the unit's.
    let passed = 0;
    for (const a of members) {
      sum += alpha[a] as number;
      passed += scratch.passed[a] as number;
    }
    const variance = common * common;
    const alike = weighed.shared + (0.5 * variance * sum * sum) / (1 + variance * ones) - passed;
    if (!alone || expected) return alike;
    weighed.block ??= this.#blockOf(weighed);
    const { block } = weighed;
    const size = members.length;
    let quad = 0;
    for (let x = 0; x < size; x++) {
      const row = alpha[members[x] as number] as number;
      for (let y = 0; y < size; y++) quad += row * (block.factor[x * size + y] as number) * (alpha[members[y] as number] as number);
    }
    return logAdd(alike, Math.log(1 - shared) + block.constant + 0.5 * quad - passed);
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

  /** Mean of the spreads given the readings, gross misreads left out, in standard deviations: Gᵀ·α. */
  shift({ alpha }: Cleared): Float64Array {
    const into = new Float64Array(SPREAD_COUNT);
    const home = this.#cell * SPREAD_COUNT;
    for (let a = 0; a < this.n; a++) {
      const by = alpha[a] as number;
      const { moved, slopes } = this.#frame.columns[a] as Column;
      for (let k = 0; k < moved.length; k++) {
        const s = moved[k] as number;
        into[s] = (into[s] as number) + by * (slopes[home + s] as number);
      }
    }
    return into;
  }

  /**
   * Logarithm of the likelihood of all figures: as predicted, any one of them further off than usual, one, two or a few of them misread,
   * or all of one visit off together. A reading left out of a Gaussian has the density that all others predict for it, of variance
   * 1/c and mean error α/c with c its place on C⁻¹'s diagonal (leave-one-out by block inversion); an error shared by several is a
   * rank-one update (Sherman and Morrison), so that no matrix is made anew.
   * What a running machine shows is the lower of what its generator gives and what its unit holds: a mixture of the two, by how likely
   * all other readings make it that the generator is strong enough. The Gaussian is that of the one which the particle's middle shows.
   * @param elsewhere by visit: what a spoilt visit makes of its words and open lines, as a logarithm
   * @param share filled with how likely each reading is a misread on this particle
   * @param spoilt by visit: filled with how likely the whole visit is off, and last how likely the meter is
   */
  likelihood({ residual, alpha, cleared, held, spare }: Figures, elsewhere: Float64Array, share: Float64Array, spoilt: Float64Array): number {
    const { n } = this;
    const inverse = this.#inverse;
    const { gains, misreads, outside, really, otherwise, passed, order, pairs, sets } = scratch;
    let quad = 0;
    let most = 0;
    let unheld = 0;
    for (let a = 0; a < n; a++) {
      quad += (residual[a] as number) * (alpha[a] as number);
      const c = inverse[a * n + a] as number;
      const square = (alpha[a] as number) ** 2;
      const variance = this.#tails[a] as number;
      const loose = (this.#tailed[a] as number) + (0.5 * square * variance) / (1 + variance * c);
      outside[a] = this.#frame.outside[(alpha[a] as number) > 0 ? "high" : "low"][a] as number;
      really[a] = 1;
      passed[a] = 0;
      const knee = this.#knees[a];
      if (knee && !Number.isNaN(held[a] as number)) {
        const off = held[a] as number;
        const below = (residual[a] as number) - off > BELOW_SET;
        const beyond = below ? logPassed(off) : 0;
        unheld += beyond;
        passed[a] = beyond;
        // An output is held, or is not, with the battery beside it.
        let other = Number.NEGATIVE_INFINITY;
        if (!this.#isWithBattery(a, held)) {
          const reached = reachedBy(n, a, c, spare[a] as number, knee, cleared);
          const usual = 1 - Math.min(below ? reached : 1 - reached, besidesOf(a, this.#frame.again[a] as readonly number[], below, held, spare));
          unheld += Math.log(usual);
          other = Math.log((1 - usual) / usual) + logInstead(off, below);
        }
        otherwise[a] = other;
        const both = this.#hasOutput(a, held) ? (outside[a] as number) : logAdd(outside[a] as number, other);
        really[a] = Math.exp((outside[a] as number) - both);
        outside[a] = both - beyond;
      }
      const misread = (outside[a] as number) + (this.#alone[a] as number) + (0.5 * square) / c;
      misreads[a] = misread;
      const gain = logAdd(misread, loose);
      gains[a] = gain;
      if (gain > most) most = gain;
    }
    const together = this.#otherwiseTogether(residual, held, alpha);
    if (together > most) most = together;
    const all = -0.5 * (quad + this.#logDet + n * LOG_2PI) + n * Math.log(1 - MISREAD) + unheld + this.#alike;
    let count = 0;
    let others = 0;
    let larger = LARGER_SETS[0] as (typeof LARGER_SETS)[number];
    let suspicious = Number.NEGATIVE_INFINITY;
    for (let a = 0; a < n; a++) if ((misreads[a] as number) > suspicious) suspicious = misreads[a] as number;
    if (suspicious > SUSPICIOUS) {
      const suspects = suspectsAmong(n, inverse, alpha, outside, order);
      let best = Number.NEGATIVE_INFINITY;
      for (let x = 1; x < suspects; x++) {
        for (let y = 0; y < x; y++) {
          const gain = this.#pairGain(order[x] as number, order[y] as number, alpha);
          pairs[count++] = gain;
          if (gain > best) best = gain;
        }
      }
      if (best > most) most = best;
      // Where two misreads explain about as much as one, a third may be behind the rest, and so on.
      if (best > PLAIN && best > suspicious - 1) {
        larger = LARGER_SETS[suspects] as typeof larger;
        others = this.#more(larger, best, alpha);
        for (let k = 0; k < others; k++) if ((sets[k] as number) > most) most = sets[k] as number;
      }
    }
    spoilt.fill(Number.NEGATIVE_INFINITY);
    let free = Number.NEGATIVE_INFINITY;
    for (const weighed of this.#events) {
      const { event } = weighed;
      // Where each figure is about what was expected, a visit that says nothing explains nothing better.
      const expected = event.alone && !event.members.some((a) => (misreads[a] as number) > SUSPICIOUS) && (elsewhere[event.visit] as number) < 1;
      const gain = event.prior + this.#eventGain(weighed, alpha, expected) + (event.visit < 0 ? 0 : (elsewhere[event.visit] as number));
      if (event.visit >= 0) spoilt[event.visit] = gain;
      else free = logAdd(free, gain);
      if (gain > most) most = gain;
    }
    // The last of them is the meter, which has no words and open lines of its own.
    for (let v = 0; v < elsewhere.length - 1; v++) {
      // A visit of nothing but open lines and words.
      if ((spoilt[v] as number) > Number.NEGATIVE_INFINITY) continue;
      spoilt[v] = Math.log(SPOILT.often) + (elsewhere[v] as number);
      if ((spoilt[v] as number) > most) most = spoilt[v] as number;
    }
    let sum = Math.exp(-most);
    for (let a = 0; a < n; a++) {
      sum += Math.exp((gains[a] as number) - most);
      share[a] = Math.exp((misreads[a] as number) - most);
    }
    for (let x = 1, k = 0; k < count; x++) {
      for (let y = 0; y < x; y++, k++) {
        const both = Math.exp((pairs[k] as number) - most);
        const [a, b] = [order[x] as number, order[y] as number];
        sum += both;
        share[a] = (share[a] as number) + both;
        share[b] = (share[b] as number) + both;
      }
    }
    for (let k = 0; k < others; k++) {
      const together = Math.exp((sets[k] as number) - most);
      sum += together;
      for (const place of larger[k] as readonly number[]) share[order[place] as number] = (share[order[place] as number] as number) + together;
    }
    sum += Math.exp(free - most) + Math.exp(together - most);
    for (let v = 0; v < spoilt.length; v++) {
      spoilt[v] = Math.exp((spoilt[v] as number) - most);
      sum += spoilt[v] as number;
    }
    for (let a = 0; a < n; a++) share[a] = ((share[a] as number) * (really[a] as number)) / sum;
    for (let v = 0; v < spoilt.length; v++) spoilt[v] = (spoilt[v] as number) / sum;
    return all + most + Math.log(sum);
  }

  /**
   * Gains of more than two misreads together: of all threes of the suspects, of all fours…, until the likeliest of one size explains
   * clearly less than the likeliest one smaller. @param reached gain of the likeliest two @returns how many gains are in the scratch
   */
  #more(larger: readonly (readonly number[])[], reached: number, alpha: Float64Array): number {
    const { sets } = scratch;
    let count = 0;
    let before = reached;
    let best = Number.NEGATIVE_INFINITY;
    for (; count < larger.length; count++) {
      const places = larger[count] as readonly number[];
      if (count > 0 && places.length > (larger[count - 1] as readonly number[]).length) {
        if (best < before - FAINT) break;
        [before, best] = [best, Number.NEGATIVE_INFINITY];
      }
      const gain = this.#setGain(places, alpha);
      sets[count] = gain;
      if (gain > best) best = gain;
    }
    return count;
  }

  /** As {@link Group.#pairGain}, for a set of suspects given by their places. */
  #setGain(places: readonly number[], alpha: Float64Array): number {
    const size = places.length;
    const { block, errors, order, outside } = scratch;
    let gain = (size / 2) * LOG_2PI;
    for (let x = 0; x < size; x++) {
      const row = order[places[x] as number] as number;
      gain += outside[row] as number;
      errors[x] = alpha[row] as number;
      for (let y = 0; y <= x; y++) block[x * size + y] = this.#inverse[row * this.n + (order[places[y] as number] as number)] as number;
    }
    return gain + gainOfLeavingOut(block, errors, size);
  }

  #pairGain(a: number, b: number, alpha: Float64Array): number {
    return (scratch.outside[a] as number) + (scratch.outside[b] as number) + this.#leavingOut(a, b, alpha);
  }

  /** True for volts at the unit's output of which a particle tells what is held there and at the battery, read in the same run. */
  #isWithBattery(output: number, held: Float64Array): boolean {
    const battery = this.#frame.batteryOf[output] as number;
    return battery >= 0 && !Number.isNaN(held[output] as number) && !Number.isNaN(held[battery] as number);
  }

  /** True for volts at the battery beside which those at the output were read in the same run. */
  #hasOutput(battery: number, held: Float64Array): boolean {
    const output = this.#frame.outputOf[battery] as number;
    return output >= 0 && this.#isWithBattery(output, held);
  }

  /** Logarithm of what it adds that a generator turns out otherwise than its particle's middle, at the unit and at the battery alike. */
  #otherwiseTogether(residual: Float64Array, held: Float64Array, alpha: Float64Array): number {
    const { outputOf, readBetween } = this.#frame;
    const { otherwise, passed } = scratch;
    let sum = Number.NEGATIVE_INFINITY;
    for (let a = 0; a < this.n; a++) {
      if (Number.isNaN(held[a] as number) || !this.#hasOutput(a, held)) continue;
      const output = outputOf[a] as number;
      const below = (residual[a] as number) - (held[a] as number) > BELOW_SET;
      const [here, there] = (below ? [held[a], held[output]] : [residual[a], residual[output]]) as [number, number];
      const between = logBetween(there - here, (readBetween[a] as number) - (there - here));
      sum = logAdd(sum, (otherwise[a] as number) + between + this.#leavingOut(a, output, alpha) - (passed[a] as number) - (passed[output] as number));
    }
    return sum;
  }

  /** What leaving two figures out of the Gaussian adds to its logarithm. */
  #leavingOut(a: number, b: number, alpha: Float64Array): number {
    const { n } = this;
    const [aa, bb, ab] = [this.#inverse[a * n + a] as number, this.#inverse[b * n + b] as number, this.#inverse[a * n + b] as number];
    const det = Math.max(1e-12, aa * bb - ab * ab);
    const [x, y] = [alpha[a] as number, alpha[b] as number];
    const quad = (bb * x * x - 2 * ab * x * y + aa * y * y) / det;
    return LOG_2PI - 0.5 * Math.log(det) + 0.5 * quad;
  }

  /**
   * Variance of a look's figure given the readings, the reading's own noise left out, and the spread of what the generator has to spare
   * for it. Asked for one look after another.
   */
  foreseen(column: Column): { variance: number; spare: number } {
    if (this.#last?.column === column) return this.#last;
    const { slopes, held } = column;
    const model = modelVariance(column.look.step, isFree(slopes, this.#cell * SPREAD_COUNT) ? this.#ailing : "no");
    const variance = Math.max(1e-9, model + this.#varianceAlong(slopes, column.moved));
    this.#last = { column, variance, spare: held ? Math.sqrt(SPARE_MODEL ** 2 + Math.max(0, this.#varianceAlong(held.slopes, column.moved))) : 0 };
    return this.#last;
  }

  /** Variance, given the readings, of what has these slopes along the spreads. */
  #varianceAlong(slopes: Float64Array, moved: Int32Array): number {
    const from = this.#cell * SPREAD_COUNT;
    const covariance = this.#covariance();
    let sum = 0;
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
    return sum;
  }

  /** Covariance of the spreads given the readings: 1 − Gᵀ·C⁻¹·G, worked out for the spreads that any reading moves. */
  #covariance(): Float64Array {
    if (this.#spreadCovariance) return this.#spreadCovariance;
    const { n } = this;
    const size = SPREAD_COUNT;
    const home = this.#cell * size;
    const columns = this.#frame.columns;
    const inverse = this.#inverse;
    const moved: number[] = [];
    for (let s = 0; s < size; s++) if (columns.some(({ slopes }) => slopes[home + s] !== 0)) moved.push(s);
    const count = moved.length;
    const slopes = new Float64Array(n * count);
    for (let a = 0; a < n; a++) for (let k = 0; k < count; k++) slopes[a * count + k] = (columns[a] as Column).slopes[home + (moved[k] as number)] as number;
    const weighed = new Float64Array(n * count);
    for (let a = 0; a < n; a++) {
      for (let b = 0; b < n; b++) {
        const c = inverse[a * n + b] as number;
        for (let k = 0; k < count; k++) weighed[a * count + k] = (weighed[a * count + k] as number) + c * (slopes[b * count + k] as number);
      }
    }
    const covariance = new Float64Array(size * size);
    for (let s = 0; s < size; s++) covariance[s * size + s] = 1;
    for (let k = 0; k < count; k++) {
      for (let l = 0; l <= k; l++) {
        let sum = 0;
        for (let a = 0; a < n; a++) sum += (slopes[a * count + k] as number) * (weighed[a * count + l] as number);
        const [s, t] = [moved[k] as number, moved[l] as number];
        covariance[s * size + t] = (s === t ? 1 : 0) - sum;
        covariance[t * size + s] = covariance[s * size + t] as number;
      }
    }
    this.#spreadCovariance = covariance;
    return covariance;
  }
}
