import { describe, expect, test } from "@jest/globals";
import { context } from "../../tests/support/readings";
import { familyOf } from "../machine/families/registry";
import { unlistedSheet } from "../machine/unlisted";
import { bandFor, diodeExpectation } from "./bands";
import { CATALOGUE } from "./catalogue";
import { SCHOOLS, schoolOf } from "./schools";
import { stepsOf } from "./step";

const { sheet } = context();
const harbour = schoolOf("harbour");

describe("where a band comes from", () => {
  test("the sheet's own figure wins and names its page", () => {
    expect(bandFor({ test: "charge.volts", rpm: 5000, loads: "all" }, sheet, harbour)).toEqual({
      kind: "between",
      low: 13.8,
      high: 14.9,
      from: "sheet",
      says: "sheet p. 16-4",
    });
  });

  test("a school fills what the sheet leaves out, by chemistry", () => {
    expect(bandFor({ test: "battery.crank" }, sheet, harbour)).toMatchObject({ low: 10.5, from: "school", says: "school Harbour: 10.5 V crank for sealed" });
    const flooded = { ...sheet, battery: { ...sheet.battery, chemistry: "flooded" as const } };
    expect(bandFor({ test: "battery.crank" }, flooded, harbour)).toMatchObject({ low: 10, says: "school Harbour: 10 V crank" });
  });

  test("what all schools agree on is called common practice", () => {
    expect(bandFor({ test: "charge.positiveDrop", rpm: 5000, loads: "normal" }, sheet, harbour)).toMatchObject({
      high: 0.3,
      says: "common practice: 0.3 V on the way out",
    });
  });

  test("AC figures go with the speed, and say so", () => {
    const fast = bandFor({ test: "stator.acVolts", at: "1-2", rpm: 5000 }, sheet, harbour);
    const slow = bandFor({ test: "stator.acVolts", at: "1-2", rpm: 2500 }, sheet, harbour);
    expect(fast).toMatchObject({ low: 51, high: 72, says: "sheet p. 16-7" });
    expect(slow).toMatchObject({ low: 25.5, high: 36, says: "sheet p. 16-7, scaled from 5,000 rpm" });
    expect(bandFor({ test: "stator.acVolts", at: "1-2", rpm: "idle" }, sheet, harbour)).toMatchObject({ low: 12.24 });
  });

  test("AC at the unit is judged by the stator's own figure", () => {
    expect(bandFor({ test: "stator.acVoltsAtUnit", at: "1-2", rpm: 5000 }, sheet, harbour)).toMatchObject({ low: 51, high: 72, from: "sheet" });
  });

  test("six volts halve a school's volts, and leave diodes and drops alone", () => {
    const six = unlistedSheet("three-phase-shunt", 6);
    expect(bandFor({ test: "battery.rest" }, six, harbour)).toMatchObject({ low: 6.3, high: 6.55 });
    expect(bandFor({ test: "regulator.diode", at: "1>B+" }, six, harbour)).toMatchObject({ low: 0.4, high: 0.6 });
    expect(bandFor({ test: "charge.positiveDrop", rpm: 5000 }, six, harbour)).toMatchObject({ high: 0.3 });
  });

  test("a band for one kind of load does not judge another", () => {
    const loaded = { ...sheet, bands: [{ test: "charge.volts", rpm: 5000, loads: "all" as const, low: 13.2, high: 14.9 }] };
    expect(bandFor({ test: "charge.volts", rpm: 5000, loads: "all" }, loaded, harbour)).toMatchObject({ low: 13.2, from: "sheet" });
    expect(bandFor({ test: "charge.volts", rpm: 5000, loads: "normal" }, loaded, harbour)).toMatchObject({ low: 14, from: "school" });
  });

  test("the band at the nearest rpm is the one that counts", () => {
    const two = {
      ...sheet,
      bands: [
        { test: "charge.volts", rpm: 2000, low: 13, high: 15 },
        { test: "charge.volts", rpm: 5000, low: 14, high: 15 },
      ],
    };
    expect(bandFor({ test: "charge.volts", rpm: 2200, loads: "normal" }, two, harbour)).toMatchObject({ low: 13 });
    expect(bandFor({ test: "charge.volts", rpm: 4800, loads: "normal" }, two, harbour)).toMatchObject({ low: 14 });
  });
});

describe("what a diode should do", () => {
  test.each([
    ["1>B+", "pass"],
    ["B->3", "pass"],
    ["B+>1", "open"],
    ["3>B-", "open"],
    ["B->B+", "rails"],
    ["B+>B-", "open"],
  ])("%s: %s", (at, expected) => expect(diodeExpectation(at, familyOf("three-phase-shunt").unit)).toBe(expected));
});

describe("the schools", () => {
  test("are three that differ on what practitioners disagree about", () => {
    expect(SCHOOLS).toHaveLength(3);
    for (const field of ["restHours", "imbalance", "bands"] as const) expect(new Set(SCHOOLS.map((school) => JSON.stringify(school[field]))).size).toBe(3);
    expect(new Set(SCHOOLS.map((school) => school.statorFirst)).size).toBe(2);
    expect(new Set(SCHOOLS.map((school) => school.chargingBy)).size).toBe(2);
    expect(new Set(SCHOOLS.map((school) => school.order.join())).size).toBeGreaterThan(1);
  });

  test.each(SCHOOLS.map((school) => [school.id, school] as const))("%s has a band for every measured test of a machine without a sheet", (_id, school) => {
    const bare = unlistedSheet("three-phase-shunt", 12);
    // What is held against the battery's label has no limit until somebody has read it.
    const labelled = ["battery.crankingAmps", "battery.innerOhms", "starter.amps"];
    for (const row of CATALOGUE.filter(({ id }) => !labelled.includes(id))) {
      for (const step of stepsOf(row, bare)) {
        const band = bandFor(step, bare, school);
        expect(band).toBeDefined();
        if (band?.kind === "between" && band.low !== undefined && band.high !== undefined) expect(band.low).toBeLessThan(band.high);
      }
    }
  });

  test("an unknown school is the first one", () => {
    expect(schoolOf("nobody's")).toBe(SCHOOLS[0]);
  });
});
