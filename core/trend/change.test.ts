import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { levelAt, likeliest, type Observation, oddsBelow, weighChange } from "./change";

const row = (...values: number[]): Observation[] => values.map((value, k) => ({ years: k / 3, value }));

describe("the course of a figure", () => {
  test("readings that scatter as such readings do are steady", () => {
    const { odds } = weighChange(row(10.7, 10.5, 10.75, 10.6, 10.55, 10.68), 0.16);
    expect(odds.steady).toBeGreaterThan(0.85);
    expect(odds.steady + odds.slope + odds.shift).toBeCloseTo(1, 9);
  });

  test("a fall year after year is a slope, and its size is found", () => {
    const change = weighChange(row(10.9, 10.72, 10.6, 10.4, 10.3, 10.1, 9.95), 0.1);
    expect(change.odds.slope).toBeGreaterThan(0.9);
    expect(likeliest(change, "slope").by).toBeCloseTo(-0.47, 1);
  });

  test("a slope that begins late is dated", () => {
    const change = weighChange(row(10.8, 10.82, 10.79, 10.8, 10.4, 10.05, 9.7), 0.06);
    expect(likeliest(change, "slope").from.years).toBeCloseTo(1, 6);
  });

  test("a step that stays is a shift; a single misread is none", () => {
    const shifted = weighChange(row(60, 60.5, 59.8, 60.2, 54, 54.2, 53.9, 54.1), 0.8);
    expect(shifted.odds.shift).toBeGreaterThan(0.6);
    expect(likeliest(shifted, "shift").by).toBeCloseTo(-6, 0);
    const misread = weighChange(row(60, 60.5, 59.8, 60.2, 54, 60.1, 60.3, 59.9), 0.8);
    expect(misread.odds.steady).toBeGreaterThan(0.6);
  });

  test("odds of lying below a limit grow with time on a falling figure, and are even where the figure itself lies", () => {
    const change = weighChange(row(10.9, 10.72, 10.6, 10.4, 10.3, 10.1), 0.1);
    const [soon, later] = [oddsBelow(change, 9.6, 2), oddsBelow(change, 9.6, 3.2)];
    expect(soon).toBeLessThan(0.1);
    expect(later).toBeGreaterThan(0.6);
    expect(oddsBelow(change, levelAt(change, 1).mean, 1)).toBeCloseTo(0.5, 1);
  });

  test("fewer than three readings are refused", () => {
    expect(() => weighChange(row(1, 2), 0.1)).toThrow(/3 readings/);
  });

  test("units and the beginning of time play no part", () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 3, maxLength: 9 }),
        fc.double({ min: 0.1, max: 50, noNaN: true }),
        (values, scale) => {
          const plain = weighChange(row(...values), 0.3);
          const other = weighChange(
            values.map((value, k) => ({ years: 20 + k / 3, value: 5 + scale * value })),
            0.3 * scale,
          );
          expect(other.odds.slope).toBeCloseTo(plain.odds.slope, 5);
          expect(other.odds.shift).toBeCloseTo(plain.odds.shift, 5);
        },
      ),
    );
  });
});
