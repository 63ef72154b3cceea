import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf } from "../../tests/support/population";
import { parseSheet, type Sheet, type SheetBand } from "../machine/sheet";
import { completed } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { type Advice, advise } from "./advice";

/** Sheets as manuals print them: a least AC, a band of ohms that fits many models, volts from and to. A reading within them is no fault. */

const pageOf = (id: string, ...bands: SheetBand[]): Sheet => {
  const parsed = parseSheet(
    completed({ id, family: "three-phase-shunt", kind: "motorcycle", bands: [{ test: "charge.volts", rpm: 5000, low: 13.5, high: 15 }, ...bands] }),
  );
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.sheet;
};
const PAIRS = ["1-2", "2-3", "3-1"];
const windings = (volts: number, ohms: number): Omit<Reading, "id">[] => [
  ...PAIRS.map((at) => ({ test: "stator.acVolts" as const, at, rpm: 5000, value: volts })),
  ...PAIRS.map((at) => ({ test: "stator.resistance" as const, at, value: ohms })),
  ...["1", "2", "3"].map((at) => ({ test: "stator.toGround" as const, at, value: "OL" as const })),
];
const run = (volts: number, loads: "normal" | "all" = "normal"): Omit<Reading, "id"> => ({ test: "charge.volts", rpm: 5000, loads, value: volts });
const told = (sheet: Sheet, ...readings: Omit<Reading, "id">[]): Advice => advise(populationOf(sheet), jobFacts(readings));
const oddsOf = ({ parts }: Advice, ...wanted: string[]): number => parts.reduce((sum, { what, odds }) => sum + (wanted.includes(what) ? odds : 0), 0);

describe.each<[string, Sheet, { volts: number; ohms: number }[]]>([
  [
    "50 V or more, 0.1 to 1.0 Ω",
    pageOf("page-one", { test: "stator.acVolts", rpm: 5000, low: 50 }, { test: "stator.resistance", low: 0.1, high: 1 }),
    [
      { volts: 75, ohms: 0.2 },
      { volts: 52, ohms: 0.9 },
    ],
  ],
  [
    "40 to 80 V, 1 Ω at most",
    pageOf("page-two", { test: "stator.acVolts", rpm: 5000, low: 40, high: 80 }, { test: "stator.resistance", high: 1 }),
    [
      { volts: 42, ohms: 0.6 },
      { volts: 78, ohms: 0.2 },
    ],
  ],
])("a sheet that prints %s", (_what, sheet, sound) => {
  test.each(sound)("a sound machine of %o: neither winding nor magnets", ({ volts, ohms }) => {
    const rested = { test: "battery.rest" as const, value: 12.7, restHours: 12 };
    const advice = told(sheet, rested, { test: "battery.crank", value: 10.5 }, run(14.2), run(13.9, "all"), ...windings(volts, ohms));
    expect(oddsOf(advice, "stator", "rotor")).toBeLessThan(0.2);
  });

  test.each(sound)("no rise behind windings of %o, all wires proven: the unit", ({ volts, ohms }) => {
    const advice = told(
      sheet,
      { test: "battery.rest", value: 12.3 },
      run(12.1),
      { test: "charge.outputVolts", rpm: 5000, loads: "normal", value: 12.1 },
      { test: "fuse.continuity", at: "main", value: 0.1 },
      { test: "regulator.feed", value: 12.2 },
      { test: "regulator.ground", value: 0.1 },
      ...windings(volts, ohms),
    );
    expect(advice.parts[0]?.what).toBe("regulator");
    expect(oddsOf(advice, "regulator")).toBeGreaterThan(0.85);
  });

  test("two fifths of the least, all alike: magnets or windings", () => {
    const advice = told(sheet, { test: "battery.rest", value: 12.3 }, run(12.6), ...windings(18, 0.4));
    expect(oddsOf(advice, "stator", "rotor")).toBeGreaterThan(0.85);
  });
});
