import { type Column, type ColumnSource, type Held, SPREAD_COUNT } from "./column";
import { gaugeOf, isHeld, isWorded, wordsOf } from "./gauges";
import type { Lineup } from "./lineup";
import { isLegless, type Look, lookOf } from "./look";
import { SPREAD_IDS } from "./nuisance";
import type { Population } from "./population";

/**
 * A pack: what a population would show at a list of looks, in bytes, so that a page that has one predicts nothing itself. It begins
 * with the length of its head (4 bytes, little-endian) and the head as JSON (the looks); then, look after look, planes of bytes: of
 * words the probability of each; of figures the chance of the open line, the figure, and its slope under each spread that moves it; of
 * running volts also where a unit would hold them, what the generator has to spare for that, and that one's slopes.
 * Figures are whole numbers of a fraction of the test's noise, in three planes, the highest byte first; particles and cells that
 * share their twin's readings are left out. Whoever reads a pack lays out the same line-up from the same sheet.
 */

/** Figures are rounded to this part of the noise of one reading: no reading can tell them from the exact ones. */
const PARTS_OF_NOISE = 8;
const BYTES = 3;
const HALF = 2 ** (8 * BYTES - 1);
/** What is spared is rounded to this: no machine is known more closely. */
const SPARE_GRAIN = 0.002;
/** Chances are rounded to this part. */
const CHANCE = 250;

/** Predictions at some looks as bytes. */
export function packColumns(population: Population, looks: readonly Look[]): Uint8Array {
  const head = new TextEncoder().encode(
    JSON.stringify(looks.map(({ step, hot, charged, mended, restHours, amps }) => ({ step, hot, charged, mended, restHours, amps }))),
  );
  const planes: Uint8Array[] = [Uint8Array.from([0, 8, 16, 24], (shift) => (head.length >> shift) & 255), head];
  const own = ownOf(population);
  for (const look of looks) {
    const column = population.column(look);
    const { particles, cells } = own(look);
    if (isWorded(look.step.test)) {
      for (const chances of column.words) planes.push(chancesOf(particles, chances));
      continue;
    }
    const grain = gaugeOf(look.step.test).noise / PARTS_OF_NOISE;
    planes.push(chancesOf(particles, column.open), ...figures(particles, (i) => column.at[i] as number, grain));
    for (const s of column.moved) planes.push(...figures(cells, (c) => column.slopes[c * SPREAD_COUNT + s] as number, grain));
    const { held } = column;
    if (!held) continue;
    // What nothing holds is packed as nought: no unit holds that.
    planes.push(...figures(particles, (i) => held.at[i] || 0, grain));
    planes.push(...figures(particles, (i) => held.spare[i] || 0, SPARE_GRAIN));
    for (const s of column.moved) planes.push(...figures(cells, (c) => held.slopes[c * SPREAD_COUNT + s] as number, SPARE_GRAIN));
  }
  const bytes = new Uint8Array(planes.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const plane of planes) {
    bytes.set(plane, at);
    at += plane.length;
  }
  return bytes;
}

/** The particles and cells whose readings a look has of their own. */
function ownOf({ particles, cells }: Lineup): (look: Look) => { particles: number[]; cells: number[] } {
  const all = { particles: [...particles.keys()], cells: [...cells.keys()] };
  const legless = {
    particles: all.particles.filter((i) => particles[i]?.twin === i),
    cells: all.cells.filter((c) => cells[c]?.twin === c),
  };
  return (look) => (isLegless(look) ? legless : all);
}

const chancesOf = (indices: readonly number[], chances: Float64Array): Uint8Array =>
  Uint8Array.from(indices, (i) => Math.round((chances[i] as number) * CHANCE));

function figures(indices: readonly number[], figureOf: (index: number) => number, grain: number): Uint8Array[] {
  const planes = Array.from({ length: BYTES }, () => new Uint8Array(indices.length));
  indices.forEach((index, k) => {
    const whole = Math.min(HALF - 1, Math.max(-HALF, Math.round(figureOf(index) / grain))) + HALF;
    planes.forEach((plane, p) => {
      plane[k] = (whole >> (8 * (BYTES - 1 - p))) & 255;
    });
  });
  return planes;
}

/** Predictions out of packs. A look that no pack holds is answered by the nearest one that is: another rest, speed or heat of the same test. */
export class PackedColumns implements ColumnSource {
  readonly #lineup: Lineup;
  readonly #own: ReturnType<typeof ownOf>;
  readonly #columns = new Map<string, Column>();

  constructor(lineup: Lineup) {
    this.#lineup = lineup;
    this.#own = ownOf(lineup);
  }

