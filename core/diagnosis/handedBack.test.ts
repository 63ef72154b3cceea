import { describe, expect, test } from "@jest/globals";
import { benchOf } from "../../tests/support/bench";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import { ASSUMED_METER } from "../meter/meter";
import type { TestId } from "../procedure/catalogue";
import { WHEELED_IN, worked } from "../procedure/moves";
import type { Reading } from "../procedure/step";
import { stepKey } from "../procedure/step";
import { advise } from "./advice";
import { beforeHandedBack } from "./planning/asked";
import type { Bench, Suggestion } from "./planning/plan";
import { type Look, lookOfReading } from "./population/look";
import { headline, reasonFor } from "./words/words";

/** Flat on the battery's own word: low, and full again once charged, its volts steady with the key on. */
const FLAT: Omit<Reading, "id">[] = [
  { test: "battery.rest", value: 11.35 },
  { test: "battery.settled", value: 11.31 },
  { test: "battery.rest", value: 13.31, charged: true },
  { test: "battery.settled", value: 13.31, charged: true },
];
const CRANKED: Omit<Reading, "id"> = { test: "battery.crank", value: 11.2, charged: true };
const CHARGED: Omit<Reading, "id"> = { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.3 };

const CLEAN: Omit<Reading, "id">[] = [
  { test: "inspect.terminals", value: "tight" },
  { test: "inspect.connector", at: "stator", value: "clean" },
];

const sheet = sheetOf("brannoch-fell-850");
const adviceOn = (readings: Omit<Reading, "id">[]) => advise(populationOf(sheet), jobFacts(readings));

/** The bench after some readings, and looks that were skipped. */
const benchAfter = (readings: readonly Omit<Reading, "id">[], over: Partial<Bench> = {}, skipped: readonly Look[] = []): Bench => {
  const taken = readings.map((reading): Reading => ({ id: "", ...reading }));
  const looks = taken.map((reading) => (lookOfReading(reading, sheet) as NonNullable<ReturnType<typeof lookOfReading>>).look);
  const done = new Set([...looks, ...skipped].map(({ key }) => key));
  const { state } = worked(taken, 12, WHEELED_IN);
  return benchOf({ done, tests: new Set(taken.map(({ test }) => test as TestId)), charged: state.charged, state, ...over });
};

