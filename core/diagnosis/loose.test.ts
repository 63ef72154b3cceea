import { describe, expect, test } from "@jest/globals";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Loose } from "../machine/loose";
import { unlistedSheet } from "../machine/unlisted";
import { ASSUMED_METER } from "../meter/meter";
import type { Reading } from "../procedure/step";
import { TOOL_IDS } from "../procedure/tools";
import { type Advice, advise } from "./advice";
import { looseVerdict } from "./loose";
import { ASSUMED_PRICES } from "./planning/prices";
import { NO_HISTORY } from "./population/hypotheses";
import { headline, standWords } from "./words/words";

type Written = Omit<Reading, "id">;

/** A part brought in by itself, of a machine with a sheet or of one without. */
const SHEETS = {
  ferrel: sheetOf("corvane-ferrel-650"),
  farway: sheetOf("tidewright-farway-29"),
  merle: sheetOf("corvane-merle-250"),
  unlisted: unlistedSheet("three-phase-shunt", 12),
};

function told(machine: keyof typeof SHEETS, loose: Loose, readings: readonly Written[]): Advice {
  return advise(populationOf({ ...SHEETS[machine], loose }), {
    readings: readings.map((reading, i) => ({ ...reading, id: String(i) })),
    meter: ASSUMED_METER,
    prices: ASSUMED_PRICES,
    history: NO_HISTORY,
    mended: [],
    skipped: [],
    tools: TOOL_IDS,
    restHours: 2,
  });
}

const diodes = (values: Record<string, number | string>): Written[] =>
  ["B->B+", "1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3", "B+>1", "B+>2", "B+>3", "1>B-", "2>B-", "3>B-", "B+>B-"].map((at) => ({
    test: "regulator.diode",
    at,
    value: values[at] ?? (at === "B->B+" ? 0.9 : at.startsWith("B-") || at.endsWith("B+") ? 0.5 : "OL"),
  }));
const ohms = (...values: (number | string)[]): Written[] => ["1-2", "2-3", "3-1"].map((at, i) => ({ test: "stator.resistance", at, value: values[i] ?? "OL" }));
const toCore = (value: number | string): Written[] => ["1", "2", "3"].map((at) => ({ test: "stator.toGround", at, value }));
const battery = (rest: number, load: number, percent: number): Written[] => [
  { test: "battery.rest", value: rest, restHours: 8 },
  { test: "battery.load", value: load },
  { test: "battery.conductance", value: percent },
];

describe("a part without its machine is good, bad, or wants one more reading", () => {
  test.each<[string, keyof typeof SHEETS, Loose, Written[], "good" | "bad", RegExp]>([
    ["a whole diode chart", "unlisted", "regulator", diodes({}), "good", /^Good as far as a bench tells\. .+charging volts/],
    ["a shorted diode", "unlisted", "regulator", diodes({ "2>B+": 0.002, "B+>2": 0.002 }), "bad", /^Bad \(/],
    ["an open diode", "ferrel", "regulator", [...diodes({ "B->3": "OL" }), { test: "regulator.diode", at: "B->3", value: "OL" }], "bad", /^Bad \(/],
    ["even ohms, nothing to the core", "ferrel", "stator", [...ohms(0.4, 0.4, 0.4), ...toCore("OL")], "good", /AC volts under way are its proof/],
    ["every leg to the core", "unlisted", "stator", [...ohms(0.4, 0.4, 0.4), ...toCore(3)], "bad", /^Bad \(/],
    ["one leg open", "unlisted", "stator", [...ohms(0.4, "OL", "OL"), ...toCore("OL")], "bad", /^Bad \(/],
    ["three methods that agree on a sound battery", "unlisted", "battery", battery(12.8, 10.5, 97), "good", /^Good \(/],
    ["three methods that agree on a worn one", "unlisted", "battery", battery(12.7, 5.5, 28), "bad", /^Bad \(/],
    [
      "an alternator's field open",
      "farway",
      "generator",
      [
        { test: "field.resistance", value: "OL" },
        { test: "inspect.brushes", value: "ok" },
      ],
      "bad",
      /^Bad \(/,
    ],
  ])("%s, of the machine %s: a loose %s", (_what, machine, loose, readings, says, words) => {
    const advice = told(machine, loose, readings);
    expect(looseVerdict(advice).says).toBe(says);
    // What stands on rail, bench, verdict and report is one sentence.
    expect(headline(advice)).toMatch(words);
  });

  test("a flat battery is charged before anything is said of it", () => {
    const advice = told("ferrel", "battery", [{ test: "battery.rest", value: 11.3, restHours: 8 }]);
    expect(looseVerdict(advice)).toMatchObject({ says: "open", flat: true, settle: { look: { charged: true } } });
    expect(headline(advice)).toMatch(/^Flat, and so not to be judged yet: charge it fully/);
  });

  test("before any reading every other part is bad, and the first reading is named", () => {
    const advice = told("merle", "generator", []);
    const { says, bad, settle } = looseVerdict(advice);
    expect(says).toBe("open");
    expect(bad).toBeCloseTo(0.5, 1);
    expect(settle).toBeDefined();
    expect(headline(advice)).toMatch(/^Not settled: bad at 5 in 10\. .+ would settle it\.$/);
  });
});

describe("the search on a bench", () => {
  test.each<[keyof typeof SHEETS, Loose]>([
    ["ferrel", "battery"],
    ["ferrel", "stator"],
    ["unlisted", "regulator"],
    ["farway", "generator"],
    ["merle", "generator"],
  ])("of a %s's %s asks for nothing that needs the machine, and suspects no other part", (machine, loose) => {
    const advice = told(machine, loose, []);
    const parts = loose === "generator" ? ["rotor", "stator"] : [loose];
    expect(advice.parts.filter(({ what, odds }) => odds > 0 && what !== "charge").every(({ what }) => parts.includes(what))).toBe(true);
    for (const { moves, look } of advice.next) {
      expect(moves.every(({ id }) => ["dial", "rest", "charge"].includes(id))).toBe(true);
      expect(look.hot).toBe(false);
      expect(standWords({ look }, { ...SHEETS[machine], loose })).toMatch(/^On the bench/);
    }
  });
});
