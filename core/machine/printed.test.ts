import { describe, expect, test } from "@jest/globals";
import { bandsTelling, printed, printedMiddle, printedVoltsPerRpm } from "./printed";
import type { SheetBand } from "./sheet";

const sheetOf = (...bands: SheetBand[]) => ({ bands });

describe("what a band tells of sound machines", () => {
  test("a tolerance: its middle, closely", () => {
    const told = printed(sheetOf({ test: "stator.resistance", low: 0.18, high: 0.22 }), "stator.resistance");
    expect(told?.middle).toBeCloseTo(0.2, 6);
    expect(told?.width).toBeLessThan(0.05);
  });

  test("a fence around many models: the middle on a scale of factors, and no more than roughly", () => {
    const told = printed(sheetOf({ test: "stator.resistance", low: 0.1, high: 1 }), "stator.resistance");
    expect(told?.middle).toBeCloseTo(Math.sqrt(0.1), 6);
    // A machine of 0.2 Ω is nothing out of the ordinary.
    expect(Math.abs(Math.log(0.2 / (told?.middle ?? 0)))).toBeLessThan(1.5 * (told?.width ?? 0));
  });

  test("the least AC that is sound: somewhat more, at the speed that is printed", () => {
    const sheet = sheetOf({ test: "stator.acVolts", low: 50, rpm: 4000 });
    expect(printedVoltsPerRpm(sheet, 1) * 4000).toBeGreaterThan(55);
    expect(printedVoltsPerRpm(sheet, 1) * 4000).toBeLessThan(80);
  });

  test("the most ohms that are sound, from nought or from nothing: some of them", () => {
    for (const band of [{ high: 1 }, { low: 0, high: 1 }]) {
      const told = printed(sheetOf({ test: "stator.resistance", ...band }), "stator.resistance");
      expect(told?.middle).toBeGreaterThan(0.3);
      expect(told?.middle).toBeLessThan(0.8);
    }
  });

  test.each<[string, SheetBand]>([
    ["the most AC", { test: "stator.acVolts", high: 90 }],
    ["the least ohms", { test: "stator.resistance", low: 0.1 }],
    ["the least charging volts", { test: "charge.volts", low: 13.5 }],
    ["nothing of this test", { test: "battery.rest", low: 12.6, high: 13 }],
  ])("%s: nothing of where a sound machine lies", (_what, band) => {
    expect(printed(sheetOf(band), band.test === "battery.rest" ? "charge.volts" : band.test)).toBeUndefined();
    expect(printedMiddle(sheetOf(band), "charge.volts", 14.3)).toBe(14.3);
  });

  test("of volts at idle and fast, in whatever order they are printed, the fast ones say what a unit holds", () => {
    const [idle, fast] = [
      { test: "charge.volts", low: 12.4, high: 13.6, rpm: 1200 },
      { test: "charge.volts", low: 13.8, high: 14.8, rpm: 5000 },
    ] as const;
    for (const bands of [
      [idle, fast],
      [fast, idle],
    ])
      expect(printedMiddle(sheetOf(...bands), "charge.volts", 14)).toBeCloseTo(14.3, 6);
  });

  test("a band with both figures goes before one with a limit, that of a point before that of all", () => {
    const limit = { test: "stator.acVolts", low: 30, rpm: 3000 };
    const whole = { test: "stator.acVolts", low: 40, high: 60, rpm: 5000 };
    const own = { test: "stator.acVolts", at: "3-4", low: 90, high: 110, rpm: 5000 };
    expect(bandsTelling(sheetOf(limit, whole), "stator.acVolts")).toEqual([whole, limit]);
    expect(printed(sheetOf(limit, whole, own), "stator.acVolts", "1-2")?.middle).toBe(50);
    expect(printed(sheetOf(limit, whole, own), "stator.acVolts", "4-3")?.middle).toBe(100);
  });
});
