import type { Sheet } from "../../machine/sheet";
import type { Meter } from "../../meter/meter";
import { testOf } from "../../procedure/catalogue";
import { cellsOf, type Reading, turningVolts } from "../../procedure/step";
import { isNumber, isOpen } from "../../units";
import { type Column, SPREAD_COUNT } from "../population/column";
import { isWorded, misreadRange, noiseOf, onScale, readsOpen, wordsOf } from "../population/gauges";
import type { Hypothesis } from "../population/hypotheses";
import { type Look, lookOfReading, sinceCharge, visitOf } from "../population/look";
import { SPREAD_IDS } from "../population/nuisance";
import type { Population } from "../population/population";
import type { Cleared } from "./cleared";
import { cameDrained, isOfDrained, isRefilled } from "./drained";
import { Frame, isMeterVolts } from "./frame";
import { Group } from "./group";
import { BELOW_SET, mixed } from "./held";
import { onSecondMeter, secondMeterNoise } from "./secondMeter";
import { BLIND, CONTRADICTED, MISREAD, SPOILT } from "./slips";

/** A reading as the engine weighs it. */
export interface Observation {
  /** Its index among the readings given. */
  reading: number;
  look: Look;
  /** On the test's scale; not a number for the open line and for words. */
  at: number;
  open: boolean;
  /** What the figure was multiplied by to be the look's: see {@link lookOfReading}. */
  factor: number;
  /** Index of the word chosen, −1 for figures. */
  word: number;
  noise: number;
  /** Read on the second meter. */
  second: boolean;
}

/**
 * Readings on their scales, each with where it was taken; those the engine does not weigh are left out, and so is what a battery
 * showed that came in drained, once it has been charged.
 */
export function observe(readings: readonly Reading[], population: Population, meter: Meter): Observation[] {
  return observedIn(readings, population, meter).observations;
}

/** As {@link observe}, and whether the battery came in drained. */
export function observedIn(readings: readonly Reading[], population: Population, meter: Meter): { observations: Observation[]; drained: boolean } {
  const weighed = weighable(readings, population, meter);
  const drained = cameDrained(weighed, population.sheet);
  return { drained, observations: drained && isRefilled(weighed, population.sheet) ? weighed.filter((observation) => !isOfDrained(observation)) : weighed };
}

function weighable(readings: readonly Reading[], population: Population, meter: Meter): Observation[] {
  const weakest = weakestCells(readings, population.sheet);
  return sinceCharge(readings).flatMap((reading, index): Observation[] => {
    if (reading.test === "battery.cell" && !weakest.has(index)) return [];
    const asked = lookOfReading(reading, population.sheet);
    if (!asked || !population.knows(asked.look)) return [];
    const { look, factor } = asked;
    const base = { reading: index, look, factor, at: Number.NaN, open: false, word: -1, noise: 0, second: reading.secondMeter === true };
    if (isWorded(reading.test)) {
      const word = wordsOf(reading.test).indexOf(String(reading.value));
      return word < 0 ? [] : [{ ...base, word }];
    }
    if (isOpen(reading.value) || (isNumber(reading.value) && readsOpen(reading.test, reading.value))) return [{ ...base, open: true }];
    if (!isNumber(reading.value) || !Number.isFinite(reading.value)) return [];
    const test = testOf(reading.test);
    if (test.dial === "diode" && reading.value >= Math.min(2, meter.diodeMaxVolts)) return [{ ...base, open: true }];
    const lead = test.leadZero && reading.raw ? (reading.leadOhms ?? meter.leadOhms) : 0;
    const at = onScale(reading.test, (turningVolts(reading.value, reading) - lead) * factor);
    const noise = noiseOf(reading.test, at, reading.ohmsResolution ?? meter.ohmsResolution);
    return [{ ...base, at, noise: base.second ? Math.hypot(noise, secondMeterNoise(population.column(look))) : noise }];
  });
}

/** This far below the best a cell stands out, whether or not all of them were read, V. */
const STANDS_OUT = 0.15;

/**
 * Of each set of battery cells, read at one charge and after the same repairs, the lowest: once all were read, or as soon as it stands out.
 * @returns indices among the readings
 */
