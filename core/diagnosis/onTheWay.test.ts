import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import { type Advice, advise } from "./advice";

/** Volts that rise at the unit and not at the battery: what lies between is the wires', whatever the generator gives. */

const told = (sheet: Sheet, atBattery: number, atUnit: number): Advice => {
  const run = { rpm: sheet.testRpm, loads: "normal" as const };
  const readings = [
    { test: "battery.rest" as const, value: 12.4 },
    { test: "charge.volts" as const, ...run, value: atBattery },
    { test: "charge.outputVolts" as const, ...run, value: atUnit },
  ];
  return advise(populationOf(sheet), jobFacts(readings));
};
const wires = ({ parts }: Advice): number => parts.find(({ what }) => what === "wiring")?.odds ?? 0;

const MACHINES: [string, Sheet][] = [
  ["a motorcycle without a sheet", unlistedSheet("three-phase", 12, "motorcycle")],
  ["an outboard without a sheet", unlistedSheet("three-phase-mosfet", 12, "outboard")],
  ["a motorcycle with its sheet", sheetOf("corvane-ferrel-650")],
];

describe.each(MACHINES)("%s", (_name, sheet) => {
  test.each([
    [13.2, 14.5],
    [12.6, 14.5],
  ])("%d V at the battery and %d V at the unit: the wires", (atBattery, atUnit) => {
    const advice = told(sheet, atBattery, atUnit);
    expect(advice.parts[0]?.what).toBe("wiring");
    expect(wires(advice)).toBeGreaterThan(0.75);
  });

  test("as low at the unit as at the battery: anything but the wires on the way", () => {
    expect(wires(told(sheet, 12.6, 12.75))).toBeLessThan(0.35);
  });

  test("14.3 V at the battery and 14.5 V at the unit: no wire is to blame", () => {
    expect(wires(told(sheet, 14.3, 14.5))).toBeLessThan(0.2);
  });
});
