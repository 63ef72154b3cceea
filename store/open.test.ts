import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import Database from "better-sqlite3";
import { DEMO_SHEETS } from "../demo/sheets";
import { migrations, newFolder } from "../tests/support/store";
import { wholeness } from "./backup";
import { librarySheet } from "./library";
import { DatabaseProblem, migrate, orderMigrations } from "./migrate";
import { DATABASE_FILE, openDatabase } from "./open";
import { Store } from "./store";

const tables = (db: Database.Database) =>
  db.prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name").pluck().all();

describe("opening", () => {
  test("makes the folder, the tables, WAL and foreign keys", () => {
    const db = openDatabase(join(newFolder(), "deep", "down"), migrations());
    expect(tables(db)).toEqual([
      "advices",
      "atlases",
      "backup_rule",
      "bay",
      "day_marks",
      "endings",
      "finds",
      "finds_config",
      "finds_content",
      "finds_data",
      "finds_docsize",
      "finds_idx",
      "foresights",
      "imported_jobs",
      "instruments",
      "jobs",
      "learning",
      "lessons",
      "meters",
      "people",
      "predictions",
      "prices",
      "put_backs",
      "rail_tags",
      "readings",
      "record_words",
      "record_words_config",
      "record_words_content",
      "record_words_data",
      "record_words_docsize",
      "record_words_idx",
      "records",
      "repairs",
      "saved_views",
      "seen_cautions",
      "sent_forms",
      "sessions",
      "sheet_versions",
      "sheets",
      "shop",
      "shop_key",
      "skips",
      "stated",
      "test_times",
      "traces",
      "units",
      "waits",
    ]);
    expect(db.pragma("journal_mode", { simple: true })).toBe("wal");
    expect(db.pragma("foreign_keys", { simple: true })).toBe(1);
    expect(db.pragma("user_version", { simple: true })).toBe(migrations().length);
    expect(
      db.prepare("SELECT count(*) FROM pragma_table_list WHERE schema = 'main' AND type = 'table' AND name NOT LIKE 'sqlite_%' AND strict = 0").pluck().get(),
    ).toBe(0);
  });

  test("again changes nothing", () => {
    const folder = newFolder();
    openDatabase(folder, migrations()).close();
    const db = openDatabase(folder, migrations());
    expect(tables(db)).toHaveLength(47);
  });

  test("a database newer than the program is left alone, in one sentence", () => {
    const folder = newFolder();
    const db = openDatabase(folder, migrations());
    db.pragma("user_version = 99");
    db.close();
    expect(() => openDatabase(folder, migrations())).toThrow(DatabaseProblem);
    expect(() => openDatabase(folder, migrations())).toThrow(/written by a newer Uvrel \(version 99; this one knows \d+\)/);
  });

  test("a locked database is named", () => {
    const folder = newFolder();
    const other = openDatabase(folder, migrations());
    other.exec("BEGIN EXCLUSIVE");
    expect(() => openDatabase(folder, migrations())).toThrow(/is locked by another program/);
    other.exec("ROLLBACK");
  }, 15_000);

  test("a file that is no database is named and kept", () => {
    const folder = newFolder();
    writeFileSync(join(folder, DATABASE_FILE), "this is not a database, it is a shopping list".repeat(40));
    expect(() => openDatabase(folder, migrations())).toThrow(/not a sound Uvrel database/);
  });

  test("a path that is a file is named", () => {
    const folder = newFolder();
    writeFileSync(join(folder, "data"), "");
    expect(() => openDatabase(join(folder, "data"), migrations())).toThrow(/names a file, not a folder|cannot be written/);
  });

  test("a database file that is a folder cannot be opened", () => {
    const folder = newFolder();
    mkdirSync(join(folder, DATABASE_FILE));
    expect(() => openDatabase(folder, migrations())).toThrow(DatabaseProblem);
  });
});

describe("migrations", () => {
  test("run in their numbers' order, each once", () => {
    const ordered = orderMigrations({ "x/002-b.sql": "CREATE TABLE b (i) ", "x/001-a.sql": "CREATE TABLE a (i)" });
    expect(ordered.map((migration) => migration.name)).toEqual(["001-a.sql", "002-b.sql"]);
    const db = new Database(":memory:");
    migrate(db, ordered);
    migrate(db, ordered);
    expect(tables(db)).toEqual(["a", "b"]);
  });

  test("a gap in the numbers is a mistake of ours", () => {
    expect(() => orderMigrations({ "001-a.sql": "", "003-c.sql": "" })).toThrow(/003-c.sql: expected number 2/);
  });

  test("one that fails leaves the whole earlier version", () => {
    const db = new Database(":memory:");
    const broken = orderMigrations({ "001-a.sql": "CREATE TABLE a (i)", "002-b.sql": "CREATE TABLE b (i); CREATE TABLE a (i)" });
    expect(() => migrate(db, broken)).toThrow(DatabaseProblem);
    expect(() => migrate(db, broken)).toThrow(/could not be brought up to version 2 \(002-b.sql: .*already exists\)\. It stands as version 1/);
    expect(tables(db)).toEqual(["a"]);
    expect(db.pragma("user_version", { simple: true })).toBe(1);
  });
});

describe("a database of every earlier version", () => {
  const all = migrations();
  test.each(all.slice(0, -1).map(({ number, name }) => [number, name] as const))("%d (%s) comes up whole, a copy of it beside it", (number) => {
    const folder = newFolder();
    const old = new Database(join(folder, DATABASE_FILE));
    migrate(old, all.slice(0, number));
    const sheet = JSON.stringify(DEMO_SHEETS[0]);
    old
      .prepare(
        "INSERT INTO jobs (id, nickname, sheet, school, meter, ambient_c, complaint, words, opened_at) VALUES (1, 'Old', ?, 'harbour', ?, 20, '[]', '', '2026-01-01')",
      )
      .run(sheet, JSON.stringify({ name: "m", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 }));
    old.prepare("INSERT INTO readings (id, job_id, test, number, raw, taken_at) VALUES ('old-00001', 1, 'battery.crank', 9.7, 0, '2026-01-01')").run();
    old.close();
    const db = openDatabase(folder, all);
    expect(new Store(db).jobs.readings.of(1)).toMatchObject([{ id: "old-00001", test: "battery.crank", value: 9.7 }]);
    db.close();
    expect(wholeness(join(folder, `before-version-${all.length}.sqlite`))).toMatchObject({ version: number, jobs: 1, readings: 1 });
  });
});

test("the command line finds no sheet where there is no database", () => {
  expect(librarySheet(newFolder(), "ostrel-burro-520")).toBeUndefined();
});
