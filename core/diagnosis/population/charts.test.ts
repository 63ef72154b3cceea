import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { DEMO_SHEETS } from "../../../demo/sheets";
import { atlasOf, sheetOf } from "../../../tests/support/population";
import { COUPLING } from "../../machine/coupling";
import type { SetFault } from "../../machine/defects";
import { wayAt } from "../../machine/families/family";
import type { FaultId } from "../../machine/faults";
import { placesOf, unfitReason } from "../../machine/places";
import { stepKey } from "../../procedure/step";
import { isOpen } from "../../units";
import { blend, blendUnit, turnedPlace, turnOf } from "./blend";
import { chartKey, GRADES, isCharted, tasksOf, typicalOf } from "./charts";
import { ampsAt, curveOf, gridOf, unloadedVolts } from "./curve";

const shunt = sheetOf("corvane-ferrel-650");
const series = sheetOf("brannoch-fell-850");

describe("a generator's curve", () => {
  const sound = curveOf(shunt, [], "test", true);

  test("falls with the volts it works against, and is held to less by the regulator", () => {
    const grid = gridOf(shunt, "test");
    expect(sound.full).toHaveLength(grid.length);
    for (const [k, amps] of sound.full.entries()) {
      expect(amps).toBeLessThanOrEqual((sound.full[k - 1] ?? Number.POSITIVE_INFINITY) + 0.05);
      expect(sound.held?.[k]).toBeLessThan(1);
    }
    expect(sound.full[grid.indexOf(13)]).toBeGreaterThan(15);
  });

  test("loads its legs alike when sound, and not when one is lost", () => {
    const [a, b, c] = sound.legAmps as [number, number, number];
    expect(sound.legAmps).toHaveLength(3);
    expect(Math.max(a, b, c) - Math.min(a, b, c)).toBeLessThan(0.02 * a);
    const lost = curveOf(shunt, [{ fault: "stator.winding-open", at: "2" }], "test", false);
    expect(lost.legAmps[1]).toBeLessThan(0.1);
    expect(lost.legAmps[0]).toBeGreaterThan(5);
    expect(lost.full[2]).toBeLessThan(sound.full[2] as number);
  });

  test.each<[string, SetFault]>([
    ["turns shorted", { fault: "stator.turns-shorted", at: "1", severity: 0.5 }],
    ["an open diode", { fault: "regulator.diode-open", at: "1>B+" }],
    ["a burnt pin", { fault: "wiring.leg-burnt", at: "3", severity: 4 }],
  ])("%s costs current at idle, where none is to spare", (_what, fault) => {
    const at = gridOf(shunt, "idle").indexOf(13);
    expect(curveOf(shunt, [fault], "idle", false).full[at]).toBeLessThan(curveOf(shunt, [], "idle", false).full[at] as number);
  });

  test("a series unit holds back by opening: nothing flows then", () => {
    for (const amps of curveOf(series, [], "test", true).held ?? [1]) expect(Math.abs(amps)).toBeLessThan(0.3);
  });

  test("unloaded, two pairs lose a leg that is open and the third keeps its volts", () => {
    const volts = unloadedVolts(shunt, [{ fault: "stator.winding-open", at: "1" }], "test");
    const whole = unloadedVolts(shunt, [], "test");
    expect(volts[1]).toBeCloseTo(whole[1] as number, 1);
    for (const pair of [0, 2]) expect(volts[pair]).toBeLessThan(0.75 * (whole[pair] as number));
    expect(unloadedVolts(shunt, [], "idle")[0]).toBeLessThan(0.5 * (whole[0] as number));
  });

  test("turns shorted on poles of their own take their share of the AC at any speed, those among the others more the faster it turns", () => {
    const sheet = sheetOf("mossgate-cloister-18");
    const left = (coupling: number): number[] =>
      (["idle", "test"] as const).map((speed) => {
        const [sound, shorted] = [[], [{ fault: "stator.turns-shorted", severity: 0.3, coupling } as const]].map((set) => unloadedVolts(sheet, set, speed)[0]);
        return (shorted as number) / (sound as number);
      });
    const [apart, closely] = [left(COUPLING.apart), left(COUPLING.closely)] as [number[], number[]];
    for (const share of apart) {
      expect(share).toBeGreaterThan(0.55);
      expect(share).toBeLessThan(0.7);
    }
    expect((apart[0] as number) - (apart[1] as number)).toBeLessThan(0.08);
    expect(closely[1]).toBeLessThan(0.8 * (closely[0] as number));
  });

  test("read between its samples is the straight line, and scales with the magnets", () => {
    const [grid, samples] = [
      [0, 10, 20],
      [30, 20, 0],
    ];
    expect(ampsAt(grid, samples, 5)).toBeCloseTo(25, 9);
    expect(ampsAt(grid, samples, 15)).toBeCloseTo(10, 9);
    expect(ampsAt(grid, samples, 14, 0)).toBe(0);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 25, noNaN: true }), fc.double({ min: 0.2, max: 2, noNaN: true }), (volts, emf) => {
        const scaled = ampsAt(grid, samples, emf * (volts + 1.7) - 1.7, emf);
        expect(scaled).toBeCloseTo(emf * ampsAt(grid, samples, volts), 6);
        // Stronger magnets never give less.
        expect(ampsAt(grid, samples, volts, 1.2 * emf)).toBeGreaterThanOrEqual(ampsAt(grid, samples, volts, emf) - 1e-9);
      }),
    );
    // What has come down to nothing stays there.
    expect(ampsAt(grid, samples, 60)).toBe(0);
  });
});

