import type { Sheet } from "../../machine/sheet";
import { testOf } from "../../procedure/catalogue";
import type { Build } from "./builds";
import type { Atlas } from "./charts";
import { type Column, type ColumnSource, SPREAD_COUNT } from "./column";
import { gaugeOf, isHeld, isWorded } from "./gauges";
import type { Hypothesis } from "./hypotheses";
import { type Cell, candidateOf, type Lineup, lineUp, type Particle } from "./lineup";
import { isLegless, type Look } from "./look";
import { NO_OFFSETS, type Offsets, SPREAD_IDS, type Spread } from "./nuisance";
import { Population } from "./population";
import { predict } from "./predict";
import { RATES } from "./rates";
import { type Candidate, type Moment, Subject, type Surroundings, surroundingsOf } from "./subject";

/** Step of the slopes in standard deviations. */
const STEP = 0.5;
/**
 * Where an engine idles many a generator is about to begin to give: below that its volts are the battery's, above they soon are the
 * unit's. There a slope is that between as much to either side, so that it is right over what is likely and not just where the middle
 * lies (statistical linearization).
 */
const BOTH_WAYS = { by: 1, spreads: ["emf", "output", "henries", "loads", "rating", "rpmChargeIdle"] as readonly Spread[] } as const;
/**
 * A generator that a step leaves below what its battery stands at shows nothing yet; a stronger one would. Where nothing holds the volts
 * that a step of the magnets moves by less than this, V, the slope is that of a step so many times as long.
 */
const STILL = { volts: 0.05, longer: 3, spread: "emf" } as const;
/**
 * States of the machine (what was charged and mended) and predictions that are remembered: those of a job after two repairs. Shared by
 * all jobs of a model, they would otherwise grow with every job of it.
 */
const MOST = { states: 8, columns: 1200 } as const;

/** Predictions worked out from a machine's charts, each when first asked for. */
class ChartedColumns implements ColumnSource {
  readonly #lineup: Lineup;
  readonly #around: readonly Surroundings[];
  readonly #moved: readonly Record<Spread, Offsets>[];
  readonly #further: readonly Offsets[];
  readonly #bothWays: readonly ReadonlyMap<Spread, { up: Offsets; down: Offsets }>[];
  /** By what was charged and mended; then cold or warm, at rest or run, for those that mind. */
  readonly #made = new Map<string, (Subject | undefined)[][]>();
  readonly #charges = new Map<number, Offsets>();
  readonly #shifted = new Map<string, Subject | undefined>();
  readonly #columns = new Map<string, Column>();

