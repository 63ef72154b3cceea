import type { Database } from "better-sqlite3";

/** One numbered migration: its number, its file name and its SQL. */
export interface Migration {
  number: number;
  name: string;
  sql: string;
}

/** A problem with the database that one sentence explains and a non-zero exit answers. */
export class DatabaseProblem extends Error {
  override name = "DatabaseProblem";
}

/** Orders files named `001-what.sql` into migrations; throws when a number is missing or doubled. */
export function orderMigrations(files: Record<string, string>): Migration[] {
  const migrations = Object.entries(files)
    .map(([path, sql]) => {
      const name = path.split("/").at(-1) ?? path;
      return { number: Number.parseInt(name, 10), name, sql };
    })
    .sort((a, b) => a.number - b.number);
  migrations.forEach((migration, i) => {
    if (migration.number !== i + 1) throw new Error(`migration ${migration.name}: expected number ${i + 1}`);
  });
  return migrations;
}

/**
 * Brings a database up to the program's version, each migration in its own transaction with its number, so that a
 * stop half way leaves a whole earlier version.
 * @throws DatabaseProblem when the database is newer than the program
 */
export function migrate(db: Database, migrations: readonly Migration[]): void {
  const version = db.pragma("user_version", { simple: true }) as number;
  if (version > migrations.length) {
    throw new DatabaseProblem(
      `The database was written by a newer Uvrel (version ${version}; this one knows ${migrations.length}). Start the newer program, or point UVREL_DATA at another folder.`,
    );
  }
  for (const migration of migrations.slice(version)) {
    try {
      db.transaction(() => {
        db.exec(migration.sql);
        db.pragma(`user_version = ${migration.number}`);
      }).immediate();
    } catch (error) {
      const { code, message } = error as { code?: unknown; message?: unknown };
      if (code === "SQLITE_FULL") throw error;
      throw new DatabaseProblem(
        `The database could not be brought up to version ${migration.number} (${migration.name}: ${String(message)}). It stands as version ${migration.number - 1}; start the earlier program, or restore a backup.`,
      );
    }
  }
}
