import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Part } from "../machine/part";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { advise } from "./advice";

/**
 * Cases that no mechanic would mistake: readings written down by hand as on a real bench, one or two digits, few of them. In each the
 * right part leads by itself, or the machine is called healthy, with and without a sheet, and nothing is a contradiction.
 */
const METER = { name: "coarse", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };
type Written = Omit<Reading, "id">;

const rest = (value: number, charged = false): Written => ({ test: "battery.rest", value, charged });
const settled = (value: number): Written => ({ test: "battery.settled", value });
const crank = (value: number, charged = false): Written => ({ test: "battery.crank", value, charged });
const postDrop = (value: number): Written => ({ test: "battery.postDrop", value });
const onPost = (reading: Written): Written => ({ ...reading, touched: "post" });
const load = (value: number, charged = false): Written => ({ test: "battery.load", value, charged });
const tester = (value: number): Written => ({ test: "battery.conductance", value });
const idle = (value: number): Written => ({ test: "charge.volts", rpm: "idle", loads: "normal", value });
const fast = (value: number): Written => ({ test: "charge.volts", rpm: 5000, loads: "normal", value });
const loaded = (value: number): Written => ({ test: "charge.volts", rpm: 5000, loads: "all", value });
const drop = (test: "charge.positiveDrop" | "charge.groundDrop", value: number): Written => ({ test, rpm: 5000, loads: "normal", value });
const PAIRS = ["1-2", "2-3", "3-1"];
const pairs = (...values: (number | "OL")[]): Written[] => values.map((value, i) => ({ test: "stator.resistance", at: PAIRS[i], value }));
const toCase = (...values: (number | "OL")[]): Written[] => values.map((value, i) => ({ test: "stator.toGround", at: String(i + 1), value }));
const alternating = (...values: number[]): Written[] => values.map((value, i) => ({ test: "stator.acVolts", at: PAIRS[i], rpm: 5000, value }));
const atUnit = (...values: number[]): Written[] => values.map((value, i) => ({ test: "stator.acVoltsAtUnit", at: PAIRS[i], rpm: 5000, value }));
const diodes = (upper: (number | "OL")[], lower: (number | "OL")[]): Written[] => [
  ...upper.map((value, i): Written => ({ test: "regulator.diode", at: `${i + 1}>B+`, value })),
  ...lower.map((value, i): Written => ({ test: "regulator.diode", at: `B->${i + 1}`, value })),
];
const drain = (value: number): Written => ({ test: "drain.current", value });
const unplugged = (value: number): Written => ({ test: "drain.unitUnplugged", value });
const feed = (value: number): Written => ({ test: "regulator.feed", value });
const cells = (...values: number[]): Written[] => values.map((value, i) => ({ test: "battery.cell", at: String(i + 1), value }));
const SOUND_DIODES = diodes([0.5, 0.5, 0.5], [0.5, 0.5, 0.5]);
const CLEAR = toCase("OL", "OL", "OL");
const GOOD_BATTERY = [rest(12.7), settled(12.4), crank(10.8)];
const GOOD_CHARGE = [idle(13.4), fast(14.3), loaded(14.2)];
const NO_CHARGE = [fast(12.3), loaded(12)];

