import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS, demoSheet } from "../../demo/sheets";
import { absurdities } from "../machine/absurd";
import { conditionOf, stateOf } from "../machine/condition";
import { DEFECTS, type SetFault } from "../machine/defects";
import { FAULTS, type FaultId } from "../machine/faults";
import { parseFaults } from "../machine/parse";
import { placesOf, unfitReason } from "../machine/places";
import { pointsAlong } from "../machine/points";
import { parseSheet, type Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import { readMeter } from "../meter/read";
import { isNumber, type ReadingValue } from "../units";
import { CATALOGUE, type TestId } from "./catalogue";
import { stepProblem } from "./entry";
import { isBad, judgeAll } from "./judge";
import { schoolOf } from "./schools";
import { simulateStep, standingFor } from "./simulate";
import { type Step, stepKey, stepsOf, type Touched } from "./step";

const METER = { name: "m", leadOhms: 0, ohmsResolution: 0.001, trueRms: true, diodeMaxVolts: 2.6 };
const wye = demoSheet("corvane-ferrel-650") as Sheet;
const delta = demoSheet("brannoch-corrie-600") as Sheet;
const flooded = demoSheet("tidewright-sound-40") as Sheet;
const series = demoSheet("brannoch-fell-850") as Sheet;
const mosfet = demoSheet("tidewright-reach-90") as Sheet;

/** Takes a test at all its points, first run only unless told which. */
function take(sheet: Sheet, faults: SetFault[], id: TestId, pick: (step: Step) => boolean = () => true): ReadingValue[] {
  const row = CATALOGUE.find((row) => row.id === id) as (typeof CATALOGUE)[number];
  return stepsOf(row, sheet)
    .filter(pick)
    .map((step) => simulateStep(sheet, conditionOf(faults), step, METER).value);
}
/** One reading of each of a few tests that between them touch every part. */
function looks(sheet: Sheet, faults: SetFault[]): ReadingValue[] {
  const steps: Step[] = [
    { test: "battery.crank" },
    { test: "charge.volts", rpm: 5000, loads: "normal" },
    { test: "charge.volts", rpm: 5000, loads: "all" },
    { test: "stator.acVolts", at: "1-2", rpm: 5000 },
    { test: "stator.resistance", at: "1-2" },
    { test: "stator.toGround", at: "1" },
    { test: "regulator.diode", at: "1>B+" },
    { test: "regulator.ground" },
    { test: "drain.current" },
    { test: "starter.cableDrop" },
    { test: "stator.acVoltsAtUnit", at: "1-2", rpm: 5000 },
    { test: "rotor.pull" },
  ];
  return steps.map((step) => simulateStep(sheet, conditionOf(faults), step, METER).value);
}
const fast = (step: Step): boolean => step.rpm !== "idle" && step.loads !== "all";

describe("a sound machine", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s: every test on the list comes out in band", (_id, sheet) => {
    const steps = CATALOGUE.filter((test) => !("onlyWhenAsked" in test)).flatMap((row) => stepsOf(row, sheet));
    const condition = conditionOf([], { charge: 1 });
    const readings = steps.map((step, i) => ({ ...step, id: String(i), value: simulateStep(sheet, condition, step, METER, { restHours: 12 }).value }));
    const judged = judgeAll(readings, { sheet, school: schoolOf("harbour"), meter: METER, ambientC: 20 });
    expect(
      judged
        .filter((judgedReading) => isBad(judgedReading.judged))
        .map((judgedReading) => `${stepKey(judgedReading.reading)} ${judgedReading.value} ${judgedReading.judged}`),
    ).toEqual([]);
  });

  test("without a sheet still runs and charges", () => {
    for (const volts of [6, 12] as const) {
      const [charging] = take(unlistedSheet("three-phase-shunt", volts), [], "charge.volts", fast);
      expect(charging).toBeGreaterThan(13.8 * (volts / 12));
      expect(charging).toBeLessThan(15 * (volts / 12));
    }
  });

  test("every point can be probed against every other, at rest and running", () => {
    const points = pointsAlong(wye);
    for (const engine of ["off", "running"] as const) {
      const state = stateOf(wye, conditionOf(), engine === "running");
      const standing = { engine, key: "on" as const, rpm: 3000, loads: "normal" as const, unplug: [], pulled: [] };
      for (const [i, red] of points.entries()) {
        const black = points[(i * 7 + 3) % points.length] as (typeof points)[number];
        if (red !== black) expect(readMeter(state, standing, "V DC", { red, black }, METER).value).toEqual(expect.any(Number));
      }
    }
  });
});

