import { COUPLING } from "../../machine/coupling";
import type { SetFault } from "../../machine/defects";
import { DEFECTS } from "../../machine/defects";
import type { FaultId } from "../../machine/faults";
import type { Sheet } from "../../machine/sheet";
import { isFuseAssumed } from "../../machine/unlisted";
import { type Build, buildsOf } from "./builds";
import { type Hypothesis, hypothesesOf, NO_HISTORY } from "./hypotheses";
import { SPREADS } from "./nuisance";
import { PARTED_OHMS } from "./parted";
import { FILLS, RATES } from "./rates";
import type { Candidate } from "./subject";

/** One of the machines that might be on the lift. */
export interface Particle {
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

/** The machines that might be on the lift, before anything is known of what they would show: all of it follows from the sheet. */
export interface Lineup {
  sheet: Sheet;
  builds: readonly Build[];
  hypotheses: readonly Hypothesis[];
  particles: readonly Particle[];
  cells: readonly Cell[];
}

/**
 * How many machines are thought of; at least of each hypothesis, of one whose two faults can each be slight or bad, and of one whose
 * figures run from nearly sound to nearly nothing. Where a sheet leaves open how the machine is made, at least so many of each build.
 */
const SIZE = { particles: 1700, least: 3, graded: 8, placed: 8, steep: 12, cell: 8, cellOfSteep: 3, ofBuild: 1, ofBuildGraded: 2 } as const;
/** Faults whose figures bend with their severity: from all that a generator can give to nothing, from a tenth of an ohm to hundreds. */
const STEEP: readonly FaultId[] = ["stator.burnt", "stator.joint-resists"];
/** Fractions whose multiples fill the unit interval evenly (powers of the plastic number's inverse, Roberts' sequence). */
const QUASI_RANDOM = [0.7548776662, 0.569840291, 0.430159709] as const;
/** Standard deviation of what is spread evenly over a step of one (√(1/12)): the first severity lies in even steps, the second in as many in two directions. */
const EVENLY = 0.289;
/** Faults that look otherwise in a wye than in a delta, and those that depend on where the unit senses. */
const COILS: readonly FaultId[] = [
  "stator.winding-open",
  "stator.leads-parted",
  "stator.turns-shorted",
  "stator.winding-grounded",
  "stator.burnt",
  "stator.windings-bridged",
  "stator.joint-resists",
  "stator.joint-opens-hot",
];
const SENSED: readonly FaultId[] = [
  "regulator.sense-open",
  "regulator.ground-open",
  "wiring.output-resistance",
  "wiring.ground-resistance",
  "wiring.feed-open",
];

/** Faults that each show by themselves, however little the machine takes of its output: in coils, plug and unit. */
const RAISED = /^(stator|regulator)\.|^wiring\.leg/;

/** Every machine that a sheet leaves possible. */
export function lineUp(sheet: Sheet): Lineup {
  const all = buildsOf(sheet);
  const hypotheses = hypothesesOf(sheet, NO_HISTORY);
  const roots = hypotheses.map(({ prior }) => Math.sqrt(prior));
  const sum = roots.reduce((total, root) => total + root, 0);
  const particles: Particle[] = [];
  const cells: Cell[] = [];
  const orbits = new Map<string, { particle: number; cell: number }>();
  hypotheses.forEach((hypothesis, h) => {
    // Where along its winding a touch lies is one more thing that differs.
    const graded = hypothesis.faults.filter(({ fault }) => RATES[fault].severity).length;
    const placed = hypothesis.faults.length > 1 && hypothesis.faults.some(({ fault }) => DEFECTS[fault].along);
    const steep = graded === 1 && hypothesis.faults.some(({ fault }) => STEEP.includes(fault));
    const cell = steep ? SIZE.cellOfSteep : SIZE.cell;
    const builds = buildsFor(hypothesis, all);
    const least = builds.length > 1 ? builds.length * (graded > 1 || steep ? SIZE.ofBuildGraded : SIZE.ofBuild) : 0;
    const wanted = Math.max(
      least,
      steep ? SIZE.steep : placed ? SIZE.placed : graded > 1 ? SIZE.graded : SIZE.least,
      Math.round((SIZE.particles * (roots[h] as number)) / sum),
    );
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
      for (let from = 0; from < each; from += cell) {
        const members: number[] = [];
        for (let n = from; n < Math.min(each, from + cell); n++) {
          const k = n * builds.length + b;
          const twin = home.particle + particles.length - first.particle;
          members.push(particles.length);
          const candidate = candidateOf(hypothesis, sharesOf(k, count), k, (all[build] as Build).sheet);
          particles.push({ hypothesis: h, cell: cells.length, share: share / each, candidate, build, minds: mindsOf(candidate), twin });
        }
        const middle = from + Math.floor((members.length - 1) / 2);
        const shares = sharesOf(middle * builds.length + b, count);
        const twin = home.cell + cells.length - first.cell;
        cells.push({ hypothesis: h, build, members, twin, middle: members[Math.floor((members.length - 1) / 2)] as number, shares, about });
      }
    });
  });
  return { sheet, builds: all, hypotheses, particles, cells };
}

