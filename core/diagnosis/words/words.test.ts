import { describe, expect, test } from "@jest/globals";
import type { Advice } from "../advice";
import { headline, togetherWords } from "./words";

describe("readings that are off together", () => {
  const diodes = (...at: string[]) => at.map((one) => ({ test: "regulator.diode" as const, at: one }));

  test("name the contact they share, and ask for one of them again", () => {
    expect(togetherWords(diodes("1>B+", "2>B+", "3>B+"))).toBe("The three to B+ may share one bad contact: clean it and read one again.");
    expect(togetherWords(diodes("B->1", "B->2"))).toBe("The two to B− may share one bad contact: clean it and read one again.");
    expect(togetherWords(["1", "2", "3"].map((at) => ({ test: "stator.toGround" as const, at })))).toMatch(
      /^The three legs to the case may share one bad contact/,
    );
  });

  test("where nothing is shared, the dial and the side of the plug are asked after", () => {
    expect(togetherWords(diodes("1>B+", "B->2"))).toMatch(/check the dial, the side of the plug and the probe they share, then read one again\.$/);
    expect(togetherWords(["1-2", "2-3", "3-1"].map((at) => ({ test: "stator.acVolts" as const, at })))).toMatch(/^The three of .+ may all be off/);
    expect(togetherWords([{ test: "battery.rest" }, { test: "battery.rest" }])).toMatch(/^The two of .+ do not go with the rest/);
    expect(togetherWords([{ test: "battery.rest" }, { test: "charge.volts" }])).toMatch(/prove the meter on a second one/);
  });
});

describe("a machine whose control readings are right", () => {
  const sound = (set: string, ...odds: [string, number][]): string =>
    headline({
      status: "healthy",
      decision: { set, odds: odds[0]?.[1] ?? 0, loss: 0, bill: { money: 0, minutes: 0 } },
      sets: odds.map(([what, share]) => ({ what, odds: share })),
      sure: [],
      open: [],
      repaired: false,
      settled: true,
    } as unknown as Advice);

  test("is told that nothing failed where that is likely, and that nothing was found where it is less", () => {
    expect(sound("", ["", 0.9], ["charge", 0.06])).toBe("Nothing failed (19 in 20, nearly sure).");
    expect(sound("", ["", 0.4], ["charge", 0.2], ["starter", 0.15])).toBe("Nothing wrong found (6 in 10, probable).");
    expect(sound("charge", ["charge", 0.8], ["", 0.1])).toBe("Nothing failed: the battery was only flat (9 in 10, likely).");
  });
});
