import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { seedDemo } from "../demo/workshop";
import { migrations, newFolder } from "../tests/support/store";
import { backUp, restore, wholeness } from "./backup";
import { DatabaseProblem } from "./migrate";
import { DATABASE_FILE, openDatabase } from "./open";
import { Store } from "./store";

const NOW = new Date("2026-06-01T10:00:00Z");
const KNOWN = migrations().length;

/** A workshop in use: open, with what was written last still in its log. */
function inUse(): { folder: string; store: Store } {
  const folder = newFolder();
  const store = new Store(openDatabase(folder, migrations()));
  seedDemo(store, NOW);
  return { folder, store };
}

describe("a backup", () => {
  test("of a database in use holds all of it, the log included, and says so", async () => {
    const { folder, store } = inUse();
    const file = join(newFolder(), "friday.sqlite");
    const whole = await backUp(folder, file);
    expect(whole).toMatchObject({ version: KNOWN, jobs: store.jobs.count().open + store.jobs.count().closed });
    expect(whole.readings).toBeGreaterThan(100);
    expect(wholeness(file)).toEqual(whole);
    store.close();
  });

  test.each<[string, (folder: string) => [string, string], RegExp]>([
    ["of nothing", () => [newFolder(), join(newFolder(), "x.sqlite")], /nothing to back up/],
    ["into a folder that is not there", (folder) => [folder, join(folder, "no", "x.sqlite")], /Make it first/],
    ["over another", (folder) => [folder, join(folder, DATABASE_FILE)], /takes the place of another/],
  ])("%s is refused in one sentence, and leaves nothing behind", async (_what, paths, says) => {
    const { folder, store } = inUse();
    const [from, to] = paths(folder);
    await expect(backUp(from, to)).rejects.toThrow(says);
    expect(existsSync(`${to}.part`)).toBe(false);
    store.close();
  });
});

describe("a restore", () => {
  test("puts everything back, and keeps the database that was there", async () => {
    const { folder, store } = inUse();
    const file = join(newFolder(), "friday.sqlite");
    await backUp(folder, file);
    const job = store.jobs.listOpen(1, 0)[0]?.id ?? 0;
    store.jobs.close(job, "unproven", "after the backup", NOW.toISOString());
    store.close();
    const { before, jobs } = restore(folder, file, KNOWN, NOW);
    expect(jobs).toBeGreaterThan(5);
    const back = new Store(openDatabase(folder, migrations()));
    expect(back.jobs.find(job)?.closedAt).toBeNull();
    back.close();
    expect(wholeness(before as string).jobs).toBe(jobs);
    expect(readdirSync(folder).filter((name) => name.startsWith("restore-"))).toEqual([]);
  });

  test("into an empty folder needs nothing there", async () => {
    const { folder, store } = inUse();
    const file = join(newFolder(), "friday.sqlite");
    await backUp(folder, file);
    store.close();
    expect(restore(join(newFolder(), "new"), file, KNOWN, NOW)).toMatchObject({ before: undefined });
  });

  test("is refused while Uvrel runs, and nothing changes", async () => {
    const { folder, store } = inUse();
    const file = join(newFolder(), "friday.sqlite");
    await backUp(folder, file);
    expect(() => restore(folder, file, KNOWN, NOW)).toThrow(/Stop it before you restore/);
    expect(store.jobs.count().open).toBeGreaterThan(0);
    store.close();
  });

  test.each<[string, (file: string) => void, number, RegExp]>([
    ["a damaged file", (file) => writeFileSync(file, damaged(readFileSync(file))), KNOWN, /damaged|no sound database/],
    ["half a file", (file) => writeFileSync(file, readFileSync(file).subarray(0, 30_000)), KNOWN, /damaged|no sound database/],
    ["a letter", (file) => writeFileSync(file, "Dear workshop"), KNOWN, /no sound database/],
    ["a newer Uvrel's", () => undefined, KNOWN - 1, /newer Uvrel/],
  ])("of %s is refused, and the present database stays", async (_what, spoil, known, says) => {
    const { folder, store } = inUse();
    const file = join(newFolder(), "friday.sqlite");
    await backUp(folder, file);
    store.close();
    spoil(file);
    expect(() => restore(folder, file, known, NOW)).toThrow(DatabaseProblem);
    expect(() => restore(folder, file, known, NOW)).toThrow(says);
    expect(wholeness(join(folder, DATABASE_FILE)).jobs).toBeGreaterThan(5);
  });
});

/** Every page but the first overwritten in its middle. */
function damaged(bytes: Buffer): Buffer {
  for (let at = 4096 + 100; at < bytes.length; at += 4096) bytes.fill(0xa5, at, at + 2000);
  return bytes;
}
