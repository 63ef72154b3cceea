import type { Database } from "better-sqlite3";
import { z } from "zod";
import { preparer } from "./statements";

/** What the day's plan reckons with. */
export const baySchema = z.object({
  mechanics: z.number({ error: "Must be a number from 1 to 20." }).int("Must be a whole number.").min(1, "Must be 1 or more.").max(20, "Must be 20 or less."),
  chargers: z.number({ error: "Must be a number from 0 to 20." }).int("Must be a whole number.").min(0, "Must be 0 or more.").max(20, "Must be 20 or less."),
  /** Hands begin and go home, as HH:MM. */
  begins: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Must be a time, as 08:00."),
  ends: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, "Must be a time, as 17:00."),
});

type BayHours = z.output<typeof baySchema>;

const USUAL: BayHours = { mechanics: 1, chargers: 1, begins: "08:00", ends: "17:00" };

/** A job set by hand for a time of a day, or left out of it. */
interface DayMark {
  jobId: number;
  /** ISO time; null where it is dropped from that day. */
  beginsAt: string | null;
}

/** The hands and hours of the workshop, and what somebody set by hand in a day's plan. */
export class Days {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  bay(): BayHours {
    const row = this.#sql("SELECT body FROM bay").get() as { body: string } | undefined;
    return row ? baySchema.parse({ ...USUAL, ...(JSON.parse(row.body) as object) }) : USUAL;
  }

  changeBay(bay: BayHours): void {
    this.#sql("INSERT INTO bay (only, body) VALUES (1, ?) ON CONFLICT (only) DO UPDATE SET body = excluded.body").run(JSON.stringify(bay));
  }

  /** What was set for a day. @param day as YYYY-MM-DD, in the shop's own time */
  marks(day: string): DayMark[] {
    return this.#sql("SELECT job_id AS jobId, begins_at AS beginsAt FROM day_marks WHERE day = ?").all(day) as DayMark[];
  }

  /** Sets a job for a time of a day, or leaves it out of the day; the last word counts. */
  mark(day: string, { jobId, beginsAt }: DayMark, now: string, by?: string): void {
    this.#sql(
      `INSERT INTO day_marks (job_id, day, begins_at, marked_at, by) VALUES (?, ?, ?, ?, ?)
         ON CONFLICT (job_id, day) DO UPDATE SET begins_at = excluded.begins_at, marked_at = excluded.marked_at, by = excluded.by`,
    ).run(jobId, day, beginsAt, now, by ?? null);
  }

  /** Takes back what was set by hand. */
  unmark(day: string, jobId: number): void {
    this.#sql("DELETE FROM day_marks WHERE day = ? AND job_id = ?").run(day, jobId);
  }

  /** When readings were taken since some time, by job: what the hands have done so far. */
  workedSince(jobIds: readonly number[], since: string): { jobId: number; from: string; to: string }[] {
    return jobIds.flatMap((jobId) => {
      const row = this.#sql("SELECT min(taken_at) AS first, max(taken_at) AS last FROM readings WHERE job_id = ? AND taken_at >= ?").get(jobId, since) as {
        first: string | null;
        last: string | null;
      };
      return row.first === null || row.last === null ? [] : [{ jobId, from: row.first, to: row.last }];
    });
  }
}