/**
 * The builds that a hypothesis is thought of in, with their shares: where an axis makes no difference to its faults, one value
 * of it stands for all; senses take turns with the sizes.
 */
function buildsFor({ faults }: Hypothesis, builds: readonly Build[]): { build: number; share: number }[] {
  const coils = faults.some(({ fault }) => COILS.includes(fault));
  const senses = faults.some(({ fault }) => SENSED.includes(fault));
  const wired = faults.some(({ fault }) => fault === "regulator.sense-open");
  const leaks = faults.every(({ fault }) => fault === "regulator.diode-leaky");
  const sized = builds.some(({ size }) => size < 0);
  const whole = faults.length > 1 && !leaks;
  const loads = whole && !faults.every(({ fault }) => RAISED.test(fault)) && builds.some((build) => build.size < 0 && build.loads === "some") ? "some" : "any";
  const [first] = builds as [Build];
  const both = new Set(builds.map(({ sense }) => sense)).size > 1;
  const fits = builds.flatMap((build, index) => {
    if (!coils && build.winding !== first.winding) return [];
    // Pairs are many: two sizes, their figures spread wider, stand for all.
    if (sized && whole !== build.size < 0) return [];
    if (sized && whole && build.loads !== loads) return [];
    if (both && wired && build.sense !== "battery") return [];
    if (both && !senses && (build.sense === "battery") !== (build.size === 1)) return [];
    return [{ build: index, share: build.share }];
  });
  const sum = fits.reduce((total, { share }) => total + share, 0);
  return fits.map(({ build, share }) => ({ build, share: share / sum }));
}

/** Severities, charge, and place or coupling of a hypothesis's k-th particle, as shares: the first severity in even steps. */
function sharesOf(k: number, count: number): number[] {
  return [(k + 0.5) / count, ...QUASI_RANDOM.map((fraction) => (0.5 + (k + 1) * fraction) % 1)];
}

function mindsOf({ faults }: Candidate): Particle["minds"] {
  return { heat: faults.some(({ fault }) => fault.endsWith("hot")), run: faults.some(({ fault }) => fault === "regulator.diode-shorted") };
}

/** State of charge that a hypothesis's machines come in with. */
function fillOf({ faults }: Pick<Hypothesis, "faults">): readonly [number, number] {
  return FILLS[faults[0] ? RATES[faults[0].fault].fill : "full"];
}

/** What a hypothesis's particles take turns in: half of them early, half of those only while current flows. */
const EARLY: readonly Candidate["early"][] = [true, "loaded", false, false];

