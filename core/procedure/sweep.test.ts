import { describe, expect, test } from "@jest/globals";
import { context, reading } from "../../tests/support/readings";
import { judgeAll } from "./judge";
import type { Reading } from "./step";
import { sweepOf } from "./sweep";

const { sheet } = context();
const sweep = (...readings: Reading[]) => sweepOf(sheet, judgeAll(readings, context()));
const volts = (rpm: number | "idle", value: number, more: Partial<Reading> = {}): Reading => reading("charge.volts", value, { rpm, loads: "normal", ...more });

describe("a walk through the speeds", () => {
  test("begins at idle and goes on to what is not read yet, first as ridden, then with all loads", () => {
    expect(sweep().next.map(({ rpm, loads }) => `${rpm} ${loads}`)).toEqual([
      "idle normal",
      "2500 normal",
      "5000 normal",
      "6000 normal",
      "idle all",
      "2500 all",
      "5000 all",
      "6000 all",
    ]);
    expect(sweep(volts("idle", 13), volts(2600, 13.8)).next[0]).toMatchObject({ rpm: 5000, loads: "normal" });
  });

  test("finds the speed at which the battery is paid no longer, between two that were read", () => {
    const [line] = sweep(volts(5000, 14.2), volts("idle", 12.1), volts(3000, 13.3)).lines;
    expect(line?.points.map(({ rpm }) => rpm)).toEqual([sheet.idleRpm, 3000, 5000]);
    expect(line?.paysBelow).toBeGreaterThan(12.2);
    expect(line?.paysBelow).toBeLessThan(12.75);
    expect(line?.breakEven).toBeGreaterThan(sheet.idleRpm);
    expect(line?.breakEven).toBeLessThan(3000);
  });

  test("says so where that speed lies outside of what was read, and nothing from one speed", () => {
    expect(sweep(volts("idle", 13.2), volts(5000, 14.2)).lines[0]?.breakEven).toBe("below");
    expect(sweep(volts("idle", 11.9), volts(5000, 12.0)).lines[0]?.breakEven).toBe("above");
    expect(sweep(volts(5000, 14.2)).lines[0]?.breakEven).toBeUndefined();
  });

  test("heavier loads pull a full battery lower, and are a line of their own; a speed read again counts once", () => {
    const { lines } = sweep(volts(5000, 14.2), volts(5000, 14.1), volts(5000, 13.7, { loads: "all" }));
    expect(lines.map(({ loads, points }) => [loads, points.map((point) => point.volts)])).toEqual([
      ["normal", [14.1]],
      ["all", [13.7]],
    ]);
    expect(lines[1]?.paysBelow).toBeLessThan(lines[0]?.paysBelow ?? 0);
  });

  test("the wire loses what the output shows above the battery at one speed; stopped, the volts fall", () => {
    const told = sweep(volts(5000, 13.6), reading("charge.outputVolts", 14.4, { rpm: 5000, loads: "normal" }), reading("battery.recovery", 12.9));
    expect(told.lost).toEqual({ rpm: 5000, volts: 0.8 });
    expect(told.fell).toBe(0.7);
    expect(sweep(volts(3000, 13.6), reading("charge.outputVolts", 14.4, { rpm: 5000, loads: "normal" })).lost).toBeUndefined();
    expect(sweep(reading("battery.recovery", 12.9)).fell).toBeUndefined();
  });
});