/** What leads, and by which readings. */
const CASES: [name: string, leads: Part | "nothing", readings: Written[]][] = [
  ["a leg to the case, nothing charged", "stator", [rest(12.2), ...NO_CHARGE, ...toCase(0.3, 0.5, 0.5)]],
  ["all legs to the case on a coarse meter", "stator", [rest(12.3), ...NO_CHARGE, ...toCase(0.3, 0.3, 0.3), ...alternating(40, 41, 40)]],
  ["all legs to the case, their ohms right", "stator", [rest(12.4), fast(12.4), ...pairs(0.5, 0.5, 0.5), ...toCase(0.2, 0.2, 0.2)]],
  ["low at the cranking lug, right on the post behind it", "wiring", [rest(12.6), crank(7.4), crank(7.5), onPost(crank(10.4)), fast(14.2)]],
  [
    "volts lost between post and lug while cranking",
    "wiring",
    [rest(12.6), { test: "inspect.terminals", value: "corroded" }, settled(12.2), crank(8.1), postDrop(2.1)],
  ],
  ["a charger still on", "nothing", [rest(14.2), settled(13.6), crank(11.2), ...GOOD_CHARGE]],
  ["two pairs open", "stator", [rest(12.4), ...NO_CHARGE, ...pairs("OL", 0.5, "OL")]],
  ["one pair of three alive", "stator", [rest(12.4), crank(10.4), fast(12.9), loaded(12.1), ...alternating(56, 3, 2), ...CLEAR]],
  ["one pair low in volts and in ohms", "stator", [rest(12.3), crank(10.3), fast(12.7), ...pairs(0.3, 0.3, 0.5), ...CLEAR, ...alternating(38, 39, 60)]],
  [
    "AC low on every pair alike, ohms right",
    "rotor",
    [rest(12.3), crank(10.2), fast(12.5), loaded(11.9), ...pairs(0.5, 0.5, 0.5), ...CLEAR, ...alternating(17, 17, 17)],
  ],
  ["upper half of the unit dead", "regulator", [rest(12.5), ...NO_CHARGE, ...CLEAR, ...diodes(["OL", "OL", "OL"], [0.5, 0.5, 0.5])]],
  [
    "a diode at the open line, read again",
    "regulator",
    [
      rest(12.4),
      crank(10.5),
      idle(12.6),
      fast(14.2),
      loaded(13.9),
      ...CLEAR,
      ...SOUND_DIODES.filter(({ at }) => at !== "2>B+"),
      { test: "regulator.diode", at: "2>B+", value: "OL" },
      { test: "regulator.diode", at: "2>B+", value: "OL" },
    ],
  ],
  ["shorted lower diode, everything else right", "regulator", [...GOOD_BATTERY, fast(12.6), loaded(12.1), ...CLEAR, ...diodes([0.5, 0.5, 0.5], [0, 0.5, 0.5])]],
  [
    "AC good, feed and ground good, no rise",
    "regulator",
    [
      rest(12.5),
      crank(10.5),
      ...NO_CHARGE,
      ...alternating(60, 61, 60),
      ...CLEAR,
      feed(12.4),
      { test: "regulator.ground", value: 0.2, raw: true },
      drop("charge.positiveDrop", 0),
    ],
  ],
  ["climbs with the throttle past every ceiling", "regulator", [rest(12.9), crank(10.9), idle(14.4), fast(17.2), loaded(16.8)]],
  ["a drain that goes with the unit", "regulator", [rest(12), crank(10), ...GOOD_CHARGE, drain(300), unplugged(1)]],
  ["a draw that stays with the unit unplugged", "loads", [rest(12.1), crank(10.1), ...GOOD_CHARGE, drain(450), unplugged(450)]],
  ["a cell down, and stays there after a charge", "battery", [rest(10.5), crank(6), rest(10.6, true), ...GOOD_CHARGE]],
  ["one cell far below the others", "battery", [rest(10.6), ...cells(2.1, 2.1, 2.1, 0.1, 2.1, 2.1), crank(7.5), ...GOOD_CHARGE]],
  ["a cell that stands out before all were read", "battery", [rest(10.7), ...cells(2.1, 2.1, 0.1), crank(7)]],
  [
    "cells low and alike, charged, everything right",
    "nothing",
    [rest(11.9), ...cells(2, 2, 2, 2, 2, 2), rest(12.7, true), crank(10.6, true), ...GOOD_CHARGE, ...CLEAR, drain(1)],
  ],
  ["crank far below every school's limit, tester low, charging right", "battery", [rest(12.6), settled(12.1), crank(7.2), tester(35), ...GOOD_CHARGE]],
  ["load test and tester low, charging right", "battery", [rest(12.5), settled(11.9), crank(6.9), load(6.9), tester(30), ...GOOD_CHARGE]],
  ["charged, and sinks in the load test", "battery", [rest(12.2), rest(12.6, true), crank(6.8, true), load(6.2, true), ...GOOD_CHARGE]],
  [
    "volts lost on the way to the battery",
    "wiring",
    [rest(12.4), crank(10.4), idle(12.6), fast(12.9), loaded(12.3), drop("charge.positiveDrop", 1.6), drop("charge.groundDrop", 0.05)],
  ],
  [
    "volts lost on the ground side",
    "wiring",
    [rest(12.4), crank(10.4), idle(12.6), fast(13), loaded(12.4), drop("charge.positiveDrop", 0.1), drop("charge.groundDrop", 1.4)],
  ],
  [
    "main fuse melted, the unit's diodes sound",
    "wiring",
    [rest(12.5), ...NO_CHARGE, ...SOUND_DIODES, { test: "fuse.continuity", at: "main", value: "OL" }, feed(0.1)],
  ],
  [
    "a melted plug, and a leg lost behind it",
    "wiring",
    [rest(12.4), fast(12.8), loaded(12.2), { test: "inspect.connector", at: "stator", value: "melted" }, ...alternating(60, 60, 60), ...atUnit(60, 8, 8)],
  ],
  ["no AC on any pair, and no pair closed", "stator", [rest(12.1), fast(12), ...alternating(1, 1, 1), ...pairs("OL", "OL", "OL")]],
  [
    "no AC on any pair, read twice, and windings that are right",
    "rotor",
    [rest(12.1), fast(12), ...alternating(0.6, 0.5, 0.6), ...alternating(0.5, 0.5, 0.6), ...pairs(0.5, 0.5, 0.5), ...CLEAR],
  ],
  ["held above every ceiling, loads or none", "regulator", [rest(12.7), crank(10.7), idle(14.8), fast(15.8), loaded(15.7)]],
  ["damp legs in megohms, everything right", "nothing", [...GOOD_BATTERY, ...GOOD_CHARGE, ...toCase(1.5e6, 2e6, 1.8e6), ...alternating(60, 60, 61), drain(1)]],
  ["everything right", "nothing", [...GOOD_BATTERY, ...GOOD_CHARGE, ...CLEAR, ...alternating(60, 60, 61), drain(1)]],
  ["key left on, charged, everything right", "nothing", [rest(11.6), rest(12.7, true), crank(10.6, true), ...GOOD_CHARGE, ...CLEAR, drain(1)]],
];

