import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { atlasOf, populationOf, sheetOf } from "../../tests/support/population";
import { advise } from "../diagnosis/advice";
import { buildsOf } from "../diagnosis/population/builds";
import { lookOf, weighedSteps } from "../diagnosis/population/look";
import { NO_OFFSETS } from "../diagnosis/population/nuisance";
import { predict } from "../diagnosis/population/predict";
import { Subject, surroundingsOf } from "../diagnosis/population/subject";
import { ASSUMED_METER } from "../meter/meter";
import { CATALOGUE, testOf } from "../procedure/catalogue";
import { controlsOf } from "../procedure/controls";
import { stepProblem } from "../procedure/entry";
import { layReady } from "../procedure/layReady";
import { proofSteps } from "../procedure/runlist";
import { simulateStep } from "../procedure/simulate";
import { isTaken, type Reading, type Step, stepKey, stepsOf } from "../procedure/step";
import { chargePlan } from "../procedure/waits";
import { conditionOf } from "./condition";
import { DEFECTS, type SetFault } from "./defects";
import { FAULTS } from "./faults";
import { placesOf, unfitReason } from "./places";
import { pointName } from "./points";
import { parseSheet, type Sheet } from "./sheet";
import { unlistedSheet } from "./unlisted";

const trail = sheetOf("ostrel-sanderling-250");
const mower = sheetOf("mossgate-cloister-18");
const RUN = { rpm: trail.testRpm, loads: "normal" } as const;
const RIPPLE: Step = { test: "charge.ripple", ...RUN };
const DRY: SetFault = { fault: "battery.capacitor-dry" };

const shown = (step: Step, faults: readonly SetFault[] = [], sheet = trail): number =>
  Number(simulateStep(sheet, conditionOf(faults), step, ASSUMED_METER).value);

describe("a machine with a capacitor in its battery's place", () => {
  test("is held at its set point like one with a battery, and has no volts at rest", () => {
    for (const loads of ["off", "normal", "all"] as const) {
      const volts = shown({ test: "charge.volts", rpm: trail.testRpm, loads });
      expect([loads, volts > 13.4 && volts < 14.8]).toEqual([loads, true]);
    }
    expect(shown({ test: "battery.rest" })).toBe(0);
    expect(shown({ test: "charge.volts", ...RUN }, [{ fault: "regulator.output-open" }])).toBeLessThan(0.5);
  });

  test("lets the pulses through once it has dried out, while a meter on volts DC sees nothing", () => {
    expect(shown(RIPPLE, [DRY])).toBeGreaterThan(3 * shown(RIPPLE));
    expect(Math.abs(shown({ test: "charge.volts", ...RUN }, [DRY]) - shown({ test: "charge.volts", ...RUN }))).toBeLessThan(0.3);
  });

  test("is asked nothing of a battery, a starter or a drain, on any list", () => {
    const taken = CATALOGUE.filter((row) => isTaken(row, trail)).map(({ id }) => id);
    expect(taken.filter((id) => /^(battery|starter|drain)\.|feed/.test(id))).toEqual([]);
    expect(taken).toEqual(expect.arrayContaining(["charge.volts", "charge.ripple", "stator.acVolts", "regulator.diode", "fuse.continuity"]));
    expect(controlsOf(trail, ["short-hops"], [])?.controls.map(({ step }) => step.test)).toEqual(["charge.volts"]);
    expect(proofSteps(trail, [], DRY.fault).map(({ test: id }) => id)).toContain("charge.ripple");
    expect(proofSteps(trail, [], DRY.fault).map(({ test: id }) => id)).not.toContain("battery.rest");
    expect(layReady(trail, []).join()).not.toMatch(/acid/);
    expect(() => chargePlan(trail, undefined, 12, 1)).toThrow("not put on a charger");
    expect(stepProblem({ test: "battery.rest" }, trail)?.error).toMatch(/^“battery\.rest” is not a test of single-phase-two-wire with a capacitor\. Known: /);
    expect(pointName("battery+", trail)).toBe("capacitor plus terminal");
  });

  test("has no fault of batteries, starters or drains, and no battery has its own", () => {
    const fitting = FAULTS.filter(({ id }) => !unfitReason(id, trail)).map(({ id }) => id);
    expect(fitting.filter((id) => /^(battery|starter)\.|parasitic|leaky/.test(id))).toEqual([DRY.fault]);
    expect(unfitReason(DRY.fault, mower)).toMatch(/a battery, not a capacitor/);
  });
});

