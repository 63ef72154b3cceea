import { mkdirSync, readdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { newFolder, openStore } from "../tests/support/store";
import { backupNamed, backupStanding, backupsIn, beyondRule, isBackupDue, newBackup, restoreAdvice, ruleSchema, thinOut } from "./backups";

const DAY = 86_400_000;
const NOW = new Date("2026-06-15T03:00:00.000Z");

/** A folder with a backup of each of the last so many days, and some other files. */
function folderOf(days: number, byHand: readonly number[] = []): string {
  const folder = newFolder();
  for (let day = 0; day < days; day++) writeFileSync(newBackup(folder, new Date(NOW.getTime() - day * DAY), byHand.includes(day)), "x".repeat(day));
  mkdirSync(join(folder, "backups"), { recursive: true });
  writeFileSync(join(folder, "backups", "notes.txt"), "mine");
  return folder;
}

describe("backups", () => {
  test("are listed the newest first; other files are none", () => {
    const backups = backupsIn(folderOf(3, [1]));
    expect(backups.map(({ at, bytes, byHand }) => [at.slice(0, 10), bytes, byHand])).toEqual([
      ["2026-06-15", 0, false],
      ["2026-06-14", 1, true],
      ["2026-06-13", 2, false],
    ]);
    expect(backupsIn(newFolder())).toEqual([]);
  });

  test("are found by their names and by no other path", () => {
    const folder = folderOf(1);
    const name = String(backupsIn(folder)[0]?.name);
    expect(backupNamed(folder, name)).toBe(join(folder, "backups", name));
    for (const other of ["notes.txt", "../uvrel.sqlite", `../backups/${name}`, "", "uvrel-2026-06-15T03-00-00.sqlite-wal"])
      expect(backupNamed(folder, other)).toBeUndefined();
  });

  test("are due once a day, and never where the rule wants none", () => {
    const rule = { days: 7, weeks: 0, months: 0 };
    const backups = backupsIn(folderOf(2));
    expect(isBackupDue([], rule, NOW)).toBe(true);
    expect(isBackupDue(backups, rule, new Date(NOW.getTime() + DAY / 2))).toBe(false);
    expect(isBackupDue(backups, rule, new Date(NOW.getTime() + DAY))).toBe(true);
    expect(isBackupDue([], { ...rule, days: 0 }, NOW)).toBe(false);
  });

  test("are watched: a rule that is missed is said, one that is met or that nobody asked for is not", () => {
    const rule = { days: 7, weeks: 0, months: 0 };
    const backups = backupsIn(folderOf(2));
    const long = 10 * DAY;
    const later = (days: number): Date => new Date(NOW.getTime() + days * DAY);
    expect(backupStanding(backups, rule, later(1), long)).toEqual({ last: NOW.toISOString(), missed: undefined });
    expect(backupStanding(backups, rule, later(5), long).missed).toMatch(/^The last backup is 5 days old, though the rule asks for one a day\./);
    // A machine that was off for a week makes its backup within the first hour.
    expect(backupStanding(backups, rule, later(7), DAY / 48).missed).toBeUndefined();
    expect(backupStanding([], rule, NOW, long).missed).toMatch(/^No backup has ever been made/);
    expect(backupStanding([], rule, NOW, DAY / 48).missed).toBeUndefined();
    expect(backupStanding([], { ...rule, days: 0 }, NOW, long).missed).toBeUndefined();
    expect(backupStanding(backups, rule, NOW, 0, "the disk is full.").missed).toBe("The last try to back up failed: the disk is full.");
  });

  test("name the one to restore when the database is damaged", () => {
    const folder = folderOf(3);
    expect(restoreAdvice(folder)).toContain(`uvrel restore ${join(folder, "backups", "uvrel-2026-06-15T03-00-00.sqlite")}`);
    expect(restoreAdvice(newFolder())).toMatch(/There is no backup/);
  });
});

describe("the rule", () => {
  test("keeps the newest of each day, week and month, and what was made by hand", () => {
    const folder = folderOf(70, [50]);
    thinOut(folder, { days: 3, weeks: 2, months: 3 });
    expect(backupsIn(folder).map(({ at }) => at.slice(0, 10))).toEqual(["2026-06-15", "2026-06-14", "2026-06-13", "2026-05-31", "2026-04-30", "2026-04-26"]);
    expect(readdirSync(join(folder, "backups"))).toContain("notes.txt");
  });

  test("never takes away the newest, nor more than it has to, whatever it says", () => {
    const backups = backupsIn(folderOf(60));
    const upTo = (most: number) => fc.integer({ min: 0, max: most });
    fc.assert(
      fc.property(fc.record({ days: upTo(60), weeks: upTo(60), months: upTo(24) }), (rule) => {
        const gone = new Set(beyondRule(backups, rule));
        const kept = backups.filter((backup) => !gone.has(backup));
        if (rule.days + rule.weeks + rule.months > 0) expect(kept[0]).toBe(backups[0]);
        expect(kept.length).toBeGreaterThanOrEqual(Math.min(rule.days, backups.length));
        expect(kept.length).toBeLessThanOrEqual(rule.days + rule.weeks + rule.months);
      }),
    );
  });

  test("is kept, and refused where it is none", () => {
    const { backupRule } = openStore();
    expect(backupRule.get()).toEqual({ days: 7, weeks: 4, months: 12 });
    backupRule.change({ days: 0, weeks: 1, months: 2 });
    expect(backupRule.get()).toEqual({ days: 0, weeks: 1, months: 2 });
    for (const days of [-1, 61, 1.5, Number.NaN, undefined]) expect(ruleSchema.safeParse({ days, weeks: 1, months: 1 }).success).toBe(false);
  });
});
