import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../demo/sheets";
import { sheetOf } from "../../tests/support/population";
import { hasCapacitor } from "../machine/capacitor";
import { conditionOf } from "../machine/condition";
import { ASSUMED_METER } from "../meter/meter";
import { SCHOOLS, type School } from "../procedure/schools";
import { simulateStep } from "../procedure/simulate";
import { roadGauge } from "./gauge";
import { sheetCurve } from "./sheetCurve";

const [school] = SCHOOLS as [School];

describe("a voltmeter on the road", () => {
  test.each(DEMO_SHEETS.filter((sheet) => !hasCapacitor(sheet)).map((sheet) => [sheet.id, sheet] as const))(
    "of the %s: where it turns home lies below what a sound one charges with, and above a flat battery",
    (_id, sheet) => {
      const { riding, turnHome, keyOn } = roadGauge(sheet, school, sheetCurve(sheet));
      const scale = sheet.systemVolts / 12;
      expect(turnHome).toBeLessThan((riding.low ?? riding.high ?? 0) + 0.001);
      expect(turnHome ?? 0).toBeGreaterThan(11 * scale);
      expect(keyOn.low).toBeGreaterThan(11 * scale);
    },
  );

  test("without a battery there is none to show with the key on, and none that pays for the ride", () => {
    const sheet = sheetOf("ostrel-sanderling-250");
    expect(roadGauge(sheet, school, sheetCurve(sheet))).toMatchObject({ keyOn: {}, turnHome: undefined, riding: { low: 13.4, high: 14.8 } });
  });

  test("a machine whose unit is dead shows less than the turn-home volts, a sound one more", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const { turnHome = 0 } = roadGauge(sheet, school, sheetCurve(sheet));
    const riding = (faults: Parameters<typeof conditionOf>[0]): number =>
      Number(simulateStep(sheet, conditionOf(faults, { charge: 0.9 }), { test: "charge.volts", rpm: 5000, loads: "normal" }, ASSUMED_METER).value);
    expect(riding([{ fault: "regulator.no-output" }])).toBeLessThan(turnHome + 0.1);
    expect(riding([])).toBeGreaterThan(turnHome + 1);
  });

  test("whether it charges at idle follows from its own curve", () => {
    const sheet = sheetOf("corvane-ferrel-650");
    const curve = sheetCurve(sheet);
    expect(roadGauge({ ...sheet, loadAmps: { normal: 1, all: 2 } }, school, curve).chargesAtIdle).toBe(true);
    expect(roadGauge({ ...sheet, loadAmps: { normal: 25, all: 28 } }, school, curve).chargesAtIdle).toBe(false);
  });
});
