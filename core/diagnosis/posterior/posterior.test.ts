import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { conditionOf } from "../../machine/condition";
import type { SetFault } from "../../machine/defects";
import { unlistedSheet } from "../../machine/unlisted";
import { ASSUMED_METER } from "../../meter/meter";
import { simulateStep } from "../../procedure/simulate";
import type { Reading } from "../../procedure/step";
import { isNumber } from "../../units";
import { type Advice, advise, type JobFacts } from "../advice";
import { NO_HISTORY } from "../population/hypotheses";
import { lookOf, weighedSteps } from "../population/look";
import { noticedIn } from "../population/noticed";
import { observe, Posterior } from "./posterior";
import { pushesOf } from "./push";

const sheet = sheetOf("corvane-ferrel-650");
const population = populationOf(sheet);
const METER = { ...ASSUMED_METER, ohmsResolution: 0.01 };

/** Readings of every step that the engine may ask for, off a simulated machine. */
function readingsOf(faults: SetFault[], charge = 0.9): Reading[] {
  const condition = conditionOf(faults, { charge });
  return (
    weighedSteps(sheet)
      // The circuit takes its time: one leg's drop will do.
      .filter(({ test: id, at }) => id !== "swap.unit" && (id !== "stator.legDrop" || at === "1"))
      .map((step, i) => ({ ...step, id: `r${i}`, value: simulateStep(sheet, condition, step, METER).value, raw: true }))
  );
}

function adviceOn(readings: readonly Reading[], over: Partial<JobFacts> = {}): Advice {
  return advise(population, jobFacts(readings, { meter: METER, ...over }));
}

const oddsBySet = (advice: Advice): Map<string, number> => new Map(advice.sets.map(({ what, odds }) => [what, odds]));
const GROUNDED = readingsOf([{ fault: "stator.winding-grounded", at: "2", severity: 5, along: 0.4 }], 0.5);
const OPEN_DIODE = readingsOf([{ fault: "regulator.diode-open", at: "3>B+" }], 0.6);

