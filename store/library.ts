import { existsSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { type Sheet, sheetSchema } from "../core/machine/sheet";
import { DATABASE_FILE } from "./open";

/**
 * Looks a sheet up in the workshop's library without touching the database (opened read-only).
 * @returns undefined when there is no database yet or no such sheet in it
 */
export function librarySheet(folder: string, id: string): Sheet | undefined {
  const file = join(folder, DATABASE_FILE);
  if (!existsSync(file)) return undefined;
  const db = new Database(file, { readonly: true });
  try {
    const row = db.prepare("SELECT body FROM sheets WHERE id = ?").get(id) as { body: string } | undefined;
    return row && sheetSchema.parse(JSON.parse(row.body));
  } finally {
    db.close();
  }
}