describe("an atlas", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("of the %s has every chart once, each fault at home", (_id, sheet) => {
    const tasks = tasksOf(sheet);
    expect(tasks[0]).toEqual({ key: "sound", faults: [] });
    expect(new Set(tasks.map(({ key }) => key)).size).toBe(tasks.length);
    for (const { key, faults } of tasks) {
      expect(key).toBe(chartKey(faults));
      for (const { fault } of faults) expect(isCharted(fault)).toBe(true);
    }
    for (const [fault, grades] of Object.entries(GRADES)) {
      const single = tasks.filter(({ faults }) => faults.length === 1 && faults[0]?.fault === fault);
      expect(new Set(single.map(({ faults }) => faults[0]?.severity))).toEqual(new Set(unfitReason(fault as FaultId, sheet) ? [] : grades));
    }
  });

  test("of a machine shows on its sound chart what the sheet promises", () => {
    const { sound } = atlasOf(shunt);
    const { low, high } = shunt.bands.find(({ test: id }) => id === "stator.resistance") ?? {};
    const ohms = sound?.seen[stepKey({ test: "stator.resistance", at: "1-2" })] as number;
    expect(ohms).toBeGreaterThanOrEqual(low ?? Number.NaN);
    expect(ohms).toBeLessThanOrEqual(high ?? Number.NaN);
    expect(isOpen(sound?.seen[stepKey({ test: "stator.toGround", at: "1" })] ?? 0)).toBe(true);
    expect(sound?.seen[stepKey({ test: "stator.acVoltsAtUnit", at: "1-2", rpm: shunt.testRpm })]).toBeCloseTo(61.5, 0);
  });

  test("keeps no curves of what is too faint to move a running machine", () => {
    const atlas = atlasOf(shunt);
    const touch = (severity: number) => atlas[chartKey([{ fault: "stator.winding-grounded", at: "1", severity, along: 0.35 }])];
    expect(touch(1e5)?.test).toBeUndefined();
    expect(touch(1e5)?.seen[stepKey({ test: "stator.toGround", at: "1" })]).toBeDefined();
    expect(touch(0.02)?.test?.full.length).toBeGreaterThan(3);
  });

  test("a fault enters a pair at a middling severity", () => {
    const typical = (fault: FaultId, severity?: number) => typicalOf({ fault, at: "1", severity }, shunt);
    expect(typical("stator.turns-shorted", 0.7)).toEqual({ fault: "stator.turns-shorted", at: "1", severity: 0.3, coupling: COUPLING.closely });
    expect(typical("stator.winding-grounded", 900)).toMatchObject({ severity: 0.5, along: 0.35 });
    expect(typical("stator.winding-open")).toEqual({ fault: "stator.winding-open", at: "1" });
    expect(typical("wiring.cable-broken", 3)?.severity).toBe(1);
    expect(typical("wiring.leg-burnt", 900)?.severity).toBe(1e8);
    expect(typicalOf({ fault: "stator.winding-open", at: "2" }, shunt)).toBeUndefined();
  });
});

