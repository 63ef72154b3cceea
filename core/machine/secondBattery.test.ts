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
import { isolatorVolts } from "./secondBattery";
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
    for (const test of ["charge.volts", "charge.positiveDrop"] as const) expectsAsSeen(isolated, running(test));
  });
});

describe("two batteries that a combiner joins", () => {
  const combined: Sheet = { ...plain, isolator: "combiner" };
  const idle: Step = { test: "charge.volts", rpm: "idle", loads: "normal" };

  test("the second is charged beside the first: more leaves the unit, none of it is lost to a diode", () => {
    const drop = running("charge.positiveDrop");
    expect(seen(combined, drop)).toBeGreaterThan(1.1 * seen(plain, drop));
    expect(seen(combined, drop)).toBeLessThan(seen(isolated, drop));
    expect(seen(combined, idle)).toBeLessThan(seen(plain, idle));
  });

  test("at rest, cranking, and where nothing charges, it is as if there were no second one", () => {
    const dead = [{ fault: "regulator.no-output" as const }];
    for (const [step, faults] of [
      [{ test: "battery.rest" }, []],
      [{ test: "battery.crank" }, []],
      [{ test: "drain.current" }, []],
      [running("charge.volts"), dead],
    ] as const)
      expect([step.test, seen(combined, step, faults)]).toEqual([step.test, expect.closeTo(seen(plain, step, faults), 1)]);
    expect(stepsOf(testOf("regulator.feed"), combined)).toHaveLength(1);
  });

  test("the engine expects what the circuit shows", () => {
    for (const step of [running("charge.volts"), running("charge.positiveDrop"), idle]) expectsAsSeen(combined, step);
  });
});

/** A sound machine of a sheet is expected to show what its circuit shows, within the spread that no engine resolves. */
function expectsAsSeen(sheet: Sheet, step: Step): void {
  const [build] = buildsOf(sheet);
  if (!build) throw new Error("no build");
  const subject = new Subject(
    surroundingsOf(build, atlasOf(sheet), 20),
    { faults: [], charge: 0.7, early: true, fuse: 1, alwaysLit: false },
    { warm: false, running: true, charged: false, mended: [] },
  );
  const said = predict(subject, lookOf(step), {});
  expect([step, "at" in said && Math.abs(said.at - seen(sheet, step)) < 0.15]).toEqual([step, true]);
}
