import { describe, expect, test } from "@jest/globals";
import { OTHER_SHEETS } from "../../demo/otherSheets";
import { THREE_PHASE_SHEETS } from "../../demo/sheets";
import { healthyState } from "../machine/state";
import { hopOf } from "./hop";
import { ampsAt, breakEvenRpm, curveSpeeds, outputCurve } from "./output";

const LINE = [
  { rpm: 1000, amps: 2 },
  { rpm: 2000, amps: 12 },
  { rpm: 4000, amps: 16 },
];

describe("the output curve", () => {
  test.each([...THREE_PHASE_SHEETS, ...OTHER_SHEETS].map((sheet) => [sheet.id, sheet] as const))(
    "%s: rises with speed, bends, and comes near the rated amps",
    (_id, sheet) => {
      const state = healthyState(sheet);
      const curve = outputCurve(state, curveSpeeds(state, 5));
      curve.slice(1).forEach(({ amps }, i) => {
        expect(amps).toBeGreaterThanOrEqual((curve[i] as (typeof curve)[number]).amps - 0.05);
      });
      const top = (curve.at(-1) as (typeof curve)[number]).amps;
      expect(top).toBeGreaterThan(0.7 * (sheet.ratedAmps as number));
      expect(top).toBeLessThan(1.05 * (sheet.ratedAmps as number));
      const meets = breakEvenRpm(curve, sheet.loadAmps?.normal ?? 0);
      expect(meets).toBeLessThan(sheet.testRpm);
    },
  );

  test("between its points it is straight, beyond them flat", () => {
    expect(ampsAt(LINE, 1500)).toBe(7);
    expect(ampsAt(LINE, 500)).toBe(2);
    expect(ampsAt(LINE, 9000)).toBe(16);
  });

  test("meets a load at a speed, at once, or never", () => {
    expect(breakEvenRpm(LINE, 7)).toBe(1500);
    expect(breakEvenRpm(LINE, 1)).toBe(1000);
    expect(breakEvenRpm(LINE, 30)).toBeUndefined();
  });
});

describe("a short ride", () => {
  const ride = { crankAmps: 60, crankSeconds: 3, loadAmps: 9, ah: 9 };

  test("repays its start when there are amps to spare, no faster than the battery takes them", () => {
    const hop = hopOf(LINE, 10, 2000, ride);
    expect(hop.takenAh).toBeCloseTo(0.05);
    expect(hop.spareAmps).toBe(3);
    expect(hop.backAh).toBeCloseTo((2.7 * 0.85) / 6, 3);
    expect(hop.repayMinutes).toBeCloseTo((0.05 / (2.7 * 0.85)) * 60, 3);
  });

  test("at idle the battery pays", () => {
    const hop = hopOf(LINE, 60, 1000, ride);
    expect(hop.backAh).toBeCloseTo(-7);
    expect(hop.repayMinutes).toBe(Number.POSITIVE_INFINITY);
  });
});
