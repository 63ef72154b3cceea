import { createHash } from "node:crypto";
import { closeSync, copyFileSync, existsSync, mkdirSync, mkdtempSync, openSync, readSync, renameSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import Database from "better-sqlite3";
import { DatabaseProblem } from "./migrate";
import { DATABASE_FILE } from "./open";

/** More pages than any database has. */
const ALL_PAGES = 2 ** 31 - 1;

/** What a whole database holds, counted, and the SHA-256 of its file. */
export interface Whole {
  version: number;
  jobs: number;
  readings: number;
  repairs: number;
  sha256: string;
}

/**
 * Copies the workshop's database while it is in use, by SQLite's own online backup; copying the file alone would lose what still
 * stands in its log. The copy is looked through before it gets its name.
 * @throws DatabaseProblem with one sentence; then no file of that name is left
 */
export async function backUp(folder: string, file: string): Promise<Whole> {
  const from = join(folder, DATABASE_FILE);
  if (!existsSync(from)) throw new DatabaseProblem(`There is no database in ${folder} yet: nothing to back up.`);
  if (existsSync(file)) throw new DatabaseProblem(`${file} is there already. Name another file: no backup takes the place of another.`);
  if (!existsSync(dirname(file))) throw new DatabaseProblem(`There is no folder ${dirname(file)}. Make it first.`);
  const part = `${file}.part`;
  rmSync(part, { force: true });
  const db = new Database(from, { readonly: true });
  try {
    // All at once: copied page by page it would begin anew whenever another connection writes, and never end on a busy day.
    await db.backup(part, { progress: () => ALL_PAGES });
    const whole = wholeness(part, "quick_check");
    renameSync(part, file);
    return whole;
  } catch (error) {
    rmSync(part, { force: true });
    if (error instanceof DatabaseProblem) throw error;
    throw new DatabaseProblem(`The backup ${file} could not be written: ${messageOf(error)}.`);
  } finally {
    db.close();
  }
}

/**
 * Puts a backup in the place of the workshop's database. It is copied into a fresh folder and looked through there; only a whole one
 * is moved in, and the database that stood there is kept beside it.
 * @param known the newest version of the database that this program reads
 * @returns what it holds, and where the former database lies now
 * @throws DatabaseProblem with one sentence; then nothing was changed
 */
export function restore(folder: string, file: string, known: number, now: Date): Whole & { before: string | undefined } {
  if (!existsSync(file)) throw new DatabaseProblem(`There is no file ${file}.`);
  mkdirSync(folder, { recursive: true });
  const fresh = mkdtempSync(join(folder, "restore-"));
  try {
    const copy = join(fresh, DATABASE_FILE);
    copyFileSync(file, copy);
    if (sha256(copy) !== sha256(file)) throw new DatabaseProblem(`${file} could not be copied whole. Nothing was changed.`);
    const whole = wholeness(copy);
    if (whole.version > known) throw new DatabaseProblem(`${file} was written by a newer Uvrel. Restore it with that one. Nothing was changed.`);
    const before = setAside(folder, now);
    renameSync(copy, join(folder, DATABASE_FILE));
    return { ...whole, before };
  } finally {
    rmSync(fresh, { recursive: true, force: true });
  }
}

/** Moves the present database out of the way, its log taken in first. @throws DatabaseProblem while a program has it open */
function setAside(folder: string, now: Date): string | undefined {
  const present = join(folder, DATABASE_FILE);
  if (!existsSync(present)) return undefined;
  let closed = false;
  try {
    const db = new Database(present, { timeout: 0 });
    // Only a database that nobody else has open can leave its log behind.
    closed = db.pragma("journal_mode = DELETE", { simple: true }) === "delete";
    db.close();
  } catch (error) {
    // One that is no database any more is what a restore is for.
    closed = /NOTADB|CORRUPT/.test(String((error as { code?: unknown }).code));
  }
  if (!closed) throw new DatabaseProblem(`Uvrel is running on ${folder}. Stop it before you restore a backup. Nothing was changed.`);
  const before = join(folder, `before-restore-${now.toISOString().replace(/[:.]/g, "-")}.sqlite`);
  renameSync(present, before);
  for (const log of ["-wal", "-shm"]) rmSync(present + log, { force: true });
  return before;
}

/**
 * Looks a database file through: SQLite's own check, references, and what a Uvrel database has.
 * @param check the quick one reads every page and leaves out that indexes agree with their tables and references lead somewhere: for a copy
 * that was made page by page this minute; whatever is restored is looked through in full
 * @throws DatabaseProblem naming what is wrong
 */
export function wholeness(file: string, check: "integrity_check" | "quick_check" = "integrity_check"): Whole {
  let db: Database.Database | undefined;
  try {
    db = new Database(file, { readonly: true, fileMustExist: true });
    const found = db.pragma(`${check}(1)`, { simple: true });
    if (found !== "ok") throw new DatabaseProblem(`${file} is damaged: ${String(found)}.`);
    if (check === "integrity_check" && (db.pragma("foreign_key_check") as unknown[]).length > 0)
      throw new DatabaseProblem(`${file} is damaged: something in it hangs on nothing.`);
    const version = db.pragma("user_version", { simple: true }) as number;
    if (version < 1 || !db.prepare("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'readings'").get())
      throw new DatabaseProblem(`${file} is no database of Uvrel's.`);
    const counts = db
      .prepare("SELECT (SELECT count(*) FROM jobs) AS jobs, (SELECT count(*) FROM readings) AS readings, (SELECT count(*) FROM repairs) AS repairs")
      .get() as Pick<Whole, "jobs" | "readings" | "repairs">;
    return { version, ...counts, sha256: sha256(file) };
  } catch (error) {
    if (error instanceof DatabaseProblem) throw error;
    throw new DatabaseProblem(`${file} is no sound database: ${messageOf(error)}.`);
  } finally {
    db?.close();
  }
}

const messageOf = (error: unknown): string => String((error as { message?: unknown }).message ?? error);

/** Read piece by piece: a file of many years is larger than what is read at once. */
function sha256(file: string): string {
  const [hash, piece, descriptor] = [createHash("sha256"), Buffer.alloc(4_194_304), openSync(file, "r")];
  try {
    for (let read = readSync(descriptor, piece); read > 0; read = readSync(descriptor, piece)) hash.update(piece.subarray(0, read));
  } finally {
    closeSync(descriptor);
  }
  return hash.digest("hex");
}
