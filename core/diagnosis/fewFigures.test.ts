import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Part } from "../machine/part";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { advise } from "./advice";
import { NO_HISTORY } from "./population/hypotheses";

/** Three or four figures, written down by hand, of which one leaves little to ask: what a mechanic would turn to. */

type Written = Omit<Reading, "id">;

const rest = (value: number): Written => ({ test: "battery.rest", value });
const volts = ({ testRpm }: Sheet, value: number, hot?: boolean): Written => ({
  test: "charge.volts",
  rpm: testRpm,
  loads: "normal",
  value,
  ...(hot ? { hot } : {}),
});
const unloaded = ({ testRpm }: Sheet, at: string, value: number): Written => ({ test: "stator.acVolts", at, rpm: testRpm, value });
const pairs = (sheet: Sheet, ...read: readonly number[]): Written[] => ["1-2", "2-3", "3-1"].map((at, i) => unloaded(sheet, at, read[i] as number));
const ohms = (...read: readonly number[]): Written[] => ["1-2", "2-3", "3-1"].map((at, i) => ({ test: "stator.resistance", at, value: read[i] as number }));
const ground = (value: number): Written => ({ test: "regulator.ground", value });

function partsAfter(sheet: Sheet, readings: Written[]): { first: string; odds: (part: Part) => number; doubts: readonly unknown[] } {
  const { parts, doubts } = advise(populationOf(sheet), jobFacts(readings));
  return { first: parts[0]?.what ?? "", odds: (part) => parts.find(({ what }) => what === part)?.odds ?? 0, doubts };
}

const MACHINES: [string, Sheet][] = [
  ["with a sheet", sheetOf("corvane-ferrel-650")],
  ["without a sheet", unlistedSheet("three-phase", 12, "motorcycle")],
];

test("lamps that nobody can switch off: 12.9 V with the loads off as well beside one strong pair of three are still the stator's", () => {
  const sheet = unlistedSheet("three-phase", 12, "snowmobile");
  const figures = [rest(12.3), { test: "battery.crank", value: 10.4 } as const, volts(sheet, 12.9), ...pairs(sheet, 21, 51, 22)];
  const alike = partsAfter(sheet, [...figures, { ...volts(sheet, 12.9), loads: "off" }]);
  expect(alike.first).toBe("stator");
  expect(alike.odds("stator")).toBeGreaterThan(0.8);
  // Nor does it tell against it that they can be.
  expect(partsAfter(sheet, [...figures, { ...volts(sheet, 13.6), loads: "off" }]).odds("stator")).toBeGreaterThan(0.8);
});