  /** @param atlases the charts of {@link chartSheetsOf}, in their order */
  constructor(lineup: Lineup, atlases: readonly Atlas[], ambientC: number) {
    this.#lineup = lineup;
    this.#around = lineup.builds.map((build) => surroundingsOf(build, atlases[build.chart] as Atlas, ambientC));
    // One object for each spread moved by a step, so that what was worked out under it is found again.
    this.#moved = lineup.builds.map(
      (build) => Object.fromEntries(SPREAD_IDS.map((spread) => [spread, movedBy(spread, build, STEP)])) as Record<Spread, Offsets>,
    );
    this.#bothWays = lineup.builds.map(
      (build) =>
        new Map(BOTH_WAYS.spreads.map((spread) => [spread, { up: movedBy(spread, build, BOTH_WAYS.by), down: movedBy(spread, build, -BOTH_WAYS.by) }])),
    );
    this.#further = lineup.builds.map((build) => movedBy(STILL.spread, build, STILL.longer * STEP));
  }

  /** The subjects that a look finds, made when first asked for: most looks share theirs. */
  #subjects(look: Look): (index: number) => Subject {
    const state = `${look.charged}|${look.mended.join()}`;
    let byMoment = this.#made.get(state);
    if (!byMoment) {
      if (this.#made.size >= MOST.states) this.#forget();
      byMoment = [[], [], [], []];
      this.#made.set(state, byMoment);
    }
    const made = byMoment;
    return (index) => {
      const { candidate, minds, build } = this.#lineup.particles[index] as Particle;
      const moment = momentOf(look, candidate);
      const subjects = made[(minds.heat && moment.warm ? 1 : 0) + (minds.run && moment.running ? 2 : 0)] as (Subject | undefined)[];
      let subject = subjects[index];
      if (!subject) {
        subject = new Subject(this.#around[build] as Surroundings, candidate, moment);
        subjects[index] = subject;
      }
      return subject;
    };
  }

  column(look: Look): Column {
    const known = this.#columns.get(look.key);
    if (known) return known;
    if (this.#columns.size >= MOST.columns) this.#forget();
    const column = this.#predict(look);
    this.#columns.set(look.key, column);
    return column;
  }

  /** Forgets what was worked out so far: it is worked out anew when it is asked for again. */
  #forget(): void {
    this.#made.clear();
    this.#shifted.clear();
    this.#columns.clear();
  }

  #predict(look: Look): Column {
    const { test } = look.step;
    const count = this.#lineup.particles.length;
    const moved = Int32Array.from(isWorded(test) ? [] : gaugeOf(test).moved, (spread) => SPREAD_IDS.indexOf(spread));
    const column: Column = {
      look,
      moved,
      at: new Float64Array(count),
      open: new Float64Array(count),
      slopes: new Float64Array(0),
      words: [],
      figured: new Float64Array(count),
      held: isHeld(test)
        ? { at: new Float64Array(count).fill(Number.NaN), spare: new Float64Array(count).fill(Number.NaN), slopes: new Float64Array(0) }
        : undefined,
    };
    const subjectOf = this.#subjects(look);
    if (isWorded(test)) {
      const words: Float64Array[] = [];
      const legless = isLegless(look);
      this.#lineup.particles.forEach(({ twin }, i) => {
        if (legless && twin !== i) {
          for (const chances of words) chances[i] = chances[twin] as number;
          return;
        }
        const seen = predict(subjectOf(i), look, NO_OFFSETS);
        if (!("words" in seen)) return;
        seen.words.forEach((probability, k) => {
          words[k] ??= new Float64Array(count);
          (words[k] as Float64Array)[i] = probability;
        });
      });
      return { ...column, words };
    }
    const legless = isLegless(look);
    this.#lineup.particles.forEach(({ twin }, i) => {
      if (legless && twin !== i) {
        for (const figures of [column.at, column.open, column.figured, column.held?.at, column.held?.spare]) if (figures) figures[i] = figures[twin] as number;
        return;
      }
      const seen = predict(subjectOf(i), look, NO_OFFSETS);
      if ("words" in seen) return;
      column.at[i] = seen.at;
      column.open[i] = seen.open;
      column.figured[i] = Math.log(1 - seen.open);
      if (!column.held) return;
      column.held.at[i] = seen.held ?? Number.NaN;
      column.held.spare[i] = seen.spare ?? Number.NaN;
    });
    const slopes = this.#slopes(look, column, subjectOf);
    return { ...column, slopes: slopes.of, held: column.held && { ...column.held, slopes: slopes.spare } };
  }

  /** Slopes of the figure and of what is spared by differences, at each cell's middle particle. */
  #slopes(look: Look, { at, open, moved, held }: Column, subjectOf: (index: number) => Subject): { of: Float64Array; spare: Float64Array } {
    const slopes = new Float64Array(this.#lineup.cells.length * SPREAD_COUNT);
    const spare = new Float64Array(held ? slopes.length : 0);
    const legless = isLegless(look);
    this.#lineup.cells.forEach(({ middle, about, build, twin }, c) => {
      if (legless && twin !== c) {
        for (const all of [slopes, spare]) all.copyWithin(c * SPREAD_COUNT, twin * SPREAD_COUNT, (twin + 1) * SPREAD_COUNT);
        return;
      }
      const moves = this.#moved[build] as Record<Spread, Offsets>;
      const { spreads } = this.#lineup.builds[build] as Build;
      if ((open[middle] as number) > 0.5) return;
      for (const s of moved) {
        const spread = SPREAD_IDS[s] as Spread;
        if (spreads[spread] === 0) continue;
        const ways = held && look.step.rpm === "idle" ? this.#bothWays[build]?.get(spread) : undefined;
        if (ways) {
          const [up, down] = [predict(subjectOf(middle), look, ways.up), predict(subjectOf(middle), look, ways.down)];
          if ("words" in up || "words" in down) continue;
          slopes[c * SPREAD_COUNT + s] = (up.at - down.at) / (2 * BOTH_WAYS.by);
          const spared = ((up.spare ?? Number.NaN) - (down.spare ?? Number.NaN)) / (2 * BOTH_WAYS.by);
          if (!Number.isNaN(spared)) spare[c * SPREAD_COUNT + s] = spared;
          continue;
        }
        const worsens = spread === "severity" || spread === "severity2";
        const subject = worsens ? this.#worse(c, spread === "severity" ? 0 : 1, look) : subjectOf(middle);
        const ahead = subject && predict(subject, look, worsens ? NO_OFFSETS : spread === "charge" ? this.#chargeMoved(about.charge) : moves[spread]);
        if (ahead === undefined || "words" in ahead || ahead.open > 0.5) continue;
        const step = ahead.at - (at[middle] as number);
        const isStill = spread === STILL.spread && held !== undefined && Number.isNaN(held.at[middle]) && Math.abs(step) < STILL.volts;
        slopes[c * SPREAD_COUNT + s] = isStill ? this.#stirred(subject as Subject, look, build, at[middle] as number) : step / STEP;
        const spared = ((ahead.spare ?? Number.NaN) - (held?.spare[middle] as number)) / STEP;
        if (held && !Number.isNaN(spared)) spare[c * SPREAD_COUNT + s] = spared;
      }
    });
    return { of: slopes, spare };
  }

  /** Slope of running volts that nothing holds, and that a step of the magnets hardly moved. */
  #stirred(subject: Subject, look: Look, build: number, from: number): number {
    const seen = predict(subject, look, this.#further[build] as Offsets);
    return "words" in seen ? 0 : (seen.at - from) / (STILL.longer * STEP);
  }

  /** The charge moved by a step; the same object every time, so that what was worked out under it is found again. */
  #chargeMoved(sd: number): Offsets {
    const moved = this.#charges.get(sd) ?? { charge: STEP * sd };
    this.#charges.set(sd, moved);
    return moved;
  }

  /** A cell's middle particle with one severity a step on; undefined where that fault has just one. */
  #worse(cell: number, which: 0 | 1, look: Look): Subject | undefined {
    const { hypothesis, build, middle, shares, about } = this.#lineup.cells[cell] as Cell;
    const { candidate } = this.#lineup.particles[middle] as Particle;
    const { faults } = this.#lineup.hypotheses[hypothesis] as Hypothesis;
    const fault = faults[which]?.fault;
    if (!fault || !RATES[fault].severity) return undefined;
    const { warm, running } = momentOf(look, candidate);
    const key = `${cell}|${which}|${warm}|${running}|${look.charged}|${look.mended.join()}`;
    if (!this.#shifted.has(key)) {
      const moved = shares.map((share, i) => (i === which ? share + STEP * about[which === 0 ? "severity" : "severity2"] : share));
      const worse = candidateOf(this.#lineup.hypotheses[hypothesis] as Hypothesis, moved, 0, (this.#lineup.builds[build] as Build).sheet);
      this.#shifted.set(key, new Subject(this.#around[build] as Surroundings, { ...candidate, faults: worse.faults }, momentOf(look, candidate)));
    }
    return this.#shifted.get(key);
  }
}

/** One spread of a build moved by so many standard deviations, and what goes along with it. */
function movedBy(spread: Spread, { spreads, along }: Build, by: number): Offsets {
  const step = by * spreads[spread];
  return Object.fromEntries(Object.entries(along[spread] ?? { [spread]: 1 }).map(([moved, share]) => [moved, step * share]));
}

/** The state in which a look finds a candidate: heat is there when it was said to be, or when the running engine brings it early. */
function momentOf(look: Look, candidate: Candidate): Moment {
  const { engine, unplug } = testOf(look.step.test).setUp;
  const running = engine === "running";
  const early = candidate.early === "loaded" ? unplug.length === 0 : candidate.early;
  return { warm: look.hot || (early && running), running, charged: look.charged, mended: look.mended };
}

/** A machine's population at some temperature, its predictions worked out from its charts. @param atlases the charts of {@link chartSheetsOf}, in their order */
export function chartedPopulation(sheet: Sheet, atlases: readonly Atlas[], ambientC: number): Population {
  const lineup = lineUp(sheet);
  return new Population(lineup, new ChartedColumns(lineup, atlases, ambientC));
}
