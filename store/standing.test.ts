import { openSync, renameSync, writeSync } from "node:fs";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { describe, expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { DEMO_SHEETS } from "../demo/sheets";
import { migrations, newFolder } from "../tests/support/store";
import { DatabaseProblem } from "./migrate";
import { DATABASE_FILE, openDatabase } from "./open";
import { Store } from "./store";
import { whyNotWritten } from "./trouble";

/** A store over a file of its own, and another program that has the same file open. */
function opened(): { store: Store; folder: string; other: Database.Database } {
  const folder = newFolder();
  const store = new Store(openDatabase(folder, migrations()));
  store.workshop.shop();
  return { store, folder, other: new Database(join(folder, DATABASE_FILE), { timeout: 0 }) };
}

const rename = (store: Store, name: string) => () => store.workshop.changeShop({ ...store.workshop.shop(), name });

describe("while another program writes", () => {
  test("an action waits its turn, and everything else goes on meanwhile", async () => {
    const { store, other } = opened();
    other.exec("BEGIN IMMEDIATE");
    const writing = store.patiently(rename(store, "Later"));
    let turns = 0;
    for (const end = Date.now() + 300; Date.now() < end; await pause(1)) turns++;
    // The loop was held at most for the short wait of each attempt.
    expect(turns).toBeGreaterThan(3);
    other.exec("COMMIT");
    await writing;
    expect(store.workshop.shop().name).toBe("Later");
  });

  test("one that never lets go is named, and nothing was changed", async () => {
    const { store, other } = opened();
    other.exec("BEGIN IMMEDIATE");
    const error: unknown = await store.patiently(rename(store, "Never")).catch((why: unknown) => why);
    expect(whyNotWritten(error)).toBe("Another program holds the database. Nothing was changed.");
    other.exec("ROLLBACK");
    expect(store.workshop.shop().name).not.toBe("Never");
  });
});

test("a data folder that is gone is said at the first write, not at the next start", () => {
  const { store, folder } = opened();
  renameSync(join(folder, DATABASE_FILE), join(folder, "elsewhere.sqlite"));
  expect(() => store.action(rename(store, "Lost"))).toThrow(DatabaseProblem);
  expect(() => store.action(rename(store, "Lost"))).toThrow(/is gone or another stands in its place/);
  // The same for another database in its place.
  openDatabase(folder, migrations()).close();
  expect(() => store.action(rename(store, "Lost"))).toThrow(/another stands in its place/);
});

test("a damaged database does not start, and the backup to restore is named", async () => {
  const { store, folder, other } = opened();
  for (const sheet of DEMO_SHEETS) store.sheets.add(sheet, "2026-06-01T10:00:00.000Z");
  other.close();
  store.close();
  // Strikes through the middle of every table.
  const file = openSync(join(folder, DATABASE_FILE), "r+");
  for (let page = 4; page < 40; page++) writeSync(file, Buffer.alloc(2000, 0x5a), 0, 2000, page * 4096 + 900);
  expect(() => openDatabase(folder, migrations())).toThrow(/There is no backup of it in its folder/);
});

test("what the rail shows of a job is taken down by everything that changes it", () => {
  const { store } = opened();
  const [sheet] = DEMO_SHEETS;
  if (!sheet) throw new Error("no sheet");
  const now = "2026-06-01T10:00:00.000Z";
  const meter = store.workshop.meter();
  const job = store.jobs.open(
    { unitTag: null, nickname: "Skua", sheet, school: "harbour", meter, ambientC: 12, batteryAgeYears: null, complaint: [], words: "" },
    now,
  );
  const changes: (() => void)[] = [
    () => store.jobs.readings.keep(job, { id: "reading-1", test: "battery.rest", value: 12.6, takenAt: now }),
    () => store.jobs.skip(job, { id: "skip-0001", step: "battery.crank", reason: "Not safe" }, now),
    () => store.jobs.repair(job, { part: "battery", fault: "battery.worn", found: null, done: "Renewed" }, now),
    () => store.prices.change({ ...store.prices.get(), labourPerHour: 71 }),
    () => store.prices.change({ ...store.prices.get(), labourPerHour: 72 }),
    rename(store, "Another name"),
    () => store.jobs.close(job, "proven", null, now),
    () => store.jobs.reopen(job, now),
  ];
  for (const change of changes) {
    store.tags.keep(job, { marks: {} });
    expect(store.tags.find(job)).toEqual({ marks: {} });
    change();
    expect(store.tags.find(job)).toBeUndefined();
  }
});
