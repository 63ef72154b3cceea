import { writeFileSync } from "node:fs";
import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import type { Request, Response } from "express";
import { backupsIn, newBackup } from "../store/backups";
import { DatabaseProblem } from "../store/migrate";
import type { Store } from "../store/store";
import { newFolder, openStore } from "../tests/support/store";
import { Housekeeper, soundOnly } from "./housekeeping";

const NOW = new Date("2026-06-15T03:00:00.000Z");
const DAY = 86_400_000;
let store: Store;
let folder: string;
let damage: string | undefined;

/** Threads that write an empty file for a backup, and find what they are told to find. */
const threads = {
  run: jest.fn(async (task: { file?: string }) => {
    if (task.file === undefined) return damage;
    writeFileSync(task.file, "");
    return {};
  }),
  destroy: async () => undefined,
};
const housekeeper = () => new Housekeeper(store, folder, () => undefined, threads as never);

beforeEach(() => {
  [store, folder, damage] = [openStore(), newFolder(), undefined];
  threads.run.mockClear();
});

describe("keeping house", () => {
  test("a backup that fails is remembered until one is made", async () => {
    const keeper = housekeeper();
    threads.run.mockImplementationOnce(async () => ({ problem: "The disk is full." }));
    await expect(keeper.backUpIfDue(NOW)).rejects.toThrow("The disk is full.");
    expect(keeper.failed).toBe("The disk is full.");
    await keeper.backUp(NOW, true);
    expect(keeper.failed).toBeUndefined();
  });

  test("makes one backup a day, and takes away what the rule no longer keeps", async () => {
    store.backupRule.change({ days: 2, weeks: 0, months: 0 });
    for (let day = 3; day > 0; day--) writeFileSync(newBackup(folder, new Date(NOW.getTime() - day * DAY), false), "");
    await housekeeper().backUpIfDue(NOW);
    await housekeeper().backUpIfDue(new Date(NOW.getTime() + DAY / 2));
    expect(backupsIn(folder).map(({ at }) => at.slice(0, 10))).toEqual(["2026-06-15", "2026-06-14"]);
  });

  test("makes none where the rule wants none, but what somebody asks for", async () => {
    store.backupRule.change({ days: 0, weeks: 1, months: 1 });
    await housekeeper().backUpIfDue(NOW);
    expect(backupsIn(folder)).toEqual([]);
    await housekeeper().backUp(NOW, true);
    expect(backupsIn(folder)).toMatchObject([{ byHand: true }]);
  });

  test("says in a sentence why a backup could not be made", async () => {
    threads.run.mockImplementationOnce(async () => ({ problem: "The disk is full." }));
    await expect(housekeeper().backUp(NOW, true)).rejects.toThrow(new DatabaseProblem("The disk is full."));
  });

  test("copies no damaged database over good backups, and stops every page with the backup to restore", async () => {
    writeFileSync(newBackup(folder, new Date(NOW.getTime() - 3 * DAY), false), "");
    await housekeeper().lookThrough();
    expect(store.damage).toBeUndefined();
    damage = "row 7 missing from index jobs_open";
    await housekeeper().lookThrough();
    await housekeeper().backUpIfDue(NOW);
    expect(backupsIn(folder)).toHaveLength(1);
    expect(() => store.action(() => undefined)).toThrow(/is damaged \(row 7 missing/);
    const next = jest.fn();
    const sent: string[] = [];
    const answer = {
      status(code: number) {
        sent.push(String(code));
        return answer;
      },
      type: () => answer,
      send: (text: string) => sent.push(text),
    };
    soundOnly(store, folder)({} as Request, answer as unknown as Response, next);
    expect(next).not.toHaveBeenCalled();
    expect(sent).toEqual(["503", expect.stringMatching(/row 7 missing.*uvrel restore .*2026-06-12T03-00-00\.sqlite$/)]);
  });
});