function weakestCells(readings: readonly Reading[], sheet: Sheet): Set<number> {
  const sets = new Map<string, Map<string | undefined, { index: number; volts: number }>>();
  readings.forEach(({ test, at, value, charged, mended }, index) => {
    if (test !== "battery.cell" || !isNumber(value)) return;
    const key = [charged ?? false, ...(mended ?? [])].join();
    // A cell that was read again counts as it was read last.
    sets.set(key, (sets.get(key) ?? new Map()).set(at, { index, volts: value }));
  });
  return new Set(
    [...sets.values()].flatMap((cells) => {
      const inOrder = [...cells.values()].sort((cell, other) => cell.volts - other.volts);
      const [lowest, best] = [inOrder[0], inOrder.at(-1)];
      return lowest && best && (cells.size >= cellsOf(sheet) || best.volts - lowest.volts > STANDS_OUT) ? [lowest.index] : [];
    }),
  );
}

/**
 * Of many readings a few are weighed alone to begin with, evenly spread over the job, so that every stand has its say: particles whose
 * logarithm they leave so far below the best weigh nothing beside it, whatever the rest says. Where those are much more than half,
 * looking at them first costs more than it spares.
 */
const SCREEN = { at: [12, 36], share: 0.6, hopeless: 16 } as const;

/** Particles that weigh less than this make no difference to a mean. */
const FAINT_WEIGHT = 1e-4;

/** What the readings so far leave of the population. */
export class Posterior {
  readonly population: Population;
  readonly observations: readonly Observation[];
  /** Weight of each particle, summing to one. */
  readonly weights: Float64Array;
  /** Probability of each observation, given all, that it was misread. */
  readonly misread: Float64Array;
  /**
   * Visits with more than one reading, and last all volts, which a meter that reads wrong has off: which readings, by their place among
   * the observations, and how likely all of them are off together.
   */
  readonly visits: { members: readonly number[]; spoilt: number }[];
  /** By observation: each particle's probability that it was misread. */
  readonly #doubt: readonly Float64Array[];
  /** By particle: C⁻¹·r, and from it the mean of each spread, in standard deviations, once {@link foresee} asks. */
  readonly #alphas: (Float64Array | undefined)[] = [];
  readonly #shifts: (Float64Array | undefined)[] = [];
  readonly #logPriors: Float64Array;
  readonly #groups: Group[] = [];
  readonly #groupOf: Int32Array;
  readonly #shares: Float64Array;
  /** The battery came in drained, and was not charged yet. */
  readonly drained: boolean;

  constructor(population: Population, priors: Float64Array, observations: readonly Observation[]) {
    this.#logPriors = priors.map(Math.log);
    this.population = population;
    this.observations = observations;
    this.#shares = population.shares(observations);
    this.drained = cameDrained(observations, population.sheet);
    this.#groupOf = new Int32Array(population.particles.length).fill(-1);
    const { logs, doubt, spoilt, visits } = this.#weighAll(this.#likely(), observations);
    this.weights = normalised(logs);
    const averaged = (chances: Float64Array): number => chances.reduce((sum, probability, i) => sum + probability * (this.weights[i] as number), 0);
    this.#doubt = doubt;
    this.misread = Float64Array.from(doubt, averaged);
    const volts = observations.flatMap(({ look, second }, j) => (isMeterVolts(look.step.test) && !second ? [j] : []));
    this.visits = [...visits, volts].map((members, v) => ({ members, spoilt: averaged(spoilt[v] as Float64Array) }));
  }

