import { describe, expect, test } from "@jest/globals";
import { extrasOf } from "./extras";
import { checkTyped } from "./lowest";

const crank = { test: "battery.crank" } as const;

describe("the crank dip", () => {
  test.each([
    ["10.9 10.2 10.4", 10.2, 3],
    ["10,9 / 10,2", 10.2, 2],
    ["10.9;9.8", 9.8, 2],
  ])("“%s” keeps the lowest, %s of %s", (text, value, catches) => {
    expect(checkTyped(text, crank)).toMatchObject({ ok: true, value, catches });
  });

  test("one catch is itself", () => {
    expect(checkTyped("10.4", crank)).toEqual({ ok: true, value: 10.4 });
  });

  test("a catch that cannot be read refuses the lot, and says which", () => {
    expect(checkTyped("10.9 1o.2", crank)).toMatchObject({ ok: false, error: expect.stringMatching(/“1o\.2” is not a number/) });
  });

  test("other tests take one figure only", () => {
    expect(checkTyped("12.6 12.7", { test: "battery.rest" }).ok).toBe(false);
  });
});

describe("the small print", () => {
  const form = (fields: Record<string, string>): FormData => {
    const data = new FormData();
    for (const [name, value] of Object.entries(fields)) data.set(name, value);
    return data;
  };
  const fast = { test: "charge.volts", rpm: 5000, loads: "normal" } as const;

  test("takes the real rpm, hours of rest and hot windings", () => {
    expect(extrasOf(form({ rpm: "4,800" }), fast)).toEqual({ rpm: 4800 });
    expect(extrasOf(form({ restHours: "1,5" }), { test: "battery.rest" })).toEqual({ restHours: 1.5 });
    expect(extrasOf(form({ hot: "on" }), { test: "stator.resistance", at: "1-2" })).toEqual({ hot: true });
  });

  test.each([
    [{ rpm: "fast" }, /Rpm must be a whole number from 100 to 20,000/],
    [{ rpm: "50" }, /Rpm must be/],
    [{ restHours: "-1" }, /Hours of rest must be a number from 0/],
    [{ restHours: "long" }, /Hours of rest/],
  ])("%o is refused with what is allowed", (fields, says) => {
    expect(extrasOf(form(fields as Record<string, string>), fast)).toMatch(says);
  });
});
