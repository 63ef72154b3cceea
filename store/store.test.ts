import { beforeEach, describe, expect, test } from "@jest/globals";
import type { Advice, JobFacts } from "../core/diagnosis/advice";
import type { Sheet } from "../core/machine/sheet";
import { DEMO_SHEETS } from "../demo/sheets";
import { jobFacts } from "../tests/support/facts";
import { migrations, newFolder, openStore } from "../tests/support/store";
import { openDatabase } from "./open";
import { current, type NewReading } from "./readings";
import { Store } from "./store";

const NOW = "2026-06-01T10:00:00.000Z";
const sheet = DEMO_SHEETS[0] as Sheet;
const meter = { name: "M", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 };

let store: Store;
let job: number;

beforeEach(() => {
  store = openStore();
  job = store.jobs.open(
    { unitTag: null, nickname: "Tern", sheet, school: "harbour", meter, ambientC: 14, batteryAgeYears: 2.5, complaint: ["no-crank"], words: "Clicks." },
    NOW,
  );
});

const volts = (id: string, value: number, more: Partial<NewReading> = {}): NewReading => ({ id, test: "battery.rest", value, takenAt: NOW, ...more });

describe("readings", () => {
  test("come back as they were kept", () => {
    const kept: NewReading[] = [
      volts("a-000001", 12.61, { restHours: 2, note: "after the night" }),
      { ...volts("a-000009", 10.4, { touched: "post" }), test: "battery.crank" },
      { id: "a-000010", test: "battery.crankingAmps", value: 140, rating: "din", takenAt: NOW },
      { id: "a-000002", test: "stator.toGround", at: "2", value: "OL", raw: true, leadOhms: 0.2, hot: true, takenAt: NOW },
      { id: "a-000003", test: "charge.volts", rpm: "idle", loads: "normal", value: 13.1, takenAt: NOW },
      { id: "a-000004", test: "charge.volts", rpm: 4800, loads: "all", value: 12.9, afterRepair: true, takenAt: NOW },
      { id: "a-000005", test: "battery.load", value: 9.9, amps: 70, takenAt: NOW },
    ];
    for (const reading of kept) expect(store.jobs.readings.keep(job, reading)).toBe("kept");
    const back = store.jobs.readings.of(job);
    expect(back).toHaveLength(kept.length);
    for (const [i, reading] of kept.entries()) expect(back[i]).toMatchObject(reading);
  });

  test("sent twice are kept once", () => {
    expect(store.jobs.readings.keep(job, volts("b-000001", 12.4))).toBe("kept");
    expect(store.jobs.readings.keep(job, volts("b-000001", 12.4))).toBe("already-kept");
    expect(store.jobs.readings.of(job)).toHaveLength(1);
  });

  test("a correction takes the place of the old one and leaves it standing", () => {
    store.jobs.readings.keep(job, volts("c-000001", 21.6));
    expect(store.jobs.readings.keep(job, volts("c-000002", 12.6, { supersedes: "c-000001", supersedesWhy: "mistyped" }))).toBe("kept");
    const history = store.jobs.readings.of(job);
    expect(history.map((reading) => reading.value)).toEqual([21.6, 12.6]);
    expect(history[0]?.supersededBy).toBe("c-000002");
    expect(current(history).map((reading) => reading.value)).toEqual([12.6]);
  });

  test("two hands correcting one reading: the second is told", () => {
    store.jobs.readings.keep(job, volts("d-000001", 21.6));
    store.jobs.readings.keep(job, volts("d-000002", 12.6, { supersedes: "d-000001" }));
    expect(store.jobs.readings.keep(job, volts("d-000003", 12.7, { supersedes: "d-000001" }))).toBe("superseded-meanwhile");
    expect(store.jobs.readings.keep(job, volts("d-000004", 12.7, { supersedes: "nowhere-1" }))).toBe("no-such-reading");
    expect(store.jobs.readings.of(job)).toHaveLength(2);
  });

  test("another job's reading cannot be corrected from this one", () => {
    const other = store.jobs.open(
      { unitTag: null, nickname: "Knot", sheet, school: "harbour", meter, ambientC: 14, batteryAgeYears: null, complaint: [], words: "" },
      NOW,
    );
    store.jobs.readings.keep(other, volts("e-000001", 12.6));
    expect(store.jobs.readings.keep(job, volts("e-000002", 12.7, { supersedes: "e-000001" }))).toBe("no-such-reading");
  });

  test("cannot be changed or deleted, not even by hand", () => {
    const folder = newFolder();
    const db = openDatabase(folder, migrations());
    const own = new Store(db);
    const id = own.jobs.open(
      { unitTag: null, nickname: "Tern", sheet, school: "harbour", meter, ambientC: 14, batteryAgeYears: null, complaint: [], words: "" },
      NOW,
    );
    own.jobs.readings.keep(id, volts("f-000001", 12.6));
    expect(() => db.exec("UPDATE readings SET number = 13")).toThrow(/append-only/);
    expect(() => db.exec("DELETE FROM readings")).toThrow(/append-only/);
  });
});

