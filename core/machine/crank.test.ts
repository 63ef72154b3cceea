import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../demo/sheets";
import { conditionOf, stateOf } from "./condition";
import { crankWave, firstPullVolts, heldLowest, holdMisses, lowestOfCrank, startingOf } from "./crank";
import type { SetFault } from "./defects";
import type { Sheet } from "./sheet";

const sheet = DEMO_SHEETS[0] as Sheet;
const cranked = (faults: SetFault[] = [], charge = 0.95) => crankWave(stateOf(sheet, conditionOf(faults, { charge }), false), 3);
const mean = (values: Float64Array): number => values.reduce((sum, value) => sum + value, 0) / values.length;

describe("an engine cranked from standing", () => {
  test("dips deepest at the first pull, then once a compression stroke about what its starter takes", () => {
    const wave = cranked();
    const { first, turning } = lowestOfCrank(wave);
    expect(first).toBeLessThan(turning - 0.3);
    const steady = wave.volts.subarray(1000);
    expect(Math.max(...steady) - Math.min(...steady)).toBeGreaterThan(0.1);
    const { starter } = stateOf(sheet, conditionOf(), false);
    expect(mean(wave.amps.subarray(1000)) / starter.crankAmps).toBeGreaterThan(0.8);
    expect(mean(wave.amps.subarray(1000)) / starter.crankAmps).toBeLessThan(1.25);
    // Nearly three times as much before it turns.
    expect(Math.max(...wave.amps) / starter.crankAmps).toBeGreaterThan(2);
  });

  test("a worn battery, an empty one and a starter that drags are pulled lower", () => {
    const sound = lowestOfCrank(cranked()).turning;
    expect(lowestOfCrank(cranked([], 0.3)).turning).toBeLessThan(sound);
    expect(lowestOfCrank(cranked([{ fault: "battery.sulphated" } as SetFault])).turning).toBeLessThan(sound - 0.3);
  });

  test("as the contact closes a starter that drags pulls no lower than a sound one; a worn battery is pulled low from the first", () => {
    const first = (faults: SetFault[] = []) => firstPullVolts(startingOf(stateOf(sheet, conditionOf(faults), false)));
    const drags: SetFault = { fault: "starter.draws-too-much", severity: 2 };
    const worn: SetFault = { fault: "battery.sulphated", severity: 2.5 };
    expect(first([drags])).toBe(first());
    expect(first([worn])).toBeLessThan(first() - 1);
    expect(first([{ fault: "starter.cable", severity: 0.05 }])).toBeGreaterThan(first() + 0.5);
    // Once it turns, both are low.
    for (const fault of [drags, worn]) expect(lowestOfCrank(cranked([fault])).turning).toBeLessThan(lowestOfCrank(cranked()).turning - 0.5);
    // The curve begins where it says.
    for (const faults of [[], [drags], [worn]]) expect(cranked(faults).volts[0]).toBeCloseTo(first(faults), 6);
  });

  test("a slow meter's hold misses the first pull, a quick one's does not", () => {
    const wave = cranked();
    const { first } = lowestOfCrank(wave);
    expect(heldLowest(wave, 0.002) - first).toBeLessThan(0.05);
    expect(heldLowest(wave, 0.25) - first).toBeGreaterThan(0.15);
    expect(holdMisses(sheet)).toBeGreaterThan(0.15);
    expect(holdMisses(sheet)).toBeLessThan(3);
  });
});
