import { existsSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import type { Atlas } from "../core/diagnosis/population/charts";
import { type Sheet, sheetSchema } from "../core/machine/sheet";
import { DATABASE_FILE } from "./open";

/**
 * Looks a sheet up in the workshop's library without touching the database (opened read-only).
 * @returns undefined when there is no database yet or no such sheet in it
 */
export function librarySheet(folder: string, id: string): Sheet | undefined {
  return look(folder, "sheets", "SELECT body FROM sheets WHERE id = ?", id, (body) => sheetSchema.parse(body));
}

/** Charts that the workshop's server has drawn already, looked up in the same way. */
export function libraryAtlas(folder: string, key: string): Atlas | undefined {
  return look(folder, "atlases", "SELECT body FROM atlases WHERE key = ?", key, (body) => body as Atlas);
}

/** One document of the workshop's database; undefined too where an older database does not have the table yet. */
function look<T>(folder: string, table: string, sql: string, key: string, read: (body: unknown) => T): T | undefined {
  const file = join(folder, DATABASE_FILE);
  if (!existsSync(file)) return undefined;
  const db = new Database(file, { readonly: true });
  try {
    if (!db.prepare("SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = ?").get(table)) return undefined;
    const row = db.prepare(sql).get(key) as { body: string } | undefined;
    return row && read(JSON.parse(row.body));
  } finally {
    db.close();
  }
}