describe("the standing", () => {
  test("is the same in whatever order the readings were taken", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(GROUNDED, OPEN_DIODE),
        fc.array(fc.nat(40), { minLength: 3, maxLength: 9 }),
        fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })),
        (all, picks, chance) => {
          const some = [...new Set(picks)].flatMap((k) => all[k] ?? []);
          const order = some.map((reading) => ({ reading, at: chance.next().value as number }));
          const shuffled = order.sort((a, b) => a.at - b.at).map(({ reading }) => reading);
          const [ordered, other] = [oddsBySet(adviceOn(some)), oddsBySet(adviceOn(shuffled))];
          for (const [set, odds] of ordered) expect(other.get(set) ?? 0).toBeCloseTo(odds, 6);
        },
      ),
      { numRuns: 12 },
    );
  });

  test("is not moved by a reading that says nothing", () => {
    const some = OPEN_DIODE.slice(3, 12);
    const [before, after] = [oddsBySet(adviceOn(some)), oddsBySet(adviceOn([...some, { id: "x", test: "drain.connectorParted", value: 12.4 }]))];
    expect(after).toEqual(before);
    // Fluid cannot be looked at in a sealed battery: whatever is said of it says nothing.
    const sealed = oddsBySet(adviceOn([...some, { id: "y", test: "inspect.fluid", value: "ok" }]));
    for (const [set, odds] of before) expect(sealed.get(set) ?? 0).toBeCloseTo(odds, 2);
  });

  test("takes of a crank that was caught whole what the engine turned at, not its first pull", () => {
    const some = OPEN_DIODE.filter(({ test: id }) => id !== "battery.crank").slice(0, 6);
    const odds = (crank: Partial<Reading>): Map<string, number> => oddsBySet(adviceOn([...some, { id: "k", test: "battery.crank", value: 10.6, ...crank }]));
    const [held, caught, low] = [odds({}), odds({ value: 8.9, swing: 1.7 }), odds({ value: 8.9 })];
    for (const [set, stated] of held) expect(caught.get(set) ?? 0).toBeCloseTo(stated, 9);
    expect(low.get("battery") ?? 0).toBeGreaterThan(2 * (held.get("battery") ?? 0));
  });

  test("is never above 0.99 after one reading, whatever it says", () => {
    const values: Partial<Record<string, (number | string)[]>> = {
      "battery.rest": [2, 8.4, 11, 12.7, 16],
      "charge.volts": [5, 11, 14.2, 18, 25],
      "stator.toGround": [0, 40, "OL"],
      "stator.resistance": [0, 0.3, 2, "OL"],
      "regulator.diode": [0, 0.5, 1.2, "OL"],
      "drain.current": [0.2, 60, 3000],
      "starter.cableDrop": [0.1, 3],
      "stator.acVolts": [0, 61, 20],
      "regulator.feed": [0, 12.4],
      "inspect.connector": ["clean", "melted"],
    };
    for (const step of weighedSteps(sheet)) {
      for (const value of values[step.test] ?? []) {
        const [first] = adviceOn([{ ...step, id: "one", value }]).sets;
        expect([step.test, step.at, value, (first?.odds ?? 0) <= 0.99]).toEqual([step.test, step.at, value, true]);
      }
    }
  });

  test("of two readings that contradict each other is doubt, not certainty", () => {
    const pair: Reading[] = [
      { id: "a", test: "battery.rest", value: 12.8 },
      { id: "b", test: "battery.rest", value: 10.2 },
    ];
    const advice = adviceOn(pair);
    expect(advice.sets[0]?.odds).toBeLessThan(0.9);
    const posterior = new Posterior(population, population.priors(NO_HISTORY), observe(pair, population, METER));
    expect((posterior.misread[0] as number) + (posterior.misread[1] as number)).toBeGreaterThan(0.9);
    const rest = GROUNDED.filter(({ test: id }) => id.startsWith("battery"));
    expect(adviceOn([...rest, { id: "z", test: "battery.rest", value: 6.1 }]).doubts.map(({ reading }) => reading)).toEqual([rest.length]);
  });

  test("names the misread among readings that agree", () => {
    const some = GROUNDED.filter(({ test: id }) => /^(stator|charge)/.test(id));
    const wrong = some.findIndex(({ test: id, rpm }) => id === "stator.acVolts" && rpm === 5000);
    const readings = some.map((reading, i) => (i === wrong ? { ...reading, value: 400 } : reading));
    expect(adviceOn(readings).doubts.map(({ reading }) => reading)).toContain(wrong);
    expect(adviceOn(some).doubts.map(({ reading }) => reading)).not.toContain(wrong);
  });

  test.each<[string, Partial<Reading>]>([
    ["an impossible figure", { test: "battery.rest", value: Number.NaN }],
    ["an endless one", { test: "charge.volts", rpm: 5000, value: Number.POSITIVE_INFINITY }],
    ["a word that is on no list", { test: "inspect.terminals", value: "wobbly" }],
    ["a huge one", { test: "drain.current", value: 1e12 }],
    ["a negative one", { test: "stator.resistance", at: "1-2", value: -3 }],
    ["a fuse this machine lacks", { test: "drain.fusePulled", at: "F9", value: 3 }],
    ["a leg this machine lacks", { test: "stator.toGround", at: "9", value: 3 }],
    ["nothing at all", { test: "battery.crank", value: "" }],
  ])("survives %s", (_what, reading) => {
    const advice = adviceOn([{ id: "bad", ...reading } as Reading, ...OPEN_DIODE.slice(0, 5)]);
    expect(Number.isFinite(advice.sets[0]?.odds)).toBe(true);
    expect(advice.sets.reduce((sum, { odds }) => sum + odds, 0)).toBeLessThan(1.0001);
  });

  test("survives the same reading forty times", () => {
    const many = Array.from({ length: 40 }, (_, i): Reading => ({ id: `m${i}`, test: "battery.crank", value: 8 + 0.01 * i }));
    expect(adviceOn(many).sets[0]?.odds).toBeGreaterThan(0);
  });
});

describe("cells of a battery", () => {
  const weighed = (...volts: number[]): number[] => {
    const readings = volts.map((value, k): Reading => ({ id: `c${k}`, test: "battery.cell", at: `${(k % 6) + 1}`, value }));
    return observe(readings, population, METER).map(({ reading }) => reading);
  };

  test("are weighed by the lowest of a whole set, or by one that stands out before; fewer that are alike say nothing", () => {
    expect(weighed(2.11, 2.1, 2.12)).toEqual([]);
    expect(weighed(2.11, 2.1, 2.12, 2.11, 2.08, 2.12)).toEqual([4]);
    expect(weighed(2.11, 0.4)).toEqual([1]);
  });

  test("a cell that was read again counts as it was read last", () => {
    expect(weighed(0.4, 2.08, 2.12, 2.11, 2.12, 2.12, 2.1)).toEqual([1]);
  });
});

