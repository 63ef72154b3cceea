import type { Database, Statement } from "better-sqlite3";

/** Prepares each SQL text once for a database; compiling it again at every call would cost more than running it. */
export function preparer(db: Database): (sql: string) => Statement {
  const known = new Map<string, Statement>();
  return (sql) => {
    const statement = known.get(sql) ?? db.prepare(sql);
    known.set(sql, statement);
    return statement;
  };
}
