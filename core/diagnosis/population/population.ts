import type { SetFault } from "../../machine/defects";
import { DEFECTS } from "../../machine/defects";
import type { FaultId } from "../../machine/faults";
import type { Sheet } from "../../machine/sheet";
import { testOf } from "../../procedure/catalogue";
import { type Build, buildsOf } from "./builds";
import type { Atlas } from "./charts";
import { type History, type Hypothesis, hypothesesOf, NO_HISTORY } from "./hypotheses";
import type { Look } from "./look";
import { NO_OFFSETS, type Offsets, SPREAD_IDS, SPREADS, type Spread } from "./nuisance";
import { gaugeOf, isWorded, predict } from "./predict";
import { FILLS, PARTED_OHMS, RATES } from "./rates";
import { type Candidate, type Moment, Subject, type Surroundings, surroundingsOf } from "./subject";

/** One of the machines that might be on the lift. */
interface Particle {
  hypothesis: number;
  /** Particles of a cell are alike enough to share the slopes of their predictions. */
  cell: number;
  /** Share of its hypothesis that it stands for. */
  share: number;
  candidate: Candidate;
  /** How the machine is made, where its sheet leaves that open. */
  build: number;
  /** Whether heat, or a run of the engine, makes another machine of it. */
  minds: { heat: boolean; run: boolean };
  /** The particle of its orbit whose readings it shares wherever no leg is named; itself for the first. */
  twin: number;
}

export interface Cell {
  hypothesis: number;
  build: number;
  members: number[];
  /** The cell of its middle particle's twin. */
  twin: number;
  /** The particle whose slopes all members share, and its severities. */
  middle: number;
  shares: readonly number[];
  /** Standard deviation of each severity about its particle, in shares, and of the charge: few particles stand for wide neighbourhoods. */
  about: { severity: number; severity2: number; charge: number };
}

/** Predictions of one look for every particle; for a worded test the probability of each word. */
export interface Column {
  look: Look;
  at: Float64Array;
  open: Float64Array;
  /** Cell after cell: change on the test's scale a standard deviation of each spread. */
  slopes: Float64Array;
  words: readonly Float64Array[];
  /** The spreads that move it, by index. */
  moved: Int32Array;
  /** Logarithm of the probability that a figure is shown. */
  figured: Float64Array;
}

/**
 * How many machines are thought of; at least of each hypothesis, and of one whose two faults can each be slight or bad. Where a
 * sheet leaves open how the machine is made, at least so many of each build.
 */
const SIZE = { particles: 1700, least: 3, graded: 8, cell: 8, ofBuild: 1, ofBuildGraded: 3 } as const;
export const SPREAD_COUNT = SPREAD_IDS.length;
/** Fractions whose multiples fill the unit interval evenly (powers of the plastic number's inverse, Roberts' sequence). */
const EVEN = [0.7548776662, 0.569840291, 0.430159709] as const;
/** Standard deviation of what is spread evenly over a step of one (√(1/12)): the first severity lies in even steps, the second in as many in two directions. */
const EVENLY = 0.289;
/** Step of the slopes in standard deviations. */
const STEP = 0.5;
/** Faults that look otherwise in a wye than in a delta, and those that depend on where the unit senses. */
const COILS: readonly FaultId[] = [
  "stator.winding-open",
  "stator.turns-shorted",
  "stator.winding-grounded",
  "stator.windings-bridged",
  "stator.joint-opens-hot",
];
const SENSED: readonly FaultId[] = [
  "regulator.sense-open",
  "regulator.ground-open",
  "wiring.output-resistance",
  "wiring.ground-resistance",
  "wiring.feed-open",
];

/** Air temperatures are rounded to this many degrees: finer makes no difference to any reading. */
export const DEGREES = 5;

/** The machines that might be on the lift before the first reading, and what any look would show on them. */
export class Population {
  readonly hypotheses: readonly Hypothesis[];
  readonly particles: readonly Particle[];
  readonly cells: readonly Cell[];
  readonly sheet: Sheet;
  readonly builds: readonly Build[];
  readonly #around: readonly Surroundings[];
  readonly #moved: readonly Record<Spread, Offsets>[];
  readonly #columns = new Map<string, Column>();
  /** By what was charged and mended; then cold or warm, at rest or run, for those that mind. */
  readonly #made = new Map<string, (Subject | undefined)[][]>();
  readonly #charges = new Map<number, Offsets>();
  readonly #shifted = new Map<string, Subject | undefined>();