describe("jobs", () => {
  test("keep their own copy of the sheet", () => {
    store.sheets.add(sheet, NOW);
    store.sheets.change({ ...sheet, idleRpm: 999 }, NOW);
    expect(store.jobs.find(job)?.sheet.idleRpm).toBe(sheet.idleRpm);
  });

  test("close once, with how they ended, and open again", () => {
    expect(store.jobs.close(job, "proven", "steady", NOW)).toBe(true);
    expect(store.jobs.close(job, "healthy", null, NOW)).toBe(false);
    expect(store.jobs.find(job)).toMatchObject({ ending: "proven", closingNote: "steady", closedAt: NOW });
    expect(store.jobs.listOpen(10, 0)).toEqual([]);
    expect(store.jobs.listClosed(10)).toHaveLength(1);
    store.jobs.reopen(job, NOW);
    expect(store.jobs.count()).toEqual({ open: 1, closed: 0 });
    // How it had ended stays in the record, however often it is opened again.
    store.jobs.close(job, "unproven", null, NOW, "Ailsa");
    store.jobs.reopen(job, NOW, "Torquil");
    store.jobs.reopen(job, NOW);
    expect(store.jobs.endings(job)).toEqual([
      { ending: "proven", note: "steady", closedAt: NOW, closedBy: null, reopenedBy: null, reopenedAt: NOW },
      { ending: "unproven", note: null, closedAt: NOW, closedBy: "Ailsa", reopenedBy: "Torquil", reopenedAt: NOW },
    ]);
  });

  test("hold skips, repairs and a lead zero of their own", () => {
    store.jobs.skip(job, { id: "skip-0001", step: "battery.rest", reason: "Not safe here" }, NOW);
    store.jobs.skip(job, { id: "skip-0001", step: "battery.rest", reason: "Not safe here" }, NOW);
    store.jobs.repair(job, { part: "stator", fault: "stator.winding-open", found: "Stator (19 in 20). Winding open: leg 2.", done: "Stator renewed." }, NOW);
    store.jobs.setLeadZero(job, 0.31, NOW);
    const file = store.jobs.file(job);
    expect(file?.skips).toEqual([{ id: "skip-0001", step: "battery.rest", reason: "Not safe here" }]);
    expect(file?.repairs).toMatchObject([{ part: "stator", found: "Stator (19 in 20). Winding open: leg 2.", done: "Stator renewed.", repairedAt: NOW }]);
    expect(file?.job.meter.leadOhms).toBe(0.31);
  });

  test("that are not there are not found", () => {
    expect(store.jobs.file(4711)).toBeUndefined();
  });

  test("an action that fails half way writes nothing", () => {
    expect(() =>
      store.action(() => {
        store.jobs.repair(job, { part: "stator", fault: null, found: null, done: "x" }, NOW);
        throw new Error("the lights went out");
      }),
    ).toThrow("the lights went out");
    expect(store.jobs.repairs(job)).toEqual([]);
  });
});

