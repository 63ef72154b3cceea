import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../demo/sheets";
import { conditionOf, stateOf } from "../machine/condition";
import { crankWave } from "../machine/crank";
import type { SetFault } from "../machine/defects";
import type { Sheet } from "../machine/sheet";
import type { Trace } from "./bins";
import { crankShapeOf, crankShapeWords } from "./crankShape";

const sheet = DEMO_SHEETS[0] as Sheet;
const SECONDS = 2.4;

/** A machine cranked under a logger, with so much noise and at so many samples a second. */
function cranked(faults: SetFault[], { rate = 200, noise = 0.02, volts = (v: number) => v } = {}): Trace {
  const wave = crankWave(stateOf(sheet, conditionOf(faults, { charge: 0.9 }), false), SECONDS);
  const every = Math.round(1000 / rate);
  const count = Math.floor(wave.volts.length / every);
  const seconds = Float64Array.from({ length: count }, (_, k) => (k * every) / 1000);
  // Noise of a fixed pattern: no draw of luck.
  return { seconds, volts: seconds.map((_, k) => volts((wave.volts[k * every] as number) + noise * Math.sin(12.9898 * k) * Math.sin(4.1 * k * k))) };
}
const shape = (faults: SetFault[], how = {}) => crankShapeOf(cranked(faults, how), 0, SECONDS, 1);

describe("the shape of a crank", () => {
  test.each([50, 200, 1000])("of a sound machine shows its compression strokes, at %d samples a second", (rate) => {
    const sound = shape([], { rate });
    expect(sound?.strokes).toBeGreaterThan(3.5);
    expect(sound?.strokes).toBeLessThan(6.5);
    expect(sound?.volts).toBeGreaterThan(10.4);
  });

  test("red and black changed over, a probe that slipped and samples that were missed change nothing of it", () => {
    const [sound, turned] = [shape([]), shape([], { volts: (v: number) => -v })];
    expect(turned).toEqual(sound);
    let k = 0;
    const spoilt = shape([], { volts: (v: number) => [0.1, 28, Number.NaN][k++ % 90] ?? v });
    expect(spoilt?.strokes).toBeCloseTo(sound?.strokes ?? 0, 0);
  });

  test.each<[string, SetFault, RegExp]>([
    [
      "a cable that loses much",
      { fault: "starter.cable", severity: 0.05 },
      /^no compression strokes, and the posts held 10\.\d V: silent, the volts are lost on the way/,
    ],
    [
      "a starter that is stuck",
      { fault: "starter.draws-too-much", severity: 3 },
      /^no compression strokes, and the posts were pulled to [78]\.\d V: the engine did not turn/,
    ],
    ["a battery that gives in", { fault: "battery.sulphated", severity: 4 }, /pulled to [3-6]\.\d V: the engine did not turn; a load test tells/],
  ])("of %s shows none, and the posts say where to look", (_what, fault, says) => {
    const stalled = shape([fault]);
    expect(stalled?.strokes).toBe(0);
    expect(stalled && crankShapeWords(stalled, 1)).toMatch(says);
  });

  test("is not told of a slow log, of a short crank, nor where noise could be strokes", () => {
    expect(shape([], { rate: 10 })).toBeUndefined();
    expect(crankShapeOf(cranked([]), 0, 1, 1)).toBeUndefined();
    expect(shape([{ fault: "starter.cable", severity: 0.05 }], { noise: 0.5 })).toBeUndefined();
  });

  test("is told in words with the strokes of an engine that turns", () => {
    const sound = shape([]);
    expect(sound && crankShapeWords(sound, 1)).toMatch(/^turned at [45]\.\d compression strokes a second on 1[01]\.\d V$/);
  });
});
