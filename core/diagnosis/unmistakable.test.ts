import { describe, expect, test } from "@jest/globals";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Part } from "../machine/part";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { USUAL_TOOLS } from "../procedure/tools";
import { advise, type JobFacts } from "./advice";
import { ASSUMED_PRICES } from "./planning/prices";
import { NO_HISTORY } from "./population/hypotheses";

/**
 * Cases that no mechanic would mistake: readings written down by hand as on a real bench, one or two digits, few of them. In each the
 * right part leads by itself with and without a sheet, and nothing is a contradiction.
 */
const METER = { name: "coarse", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };
type Written = Omit<Reading, "id">;

const rest = (value: number): Written => ({ test: "battery.rest", value });
const settled = (value: number): Written => ({ test: "battery.settled", value });
const crank = (value: number): Written => ({ test: "battery.crank", value });
const idle = (value: number): Written => ({ test: "charge.volts", rpm: "idle", loads: "normal", value });
const fast = (value: number): Written => ({ test: "charge.volts", rpm: 5000, loads: "normal", value });
const loaded = (value: number): Written => ({ test: "charge.volts", rpm: 5000, loads: "all", value });
const pairs = (...values: (number | "OL")[]): Written[] =>
  values.map((value, i) => ({ test: "stator.resistance", at: ["1-2", "2-3", "3-1"][i] as string, value }));
const toCase = (...values: (number | "OL")[]): Written[] => values.map((value, i) => ({ test: "stator.toGround", at: String(i + 1), value }));
const alternating = (...values: number[]): Written[] =>
  values.map((value, i) => ({ test: "stator.acVolts", at: ["1-2", "2-3", "3-1"][i] as string, rpm: 5000, value }));
const diodes = (upper: (number | "OL")[], lower: (number | "OL")[]): Written[] => [
  ...upper.map((value, i): Written => ({ test: "regulator.diode", at: `${i + 1}>B+`, value })),
  ...lower.map((value, i): Written => ({ test: "regulator.diode", at: `B->${i + 1}`, value })),
];
const _SOUND_DIODES = diodes([0.5, 0.5, 0.5], [0.5, 0.5, 0.5]);
const GOOD_BATTERY = [rest(12.7), settled(12.4), crank(10.8)];
const GOOD_CHARGE = [idle(13.4), fast(14.3), loaded(14.2)];
const NO_CHARGE = [fast(12.3), loaded(12)];

/** What leads, and by which readings. */
const CASES: [name: string, leads: Part, readings: Written[]][] = [
  ["a leg to the case, nothing charged", "stator", [rest(12.2), ...NO_CHARGE, ...toCase(0.3, 0.5, 0.5)]],
  ["all legs to the case on a coarse meter", "stator", [rest(12.3), ...NO_CHARGE, ...toCase(0.3, 0.3, 0.3), ...alternating(40, 41, 40)]],
  ["two pairs open", "stator", [rest(12.4), ...NO_CHARGE, ...pairs("OL", 0.5, "OL")]],
  [
    "shorted lower diode, everything else right",
    "regulator",
    [...GOOD_BATTERY, fast(12.6), loaded(12.1), ...toCase("OL", "OL", "OL"), ...diodes([0.5, 0.5, 0.5], [0, 0.5, 0.5])],
  ],
  [
    "AC good, feed and ground good, no rise",
    "regulator",
    [
      rest(12.5),
      crank(10.5),
      ...NO_CHARGE,
      ...alternating(60, 61, 60),
      ...toCase("OL", "OL", "OL"),
      { test: "regulator.feed", value: 12.4 },
      { test: "regulator.ground", value: 0.2, raw: true },
      { test: "charge.positiveDrop", rpm: 5000, loads: "normal", value: 0 },
    ],
  ],
  ["climbs with the throttle past every ceiling", "regulator", [rest(12.9), crank(10.9), idle(14.4), fast(17.2), loaded(16.8)]],
  ["a cell down, and stays there after a charge", "battery", [rest(10.5), crank(6), { test: "battery.rest", charged: true, value: 10.6 }, ...GOOD_CHARGE]],
  [
    "a draw that stays with the unit unplugged",
    "loads",
    [rest(12.1), crank(10.1), ...GOOD_CHARGE, { test: "drain.current", value: 450 }, { test: "drain.unitUnplugged", value: 450 }],
  ],
];

const UNLISTED = unlistedSheet("three-phase-shunt", 12);

describe.each<[string, Sheet]>([
  ["with its sheet", sheetOf("corvane-ferrel-650")],
  ["without a sheet", UNLISTED],
])("%s", (_, sheet) => {
  test.each(CASES)("%s: %s", (_name, leads, written) => {
    const facts: JobFacts = {
      readings: written.map((reading, i) => ({ ...reading, id: String(i) })),
      meter: METER,
      prices: ASSUMED_PRICES,
      history: NO_HISTORY,
      mended: [],
      skipped: [],
      tools: USUAL_TOOLS,
      restHours: 12,
    };
    const advice = advise(populationOf(sheet), facts);
    expect(advice.status).not.toBe("contradiction");
    const [first] = advice.parts.filter(({ what }) => what !== "charge");
    expect(first?.what).toBe(leads);
    expect(first?.odds).toBeGreaterThanOrEqual(0.85);
  });
});
