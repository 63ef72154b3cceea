import { describe, expect, test } from "@jest/globals";
import { sheetOf } from "../../../tests/support/population";
import type { Move } from "../../procedure/moves";
import type { Advice } from "../advice";
import type { Suggestion } from "../planning/plan";
import { headline, moveWords, reasonFor, togetherWords, waitWords, whereWords } from "./words";

const SHUNT = { family: "three-phase-shunt" };

describe("readings that are off together", () => {
  const diodes = (...at: string[]) => at.map((direction) => ({ test: "regulator.diode" as const, at: direction }));

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

describe("where the fault sits is said no finer than the readings know", () => {
  const sheet = sheetOf("ostrel-burro-520");
  const at = (...places: [string, number][]): string | undefined =>
    whereWords({ fault: "stator.winding-open", places: places.map(([what, odds]) => ({ what, odds })), along: undefined } as unknown as Advice, sheet);

  test.each<[string, [string, number][]]>([
    [
      "leg 2",
      [
        ["2", 0.9],
        ["1", 0.1],
      ],
    ],
    [
      "leg 2 or leg 1 (6 in 10 the first)",
      [
        ["2", 0.6],
        ["1", 0.3],
        ["3", 0.1],
      ],
    ],
    [
      "leg 3, leg 1, leg 2: not told apart",
      [
        ["3", 0.34],
        ["1", 0.33],
        ["2", 0.33],
      ],
    ],
    [
      "these readings do not tell where",
      [
        ["1", 0.25],
        ["2", 0.25],
        ["3", 0.25],
        ["1-2", 0.25],
      ],
    ],
  ])("%s", (words, places) => {
    expect(at(...places)).toBe(words);
  });

  test("nothing where no place is known", () => {
    expect(at()).toBeUndefined();
  });
});

describe("why a reading is worth taking", () => {
  const suggestion = (over: Partial<Suggestion>): Suggestion =>
    ({
      splits: ["battery", "charge"],
      minutes: 1,
      hands: 0,
      clock: 0,
      look: { step: { test: "battery.crank" }, hot: false, charged: false },
      ...over,
    }) as Suggestion;

  test("says what it tells apart and how long it takes, in whole minutes to get there", () => {
    expect(reasonFor(suggestion({}), SHUNT)).toBe("Splits battery from a battery that is only flat; 1 min.");
    expect(reasonFor(suggestion({ hands: 1.1 }), SHUNT)).toBe("Splits battery from a battery that is only flat; 1 min and 1 to get there.");
    expect(reasonFor(suggestion({ minutes: 0.25, hands: 0.3 }), SHUNT)).toBe("Splits battery from a battery that is only flat; 0.3 min.");
    expect(reasonFor(suggestion({ splits: ["battery+regulator", "regulator"] }), SHUNT)).toBe(
      "Splits regulator/rectifier alone from regulator/rectifier with battery; 1 min.",
    );
    expect(reasonFor(suggestion({ splits: ["battery+stator", "battery+regulator"] }), SHUNT)).toBe(
      "Splits battery and stator from battery and regulator/rectifier; 1 min.",
    );
    expect(reasonFor(suggestion({ splits: undefined }), SHUNT)).toBe("Makes what is known firmer; 1 min.");
  });

  test("says what has to be waited for, heat and a full charge", () => {
    const hot = { step: { test: "charge.volts" }, hot: true, charged: false } as Suggestion["look"];
    expect(reasonFor(suggestion({ hands: 1, clock: 11, look: hot }), SHUNT)).toMatch(/1 min and 1 to get there, 10 min of waiting; with the engine hot\.$/);
    const charged = { step: { test: "battery.crank" }, hot: false, charged: true } as Suggestion["look"];
    expect(reasonFor(suggestion({ hands: 5, clock: 245, look: charged }), SHUNT)).toMatch(/, 4 h of waiting; after a full charge\.$/);
  });

  test("a reading on which everything hangs is named as that, whatever it splits", () => {
    expect(reasonFor(suggestion({ due: "again" }), SHUNT)).toBe("Everything hangs on this reading: take it once more; 1 min.");
  });

  test.each([
    [20, "20 min"],
    [89.6, "90 min"],
    [240, "4 h"],
    [720, "12 h"],
  ])("%d minutes on the clock are %s", (minutes, said) => {
    expect(waitWords(minutes)).toBe(said);
  });

  test("the way there is said in the order in which hands go it, by the plug's own name", () => {
    const moves = ["stop", "part", "rest", "dial"].map((id) => ({
      id,
      ...(id === "part" ? { what: "stator" } : {}),
      hands: 1,
      clock: id === "rest" ? 720 : 1,
    })) as Move[];
    expect(moveWords(moves, { statorConnector: { name: "C2", place: "under the seat" } })).toEqual([
      "Stop the engine, key out.",
      "Part C2.",
      "Let the battery rest 12 h.",
    ]);
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

test("a charger that seems to be on still is said to be that, not a flat battery", () => {
  const advice = {
    status: "healthy",
    decision: { set: "charge", odds: 0.9, loss: 0, bill: { money: 0, minutes: 0 } },
    sets: [{ what: "charge", odds: 0.9 }],
    sure: [],
    open: [],
    repaired: false,
    settled: true,
    fault: "battery.charger-on",
  } as unknown as Advice;
  expect(headline(advice)).toMatch(/^A charger or jump pack seems to be on still .*: take it off, let the battery rest/);
  expect(headline({ ...advice, fault: "battery.discharged" })).toMatch(/^Nothing failed: the battery was only flat/);
});
