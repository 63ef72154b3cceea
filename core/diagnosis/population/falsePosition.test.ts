import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { falsePosition } from "./falsePosition";

test("finds where a falling function passes through nought to a thousandth of where it looked, knees and all; an end where it does not", () => {
  fc.assert(
    fc.property(
      fc.double({ min: -40, max: 40, noNaN: true }),
      fc.double({ min: 0.5, max: 200, noNaN: true }),
      fc.double({ min: 0.05, max: 5, noNaN: true }),
      (root, steep, flat) => {
        const kneed = (x: number): number => (x < root ? flat * (root - x) : -steep * (x - root));
        expect(Math.abs(falsePosition(kneed, -50, 50) - root)).toBeLessThan(0.1);
      },
    ),
  );
  expect(falsePosition((x) => -1 - x, 0, 10)).toBe(0);
  expect(falsePosition((x) => 20 - x, 0, 10)).toBe(10);
});