describe.each<[string, Sheet]>([
  ["with its sheet", sheetOf("corvane-ferrel-650")],
  ["without a sheet", unlistedSheet("three-phase-shunt", 12)],
])("%s", (_, sheet) => {
  test.each(CASES)("%s: %s", (name, leads, written) => {
    const advice = advise(populationOf(sheet), jobFacts(written, { meter: METER }));
    expect(advice.status).not.toBe("contradiction");
    if (leads === "nothing") {
      expect(advice.status).toBe("healthy");
      if (name === "a charger still on") expect(advice.fault).toBe("battery.charger-on");
      return;
    }
    const odds = Object.fromEntries(advice.parts.map((part) => [part.what, part.odds])) as Record<Part, number>;
    expect(odds[leads]).toBeGreaterThanOrEqual(0.85);
    // What burnt with it may be as sure; nothing may be surer.
    const others = advice.parts.flatMap((part) => (part.what === "charge" || part.what === leads ? [] : [part.odds]));
    expect(odds[leads]).toBeGreaterThan(Math.max(...others) - 0.03);
  });
});

test("without a sheet a clock that draws a few milliamps is no fault; where the sheet allows one the same is looked into", () => {
  const written = [...GOOD_BATTERY, ...GOOD_CHARGE, ...CLEAR, ...alternating(60, 60, 61), drain(6)];
  const draining = (sheet: Sheet): number => {
    const { faults } = advise(populationOf(sheet), jobFacts(written, { meter: METER }));
    return faults.reduce((sum, { what, odds }) => sum + (what === "loads.parasitic" || what === "regulator.diode-leaky" ? odds : 0), 0);
  };
  expect(draining(unlistedSheet("three-phase-shunt", 12))).toBeLessThan(0.15);
  expect(draining(sheetOf("corvane-ferrel-650"))).toBeGreaterThan(0.5);
});
