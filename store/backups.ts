import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from "node:fs";
import { join } from "node:path";
import type { Database } from "better-sqlite3";
import { format } from "date-fns";
import { z } from "zod";
import { preparer } from "./statements";

/** The folder of a workshop's backups, inside its data folder. */
const FOLDER = "backups";
const NAME = /^uvrel-(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})(-by-hand)?\.sqlite$/;
const HOUR_MS = 3_600_000;

/** One backup in the workshop's folder. */
interface BackupFile {
  name: string;
  /** When it was made, ISO time. */
  at: string;
  bytes: number;
  /** Made because somebody asked for it: no rule takes it away. */
  byHand: boolean;
}

/** Of how many of the last days, weeks and months one backup each is kept; without days none is made by itself. */
export const ruleSchema = z.object({ days: count("days", 60), weeks: count("weeks", 60), months: count("months", 120) });

type Rule = z.output<typeof ruleSchema>;

const USUAL_RULE: Rule = { days: 7, weeks: 4, months: 12 };

function count(what: string, most: number) {
  const says = `Must be a whole number of ${what} from 0 to ${most}.`;
  return z.number({ error: says }).int(says).min(0, says).max(most, says);
}

/** What the workshop has set about its backups. */
export class BackupRule {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  get(): Rule {
    const row = this.#sql("SELECT body FROM backup_rule").get() as { body: string } | undefined;
    return row ? ruleSchema.parse(JSON.parse(row.body)) : USUAL_RULE;
  }

  change(rule: Rule): void {
    this.#sql("INSERT INTO backup_rule (only, body) VALUES (1, ?) ON CONFLICT DO UPDATE SET body = excluded.body").run(JSON.stringify(rule));
  }
}

/** The backups in the data folder, the newest first; files of other names are none. */
export function backupsIn(folder: string): BackupFile[] {
  const place = join(folder, FOLDER);
  if (!existsSync(place)) return [];
  return readdirSync(place)
    .flatMap((name): BackupFile[] => {
      const [, day, hour, minute, second, byHand] = NAME.exec(name) ?? [];
      if (day === undefined) return [];
      return [{ name, at: `${day}T${hour}:${minute}:${second}.000Z`, bytes: statSync(join(place, name)).size, byHand: byHand !== undefined }];
    })
    .sort((a, b) => (a.at < b.at ? 1 : -1));
}

/** Where a new backup goes; the folder is made when missing. */
export function newBackup(folder: string, now: Date, byHand: boolean): string {
  mkdirSync(join(folder, FOLDER), { recursive: true });
  return join(folder, FOLDER, `uvrel-${now.toISOString().slice(0, 19).replaceAll(":", "-")}${byHand ? "-by-hand" : ""}.sqlite`);
}

/** The path of a backup by its name; undefined when there is none of that name. */
export function backupNamed(folder: string, name: string): string | undefined {
  const path = join(folder, FOLDER, name);
  return NAME.test(name) && existsSync(path) ? path : undefined;
}

/** True when the newest backup is a day old, or there is none, and the rule wants them. */
export function isBackupDue(backups: readonly BackupFile[], rule: Rule, now: Date): boolean {
  const [newest] = backups;
  // An hour early rather than an hour later every day.
  return rule.days > 0 && (newest === undefined || now.getTime() - Date.parse(newest.at) > 23 * HOUR_MS);
}

/** How long after the rule asked for a backup its absence is said: a machine that sleeps over a day off is no miss. */
const MISSED_HOURS = 49;
/** A workshop that runs for so long without its first backup is told. */
const FIRST_HOURS = 1;

/** How the workshop's backups stand. */
interface BackupStanding {
  /** When the newest good one was made, ISO time. */
  last: string | undefined;
  /** Why somebody should look, in a sentence; undefined while the rule is met. */
  missed: string | undefined;
}

/**
 * Whether the rule is met. What is listed was looked through when it was made, so each is a good one.
 * @param runningMs how long Uvrel has been running @param failed why the last try came to nothing
 */
export function backupStanding(backups: readonly BackupFile[], rule: Rule, now: Date, runningMs: number, failed?: string): BackupStanding {
  const last = backups[0]?.at;
  if (rule.days === 0) return { last, missed: undefined };
  const hours = last === undefined ? Number.POSITIVE_INFINITY : (now.getTime() - Date.parse(last)) / HOUR_MS;
  const overdue = last === undefined ? runningMs > FIRST_HOURS * HOUR_MS : hours > MISSED_HOURS && runningMs > FIRST_HOURS * HOUR_MS;
  if (failed !== undefined) return { last, missed: `The last try to back up failed: ${failed}` };
  if (!overdue) return { last, missed: undefined };
  const since = last === undefined ? "No backup has ever been made" : `The last backup is ${Math.floor(hours / 24)} days old`;
  return { last, missed: `${since}, though the rule asks for one a day. Make one now, and look whether the disk is full.` };
}

/**
 * The backups that a rule no longer keeps: of each of the last so many days, weeks (ISO 8601) and months that have one, the newest
 * stays; so does what was made by hand. @param backups the newest first
 */
export function beyondRule(backups: readonly BackupFile[], rule: Rule): BackupFile[] {
  const keep = new Set(backups.filter(({ byHand }) => byHand));
  for (const [most, period] of [
    [rule.days, "yyyy-MM-dd"],
    [rule.weeks, "RRRR-'W'II"],
    [rule.months, "yyyy-MM"],
  ] as const) {
    const newest = new Map<string, BackupFile>();
    for (const backup of backups) {
      const of = format(backup.at, period);
      if (!newest.has(of) && newest.size < most) newest.set(of, backup);
    }
    for (const backup of newest.values()) keep.add(backup);
  }
  return backups.filter((backup) => !keep.has(backup));
}

/** Takes away what the rule no longer keeps. */
export function thinOut(folder: string, rule: Rule): void {
  for (const { name } of beyondRule(backupsIn(folder), rule)) rmSync(join(folder, FOLDER, name));
}

/** What to do about a database that is damaged. */
export function restoreAdvice(folder: string): string {
  const [newest] = backupsIn(folder);
  return newest
    ? `Stop Uvrel and restore the latest backup: uvrel restore ${join(folder, FOLDER, newest.name)}`
    : "There is no backup of it in its folder: restore one that lies elsewhere, or ask for help before anything is written to it.";
}
