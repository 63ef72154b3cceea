import type { Database } from "better-sqlite3";
import { z } from "zod";
import { PHASES } from "../core/trace/phases";
import { preparer } from "./statements";

/** Steps that are kept of a trace at most: what a page or a sheet of paper can show. */
export const MOST_DRAWN = 4000;

const finite = z.number().min(-1e9).max(1e9);
const drawnSchema = z
  .strictObject({ seconds: z.array(finite).max(MOST_DRAWN), lowest: z.array(finite).max(MOST_DRAWN), highest: z.array(finite).max(MOST_DRAWN) })
  .refine(({ seconds, lowest, highest }) => seconds.length === lowest.length && seconds.length === highest.length, {
    error: "must hold as many figures as times",
  });

/** A trace to be kept with its job. */
export const newTraceSchema = z.strictObject({
  id: z.string().regex(/^[A-Za-z0-9-]{8,64}$/, "must be 8 to 64 letters, digits or hyphens"),
  name: z.string().trim().min(1, "may not be empty").max(120, "may hold 120 characters at most"),
  seconds: z.number().min(0).max(1e7),
  rate: z.number().min(0).max(1e6),
  phases: z.array(z.strictObject({ phase: z.enum(PHASES), from: finite, to: finite, volts: finite.optional() })).max(1000, "may hold 1,000 at most"),
  drawn: drawnSchema,
});

export type NewTrace = z.output<typeof newTraceSchema>;

/** A trace as a job keeps it. */
export interface KeptTrace extends NewTrace {
  afterRepair: boolean;
  keptAt: string;
  by: string | null;
}

/** A trace as the shop's list names it, with the job it is kept with. */
export interface ListedTrace extends Pick<KeptTrace, "id" | "name" | "seconds" | "rate" | "afterRepair" | "keptAt"> {
  jobId: number;
  unitTag: string | null;
  nickname: string;
}

interface TraceRow {
  id: string;
  name: string;
  seconds: number;
  rate: number;
  after_repair: number;
  phases: string;
  drawn: string;
  kept_at: string;
  by: string | null;
}

/** Traces kept with jobs, append-only. */
export class Traces {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  of(jobId: number): KeptTrace[] {
    return (this.#sql("SELECT * FROM traces WHERE job_id = ? ORDER BY rowid").all(jobId) as TraceRow[]).map(
      ({ phases, drawn, after_repair, kept_at, id, name, seconds, rate, by }) => ({
        ...newTraceSchema.parse({ id, name, seconds, rate, phases: JSON.parse(phases), drawn: JSON.parse(drawn) }),
        afterRepair: after_repair === 1,
        keptAt: kept_at,
        by,
      }),
    );
  }

  /** The traces kept last, of all jobs, the latest first. */
  latest(limit: number): ListedTrace[] {
    const rows = this.#sql(
      `SELECT traces.id, name, seconds, rate, after_repair AS afterRepair, kept_at AS keptAt, job_id AS jobId, unit_tag AS unitTag, nickname
       FROM traces JOIN jobs ON jobs.id = job_id ORDER BY traces.rowid DESC LIMIT ?`,
    ).all(limit) as (Omit<ListedTrace, "afterRepair"> & { afterRepair: number })[];
    return rows.map((row) => ({ ...row, afterRepair: row.afterRepair === 1 }));
  }

  /** Keeps a trace; sent twice (same id), it is kept once. */
  keep(jobId: number, { id, name, seconds, rate, phases, drawn }: NewTrace, afterRepair: boolean, now: string, by?: string): void {
    this.#sql(
      "INSERT INTO traces (id, job_id, name, seconds, rate, after_repair, phases, drawn, kept_at, by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
    ).run(id, jobId, name, seconds, rate, afterRepair ? 1 : 0, JSON.stringify(phases), JSON.stringify(drawn), now, by ?? null);
  }
}
