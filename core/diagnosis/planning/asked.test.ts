import { describe, expect, test } from "@jest/globals";
import { benchOf } from "../../../tests/support/bench";
import { populationOf, sheetOf } from "../../../tests/support/population";
import type { TestId } from "../../procedure/catalogue";
import { stepKey } from "../../procedure/step";
import { reasonFor } from "../words/words";
import { beforeUnit } from "./asked";
import type { Bench } from "./plan";

const population = populationOf(sheetOf("ostrel-burro-520"));
const benchAfter = (...tests: TestId[]): Bench => benchOf({ tests: new Set(tests) });
const SETS = ["", "regulator", "stator"];
const keys = (suggestions: ReturnType<typeof beforeUnit>): string[] => suggestions.map(({ step }) => stepKey(step));

describe("before a unit is bought", () => {
  const odds = [0.02, 0.9, 0.08];
  const asked = (bench: Bench, decided = 1, of = odds) => beforeUnit(SETS, of, decided, population, bench);

  test("its generator is seen to give AC, and why is said", () => {
    const [one, ...more] = asked(benchAfter("charge.volts"));
    expect(more).toHaveLength(0);
    expect(one && stepKey(one.step)).toBe("stator.acVolts~1-2~5000");
    expect(one && reasonFor(one, { family: population.sheet.family })).toMatch(
      /^Before the regulator\/rectifier is bought: one that gets nothing from its generator makes nothing of it; /,
    );
  });

  test.each<[string, string[]]>([
    ["where AC was read", keys(asked(benchAfter("stator.acVolts")))],
    ["where the volts were seen to rise", keys(asked({ ...benchAfter("charge.volts"), rises: true }))],
    ["where nothing else could have failed", keys(asked(benchAfter(), 1, [0.01, 0.98, 0.01]))],
    ["where another part is decided on", keys(asked(benchAfter(), 2))],
  ])("nothing is asked %s", (_where, asks) => expect(asks).toEqual([]));
});
