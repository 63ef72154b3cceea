import { describe, expect, test } from "@jest/globals";
import { curveOf, gridOf, unloadedVolts } from "../../core/diagnosis/population/curve";
import { demoSheet, THREE_PHASE_SHEETS } from "../../demo/sheets";
import { Chance } from "./chance";
import { type Coil, type Dynamo, deliver, ohmsBetween, unloaded } from "./dynamo";
import { ORDERS, Remembered, someLimits, work } from "./flowcharts";
import { calibration, costOf, percentile, rate } from "./report";
import { Machine } from "./world";

/** A wye of plain coils at the unit's pins. */
function wye(peak: number, ohms: number, henries: number): Dynamo {
  const coils: Coil[] = [0, 1, 2].map((leg) => ({ from: leg, to: 3, peak, phase: (-2 * Math.PI * leg) / 3, ohms, henries }));
  return { nodes: 4, coils, links: [], upper: ["good", "good", "good"], lower: ["good", "good", "good"], tied: false };
}

describe("the world's generator", () => {
  test("agrees with textbook sums: unloaded volts, ohms between legs, current into a stiff output", () => {
    const dynamo = wye(50, 0.15, 3.4e-4);
    for (const volts of unloaded(dynamo, 750)) expect(volts).toBeCloseTo((50 * Math.sqrt(3)) / Math.SQRT2, 0);
    expect(ohmsBetween(dynamo, 0, 1)).toBeCloseTo(0.3, 3);
    const { amps, legs } = deliver(dynamo, 750, 14);
    // E² = (V₁ + IR)² + (ωLI)², V₁ = (2/π)(V + 2Vf), Idc = 3I/π.
    const peak = (3 / Math.PI) * Math.sqrt((50 ** 2 - ((2 / Math.PI) * 15.8) ** 2) / (2 * Math.PI * 750 * 3.4e-4) ** 2);
    expect(Math.abs(amps / peak - 1)).toBeLessThan(0.08);
    for (const leg of legs) expect(leg).toBeCloseTo(legs[0] as number, 0);
  });

  test("and, by another way altogether, with the program's circuit within what machines differ by", () => {
    const sheet = demoSheet("corvane-ferrel-650");
    if (!sheet) throw new Error("no sheet");
    const curve = curveOf(sheet, [], "test", false);
    const at14 = curve.full[gridOf(sheet, "test").indexOf(13)] as number;
    const run = new Machine(sheet, 3);
    expect(at14).toBeGreaterThan(20);
    expect(unloadedVolts(sheet, [], "test")[0]).toBeCloseTo(61.5, 0);
    expect(run.run(5000, "normal", false).amps).toBeLessThan(60);
  });

  test("an open valve costs current, a lost leg more", () => {
    const sound = deliver(wye(20, 0.15, 3.4e-4), 200, 12).amps;
    const valve = deliver({ ...wye(20, 0.15, 3.4e-4), upper: ["open", "good", "good"] }, 200, 12).amps;
    const leg = deliver({ ...wye(20, 0.15, 3.4e-4), upper: ["open", "good", "good"], lower: ["open", "good", "good"] }, 200, 12).amps;
    expect(valve).toBeLessThan(sound);
    expect(leg).toBeLessThan(valve);
  });
});

