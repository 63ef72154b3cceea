import type { Database } from "better-sqlite3";
import { preparer } from "./statements";

/** By which names jobs are known beyond this database. */
export class Origins {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** The job of a name, whether it was taken in here or brought in; undefined where it is not here. */
  find(name: string): number | undefined {
    const brought = this.#sql("SELECT job_id FROM imported_jobs WHERE origin = ?").pluck().get(name) as number | undefined;
    if (brought !== undefined) return brought;
    const key = this.#sql("SELECT key FROM shop_key").pluck().get() as string;
    const own = name.startsWith(`${key}-`) ? Number(name.slice(key.length + 1)) : Number.NaN;
    return Number.isSafeInteger(own) ? (this.#sql("SELECT id FROM jobs WHERE id = ?").pluck().get(own) as number | undefined) : undefined;
  }

  /** Notes by which name a job was brought in. */
  note(name: string, jobId: number): void {
    this.#sql("INSERT INTO imported_jobs (origin, job_id) VALUES (?, ?)").run(name, jobId);
  }
}