  /** Takes the predictions of a pack in. @throws when it was made for another line-up */
  add(bytes: Uint8Array): void {
    const length = [0, 1, 2, 3].reduce((sum, k) => sum + ((bytes[k] ?? 0) << (8 * k)), 0);
    const looks = (JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Omit<Look, "key">[]).map(({ step, ...more }) => lookOf(step, more));
    let at = 4 + length;
    const next = (count: number): Uint8Array => {
      at += count;
      return bytes.subarray(at - count, at);
    };
    const columns = looks.map((look) => this.#read(look, next));
    if (at !== bytes.length) throw new Error("these predictions were made for another machine");
    for (const column of columns) this.#columns.set(column.look.key, column);
  }

  /** True when a pack holds just this look. */
  has(look: Look): boolean {
    return this.#columns.has(look.key);
  }

  column(look: Look): Column | undefined {
    const exact = this.#columns.get(look.key);
    if (exact) return exact;
    let nearest: Column | undefined;
    let least = Number.POSITIVE_INFINITY;
    for (const column of this.#columns.values()) {
      const far = distance(look, column.look);
      if (far >= least) continue;
      least = far;
      nearest = column;
    }
    return nearest && { ...nearest, look };
  }

  #read(look: Look, next: (count: number) => Uint8Array): Column {
    const { particles: all, cells: every } = this.#lineup;
    const { test } = look.step;
    const { particles, cells } = this.#own(look);
    const spread = <T extends Float64Array>(into: T, own: readonly number[], twins: readonly { twin: number }[], value: (k: number) => number): T => {
      own.forEach((index, k) => {
        into[index] = value(k);
      });
      if (own.length < twins.length) {
        twins.forEach(({ twin }, index) => {
          into[index] = into[twin] as number;
        });
      }
      return into;
    };
    const chances = (): Float64Array => {
      const plane = next(particles.length);
      return spread(new Float64Array(all.length), particles, all, (k) => (plane[k] as number) / CHANCE);
    };
    const column: Column = {
      look,
      at: new Float64Array(all.length),
      open: new Float64Array(all.length),
      slopes: new Float64Array(0),
      words: [],
      moved: new Int32Array(0),
      figured: new Float64Array(all.length),
      held: undefined,
    };
    if (isWorded(test)) return { ...column, words: wordsOf(test).map(chances) };
    const { noise, moved } = gaugeOf(test);
    const grain = noise / PARTS_OF_NOISE;
    const whole = (count: number, grain: number): ((k: number) => number) => {
      const planes = Array.from({ length: BYTES }, () => next(count));
      return (k) => (planes.reduce((sum, plane) => sum * 256 + (plane[k] as number), 0) - HALF) * grain;
    };
    const open = chances();
    const ofParticles = (grain: number): Float64Array => spread(new Float64Array(all.length), particles, all, whole(particles.length, grain));
    const slopesOf = (grain: number): Float64Array => {
      const slopes = new Float64Array(every.length * SPREAD_COUNT);
      for (const id of moved) {
        const s = SPREAD_IDS.indexOf(id);
        const own = spread(new Float64Array(every.length), cells, every, whole(cells.length, grain));
        own.forEach((slope, c) => {
          slopes[c * SPREAD_COUNT + s] = slope;
        });
      }
      return slopes;
    };
    const at = ofParticles(grain);
    const slopes = slopesOf(grain);
    const held = isHeld(test) ? this.#held(ofParticles(grain), ofParticles(SPARE_GRAIN), slopesOf(SPARE_GRAIN)) : undefined;
    return {
      ...column,
      at,
      open,
      held,
      slopes,
      moved: Int32Array.from(moved, (id) => SPREAD_IDS.indexOf(id)),
      figured: open.map((chance) => Math.log(1 - chance)),
    };
  }

  #held(at: Float64Array, spare: Float64Array, slopes: Float64Array): Held {
    const none = at.map((figure) => (figure === 0 ? Number.NaN : 0));
    return { at: at.map((figure, i) => figure + (none[i] as number)), spare: spare.map((spared, i) => spared + (none[i] as number)), slopes };
  }
}

/** How far one look is from another of the same test and point: heat and charge make more of it than speed, speed than hours of rest. */
function distance(look: Look, other: Look): number {
  const { step } = look;
  if (step.test !== other.step.test || step.at !== other.step.at || look.mended.join() !== other.mended.join()) return Number.POSITIVE_INFINITY;
  const speed = (rpm: number | "idle" | undefined): number => (typeof rpm === "number" ? Math.log(rpm) : IDLE_LOG);
  return (
    (look.hot === other.hot ? 0 : 100) +
    (look.charged === other.charged ? 0 : 100) +
    (step.loads === other.step.loads ? 0 : 50) +
    Math.abs(speed(step.rpm) - speed(other.step.rpm)) +
    (look.restHours === other.restHours && look.amps === other.amps ? 0 : 0.01)
  );
}

/** Where idle lies among speeds, on a scale of factors. */
const IDLE_LOG = Math.log(1200);
