import { describe, expect, test } from "@jest/globals";
import { conditionOf } from "../../core/machine/condition";
import { ASSUMED_METER } from "../../core/meter/meter";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { simulateStep } from "../../core/procedure/simulate";
import { type Step, stepsOf } from "../../core/procedure/step";
import type { Test } from "../../core/procedure/test";
import { OTHER_SHEETS } from "../../demo/otherSheets";
import { THREE_PHASE_SHEETS } from "../../demo/sheets";
import { Chance } from "./chance";
import { type Asked, type Faults, type SheetData, THREE_LEGS } from "./kinds";
import { play } from "./player";
import { SORTS } from "./sorts";
import { machineOf, OTHER_FAMILIES, wideOther } from "./wideOthers";
import { Machine } from "./world";

const ALL_PARTS = ["battery", "rotor", "stator", "regulator", "wiring", "loads", "starter", "drive"];
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
      for (const row of CATALOGUE as readonly Test[])
        for (const step of stepsOf(row, sheet)) {
          if (row.id === "charge.current" || row.id === "charge.ripple" || row.id === "battery.recovery" || row.id === "battery.cell") continue;
          const value = machine.take(asked(step));
          if (typeof value === "number") expect([row.id, Number.isFinite(value)]).toEqual([row.id, true]);
          else expect([row.id, ["OL", ...(row.choices ?? [])].includes(value)]).toEqual([row.id, true]);
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

  test.each(["three-phase-shunt", ...OTHER_FAMILIES])("%s: what is mended is mended, whatever it was", (family) => {
    const sheet = family === "three-phase-shunt" ? THREE_PHASE_SHEETS[0] : sheetOf(family);
    const { kinds } = SORTS[family] ?? THREE_LEGS;
    for (const { name, part, set } of kinds) {
      const machine = family === "three-phase-shunt" ? new Machine(sheet as SheetData, 3) : machineOf(sheet as SheetData, 3);
      const opened = machine as unknown as { faults: Faults };
      for (const part of ALL_PARTS) machine.mend(part);
      const sound = structuredClone(opened.faults);
      set(opened.faults, new Chance(7), 1);
      machine.mend(part);
      expect([name, opened.faults]).toEqual([name, sound]);
    }
  });

  test("a shorted way from a grounded coil melts the fuse, and its lead shows no DC; behind a field it melts none", () => {
    for (const [family, cause] of [
      ["ground-referenced-pair", "diode shorted"],
      ["dual-output-unregulated", "lead diode shorted"],
    ] as const)
      expect(seen(withCause(family, cause), { test: "charge.outputVolts", rpm: 3600, loads: "normal" })).toBeLessThan(0.5);
    const pair = withCause("ground-referenced-pair", "diode shorted") as unknown as { faults: Faults; mend: (part: string) => void };
    pair.mend("wiring");
    expect(pair.faults.fuseBlown).toBe(true);
    pair.mend("regulator");
    expect(pair.faults.fuseBlown).toBe(false);
    const alternator = withCause("field-excited", "diode shorted") as unknown as { faults: Faults };
    expect(alternator.faults.fuseBlown).toBe(false);
  });

  test("a wound rotor's phases are alike to the unit, and a burnt pin takes its own out of them", () => {
    const legs = (machine: Machine): number[] => machine.run(3000, "normal", false).legs;
    const sound = legs(withCause("field-excited"));
    expect(sound).toHaveLength(3);
    expect(Math.max(...sound)).toBeLessThan(1.1 * Math.min(...sound));
    for (const leg of [0, 1, 2]) {
      const parted = withCause("field-excited");
      (parted as unknown as { faults: Faults }).faults.pins[leg] = 1e7;
      expect((legs(parted)[leg] as number) / (sound[leg] as number)).toBeLessThan(0.01);
    }
  });

  test.each([
    ["three-phase-series", true],
    ["field-excited", true],
    ["three-phase-shunt", false],
  ])("%s: its legs carry more where more is taken: %s", (family, more) => {
    const sheet = THREE_PHASE_SHEETS.find((sheet) => sheet.family === family) ?? sheetOf(family);
    const machine = family === "field-excited" ? withCause(family) : new Machine(sheet as SheetData, 3);
    for (const part of ALL_PARTS) machine.mend(part);
    const leg = (loads: string): number => machine.run(sheet.testRpm, loads, false).legs[0] as number;
    if (more) expect(leg("all") / leg("off")).toBeGreaterThan(1.15);
    else expect(Math.abs(leg("all") / leg("off") - 1)).toBeLessThan(0.02);
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