describe("what faults look like follows from the circuit", () => {
  test("wye, one winding open: two pairs open, one as it was", () => {
    expect(take(wye, [{ fault: "stator.winding-open", at: "1" }], "stator.resistance")).toEqual(["OL", expect.closeTo(0.3, 2), "OL"]);
  });

  test("delta, one winding open: its pair sees the other two in series, the others one winding each", () => {
    const [open, ...others] = take(delta, [{ fault: "stator.winding-open", at: "1" }], "stator.resistance") as number[];
    expect(open).toBeCloseTo(2 * (others[0] as number), 2);
    expect(others[0]).toBeCloseTo(others[1] as number, 6);
    expect(others[0]).toBeCloseTo(0.6, 2);
  });

  test("a joint that resists adds its ohms to the two pairs of its winding, and costs nothing until current flows", () => {
    const joint: SetFault[] = [{ fault: "stator.joint-resists", at: "2", severity: 4 }];
    const [sound, ill] = [take(wye, [], "stator.resistance"), take(wye, joint, "stator.resistance")] as [number[], number[]];
    expect(ill.map((ohms, pair) => Math.round(10 * (ohms - (sound[pair] as number))) / 10)).toEqual([4, 4, 0]);
    expect(take(wye, joint, "stator.acVolts")).toEqual(take(wye, [], "stator.acVolts"));
  });

  test("a touch: the faulted leg is the lowest, the others equal, and the place can be worked out", () => {
    const [faulted, sound, other] = take(wye, [{ fault: "stator.winding-grounded", at: "1", along: 0.4, severity: 0 }], "stator.toGround") as number[];
    expect(sound).toBeCloseTo(other as number, 3);
    expect(faulted).toBeCloseTo(0.4 * 0.15, 2);
    expect(sound).toBeCloseTo(0.15 + 0.6 * 0.15, 2);
  });

  test("a burnt pin is not seen on the part side, and is at the unit", () => {
    const burnt: SetFault[] = [{ fault: "wiring.cable-broken", at: "2" }];
    const [sound] = take(wye, [], "stator.acVolts", fast) as number[];
    for (const volts of take(wye, burnt, "stator.acVolts", fast)) expect(volts).toBeCloseTo(sound as number, 0);
    const atUnit = take(wye, burnt, "stator.acVoltsAtUnit") as number[];
    expect([atUnit[0], atUnit[1]].every((volts) => (volts as number) < 0.3 * (sound as number))).toBe(true);
    expect(atUnit[2]).toBeCloseTo(sound as number, 0);
  });

  test("a leaky diode drains, and no more once the unit is unplugged", () => {
    const leaky: SetFault[] = [
      { fault: "regulator.diode-leaky", at: "1>B+", severity: 100 },
      { fault: "regulator.diode-leaky", at: "B->1", severity: 100 },
    ];
    const [drain] = take(wye, leaky, "drain.current") as number[];
    expect(drain).toBeGreaterThan(50);
    expect(take(wye, leaky, "drain.unitUnplugged")[0]).toBeLessThan(1);
  });

  test("a shorted lower diode shows both ways on its leg alone", () => {
    const seen = take(wye, [{ fault: "regulator.diode-shorted", at: "B->2" }], "regulator.diode") as number[];
    expect(seen.filter((volts) => isNumber(volts) && volts < 0.05)).toHaveLength(2);
  });

  test("families: series reads open both ways at the top, a synchronous unit lower than plain diodes", () => {
    const upper = (step: Step): boolean => step.at === "1>B+" || step.at === "B+>1";
    expect(take(series, [], "regulator.diode", upper)).toEqual(["OL", "OL"]);
    expect((take(mosfet, [], "regulator.diode", upper) as number[])[0]).toBeLessThan((take(wye, [], "regulator.diode", upper) as number[])[0] as number);
  });

  test("an unregulated machine boils its battery; volts lost in the wire stand between unit and battery", () => {
    expect(take(wye, [{ fault: "regulator.never-regulates" }], "charge.volts", fast)[0]).toBeGreaterThan(16);
    const lossy: SetFault[] = [{ fault: "wiring.output-resistance", severity: 0.15 }];
    const [drop] = take(wye, lossy, "charge.positiveDrop") as number[];
    const [out] = take(wye, lossy, "charge.outputVolts") as number[];
    const [home] = take(wye, lossy, "charge.volts", fast) as number[];
    expect(drop).toBeGreaterThan(1);
    expect((out as number) - (home as number)).toBeCloseTo(drop as number, 1);
  });

  test("regulated volts hide what AC shows at once: half a winding's turns shorted", () => {
    const shorted: SetFault[] = [{ fault: "stator.turns-shorted", at: "3", severity: 0.5 }];
    const [sound, ailing] = [take(wye, [], "charge.volts", fast)[0] as number, take(wye, shorted, "charge.volts", fast)[0] as number];
    expect(Math.abs(sound - ailing)).toBeLessThan(0.15);
    const ac = take(wye, shorted, "stator.acVolts", fast) as number[];
    expect(Math.min(...ac)).toBeLessThan(0.85 * Math.max(...ac));
  });

  test("a burnt stator gives less of everything, alike on every pair", () => {
    const burnt: SetFault[] = [{ fault: "stator.burnt", severity: 0.3 }];
    const [sound, ac] = [take(wye, [], "stator.acVolts", fast), take(wye, burnt, "stator.acVolts", fast)] as [number[], number[]];
    // Shorted turns carry a current of their own against the magnets: far more is lost than their share.
    for (const [k, volts] of ac.entries()) expect(volts).toBeLessThan(0.5 * (sound[k] as number));
    expect(Math.max(...ac) - Math.min(...ac)).toBeLessThan(0.02 * Math.max(...ac));
    const ohms = take(wye, burnt, "stator.resistance") as number[];
    for (const [k, pair] of (take(wye, [], "stator.resistance") as number[]).entries()) expect(ohms[k]).toBeLessThan(pair);
    expect(take(wye, burnt, "stator.toGround")).toEqual(["OL", "OL", "OL"]);
    const [carried, whole] = [burnt, []].map(
      (faults) => take(wye, faults, "charge.volts", ({ rpm, loads }) => rpm === 5000 && loads === "all")[0] as number,
    ) as [number, number];
    expect(carried).toBeLessThan(whole - 0.3);
  });

  test("an upper diode shorted beside a firing shunt shorts the battery: the fuse melts, and that is said", () => {
    const step: Step = { test: "charge.volts", rpm: 5000, loads: "normal" };
    const { notes } = simulateStep(wye, conditionOf([{ fault: "regulator.diode-shorted", at: "1>B+" }]), step, METER);
    expect(notes.join()).toMatch(/fuse main has melted/);
  });

  test("a tachometer counts what swings on its wire: not an open leg of a wye, yet one of a delta; nothing that a unit holds down", () => {
    const counts = (sheet: Sheet, ...faults: SetFault[]): ReadingValue[] => take({ ...sheet, tach: "1" }, faults, "inspect.tach");
    for (const sheet of [wye, delta]) {
      expect(counts(sheet)).toEqual(["steady"]);
      expect(counts(sheet, { fault: "wiring.leg-burnt", at: "1", severity: 1e8 })).toEqual(["dead"]);
      expect(counts(sheet, { fault: "wiring.leg-burnt", at: "2", severity: 1e8 })).toEqual(["steady"]);
      expect(counts(sheet, { fault: "stator.winding-open", at: "1" })).toEqual([sheet === wye ? "dead" : "steady"]);
    }
    expect(counts(wye, { fault: "regulator.no-output" })).toEqual(["dead"]);
    expect(counts(series, { fault: "regulator.no-output" })).toEqual(["steady"]);
    expect(take(wye, [], "inspect.tach")).toEqual([]);
    expect(stepProblem({ test: "inspect.tach", rpm: 5000 }, wye)).toMatchObject({ field: "test", error: expect.stringContaining("is not a test of") });
  });

  test("words follow too", () => {
    expect(take(wye, [{ fault: "wiring.leg-burnt", at: "1", severity: 2 }], "inspect.connector")).toEqual(["melted", "clean"]);
    expect(take(wye, [{ fault: "wiring.terminals", severity: 0.1 }], "inspect.terminals")).toEqual(["loose"]);
    expect(take(wye, [{ fault: "rotor.weak" }], "rotor.pull")).toEqual(["weak-all"]);
    expect(take(delta, [{ fault: "regulator.set-high" }], "inspect.fluid")).toEqual(["low"]);
    expect(take(delta, [], "inspect.fluid")).toEqual(["ok"]);
    expect(take(wye, [{ fault: "regulator.no-output" }], "swap.unit")).toEqual(["fixed"]);
    expect(take(wye, [{ fault: "regulator.never-regulates" }], "swap.unit")).toEqual(["fixed"]);
    expect(take(wye, [{ fault: "wiring.output-resistance", severity: 0.3 }], "swap.unit")).toEqual(["same"]);
    expect(take(wye, [], "swap.unit")).toEqual(["same"]);
    expect(take(flooded, [{ fault: "rotor.weak" }], "inspect.fluid")).toEqual(["ok"]);
    expect(take(wye, [{ fault: "wiring.fuse-open", at: "F3" }], "fuse.continuity")).toEqual([0.002, "OL"]);
  });

  const every = FAULTS.map((fault) => fault.id as FaultId);
  test.each(every)("%s changes something a meter or an eye can find, at full severity", (fault) => {
    const sheet = [wye, ...DEMO_SHEETS].find((machine) => !unfitReason(fault, machine)) as Sheet;
    const { severity } = DEFECTS[fault];
    const worst =
      fault === "battery.discharged" ||
      fault === "battery.undersized" ||
      fault === "battery.capacitor-dry" ||
      fault === "regulator.diode-leaky" ||
      fault === "stator.windings-bridged" ||
      fault.endsWith("field-grounded")
        ? severity.low
        : severity.high;
    const set: SetFault = { fault, severity: fault.endsWith("hot") ? severity.low : worst };
    expect(looks(sheet, [set])).not.toEqual(looks(sheet, []));
  });
});

