import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, describe, expect, test } from "@jest/globals";
import { seedDemo } from "../demo/workshop";
import { type Column, TABLES, type TableName, type TableRow } from "../formats/tables";
import { migrations } from "../tests/support/store";
import { exportRows as exportCells } from "./exporting";
import { bring } from "./importing";
import { openDatabase } from "./open";
import type { Question } from "./records";
import { Store } from "./store";

const NOW = "2026-06-01T12:00:00.000Z";
const folders: string[] = [];

function openIn(): { store: Store; folder: string } {
  const folder = mkdtempSync(join(tmpdir(), "uvrel-tables-"));
  folders.push(folder);
  return { store: new Store(openDatabase(folder, migrations())), folder };
}

afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true });
});

/** Rows of a table by the names of their columns. */
const exportRows = (folder: string, name: TableName, question: Question = {}): TableRow[] =>
  [...exportCells(folder, name, question)].map((cells) => Object.fromEntries(TABLES[name].columns.map((column, k) => [column.name, cells[k] ?? null])));

/** The order in which tables hang on each other. */
const ORDER: TableName[] = ["sheets", "units", "jobs", "repairs", "readings"];
const TOLD = new Set(ORDER.flatMap((name) => TABLES[name].columns.flatMap((column: Column) => (column.told && name !== "sheets" ? [column.name] : []))));
/** Rows as they are read in: what is told stays outside. Of a job the machine is no told column. */
const placed = (rows: Iterable<TableRow>) =>
  [...rows].map((cells, k) => ({
    row: k + 2,
    cells: Object.fromEntries(
      Object.entries(cells).filter(([name]) => !TOLD.has(name) || ("sheet" in cells && name === "machine") || ("id" in cells && name === "repairs")),
    ),
  }));

function bringIn(store: Store, name: TableName, rows: Iterable<TableRow>) {
  const brought = bring(store, name, placed(rows), NOW);
  store.action(brought.keep);
  return brought;
}

describe("a workshop taken to another", () => {
  test("stands there as it stood here, and brought in twice it is there once", () => {
    const [here, there] = [openIn(), openIn()];
    seedDemo(here.store, new Date(NOW));
    const tables = Object.fromEntries(ORDER.map((name) => [name, [...exportRows(here.folder, name)]])) as Record<TableName, TableRow[]>;
    for (const name of ORDER)
      expect(bringIn(there.store, name, tables[name])).toMatchObject({ fresh: tables[name].length, known: 0, changed: 0, problems: [] });
    for (const name of ORDER) {
      const plain = (row: TableRow) => ({ ...row, ...(row.sheet ? { sheet: JSON.parse(String(row.sheet)) } : {}) });
      expect([...exportRows(there.folder, name)].map(plain)).toEqual(tables[name].map(plain));
    }
    for (const name of ORDER)
      expect(bringIn(there.store, name, tables[name])).toMatchObject({ fresh: 0, changed: 0, known: tables[name].length, problems: [] });
    // What was learned from the repairs is learned there as well.
    expect(there.store.lessons.count()).toEqual(here.store.lessons.count());
    expect(there.store.records.minutesByTest()).toEqual(here.store.records.minutesByTest());
    expect(there.store.jobs.count()).toEqual(here.store.jobs.count());
  });

  test("brought in where it came from, everything is here already", () => {
    const { store, folder } = openIn();
    seedDemo(store, new Date(NOW));
    for (const name of ORDER) expect(bring(store, name, placed(exportRows(folder, name)), NOW)).toMatchObject({ fresh: 0, problems: [] });
  });

  test("a filter narrows jobs and what hangs on them", () => {
    const { store, folder } = openIn();
    seedDemo(store, new Date(NOW));
    const jobs = [...exportRows(folder, "jobs", { unitTag: "SK-401" })];
    expect(new Set(jobs.map(({ machine }) => machine))).toEqual(new Set(["SK-401"]));
    const readings = [...exportRows(folder, "readings", { unitTag: "SK-401" })];
    expect(readings.length).toBeGreaterThan(10);
    expect(new Set(readings.map(({ job }) => job))).toEqual(new Set(jobs.map(({ job }) => job)));
    expect([...exportRows(folder, "repairs", { words: "bracket cleaned" })]).toHaveLength(1);
  });
});

