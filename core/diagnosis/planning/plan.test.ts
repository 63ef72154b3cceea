import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { benchOf } from "../../../tests/support/bench";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { conditionOf } from "../../machine/condition";
import { unlistedSheet } from "../../machine/unlisted";
import { ASSUMED_METER } from "../../meter/meter";
import type { TestId } from "../../procedure/catalogue";
import { WHEELED_IN, worked } from "../../procedure/moves";
import { simulateStep } from "../../procedure/simulate";
import { type Reading, stepKey } from "../../procedure/step";
import { NO_HISTORY } from "../population/hypotheses";
import type { Lineup } from "../population/lineup";
import { lookOf, weighedSteps } from "../population/look";
import { observe, Posterior } from "../posterior/posterior";
import { candidates } from "./candidates";
import { type Bench, labourOf, plan, type Suggestion } from "./plan";
import { ASSUMED_PRICES } from "./prices";
import { Weighing } from "./weighing";

const sheet = sheetOf("corvane-ferrel-650");
const population = populationOf(sheet);
const setsOf = ({ hypotheses }: Lineup): string[] => [...new Set(hypotheses.map(({ set }) => set))];
const SETS = setsOf(population);
const setOfEach = ({ particles, hypotheses }: Lineup, sets: readonly string[]): Int32Array =>
  Int32Array.from(particles, ({ hypothesis }) => sets.indexOf(hypotheses[hypothesis]?.set ?? ""));
const SET_OF = setOfEach(population, SETS);

function posteriorOf(readings: readonly Reading[], of = population): Posterior {
  return new Posterior(of, of.priors(NO_HISTORY), observe(readings, of, ASSUMED_METER));
}

/** The plan after some readings, the machine standing as they left it. */
function planned(readings: readonly Reading[], over: Partial<Bench> = {}, on = sheet): Suggestion[] {
  const of = populationOf(on);
  const done = new Set(readings.map((reading) => lookOf({ test: reading.test, at: reading.at, rpm: reading.rpm, loads: reading.loads }).key));
  const { state } = worked(readings, 12, WHEELED_IN);
  const sets = setsOf(of);
  return plan(
    posteriorOf(readings, of),
    sets,
    setOfEach(of, sets),
    benchOf({ tests: new Set(readings.map(({ test: id }) => id as TestId)), done, state, ...over }),
  );
}

const CHARGE_ALL = { test: "charge.volts", rpm: 5000, loads: "all" } as const;
const TOLD: readonly TestId[] = ["battery.rest", "battery.crank", "charge.volts", "stator.toGround", "stator.acVolts", "regulator.diode"];
const LOW: Reading[] = [{ id: "1", ...CHARGE_ALL, value: 12.2 }];

describe("what a reading is worth", () => {
  const all = planned(LOW);

  test.each([[[]], [LOW]])("is worked out on a few particles that stand for all: no set is forgotten for being spread over many of them", (readings) => {
    const posterior = posteriorOf(readings);
    const odds = SETS.map((_, s) => posterior.weights.reduce((sum, weight, i) => sum + (SET_OF[i] === s ? weight : 0), 0));
    const standing = new Weighing(posterior, SETS, SET_OF, benchOf()).odds;
    odds.forEach((share, s) => {
      expect(Math.abs((standing.get(SETS[s] as string) ?? 0) - share)).toBeLessThan(0.005);
    });
  });

  test("is bits and money, never less than nothing", () => {
    expect(all.length).toBeGreaterThan(5);
    for (const suggestion of all) {
      expect(suggestion.gainBits).toBeGreaterThanOrEqual(0);
      expect(suggestion.gain).toBeGreaterThanOrEqual(0);
    }
  });

  test("is never more than what is not yet known", () => {
    const odds = new Float64Array(SETS.length);
    posteriorOf(LOW).weights.forEach((weight, i) => {
      odds[SET_OF[i] as number] = (odds[SET_OF[i] as number] as number) + weight;
    });
    const entropy = odds.reduce((sum, p) => sum - (p > 0 ? p * Math.log2(p) : 0), 0);
    for (const suggestion of all) expect(suggestion.gainBits).toBeLessThan(entropy + 0.3);
  });

  test("is little when the machine has told its fault already", () => {
    const grounded = conditionOf([{ fault: "stator.winding-grounded", at: "2", severity: 0.1, along: 0.4 }], { charge: 0.5 });
    const told = weighedSteps(sheet)
      .filter((step) => TOLD.includes(step.test))
      .map((step): Reading => ({ ...step, id: stepKey(step), value: simulateStep(sheet, grounded, step, ASSUMED_METER).value, raw: true }));
    const most = (some: readonly Suggestion[]): number => Math.max(...some.map(({ gainBits }) => gainBits));
    expect(most(planned(told))).toBeLessThan(0.6 * most(all));
  });

  test("comes with the two likely sets it tells apart, for those that are shown", () => {
    for (const { splits } of all.slice(0, 3)) {
      expect(splits).toHaveLength(2);
      for (const set of splits ?? []) expect(SETS).toContain(set);
    }
  });
});

