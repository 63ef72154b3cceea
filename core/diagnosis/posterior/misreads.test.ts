import { expect, test } from "@jest/globals";
import { invert } from "./linear";
import { LARGER_SETS, suspectsAmong } from "./misreads";
import { MOST_MISREADS } from "./slips";

/** C⁻¹ and C⁻¹·r of figures of which the first few repeat one another: they share a large error, each has a small one of its own. */
function repeated(repeats: number, residual: readonly number[]): { inverse: Float64Array; alpha: Float64Array } {
  const n = residual.length;
  const inverse = Float64Array.from({ length: n * n }, (_, k) => {
    const [a, b] = [Math.floor(k / n), k % n];
    return (a < repeats && b < repeats ? 0.1 : 0) + (a === b ? (a < repeats ? 0.001 : 0.1) : 0);
  });
  invert(inverse, n);
  const alpha = Float64Array.from(residual, (_, a) => residual.reduce((sum, off, b) => sum + (inverse[a * n + b] as number) * off, 0));
  return { inverse, alpha };
}

test("one gross misread among repeats does not hide another elsewhere", () => {
  // The fifth repeat is far off, and so, less far, is the last figure, which repeats nothing.
  const { inverse, alpha } = repeated(7, [0, 0, 0, 0, -12, 0, 0, 0.1, 3]);
  const places = new Int32Array(3);
  expect(suspectsAmong(9, inverse, alpha, new Float64Array(9), places)).toBe(3);
  expect([...places.slice(0, 2)]).toEqual([4, 8]);
  // All at once the repeats would have come before it: each lies far from a mean that the misread drags along.
  const alone = [...alpha].map((value, a) => value ** 2 / (inverse[a * 9 + a] as number));
  expect(alone.filter((square) => square > (alone[8] as number)).length).toBeGreaterThan(3);
});

test("there are no more suspects than readings", () => {
  const { inverse, alpha } = repeated(1, [0.2, -0.1]);
  const places = new Int32Array(6);
  expect(suspectsAmong(2, inverse, alpha, new Float64Array(2), places)).toBe(2);
  expect([...places.slice(0, 2)].sort()).toEqual([0, 1]);
});

test("larger sets are all sets of three and more, the smaller ones first, and none is larger than is thought of", () => {
  for (const [suspects, sets] of LARGER_SETS.entries()) {
    const sizes = sets.map(({ length }) => length);
    expect(sizes).toEqual([...sizes].sort((a, b) => a - b));
    expect(new Set(sets.map((places) => places.join())).size).toBe(sets.length);
    for (const places of sets) {
      expect(places.length).toBeGreaterThan(2);
      expect(places.length).toBeLessThanOrEqual(MOST_MISREADS);
      expect(Math.max(...places)).toBeLessThan(suspects);
    }
  }
});