/** Every other pair of a hypothesis's particles, out of step with the turns above, have lamps that nobody can switch off. */
const isAlwaysLit = (k: number): boolean => ((k >> 1) + (k >> 3)) % 2 === 1;

/** What the fuses of machines without a sheet are rated, as shares of what a large one has, in turns: 7.5, 15, 20 and 30 A. */
const FUSES = [0.5, 1, 0.25, 0.67] as const;

/** A hypothesis with its severities filled in, on a machine of some size. @param shares severity of the first fault, of the second, charge, place along a winding or coupling of its shorted turns */
export function candidateOf({ faults }: Hypothesis, shares: readonly number[], k: number, sheet: Pick<Sheet, "id" | "ratedAmps" | "fuses">): Candidate {
  const same = faults.length === 2 && faults[0]?.fault === faults[1]?.fault;
  const set = faults.map(({ fault, at }, i): SetFault => {
    const severity = severityOf(fault, shares[same ? 0 : i] as number, sheet.ratedAmps);
    return {
      fault,
      ...(at === undefined ? {} : { at }),
      ...(severity === undefined ? {} : { severity }),
      ...(DEFECTS[fault].along ? { along: shares[3] as number } : {}),
      // Beside another fault few machines stand for all: there they lie among the others.
      ...(DEFECTS[fault].coupled && faults.length === 1 ? { coupling: couplingOf(shares[3] as number) } : {}),
    };
  });
  const [low, high] = fillOf({ faults });
  return {
    faults: set,
    charge: low + (high - low) * (shares[2] as number),
    early: EARLY[k % EARLY.length] as Candidate["early"],
    // Not in step with the turns above.
    fuse: isFuseAssumed(sheet) ? (FUSES[(k + (k >> 2)) % FUSES.length] as number) : 1,
    alwaysLit: isAlwaysLit(k),
  };
}

/** How closely a machine's shorted turns are coupled with the rest: of three in five as closely as can be. */
const couplingOf = (share: number): number => COUPLING.apart + (COUPLING.closely - COUPLING.apart) * Math.min(1, 2.5 * share);

/** What parts altogether from some resistance on: a plug's pin, a wire of the cable. */
const JOINTS: readonly FaultId[] = ["wiring.leg-burnt", "wiring.cable-broken"];

/**
 * What is not poor but off: which share of those met, and what creeps past it, Ω, spread over its decades. A unit's ground through dirt
 * and mounting; nothing past a brush that is stuck in its holder.
 */
const OFF: Partial<Record<FaultId, { share: number; ohms: readonly [least: number, most: number] }>> = {
  "wiring.ground-resistance": { share: 0.42, ohms: [10, 3000] },
  "rotor.brushes-worn": { share: 0.25, ohms: [1e8, 1e8] },
};

/** To a machine that makes less than the first, A, less is added; to one that makes more than the second, more. */
const AMPS_MADE = [12, 30] as const;

/** The severity below which a share of those met lies. @param ratedAmps the machine's output */
function severityOf(fault: FaultId, share: number, ratedAmps: number | undefined): number | undefined {
  const range = RATES[fault].severity;
  if (!range) return undefined;
  const off = OFF[fault];
  if (off && share > 1 - off.share) return off.ohms[0] * (off.ohms[1] / off.ohms[0]) ** (1 - (1 - share) / off.share);
  const [low, high, spread] = range;
  const among = off ? share / (1 - off.share) : share;
  const left = (1 - low) * ((1 - high) / (1 - low)) ** among;
  const severity = spread === "log" ? low * (high / low) ** among : spread === "left" ? 1 - left : low + (high - low) * among;
  if (fault === "loads.too-much") {
    const [small, large] = AMPS_MADE.map((amps) => (ratedAmps ?? amps) / amps) as [number, number];
    return severity * Math.min(1, small) * Math.max(1, large);
  }
  return JOINTS.includes(fault) && severity > PARTED_OHMS ? 1e8 : severity;
}
