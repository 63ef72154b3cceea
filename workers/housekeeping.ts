import { join } from "node:path";
import Database from "better-sqlite3";
import { backUp, type Whole } from "../store/backup";
import { DatabaseProblem } from "../store/migrate";
import { DATABASE_FILE, damageOf } from "../store/open";

/** A server thread's work: the workshop's database copied whole and looked through; or why not, as errors leave their class behind in a thread. */
export async function copy({ folder, file }: { folder: string; file: string }): Promise<Whole | { problem: string }> {
  try {
    return await backUp(folder, file);
  } catch (error) {
    if (!(error instanceof DatabaseProblem)) throw error;
    return { problem: error.message };
  }
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
