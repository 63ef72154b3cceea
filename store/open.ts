import { accessSync, constants, existsSync, mkdirSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { DatabaseProblem, type Migration, migrate } from "./migrate";

/** The database file inside the data folder. */
export const DATABASE_FILE = "uvrel.sqlite";

/** How long a writer waits for another before it says so. */
const BUSY_MS = 3000;

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
    db = new Database(file, { timeout: BUSY_MS });
    db.pragma("journal_mode = WAL");
    db.pragma("foreign_keys = ON");
    db.pragma("synchronous = FULL");
    db.exec("BEGIN IMMEDIATE; COMMIT");
    copyBefore(db, folder, migrations.length);
    migrate(db, migrations);
    return db;
  } catch (error) {
    db?.close();
    throw explain(error, file);
  }
}

/** Lays a copy of an earlier version's database beside it before it is changed. */
function copyBefore(db: Database.Database, folder: string, newest: number): void {
  const version = db.pragma("user_version", { simple: true }) as number;
  const copy = join(folder, `before-version-${newest}.sqlite`);
  if (version > 0 && version < newest && !existsSync(copy)) db.prepare("VACUUM INTO ?").run(copy);
}

function explain(error: unknown, file: string): unknown {
  if (error instanceof DatabaseProblem || typeof error !== "object" || error === null || !("code" in error)) return error;
  switch (String(error.code).split("_").slice(0, 2).join("_")) {
    case "SQLITE_BUSY":
    case "SQLITE_LOCKED":
      return new DatabaseProblem(`The database ${file} is locked by another program. Close it and start again.`);
    case "SQLITE_READONLY":
    case "SQLITE_CANTOPEN":
    case "EACCES":
    case "EROFS":
    case "EPERM":
      return new DatabaseProblem(`The database ${file} cannot be written. Check the rights of the file and its folder, or set UVREL_DATA to another folder.`);
    case "SQLITE_NOTADB":
    case "SQLITE_CORRUPT":
      return new DatabaseProblem(`${file} is not a sound Uvrel database. Move it away, or set UVREL_DATA to another folder.`);
    case "SQLITE_FULL":
    case "ENOSPC":
      return new DatabaseProblem(`The disk that holds ${file} is full. Make room and start again; nothing was changed.`);
    case "EEXIST":
    case "ENOTDIR":
      return new DatabaseProblem(`UVREL_DATA names a file, not a folder: ${file.slice(0, -DATABASE_FILE.length - 1)}.`);
    default:
      return error;
  }
}
