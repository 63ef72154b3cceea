import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import type { Band } from "../../core/procedure/bands";
import { bracketOn, placeOn, scaleFor } from "./scale";

const band = (low?: number, high?: number): Band => ({
  kind: "between",
  from: "sheet",
  says: "sheet",
  ...(low === undefined ? {} : { low }),
  ...(high === undefined ? {} : { high }),
});
const open: Band = { kind: "open", from: "school", says: "open" };

describe("the spec ruler's scale", () => {
  test("shows band and value with ground on both sides", () => {
    const scale = scaleFor(band(13.8, 14.9), [12.2], "V", false);
    const [from, to] = bracketOn(scale, band(13.8, 14.9)) ?? [0, 0];
    expect(placeOn(scale, 12.2)).toBeGreaterThan(0);
    expect(placeOn(scale, 12.2)).toBeLessThan(from);
    expect(from).toBeLessThan(to);
    expect(to).toBeLessThan(1);
  });

  test("does not go below nothing where nothing is negative", () => {
    expect(scaleFor(band(0.1, 0.3), [0.05], "Ω", true).from).toBe(0);
    expect(scaleFor(band(undefined, 0.2), [-0.3], "V", false).from).toBeLessThan(-0.3);
  });

  test("the open line stands on its stop beyond every number", () => {
    const scale = scaleFor(band(0.2, 0.4), ["OL", 0.3], "Ω", true);
    expect(placeOn(scale, "OL")).toBeGreaterThan(placeOn(scale, 1e9));
    expect(bracketOn(scale, open)?.[1]).toBe(1);
    expect(placeOn(scaleFor(open, [0.4], "Ω", true), "OL")).toBeGreaterThan(0.94);
  });

  test("a one-sided band reaches to its open side's end", () => {
    const scale = scaleFor(band(10), [10.4], "V", false);
    expect(bracketOn(scale, band(10))?.[1]).toBe(1);
    expect(bracketOn(scaleFor(band(undefined, 1), [0.4], "mA", false), band(undefined, 1))?.[0]).toBe(0);
  });

  test("without a band or a value there is still a rule", () => {
    expect(scaleFor(undefined, [], "V", false)).toEqual({ from: 0, to: 1, log: false, hasOpen: false });
    expect(bracketOn(scaleFor(undefined, [12], "V", false), undefined)).toBeUndefined();
  });

  test("a larger reading never stands nearer, and nothing leaves the rule", () => {
    const value = fc.double({ min: -50, max: 1e7, noNaN: true });
    fc.assert(
      fc.property(value, value, fc.constantFrom(band(13.8, 14.9), band(0.2, 0.4), open), (a, b, limits) => {
        const scale = scaleFor(limits, [a, b], "Ω", true);
        const [low, high] = a <= b ? [a, b] : [b, a];
        expect(placeOn(scale, low)).toBeLessThanOrEqual(placeOn(scale, high) + 1e-12);
        expect(placeOn(scale, low)).toBeGreaterThanOrEqual(0);
        expect(placeOn(scale, high)).toBeLessThanOrEqual(1);
      }),
    );
  });
});
