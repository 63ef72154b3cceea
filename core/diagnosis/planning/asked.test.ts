import { describe, expect, test } from "@jest/globals";
import { benchOf } from "../../../tests/support/bench";
import { populationOf, sheetOf } from "../../../tests/support/population";
import type { FaultId } from "../../machine/faults";
import { ASSUMED_METER } from "../../meter/meter";
import type { TestId } from "../../procedure/catalogue";
import { WHEELED_IN, worked } from "../../procedure/moves";
import { type Reading, stepKey } from "../../procedure/step";
import { NO_HISTORY } from "../population/hypotheses";
import { type Look, lookOf } from "../population/look";
import { observe, Posterior } from "../posterior/posterior";
import { reasonFor } from "../words/words";
import { beforeBattery, beforeLoads, beforePartner, beforeUnit, beforeWindings, hangsOn } from "./asked";
import { candidates } from "./candidates";
import type { Bench } from "./plan";
import { ASSUMED_PRICES } from "./prices";

const population = populationOf(sheetOf("ostrel-burro-520"));
const benchAfter = (...tests: TestId[]): Bench => benchOf({ tests: new Set(tests) });
const SETS = ["", "regulator", "stator"];
const keys = (suggestions: ReturnType<typeof beforeUnit>): string[] => suggestions.map(({ step }) => stepKey(step));

describe("before a unit is bought", () => {
  const odds = [0.02, 0.9, 0.08];
  const asked = (bench: Bench, decided = 1, of = odds) => beforeUnit(SETS, of, decided, population, bench);

  test("its generator is seen to give AC, and why is said", () => {
    const [suggestion, ...more] = asked(benchAfter("charge.volts"));
    expect(more).toHaveLength(0);
    expect(suggestion && stepKey(suggestion.step)).toBe("stator.acVolts~1-2~5000");
    expect(suggestion && reasonFor(suggestion, { family: population.sheet.family })).toMatch(
      /^Before the regulator\/rectifier is bought: one that gets nothing from its generator makes nothing of it; /,
    );
  });

  test.each<[string, string[]]>([
    ["where AC was read", keys(asked(benchAfter("stator.acVolts")))],
    ["where the volts were seen to rise", keys(asked({ ...benchAfter("charge.volts"), rises: true }))],
    ["where nothing else could have failed", keys(asked(benchAfter(), 1, [0.01, 0.98, 0.01]))],
    ["where another part is decided on", keys(asked(benchAfter(), 2))],
  ])("nothing is asked %s", (_where, asks) => expect(asks).toEqual([]));
});

describe("before a battery is bought", () => {
  const asked = (crank: number, odds: number): string[] => {
    const posterior = new Posterior(
      population,
      population.priors(NO_HISTORY),
      observe([{ id: "1", test: "battery.crank", value: crank }], population, ASSUMED_METER),
    );
    return beforeBattery(["", "battery"], [1 - odds, odds], 1, posterior, benchAfter("battery.crank")).map(({ step, look }) => `${step.test} ${look.charged}`);
  };
  const CHARGED = ["battery.rest true", "battery.crank true"];

  test.each<[string, number, number, string[]]>([
    ["is charged and cranked where it is likely worn and no more", 7.2, 0.8, CHARGED],
    ["is charged and cranked where it cranked well, however sure it is", 10.2, 0.98, CHARGED],
    ["is bought as it is where it hardly cranked and is sure", 7.2, 0.98, []],
  ])("it %s", (_what, crank, odds, asks) => expect(asked(crank, odds)).toEqual(asks));
});