describe("what may be asked for", () => {
  test("is nothing that was done", () => {
    const done = new Set(
      planned([])
        .slice(0, 5)
        .map(({ look }) => look.key),
    );
    for (const { look } of planned([], { done })) expect(done.has(look.key)).toBe(false);
  });

  test("is no test that needs a spare unit, and none whose tool the shop has not got", () => {
    const tests = (over: Partial<Bench> = {}) => new Set(LOOKED.flatMap((readings) => planned(readings, over).map(({ step }) => step.test)));
    for (const seldom of ["battery.conductance", "battery.load", "charge.current", "swap.unit", "rotor.pull", "inspect.fluid"] as const)
      expect(tests().has(seldom)).toBe(false);
    expect(tests({ tools: ["clamp", "load-tester"] }).has("battery.load")).toBe(true);
  });

  test("is the search for a draw only once a draw was measured", () => {
    const tests = (read: TestId[]) => candidates(population, benchOf({ tests: new Set(read) })).map(({ step }) => step.test);
    expect(tests([])).not.toContain("drain.fusePulled");
    expect(tests(["drain.current"])).toEqual(expect.arrayContaining(["drain.fusePulled", "drain.unitUnplugged"]));
  });
});

describe("the order of work", () => {
  test("begins with what is read at rest, and the negative cable stays on", () => {
    const [first] = planned([]);
    expect(first?.step.test).toMatch(/^(battery\.rest|inspect\.)/);
    expect(first?.moves.map(({ id }) => id)).not.toContain("ammeter-in");
  });

  test("keeps the readings of one stand together: no stand is left and come back to", () => {
    const stays = planned([]).map(({ stay }) => stay);
    expect(stays).toEqual([...stays].sort((a, b) => a - b));
  });

  test("says the moves between stands, and none inside one but another dial, place or crank", () => {
    const rested: Reading = { id: "1", test: "battery.rest", value: 12.5 };
    for (const all of [planned([]), planned([rested])]) {
      for (const [k, suggestion] of all.entries()) {
        if (k > 0 && suggestion.stay === all[k - 1]?.stay) expect(suggestion.moves.every(({ id }) => ["open", "dial", "crank"].includes(id))).toBe(true);
      }
    }
    const running = planned([rested]).find(({ moves }) => moves.some(({ id }) => id === "start"));
    expect(running?.hands).toBeGreaterThanOrEqual(1);
  });

  test("runs the engine before it parts a plug: where the charging volts are right nobody need have parted it", () => {
    const proved: Reading[] = [
      { id: "1", test: "battery.rest", value: 12.6 },
      { id: "2", test: "battery.settled", value: 12.3 },
      { id: "3", test: "battery.crank", value: 10.6 },
    ];
    const moves = planned(proved).flatMap((suggestion) => suggestion.moves.map(({ id }) => id));
    expect(moves).toContain("start");
    const parted = moves.indexOf("part");
    if (parted >= 0) expect(moves.indexOf("start")).toBeLessThan(parted);
  });

  test("reads on where a plug is parted already, though the machine charges and its draw was not read with everything joined", () => {
    const readings: Reading[] = [
      { id: "1", test: "battery.rest", value: 12.4 },
      { id: "2", test: "battery.crank", value: 10.5 },
      { id: "3", test: "charge.volts", rpm: 5000, loads: "normal", value: 14.1 },
      { id: "4", test: "charge.volts", rpm: "idle", loads: "normal", value: 12.2 },
      { id: "5", test: "stator.acVolts", at: "3-1", rpm: 5000, value: 27 },
    ];
    const [first] = planned(readings, { carries: true });
    expect(first?.step.test).toBe("stator.acVolts");
    expect(first?.moves).toEqual([]);
  });

  test("asks for no rest volts of a battery that the engine has just charged", () => {
    const after = planned(LOW).filter(({ look }) => !look.charged);
    expect(after.map(({ step }) => step.test)).not.toContain("battery.rest");
  });

  test("turns to what tells far more a minute, rather than get at something first where the machine stands", () => {
    const inBand: Reading[] = [
      { id: "1", test: "battery.rest", value: 13 },
      { id: "2", test: "battery.crank", value: 11.5 },
      { id: "3", test: "charge.volts", rpm: 5000, loads: "off", value: 13.8 },
      { id: "4", test: "charge.volts", rpm: 5000, loads: "all", value: 13.7 },
    ];
    // Hands that cost little have the drops of the legs pay, for which two places are got at.
    const bench = { prices: { ...ASSUMED_PRICES, labourPerHour: 20 } };
    const on = sheetOf("brannoch-fell-850");
    expect(planned(inBand, bench, on)[0]).toMatchObject({ step: { test: "charge.volts", rpm: "idle" }, moves: [] });
    const read = [...inBand, ...(["idle", 5000] as const).map((rpm): Reading => ({ id: String(rpm), test: "charge.volts", rpm, loads: "normal", value: 14 }))];
    expect(planned(read, bench, on)[0]?.step.test).toBe("drain.current");
    const others = candidates(populationOf(on), benchOf()).filter(({ step }) => step.test !== "stator.legDrop");
    const drops = planned(read, { ...bench, done: new Set(others.map(({ key }) => key)) }, on);
    expect(drops[0]).toMatchObject({ step: { test: "stator.legDrop" }, pays: true });
  });

  test("stays where the machine stands while something there is worth its minutes", () => {
    const [next] = planned(LOW);
    expect(next?.moves.map(({ id }) => id)).not.toContain("stop");
  });
});

