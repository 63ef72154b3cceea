import { HELD_VOLTS } from "./held";

/** A reading so many standard deviations off what all others make of it says nothing of them; so many are left out at most. */
const GROSS = { off: 4, most: 2 } as const;

/** C⁻¹·r once gross misreads are left out, which they are and what it was for them before, and by which vectors C⁻¹ is less (each a rank-one downdate). */
export interface Cleared {
  alpha: Float64Array;
  places: readonly number[];
  offs: readonly number[];
  downdates: readonly Float64Array[];
}

/** Filled and read again for one particle after another. */
const left = { alpha: new Float64Array(0) as Float64Array, places: [] as number[], offs: [] as number[], downdates: [] as Float64Array[] };
const rooms: Float64Array[] = [];

/** An array for n figures, which keeps what is in it until it is asked for again. */
function roomFor(n: number, place: number): Float64Array {
  const kept = rooms[place];
  if (kept && kept.length >= n) return kept;
  const room = new Float64Array(2 * n);
  rooms[place] = room;
  return room;
}

/**
 * Leaves out the readings that fit none of the others, the worst first: what is made of the spreads is made without them. One that
 * lies where its unit would hold it is no such reading.
 * @param inverse C⁻¹, n×n, row after row @param all C⁻¹·r of all readings
 * @param held how far each lies from where its unit would hold it, V (not a number: nothing holds it)
 * @returns what is overwritten by the next one asked for
 */
export function clearOf(n: number, inverse: Float64Array, all: Float64Array, held: Float64Array): Cleared {
  left.places.length = 0;
  left.offs.length = 0;
  left.downdates.length = 0;
  left.alpha = all;
  while (left.places.length < GROSS.most) {
    let worst = -1;
    let most: number = GROSS.off ** 2;
    let diagonal = 1;
    for (let b = 0; b < n; b++) {
      if (left.places.includes(b) || Math.abs(held[b] as number) < GROSS.off * HELD_VOLTS) continue;
      let c = inverse[b * n + b] as number;
      for (const downdate of left.downdates) c -= (downdate[b] as number) ** 2;
      const square = (left.alpha[b] as number) ** 2 / c;
      if (square <= most) continue;
      worst = b;
      most = square;
      diagonal = c;
    }
    if (worst < 0) break;
    const off = left.alpha[worst] as number;
    const scale = 1 / Math.sqrt(diagonal);
    const next = roomFor(n, left.places.length);
    const cleared = roomFor(n, GROSS.most);
    for (let b = 0; b < n; b++) {
      let column = inverse[b * n + worst] as number;
      for (const downdate of left.downdates) column -= (downdate[b] as number) * (downdate[worst] as number);
      next[b] = column * scale;
      cleared[b] = (left.alpha[b] as number) - off * scale * (next[b] as number);
    }
    left.places.push(worst);
    for (const place of left.places) cleared[place] = 0;
    left.offs.push(off);
    left.downdates.push(next);
    left.alpha = cleared;
  }
  return left;
}

/**
 * What all other readings, gross misreads left out, predict for one of the figures: how far the reading lies from it, and its standard
 * deviation (leave-one-out by block inversion). @param inverse C⁻¹, n×n
 */
export function leaveOneOut(n: number, inverse: Float64Array, place: number, { alpha, places, offs, downdates }: Cleared): { off: number; spread: number } {
  const at = places.indexOf(place);
  // What is itself left out is set against the others as it was then.
  const before = at < 0 ? downdates : downdates.slice(0, at);
  let c = inverse[place * n + place] as number;
  for (const downdate of before) c -= (downdate[place] as number) ** 2;
  return { off: ((at < 0 ? alpha[place] : offs[at]) as number) / c, spread: Math.sqrt(1 / c) };
}
