import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { formatQuantity, formatValue, inUnit, OPEN_LINE, parseEntry, roundTo, type Unit } from "./units";

describe("what was typed", () => {
  const good: [string, Unit, number | string][] = [
    ["12.6", "V", 12.6],
    ["12,6", "V", 12.6],
    [" 0,41 ", "Ω", 0.41],
    [",5", "V", 0.5],
    ["-12.4", "V", -12.4],
    ["−12.4", "V", -12.4],
    ["12.6 V", "V", 12.6],
    ["12.6v", "V", 12.6],
    ["58 v", "V AC", 58],
    ["58 V AC", "V AC", 58],
    ["490 mV", "V", 0.49],
    ["410 mΩ", "Ω", 0.41],
    ["1.2k", "Ω", 1200],
    ["1.2 kΩ", "Ω", 1200],
    ["2M", "Ω", 2e6],
    ["0.4 ohms", "Ω", 0.4],
    ["7.4 mΩ", "mΩ", 7.4],
    ["0.0074 Ω", "mΩ", 7.4],
    ["0.02 A", "mA", 20],
    ["350 mA", "A", 0.35],
    ["900 µA", "mA", 0.9],
    ["82 %", "%", 82],
    ["OL", "Ω", OPEN_LINE],
    ["ol", "V", OPEN_LINE],
    ["open line", "Ω", OPEN_LINE],
    ["O.L.", "Ω", OPEN_LINE],
  ];
  test.each(good)("%s in %s is %s", (text, unit, value) => {
    expect(parseEntry(text, unit)).toEqual({ ok: true, value });
  });

  const bad: [string, Unit, RegExp][] = [
    ["", "V", /Nothing was typed/],
    ["   ", "Ω", /Nothing was typed/],
    ["twelve", "V", /not a number/],
    ["12.6.1", "V", /not a number/],
    ["12 V", "Ω", /in volts DC \(V\); this test is read in ohms/],
    ["0.4 Ω", "V", /ohms \(Ω\); this test is read in volts DC/],
    ["58 VAC", "V", /volts AC .*read in volts DC.*dial/],
    ["12 Vdc", "V AC", /volts DC .*read in volts AC/],
    ["3 M", "V", /megohms/],
    ["5 bar", "V", /“bar”/],
    ["1e400", "V", /too large/],
  ];
  test.each(bad)("%s in %s is refused in words", (text, unit, says) => {
    const entry = parseEntry(text, unit);
    expect(entry.ok).toBe(false);
    if (!entry.ok) expect(entry.error).toMatch(says);
  });

  test("a word is taken only from the test's own list", () => {
    expect(parseEntry("Green", "choice", ["clean", "green"])).toEqual({ ok: true, value: "green" });
    expect(parseEntry("blue", "choice", ["clean", "green"])).toEqual({ ok: false, error: "“blue” is not on the list. Allowed: clean, green." });
  });

  test("any number written with a point or a comma reads back as itself", () => {
    fc.assert(
      fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.boolean(), (number, comma) => {
        const rounded = Number(number.toFixed(3));
        const text = comma ? String(rounded).replace(".", ",") : String(rounded);
        fc.pre(!text.includes("e"));
        const entry = parseEntry(text, "V");
        expect(entry.ok && Math.abs((entry.value as number) - rounded)).toBeLessThan(1e-9);
      }),
    );
  });

  test("no text at all makes it throw", () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom<Unit>("V", "V AC", "Ω", "A", "mA", "%"), (text, unit) => {
        const entry = parseEntry(text, unit);
        if (entry.ok && typeof entry.value === "number") expect(Number.isFinite(entry.value)).toBe(true);
      }),
    );
  });
});

describe("a figure as an instrument gives it", () => {
  test.each<[number | "OL", string, Unit, number | "OL" | undefined]>([
    [12.6, "V", "V", 12.6],
    [12.6, "V DC", "V", 12.6],
    [320, "mV", "V", 0.32],
    [61.2, "V AC", "V AC", 61.2],
    [61.2, "V", "V AC", undefined],
    [61.2, "V AC", "V", undefined],
    [1.2, "kΩ", "Ω", 1200],
    [0.4, "Ohm", "Ω", 0.4],
    ["OL", "Ω", "Ω", "OL"],
    ["OL", "V", "Ω", undefined],
    [8200, "mA", "A", 8.2],
    [0.042, "A", "mA", 42],
    [0.4, "Ω", "V", undefined],
    [21, "°C", "V", undefined],
  ])("%s %s for a step in %s", (value, given, unit, figure) => {
    expect(inUnit(value, given, unit)).toBe(figure);
  });
});

describe("printing", () => {
  test.each<[number | string, Unit, string]>([
    [12.716, "V", "12.72 V"],
    [58.44, "V AC", "58.4 V AC"],
    [60, "V AC", "60 V AC"],
    [14.33, "V AC", "14.3 V AC"],
    [0.412, "Ω", "0.41 Ω"],
    [1200, "Ω", "1.2k Ω"],
    [2_500_000, "Ω", "2.5M Ω"],
    [0.44, "mA", "0.4 mA"],
    [86, "mA", "86 mA"],
    ["OL", "Ω", "OL"],
    ["green", "choice", "green"],
  ])("%s %s prints as %s", (value, unit, text) => {
    expect(formatQuantity(value, unit)).toBe(text);
  });

  test("the unit can be left off", () => {
    expect(formatValue(0.4, "Ω")).toBe("0.40");
  });

  test("rounding keeps to the meter's last digit and adds no tail", () => {
    expect(roundTo(0.4149, 0.01)).toBe(0.41);
    expect(roundTo(0.25, 0.1)).toBe(0.3);
    expect(roundTo(1234, 100)).toBe(1200);
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 1000, noNaN: true }), fc.constantFrom(0.001, 0.01, 0.1, 1), (value, step) => {
        expect(Math.abs(roundTo(value, step) - value)).toBeLessThanOrEqual(step / 2 + 1e-9);
      }),
    );
  });
});