describe("rows that cannot be brought in", () => {
  const READING: TableRow = { id: "reading-0001", job: "x-1", test: "battery.rest", number: 12.5, word: null, rpm: null, idle: 0, takenAt: NOW };

  function withJob(): { store: Store; job: string } {
    const { store, folder } = openIn();
    seedDemo(store, new Date(NOW));
    const [job] = [...exportRows(folder, "jobs", { unitTag: "SK-102" })];
    return { store, job: String(job?.job) };
  }

  test("each is named by its row and column, and nothing of it is written", () => {
    const { store, job } = withJob();
    const wrong: [Partial<TableRow>, string, RegExp][] = [
      [{ job: "nobody-9" }, "job", /names the job nobody-9, which is not here: bring in the jobs first/],
      [{ number: null }, "number", /one of them must stand/],
      [{ word: "tight" }, "number", /not both/],
      [{ test: "battery.colour" }, "test", /./],
      [{ number: 5000 }, "number", /./],
      [{ test: "field.resistance", number: 3 }, "test", /is not a test of/],
      [{ takenAt: "yesterday" }, "takenAt", /./],
      [{ id: "x" }, "id", /8 to 64/],
      [{ supersedes: "reading-9999" }, "supersedes", /neither here nor above/],
    ];
    const before = store.records.look({}, 1, 0).found;
    const brought = bring(
      store,
      "readings",
      wrong.map(([more], k) => ({ row: k + 2, cells: { ...READING, id: `reading-000${k}`, job, ...more } as TableRow })),
      NOW,
    );
    expect(brought.fresh).toBe(0);
    wrong.forEach(([, column, error], k) => {
      expect(brought.problems[k]).toMatchObject({ row: k + 2, column });
      expect(brought.problems[k]?.error).toMatch(error);
    });
    store.action(brought.keep);
    expect(store.records.look({}, 1, 0).found).toBe(before);
  });

  test("a correction comes in after what it corrects, a second time it is known, and a closed job is counted anew", () => {
    const { store, folder } = openIn();
    seedDemo(store, new Date(NOW));
    const [job] = [...exportRows(folder, "jobs", { unitTag: "SK-206", ending: "proven" })];
    const rows = [
      { ...READING, job: String(job?.job), id: "correction-1" },
      { ...READING, job: String(job?.job), id: "correction-2", supersedes: "correction-1", supersedesWhy: "mistyped", number: 12.6 },
    ];
    expect(bringIn(store, "readings", rows)).toMatchObject({ fresh: 2, problems: [] });
    expect(bringIn(store, "readings", rows)).toMatchObject({ fresh: 0, known: 2 });
    const id = store.origins.find(String(job?.job)) as number;
    expect(store.jobs.find(id)).toMatchObject({ ending: "proven" });
    expect(store.jobs.endings(id)).toEqual([]);
    expect(store.jobs.readings.of(id).find((reading) => reading.id === "correction-1")?.supersededBy).toBe("correction-2");
  });

  test("machines without their sheet, sheets under another id, jobs of machines that are not here", () => {
    const { store } = withJob();
    expect(bring(store, "units", placed([{ tag: "N-1", nickname: "n", sheetId: "none", usedFor: null }]), NOW).problems[0]).toMatchObject({
      column: "sheetId",
    });
    expect(bring(store, "sheets", placed([{ id: "other", sheet: JSON.stringify(store.sheets.all()[0]) }]), NOW).problems[0]?.error).toMatch(/document's id/);
    expect(bring(store, "sheets", placed([{ id: "x", sheet: '{"id":"x"}' }]), NOW).problems).toHaveLength(1);
    const there = openIn();
    seedDemo(there.store, new Date(NOW));
    const [job] = [...exportRows(there.folder, "jobs")];
    const empty = openIn();
    expect(bring(empty.store, "jobs", placed([{ ...job, machine: "SK-102" } as TableRow]), NOW).problems[0]).toMatchObject({ column: "machine" });
    expect(bring(empty.store, "jobs", placed([{ ...job, machine: null, closedAt: NOW, ending: null } as TableRow]), NOW).problems[0]).toMatchObject({
      column: "ending",
    });
    expect(bring(empty.store, "jobs", placed([{ ...job, machine: null, school: "nowhere" } as TableRow]), NOW).problems[0]).toMatchObject({ column: "school" });
  });
});
