import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { decide, named, plattCalibrated, surestFirst } from "./decision";
import { ASSUMED_PRICES } from "./planning/prices";

const SETS = ["", "charge", "loads", "regulator", "stator", "regulator+stator"] as const;
const choiceOf = (odds: readonly number[], open = false) => ({ sets: SETS, odds, prices: ASSUMED_PRICES, repaired: false, open });
const told = (odds: readonly number[], unlisted = false): string => {
  const choice = choiceOf(odds, unlisted);
  return SETS[named(choice, decide(choice)).index] as string;
};

describe("the decision", () => {
  test.each<[string, number[], string]>([
    ["what is likely is named", [0.02, 0.03, 0.05, 0.8, 0.05, 0.05], "regulator"],
    ["a part that two sets share is named, though neither set is likely by itself", [0.02, 0.02, 0.02, 0.48, 0.02, 0.44], "regulator"],
    ["what is cheap and unlikely is not", [0.05, 0.1, 0.35, 0.25, 0.25, 0], "charge"],
    ["nothing stands out: no part is bought", [0.2, 0.1, 0.24, 0.23, 0.23, 0], ""],
  ])("%s", (_what, odds, set) => expect(told(odds)).toBe(set));

  test.each<[string, number[], string]>([
    ["the surest of several is mended first, and the others judged by the machine so mended", [0.02, 0.02, 0.02, 0.14, 0.1, 0.7], "regulator"],
    ["parts that are sure are bought together", [0, 0, 0, 0.01, 0.01, 0.98], "regulator+stator"],
    ["one part stays one", [0.02, 0.02, 0.02, 0.74, 0.1, 0.1], "regulator"],
  ])("of two parts: %s", (_what, odds, set) => {
    const choice = choiceOf(odds);
    expect(SETS[surestFirst(choice, decide(choice)).index]).toBe(set);
  });

  test("without a sheet names a sure part by itself where the one beside it is an even bet", () => {
    expect(told([0, 0, 0.01, 0.01, 0.46, 0.52], true)).toBe("stator");
  });

  test("without a sheet takes more than a half", () => {
    const odds = [0.15, 0.1, 0.05, 0.55, 0.15, 0];
    expect(told(odds)).toBe("regulator");
    expect(told(odds, true)).toBe("");
  });

  test("names no part that has more likely not failed, and is a set of the list, whatever the odds", () => {
    const some = fc.array(fc.double({ min: 0.001, max: 1, noNaN: true }), { minLength: SETS.length, maxLength: SETS.length });
    fc.assert(
      fc.property(some, (weights) => {
        const total = weights.reduce((sum, weight) => sum + weight, 0);
        const odds = weights.map((weight) => weight / total);
        const set = told(odds);
        for (const part of set.split("+").filter((what) => what !== "" && what !== "charge")) {
          const share = SETS.reduce((sum, other, s) => sum + (other.split("+").includes(part) ? (odds[s] as number) : 0), 0);
          expect(share).toBeGreaterThanOrEqual(0.45);
        }
      }),
    );
  });

  test("says what it loses on average: nothing where all is sure, more where no part is named", () => {
    expect(decide(choiceOf([0, 0, 0, 1, 0, 0]))).toMatchObject({ index: 3, loss: 0 });
    const open = choiceOf([0.05, 0.1, 0.35, 0.25, 0.25, 0]);
    expect(named(open, decide(open)).loss).toBeGreaterThan(decide(open).loss);
  });
});

test("odds set right stay odds: they add up to what they did, keep their order, and leave the unlikely alone", () => {
  const odds = [0.1, 0.6, 0.2, 0.1];
  for (const open of [true, false]) {
    const after = plattCalibrated(odds, 1, open);
    expect(after.reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 9);
    expect((after[2] as number) / (after[0] as number)).toBeCloseTo(2, 9);
    expect(plattCalibrated([0.3, 0.25, 0.25, 0.2], 0, open)).toEqual([0.3, 0.25, 0.25, 0.2]);
  }
});
