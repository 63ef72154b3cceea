import { accessSync, constants, existsSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { restoreAdvice } from "./backups";
import { DatabaseProblem, type Migration, migrate } from "./migrate";
import { explained } from "./trouble";

/** The database file inside the data folder. */
export const DATABASE_FILE = "uvrel.sqlite";

/** How long another writer is waited for, ms: at start, and then, when every page waits along, hardly at all. */
const BUSY_MS = { starting: 3000, running: 20 } as const;

/**
 * Opens (and creates, and migrates) the workshop's database: WAL, foreign keys on, full sync so that a kept reading
 * survives a power cut.
 * @param folder where the database lives; made when missing
 * @throws DatabaseProblem with one sentence when it is newer, locked, read-only or not a database
 */
export function openDatabase(folder: string, migrations: readonly Migration[]): Database.Database {
  const file = join(folder, DATABASE_FILE);
  let db: Database.Database | undefined;
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
    if (existsSync(file)) accessSync(file, constants.W_OK);
    db = new Database(file, { timeout: BUSY_MS.starting });
    db.pragma("journal_mode = WAL");
    db.pragma("foreign_keys = ON");
    db.pragma("synchronous = FULL");
    db.exec("BEGIN IMMEDIATE; COMMIT");
    copyBefore(db, folder, migrations.length);
    migrate(db, migrations);
    soundOrNot(db, folder, file);
    db.pragma(`busy_timeout = ${BUSY_MS.running}`);
    return db;
  } catch (error) {
    db?.close();
    throw explained(error, file);
  }
}

/** Lays a copy of an earlier version's database beside it before it is changed. */
function copyBefore(db: Database.Database, folder: string, newest: number): void {
  const version = db.pragma("user_version", { simple: true }) as number;
  const copy = join(folder, `before-version-${newest}.sqlite`);
  if (version > 0 && version < newest && !existsSync(copy)) db.prepare("VACUUM INTO ?").run(copy);
}

/** @throws DatabaseProblem that says which backup to restore, where SQLite's quick check finds damage */
function soundOrNot(db: Database.Database, folder: string, file: string): void {
  const damage = damageOf(db);
  if (damage) throw new DatabaseProblem(`${file} is damaged (${damage}). ${restoreAdvice(folder)}`);
}

/** What SQLite's quick check finds wrong; undefined where it finds nothing. */
export function damageOf(db: Database.Database): string | undefined {
  const found = db.pragma("quick_check(1)", { simple: true });
  return found === "ok" ? undefined : String(found).replaceAll("\n", " ");
}