describe("before the loads are searched for a draw", () => {
  const asked = (bench: Bench, odds = 0.86, fault: FaultId = "loads.parasitic") => beforeLoads(odds, fault, population, bench);

  test("the unit is unplugged, the meter still in, and why is said", () => {
    const read: Reading[] = [{ id: "1", test: "drain.current", value: 38 }];
    const [suggestion, ...more] = asked({ ...benchAfter("drain.current"), state: worked(read, 12, WHEELED_IN).state });
    expect(more).toHaveLength(0);
    expect(suggestion && stepKey(suggestion.step)).toBe("drain.unitUnplugged");
    expect(suggestion?.moves.map(({ id }) => id)).not.toContain("ammeter-in");
    expect(suggestion && reasonFor(suggestion, { family: population.sheet.family })).toMatch(
      /^Before the loads are searched: a draw that goes with the regulator\/rectifier is its own; /,
    );
  });

  test.each<[string, string[]]>([
    ["where no draw was read", keys(asked(benchAfter("charge.volts")))],
    ["where it is as good as sure", keys(asked(benchAfter("drain.current"), 0.97))],
    ["of loads that are only too many", keys(asked(benchAfter("drain.current"), 0.86, "loads.too-much"))],
    ["where it was read", keys(asked({ ...benchAfter("drain.current"), done: new Set([lookOf({ test: "drain.unitUnplugged" }).key]) }))],
  ])("nothing is asked %s", (_where, asks) => expect(asks).toEqual([]));
});

describe("before a stator, a rotor or a unit is bought", () => {
  const LOW: Reading = { id: "1", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 30 };
  const asked = (readings: readonly Reading[], odds: readonly number[], over: Partial<Bench> = {}, decided = 2) => {
    const posterior = new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, ASSUMED_METER));
    const done = new Set(readings.map(({ test, at, rpm }) => lookOf({ test, at, rpm }).key));
    const { state } = worked(readings, 12, WHEELED_IN);
    return beforeWindings(SETS, odds, decided, posterior, benchOf({ done, state, ...over }));
  };

  test("a pair is compared with the others, and why is said", () => {
    const others = asked([LOW], [0.05, 0.05, 0.9]);
    expect(keys(others)).toEqual(["stator.acVolts~2-3~5000", "stator.acVolts~3-1~5000"]);
    expect(others.flatMap(({ moves }) => moves.map(({ id }) => id))).not.toContain("start");
    expect(others[0] && reasonFor(others[0], { family: population.sheet.family })).toMatch(/the pairs are compared: one that is low is the stator/);
  });

  test("at one speed where two were begun: the one that most was read at, and of as much the faster", () => {
    const idle = (id: string, at: string): Reading => ({ id, test: "stator.acVolts", at, rpm: "idle", value: 9 });
    expect(keys(asked([idle("2", "1-2"), LOW], [0.05, 0.05, 0.9]))).toEqual(["stator.acVolts~2-3~5000", "stator.acVolts~3-1~5000"]);
    expect(keys(asked([LOW, idle("2", "1-2")], [0.05, 0.05, 0.9]))).toEqual(["stator.acVolts~2-3~5000", "stator.acVolts~3-1~5000"]);
    expect(keys(asked([LOW, idle("2", "1-2"), idle("3", "2-3")], [0.05, 0.05, 0.9]))).toEqual(["stator.acVolts~3-1~idle"]);
  });

  test("by ohms, too: engine off, and said in the words of ohms", () => {
    const others = asked([{ id: "1", test: "stator.resistance", at: "3-1", value: 0.2 }], [0.05, 0.05, 0.9]);
    expect(keys(others)).toEqual(["stator.resistance~1-2", "stator.resistance~2-3"]);
    expect(others[0] && reasonFor(others[0], { family: population.sheet.family })).toMatch(/the pairs are compared: ohms are judged by those of the others/);
  });

  test("with those that are wound alike: where one winding has taps of its own, none is", () => {
    const common = populationOf(sheetOf("corvane-tern-400"));
    const [first] = candidates(common, benchOf()).filter(({ step }) => step.test === "stator.resistance");
    const posterior = new Posterior(common, common.priors(NO_HISTORY), observe([{ id: "1", ...(first as Look).step, value: 0.3 }], common, ASSUMED_METER));
    expect(posterior.observations).toHaveLength(1);
    expect(beforeWindings(SETS, [0.05, 0.05, 0.9], 2, posterior, benchOf({ done: new Set([(first as Look).key]) }))).toEqual([]);
  });

  test("where no winding was measured its AC is read, and why is said; a machine that was mended since is no other", () => {
    for (const over of [{}, { mended: ["wiring" as const] }]) {
      const [first, ...more] = asked([], [0.05, 0.05, 0.9], over);
      expect(more).toHaveLength(0);
      expect(first && stepKey(first.step)).toBe("stator.acVolts~1-2~5000");
      expect(first && reasonFor(first, { family: population.sheet.family })).toMatch(/^Nothing of a generator is bought whose AC nobody read: /);
    }
    const toCase = (value: number | "OL"): Reading => ({ id: "1", test: "stator.toGround", at: "1", value });
    expect(asked([toCase("OL")], [0.05, 0.05, 0.9])).toHaveLength(1);
    expect(asked([toCase(0.4)], [0.05, 0.05, 0.9])).toEqual([]);
  });

  test("a unit: its generator's other pairs are read while the probes are there, and no plug is parted or engine started for them", () => {
    const right: Reading = { ...LOW, value: 62 };
    const unit = (readings: readonly Reading[], odds = 0.9, over: Partial<Bench> = {}) => asked(readings, [0.05, odds, 0.05], over, 1);
    expect(keys(unit([right]))).toEqual(["stator.acVolts~2-3~5000", "stator.acVolts~3-1~5000"]);
    expect(keys(unit([right], 0.97))).toEqual([]);
    expect(keys(unit([right], 0.9, { state: WHEELED_IN }))).toEqual([]);
    expect(keys(unit([]))).toEqual([]);
    const ohms: Reading = { id: "2", test: "stator.resistance", at: "1-2", value: 0.3 };
    expect(keys(unit([ohms]))).toEqual(["stator.resistance~2-3", "stator.resistance~3-1"]);
    expect(keys(unit([ohms], 0.9, { state: WHEELED_IN }))).toEqual([]);
  });

  test("a generator with a field is told by that", () => {
    const launch = populationOf(sheetOf("tidewright-farway-29"));
    const posterior = new Posterior(launch, launch.priors(NO_HISTORY), []);
    expect(beforeWindings(SETS, [0.05, 0.05, 0.9], 2, posterior, benchOf())).toEqual([]);
  });

  test.each<[string, string[]]>([
    ["where it has failed whatever they show", keys(asked([LOW], [0.01, 0.01, 0.98]))],
    ["where the engine would have to be started again", keys(asked([LOW], [0.05, 0.05, 0.9], { state: WHEELED_IN }))],
    ["of a machine that was mended since", keys(asked([LOW], [0.05, 0.05, 0.9], { mended: ["wiring"] }))],
  ])("nothing is asked %s", (_where, asks) => expect(asks).toEqual([]));
});

