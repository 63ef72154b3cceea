import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { clearOf, leaveOneOut } from "./cleared";
import { mixed } from "./held";
import { invert } from "./linear";

const N = 6;
const NOWHERE = new Float64Array(N).fill(Number.NaN);

/** A covariance of figures that share what moves them: noise of their own, and some common slopes. */
const covariances = fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 2 * N, maxLength: 2 * N }).map((slopes) =>
  Float64Array.from({ length: N * N }, (_, k) => {
    const [a, b] = [Math.floor(k / N), k % N];
    const shared = (slopes[a] as number) * (slopes[b] as number) + (slopes[N + a] as number) * (slopes[N + b] as number);
    return shared + (a === b ? 0.2 : 0);
  }),
);
const small = fc.array(fc.double({ min: -0.3, max: 0.3, noNaN: true }), { minLength: N, maxLength: N });

/** C⁻¹ and C⁻¹·r of some of the figures alone, from their own part of the covariance: what leaving the others out means. */
function alone(covariance: Float64Array, residual: readonly number[], kept: readonly number[]): { inverse: Float64Array; alpha: number[] } {
  const inverse = Float64Array.from(kept.flatMap((a) => kept.map((b) => covariance[a * N + b] as number)));
  invert(inverse, kept.length);
  const alpha = kept.map((_, x) => kept.reduce((sum, b, y) => sum + (inverse[x * kept.length + y] as number) * (residual[b] as number), 0));
  return { inverse, alpha };
}

const ALL = Array.from({ length: N }, (_, a) => a);

describe("readings without gross misreads", () => {
  test("are what they are among themselves, whichever one or two are off", () => {
    fc.assert(
      fc.property(covariances, small, fc.uniqueArray(fc.nat(N - 1), { minLength: 1, maxLength: 2 }), (covariance, near, wrong) => {
        const residual = near.map((off, a) => (wrong.includes(a) ? off + 60 * (1 + wrong.indexOf(a)) : off));
        const { inverse, alpha } = alone(covariance, residual, ALL);
        const cleared = clearOf(N, inverse, Float64Array.from(alpha), NOWHERE);
        expect(cleared.places.length).toBeGreaterThan(0);
        const kept = ALL.filter((a) => !cleared.places.includes(a));
        const own = alone(covariance, residual, kept);
        kept.forEach((a, x) => {
          expect(cleared.alpha[a]).toBeCloseTo(own.alpha[x] as number, 5);
          // Leaving one more out is the same as never having read it.
          const { off, spread } = leaveOneOut(N, inverse, a, cleared);
          expect(off).toBeCloseTo((own.alpha[x] as number) / (own.inverse[x * kept.length + x] as number), 5);
          expect(spread).toBeCloseTo(1 / Math.sqrt(own.inverse[x * kept.length + x] as number), 6);
        });
        for (const place of cleared.places) expect(cleared.alpha[place]).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  test("nothing is left out where all agree, nor a figure that lies where its unit would hold it", () => {
    const covariance = Float64Array.from({ length: N * N }, (_, k) => (Math.floor(k / N) === k % N ? 1 : 0));
    const far = [0, 0, 9, 0, 0, 0];
    const { inverse, alpha } = alone(covariance, far, ALL);
    expect(clearOf(N, inverse, new Float64Array(N).fill(0.5), NOWHERE).places).toEqual([]);
    expect(clearOf(N, inverse, Float64Array.from(alpha), NOWHERE).places).toEqual([2]);
    const held = NOWHERE.slice();
    held[2] = 0.1;
    expect(clearOf(N, inverse, Float64Array.from(alpha), held).places).toEqual([]);
  });
});

describe("volts that a unit may hold", () => {
  const weak = { mean: 12.6, variance: 0.04, spareSpread: 0.2, below: true };

  test("are the set point's where there is much to spare, the generator's where there is little, and vague between", () => {
    expect(mixed({ ...weak, spare: 2 }, 14.4).mean).toBeCloseTo(14.4, 1);
    expect(mixed({ ...weak, spare: -2 }, 14.4).mean).toBeCloseTo(12.6, 1);
    const between = mixed({ ...weak, spare: 0 }, 14.4);
    expect(between.mean).toBeCloseTo(13.5, 1);
    expect(between.variance).toBeGreaterThan(5 * mixed({ ...weak, spare: -2 }, 14.4).variance);
  });

  test("of a machine whose middle is held fall short of the set point the less it has to spare", () => {
    const means = [0.6, 0.2, 0, -0.2].map((spare) => mixed({ mean: 14.4, variance: 0.04, spare, spareSpread: 0.2, below: false }, 14.4).mean);
    expect(means).toEqual([...means].sort((a, b) => b - a));
    expect(means[0]).toBeCloseTo(14.4, 1);
  });
});
