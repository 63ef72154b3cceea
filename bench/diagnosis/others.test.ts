import { describe, expect, test } from "@jest/globals";
import { conditionOf } from "../../core/machine/condition";
import { ASSUMED_METER } from "../../core/meter/meter";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { simulateStep } from "../../core/procedure/simulate";
import { type Step, stepsOf } from "../../core/procedure/step";
import type { Test } from "../../core/procedure/test";
import { OTHER_SHEETS } from "../../demo/otherSheets";
import type { Asked } from "./kinds";
import { play } from "./player";
import { SORTS } from "./sorts";
import { machineOf, OTHER_FAMILIES, wideOther } from "./wideOthers";
import type { Machine } from "./world";

const sheetOf = (family: string) => OTHER_SHEETS.find((sheet) => sheet.family === family) as (typeof OTHER_SHEETS)[number];

/** The first machine of a family with just these causes; none of them a sound one. */
function withCause(family: string, ...causes: string[]): Machine {
  for (let seed = 0; seed < 4000; seed++) {
    const machine = machineOf(sheetOf(family), seed);
    if (machine.hidden.map(({ name }) => name).join() === causes.join()) return machine;
  }
  throw new Error(`no ${family} with ${causes.join()}`);
}

const asked = ({ test: id, at, rpm, loads }: Step): Asked => ({ test: id, ...(at ? { at } : {}), ...(rpm ? { rpm } : {}), ...(loads ? { loads } : {}) });

/** The median of several looks at a figure: one in forty is misread. */
function seen(machine: Machine, step: Asked): number {
  const values = Array.from({ length: 9 }, () => machine.take(step)).map((value) => (value === "OL" ? Number.POSITIVE_INFINITY : Number(value)));
  return values.sort((a, b) => a - b)[4] as number;
}

describe("the other families' world", () => {
  test("has every family that is not three-phase on magnets, with causes and pairs that it knows", () => {
    expect(OTHER_FAMILIES).toEqual(expect.arrayContaining(OTHER_SHEETS.map(({ family }) => family)));
    for (const { kinds, pairs } of Object.values(SORTS)) {
      const names = new Set(kinds.map(({ name }) => name));
      expect(names.size).toBe(kinds.length);
      for (const [first, second] of pairs) expect([names.has(first), names.has(second)]).toEqual([true, true]);
    }
  });

  test.each(OTHER_FAMILIES)("%s: every test shows a figure or a word that the program could keep, whatever failed", (family) => {
    const sheet = sheetOf(family);
    for (let seed = 0; seed < 12; seed++) {
      const machine = machineOf(sheet, seed);
      for (const one of CATALOGUE as readonly Test[])
        for (const step of stepsOf(one, sheet)) {
          if (one.id === "charge.current" || one.id === "charge.ripple" || one.id === "battery.recovery" || one.id === "battery.cell") continue;
          const value = machine.take(asked(step));
          if (typeof value === "number") expect([one.id, Number.isFinite(value)]).toEqual([one.id, true]);
          else expect([one.id, ["OL", ...(one.choices ?? [])].includes(value)]).toEqual([one.id, true]);
        }
    }
  });

  test.each(OTHER_FAMILIES)("%s: a sound machine charges by another solver as it does by the program's, within what machines differ by", (family) => {
    const sheet = sheetOf(family);
    const machine = withCause(family);
    const step: Step = { test: "charge.volts", rpm: sheet.testRpm, loads: "normal" };
    const own = Number(simulateStep(sheet, conditionOf([], { charge: 0.9, ambientC: machine.ambientC }), step, ASSUMED_METER).value);
    expect(Math.abs(seen(machine, asked(step)) - own)).toBeLessThan(0.09 * own);
  });

  test("what was mended is whole again, and the parts of a machine from wide ranges are told by what eyes see", () => {
    const machine = withCause("field-excited", "brushes");
    expect(seen(machine, { test: "field.resistance" })).toBeGreaterThan(6);
    machine.mend("rotor");
    expect(seen(machine, { test: "field.resistance" })).toBeLessThan(6);
    const { sheet, told } = wideOther("dc-generator", 5);
    expect(Object.keys(told).sort()).toEqual(["family", "kind", "systemVolts"]);
    expect(sheet.systemVolts).toBe(told.systemVolts);
  });

  test("a generator that builds up backwards, one with a welded cut-out, a belt that slips", () => {
    expect(seen(withCause("dc-generator", "backwards"), { test: "generator.output", rpm: "idle" })).toBeLessThan(0);
    expect(seen(withCause("dc-generator", "cut-out welded"), { test: "drain.current" })).toBeGreaterThan(5000);
    const slack = withCause("field-excited", "belt slack");
    const volts = (loads: string): number => seen(slack, { test: "charge.volts", rpm: 3000, loads });
    expect(volts("off")).toBeGreaterThan(volts("all"));
  });

  test("a play ends with parts named, whatever the program says", async () => {
    const sheet = sheetOf("dual-output-unregulated");
    const machine = withCause("dual-output-unregulated", "lead diode open");
    const talker = { say: async () => ({ next: [], standing: { sets: [] }, doubts: [], verdict: { set: "stator", odds: 0.9, status: "found" } }) };
    const played = await play(talker, sheet, 1, undefined, machine);
    expect(played).toMatchObject({ truth: ["stator"], said: ["stator"], firstRight: true, repairs: 1 });
  });
});
