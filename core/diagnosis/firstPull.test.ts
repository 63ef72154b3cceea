import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { advise } from "./advice";

type Written = Omit<Reading, "id">;

// A slow crank after a full rest: the battery, or a starter that drags. A logged crank tells by what it shows before anything turns.
describe.each([
  ["with a sheet", sheetOf("corvane-ferrel-650")],
  ["without a sheet", unlistedSheet("three-phase", 12, "motorcycle")],
])("a low crank, %s", (_, sheet) => {
  const SLOW: Written[] = [
    { test: "battery.rest", value: 12.65 },
    { test: "battery.crank", value: 9 },
  ];
  const odds = (...more: Written[]): Record<string, number> => {
    const { parts } = advise(populationOf(sheet), jobFacts([...SLOW, ...more]));
    return Object.fromEntries(parts.map(({ what, odds: of }) => [what, of]));
  };

  test("of a battery held up as the contact closes is a starter's", () => {
    const [before, after] = [odds(), odds({ test: "battery.firstPull", value: 10 })];
    expect(after.starter).toBeGreaterThan(2 * (before.starter ?? 1));
    expect(after.battery ?? 0).toBeLessThan(0.5 * (before.battery ?? 0));
  });

  test("of one pulled low from the first is the battery's", () => {
    const [before, after] = [odds(), odds({ test: "battery.firstPull", value: 7.9 })];
    expect(after.battery).toBeGreaterThan(before.battery ?? 1);
    expect(after.starter ?? 0).toBeLessThan(0.5 * (before.starter ?? 0));
  });
});
