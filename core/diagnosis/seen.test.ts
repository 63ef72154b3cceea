import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { advise } from "./advice";

type Written = Omit<Reading, "id">;

const rest = (value: number): Written => ({ test: "battery.rest", value });
const run = ({ testRpm }: Sheet, value: number): Written => ({ test: "charge.volts", rpm: testRpm, loads: "normal", value });
const seen = (test: Reading["test"], value: string, at?: string): Written => ({ test, value, ...(at ? { at } : {}) });

/** Odds by part, the likeliest first. */
function partsAfter(sheet: Sheet, readings: Written[]): { first: string; odds: (part: string) => number } {
  const { parts } = advise(populationOf(sheet), jobFacts(readings));
  return { first: parts[0]?.what ?? "", odds: (part) => parts.find(({ what }) => what === part)?.odds ?? 0 };
}

describe.each([
  ["with a sheet", sheetOf("corvane-ferrel-650")],
  ["without a sheet", unlistedSheet("three-phase", 12)],
])("what eyes find broken leads before any other figure tells, %s", (_, sheet) => {
  test.each([
    ["the unit's ground is broken", [seen("inspect.ground", "broken"), rest(12.3), run(sheet, 12.3)]],
    ["the stator's plug has run", [seen("inspect.connector", "melted", "stator"), rest(12.2), run(sheet, 12.9)]],
  ])("%s", (_name, readings) => {
    const { first, odds } = partsAfter(sheet, readings);
    expect(first).toBe("wiring");
    expect(odds("wiring")).toBeGreaterThan(0.55);
  });

  test("where all is charged as it should be and nothing is lost on the way, an ugly ground is no fault", () => {
    const lost: Written = { test: "charge.groundDrop", rpm: sheet.testRpm, loads: "normal", value: 0.05 };
    const { odds } = partsAfter(sheet, [seen("inspect.ground", "broken"), rest(12.7), run(sheet, 14.2), lost]);
    expect(odds("wiring")).toBeLessThan(0.3);
  });
});

test("a belt that is gone is the belt, whatever else might charge as little", () => {
  const sheet = unlistedSheet("field-excited", 12);
  const { first, odds } = partsAfter(sheet, [seen("inspect.belt", "missing"), rest(12.3), run(sheet, 12.2)]);
  expect(first).toBe("drive");
  expect(odds("drive")).toBeGreaterThan(0.75);
});

test("a slack belt leads where little is charged, and is no more than a suspicion where all is as it should be", () => {
  const sheet = unlistedSheet("field-excited", 12, "boat");
  const slack = seen("inspect.belt", "slack");
  const all = (value: number): Written => ({ ...run(sheet, value), loads: "all" });
  const poor = partsAfter(sheet, [slack, rest(12.3), run(sheet, 12.7)]);
  expect(poor.first).toBe("drive");
  const sound = partsAfter(sheet, [slack, rest(12.7), run(sheet, 14.2), all(13.9)]);
  expect(sound.odds("drive")).toBeLessThan(0.4);
});