describe("before one of two parts that burn each other is bought", () => {
  const sets = ["", "regulator", "stator", "regulator+stator"];
  const asked = (decided: string, beside: number, readings: readonly Reading[] = [], of = population) => {
    const indexOf = Int32Array.from(of.particles, ({ hypothesis }) => sets.indexOf(of.hypotheses[hypothesis]?.set ?? ""));
    const odds = sets.map((set) => (set === "regulator+stator" ? beside : set === decided ? 0.9 - beside : 0.05));
    const posterior = new Posterior(of, of.priors(NO_HISTORY), observe(readings, of, ASSUMED_METER));
    const done = new Set(readings.map(({ test, at }) => lookOf({ test, at }).key));
    const { state } = worked(readings, 12, WHEELED_IN);
    return beforePartner({ sets, odds, decided: sets.indexOf(decided), indexOf }, posterior, benchOf({ done, state }));
  };
  const ways = (value: Reading["value"], ...points: string[]): Reading[] => points.map((at, i) => ({ id: String(i), test: "regulator.diode", at, value }));

  test("a stator: the unit's diodes are read the way they let current through, and why is said", () => {
    const diodes = asked("stator", 0.1);
    expect(keys(diodes)).toEqual(["1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3"].map((way) => `regulator.diode~${way}`));
    expect(diodes[0]).toMatchObject({ due: "partner" });
    expect(diodes[0] && reasonFor(diodes[0], { family: population.sheet.family })).toMatch(
      /^Before the stator is bought: what burns it often takes the regulator\/rectifier with it; /,
    );
  });

  test("a unit: the windings are read at rest, to the case and pair by pair", () => {
    const windings = asked("regulator", 0.2);
    expect(keys(windings)).toEqual(["stator.resistance~1-2", "stator.resistance~2-3", "stator.resistance~3-1", "stator.toGround~1"]);
    expect(windings.some(({ look }) => look.hot)).toBe(false);
    expect(windings[0] && reasonFor(windings[0], { family: population.sheet.family })).toMatch(
      /^Before the regulator\/rectifier is bought: what burns it often takes the stator with it; /,
    );
  });

  test("a unit whose stator has hardly failed: the one reading that shows a touch, where all of them would not pay", () => {
    const pair: Reading = { id: "7", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 60 };
    expect(keys(asked("regulator", 0.07, [pair]))).toEqual(["stator.toGround~1"]);
    expect(asked("regulator", 0.02, [pair])).toEqual([]);
  });

  test("what was read is not asked for again, and what was begun is read to its end: only the way there costs much", () => {
    expect(asked("stator", 0.04)).toEqual([]);
    expect(keys(asked("stator", 0.04, ways(0.5, "1>B+", "B->2")))).toEqual(["2>B+", "3>B+", "B->1", "B->3"].map((way) => `regulator.diode~${way}`));
  });

  test("ways of a unit that other readings have all but cleared are left alone", () => {
    const series = populationOf(sheetOf("brannoch-fell-850"));
    const half = ways(0.5, "B->1", "B->2", "B->3");
    const charges: Reading = { id: "8", test: "charge.volts", rpm: 5000, loads: "all", value: 13.9 };
    const draws: Reading = { id: "9", test: "drain.current", value: 0.001 };
    expect(keys(asked("stator", 0.04, half, series))).toEqual(["1>B+", "2>B+", "3>B+"].map((way) => `regulator.diode~${way}`));
    expect(asked("stator", 0.04, [charges, draws, ...half], series)).toEqual([]);
  });

  test.each<[string, string, number]>([
    ["the other has hardly failed", "stator", 0.02],
    ["both are to be bought", "regulator+stator", 0.5],
    ["nothing is", "", 0.1],
  ])("nothing is asked where %s", (_where, decided, beside) => expect(asked(decided, beside)).toEqual([]));
});