describe("machines of the world", () => {
  test("are made again from their number", () => {
    const sheet = THREE_PHASE_SHEETS[0] as (typeof THREE_PHASE_SHEETS)[number];
    const [machine, other] = [new Machine(sheet, 41), new Machine(sheet, 41)];
    expect(machine.hidden).toEqual(other.hidden);
    for (const test of ["battery.rest", "battery.crank", "drain.current"]) expect(machine.take({ test })).toBe(other.take({ test }));
  });

  test("show figures that are figures, on every sheet, sound and mended", () => {
    for (let seed = 0; seed < 40; seed++) {
      const sheet = THREE_PHASE_SHEETS[seed % THREE_PHASE_SHEETS.length] as (typeof THREE_PHASE_SHEETS)[number];
      const machine = new Machine(sheet, seed);
      const read = (): (number | string)[] => [
        machine.take({ test: "battery.rest" }),
        machine.take({ test: "charge.volts", rpm: sheet.testRpm, loads: "all" }),
        machine.take({ test: "stator.resistance", at: "1-2" }),
        machine.take({ test: "regulator.diode", at: "1>B+" }),
        machine.take({ test: "stator.acVolts", at: "2-3", rpm: sheet.testRpm }),
      ];
      for (const value of read()) expect(typeof value === "string" || Number.isFinite(value)).toBe(true);
      for (const part of machine.parts) machine.mend(part);
      for (const value of read()) expect(typeof value === "string" || Number.isFinite(value)).toBe(true);
    }
  });

  test("behind a blown main fuse the battery carries nothing, and mending the wiring brings the charge back", () => {
    const sheet = THREE_PHASE_SHEETS[0] as (typeof THREE_PHASE_SHEETS)[number];
    const seed = Array.from({ length: 900 }, (_, n) => n).find((n) => new Machine(sheet, n).hidden.map(({ name }) => name).join() === "fuse");
    const machine = new Machine(sheet, seed ?? 0);
    expect(machine.parts).toEqual(["wiring"]);
    expect(machine.run(sheet.testRpm, "all", false).into).toBeCloseTo(0, 1);
    machine.mend("wiring");
    expect(machine.run(sheet.testRpm, "normal", false).amps).toBeGreaterThan(1);
    expect(machine.run(sheet.testRpm, "normal", false).posts).toBeGreaterThan(13.3);
  });

  test("have one fault, two, none, or are only flat", () => {
    const kinds = Array.from({ length: 300 }, (_, seed) => new Machine(THREE_PHASE_SHEETS[0] as (typeof THREE_PHASE_SHEETS)[number], seed).parts.length);
    expect(new Set(kinds)).toEqual(new Set([0, 1, 2]));
  });

  test("chance is even and bounded", () => {
    const chance = new Chance(5);
    const many = Array.from({ length: 4000 }, () => chance.next());
    expect(many.reduce((sum, value) => sum + value, 0) / many.length).toBeCloseTo(0.5, 1);
    expect(Array.from({ length: 2000 }, () => Math.abs(chance.normal(1))).every((value) => value <= 3)).toBe(true);
  });
});

describe("charts and counting", () => {
  test.each(ORDERS)("the order “%s” ends on every machine", (order) => {
    const limits = someLimits(new Chance(1));
    for (let seed = 0; seed < 12; seed++) {
      const sheet = THREE_PHASE_SHEETS[seed % THREE_PHASE_SHEETS.length] as (typeof THREE_PHASE_SHEETS)[number];
      const { readings, minutes } = work(new Remembered(new Machine(sheet, seed)), sheet, order, limits);
      expect(readings).toBeGreaterThan(3);
      expect(minutes).toBeGreaterThan(3);
    }
  });

  const played = (over: object) => ({
    seed: 1,
    sheet: "s",
    truth: ["stator" as const],
    causes: ["x"],
    said: ["stator" as const],
    odds: 0.98,
    firstRight: true,
    readings: 10,
    minutes: 20,
    hands: { minutes: 15, starts: 1, plugMoves: 2, restAfterRun: 0, foreignTools: 0, calmStart: true },
    told: false,
    misreads: 0,
    doubted: 0,
    doubtedRightly: 0,
    answers: [1, 2, 3],
    repairs: 1,
    ...over,
  });

  test("what is right, wrong, missed and dear is counted so", () => {
    const list = [played({}), played({ said: ["regulator"], firstRight: false }), played({ truth: ["stator", "regulator"], said: ["regulator", "stator"] })];
    expect(rate(list)).toMatchObject({ exact: 2 / 3, singles: 0.5, doubles: 1, wrong: 1 / 3, wrongMajor: 0, readings: 10 });
    expect(costOf([played({})])).toBe(20);
    expect(costOf([played({ said: ["regulator"] })])).toBeGreaterThan(200);
    expect(calibration(list).sure).toBeCloseTo(2 / 3, 9);
    expect(calibration(list).error).toBeCloseTo(0.98 - 2 / 3, 9);
    // Of few verdicts luck alone makes much error, of many little: the mean of |share − odds| of a binomial is √(2·p·q/(π·n)).
    const evens = (count: number) => calibration(Array.from({ length: count }, (_, k) => played({ odds: 0.75, firstRight: k % 4 > 0 })));
    expect(evens(400).error).toBeCloseTo(0, 9);
    expect(evens(400).luck.mean).toBeCloseTo(Math.sqrt((2 * 0.75 * 0.25) / (Math.PI * 400)), 2);
    expect(evens(40).luck.most).toBeGreaterThan(2 * evens(400).luck.most);
    expect(calibration([]).luck).toEqual({ mean: 0, most: 0 });
    expect(percentile([5, 1, 3], 0.5)).toBe(3);
  });
});
