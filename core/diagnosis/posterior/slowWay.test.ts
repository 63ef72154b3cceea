import { expect, test } from "@jest/globals";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { ASSUMED_METER } from "../../meter/meter";
import type { Reading } from "../../procedure/step";
import { SPREAD_COUNT } from "../population/column";
import { gaugeOf, modelVariance } from "../population/gauges";
import { type Hypothesis, NO_HISTORY } from "../population/hypotheses";
import { SPREAD_IDS } from "../population/nuisance";
import { invert, normalBelow } from "./linear";
import { observe, Posterior } from "./posterior";
import { ALIKE, LOOSE, LOOSE_COILS, MISREAD, MISREAD_HIGH, METER as OFF_METER, UNEVEN } from "./slips";

/** The weights of a few readings worked out the slow and obvious way, which the closed formulas have to agree with. */

const population = populationOf(sheetOf("corvane-ferrel-650"));
const METER = { ...ASSUMED_METER, ohmsResolution: 0.01 };
const RUN = { rpm: 5000, loads: "normal" } as const;

/** Density of a normal vector about nought, by elimination without pivots: the matrix is positive definite. */
function gaussian(x: readonly number[], covariance: readonly (readonly number[])[]): number {
  const rows = covariance.map((row, a) => [...row, x[a] as number]);
  let quad = 0;
  let det = 1;
  rows.forEach((row, a) => {
    const pivot = row[a] as number;
    det *= pivot;
    quad += (row.at(-1) as number) ** 2 / pivot;
    for (const below of rows.slice(a + 1)) {
      const factor = (below[a] as number) / pivot;
      below.forEach((odds, b) => {
        below[b] = odds - factor * (row[b] as number);
      });
    }
  });
  return Math.exp(-0.5 * quad) / Math.sqrt((2 * Math.PI) ** x.length * det);
}

