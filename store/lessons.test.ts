import { beforeEach, describe, expect, test } from "@jest/globals";
import { shopKnows } from "../app/jobs/file.server";
import type { Sheet } from "../core/machine/sheet";
import { demoSheet } from "../demo/sheets";
import { openStore } from "../tests/support/store";
import type { JobFile } from "./jobs";
import type { NewReading } from "./readings";
import type { Store } from "./store";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const METERS = {
  two: { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 },
  five: { name: "Meter 5", leadOhms: 0.3, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 },
};
let store: Store;
let made = 0;

beforeEach(() => {
  store = openStore();
  store.sheets.add(sheet, "2024-01-01T00:00:00.000Z");
  for (const tag of ["A-1", "A-2"]) store.workshop.addUnit({ tag, nickname: tag, sheetId: sheet.id, usedFor: "post round" });
});

interface Past {
  unit?: string | null;
  at?: string;
  meter?: keyof typeof METERS;
  age?: number | null;
  readings?: Partial<NewReading>[];
  fault?: string;
  ending?: "proven" | "healthy" | "unproven" | null;
}

function job({ unit = "A-1", at = "2026-03-01T09:00:00.000Z", meter = "two", age = null, readings = [], fault, ending = "proven" }: Past = {}): number {
  const id = store.jobs.open(
    { unitTag: unit, nickname: "x", sheet, school: "harbour", meter: METERS[meter], ambientC: 15, batteryAgeYears: age, complaint: [], words: "" },
    at,
  );
  for (const reading of readings)
    store.jobs.readings.keep(id, {
      test: "charge.volts",
      rpm: 5000,
      loads: "normal",
      value: 14.2,
      takenAt: at,
      ...reading,
      id: reading.id ?? `reading-${made++}`,
    });
  if (fault) store.jobs.repair(id, { part: "regulator", fault, found: null, done: "x" }, at);
  if (ending) store.jobs.close(id, ending, null, at);
  return id;
}

describe("lessons from proven repairs", () => {
  test("carry what the machine was, what it is used for, how old its battery was, and the year", () => {
    job({ fault: "regulator.no-output", age: 6 });
    job({ fault: "regulator.no-output", age: 1, unit: null, at: "2024-03-01T09:00:00.000Z" });
    job({ fault: "regulator.no-output", ending: "unproven" });
    const lessons = store.lessons.of(sheet.family);
    expect(lessons).toHaveLength(2);
    expect(lessons).toContainEqual({
      sheetId: sheet.id,
      family: sheet.family,
      kind: "motorcycle",
      usedFor: "post round",
      age: "old",
      year: 2026,
      fault: "regulator.no-output",
      times: 1,
    });
    expect(lessons).toContainEqual(expect.objectContaining({ usedFor: "", age: "new", year: 2024 }));
    expect(store.lessons.of("dc-generator")).toEqual([]);
    expect(store.lessons.count()).toEqual({ repairs: 2, models: 1 });
    expect(store.lessons.byModel(5)).toEqual([{ sheetId: sheet.id, model: "Corvane Ferrel 650", fault: "regulator.no-output", times: 2 }]);
  });

  test("reach the engine as counts, and no longer once they are switched off", () => {
    for (let k = 0; k < 3; k++) job({ fault: "regulator.no-output" });
    const file = store.jobs.file(job({ ending: null })) as JobFile;
    expect(shopKnows(store, file).confirmed).toEqual({ "regulator.no-output": 3 });
    store.lessons.change({ ...store.lessons.switches(), repairs: false });
    expect(shopKnows(store, file).confirmed).toEqual({});
    expect(store.lessons.switches()).toEqual({ repairs: false, figures: true, meters: true });
  });

  test("a fault that this edition does not know teaches nothing, and breaks nothing", () => {
    job({ fault: "regulator.haunted" });
    expect(store.lessons.of(sheet.family)).toEqual([]);
  });
});

describe("figures of sound machines", () => {
  test("are those of healthy jobs, and those after a proven repair, leads taken off, corrections in the place of what they correct", () => {
    job({
      ending: "healthy",
      readings: [{ value: 14.1 }, { test: "stator.resistance", at: "1-2", rpm: undefined, loads: undefined, value: 0.45, raw: true, leadOhms: 0.15 }],
    });
    job({ unit: "A-2", fault: "regulator.no-output", readings: [{ value: 12.4 }, { value: 14.3, afterRepair: true }] });
    job({ ending: "unproven", readings: [{ value: 15.9 }] });
    job({ ending: null, readings: [{ value: 11 }] });
    job({
      ending: "healthy",
      readings: [
        { id: "first-0001", value: 41 },
        { value: 14.15, supersedes: "first-0001", supersedesWhy: "mistyped" },
        { value: "OL", test: "stator.toGround", at: "1" },
      ],
    });
    const figures = store.lessons.soundFigures(sheet.id, 100);
    expect(figures.map(({ test: id, value }) => [id, Number(value.toFixed(3))]).sort()).toEqual([
      ["charge.volts", 14.1],
      ["charge.volts", 14.15],
      ["charge.volts", 14.3],
      ["stator.resistance", 0.3],
    ]);
    expect(new Set(figures.map(({ machine }) => machine))).toEqual(new Set(["A-1", "A-2"]));
    expect(store.lessons.soundFigures(sheet.id, 2)).toHaveLength(2);
    expect(store.lessons.soundModels(3, 5)).toEqual([sheet.id]);
    expect(store.lessons.soundModels(4, 5)).toEqual([]);
  });

  test("of meters name the meter of their job and what was read, each on its dial", () => {
    job({
      ending: "healthy",
      readings: [
        { value: 14.2 },
        { test: "stator.acVolts", at: "1-2", loads: undefined, value: 61 },
        { test: "battery.rest", rpm: undefined, loads: undefined, value: 12.8 },
      ],
    });
    job({ ending: "healthy", meter: "five", readings: [{ value: 14 }] });
    const figures = store.lessons.meterFigures(10);
    expect(figures.map(({ meter, dial, value }) => [meter, dial, value]).sort()).toEqual([
      ["Meter 2", "V AC", 61],
      ["Meter 2", "V", 14.2],
      ["Meter 5", "V", 14],
    ]);
    // What is compared is of one model, test, speed and load.
    const [two, five] = ["Meter 2", "Meter 5"].map((name) => figures.find(({ meter, dial }) => meter === name && dial === "V"));
    expect(two?.of).toBe(five?.of);
  });
});
