import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../demo/sheets";
import { FAMILY_IDS, familyOf } from "../machine/families/registry";
import type { Sheet } from "../machine/sheet";
import { isUnlisted, unlistedSheet } from "../machine/unlisted";
import { bandFor } from "./bands";
import { judgeAll, judgedWords } from "./judge";
import { SCHOOLS, schoolOf } from "./schools";
import { diodesOf, type Reading } from "./step";

const shunt = demoSheet("corvane-ferrel-650") as Sheet;
const series = demoSheet("brannoch-fell-850") as Sheet;
const mosfet = demoSheet("tidewright-reach-90") as Sheet;
const harbour = schoolOf("harbour");
const METER = { name: "m", leadOhms: 0, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };

const diode = (sheet: Sheet, at: string) => bandFor({ test: "regulator.diode", at }, sheet, harbour);
const judged = (sheet: Sheet, readings: Omit<Reading, "id">[], ambientC = 20) =>
  judgeAll(
    readings.map((reading, i) => ({ ...reading, id: String(i) })),
    { sheet, school: harbour, meter: METER, ambientC },
  );

describe("what a diode should read goes by the family", () => {
  test("a series unit's upper half blocks both ways, its lower half is plain", () => {
    for (const leg of ["1", "2", "3"]) {
      expect(diode(series, `${leg}>B+`)).toMatchObject({ kind: "open" });
      expect(diode(series, `B+>${leg}`)).toMatchObject({ kind: "open" });
      expect(diode(series, `B->${leg}`)).toMatchObject({ kind: "between", low: 0.4 });
    }
    expect(diode(series, "B->B+")).toMatchObject({ kind: "open" });
    const [judgedReading] = judged(series, [{ test: "regulator.diode", at: "1>B+", value: "OL" }]);
    expect([judgedReading?.judged, judgedReading && judgedWords(judgedReading)]).toEqual(["in", "blocks"]);
  });

  test("the same open line on a shunt unit is an open diode", () => {
    expect(judged(shunt, [{ test: "regulator.diode", at: "1>B+", value: "OL" }])[0]?.judged).toBe("open");
  });

  test("a junction that reads on a series unit's upper half leaks or is shorted", () => {
    const found = judged(series, [
      { test: "regulator.diode", at: "1>B+", value: 0.5 },
      { test: "regulator.diode", at: "2>B+", value: 0.003 },
    ]);
    expect(found.map((judgedReading) => judgedReading.judged)).toEqual(["low", "shorted"]);
  });

  test("a synchronous unit's body diodes may read a tenth lower, and it is said why", () => {
    expect(diode(mosfet, "1>B+")).toMatchObject({ low: 0.3, high: 0.6, says: expect.stringContaining("judge the legs against each other") });
    expect(diode(shunt, "1>B+")).toMatchObject({ low: 0.4, high: 0.6 });
    expect(judged(mosfet, [{ test: "regulator.diode", at: "1>B+", value: 0.36 }])[0]?.judged).toBe("in");
    expect(judged(shunt, [{ test: "regulator.diode", at: "1>B+", value: 0.36 }])[0]?.judged).toBe("low");
  });

  test("every school has a word on every direction of every family", () => {
    for (const school of SCHOOLS)
      for (const sheet of [shunt, series, mosfet])
        for (const at of diodesOf(sheet)) expect(bandFor({ test: "regulator.diode", at }, sheet, school)).toBeDefined();
  });
});

describe("the load test's limit goes by the temperature", () => {
  const load = (value: number, ambientC: number, sheet = shunt) => judged(sheet, [{ test: "battery.load", value }], ambientC)[0];

  test.each([
    [9.5, 25, "low"],
    [9.5, 10, "in"],
    [8.8, -18, "in"],
    [8.4, -18, "low"],
  ] as const)("%f V at %i °C is %s", (value, celsius, says) => {
    expect(load(value, celsius)?.judged).toBe(says);
  });

  test("the ruler says for which temperature", () => {
    expect(load(9.5, 4)?.band).toMatchObject({ low: 9.3, says: "common practice: 9.30 V after 15 s at 4 °C" });
  });

  test("lithium keeps its one figure; six volts halve it", () => {
    expect(load(9.5, -18, series)?.band).toMatchObject({ low: 9.6 });
    expect(load(4.5, 10, { ...shunt, systemVolts: 6, bands: [] })?.band).toMatchObject({ low: 4.7 });
  });
});

describe("a machine without a sheet, of any family", () => {
  test.each(FAMILY_IDS.flatMap((family) => ([6, 12] as const).map((volts) => [family, volts] as const)))(
    "%s, %i V: known for what it is, judged by a school",
    (family, volts) => {
      const sheet = unlistedSheet(family, volts);
      expect(isUnlisted(sheet)).toBe(true);
      expect(sheet.legs).toHaveLength(familyOf(family).terminals.length);
      expect(bandFor({ test: "charge.volts", rpm: 5000, loads: "normal" }, sheet, harbour)).toMatchObject({ from: "school" });
    },
  );
});
