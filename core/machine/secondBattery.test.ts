import { describe, expect, test } from "@jest/globals";
import { atlasOf, sheetOf } from "../../tests/support/population";
import { buildsOf } from "../diagnosis/population/builds";
import { lookOf } from "../diagnosis/population/look";
import { predict } from "../diagnosis/population/predict";
import { Subject, surroundingsOf } from "../diagnosis/population/subject";
import { ASSUMED_METER } from "../meter/meter";
import { bandFor } from "../procedure/bands";
import { testOf } from "../procedure/catalogue";
import { SCHOOLS } from "../procedure/schools";
import { simulateStep } from "../procedure/simulate";
import { type Step, stepsOf } from "../procedure/step";
import { conditionOf } from "./condition";
import { isolatorVolts } from "./isolator";
import type { Sheet } from "./sheet";

const plain = sheetOf("tidewright-farway-29");
const isolated: Sheet = { ...plain, isolator: "diode" };
const running = (test: Step["test"]): Step => ({ test, rpm: plain.testRpm, loads: "normal" });
const seen = (sheet: Sheet, step: Step, faults: Parameters<typeof conditionOf>[0] = []): number =>
  Number(simulateStep(sheet, conditionOf(faults, { charge: 0.7 }), step, ASSUMED_METER).value);

describe("two batteries behind a diode isolator", () => {
  test("it keeps some 0.7 V of what charges, and its band knows", () => {
    expect(isolatorVolts(isolated, 10)).toBeGreaterThan(0.6);
    expect(isolatorVolts(isolated, 10)).toBeLessThan(0.8);
    expect([isolatorVolts(isolated, 0), isolatorVolts(plain, 10)]).toEqual([0, 0]);
    const drop = seen(isolated, running("charge.positiveDrop"));
    expect(drop - seen(plain, running("charge.positiveDrop"))).toBeGreaterThan(0.55);
    const [school] = SCHOOLS;
    const band = school && bandFor(running("charge.positiveDrop"), isolated, school);
    expect(band).toMatchObject({ kind: "between", low: expect.any(Number), high: expect.any(Number) });
    if (band?.kind === "between") expect([drop >= (band.low ?? 0), drop <= (band.high ?? 9)]).toEqual([true, true]);
  });

  test("a unit that senses at the battery makes up for it; one that senses at its output does not", () => {
    const charging = running("charge.volts");
    expect(seen(isolated, charging)).toBeCloseTo(seen(plain, charging), 1);
    const output = (sheet: Sheet): number => seen({ ...sheet, sense: "output" }, charging);
    expect(output(plain) - output(isolated)).toBeGreaterThan(0.5);
  });

  test("at rest no volts reach the unit: that is not asked, and nothing leaks back through it", () => {
    expect(stepsOf(testOf("regulator.feed"), isolated)).toEqual([]);
    expect(stepsOf(testOf("regulator.feed"), plain)).toHaveLength(1);
    const leak = [
      { fault: "regulator.diode-leaky" as const, at: "1>B+", severity: 40 },
      { fault: "regulator.diode-leaky" as const, at: "B->1", severity: 40 },
    ];
    expect(seen(plain, { test: "drain.current" }, leak)).toBeGreaterThan(50);
    expect(seen(isolated, { test: "drain.current" }, leak)).toBeLessThan(2);
  });

  test("the engine expects what the circuit shows", () => {
    const [build] = buildsOf(isolated);
    if (!build) throw new Error("no build");
    const subject = new Subject(
      surroundingsOf(build, atlasOf(isolated), 20),
      { faults: [], charge: 0.7, early: true, fuse: 1 },
      { warm: false, running: true, charged: false, mended: [] },
    );
    for (const test of ["charge.volts", "charge.positiveDrop"] as const) {
      const said = predict(subject, lookOf(running(test)), {});
      expect([test, "at" in said && Math.abs(said.at - seen(isolated, running(test))) < 0.15]).toEqual([test, true]);
    }
  });
});