describe("a machine that would be handed back with nothing mended", () => {
  const owed = (readings: Omit<Reading, "id">[], skipped: readonly Look[] = []): Suggestion[] =>
    beforeHandedBack("charge", 0.8, populationOf(sheet), benchAfter(readings, {}, skipped));
  const keysOf = (suggestions: readonly Suggestion[]): string[] => suggestions.map(({ step }) => stepKey(step));

  test("is looked at, cranked and run first, whatever the battery says of itself", () => {
    const suggestions = owed(FLAT);
    expect(keysOf(suggestions)).toEqual(["inspect.terminals", "inspect.connector~stator", "battery.crank", "charge.volts~~5000~normal"]);
    expect(suggestions.every(({ due }) => due === "unseen")).toBe(true);
    const reasons = suggestions.map((suggestion) => reasonFor(suggestion, { family: sheet.family }));
    for (const looked of reasons.slice(0, 2)) expect(looked).toMatch(/^Nothing is handed back as sound whose plug and posts nobody looked at; /);
    for (const seen of reasons.slice(2))
      expect(seen).toMatch(/^Nothing is handed back as sound that was not seen to crank and to charge; .* after a full charge\.$/);
    // What nothing charges is flat as well: that the battery took its charge speaks for no more than that it is none that is worn.
    expect(adviceOn(FLAT)).toMatchObject({ settled: false, status: "not-enough" });
  });

  test("is asked no more for what was seen, nor for what was skipped", () => {
    expect(keysOf(owed([...FLAT, CRANKED]))).toContain("charge.volts~~5000~normal");
    expect(keysOf(owed([...FLAT, CRANKED]))).not.toContain("battery.crank");
    expect(keysOf(owed([...FLAT, CRANKED, CHARGED]))).toEqual(["inspect.terminals", "inspect.connector~stator"]);
    expect(owed([...FLAT, CRANKED, CHARGED, ...CLEAN])).toEqual([]);
    expect(
      owed(
        FLAT,
        owed(FLAT).map(({ look }) => look),
      ),
    ).toEqual([]);
  });

  test("shows all that one run can show while it may well have failed", () => {
    // Volts a little low with the lights on, generator and unit right by their own readings: nobody has looked at the way between.
    const read: Omit<Reading, "id">[] = [CRANKED, { test: "charge.volts", rpm: 5000, loads: "off", value: 14 }, ...CLEAN];
    const population = populationOf(sheet);
    const bench = benchAfter(
      read.map((reading) => ({ ...reading, charged: false })),
      { state: WHEELED_IN },
    );
    const keys = (sound: number) => beforeHandedBack("charge", sound, population, bench).map(({ step }) => stepKey(step));
    expect(keys(0.3)).toEqual([
      "charge.volts~~idle~normal",
      "charge.volts~~5000~normal",
      "charge.volts~~5000~all",
      "charge.positiveDrop~~5000~normal",
      "charge.groundDrop~~5000~normal",
    ]);
    expect(keys(0.8)).toEqual([]);
    expect(reasonFor(beforeHandedBack("charge", 0.3, population, bench)[3] as Suggestion, adviceOn(FLAT))).toMatch(/which one run can still show; /);
  });

  test.each([
    ["when-warm", "charge.volts~~5000~normal", true],
    ["flat-overnight", "drain.current", false],
    ["boiled-battery", "charge.volts~~5000~off", false],
    ["lamps-burn-out", "charge.volts~~5000~off", false],
  ])("is read as its owner complains of it: %s", (complaint, key, hot) => {
    const population = populationOf(sheet);
    const asks = (over: Partial<Bench>): Suggestion[] =>
      beforeHandedBack("charge", 0.8, population, benchOf({ tests: new Set(["battery.crank", "charge.volts"]), ...over }));
    const owed = asks({ complaint: [complaint] }).filter(({ due }) => due === "complained");
    expect(owed.map(({ step, look }) => [stepKey(step), look.hot])).toEqual([[key, hot]]);
    expect(reasonFor(owed[0] as Suggestion, adviceOn(FLAT))).toMatch(/^Nothing is handed back as sound before what its owner says of it was looked for; /);
    expect(asks({ complaint: [complaint], done: new Set(owed.map(({ look }) => look.key)) }).some(({ due }) => due === "complained")).toBe(false);
    expect(asks({ complaint: ["slow-crank"] }).some(({ due }) => due === "complained")).toBe(false);
  });
});

describe("a machine whose volts stay low after its repair", () => {
  const burro = sheetOf("ostrel-burro-520");
  const found: Omit<Reading, "id">[] = [
    { test: "battery.rest", value: 12.79 },
    { test: "battery.crank", value: 10.59 },
    { test: "charge.volts", rpm: "idle", loads: "normal", value: 12.67 },
    { test: "charge.volts", rpm: 5000, loads: "normal", value: 13.89 },
    { test: "charge.volts", rpm: 5000, loads: "all", value: 12.65 },
    ...["1-2", "2-3", "3-1"].map((at): Omit<Reading, "id"> => ({ test: "stator.resistance", at, value: 0.35 })),
    ...[0.19, 0.33, 0.33].map((value, k): Omit<Reading, "id"> => ({ test: "stator.toGround", at: String(k + 1), value })),
  ];
  const since = (rpm: number | "idle", loads: "normal" | "all", value: number): Omit<Reading, "id"> => ({
    test: "charge.volts",
    rpm,
    loads,
    value,
    afterRepair: true,
    mended: ["stator"],
  });
  const mended = (...proof: Omit<Reading, "id">[]) =>
    advise(populationOf(burro), jobFacts([...found, ...proof], { mended: ["stator"], meter: { ...ASSUMED_METER, leadOhms: 0.15, ohmsResolution: 0.01 } }));

  test("is never called cured, whatever spoke for the part before", () => {
    for (const proof of [
      [since(5000, "normal", 12.3)],
      [since(5000, "normal", 12.3), since(5000, "all", 12.1)],
      [since(5000, "normal", 12.3), since(5000, "all", 12.1), since("idle", "normal", 12.2)],
    ]) {
      const advice = mended(...proof);
      expect(advice.settled && advice.decision.set === "").toBe(false);
      expect(headline(advice)).not.toMatch(/cured/i);
    }
    const unproven = { ...mended(), status: "contradiction" as const, sure: [] };
    expect(headline({ ...unproven, disproven: true })).toMatch(/^Not proven: .* Is every plug joined again\?/);
    expect(headline(unproven)).toMatch(/^The readings disagree/);
  });

  test("and one that charges is not held up, a figure that was misread and taken again beside it", () => {
    const proof = [since("idle", "normal", 13.4), since(5000, "normal", 14.3), since(5000, "all", 14.2)];
    expect(mended(...proof).status).not.toBe("contradiction");
    // One of three may have been misread; one of one is taken once more.
    expect(mended(since(5000, "normal", 11.1), ...proof).status).not.toBe("contradiction");
  });
});