describe("between the charts", () => {
  const around = { atlas: atlasOf(shunt), sheet: shunt };
  const total = (weighed: { weight: number }[]): number => weighed.reduce((sum, { weight }) => sum + weight, 0);

  test.each<[FaultId, number, number]>([
    ["stator.turns-shorted", 0.05, 0.8],
    ["stator.winding-grounded", 0.02, 1e6],
    ["stator.windings-bridged", 0.02, 40],
    ["wiring.leg-burnt", 0.05, 1e8],
    ["stator.wrong-fit", 0.45, 1.8],
  ])("the shares of %s add up to one, whatever its severity and place", (fault, low, high) => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (share, along) => {
        const weighed = blend(around, { fault, at: placesOf(fault, shunt)[1], severity: low * (high / low) ** share, along });
        expect(total(weighed)).toBeCloseTo(1, 9);
        for (const { weight } of weighed) expect(weight).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 40 },
    );
  });

  test("a charted severity is its chart alone, one beyond the last is the last", () => {
    const at = (severity: number) => blend(around, { fault: "stator.turns-shorted", at: "3", severity }).filter(({ weight }) => weight > 1e-9);
    expect(at(0.3)).toHaveLength(1);
    expect(at(0.3)[0]?.chart).toBe(around.atlas[chartKey([{ fault: "stator.turns-shorted", at: "1", severity: 0.3, coupling: COUPLING.closely }])]);
    expect(at(7)[0]?.chart).toBe(around.atlas[chartKey([{ fault: "stator.turns-shorted", at: "1", severity: 0.8, coupling: COUPLING.closely }])]);
    expect(at(0.001)[0]?.weight).toBe(1);
    const halfway = blend(around, { fault: "stator.turns-shorted", at: "3", severity: 0.3, coupling: (COUPLING.apart + COUPLING.closely) / 2 });
    expect(halfway.filter(({ weight }) => weight > 1e-9).map(({ weight }) => weight)).toEqual([expect.closeTo(0.5, 9), expect.closeTo(0.5, 9)]);
  });

  test("a broken cable is blended as a burnt pin, leaking chips as both their halves", () => {
    const broken = blend(around, { fault: "wiring.cable-broken", at: "2", severity: 1e8 });
    expect(broken.map(({ chart }) => chart)).toEqual(blend(around, { fault: "wiring.leg-burnt", at: "2", severity: 1e8 }).map(({ chart }) => chart));
    const chip = (["upper", "lower"] as const).map((half): SetFault => ({ fault: "regulator.diode-leaky", at: wayAt("3", half), severity: 100 }));
    expect(total(blendUnit(around, chip))).toBeCloseTo(1, 9);
    expect(blendUnit(around, [{ fault: "regulator.diode-open", at: "B->2" }])).toHaveLength(1);
  });

  test.each<[string | undefined, number]>([
    ["1", 0],
    ["3", 2],
    ["2-3", 1],
    ["3>B+", 2],
    ["B->2", 1],
    [undefined, 0],
    ["nowhere", 0],
  ])("the place %p lies at home once its legs are turned %i times", (at, turn) => {
    expect(turnOf(at, shunt)).toBe(turn);
    if (at && at !== "nowhere") expect(turnOf(turnedPlace(at, turn, shunt), shunt)).toBe(0);
  });
});
