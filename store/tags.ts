import type { Database } from "better-sqlite3";
import { ENGINE_EDITION } from "../core/diagnosis/population/edition";
import { preparer } from "./statements";

/** What the rail shows of each job, as it was drawn last; the database takes a tag down when anything about its job changes. */
export class RailTags {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** A job's tag; undefined when it has to be drawn anew. */
  find(jobId: number): unknown {
    const row = this.#sql("SELECT body FROM rail_tags WHERE job_id = ? AND edition = ?").get(jobId, ENGINE_EDITION) as { body: string } | undefined;
    return row && JSON.parse(row.body);
  }

  keep(jobId: number, tag: unknown): void {
    this.#sql(
      `INSERT INTO rail_tags (job_id, edition, body) VALUES (?, ?, ?)
         ON CONFLICT (job_id) DO UPDATE SET edition = excluded.edition, body = excluded.body`,
    ).run(jobId, ENGINE_EDITION, JSON.stringify(tag));
  }
}