describe("bad input", () => {
  test.each<[unknown, RegExp]>([
    [[{ fault: "stator.gone" }], /^faults\.0\.fault: “stator\.gone” is not a fault this edition knows/],
    [[{ fault: "regulator.sense-open" }], /^faults\.0\.fault: regulator\.sense-open cannot be on the Ferrel 650: its unit senses at its own output/],
    [[{ fault: "stator.winding-open", at: "7" }], /^faults\.0\.at: must be one of 1, 2, 3$/],
    [[{ fault: "rotor.weak", at: "1" }], /^faults\.0\.at: rotor\.weak has no place$/],
    [[{ fault: "rotor.weak", severity: 3 }], /^faults\.0\.severity: magnetism lost must be 0\.05 to 0\.95 share$/],
    [[{ fault: "rotor.weak", severity: Number.NaN }], /^faults\.0\.severity: must be a number$/],
    [[{ fault: "rotor.weak", along: 0.5 }], /^faults\.0\.along: rotor\.weak/],
    [[{ fault: "stator.winding-grounded", along: 2 }], /^faults\.0\.along: must be 1 or less$/],
    [[{ fault: "rotor.weak", coupling: 0.5 }], /^faults\.0\.coupling: rotor\.weak shorts no turns$/],
    [[{ fault: "stator.turns-shorted", coupling: 1 }], /^faults\.0\.coupling: must be 0\.95 or less$/],
    ["weak", /^faults\./],
  ])("%j is refused by its field", (data, says) => {
    const parsed = parseFaults(data, wye);
    expect(parsed.ok ? [] : parsed.problems.map(({ field, error }) => `${field}: ${error}`)).toEqual([expect.stringMatching(says)]);
  });

  test("each fault's places are ones it takes", () => {
    for (const { id } of FAULTS)
      for (const at of placesOf(id as FaultId, wye)) if (!unfitReason(id as FaultId, wye)) expect(parseFaults([{ fault: id, at }], wye).ok).toBe(true);
  });

  test("a sheet that could not be is refused, an absurd one simulates", () => {
    expect(parseSheet({ ...wye, polePairs: 0 }).ok).toBe(false);
    const absurd = { ...wye, ratedAmps: 1, loadAmps: { normal: 19, all: 200 } };
    expect(take(absurd, [], "charge.volts", fast)[0]).toBeLessThan(12.3);
    expect(absurdities(absurd, conditionOf())).toContain("loads of 200 A can never be fed by 1 A of output");
    expect(absurdities(wye, conditionOf())).toEqual([]);
  });

  test("a set-up carries speed, loads and what is parted", () => {
    expect(standingFor({ test: "drain.fusePulled", at: "F3" }, wye)).toMatchObject({ engine: "off", key: "out", unplug: ["negative"], pulled: ["F3"] });
    expect(standingFor({ test: "charge.volts", rpm: "idle", loads: "all" }, wye)).toMatchObject({ engine: "running", rpm: wye.idleRpm, loads: "all" });
  });
});

