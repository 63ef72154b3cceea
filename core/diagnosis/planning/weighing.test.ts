import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { unlistedSheet } from "../../machine/unlisted";
import type { Reading } from "../../procedure/step";
import { noiseOf } from "../population/gauges";
import { type Look, lookOf } from "../population/look";
import { normalBelow } from "../posterior/linear";
import { observe, Posterior } from "../posterior/posterior";
import { Weighing } from "./weighing";

const LOW: Omit<Reading, "id">[] = [
  { test: "battery.rest", value: 12.4 },
  { test: "battery.crank", value: 10.4 },
  { test: "charge.volts", rpm: 5000, loads: "normal", value: 13.2 },
];
const LOOKS: Look[] = [
  lookOf({ test: "charge.positiveDrop", rpm: 5000, loads: "normal" }),
  lookOf({ test: "charge.groundDrop", rpm: 5000, loads: "normal" }),
  lookOf({ test: "charge.outputVolts", rpm: 5000, loads: "normal" }),
  lookOf({ test: "charge.volts", rpm: 5000, loads: "all" }),
  lookOf({ test: "stator.resistance", at: "1-2" }),
  lookOf({ test: "stator.acVolts", at: "1-2", rpm: 5000 }),
  lookOf({ test: "regulator.diode", at: "2>B+" }),
  lookOf({ test: "drain.current" }),
];

const STRIPS = 1500;

/** Bits about the set in a look, summed up over many narrow strips and every particle. */
function bitsByStrips(posterior: Posterior, setOf: Int32Array, sets: number, look: Look, ohmsResolution: number): number {
  const column = posterior.population.column(look);
  const seen = { mean: 0, variance: 0 };
  const expected = Array.from(posterior.weights, (weight, i) => {
    posterior.foresee(column, i, seen);
    return {
      weight,
      set: setOf[i] as number,
      open: column.open[i] as number,
      mean: seen.mean,
      spread: Math.hypot(Math.sqrt(seen.variance), noiseOf(look.step.test, seen.mean, ohmsResolution)),
    };
  }).filter(({ weight }) => weight > 1e-7);
  const figures = expected.filter(({ open }) => open < 0.5);
  const marks = Float64Array.from(figures.flatMap(({ mean, spread }) => Array.from({ length: 17 }, (_, n) => mean + (n / 2 - 4) * spread))).sort();
  const edges = marks.filter((_, n) => n % Math.ceil(marks.length / STRIPS) === 0 || n === marks.length - 1);
  const strips = Array.from(edges.slice(1), (to, n) => ({ from: edges[n] as number, to }));
  const entropy = (masses: Float64Array): number => {
    const all = masses.reduce((sum, mass) => sum + mass, 0);
    return masses.reduce((sum, mass) => (mass > 0 ? sum - mass * Math.log2(mass / all) : sum), 0);
  };
  const prior = new Float64Array(sets);
  const open = new Float64Array(sets);
  for (const row of expected) {
    prior[row.set] = (prior[row.set] as number) + row.weight;
    open[row.set] = (open[row.set] as number) + row.weight * row.open;
  }
  const inStrips = strips.map(() => new Float64Array(sets));
  for (const { weight, set, open: isOpen, mean, spread } of figures) {
    strips.forEach(({ from, to }, n) => {
      if (to < mean - 5 * spread || from > mean + 5 * spread) return;
      const masses = inStrips[n] as Float64Array;
      masses[set] = (masses[set] as number) + weight * (1 - isOpen) * (normalBelow((to - mean) / spread) - normalBelow((from - mean) / spread));
    });
  }
  return entropy(prior) - entropy(open) - inStrips.reduce((sum, masses) => sum + entropy(masses), 0);
}

describe("what a reading tells", () => {
  test.each([
    ["a machine with a sheet", sheetOf("corvane-ferrel-650")],
    ["one without", unlistedSheet("three-phase-shunt", 12)],
  ])("%s: nearly all of its bits are seen, however far off what hardly ever happens lies", (_, sheet) => {
    const population = populationOf(sheet);
    const facts = jobFacts(LOW);
    const posterior = new Posterior(population, population.priors(facts.history), observe(facts.readings, population, facts.meter));
    const sets = [...new Set(population.hypotheses.map(({ set }) => set))];
    const setOf = Int32Array.from(population.particles, ({ hypothesis }) => sets.indexOf(population.hypotheses[hypothesis]?.set ?? ""));
    const weighing = new Weighing(posterior, sets, setOf, { prices: facts.prices, mended: [], ohmsResolution: facts.meter.ohmsResolution });
    for (const look of LOOKS) {
      const all = bitsByStrips(posterior, setOf, sets.length, look, facts.meter.ohmsResolution);
      expect(Math.abs(weighing.value(look).bits - all)).toBeLessThan(0.015 + 0.12 * all);
    }
  });
});
