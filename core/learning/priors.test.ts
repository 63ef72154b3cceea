import { describe, expect, test } from "@jest/globals";
import { ageOf, type Lesson, type Likeness, learnedCounts } from "./priors";

const machine: Likeness = { sheetId: "a", family: "three-phase-shunt", kind: "motorcycle", usedFor: "post round", age: "old" };
const lesson = (more: Partial<Lesson>): Lesson => ({
  sheetId: "a",
  family: "three-phase-shunt",
  kind: "motorcycle",
  usedFor: "post round",
  age: "old",
  year: 2026,
  fault: "regulator.no-output",
  times: 1,
  ...more,
});
const total = (counts: Partial<Record<string, number>>): number => Object.values(counts).reduce<number>((sum, count) => sum + (count ?? 0), 0);

describe("what proven repairs teach", () => {
  test("nothing, where nothing was proven", () => {
    expect(learnedCounts([], machine, 2026)).toEqual({});
    expect(learnedCounts([lesson({ sheetId: "z", family: "dc-generator" })], machine, 2026)).toEqual({});
  });

  test("a model with many repairs goes by itself; one with ten leans on them and on others", () => {
    const many = learnedCounts([lesson({ times: 1000 }), lesson({ sheetId: "b", fault: "stator.winding-open", times: 1000 })], machine, 2026);
    expect((many["regulator.no-output"] ?? 0) / total(many)).toBeGreaterThan(0.97);
    const few = learnedCounts([lesson({ times: 10 }), lesson({ sheetId: "b", usedFor: "", fault: "stator.winding-open", times: 1000 })], machine, 2026);
    expect(few["regulator.no-output"]).toBeGreaterThanOrEqual(10);
    expect(few["stator.winding-open"]).toBeGreaterThan(1);
    expect(total(few)).toBeLessThan(90);
  });

  test("other models lend no more than a few repairs, however many they have", () => {
    const lent = learnedCounts([lesson({ sheetId: "b", times: 100_000 })], machine, 2026);
    expect(total(lent)).toBeLessThanOrEqual(25);
    expect(total(lent)).toBeGreaterThan(10);
  });

  test("older repairs fade", () => {
    const then = learnedCounts([lesson({ times: 40, year: 2016 })], machine, 2026);
    const now = learnedCounts([lesson({ times: 40 })], machine, 2026);
    expect(total(then)).toBeLessThan(total(now) / 3);
  });

  test("batteries are of three ages, or of none", () => {
    expect([null, 0, 1.9, 2, 4.9, 5].map(ageOf)).toEqual(["", "new", "new", "middle", "middle", "old"]);
  });
});