  /** @param atlases the charts of {@link chartSheetsOf}, in their order */
  constructor(sheet: Sheet, atlases: readonly Atlas[], ambientC: number) {
    this.sheet = sheet;
    this.builds = buildsOf(sheet);
    this.#around = this.builds.map((build) => surroundingsOf(build, atlases[build.chart] as Atlas, ambientC));
    // One object for each spread moved by a step, so that what was worked out under it is found again.
    this.#moved = this.builds.map(
      ({ spreads }) => Object.fromEntries(SPREAD_IDS.map((spread) => [spread, { [spread]: STEP * spreads[spread] }])) as Record<Spread, Offsets>,
    );
    this.hypotheses = hypothesesOf(sheet, NO_HISTORY);
    const roots = this.hypotheses.map(({ prior }) => Math.sqrt(prior));
    const sum = roots.reduce((total, root) => total + root, 0);
    const particles: Particle[] = [];
    const cells: Cell[] = [];
    const orbits = new Map<string, { particle: number; cell: number }>();
    this.hypotheses.forEach((hypothesis, h) => {
      const graded = hypothesis.faults.filter(({ fault }) => RATES[fault].severity).length;
      const builds = this.#buildsFor(hypothesis);
      const least = builds.length > 1 ? builds.length * (graded > 1 ? SIZE.ofBuildGraded : SIZE.ofBuild) : 0;
      const wanted = Math.max(least, graded > 1 ? SIZE.graded : SIZE.least, Math.round((SIZE.particles * (roots[h] as number)) / sum));
      // As many of each build, their severities interlaced.
      const each = Math.ceil(wanted / builds.length);
      const count = each * builds.length;
      const home = orbits.get(hypothesis.orbit) ?? { particle: particles.length, cell: cells.length };
      orbits.set(hypothesis.orbit, home);
      const first = { particle: particles.length, cell: cells.length };
      const [low, high] = fillOf(hypothesis);
      const about = {
        severity: Math.max(SPREADS.severity, EVENLY / each),
        severity2: Math.max(SPREADS.severity2, EVENLY / Math.sqrt(each)),
        charge: Math.max(SPREADS.charge, (EVENLY * (high - low)) / Math.sqrt(each)),
      };
      builds.forEach(({ build, share }, b) => {
        for (let from = 0; from < each; from += SIZE.cell) {
          const members: number[] = [];
          for (let n = from; n < Math.min(each, from + SIZE.cell); n++) {
            const k = n * builds.length + b;
            const twin = home.particle + particles.length - first.particle;
            members.push(particles.length);
            const candidate = candidateOf(hypothesis, this.#sharesOf(k, count), k);
            particles.push({ hypothesis: h, cell: cells.length, share: share / each, candidate, build, minds: mindsOf(candidate), twin });
          }
          const middle = from + Math.floor(members.length / 2);
          const shares = this.#sharesOf(middle * builds.length + b, count);
          const twin = home.cell + cells.length - first.cell;
          cells.push({ hypothesis: h, build, members, twin, middle: members[Math.floor(members.length / 2)] as number, shares, about });
        }
      });
    });
    this.particles = particles;
    this.cells = cells;
  }