test("what speaks against a cure is taken once more before the machine is called cured; what was read before the repair is not", () => {
  const mended: Bench["mended"] = ["battery"];
  const since = (id: string, reading: Omit<Reading, "id">): Reading => ({ id, ...reading, afterRepair: true, mended: [...mended] });
  const readings = [
    since("1", { test: "inspect.connector", at: "stator", value: "clean" }),
    since("2", { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.3 }),
    since("3", { test: "stator.legDrop", at: "2", rpm: 5000, loads: "normal", value: 30 }),
  ];
  const posterior = new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, ASSUMED_METER));
  const sets = [...new Set(population.hypotheses.map(({ set }) => set))];
  const indexOf = Int32Array.from(population.particles, ({ hypothesis }) => sets.indexOf(population.hypotheses[hypothesis]?.set ?? ""));
  const searching = sets.map((_, s) => posterior.weights.reduce((sum, weight, i) => sum + (indexOf[i] === s ? weight : 0), 0));
  const { state } = worked(readings, 12, WHEELED_IN);
  const asked = (of: Bench["mended"]) =>
    hangsOn({ posterior, sets, indexOf, searching, decided: sets.indexOf("") }, ASSUMED_PRICES, benchOf({ state, mended: of }), () => false);
  expect(asked(mended)).toMatchObject({ step: { test: "stator.legDrop", at: "2" }, due: "again" });
  expect(asked([])).toBeUndefined();
});
