import { dirname } from "node:path";
import { restoreAdvice } from "./backups";
import { DatabaseProblem } from "./migrate";

const codeOf = (error: unknown): string => String((error as { code?: unknown } | undefined)?.code ?? "");

/** True when another program holds the database: what failed may be tried again. */
export function isBusy(error: unknown): boolean {
  return /^SQLITE_(BUSY|LOCKED)/.test(codeOf(error));
}

/** True when what was read of the database cannot be. */
export function isDamage(error: unknown): boolean {
  return /^SQLITE_(CORRUPT|NOTADB)/.test(codeOf(error));
}

/**
 * What is wrong with a database, in one sentence; any other error as it came.
 * @param file the database
 */
export function explained(error: unknown, file: string): unknown {
  if (error instanceof DatabaseProblem || typeof error !== "object" || error === null || !("code" in error)) return error;
  switch (codeOf(error).split("_").slice(0, 2).join("_")) {
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
      return new DatabaseProblem(`${file} is not a sound Uvrel database. ${restoreAdvice(dirname(file))}`);
    case "SQLITE_FULL":
    case "ENOSPC":
      return new DatabaseProblem(`The disk that holds ${file} is full. Make room and start again; nothing was changed.`);
    // On a full disk it is the log or its index that cannot be laid out.
    case "SQLITE_IOERR":
      return new DatabaseProblem(
        `The disk that holds ${file} cannot be read or written (${codeOf(error)}). Is it full, or gone? Look to it and start again; nothing was changed.`,
      );
    case "EEXIST":
    case "ENOTDIR":
      return new DatabaseProblem(`UVREL_DATA names a file, not a folder: ${dirname(file)}.`);
    default:
      return error;
  }
}

/** Why something could not be written while the program runs, for whoever pressed the button; undefined where the program itself is wrong. */
export function whyNotWritten(error: unknown): string | undefined {
  if (error instanceof DatabaseProblem) return error.message;
  if (isBusy(error)) return "Another program holds the database. Nothing was changed.";
  if (isDamage(error)) return "The database is damaged. Nothing was changed: restore a backup.";
  if (/^(SQLITE_FULL|ENOSPC)/.test(codeOf(error))) return "The disk that holds the database is full. Nothing was changed: make room.";
  if (/^SQLITE_(READONLY|IOERR|CANTOPEN)/.test(codeOf(error))) return "The database can no longer be written. Nothing was changed: look at its folder.";
  return undefined;
}