  /**
   * The builds that a hypothesis is thought of in, with their shares: where an axis makes no difference to its faults, one value
   * of it stands for all; senses take turns with the sizes.
   */
  #buildsFor({ faults }: Hypothesis): { build: number; share: number }[] {
    const coils = faults.some(({ fault }) => COILS.includes(fault));
    const senses = faults.some(({ fault }) => SENSED.includes(fault));
    const wired = faults.some(({ fault }) => fault === "regulator.sense-open");
    const leaks = faults.every(({ fault }) => fault === "regulator.diode-leaky");
    const sized = this.builds.some(({ size }) => size < 0);
    const [first] = this.builds as [Build];
    const both = new Set(this.builds.map(({ sense }) => sense)).size > 1;
    const fits = this.builds.flatMap((build, index) => {
      if (!coils && build.winding !== first.winding) return [];
      // Pairs are many: one middling size, its figures spread wider, stands for all.
      if (sized && (faults.length > 1 && !leaks) !== build.size < 0) return [];
      if (both && wired && build.sense !== "battery") return [];
      if (both && !senses && (build.sense === "battery") !== (build.size === 1)) return [];
      return [{ build: index, share: build.share }];
    });
    const sum = fits.reduce((total, { share }) => total + share, 0);
    return fits.map(({ build, share }) => ({ build, share: share / sum }));
  }

  /** Severities, charge and place of a hypothesis's k-th particle, as shares: the first severity in even steps. */
  #sharesOf(k: number, count: number): number[] {
    return [(k + 0.5) / count, ...EVEN.map((fraction) => (0.5 + (k + 1) * fraction) % 1)];
  }

  /** Prior probability of every hypothesis for a machine with a past. */
  priors(history: History): Float64Array {
    return Float64Array.from(hypothesesOf(this.sheet, history), ({ prior }) => prior);
  }

  /** What a look shows on every particle. Worked out when first asked. */
  column(look: Look): Column {
    let column = this.#columns.get(look.key);
    if (!column) {
      column = this.#predict(look);
      this.#columns.set(look.key, column);
    }
    return column;
  }

  /** The subjects that a look finds, made when first asked for: most looks share theirs. */
  #subjects(look: Look): (index: number) => Subject {
    const state = `${look.charged}|${look.mended.join()}`;
    let byMoment = this.#made.get(state);
    if (!byMoment) {
      byMoment = [[], [], [], []];
      this.#made.set(state, byMoment);
    }
    const made = byMoment;
    return (index) => {
      const { candidate, minds, build } = this.particles[index] as Particle;
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

  #predict(look: Look): Column {
    const { test } = look.step;
    const count = this.particles.length;
    const moved = Int32Array.from(isWorded(test) ? [] : gaugeOf(test).moved, (spread) => SPREAD_IDS.indexOf(spread));
    const column: Column = {
      look,
      moved,
      at: new Float64Array(count),
      open: new Float64Array(count),
      slopes: new Float64Array(0),
      words: [],
      figured: new Float64Array(count),
    };
    const subjectOf = this.#subjects(look);
    if (isWorded(test)) {
      const words: Float64Array[] = [];
      const legless = isLegless(look);
      this.particles.forEach(({ twin }, i) => {
        if (legless && twin !== i) {
          for (const its of words) its[i] = its[twin] as number;
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
    this.particles.forEach(({ twin }, i) => {
      if (legless && twin !== i) {
        for (const figures of [column.at, column.open, column.figured]) figures[i] = figures[twin] as number;
        return;
      }
      const seen = predict(subjectOf(i), look, NO_OFFSETS);
      if ("words" in seen) return;
      column.at[i] = seen.at;
      column.open[i] = seen.open;
      column.figured[i] = Math.log(1 - seen.open);
    });
    return { ...column, slopes: this.#slopes(look, column, subjectOf) };
  }

  /** Slopes by differences, at each cell's middle particle. */
  #slopes(look: Look, { at, open, moved }: Column, subjectOf: (index: number) => Subject): Float64Array {
    const slopes = new Float64Array(this.cells.length * SPREAD_COUNT);
    const legless = isLegless(look);
    this.cells.forEach(({ middle, about, build, twin }, c) => {
      if (legless && twin !== c) {
        slopes.copyWithin(c * SPREAD_COUNT, twin * SPREAD_COUNT, (twin + 1) * SPREAD_COUNT);
        return;
      }
      const moves = this.#moved[build] as Record<Spread, Offsets>;
      const { spreads } = this.builds[build] as Build;
      if ((open[middle] as number) > 0.5) return;
      for (const s of moved) {
        const spread = SPREAD_IDS[s] as Spread;
        if (spreads[spread] === 0) continue;
        const worsens = spread === "severity" || spread === "severity2";
        const subject = worsens ? this.#worse(c, spread === "severity" ? 0 : 1, look) : subjectOf(middle);
        const ahead = subject && predict(subject, look, worsens ? NO_OFFSETS : spread === "charge" ? this.#chargeMoved(about.charge) : moves[spread]);
        if (ahead === undefined || "words" in ahead || ahead.open > 0.5) continue;
        slopes[c * SPREAD_COUNT + s] = (ahead.at - (at[middle] as number)) / STEP;
      }
    });
    return slopes;
  }

  /** The charge moved by a step; the same object every time, so that what was worked out under it is found again. */
  #chargeMoved(sd: number): Offsets {
    const moved = this.#charges.get(sd) ?? { charge: STEP * sd };
    this.#charges.set(sd, moved);
    return moved;
  }

  /** A cell's middle particle with one severity a step on; undefined where that fault has just one. */
  #worse(cell: number, which: 0 | 1, look: Look): Subject | undefined {
    const { hypothesis, build, middle, shares, about } = this.cells[cell] as Cell;
    const { candidate } = this.particles[middle] as Particle;
    const { faults } = this.hypotheses[hypothesis] as Hypothesis;
    const fault = faults[which]?.fault;
    if (!fault || !RATES[fault].severity) return undefined;
    const { warm, running } = momentOf(look, candidate);
    const key = `${cell}|${which}|${warm}|${running}|${look.charged}|${look.mended.join()}`;
    if (!this.#shifted.has(key)) {
      const moved = shares.map((share, i) => (i === which ? share + STEP * about[which === 0 ? "severity" : "severity2"] : share));
      const worse = candidateOf(this.hypotheses[hypothesis] as Hypothesis, moved, 0);
      this.#shifted.set(key, new Subject(this.#around[build] as Surroundings, { ...candidate, faults: worse.faults }, momentOf(look, candidate)));
    }
    return this.#shifted.get(key);
  }
}

/** True for a look at which no leg is named, so that which leg a fault sits on makes no difference. */
function isLegless({ step: { test } }: Look): boolean {
  return ["none", "fuse", "place"].includes(testOf(test).points);
}

function mindsOf({ faults }: Candidate): Particle["minds"] {
  return { heat: faults.some(({ fault }) => fault.endsWith("hot")), run: faults.some(({ fault }) => fault === "regulator.diode-shorted") };
}

/** The state in which a look finds a candidate: heat is there when it was said to be, or when the running engine brings it early. */
function momentOf(look: Look, candidate: Candidate): Moment {
  const running = testOf(look.step.test).setUp.engine === "running";
  return { warm: look.hot || (candidate.early && running), running, charged: look.charged, mended: look.mended };
}

/** State of charge that a hypothesis's machines come in with. */
function fillOf({ faults }: Pick<Hypothesis, "faults">): readonly [number, number] {
  return FILLS[faults[0] ? RATES[faults[0].fault].fill : "full"];
}

/** A hypothesis with its severities filled in. @param shares severity of the first fault, of the second, charge, place along a winding */
function candidateOf({ faults }: Hypothesis, shares: readonly number[], k: number): Candidate {
  const same = faults.length === 2 && faults[0]?.fault === faults[1]?.fault;
  const set = faults.map(({ fault, at }, i): SetFault => {
    const severity = severityOf(fault, shares[same ? 0 : i] as number);
    return {
      fault,
      ...(at === undefined ? {} : { at }),
      ...(severity === undefined ? {} : { severity }),
      ...(DEFECTS[fault].along ? { along: shares[3] as number } : {}),
    };
  });
  const [low, high] = fillOf({ faults });
  return { faults: set, charge: low + (high - low) * (shares[2] as number), early: k % 2 === 0 };
}

/** The severity below which a share of those met lies. */
function severityOf(fault: FaultId, share: number): number | undefined {
  const range = RATES[fault].severity;
  if (!range) return undefined;
  const [low, high, spread] = range;
  const severity = spread === "log" ? low * (high / low) ** share : low + (high - low) * share;
  const joint = fault === "wiring.leg-burnt" || fault === "wiring.cable-broken";
  return joint && severity > PARTED_OHMS ? 1e8 : severity;
}