describe("at the battery's posts", () => {
  const take = (test: TestId, faults: SetFault[], touched?: Touched): number =>
    Number(simulateStep(wye, conditionOf(faults), { test }, METER, touched ? { touched } : {}).value);
  const loose: SetFault[] = [{ fault: "wiring.terminals", severity: 0.03 }];

  test("a post loose for the cable is sound to what touches its own lead", () => {
    expect(take("battery.crank", loose)).toBeLessThan(take("battery.crank", []) - 1);
    expect(take("battery.crank", loose, "post")).toBeGreaterThan(take("battery.crank", []) - 0.1);
    expect(take("battery.postDrop", loose)).toBeCloseTo(take("battery.crank", loose, "post") - take("battery.crank", loose), 1);
    expect(take("battery.postDrop", [])).toBeLessThan(0.2);
  });

  test("a tester measures through a loose post only where its clamp sits on the cable's lug", () => {
    for (const test of ["battery.load", "battery.conductance"] as const) {
      expect(take(test, loose)).toBe(take(test, []));
      expect(take(test, loose, "lug")).toBeLessThan(0.85 * take(test, []));
    }
  });

  test("testers that speak otherwise say the same of one battery", () => {
    const worn: SetFault[] = [{ fault: "battery.sulphated", severity: 2.5 }];
    const share = (faults: SetFault[]): number => take("battery.conductance", faults) / take("battery.conductance", []);
    expect(take("battery.crankingAmps", worn) / take("battery.crankingAmps", [])).toBeCloseTo(share(worn), 1);
    expect(take("battery.innerOhms", []) / take("battery.innerOhms", worn)).toBeCloseTo(share(worn), 1);
    expect(take("battery.innerOhms", loose, "lug")).toBeGreaterThan(1.5 * take("battery.innerOhms", loose));
  });

  test("a clamp round the starter's cable tells a starter that draws too much from a cable that passes too little", () => {
    const sound = take("starter.amps", []);
    expect(sound).toBeGreaterThan(20);
    expect(take("starter.amps", [{ fault: "starter.draws-too-much", severity: 1.8 }])).toBeGreaterThan(1.3 * sound);
    expect(take("starter.amps", [{ fault: "starter.cable", severity: 0.03 }])).toBeLessThan(0.9 * sound);
  });

  test("a charger left on lifts what is read without the engine above what any battery has by itself", () => {
    const on: SetFault[] = [{ fault: "battery.charger-on", severity: 14.4 }];
    expect(take("battery.rest", on)).toBeGreaterThan(13.4);
    expect(take("battery.settled", on)).toBeGreaterThan(take("battery.settled", []) + 0.15);
    expect(take("battery.crank", on)).toBeGreaterThan(take("battery.crank", []));
    expect(take("battery.rest", [{ fault: "battery.charger-on", severity: 12 }])).toBeCloseTo(take("battery.rest", []), 1);
  });
});