  /** The particles that are weighed by all observations, cell by cell. */
  #likely(): (readonly number[])[] {
    const { population, observations } = this;
    return SCREEN.at
      .filter((count) => count <= SCREEN.share * observations.length)
      .reduce<(readonly number[])[]>(
        (cells, count) => {
          const few = observations.filter((_, j) => Math.floor(((j + 1) * count) / observations.length) > Math.floor((j * count) / observations.length));
          const { logs } = this.#weighAll(cells, few);
          const least = logs.reduce((most, log) => Math.max(most, log), Number.NEGATIVE_INFINITY) - SCREEN.hopeless;
          return cells.map((members) => members.filter((i) => (logs[i] as number) > least)).filter(({ length }) => length > 0);
        },
        population.cells.map(({ members }) => members),
      );
  }

  /** Logarithms of the weights that some observations leave to some particles, given cell by cell; all others have none. */
  #weighAll(cells: readonly (readonly number[])[], observations: readonly Observation[]): Omit<Weighed, "columns"> & { visits: number[][] } {
    const { population } = this;
    const count = population.particles.length;
    const columns = observations.map(({ look, second }) => (second ? onSecondMeter(population.column(look)) : population.column(look)));
    const { visits, visitOfEach } = visitsOf(observations);
    const weighed: Weighed = {
      observations,
      columns,
      frames: new Map(),
      scratch: {
        residual: new Float64Array(observations.length),
        share: new Float64Array(observations.length),
        held: new Float64Array(observations.length),
        spare: new Float64Array(observations.length),
      },
      visitOfEach,
      logs: new Float64Array(count).fill(Number.NEGATIVE_INFINITY),
      doubt: observations.map(() => new Float64Array(count)),
      spoilt: [...visits, "meter"].map(() => new Float64Array(count)),
      allOpen: allOpenIn(observations, visitOfEach, visits.length),
    };
    this.#groups.length = 0;
    const opens = columns.flatMap(({ open }, j) => {
      const { word, open: read } = observations[j] as Observation;
      return word < 0 && !read ? [open] : [];
    });
    const alike = (first: number, second: number): boolean => opens.every((open) => (open[first] as number) < 0.5 === (open[second] as number) < 0.5);
    for (const members of cells) {
      // Members for which other readings are open lines than for their neighbours are worked out apart.
      let left = members;
      while (left.length > 0) {
        const first = left[0] as number;
        const same = left.filter((member) => alike(first, member));
        this.#weigh(same, weighed);
        left = same.length === left.length ? [] : left.filter((member) => !alike(first, member));
      }
    }
    return { ...weighed, visits };
  }

  /** Likelihood of all observations for particles of one cell with one pattern of open lines. */
  #weigh(members: readonly number[], { observations, columns, frames, scratch, visitOfEach, logs, doubt, spoilt, allOpen }: Weighed): void {
    const { population } = this;
    const [first] = members as [number];
    const { cell, hypothesis: h } = population.particles[first] as Population["particles"][number];
    const active: number[] = [];
    const others: number[] = [];
    for (let j = 0; j < observations.length; j++) (isFigure(observations[j] as Observation, columns[j] as Column, first) ? active : others).push(j);
    const pattern = others.join();
    const frame = frames.get(pattern) ?? new Frame(active, observations, columns, { of: visitOfEach, meter: spoilt.length - 1, drained: this.drained });
    frames.set(pattern, frame);
    const group = new Group(cell, frame, population.hypotheses[h] as Hypothesis);
    this.#groups.push(group);
    const n = active.length;
    const { residual, share, held, spare } = scratch;
    const elsewhere = new Float64Array(spoilt.length);
    const off = new Float64Array(spoilt.length);
    const readAt = active.map((j) => (observations[j] as Observation).at);
    const shownAt = active.map((j) => (columns[j] as Column).at);
    const figured = active.map((j) => (columns[j] as Column).figured);
    const heldAt = active.map((j) => (columns[j] as Column).held);
    const doubted = active.map((j) => doubt[j] as Float64Array);
    for (const i of members) {
      this.#groupOf[i] = this.#groups.length - 1;
      const { hypothesis } = population.particles[i] as Population["particles"][number];
      let log = (this.#logPriors[hypothesis] as number) + Math.log(this.#shares[i] as number);
      for (let v = 0; v < elsewhere.length; v++) elsewhere[v] = allOpen[v] ? Math.log(SPOILT.allOpen) : 0;
      for (const j of others) {
        const observation = observations[j] as Observation;
        const { said, doubted: unlikely } = categorical(observation, columns[j] as Column, i);
        log += said;
        (doubt[j] as Float64Array)[i] = unlikely;
        const v = visitOfEach[j] as number;
        if (v >= 0) elsewhere[v] = (elsewhere[v] as number) - said + (allOpen[v] ? 0 : spoiltly(observation, columns[j] as Column));
      }
      for (let a = 0; a < n; a++) {
        residual[a] = (readAt[a] as number) - ((shownAt[a] as Float64Array)[i] as number);
        log += (figured[a] as Float64Array)[i] as number;
        held[a] = (readAt[a] as number) - (heldAt[a]?.at[i] ?? Number.NaN);
        spare[a] = heldAt[a]?.spare[i] ?? Number.NaN;
      }
      const alpha = new Float64Array(n);
      group.solve(residual, alpha);
      this.#alphas[i] = alpha;
      logs[i] = log + group.likelihood({ residual, alpha, cleared: group.clear(alpha, held), held, spare }, elsewhere, share, off);
      for (let a = 0; a < n; a++) (doubted[a] as Float64Array)[i] = share[a] as number;
      for (let v = 0; v < off.length; v++) (spoilt[v] as Float64Array)[i] = off[v] as number;
    }
  }

  /**
   * What an observation would have read on a particle by all other readings: a figure with its standard deviation on the test's scale
   * and how far the reading lies from it, the open line, or the likeliest word.
   */
  expected(particle: number, observation: number): Expected {
    const { look } = this.observations[observation] as Observation;
    const column = this.population.column(look);
    if (column.words.length > 0) {
      const odds = column.words.map((word) => word[particle] as number);
      const word = odds.indexOf(Math.max(...odds));
      return { kind: "word", word, odds: odds[(this.observations[observation] as Observation).word] ?? 0 };
    }
    if ((column.open[particle] as number) >= 0.5) return { kind: "open" };
    const group = this.#groups[this.#groupOf[particle] as number];
    const place = group?.active.indexOf(observation) ?? -1;
    if (!group || place < 0) return { kind: "figure", at: column.at[particle] as number, off: Number.POSITIVE_INFINITY, spread: 1 };
    const { off, spread } = group.leaveOneOut(place, this.#clear(group, particle));
    return { kind: "figure", at: (this.observations[observation] as Observation).at - off, off, spread };
  }

  /** C⁻¹·r of a particle without gross misreads. */
  #clear(group: Group, particle: number): Cleared {
    const held = Float64Array.from(group.active, (j) => {
      const { look, at } = this.observations[j] as Observation;
      return at - (this.population.column(look).held?.at[particle] ?? Number.NaN);
    });
    return group.clear(this.#alphas[particle] as Float64Array, held);
  }

  /** Probability that an observation was misread and the machine is one of some particles. */
  misreadAmong(observation: number, isAmong: (particle: number) => boolean): number {
    const doubts = this.#doubt[observation] as Float64Array;
    return this.weights.reduce((sum, weight, i) => (isAmong(i) ? sum + weight * (doubts[i] as number) : sum), 0);
  }

  /** Probability of every hypothesis. */
  byHypothesis(): Float64Array {
    const sums = new Float64Array(this.population.hypotheses.length);
    this.population.particles.forEach(({ hypothesis }, i) => {
      sums[hypothesis] = (sums[hypothesis] as number) + (this.weights[i] as number);
    });
    return sums;
  }

  /** How much too high the meter seems to read all volts, in standard deviations of a usual meter's error. */
  meterGain(): number {
    const volts = SPREAD_IDS.indexOf("volts");
    return this.weights.reduce((sum, weight, i) => (weight > FAINT_WEIGHT ? sum + weight * (this.#shift(i)[volts] as number) : sum), 0);
  }

  /** Mean of each spread on a particle, in standard deviations, gross misreads left out. */
  #shift(particle: number): Float64Array {
    const known = this.#shifts[particle];
    if (known) return known;
    const group = this.#groups[this.#groupOf[particle] as number] as Group;
    const shift = group.shift(this.#clear(group, particle));
    this.#shifts[particle] = shift;
    return shift;
  }

  /** Mean and variance of what a figure would show on a particle, on the test's scale, the readings so far taken into account. */
  foresee(column: Column, particle: number, into: { mean: number; variance: number }): void {
    const { cell } = this.population.particles[particle] as Population["particles"][number];
    const group = this.#groups[this.#groupOf[particle] as number] as Group;
    const from = cell * SPREAD_COUNT;
    const shift = this.#shift(particle);
    const at = column.at[particle] as number;
    const { moved, slopes, held } = column;
    let mean = at;
    for (let k = 0; k < moved.length; k++) {
      const s = moved[k] as number;
      mean += (slopes[from + s] as number) * (shift[s] as number);
    }
    const set = held?.at[particle] ?? Number.NaN;
    if (!held || Number.isNaN(set)) {
      into.mean = mean;
      into.variance = group.foreseen(column).variance;
      return;
    }
    let spare = held.spare[particle] as number;
    for (let k = 0; k < moved.length; k++) {
      const s = moved[k] as number;
      spare += (held.slopes[from + s] as number) * (shift[s] as number);
    }
    const { variance, spare: spareSpread } = group.foreseen(column);
    Object.assign(into, mixed({ mean, variance, spare, spareSpread, below: set - at > BELOW_SET }, set));
  }
}

/** True when both the reading and the prediction are figures. */
function isFigure({ open, word }: Observation, column: Column, particle: number): boolean {
  return word < 0 && !open && (column.open[particle] as number) < 0.5;
}

/** What a particle would show where something was read. */
type Expected = { kind: "figure"; at: number; off: number; spread: number } | { kind: "open" } | { kind: "word"; word: number; odds: number };

/** Where the weighing of a cell finds and leaves its sums. */
interface Weighed {
  observations: readonly Observation[];
  columns: readonly Column[];
  /** Filled and read again for one particle after another. */
  scratch: { residual: Float64Array; share: Float64Array; held: Float64Array; spare: Float64Array };
  /** By the observations that are no figures: what groups without them have in common. */
  frames: Map<string, Frame>;
  visitOfEach: Int32Array;
  logs: Float64Array;
  doubt: readonly Float64Array[];
  spoilt: readonly Float64Array[];
  /** By visit: whether it read nothing but the open line. */
  allOpen: readonly boolean[];
}

/** The visits with more than one reading, and which of them each observation belongs to (−1: none). */
function visitsOf(observations: readonly Observation[]): { visits: number[][]; visitOfEach: Int32Array } {
  const byName = new Map<string, number[]>();
  observations.forEach(({ look, second }, j) => {
    const name = `${visitOf(look)} ${second} ${look.mended.join()}`;
    byName.set(name, [...(byName.get(name) ?? []), j]);
  });
  const visits = [...byName.values()].filter((members) => members.length > 1);
  const visitOfEach = new Int32Array(observations.length).fill(-1);
  visits.forEach((members, v) => {
    for (const j of members) visitOfEach[j] = v;
  });
  return { visits, visitOfEach };
}

function allOpenIn(observations: readonly Observation[], visitOfEach: Int32Array, count: number): boolean[] {
  const all = new Array<boolean>(count).fill(true);
  observations.forEach(({ open }, j) => {
    const v = visitOfEach[j] as number;
    if (v >= 0 && !open) all[v] = false;
  });
  return all;
}

/** Logarithm of what open lines and words contribute, and how likely the reading then is a misread. */
function categorical({ open, word, look, at }: Observation, column: Column, particle: number): { said: number; doubted: number } {
  if (word >= 0) {
    const often = column.words[word]?.[particle] ?? 0;
    const likelihood = (1 - BLIND) * often + BLIND / Math.max(1, column.words.length);
    return { said: Math.log(likelihood), doubted: BLIND / column.words.length / likelihood };
  }
  const openly = column.open[particle] as number;
  if (open) return { said: Math.log(Math.max(MISREAD / 2, openly)), doubted: openly < 0.5 ? CONTRADICTED : 0 };
  if (openly < 0.5) return { said: Math.log(1 - openly), doubted: 0 };
  return { said: Math.log((1 - openly) / misreadRange(look.step.test, at)), doubted: CONTRADICTED };
}

/** Logarithm of what a visit that is off as a whole makes of one of its words or open lines, or of a figure where none should be. */
function spoiltly({ open, word, look, at }: Observation, column: Column): number {
  if (word >= 0) return -Math.log(Math.max(1, column.words.length));
  return open ? Math.log(SPOILT.open) : Math.log((1 - SPOILT.open) / misreadRange(look.step.test, at));
}

/** Weights from logarithms, summing to one; equal where no particle explains anything. */
function normalised(logs: Float64Array): Float64Array {
  let most = Number.NEGATIVE_INFINITY;
  for (const log of logs) if (log > most) most = log;
  const weights = logs.map((log) => Math.exp(log - most));
  const sum = weights.reduce((total, weight) => total + weight, 0);
  return weights.map((weight) => weight / sum);
}
