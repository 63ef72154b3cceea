import { mkdtempSync, readdirSync, readFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Migration, orderMigrations } from "../../store/migrate";
import { openDatabase } from "../../store/open";
import { Store } from "../../store/store";

const FOLDER = join(process.cwd(), "store/migrations");

/** The migrations, read from disk (the bundler's way of gathering them does not run here). */
export function migrations(): Migration[] {
  return orderMigrations(Object.fromEntries(readdirSync(FOLDER).map((name) => [name, readFileSync(join(FOLDER, name), "utf8")])));
}

/** A folder of its own that nothing else uses. */
export function newFolder(): string {
  return mkdtempSync(join(tmpdir(), "uvrel-unit-"));
}

/** A store over a new, empty database on disk. */
export function openStore(): Store {
  return new Store(openDatabase(newFolder(), migrations()));
}
