import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { invert } from "./linear";

test("a matrix times its inverse is one, and the determinant is the product of the pivots", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 12 }), fc.infiniteStream(fc.double({ min: -1, max: 1, noNaN: true })), (n, chance) => {
      const root = Float64Array.from({ length: n * n }, () => chance.next().value as number);
      const matrix = new Float64Array(n * n);
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          let sum = i === j ? 0.5 : 0;
          for (let k = 0; k < n; k++) sum += (root[i * n + k] as number) * (root[j * n + k] as number);
          matrix[i * n + j] = sum;
        }
      const inverse = matrix.slice();
      const logDet = invert(inverse, n);
      expect(Number.isFinite(logDet)).toBe(true);
      for (let i = 0; i < n; i++)
        for (let j = 0; j < n; j++) {
          let sum = 0;
          for (let k = 0; k < n; k++) sum += (matrix[i * n + k] as number) * (inverse[k * n + j] as number);
          expect(sum).toBeCloseTo(i === j ? 1 : 0, 6);
        }
    }),
    { numRuns: 60 },
  );
  expect(invert(Float64Array.from([4, 0, 0, 9]), 2)).toBeCloseTo(Math.log(36), 12);
});