describe.each(MACHINES)("%s", (_, sheet) => {
  test("14.1 V cold and a battery's volts hot, at the same speed and loads: what fails hot, no generator that happens to be just too weak", () => {
    const { first, odds } = partsAfter(sheet, [rest(12.5), volts(sheet, 14.1), volts(sheet, 12.1, true)]);
    expect(first).toBe("regulator");
    expect(odds("regulator")).toBeGreaterThan(0.7);
    // Held both times, it is neither.
    expect(partsAfter(sheet, [rest(12.5), volts(sheet, 14.1), volts(sheet, 14, true)]).odds("regulator")).toBeLessThan(0.3);
  });

  test.each([
    [3, 0.8],
    [12, 0.75],
    [35, 0.7],
  ])("%d Ω from the unit to the battery are the ground's, no lead that was not zeroed and no misread figure", (ohms, least) => {
    const { first, odds, doubts } = partsAfter(sheet, [rest(12.4), volts(sheet, 12.3), unloaded(sheet, "1-2", 55), ground(ohms)]);
    expect(first).toBe("wiring");
    expect(odds("wiring")).toBeGreaterThan(least);
    expect(doubts).toEqual([]);
  });

  test.each([
    [7.5, 0.55],
    [6.5, 0.75],
  ])("%d V at the end of a load test at half the label's amps are the battery's, where all else is right", (shown, least) => {
    const { first, odds } = partsAfter(sheet, [rest(12.7), volts(sheet, 14.2), { test: "battery.load", amps: 67, value: shown }]);
    expect(first).toBe("battery");
    expect(odds("battery")).toBeGreaterThan(least);
  });

  test("0.2 Ω there may be the leads'", () => {
    expect(partsAfter(sheet, [rest(12.4), volts(sheet, 12.3), unloaded(sheet, "1-2", 55), ground(0.2)]).first).toBe("regulator");
  });

  test("two pairs a quarter below the third share a bad winding", () => {
    const { first, odds } = partsAfter(sheet, [rest(12.2), volts(sheet, 12.9), ...pairs(sheet, 65, 49, 50)]);
    expect(first).toBe("stator");
    expect(odds("stator")).toBeGreaterThan(0.75);
  });

  test("coils burnt each for itself are the stator's: AC far down on every pair, on each otherwise", () => {
    const { first, odds } = partsAfter(sheet, [rest(12.3), volts(sheet, 12.3), ...pairs(sheet, 15, 20, 26)]);
    expect(first).toBe("stator");
    expect(odds("stator")).toBeGreaterThan(0.8);
  });

  test("two pairs an ohm above the third share a joint that resists", () => {
    const { first, odds } = partsAfter(sheet, [
      rest(12.3),
      volts(sheet, 14.1),
      { test: "charge.volts", rpm: sheet.testRpm, loads: "all", value: 13.2 },
      ...ohms(1.5, 1.6, 0.4),
    ]);
    expect(first).toBe("stator");
    expect(odds("stator")).toBeGreaterThan(0.6);
  });
});

test("AC a third of the sheet's on every pair is the burnt stator's where its ohms are down as well, the magnets' where they are not", () => {
  const sheet = sheetOf("corvane-ferrel-650");
  const run = [rest(12.3), volts(sheet, 12.4), ...pairs(sheet, 20, 20, 20)];
  const [burnt, weak] = [partsAfter(sheet, [...run, ...ohms(0.17, 0.17, 0.18)]), partsAfter(sheet, [...run, ...ohms(0.31, 0.3, 0.31)])];
  expect(burnt.first).toBe("stator");
  expect(burnt.odds("stator")).toBeGreaterThan(burnt.odds("rotor") + 0.2);
  expect(weak.first).toBe("rotor");
  expect(weak.odds("rotor")).toBeGreaterThan(0.7);
});

test("a generator that keeps a volt of its magnetism, its field open, is its field", () => {
  const sheet = unlistedSheet("dc-generator", 6, "motorcycle");
  const { first, odds } = partsAfter(sheet, [
    { test: "battery.rest", value: 6.2 },
    { test: "charge.volts", rpm: 3000, loads: "normal", value: 6.1 },
    { test: "generator.output", rpm: 2000, value: 1 },
    { test: "generator.field", value: "OL" },
    { test: "generator.armature", value: 0.4 },
  ]);
  expect(first).toBe("stator");
  expect(odds("stator")).toBeGreaterThan(0.85);
});

test("a machine that holds its volts at every load is not run hot before its windings were read cold, unless that is when it fails", () => {
  const sheet = unlistedSheet("three-phase", 12, "snowmobile");
  const holds: Written[] = [
    rest(12.08),
    { test: "battery.crank", value: 9.84 },
    { test: "inspect.ground", value: "sound" },
    { ...volts(sheet, 13.96), loads: "off" },
    volts(sheet, 13.95),
    { ...volts(sheet, 13.85), loads: "all" },
    { ...volts(sheet, 11.97), rpm: "idle" },
    { ...volts(sheet, 0.11), test: "charge.positiveDrop" },
    ...["1", "2", "3"].map((at) => ({ ...volts(sheet, 0.08), test: "stator.legDrop" as const, at })),
  ];
  const heats = (complaint: string): boolean => {
    const history = { ...NO_HISTORY, complaint: [complaint], batteryAgeYears: 3 };
    return advise(populationOf(sheet), jobFacts(holds, { history })).next[0]?.look.hot === true;
  };
  expect([heats("lamps-pulse"), heats("when-warm")]).toEqual([false, true]);
});