test.each<[string, Reading[]]>([
  [
    "one gross misread among four",
    [
      { id: "a0", test: "battery.rest", value: 12.2 },
      { id: "a1", test: "battery.crank", value: 3.2 },
      { id: "a2", test: "charge.volts", rpm: "idle", loads: "normal", value: 12.4 },
      { id: "a3", test: "charge.volts", ...RUN, value: 12.8 },
    ],
  ],
  [
    "volts at the unit that are not the battery's",
    [
      { id: "b0", test: "battery.rest", value: 12.4 },
      { id: "b1", test: "charge.volts", ...RUN, value: 13.2 },
      { id: "b2", test: "charge.outputVolts", ...RUN, value: 14.5 },
    ],
  ],
  [
    "a run that holds cold and not hot",
    [
      { id: "c0", test: "battery.rest", value: 12.5 },
      { id: "c1", test: "charge.volts", ...RUN, value: 14.1 },
      { id: "c2", test: "charge.volts", ...RUN, value: 12.2, hot: true },
    ],
  ],
  [
    "coils that give less at one place than at another",
    [
      { id: "d0", test: "battery.rest", value: 12.3 },
      { id: "d1", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 62 },
      { id: "d2", test: "stator.acVoltsAtUnit", at: "2-3", rpm: 5000, value: 50 },
    ],
  ],
])("weights are those of the slow and obvious way, a Gaussian over all figures with none or some of them replaced: %s", (_what, readings) => {
  const observations = observe(readings, population, METER);
  const priors = population.priors(NO_HISTORY);
  const posterior = new Posterior(population, priors, observations);
  const shares = population.shares(observations);
  const slow = population.particles.map(({ hypothesis, cell }, i) => {
    const g = observations.map(({ look }) => population.column(look).slopes.subarray(cell * SPREAD_COUNT, (cell + 1) * SPREAD_COUNT));
    const residual = observations.map(({ look, at }) => at - (population.column(look).at[i] as number));
    const { ailing } = population.hypotheses[hypothesis] as Hypothesis;
    // What an ailing generator does is known less well, but for the volts that its unit holds.
    const free = (slopes: Float64Array): boolean => Math.abs(slopes[SPREAD_IDS.indexOf("emf")] as number) > 0.03;
    const covariance = observations.map((observation, a) =>
      observations.map((_, b) => {
        const shared = (g[a] as Float64Array).reduce((sum, slope, s) => sum + slope * ((g[b] as Float64Array)[s] as number), 0);
        return shared + (a === b ? modelVariance(observation.look.step, free(g[a] as Float64Array) ? ailing : "no") + observation.noise ** 2 : 0);
      }),
    );
    // What lies more than four standard deviations off all others says nothing of them: the worst first, two at most.
    const gross: number[] = [];
    for (let round = 0; round < 2; round++) {
      const left = observations.flatMap((_, b) => (gross.includes(b) ? [] : [b]));
      const inverse = Float64Array.from(left.flatMap((b) => left.map((d) => covariance[b]?.[d] as number)));
      invert(inverse, left.length);
      const offs = left.map(
        (_, x) =>
          left.reduce((sum, b, y) => sum + (inverse[x * left.length + y] as number) * (residual[b] as number), 0) /
          Math.sqrt(inverse[x * left.length + x] as number),
      );
      const counted = offs.map((off, x) => {
        const { look, at } = observations[left[x] as number] as (typeof observations)[number];
        return Math.abs(at - (population.column(look).held?.at[i] ?? Number.NaN)) < 4 * 0.32 ? 0 : Math.abs(off);
      });
      const worst = counted.indexOf(Math.max(...counted));
      if ((counted[worst] as number) > 4) gross.push(left[worst] as number);
    }
    // An output is held, or is not, with the battery beside it: it has no such choice of its own, and the battery none without it.
    const battery = observations.findIndex(({ look: { step } }) => step.test === "charge.volts" && step.rpm === 5000 && step.loads === "normal");
    const output = observations.findIndex(({ look: { step } }) => step.test === "charge.outputVolts");
    // A running machine shows the lower of what its generator gives and what its unit holds, by how likely all others make it that the generator is strong enough.
    const held = observations.map(({ look, at }, a) => {
      const unit = population.column(look).held;
      const set = unit?.at[i] ?? Number.NaN;
      if (!unit || Number.isNaN(set)) return { often: 0, gain: 0, passed: 1, off: Number.NaN, below: false };
      const own = unit.slopes.subarray(cell * SPREAD_COUNT, (cell + 1) * SPREAD_COUNT);
      const others = observations.flatMap((_, b) => (b === a || gross.includes(b) ? [] : [b]));
      const inverse = Float64Array.from(others.flatMap((b) => others.map((d) => covariance[b]?.[d] as number)));
      invert(inverse, others.length);
      const along = others.map((b) => own.reduce((sum, slope, s) => sum + slope * ((g[b] as Float64Array)[s] as number), 0));
      const weights = others.map((_, x) => along.reduce((sum, cross, y) => sum + (inverse[x * others.length + y] as number) * cross, 0));
      const spare = (unit.spare[i] as number) + others.reduce((sum, b, x) => sum + (weights[x] as number) * (residual[b] as number), 0);
      const variance = 0.08 ** 2 + own.reduce((sum, slope) => sum + slope ** 2, 0) - along.reduce((sum, cross, x) => sum + cross * (weights[x] as number), 0);
      const reached = Math.min(0.995, Math.max(0.005, normalBelow(spare / Math.sqrt(Math.max(0.08 ** 2, variance)))));
      // What a generator could give still is not seen far above what its unit holds, unless the reading is off.
      const passed = at - set > 0.32 ? Math.max(1e-12, 2 * normalBelow(1 - (at - set) / 0.32)) : 1;
      const below = set - (at - (residual[a] as number)) > 0.05;
      const off = at - set;
      if (a === output && battery >= 0) return { often: 0, gain: 0, passed: below ? passed : 1, off, below };
      // Strong enough in one run, a generator is not far too weak in the same run another time: some 15 % of its magnets for each volt.
      const besides = observations.map((other, b) => {
        const [here, there] = [look, other.look].map((of) => population.column(of).held?.spare[i] ?? Number.NaN) as [number, number];
        const offThere = other.at - (population.column(other.look).held?.at[i] ?? Number.NaN);
        const [strong, weak, more] = below ? [off, offThere, here - there] : [offThere, off, there - here];
        const isAgain = b !== a && JSON.stringify(other.look.step) === JSON.stringify(look.step);
        return isAgain && strong > -0.35 && weak < -0.6 ? Math.max(0.001, normalBelow((more + 0.15 * weak) / 0.1)) : 1;
      });
      const often = Math.min(below ? reached : 1 - reached, ...besides);
      if (below) return { often, gain: (often / (1 - often)) * gaussian([off], [[0.32 ** 2]]), passed, off, below };
      const between = Math.max(1e-12, normalBelow((at - set + 2.2) / 0.15) - normalBelow((at - set) / 0.15)) / 2.2;
      return { often, gain: (often / (1 - often)) * between, passed: 1, off, below };
    });
    const isPaired = output >= 0 && !Number.isNaN(held[output]?.off);
    const asPredicted = held.reduce((product, { often }) => product * (1 - often) * (1 - MISREAD), 1);
    // A generator's volts are misread too low rather than too high, as all others have them.
    const weighing = Float64Array.from(covariance.flat());
    invert(weighing, observations.length);
    const above = observations.map((_, a) => residual.reduce((sum, off, b) => sum + (weighing[a * observations.length + b] as number) * off, 0) > 0);
    let likelihood = 0;
    for (let wrong = 0; wrong < 2 ** observations.length; wrong++) {
      const kept = observations.flatMap((_, a) => (wrong & (1 << a) ? [] : [a]));
      const replaced = observations.reduce((product, { look }, a) => {
        const often = MISREAD * (look.step.test.startsWith("stator.ac") ? 2 * (above[a] ? MISREAD_HIGH : 1 - MISREAD_HIGH) : 1);
        const instead = often / (1 - MISREAD) / gaugeOf(look.step.test).range + (isPaired && a === battery ? 0 : (held[a]?.gain ?? 0));
        return product * (wrong & (1 << a) ? instead : (held[a]?.passed ?? 1));
      }, asPredicted);
      likelihood +=
        replaced *
        gaussian(
          kept.map((a) => residual[a] as number),
          kept.map((a) => kept.map((b) => covariance[a]?.[b] as number)),
        );
    }
    if (isPaired) {
      const figures = [battery, output].map((a) => ({ off: held[a]?.off as number, residual: residual[a] as number }));
      const [atBattery, atUnit] = figures.map(({ off, residual }) => (held[battery]?.below ? off : residual)) as [number, number];
      const read = (observations[output]?.at as number) - (observations[battery]?.at as number);
      const spread = Math.hypot(0.15, 0.4 * (read - (atUnit - atBattery)));
      const kept = observations.flatMap((_, a) => (a === battery || a === output ? [] : [a]));
      likelihood +=
        asPredicted *
        (held[battery]?.gain ?? 0) *
        gaussian([atUnit - atBattery], [[spread ** 2]]) *
        kept.reduce((product, a) => product * (held[a]?.passed ?? 1), 1) *
        gaussian(
          kept.map((a) => residual[a] as number),
          kept.map((a) => kept.map((b) => covariance[a]?.[b] as number)),
        );
    }
    // One prediction further off than usual, the running volts off together, or the meter on all volts: the same Gaussian with that variance added.
    const widened = (added: (a: number, b: number) => number, passed: number): number =>
      asPredicted *
      passed *
      gaussian(
        residual,
        covariance.map((row, a) => row.map((entry, b) => entry + added(a, b))),
      );
    const passedBy = (counts: (a: number) => boolean): number => held.reduce((product, { passed }, a) => (counts(a) ? product * passed : product), 1);
    observations.forEach((observation, loose) => {
      const { often, times } = ailing !== "coils" && observation.look.step.test.startsWith("stator.ac") ? LOOSE_COILS : LOOSE;
      const variance = times ** 2 * (modelVariance(observation.look.step, free(g[loose] as Float64Array) ? ailing : "no") + observation.noise ** 2);
      likelihood +=
        often *
        widened(
          (a, b) => (a === loose && b === loose ? variance : 0),
          passedBy(() => true),
        );
    });
    const runs = observations.map(({ look }) => look.step.test === "charge.volts" || look.step.test === "charge.outputVolts");
    if (runs.filter(Boolean).length > 1)
      likelihood +=
        ALIKE.often *
        widened(
          (a, b) => (runs[a] && runs[b] ? ALIKE.volts ** 2 : 0),
          passedBy((a) => !runs[a]),
        );
    // A meter that reads wrong is found out by volts at rest beside those of a run.
    if (runs.includes(true)) likelihood += OFF_METER.often * widened(() => OFF_METER.volts ** 2, 1);
    const coils = observations.map(({ look }) => look.step.test.startsWith("stator.ac"));
    if (ailing === "burnt" && coils.filter(Boolean).length > 1)
      likelihood =
        likelihood * (1 - UNEVEN.often) +
        UNEVEN.often *
          widened(
            (a, b) => (a === b && coils[a] ? UNEVEN.each ** 2 : 0),
            passedBy(() => true),
          );
    return (priors[hypothesis] as number) * (shares[i] as number) * likelihood;
  });
  const total = slow.reduce((sum, weight) => sum + weight, 0);
  let compared = 0;
  for (const [i, weight] of slow.entries()) {
    const figured = observations.every(({ look }) => (population.column(look).open[i] as number) < 1e-6);
    if (!figured || weight / total < 1e-6) continue;
    compared++;
    expect(Math.abs((posterior.weights[i] as number) / (weight / total) - 1)).toBeLessThan(0.05);
  }
  expect(compared).toBeGreaterThan(100);
});
