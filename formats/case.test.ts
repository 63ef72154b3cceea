import { readFileSync } from "node:fs";
import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../demo/sheets";
import { populationOf } from "../tests/support/population";
import { caseJsonSchema, readCase, writeCase } from "./case";
import { resultOf } from "./result";

const base = {
  uvrelCase: 1,
  machine: { sheet: "ostrel-burro-520" },
  ambientC: 14,
  complaint: ["flat-after-ride"],
  batteryAgeYears: 3,
  meter: { leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 },
  readings: [
    { test: "battery.rest", value: 12.81, restHours: 2 },
    { test: "charge.volts", rpm: 5000, loads: "normal", value: 12.2 },
    { test: "stator.resistance", at: "1-2", value: 0.2 },
    { test: "stator.toGround", at: "1", value: "OL" },
    { test: "stator.acVolts", at: "2-3", rpm: 5000, value: 31 },
    { test: "regulator.diode", at: "1>B+", value: 0.52 },
    { test: "inspect.connector", at: "stator", value: "green" },
  ],
};

const read = (change: Record<string, unknown> = {}) => readCase(JSON.stringify({ ...base, ...change }), demoSheet);
const firstProblem = (change: Record<string, unknown>): string => {
  const result = read(change);
  return result.ok ? "taken" : result.problems.map(({ field, error }) => `${field}: ${error}`).join("\n");
};
const withReading = (reading: Record<string, unknown>) => ({ readings: [...base.readings, reading] });

