import { beforeEach, describe, expect, test } from "@jest/globals";
import { seedDemo } from "../demo/workshop";
import { openStore } from "../tests/support/store";
import type { Question } from "./records";
import type { Store } from "./store";

const NOW = new Date("2026-06-01T12:00:00.000Z");
let store: Store;
beforeEach(() => {
  store = openStore();
  seedDemo(store, NOW);
});

const found = (question: Question) => store.records.look(question, 100, 0);
const tags = (question: Question) => [...new Set(found(question).lines.map(({ unitTag }) => unitTag))].sort();

describe("the records", () => {
  test("every job is there, the latest first, and counted", () => {
    const { lines, found: all } = found({});
    const { open, closed } = store.jobs.count();
    expect(all).toBe(open + closed);
    expect(lines.map(({ openedAt }) => openedAt)).toEqual(
      lines
        .map(({ openedAt }) => openedAt)
        .sort()
        .reverse(),
    );
  });

  test("words find the owner's, a repair's, a model's, by their beginnings and in any order", () => {
    expect(tags({ words: "radar squeals" })).toEqual(["SK-310"]);
    expect(tags({ words: "bracket bare" })).toEqual(["SK-401"]);
    expect(tags({ words: "dabch" })).toEqual(["SK-141"]);
    expect(tags({ words: "zebra" })).toEqual([]);
    expect(found({ words: '"; DROP TABLE -- *' }).found).toBe(0);
  });

  test("words that come later are found as well: notes, reasons, endings, tags", () => {
    const job = store.jobs.listOpen(1, 0)[0]?.id as number;
    store.jobs.skip(job, { id: "skip-000001", step: "battery.rest", reason: "Padlocked shed" }, NOW.toISOString());
    store.jobs.readings.keep(job, { id: "noted-00001", test: "battery.rest", value: 12.5, note: "smells of herring", takenAt: NOW.toISOString() });
    store.jobs.repair(job, { part: "battery", fault: null, found: null, done: "Swapped quietly" }, NOW.toISOString());
    store.jobs.close(job, "unproven", "Owner emigrated", NOW.toISOString());
    for (const words of ["padlocked", "herring", "quietly", "emigrated"]) expect(found({ words }).lines.map(({ jobId }) => jobId)).toEqual([job]);
    store.jobs.reopen(job, NOW.toISOString());
    expect(found({ words: "emigrated", ending: "open" }).found).toBe(1);
  });

  test("parts, endings, kinds, machines, days and figures narrow it, together", () => {
    expect(tags({ part: "drive" })).toEqual(["SK-310"]);
    expect(found({ ending: "open" }).found).toBe(store.jobs.countOpen());
    expect(tags({ kind: "mower", ending: "proven" })).toEqual(["SK-401"]);
    expect(found({ unitTag: "SK-305" }).found).toBe(8);
    expect(found({ unitTag: "SK-305", from: "2026-01-01", to: "2026-06-01" }).found).toBe(1);
    expect(tags({ test: "charge.volts", least: 15 })).toEqual(["SK-206", "SK-213"]);
    expect(found({ test: "charge.volts", least: 99 }).found).toBe(0);
    expect(found({ family: "dc-generator" }).lines.every(({ unitTag }) => unitTag === "SK-117")).toBe(true);
  });

  test("pages follow each other", () => {
    const first = store.records.look({}, 5, 0).lines.map(({ jobId }) => jobId);
    const second = store.records.look({}, 5, 5).lines.map(({ jobId }) => jobId);
    expect(new Set([...first, ...second]).size).toBe(10);
  });
});

describe("what the records come to", () => {
  test("what failed on what counts proven repairs alone", () => {
    const failures = store.records.failures({}, "model");
    expect(failures.reduce((sum, { times }) => sum + times, 0)).toBe(store.records.firstRight({}).jobs);
    expect(failures).toContainEqual({ name: "Tidewright Farway 29", part: "drive", times: 1 });
  });

  test("a part mended for nothing is told, and odds stated are set against what proved right", () => {
    const job = store.jobs.listOpen(1, 0)[0]?.id as number;
    store.records.state(job, "battery", 0.8, NOW.toISOString());
    store.records.state(job, "stator", 0.99, NOW.toISOString());
    for (const part of ["battery", "regulator"]) store.jobs.repair(job, { part, fault: null, found: null, done: "Quixotic" }, NOW.toISOString());
    store.jobs.close(job, "proven", null, NOW.toISOString());
    expect(store.records.firstRight({ words: "quixotic" }).wrong).toEqual([{ part: "battery", times: 1 }]);
    expect(store.records.reliability({ words: "quixotic" })).toEqual([{ odds: 0.8, said: 1, right: 0 }]);
  });

  test("minutes by test come from the gaps between readings, as jobs close and open", () => {
    const before = store.records.minutesByTest();
    expect(before.find(({ test }) => test === "charge.volts")).toMatchObject({ times: expect.any(Number) });
    const closed = store.jobs.listClosed(1)[0]?.id as number;
    store.jobs.reopen(closed, NOW.toISOString());
    expect(store.records.minutesByTest()).not.toEqual(before);
    store.jobs.close(closed, "proven", null, NOW.toISOString());
    const rounded = (rows: typeof before) =>
      rows.map((row) => ({ ...row, minutes: Math.round(row.minutes * 100) / 100 })).sort((a, b) => a.test.localeCompare(b.test));
    expect(rounded(store.records.minutesByTest())).toEqual(rounded(before));
  });

  test("months are in their order", () => {
    const months = store.records.byMonth({});
    expect(months.map(({ month }) => month)).toEqual(months.map(({ month }) => month).sort());
    expect(months.reduce((sum, { jobs }) => sum + jobs, 0)).toBe(found({}).found);
  });
});

describe("questions that are kept", () => {
  test("go by their name, are changed under it, and dropped", () => {
    store.records.keepView("Boats", "?kind=boat", NOW.toISOString());
    store.records.keepView("boats", "?kind=outboard", NOW.toISOString());
    expect(store.records.views()).toMatchObject([{ name: "Boats", query: "?kind=outboard" }]);
    store.records.dropView(store.records.views()[0]?.id as number);
    expect(store.records.views()).toEqual([]);
  });
});
