import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import { conditionOf } from "../machine/condition";
import type { SetFault } from "../machine/defects";
import type { FaultId } from "../machine/faults";
import { ASSUMED_METER } from "../meter/meter";
import { simulateStep } from "../procedure/simulate";
import type { Step } from "../procedure/step";
import { advise } from "./advice";

const RUN = { test: "charge.volts", rpm: 5000, loads: "normal" } as const;
const IDLE: Step = { test: "charge.ripple", rpm: "idle", loads: "normal" };
const SPEED: Step = { ...RUN, test: "charge.ripple" };

/** Odds of a fault after the rest and running volts of a machine, and with its ripple besides. */
function oddsOf(fault: FaultId, id: string, faults: SetFault[], ripple: Step): { before: number; after: number } {
  const sheet = sheetOf(id);
  const read = (step: Step) => ({ ...step, value: simulateStep(sheet, conditionOf(faults, { charge: 0.9 }), step, ASSUMED_METER).value });
  const readings = [{ test: "battery.rest" } as const, RUN].map(read);
  const odds = (more: ReturnType<typeof read>[]): number =>
    advise(populationOf(sheet), jobFacts([...readings, ...more])).faults.find(({ what }) => what === fault)?.odds ?? 0;
  return { before: odds([]), after: odds([read(ripple)]) };
}

describe("ripple at a battery", () => {
  test("at idle, where nothing is held back, speaks for an open diode where it is high, and against it where there is none", () => {
    const open = oddsOf("regulator.diode-open", "corvane-ferrel-650", [{ fault: "regulator.diode-open", at: "1>B+" }], IDLE);
    expect(open.after).toBeGreaterThan(open.before);
    const sound = oddsOf("regulator.diode-open", "corvane-ferrel-650", [], IDLE);
    expect(sound.after).toBeLessThan(sound.before);
  });

  test("at speed, where a shunt unit pulses anyhow, speaks of a battery that no longer takes it up", () => {
    const worn = oddsOf("battery.sulphated", "corvane-ferrel-650", [{ fault: "battery.sulphated", severity: 5 }], SPEED);
    expect(worn.after).toBeGreaterThan(worn.before + 0.1);
    const sound = oddsOf("battery.sulphated", "corvane-ferrel-650", [], SPEED);
    expect(sound.after).toBeLessThan(sound.before);
  });

  test("of a field that its regulator chops is noted only", () => {
    const { before, after } = oddsOf("regulator.diode-open", "tidewright-farway-29", [{ fault: "regulator.diode-open", at: "1>B+" }], {
      ...SPEED,
      rpm: sheetOf("tidewright-farway-29").testRpm,
    });
    expect(before).toBeGreaterThan(0);
    expect(after).toBe(before);
  });

  test("is weighed when it was read, and nobody is sent for it", () => {
    const asked = (id: string): string[] => advise(populationOf(sheetOf(id)), jobFacts()).next.map(({ step }) => step.test);
    expect(asked("corvane-ferrel-650")).not.toContain("charge.ripple");
    expect(asked("corvane-ferrel-650")).toContain("battery.rest");
  });
});
