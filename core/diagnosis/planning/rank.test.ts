import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { conditionOf } from "../../machine/condition";
import { ASSUMED_METER } from "../../meter/meter";
import type { TestId } from "../../procedure/catalogue";
import { simulateStep } from "../../procedure/simulate";
import { type Reading, type Step, stepKey } from "../../procedure/step";
import { NO_HISTORY } from "../population/hypotheses";
import { lookOf, weighedSteps } from "../population/look";
import { observe, Posterior } from "../posterior/posterior";
import { ASSUMED_PRICES } from "./prices";
import { type Bench, rank, type Suggestion } from "./rank";

const sheet = sheetOf("corvane-ferrel-650");
const population = populationOf(sheet);
const SETS = [...new Set(population.hypotheses.map(({ set }) => set))];
const SET_OF = Int32Array.from(population.particles, ({ hypothesis }) => SETS.indexOf(population.hypotheses[hypothesis]?.set ?? ""));

function posteriorOf(readings: readonly Reading[]): Posterior {
  return new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, ASSUMED_METER));
}

function benchOf(over: Partial<Bench> = {}): Bench {
  return { done: new Set(), tests: new Set(), charged: false, hot: false, mended: [], prices: ASSUMED_PRICES, ohmsResolution: 0.1, ...over };
}

function ranked(readings: readonly Reading[], over: Partial<Bench> = {}): Suggestion[] {
  return rank(posteriorOf(readings), SETS, SET_OF, benchOf({ tests: new Set(readings.map(({ test: id }) => id as TestId)), ...over }));
}

const find = (all: readonly Suggestion[], key: string): Suggestion => {
  const one = all.find(({ look }) => look.key === key);
  if (!one) throw new Error(`${key} is not among ${all.map(({ look }) => look.key).join(" ")}`);
  return one;
};
const key = (...step: Parameters<typeof lookOf>): string => lookOf(...step).key;
const CHARGE_ALL = { test: "charge.volts", rpm: 5000, loads: "all" } as const;
const TOLD: readonly TestId[] = ["battery.rest", "battery.crank", "charge.volts", "stator.toGround", "stator.acVolts", "regulator.diode"];
const LOW: Reading[] = [{ id: "1", ...CHARGE_ALL, value: 12.2 }];

describe("what a reading is worth", () => {
  const all = ranked(LOW);

  test("falls from the first to the last, and no reading does harm", () => {
    expect(all.length).toBeGreaterThan(40);
    for (const [i, one] of all.entries()) {
      expect(one.gainBits).toBeGreaterThanOrEqual(0);
      expect(one.gain).toBeGreaterThanOrEqual(0);
      expect(one.score).toBeLessThanOrEqual(all[i - 1]?.score ?? Number.POSITIVE_INFINITY);
    }
  });

  test("is never more than what is not yet known", () => {
    const odds = new Float64Array(SETS.length);
    posteriorOf(LOW).weights.forEach((weight, i) => {
      odds[SET_OF[i] as number] = (odds[SET_OF[i] as number] as number) + weight;
    });
    const entropy = odds.reduce((sum, p) => sum - (p > 0 ? p * Math.log2(p) : 0), 0);
    for (const one of all) expect(one.gainBits).toBeLessThan(entropy + 0.3);
  });

  test("is little when the machine has told its fault already", () => {
    const grounded = conditionOf([{ fault: "stator.winding-grounded", at: "2", severity: 0.1, along: 0.4 }], { charge: 0.5 });
    const told = weighedSteps(sheet)
      .filter((step) => TOLD.includes(step.test))
      .map((step): Reading => ({ ...step, id: stepKey(step), value: simulateStep(sheet, grounded, step, ASSUMED_METER).value, raw: true }));
    const most = (some: readonly Suggestion[]): number => Math.max(...some.map(({ gainBits }) => gainBits));
    expect(most(ranked(told))).toBeLessThan(0.6 * most(all));
  });

  test("comes with the two likely sets it tells apart, for those that are shown", () => {
    for (const { splits } of all.slice(0, 3)) {
      expect(splits).toHaveLength(2);
      for (const set of splits ?? []) expect(SETS).toContain(set);
    }
  });

  test("comes with the outcome that would turn the verdict, where one is likely enough", () => {
    const turning = all.filter(({ turns }) => turns);
    expect(turning.length).toBeGreaterThan(0);
    for (const { turns } of turning) {
      expect(SETS).toContain(turns?.to);
      expect(turns?.probability).toBeGreaterThan(0.08);
      expect(turns?.probability).toBeLessThanOrEqual(1);
    }
  });
});

describe("what may be asked for", () => {
  test("is nothing that was done", () => {
    const done = new Set(
      ranked([])
        .slice(0, 5)
        .map(({ look }) => look.key),
    );
    for (const { look } of ranked([], { done })) expect(done.has(look.key)).toBe(false);
  });

  test("is no test that needs a rare tool or a spare unit", () => {
    const tests = new Set(ranked([]).map(({ step }) => step.test));
    for (const seldom of ["battery.conductance", "swap.unit", "rotor.pull", "inspect.fluid"] as const) expect(tests.has(seldom)).toBe(false);
  });

  test("is the search for a draw only once a draw was measured", () => {
    const before = ranked([]).map(({ step }) => step.test);
    expect(before).not.toContain("drain.fusePulled");
    const after = ranked([{ id: "1", test: "drain.current", value: 480 }]).map(({ step }) => step.test);
    expect(after).toContain("drain.fusePulled");
    expect(after).toContain("drain.unitUnplugged");
  });

  test("is a charged battery's reading only once: after a charge the flat one's is gone", () => {
    const looks = (over: Partial<Bench>): (boolean | undefined)[] =>
      ranked([], over)
        .filter(({ step }) => step.test === "battery.crank")
        .map(({ look }) => look.charged)
        .sort();
    expect(looks({})).toEqual([false, true]);
    expect(looks({ charged: true })).toEqual([true]);
  });
});