describe("a repair whose proof is a figure that cannot be", () => {
  const BEFORE: Omit<Reading, "id">[] = [
    { test: "battery.rest", value: 12.82 },
    { test: "battery.crank", value: 10.4 },
    { test: "starter.cableDrop", value: 2.04 },
    { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.4 },
  ];
  const since = (step: Omit<Reading, "id">): Omit<Reading, "id"> => ({ ...step, afterRepair: true, mended: ["starter"] });
  const run = (value: number) => since({ test: "charge.volts", rpm: 5000, loads: "all", value });
  const proven = (...runs: Omit<Reading, "id">[]) => {
    const proof = [since({ test: "battery.crank", value: 10.6 }), since({ test: "charge.volts", rpm: "idle", loads: "normal", value: 14.2 }), ...runs];
    return advise(populationOf(sheet), jobFacts([...BEFORE, ...proof], { mended: ["starter"] }));
  };

  test("has that figure taken once more before anything is searched for; said again it is searched for", () => {
    const slipped = proven(run(60));
    expect(slipped.settled).toBe(false);
    expect(slipped.next[0]).toMatchObject({ step: { test: "charge.volts", rpm: 5000, loads: "all" }, due: "again" });
    expect(reasonFor(slipped.next[0] as Suggestion, slipped)).toMatch(/once more/);
    const proved = proven(run(60), run(14.3));
    expect(proved.disproven).toBe(false);
    expect(proved.next.some(({ due }) => due === "again")).toBe(false);
    expect(proven(run(12.2), run(12.2)).next[0]?.due).toBeUndefined();
  });
});

describe("a machine whose unit let the volts climb", () => {
  const mended = { afterRepair: true, mended: ["regulator" as const] };
  const MENDED: Omit<Reading, "id">[] = [
    { test: "battery.crank", value: 12.5, ...mended },
    { test: "charge.volts", rpm: "idle", loads: "normal", value: 14.4, ...mended },
    { test: "charge.volts", rpm: 5000, loads: "all", value: 14.4, ...mended },
  ];
  const overcharged = (...volts: [all: number, normal: number, off: number]): Omit<Reading, "id">[] => [
    { test: "battery.rest", value: 13.6 },
    { test: "battery.crank", value: 12.5 },
    ...(["all", "normal", "off"] as const).map((loads, k): Omit<Reading, "id"> => ({ test: "charge.volts", rpm: 5000, loads, value: volts[k] as number })),
  ];

  test.each([
    [16.3, 16.7, 16.9],
    [15.6, 15.8, 15.9],
  ])("buys no battery for how far they climbed: %d V and more, and the battery cranks as before", (...volts) => {
    const before = advise(populationOf(sheet), jobFacts(overcharged(...volts)));
    expect(before.sets[0]?.what).toBe("regulator");
    const { sets } = advise(populationOf(sheet), jobFacts([...overcharged(...volts), ...MENDED], { mended: ["regulator"] }));
    expect(sets[0]).toMatchObject({ what: "" });
    expect(sets[0]?.odds).toBeGreaterThan(0.8);
  });
});
