import { LeftOut } from "./leftOut";
import { MOST_MISREADS, SUSPECTS } from "./slips";

/** By how many suspects there are: all sets of three of them and more that may be misread together, by their places, the smaller sets first. */
export const LARGER_SETS: readonly (readonly (readonly number[])[])[] = Array.from({ length: SUSPECTS + 1 }, (_, suspects) => {
  const all = Array.from({ length: 2 ** suspects }, (_, bits) => Array.from({ length: suspects }, (_, place) => place).filter((place) => bits & (1 << place)));
  return all.filter(({ length }) => length > 2 && length <= MOST_MISREADS).sort((visit, other) => visit.length - other.length);
});

/** Filled and read again for one particle after another. */
const left = new LeftOut();

/**
 * The readings that are most likely misread: the likeliest, then the likeliest once that is left out, and so on. All at once would not
 * do: one gross misread drags along what it is compared with, so that its repeats look worse than another misread (masking and swamping
 * in outlier detection).
 * @param inverse C⁻¹, n×n @param alpha C⁻¹·r @param outside logarithm of what each is worth as a misread
 * @param into filled with their places, the likeliest first @returns how many there are
 */
export function suspectsAmong(n: number, inverse: Float64Array, alpha: Float64Array, outside: Float64Array, into: Int32Array): number {
  const count = Math.min(n, into.length);
  left.begin(n, inverse, alpha);
  for (let s = 0; s < count; s++) {
    let [worst, most] = [-1, Number.NEGATIVE_INFINITY];
    for (let a = 0; a < n; a++) {
      const c = left.diagonal[a] as number;
      if (c === 0) continue;
      const gain = (outside[a] as number) + 0.5 * ((left.alpha[a] as number) ** 2 / c - Math.log(c));
      if (gain > most) [worst, most] = [a, gain];
    }
    if (worst < 0) return s;
    into[s] = worst;
    left.leaveOut(worst);
  }
  return count;
}