describe("minutes", () => {
  test("count the access of a place once: what is open costs nothing more", () => {
    const shut = find(ranked([]), key({ test: "stator.acVolts", at: "1-2", rpm: 5000 }));
    const open = find(ranked([], { tests: new Set<TestId>(["stator.acVolts"]) }), key({ test: "stator.acVolts", at: "2-3", rpm: 5000 }));
    expect(shut.accessMinutes).toBeGreaterThan(0);
    expect(open.accessMinutes).toBe(0);
    expect(open.minutes).toBe(shut.minutes);
  });

  test("count the charge and the warm-up before the first reading that needs them", () => {
    const crank = { test: "battery.crank" } as const;
    const [now, after] = [find(ranked([]), key(crank)), find(ranked([]), key(crank, { charged: true }))];
    expect(after.minutes - now.minutes).toBe(10);
    const hot = (is: boolean): number => find(ranked([], { hot: is }), key({ test: "stator.resistance", at: "1-2" }, { hot: true })).minutes;
    expect(hot(false) - hot(true)).toBe(12);
  });

  test("of a visit are all its points' together, its access once", () => {
    const points = ranked([]).filter(({ step, look }) => step.test === "regulator.diode" && !look.hot);
    expect(points.length).toBeGreaterThan(6);
    const first = points[0] as Suggestion;
    expect(first.visit?.minutes).toBeCloseTo(points.reduce((sum, { minutes }) => sum + minutes, 0) + first.accessMinutes, 9);
    expect(first.visit?.gain ?? 0).toBeGreaterThanOrEqual(0.8 * points.reduce((sum, { gain }) => sum + gain, 0) - 1e-9);
  });
});

test("what no point tells by itself the whole visit can: of four open diodes that are alike likely, each alone changes nothing", () => {
  const series = sheetOf("brannoch-fell-850");
  const its = populationOf(series);
  const sets = [...new Set(its.hypotheses.map(({ set }) => set))];
  const setOf = Int32Array.from(its.particles, ({ hypothesis }) => sets.indexOf(its.hypotheses[hypothesis]?.set ?? ""));
  // Leg 2 has lost half of its turns; whether a diode went with them nothing has told yet.
  const turns = conditionOf([{ fault: "stator.turns-shorted", at: "2", severity: 0.5 }], { charge: 0.6 });
  const meter = { ...ASSUMED_METER, leadOhms: 0 };
  const take = (steps: readonly Step[]): Reading[] =>
    steps.map((step) => ({ ...step, id: stepKey(step), value: simulateStep(series, turns, step, meter).value }));
  const readings = take([
    { test: "charge.current", rpm: 5000, loads: "normal" },
    { test: "battery.crank" },
    { test: "charge.volts", rpm: "idle", loads: "normal" },
    { test: "charge.volts", rpm: 5000, loads: "normal" },
    { test: "charge.volts", rpm: 5000, loads: "all" },
    ...(["1-2", "2-3", "3-1"] as const).flatMap((at): Step[] => [
      { test: "stator.acVolts", at, rpm: "idle" },
      { test: "stator.acVolts", at, rpm: 5000 },
    ]),
  ]);
  const bench = benchOf({ tests: new Set(readings.map(({ test: id }) => id)) });
  const diodes = (some: readonly Reading[]): Suggestion[] =>
    rank(new Posterior(its, its.priors(NO_HISTORY), observe(some, its, meter)), sets, setOf, bench).filter(
      ({ step, look }) => step.test === "regulator.diode" && !look.hot,
    );
  const before = diodes(readings);
  const points = before.reduce((sum, { gain }) => sum + gain, 0);
  expect(before[0]?.visit?.gain).toBeGreaterThan(2 * points);
  expect(before[0]?.visit?.gain).toBeGreaterThan(before[0]?.visit?.minutes ?? Number.POSITIVE_INFINITY);
  // Once the lower diodes, all that a meter sees of a series unit, were read as sound, another visit tells nothing.
  const lower = take(["B->1", "B->2", "B->3"].map((at): Step => ({ test: "regulator.diode", at })));
  expect(diodes([...readings, ...lower])[0]?.visit?.gain).toBeLessThan(0.2 * (before[0]?.visit?.gain ?? 0));
});

test("one machine read twice is ranked alike, whatever the order of its readings", () => {
  const readings: Reading[] = [
    ...LOW,
    { id: "2", test: "battery.rest", value: 12.1 },
    { id: "3", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 60.1 },
    { id: "4", test: "regulator.feed", value: 12.3 },
    { id: "5", test: "charge.volts", rpm: "idle", loads: "normal", value: 12.2 },
  ];
  const keys = (some: readonly Reading[]): string[] =>
    ranked(some)
      .slice(0, 6)
      .map(({ step }) => stepKey(step));
  const expected = keys(readings);
  fc.assert(
    fc.property(fc.shuffledSubarray(readings, { minLength: readings.length }), (some) => {
      expect(keys(some)).toEqual(expected);
    }),
    { numRuns: 6 },
  );
});