describe("reading a case file", () => {
  test("the contract's own example is taken", () => {
    const result = read();
    expect(result.ok && result.case).toMatchObject({ ambientC: 14, batteryAgeYears: 3, complaint: ["flat-after-ride"], sheet: { id: "ostrel-burro-520" } });
    expect(result.ok && result.case.readings).toHaveLength(7);
  });

  test("a test that is read at one place alone is understood with its wires named", () => {
    const of = (family: string, ...readings: object[]) => readCase(JSON.stringify({ uvrelCase: 1, machine: { family, systemVolts: 12 }, readings }), demoSheet);
    const rings = of("field-excited", { test: "field.resistance", at: "F1-F2", value: 3.4 }, { test: "field.resistance", at: "F2-F1", value: 3.4 });
    expect(rings.ok && rings.case.readings.map(({ at }) => at)).toEqual([undefined, undefined]);
    const dynamo = of("dc-generator", { test: "generator.field", at: "F", value: 2.8 }, { test: "generator.armature", at: "A-G", value: 0.6 });
    expect(dynamo.ok && dynamo.case.readings.map(({ at }) => at)).toEqual([undefined, undefined]);
    const wrong = of("field-excited", { test: "field.resistance", at: "1-2", value: 3.4 });
    expect(!wrong.ok && wrong.problems).toMatchObject([{ field: "readings.0.at", error: expect.stringContaining("Allowed: none") }]);
  });

  test("a machine known by family only gets the school's bands", () => {
    const result = read({ machine: { family: "three-phase-shunt", systemVolts: 6 } });
    expect(result.ok && result.case.sheet).toMatchObject({ systemVolts: 6, bands: [] });
  });

  test("a part without its machine is told beside it, judged by itself and written back so", () => {
    const chart = ["1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3"].map((at) => ({ test: "regulator.diode", at, value: at === "B->2" ? 0.001 : 0.5 }));
    const result = read({ loose: "regulator", readings: [...chart, { test: "regulator.diode", at: "2>B-", value: 0.001 }] });
    if (!result.ok) throw new Error(JSON.stringify(result.problems));
    expect(result.case.sheet.loose).toBe("regulator");
    const told = resultOf(result.case, populationOf(result.case.sheet));
    expect(told.loose).toMatchObject({ part: "regulator", says: "bad" });
    expect(told.verdict).toMatchObject({ part: "regulator", fault: "regulator.diode-shorted" });
    expect(told.parts.map(({ part }) => part)).toEqual(["regulator", "none"]);
    const written = JSON.parse(writeCase(result.case)) as { loose: string; machine: { inline: object } };
    expect(written.loose).toBe("regulator");
    expect(written.machine.inline).not.toHaveProperty("loose");
    const open = read({ loose: "regulator", readings: [] });
    expect(open.ok && resultOf(open.case, populationOf(open.case.sheet)).loose).toMatchObject({ says: "open", settle: { test: "regulator.diode" } });
  });

  test.each<[string, Record<string, unknown>, RegExp]>([
    ["a part that nobody brings", { loose: "wheel", readings: [] }, /^loose: must be one of battery, stator, regulator, generator$/],
    ["a part that the family does not have", { loose: "generator", readings: [] }, /^loose: .+ give stator$/],
    [
      "a test that needs the machine",
      { loose: "stator", readings: [base.readings[1]] },
      /^readings\.0\.test: “charge\.volts” is not a test of a loose stator\. Known: /,
    ],
    [
      "a rating that is none",
      withReading({ test: "battery.crankingAmps", value: 90, rating: "jis" }),
      /^readings\.7\.rating: must be one of sae, en, iec, din, ca$/,
    ],
  ])("%s is refused by name", (_what, change, says) => {
    expect(firstProblem(change)).toMatch(says);
  });

  test("a whole sheet may travel inside", () => {
    const result = read({ machine: { inline: demoSheet("corvane-linnet-125") } });
    expect(result.ok && result.case.sheet.id).toBe("corvane-linnet-125");
  });

  test("so may the one page of it that somebody has: the rest is what is assumed of a machine without a sheet", () => {
    const page = {
      family: "three-phase-shunt",
      kind: "boat",
      battery: { ah: 70 },
      bands: [
        { test: "stator.acVolts", rpm: 2500, low: 30 },
        { test: "charge.volts", rpm: 2000, low: 13.5, high: 14.8 },
      ],
    };
    const result = read({ machine: { inline: page }, readings: [{ test: "stator.resistance", at: "1-2", value: 0.3 }] });
    if (!result.ok) throw new Error(JSON.stringify(result.problems));
    const { sheet } = result.case;
    expect(sheet).toMatchObject({ ...page, systemVolts: 12, sense: "unknown", winding: "unknown", battery: { ah: 70, chemistry: "flooded" } });
    // The speed at which its figures hold is the one to test at.
    expect(sheet.testRpm).toBe(2000);
    expect(sheet.idleRpm).toBeLessThan(2000);
    expect(sheet.legs.map(({ id }) => id)).toEqual(["1", "2", "3"]);
    const slow = read({ machine: { inline: { family: "dc-generator", testRpm: 1000 } }, readings: [] });
    expect(slow.ok && slow.case.sheet.idleRpm).toBeLessThan(1000);
    const named = read({ machine: { inline: { ...page, legs: [{ id: "U" }, { id: "V" }, { id: "W" }] } }, readings: [] });
    expect(named.ok && named.case.sheet.legs.map(({ id, pin }) => id + pin)).toEqual(["UU", "VV", "WW"]);
  });

  test.each<[string, object, RegExp]>([
    ["a family nobody knows", { family: "steam", bands: [] }, /machine\.inline\.family: “steam” is not a family/],
    ["no family", { bands: [] }, /machine\.inline\.family: /],
    [
      "a figure that cannot be",
      { family: "three-phase", bands: [{ test: "charge.volts", low: 15, high: 13 }] },
      /machine\.inline\.bands\.0\.low: must not be above/,
    ],
    ["a field that is none", { family: "three-phase", colour: "red" }, /machine\.inline\.colour: is not a field/],
    ["no sheet at all", [], /machine\.inline/],
  ])("of part of a sheet, %s is refused by its field", (_what, inline, says) => {
    expect(firstProblem({ machine: { inline }, readings: [] })).toMatch(says);
  });

  test("what is left out is assumed, and only that", () => {
    const result = readCase(JSON.stringify({ uvrelCase: 1, machine: base.machine, readings: [] }), demoSheet);
    expect(result.ok && result.case).toMatchObject({ ambientC: 20, complaint: [], batteryAgeYears: null, meter: { leadOhms: 0.2 } });
    const partial = readCase(JSON.stringify({ uvrelCase: 1, machine: base.machine, meter: { leadOhms: 0.5 }, readings: [] }), demoSheet);
    expect(partial.ok && partial.case.meter).toMatchObject({ leadOhms: 0.5, ohmsResolution: 0.1 });
  });

  test.each<[string, Record<string, unknown>, RegExp]>([
    ["another version", { uvrelCase: 2 }, /^uvrelCase: must be 1$/],
    ["an unknown sheet", { machine: { sheet: "nobody-knows" } }, /^machine\.sheet: “nobody-knows” is not in the library/],
    ["an unknown family", { machine: { family: "steam" } }, /^machine\.family: “steam” is not a family this edition knows/],
    ["a broken inline sheet", { machine: { inline: { ...demoSheet("corvane-linnet-125"), polePairs: 0 } } }, /^machine\.inline\.polePairs: must be 1 or more$/],
    ["no machine at all", { machine: {} }, /^machine: must hold one of sheet, inline or family/],
    ["a field nobody knows", { colour: "red" }, /^colour: is not a field of this document$/],
    ["readings that are no list", { readings: {} }, /^readings: /],
    ["heat nobody survives", { ambientC: 90 }, /^ambientC: must be 60 °C or less$/],
    [
      "an unknown test",
      withReading({ test: "stator.colour", value: 1 }),
      /^readings\.7\.test: “stator\.colour” is not a test of three-phase-shunt\. Known: inspect\.terminals/,
    ],
    ["a test of another family", withReading({ test: "generator.motoring", value: "turns" }), /^readings\.7\.test: .*not a test of three-phase-shunt/],
    ["an unknown pair", withReading({ test: "stator.resistance", at: "1-9", value: 1 }), /^readings\.7\.at: .*Allowed: 1-2, 2-3, 3-1/],
    ["no rpm", withReading({ test: "charge.volts", value: 13 }), /^readings\.7\.rpm: charge\.volts needs the rpm/],
    ["an impossible value", withReading({ test: "battery.rest", value: 1e9 }), /^readings\.7\.value: .*cannot be\. Allowed/],
    ["a word for a number", withReading({ test: "battery.rest", value: "lots" }), /^readings\.7\.value: “lots” is not on the list/],
    ["no value", withReading({ test: "battery.rest" }), /^readings\.7\.value: /],
  ])("%s is refused by its field", (_what, change, says) => {
    expect(firstProblem(change)).toMatch(says);
  });

  test("every wrong reading is named", () => {
    expect(
      firstProblem({
        readings: [
          { test: "x", value: 1 },
          { test: "battery.rest", value: 999 },
        ],
      }).split("\n"),
    ).toHaveLength(2);
  });

  test.each([
    ['{\n  "uvrelCase": 1,\n  "machine": }\n', "line 3"],
    ["", "line 1"],
    ['{\n"a": 1\n', "line 3"],
  ])("broken JSON is named by its line", (text, field) => {
    expect(readCase(text, demoSheet)).toEqual({ ok: false, problems: [{ field, error: "is not JSON" }] });
  });
});

