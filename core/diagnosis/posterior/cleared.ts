import { HELD_VOLTS } from "./held";
import { LeftOut } from "./leftOut";

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
const left = new LeftOut();

/**
 * Leaves out the readings that fit none of the others, the worst first: what is made of the spreads is made without them. One that
 * lies where its unit would hold it is no such reading.
 * @param inverse C⁻¹, n×n, row after row @param all C⁻¹·r of all readings
 * @param held how far each lies from where its unit would hold it, V (not a number: nothing holds it)
 * @returns what is overwritten by the next one asked for
 */
export function clearOf(n: number, inverse: Float64Array, all: Float64Array, held: Float64Array): Cleared {
  left.begin(n, inverse, all);
  const { alpha, diagonal, downdates } = left;
  const [places, offs]: [number[], number[]] = [[], []];
  while (places.length < GROSS.most) {
    let worst = -1;
    let most: number = GROSS.off ** 2;
    for (let b = 0; b < n; b++) {
      const c = diagonal[b] as number;
      if (c === 0 || Math.abs(held[b] as number) < GROSS.off * HELD_VOLTS) continue;
      const square = (alpha[b] as number) ** 2 / c;
      if (square > most) [worst, most] = [b, square];
    }
    if (worst < 0) break;
    places.push(worst);
    offs.push(alpha[worst] as number);
    left.leaveOut(worst);
  }
  return { alpha, places, offs, downdates };
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