test("nothing that tells nothing is asked for, all the way through a search", () => {
  const ostrel = sheetOf("ostrel-burro-520");
  const lossy = conditionOf([{ fault: "wiring.output-resistance", severity: 0.3 }], { charge: 0.6 });
  const readings: Reading[] = [];
  for (let next = planned(readings, {}, ostrel)[0]; next?.pays && readings.length < 14; next = planned(readings, {}, ostrel)[0]) {
    expect({ step: stepKey(next.step), tells: next.gain > 1e-6 }).toEqual({ step: stepKey(next.step), tells: true });
    readings.push({ ...next.step, id: `${readings.length}`, value: simulateStep(ostrel, lossy, next.step, ASSUMED_METER).value });
  }
  expect(readings.length).toBeGreaterThan(5);
});

const LOOKED: readonly Reading[][] = [
  [],
  LOW,
  [
    { id: "1", test: "battery.rest", value: 12.6 },
    { id: "2", test: "battery.settled", value: 11.2 },
  ],
];

test("one machine read twice is planned alike, whatever the order of its readings", () => {
  const readings: Reading[] = [
    ...LOW,
    { id: "2", test: "battery.rest", value: 12.1 },
    { id: "3", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 60.1 },
    { id: "4", test: "regulator.feed", value: 12.3 },
    { id: "5", test: "charge.volts", rpm: "idle", loads: "normal", value: 12.2 },
  ];
  const stood = worked(readings, 12, WHEELED_IN).state;
  const keys = (some: readonly Reading[]): string[] =>
    planned(some, { state: stood })
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

test("what only a rested battery shows is read before anything else where the machine stands, though a fuse would tell more a minute", () => {
  const of = populationOf(sheetOf("mossgate-pavilion-12"));
  const sets = setsOf(of);
  const posterior = new Posterior(of, of.priors({ ...NO_HISTORY, batteryAgeYears: 8 }), []);
  const [first, second] = plan(posterior, sets, setOfEach(of, sets), benchOf());
  expect(first?.step.test).toBe("battery.rest");
  expect(second?.step.test).toBe("fuse.continuity");
  const worth = ({ gain, minutes }: Suggestion): number => gain / minutes;
  expect(worth(second as Suggestion)).toBeGreaterThan(worth(first as Suggestion));
});

describe("what a minute has to be worth", () => {
  const due = (over: Partial<Bench>, leading = 0.8, open = false): number => labourOf(benchOf(over), leading, open).due;

  test("grows with the minutes spent while something leads, and not while nothing does", () => {
    expect(due({ spent: 30 })).toBeGreaterThan(1.5 * due({ spent: 5 }));
    expect(due({ spent: 30 }, 0.1)).toBeCloseTo(due({ spent: 5 }, 0.1), 9);
  });
});

test("while the engine runs what little more it tells there is read before it is stopped, for it would have to be started again", () => {
  const unlisted = unlistedSheet("three-phase", 12, "motorcycle");
  const volts = (loads: "off" | "normal"): Reading => ({ id: loads, test: "charge.volts", rpm: unlisted.testRpm, loads, value: 13.9, charged: true });
  const readings: Reading[] = [
    { id: "came", test: "battery.rest", value: 8.9 },
    { id: "rest", test: "battery.rest", value: 12.5, charged: true },
    { id: "crank", test: "battery.crank", value: 10.5, charged: true },
    volts("off"),
    volts("normal"),
  ];
  const { state } = worked(readings, 12, WHEELED_IN);
  const [running] = planned(readings, { charged: true }, unlisted) as [Suggestion];
  expect(running.step).toMatchObject({ test: "charge.volts", loads: "all" });
  expect(running.moves.map(({ id }) => id)).not.toContain("stop");
  // Once it stands still nobody starts it for that alone.
  const [stopped] = planned(readings, { charged: true, state: { ...state, engine: "stopped", key: "out" } }, unlisted) as [Suggestion];
  expect(stopped.moves.map(({ id }) => id)).not.toContain("start");
});