describe("the sums behind it", () => {
  test("volts at the set point speak for no fault, however strong the generator seemed before", () => {
    const flat: Omit<Reading, "id">[] = [
      { test: "battery.rest", value: 12.3 },
      { test: "charge.volts", rpm: 5000, loads: "off", value: 14.6 },
      { test: "charge.volts", rpm: 5000, loads: "all", value: 14.6 },
      { test: "charge.volts", rpm: "idle", loads: "normal", value: 14.2 },
      { test: "charge.volts", rpm: "idle", loads: "normal", charged: true, value: 14.6 },
    ];
    const odds = (count: number): number => {
      const { sets } = advise(populationOf(unlistedSheet("three-phase-shunt", 12)), jobFacts(flat.slice(0, count), { meter: METER }));
      return sets.filter(({ what }) => what === "" || what === "charge").reduce((sum, set) => sum + set.odds, 0);
    };
    expect(odds(5)).toBeGreaterThan(0.8 * odds(4));
  });

  test("a meter that reads all volts a tenth too high is found out, and no part for it", () => {
    const off: Omit<Reading, "id">[] = [
      { test: "battery.rest", value: 13.9 },
      { test: "battery.settled", value: 13.5 },
      { test: "battery.crank", value: 11.9 },
      { test: "charge.volts", rpm: 5000, loads: "normal", value: 15.7 },
      { test: "charge.volts", rpm: 5000, loads: "all", value: 15.7 },
    ];
    const { together } = adviceOn(off.map((reading, i) => ({ ...reading, id: String(i) })));
    expect(together.map(({ readings }) => readings)).toContainEqual([0, 1, 2, 3, 4]);
  });

  test("a gross misread colours nothing of what the others are expected to show, nor of what is foreseen", () => {
    const sound = readingsOf([], 0.9).filter(({ test: id }) => id.startsWith("battery.") || id === "charge.volts");
    const wrong: Reading = { ...(sound.find(({ test: id, loads }) => id === "charge.volts" && loads === "normal") as Reading), id: "wrong", value: 22.2 };
    const posterior = (readings: Reading[]) => new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, METER));
    const [clean, coloured] = [posterior(sound), posterior([...sound, wrong])];
    const healthy = population.particles.findIndex(({ candidate }) => candidate.faults.length === 0);
    sound.forEach(({ test: id }, j) => {
      const [before, after] = [clean.expected(healthy, j), coloured.expected(healthy, j)];
      if (before.kind !== "figure" || after.kind !== "figure") throw new Error(`${id} is a figure`);
      expect(Math.abs(after.at - before.at)).toBeLessThan(0.05);
    });
    const last = coloured.expected(healthy, sound.length);
    if (last.kind !== "figure") throw new Error("charging volts are a figure");
    expect(last.off).toBeGreaterThan(6);
    const ahead = population.column(lookOf({ test: "charge.outputVolts", rpm: 5000, loads: "normal" }));
    const foreseen = [clean, coloured].map((posterior) => {
      const into = { mean: 0, variance: 0 };
      posterior.foresee(ahead, healthy, into);
      return into.mean;
    });
    expect(Math.abs((foreseen[1] as number) - (foreseen[0] as number))).toBeLessThan(0.05);
  });

  test("what a strong machine hides is no evidence against it: charging volts held under all loads clear a machine that has nothing to spare, not one that has", () => {
    const odds = (id: string, readings: Omit<Reading, "id">[]): number => {
      const machine = populationOf(unlistedSheet("three-phase-shunt", 12));
      const facts = jobFacts(readings, { meter: METER });
      const observations = observe(facts.readings, machine, METER);
      // What the readings themselves say: how seldom anybody brings in what shows nowhere is taken out again.
      const noticed = noticedIn(machine, observations);
      const weights = new Posterior(machine, machine.priors(NO_HISTORY), observations).weights.map((weight, i) => weight / (noticed[i] as number));
      const of = (faults: string): number =>
        machine.particles.reduce((sum, { candidate }, i) => {
          const named = candidate.faults.map(({ fault }) => fault).join("+");
          return named === faults ? sum + (weights[i] as number) : sum;
        }, 0);
      return of(id) / of("");
    };
    const held: Omit<Reading, "id">[] = [
      { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.4 },
      { test: "charge.volts", rpm: 5000, loads: "all", value: 14.4 },
      { test: "charge.volts", rpm: "idle", loads: "normal", value: 14.3 },
    ];
    // One diode of six costs a sixth of the output, which most machines have to spare; a dead unit shows at once.
    expect(odds("regulator.diode-open", held)).toBeGreaterThan(0.25 * odds("regulator.diode-open", []));
    expect(odds("stator.turns-shorted", held)).toBeGreaterThan(0.1 * odds("stator.turns-shorted", []));
    expect(odds("regulator.no-output", held)).toBeLessThan(0.01 * odds("regulator.no-output", []));
  });

  test("three misreads of thirty are no fault: what is read again and does not repeat is left out", () => {
    const sound = readingsOf([], 0.9).map((reading) => ({ ...reading, id: `s${reading.id}` }));
    const wrong = sound
      .filter(({ test: id }) => id === "regulator.diode")
      .filter(({ value }) => isNumber(value))
      .slice(0, 3);
    const misread = wrong.map((reading, k) => ({ ...reading, id: `w${k}`, value: 0.03 }));
    expect(misread).toHaveLength(3);
    const parts = (readings: Reading[]): number => adviceOn(readings).parts.find(({ what }) => what === "regulator")?.odds ?? 1;
    expect(parts([...sound, ...misread])).toBeLessThan(3 * Math.max(0.02, parts(sound)));
  });

  test("healthy volts read again after a charge, where a worn battery foresees the first better than the second, make no part sure", () => {
    const volts = (value: number, over: Partial<Reading>, i: number): Reading => ({
      id: `${i}`,
      test: "charge.volts",
      rpm: "idle",
      loads: "normal",
      value,
      ...over,
    });
    const readings = [volts(13.74, {}, 0), volts(13.92, { charged: true }, 1), volts(14.29, { rpm: 3000, loads: "all" }, 2)];
    const { sets } = advise(populationOf(unlistedSheet("single-phase-two-wire", 12, "outboard")), jobFacts(readings));
    expect(sets.filter(({ what, odds }) => what !== "" && what !== "charge" && odds > 0.6)).toEqual([]);
  });

  test("what would be seen next is nearer, the more has been read", () => {
    const look = observe([GROUNDED.find(({ test: id, at }) => id === "stator.acVolts" && at === "2-3") as Reading], population, METER)[0];
    if (!look) throw new Error("not weighed");
    const column = population.column(look.look);
    const spread = (readings: Reading[]): number => {
      const seen = { mean: 0, variance: 0 };
      new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, METER)).foresee(column, 0, seen);
      return seen.variance;
    };
    const other = GROUNDED.filter(({ test: id, at, rpm }) => id === "stator.acVolts" && at !== "2-3" && rpm === 5000);
    expect(spread(other)).toBeLessThan(0.5 * spread([]));
  });
});

