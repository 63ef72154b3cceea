import { describe, expect, test } from "@jest/globals";
import { sheetOf } from "../../tests/support/population";
import type { Chemistry } from "../battery/charge";
import { looseProblem } from "../machine/loose";
import type { Sheet } from "../machine/sheet";
import { CATALOGUE } from "./catalogue";
import { notTaken, stepProblem } from "./entry";
import { looseCautions, looseSetUp } from "./loose";
import { beginningOf, movesTo, WHEELED_IN, worked } from "./moves";
import { runList } from "./runlist";
import { SCHOOLS, type School } from "./schools";
import { stepsOf } from "./step";

const ferrel = sheetOf("corvane-ferrel-650");
const generatorOf = (id: string): Sheet => ({ ...sheetOf(id), loose: "generator" });
const [school] = SCHOOLS as [School];

describe("a part without its machine", () => {
  test.each([
    ["battery", ["battery.rest", "battery.load", "battery.conductance", "battery.crankingAmps", "battery.innerOhms", "inspect.fluid"]],
    ["stator", ["stator.resistance", "stator.toGround"]],
    ["regulator", ["regulator.diode"]],
  ] as const)("a %s is put to its own tests", (loose, tests) => {
    const sheet = { ...ferrel, loose };
    const taken = CATALOGUE.filter((test) => stepsOf(test, sheet).length > 0).map(({ id }) => id);
    expect([...taken].sort()).toEqual([...tests].sort());
    expect(stepProblem({ test: "charge.volts", rpm: 5000, loads: "normal" }, sheet)).toMatchObject({ field: "test", error: notTaken("charge.volts", sheet) });
    expect(notTaken("charge.volts", sheet)).toContain(`is not a test of a loose ${loose}`);
  });

  test("a generator with a field is put to the tests of both its windings", () => {
    const taken = (id: string) => CATALOGUE.filter((test) => stepsOf(test, generatorOf(id)).length > 0).map(({ id: test }) => test);
    expect(taken("tidewright-farway-29")).toEqual(expect.arrayContaining(["stator.resistance", "stator.toGround", "field.resistance", "inspect.brushes"]));
    expect(taken("corvane-merle-250")).toEqual(expect.arrayContaining(["generator.motoring", "generator.field", "generator.armature"]));
  });

  test("what a family does not have by itself is refused with what it has", () => {
    const on = (family: string, chemistry: Chemistry = "agm") => ({ family, battery: { chemistry } });
    expect(looseProblem("generator", on("three-phase-shunt"))).toMatch(/magnets in its flywheel; give stator$/);
    expect(looseProblem("stator", on("dc-generator"))).toMatch(/give generator$/);
    expect(looseProblem("regulator", on("dual-output-unregulated"))).toMatch(/built into a lead/);
    expect(looseProblem("battery", on("dual-output-unregulated"))).toBeUndefined();
    expect(looseProblem("battery", on("single-phase-two-wire", "capacitor"))).toMatch(/a capacitor stands in its battery's place/);
  });

  test("lies on the bench: nothing is opened, parted or started, and only what can hurt there is said", () => {
    const from = beginningOf({ ...ferrel, loose: "stator" });
    for (const step of [
      { test: "stator.resistance", at: "1-2" },
      { test: "stator.toGround", at: "1" },
    ] as const)
      expect(movesTo(step, {}, from, 2).moves.map(({ id }) => id)).toEqual(["dial"]);
    expect(worked([{ test: "stator.resistance", at: "1-2" }], 2, from).hands).toBeLessThan(1);
    expect(worked([{ test: "stator.resistance", at: "1-2" }], 2, WHEELED_IN).hands).toBeGreaterThan(3);
    expect(looseSetUp("battery.load", "battery")).toMatch(/^On the bench.+15 s; read at the end\.$/);
    expect(looseSetUp("regulator.diode", "regulator")).toBe("In the hand, its plugs open and clean.");
    expect(looseCautions(["hydrogen", "exhaust", "moving-parts", "generator-fixed"])).toEqual(["hydrogen", "generator-fixed"]);
  });

  test("its run list has no empty stages", () => {
    const stages = runList({ ...ferrel, loose: "regulator" }, school, [], []);
    expect(stages.map(({ group }) => group)).toEqual(["regulator"]);
    expect(stages[0]?.lines.length).toBe(14);
    expect(runList(ferrel, school, [], []).length).toBe(school.order.length);
  });
});