describe("its sheet", () => {
  const problems = (battery: object, over: object = {}): string[] => {
    const parsed = parseSheet({ ...trail, ...over, battery });
    return parsed.ok ? [] : parsed.problems.map(({ field, error }) => `${field} ${error}`);
  };

  test("has microfarads and neither Ah nor cranking amps; a battery's has none", () => {
    expect(problems({ chemistry: "capacitor", microfarads: 22_000 })).toEqual([]);
    expect(problems({ chemistry: "capacitor" })).toEqual([]);
    expect(problems({ chemistry: "capacitor", ah: 9 })).toEqual(["battery.ah is a figure of batteries; a capacitor has microfarads"]);
    expect(problems({ chemistry: "capacitor", cca: 90 })).toEqual(["battery.cca is a figure of batteries; a capacitor has microfarads"]);
    expect(problems({ chemistry: "agm", microfarads: 22_000 })).toEqual(["battery.microfarads is a figure of capacitors; a battery has none"]);
    expect(problems({ chemistry: "capacitor", microfarads: 5 })).toEqual(["battery.microfarads must be 1000 µF or more"]);
  });

  test.each([
    ["tidewright-farway-29", "its field is fed by one"],
    ["corvane-merle-250", "its field is fed by one"],
    ["mossgate-pavilion-12", "nothing else holds its volts"],
  ])("%s cannot do without a battery", (id, why) => {
    const parsed = parseSheet({ ...sheetOf(id), battery: { chemistry: "capacitor" } });
    expect(parsed.ok ? [] : parsed.problems).toEqual([{ field: "battery.chemistry", error: expect.stringContaining(why) }]);
  });
});

describe("the engine on it", () => {
  const read = (faults: readonly SetFault[], steps: readonly Step[]): Reading[] =>
    steps.map((step, i) => ({ ...step, id: String(i), value: simulateStep(trail, conditionOf(faults), step, ASSUMED_METER).value, raw: true }));
  const charging = stepsOf(testOf("charge.volts"), trail);

  test("asks for what a hand can read there, calmly", () => {
    const { next } = advise(populationOf(trail), jobFacts());
    expect(next.length).toBeGreaterThan(0);
    for (const { step } of next) expect([step.test, isTaken(testOf(step.test), trail)]).toEqual([step.test, true]);
  });

  test("finds a dry capacitor by its ripple, and not where the ripple is small", () => {
    const led = (faults: readonly SetFault[]) => {
      const [first] = advise(populationOf(trail), jobFacts(read(faults, [...charging, RIPPLE]))).sets;
      return first;
    };
    expect(led([DRY])).toMatchObject({ what: "battery", odds: expect.any(Number) });
    expect(led([DRY])?.odds).toBeGreaterThan(0.6);
    expect(led([])?.what).not.toBe("battery");
  });

  test("expects a figure of every fault that it can have, at every step", () => {
    const [build] = buildsOf(trail);
    if (!build) throw new Error("no build");
    const around = surroundingsOf(build, atlasOf(trail), 20);
    for (const { id } of FAULTS.filter((fault) => !unfitReason(fault.id, trail))) {
      const [at] = placesOf(id, trail);
      const candidate = {
        faults: [{ fault: id, ...(at ? { at } : {}), severity: DEFECTS[id].severity.typical }],
        charge: 0.9,
        early: true,
        fuse: 1,
        alwaysLit: false,
      };
      const subject = new Subject(around, candidate, { warm: true, running: true, charged: false, mended: [] });
      for (const step of weighedSteps(trail)) {
        const said = predict(subject, lookOf(step), NO_OFFSETS);
        if ("at" in said) expect([id, stepKey(step), Number.isFinite(said.at)]).toEqual([id, stepKey(step), true]);
      }
    }
  });

  test("finds the broken way out of the unit: nothing at the capacitor, the set volts at the unit", () => {
    const steps: Step[] = [...charging, { test: "charge.outputVolts", ...RUN }];
    const [first] = advise(populationOf(trail), jobFacts(read([{ fault: "wiring.feed-open" }], steps))).sets;
    expect(first).toMatchObject({ what: "wiring" });
  });

  test("blames the unit where AC is good and nothing comes out, and proves the repair without a battery", () => {
    const dead = read(
      [{ fault: "regulator.no-output" }],
      [
        ...charging,
        RIPPLE,
        ...stepsOf(testOf("stator.acVolts"), trail),
        ...stepsOf(testOf("stator.resistance"), trail),
        ...stepsOf(testOf("stator.toGround"), trail),
        ...stepsOf(testOf("regulator.ground"), trail),
        ...stepsOf(testOf("fuse.continuity"), trail),
      ],
    );
    const before = advise(populationOf(trail), jobFacts(dead));
    expect(before.sets[0]).toMatchObject({ what: "regulator" });
    const after = advise(populationOf(trail), jobFacts(dead, { mended: ["regulator"] }));
    expect(after.next.slice(0, 2).map(({ step }) => step.test)).toEqual(["charge.volts", "charge.volts"]);
  });

  test("knows one that nobody has a sheet for", () => {
    const unlisted: Sheet = unlistedSheet("single-phase-two-wire", 12, "motorcycle", { stores: "capacitor" });
    expect(unlisted.battery).toEqual({ chemistry: "capacitor" });
    const { next } = advise(populationOf({ ...unlisted, id: "unlisted-capacitor" }), jobFacts([{ ...RIPPLE, value: 2.4 }]));
    for (const { step } of next) expect(isTaken(testOf(step.test), unlisted)).toBe(true);
  });
});