describe("pushes", () => {
  test("are each reading's own: others beside it change nothing", () => {
    const priors = population.priors(NO_HISTORY);
    const some = observe(GROUNDED.slice(4, 10), population, METER);
    const alone = some.map((observation) => pushesOf(population, priors, [observation])[0]);
    expect(pushesOf(population, priors, some)).toEqual(alone);
  });

  test("healthy charging volts speak against a dead unit, and no more against the stator than the circuit does", () => {
    const step = { test: "charge.volts", rpm: 5000, loads: "all" } as const;
    const volts = (faults: SetFault[]): unknown => simulateStep(sheet, conditionOf(faults, { charge: 0.9 }), step, METER).value;
    const sound = volts([]) as number;
    // Two legs of three still carry the loads at this speed: the volts cannot tell.
    expect(volts([{ fault: "stator.winding-open", at: "1" }])).toBe(sound);
    expect(volts([{ fault: "stator.turns-shorted", at: "1", severity: 0.6 }])).toBe(sound);
    expect(volts([{ fault: "regulator.no-output" }])).toBeLessThan(sound - 1);
    const push = pushesOf(population, population.priors(NO_HISTORY), observe([{ id: "c", ...step, value: sound }], population, METER))[0];
    expect(push?.regulator).toBeLessThan(-0.3);
    expect(Math.abs(push?.stator ?? 0)).toBeLessThan(Math.abs(push?.regulator ?? 0));
  });

  test("a path to the case speaks for the stator, full AC volts against the rotor", () => {
    const priors = population.priors(NO_HISTORY);
    const touch = observe([{ id: "t", test: "stator.toGround", at: "2", value: 3 }], population, METER);
    expect(pushesOf(population, priors, touch)[0]?.stator).toBeGreaterThan(1);
    const turns = observe([{ id: "c", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 61.5 }], population, METER);
    expect(pushesOf(population, priors, turns)[0]?.rotor).toBeLessThan(-0.5);
  });
});
