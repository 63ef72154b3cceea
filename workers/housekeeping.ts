import { join } from "node:path";
import Database from "better-sqlite3";
import { backUp, type Whole } from "../store/backup";
import { DATABASE_FILE, damageOf } from "../store/open";

/** A server thread's work: the workshop's database copied whole and looked through. */
export function copy({ folder, file }: { folder: string; file: string }): Promise<Whole> {
  return backUp(folder, file);
}

/** A server thread's work: what SQLite's quick check finds wrong with the workshop's database. */
export function look({ folder }: { folder: string }): string | undefined {
  const db = new Database(join(folder, DATABASE_FILE), { readonly: true, fileMustExist: true });
  try {
    return damageOf(db);
  } finally {
    db.close();
  }
}