describe("the repairs a shop has proven", () => {
  const proven = (fault: string | null): number => {
    const id = store.jobs.open(
      { unitTag: null, nickname: "x", sheet, school: "harbour", meter, ambientC: 20, batteryAgeYears: null, complaint: [], words: "" },
      NOW,
    );
    store.jobs.repair(id, { part: "regulator", fault, found: null, done: "x" }, NOW);
    store.jobs.close(id, "proven", null, NOW);
    return id;
  };
  const countedOf = (sheetId: string) =>
    Object.fromEntries(store.lessons.of(sheet.family).flatMap((lesson) => (lesson.sheetId === sheetId ? [[lesson.fault, lesson.times]] : [])));
  const counted = () => countedOf(sheet.id);

  test("are counted by model and fault, as jobs close", () => {
    expect(counted()).toEqual({});
    for (const fault of ["regulator.no-output", "regulator.no-output", "stator.winding-open", null]) proven(fault);
    expect(counted()).toEqual({ "regulator.no-output": 2, "stator.winding-open": 1 });
    expect(countedOf("another")).toEqual({});
  });

  test("are counted no longer once the job is opened again, nor when it ends without proof", () => {
    const [first] = [proven("regulator.no-output"), proven("stator.winding-open")];
    store.jobs.reopen(first, NOW);
    expect(counted()).toEqual({ "stator.winding-open": 1 });
    store.jobs.close(first, "unproven", "Owner took it home.", NOW);
    expect(counted()).toEqual({ "stator.winding-open": 1 });
    store.jobs.reopen(first, NOW);
    store.jobs.close(first, "proven", null, NOW);
    expect(counted()).toEqual({ "regulator.no-output": 1, "stator.winding-open": 1 });
  });
});

describe("the advice kept with a job", () => {
  const facts: JobFacts = jobFacts([], { meter, tools: [], restHours: 2 });

  test("is found by its facts alone; of many the latest three stay", () => {
    const advice = { status: "not-enough", settled: false } as Advice;
    expect(store.advices.find(job, facts)).toBeUndefined();
    store.advices.keep(job, facts, advice, NOW);
    expect(store.advices.find(job, facts)).toEqual(advice);
    const more: JobFacts = { ...facts, readings: [{ id: "r1", test: "battery.rest", value: 12.6 }] };
    expect(store.advices.find(job, more)).toBeUndefined();
    store.advices.keep(job, more, { ...advice, settled: true }, NOW);
    expect(store.advices.find(job, more)?.settled).toBe(true);
    expect(store.advices.find(job, facts)).toEqual(advice);
    for (const id of ["r2", "r3"]) store.advices.keep(job, { ...more, readings: [{ id, test: "battery.rest", value: 12.6 }] }, advice, NOW);
    expect(store.advices.find(job, facts)).toBeUndefined();
    expect(store.advices.find(job, more)?.settled).toBe(true);
  });

  test("belongs to a job that there is", () => {
    expect(() => store.advices.keep(9999, facts, {} as Advice, NOW)).toThrow(/FOREIGN KEY/);
  });
});

describe("shop, sheets and machines", () => {
  test("a new database starts with a school and a meter", () => {
    expect(store.workshop.shop()).toMatchObject({ school: "harbour" });
    expect(store.workshop.meter().leadOhms).toBeGreaterThan(0);
    expect(store.workshop.meters()).toHaveLength(1);
  });

  test("settings and meters are kept", () => {
    const id = store.workshop.addMeter({ ...meter, name: "Second" });
    store.workshop.changeShop({ name: "Slip yard", school: "parade", meterId: id, tools: ["clamp"] });
    store.workshop.changeMeter({ id, ...meter, name: "Second", trueRms: true });
    expect(store.workshop.shop()).toEqual({ name: "Slip yard", school: "parade", meterId: id, tools: ["clamp"] });
    expect(store.workshop.meter()).toMatchObject({ name: "Second", trueRms: true });
  });

  test("a sheet is added once and changed only where it is", () => {
    expect(store.sheets.add(sheet, NOW)).toBe(true);
    expect(store.sheets.add(sheet, NOW)).toBe(false);
    expect(store.sheets.change({ ...sheet, id: "elsewhere" }, NOW)).toBe(false);
    expect(store.sheets.find(sheet.id)).toEqual(sheet);
    expect(store.sheets.find("elsewhere")).toBeUndefined();
  });

  test("a tag hangs on one machine", () => {
    store.sheets.add(sheet, NOW);
    const unit = { tag: "SK-900", nickname: "Tern", sheetId: sheet.id, usedFor: "trials" };
    expect(store.workshop.addUnit(unit)).toBe(true);
    expect(store.workshop.addUnit({ ...unit, nickname: "Other" })).toBe(false);
    expect(store.workshop.unit("SK-900")).toEqual(unit);
    expect(store.sheets.list(1, 0)[0]?.units).toBe(1);
    expect(() => store.workshop.addUnit({ ...unit, tag: "SK-901", sheetId: "nowhere" })).toThrow(/FOREIGN KEY/);
  });
});
