import { createHash } from "node:crypto";
import type { Database } from "better-sqlite3";
import type { Advice, JobFacts } from "../core/diagnosis/advice";
import { ENGINE_EDITION } from "../core/diagnosis/population/edition";
import { preparer } from "./statements";

/** Advices kept to a job: as it is, as it was found, and one step back. */
const MOST_KEPT = 3;

/** The latest advices of every job. */
export class Advices {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** The advice made from just these facts; undefined when they have changed since, or another edition made it. */
  find(jobId: number, facts: JobFacts): Advice | undefined {
    const row = this.#sql("SELECT body FROM advices WHERE job_id = ? AND facts = ?").get(jobId, factsKey(facts)) as { body: string } | undefined;
    return row && (JSON.parse(row.body) as Advice);
  }

  /** Keeps an advice; the oldest of the job makes room. */
  keep(jobId: number, facts: JobFacts, advice: Advice, now: string): void {
    this.#sql(
      `INSERT INTO advices (job_id, facts, body, advised_at) VALUES (?, ?, ?, ?)
         ON CONFLICT (job_id, facts) DO UPDATE SET body = excluded.body, advised_at = excluded.advised_at`,
    ).run(jobId, factsKey(facts), JSON.stringify(advice), now);
    this.#sql(
      "DELETE FROM advices WHERE job_id = @jobId AND rowid NOT IN (SELECT rowid FROM advices WHERE job_id = @jobId ORDER BY advised_at DESC, rowid DESC LIMIT @most)",
    ).run({
      jobId,
      most: MOST_KEPT,
    });
  }
}

/** A hash of all that an advice is made from, and of the edition that makes it. */
function factsKey(facts: JobFacts): string {
  return createHash("sha256")
    .update(`${ENGINE_EDITION}\n${JSON.stringify(facts)}`)
    .digest("hex");
}