describe("writing a case file", () => {
  test("what is written reads back as the same case", () => {
    const first = read(withReading({ test: "stator.resistance", at: "3-1", value: 0.4, raw: true, leadOhms: 0.15, hot: true, note: "wet" }));
    if (!first.ok) throw new Error("refused");
    const again = readCase(writeCase(first.case), () => undefined);
    expect(again).toEqual(first);
  });

  test("holds nothing a case file does not know", () => {
    const first = read();
    if (!first.ok) throw new Error("refused");
    expect(Object.keys(JSON.parse(writeCase(first.case)))).toEqual(expect.arrayContaining(["uvrelCase", "machine", "meter", "readings"]));
    expect(JSON.parse(writeCase(first.case)).readings[0]).toEqual({ test: "battery.rest", value: 12.81, restHours: 2 });
  });
});

describe("the result", () => {
  test("names the verdict, each reading's judgement and the source of its band", () => {
    const first = read({
      readings: [...base.readings.slice(0, 3), ...[0.65, 0.6, 0.68].map((value, i) => ({ test: "stator.toGround", at: String(i + 1), value, raw: true }))],
    });
    if (!first.ok) throw new Error("refused");
    const result = resultOf(first.case, populationOf(first.case.sheet));
    expect(result.verdict).toMatchObject({ status: "found", part: "stator", fault: "stator.winding-grounded" });
    expect(result.readings[1]).toMatchObject({ test: "charge.volts", judged: "low", band: [13.9, 14.9], bandFrom: "sheet", bandSays: "sheet p. 9-4" });
    expect(result.readings[4]).toMatchObject({ at: "2", judged: "shorted", band: "open", value: 0.4, corrections: ["0.2 Ω of leads taken off"] });
  });

  test("what is ruled out points at the readings that did it", () => {
    const first = read({ readings: [{ test: "battery.rest", value: 12.9 }, { test: "battery.crank", value: 10.9 }, ...base.readings.slice(1, 2)] });
    if (!first.ok) throw new Error("refused");
    const { ruledOut } = resultOf(first.case, populationOf(first.case.sheet));
    expect(ruledOut.map(({ part }) => part)).toContain("starter");
    for (const { by } of ruledOut) expect(by.every((index) => index >= 0 && index < 3)).toBe(true);
  });
});

test("the published schema is the one the program reads by", () => {
  expect(JSON.parse(readFileSync("docs/case.schema.json", "utf8"))).toEqual(caseJsonSchema());
});
