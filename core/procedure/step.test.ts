import { describe, expect, test } from "@jest/globals";
import { context } from "../../tests/support/readings";
import { pointName } from "../machine/points";
import { CATALOGUE, type Test, testOf } from "./catalogue";
import { CAUTIONS } from "./cautions";
import { answers, diodesOf, pairsOf, probesOf, stepFromKey, stepKey, stepsOf, stepTitle, testTitle } from "./step";

const { sheet } = context();
const everyStep = CATALOGUE.flatMap((row) => stepsOf(row, sheet));

describe("the catalogue", () => {
  test.each((CATALOGUE as readonly Test[]).map((row) => [row.id, row] as const))("%s is complete", (_id, row) => {
    expect(row.title.length).toBeGreaterThan(3);
    expect(row.tells).toMatch(/[.]$/);
    expect(row.setUp.do).toMatch(/[.;]?.*\.$/);
    expect(row.minutes).toBeGreaterThan(0);
    for (const caution of row.cautions) expect(Object.keys(CAUTIONS)).toContain(caution);
    if (row.unit === "choice") expect(row.choices?.length).toBeGreaterThan(1);
    else expect(row.possible[0]).toBeLessThan(row.possible[1]);
    expect(row.plausible[0]).toBeGreaterThanOrEqual(row.possible[0]);
    expect(row.plausible[1]).toBeLessThanOrEqual(row.possible[1]);
  });

  test("what can hurt has its caution beside it", () => {
    for (const row of CATALOGUE as readonly Test[]) {
      if (row.setUp.engine === "running") expect(row.cautions).toEqual(expect.arrayContaining(["exhaust", "moving-parts"]));
      const loose = row.setUp.engine === "running" && row.setUp.unplug.includes("stator");
      if (loose) expect(row.cautions).toContain(row.setUp.fullField ? "full-field" : "high-volts");
      if (row.setUp.fullField) expect(row.cautions).toContain("full-field");
      if (row.group === "drain") expect(row.cautions).toContain("ammeter");
      if (row.setUp.engine === "cranking") expect(row.cautions).toContain("crank");
    }
  });
});

describe("steps of a three-leg machine", () => {
  test("pairs go round, diodes go all twelve ways and rail to rail", () => {
    expect(pairsOf(sheet)).toEqual(["1-2", "2-3", "3-1"]);
    const diodes = diodesOf(sheet);
    expect(diodes).toHaveLength(14);
    expect(new Set(diodes).size).toBe(14);
  });

  test("charging volts are taken at idle and with usual, all and no loads, AC at two speeds on three pairs", () => {
    expect(stepsOf(testOf("charge.volts"), sheet).map(stepKey)).toEqual([
      "charge.volts~~idle~normal",
      "charge.volts~~5000~normal",
      "charge.volts~~5000~all",
      "charge.volts~~5000~off",
    ]);
    expect(stepsOf(testOf("stator.acVolts"), sheet)).toHaveLength(6);
  });

  test("every step's short name reads back as the step", () => {
    expect(new Set(everyStep.map(stepKey)).size).toBe(everyStep.length);
    for (const step of everyStep) expect(stepFromKey(stepKey(step))).toEqual(step);
    expect(stepFromKey("stator.colour~1")).toBeUndefined();
    expect(stepFromKey("charge.volts~~fast")).toEqual({ test: "charge.volts" });
  });

  test("titles hold no open places", () => {
    for (const step of everyStep) expect(stepTitle(step)).not.toMatch(/[{}]/);
    expect(stepTitle({ test: "stator.acVolts", at: "2-3", rpm: 5000 })).toBe("Pair 2–3 AC volts, 5,000 rpm");
    expect(stepTitle({ test: "charge.volts", rpm: "idle", loads: "normal" })).toBe("Charging volts at the battery, idle");
    expect(stepTitle({ test: "inspect.connector", at: "stator" })).toBe("Stator connector");
    expect(testTitle(testOf("stator.toGround"))).toBe("Leg to engine case");
    expect(testTitle(testOf("regulator.diode"))).toBe("Diode");
  });

  test("every probe has a place with a name", () => {
    for (const step of everyStep) {
      const probes = probesOf(step);
      if (!probes) continue;
      for (const point of [probes.red, probes.black]) expect(pointName(point, sheet)).toMatch(/\w/);
      expect(probes.red).not.toBe(probes.black);
    }
    expect(probesOf({ test: "regulator.diode", at: "B+>3" })).toEqual({ red: "B+", black: "unitLeg:3" });
    expect(probesOf({ test: "stator.toGround", at: "2" })).toEqual({ red: "leg:2", black: "engine" });
    expect(pointName("B-", { ...sheet, unitGround: "case" })).toBe("the unit's bare case");
  });
});

describe("which reading answers which step", () => {
  test.each([
    [{ test: "stator.resistance", at: "2-1" }, { test: "stator.resistance", at: "1-2" }, true],
    [{ test: "charge.volts", rpm: 4800, loads: "normal" }, { test: "charge.volts", rpm: 5000, loads: "normal" }, true],
    [{ test: "charge.volts", rpm: 4800 }, { test: "charge.volts", rpm: 5000, loads: "normal" }, true],
    [{ test: "charge.volts", rpm: 3000, loads: "normal" }, { test: "charge.volts", rpm: 5000, loads: "normal" }, false],
    [{ test: "charge.volts", rpm: "idle", loads: "normal" }, { test: "charge.volts", rpm: 5000, loads: "normal" }, false],
    [{ test: "charge.volts", rpm: 5000, loads: "all" }, { test: "charge.volts", rpm: 5000, loads: "normal" }, false],
    [{ test: "regulator.diode", at: "B+>1" }, { test: "regulator.diode", at: "1>B+" }, false],
  ] as const)("%o for %o: %s", (reading, step, yes) => {
    expect(answers(reading, step)).toBe(yes);
  });
});
