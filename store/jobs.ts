import type { Database } from "better-sqlite3";
import type { Sheet } from "../core/machine/sheet";
import type { Meter } from "../core/meter/meter";
import type { CautionId } from "../core/procedure/cautions";
import type { Skip } from "../core/procedure/runlist";
import type { Wait } from "../core/procedure/waits";
import { Readings } from "./readings";
import { type Job, jobRow, type Repair, repairRow, type StoredReading, seenRow, waitRow } from "./rows";
import { preparer } from "./statements";

/** What a machine's own counter shows. */
interface Use {
  count: number;
  unit: "h" | "km";
}

/** What opens a job. */
interface NewJob {
  unitTag: string | null;
  nickname: string;
  sheet: Sheet;
  school: string;
  meter: Meter;
  ambientC: number;
  batteryAgeYears: number | null;
  complaint: string[];
  words: string;
  /** Hours or kilometres on it, where it counts them. */
  use?: Use | undefined;
  /** Who took it in, where people sign in. */
  by?: string | undefined;
}

/** A job with everything that hangs on it. */
export interface JobFile {
  job: Job;
  /** Every reading ever kept, superseded ones included, in the order they were kept. */
  history: StoredReading[];
  skips: Skip[];
  repairs: Repair[];
  /** Cautions that somebody has said to have read, when and who. */
  seen: SeenCautions[];
  /** Every wait begun or ended, in that order. */
  waits: Wait[];
  /** Readings for which something had been pulled that is back by now. */
  putBacks: string[];
}

/** Cautions said to have been read in one go. */
interface SeenCautions {
  id: string;
  cautions: CautionId[];
  at: string;
  by: string | null;
}

/** An entry of the bench as it was kept: whose it is and what it says, to be told from another of the same id. */
export interface KeptEntry {
  jobId: number;
  kind: "reading" | "skip" | "caution" | "wait" | "put-back" | "trace";
  test: string | null;
  value: number | string | null;
  step: string | null;
}

/** An ending that was taken back. */
interface FormerEnding {
  ending: Ending;
  note: string | null;
  closedAt: string;
  closedBy: string | null;
  reopenedAt: string;
  reopenedBy: string | null;
}

type Ending = NonNullable<Job["ending"]>;

/** Jobs: opened, worked on, repaired, closed. */
export class Jobs {
  readonly #sql: ReturnType<typeof preparer>;
  readonly readings: Readings;

  constructor(db: Database) {
    this.#sql = preparer(db);
    this.readings = new Readings(db);
  }

  open(job: NewJob, now: string): number {
    const result = this.#sql(
      `INSERT INTO jobs (unit_tag, nickname, sheet, school, meter, ambient_c, battery_age_years, complaint, words, use_count, use_unit, opened_at, opened_by)
         VALUES (@unitTag, @nickname, @sheet, @school, @meter, @ambientC, @batteryAgeYears, @complaint, @words, @useCount, @useUnit, @now, @by)`,
    ).run({
      ...job,
      use: null,
      useCount: job.use?.count ?? null,
      useUnit: job.use?.unit ?? null,
      sheet: JSON.stringify(job.sheet),
      meter: JSON.stringify(job.meter),
      complaint: JSON.stringify(job.complaint),
      now,
      by: job.by ?? null,
    });
    return Number(result.lastInsertRowid);
  }

  find(id: number): Job | undefined {
    const row = this.#sql("SELECT * FROM jobs WHERE id = ?").get(id);
    return row === undefined ? undefined : jobRow.parse(row);
  }

  /** The whole file of a job in one look. */
  file(id: number): JobFile | undefined {
    const job = this.find(id);
    if (!job) return undefined;
    return {
      job,
      history: this.readings.of(id),
      skips: this.skips(id),
      repairs: this.repairs(id),
      seen: this.seenCautions(id),
      waits: this.waits(id),
      putBacks: this.putBacks(id),
    };
  }

  /** The jobs of a machine in which it came in whole, the latest first; at most so many. */
  ofUnit(unitTag: string, limit: number): number[] {
    return this.#sql("SELECT id FROM jobs WHERE unit_tag = ? AND json_extract(sheet, '$.loose') IS NULL ORDER BY opened_at DESC, id DESC LIMIT ?")
      .pluck()
      .all(unitTag, limit) as number[];
  }

  /** Mean air temperature of the workshop's jobs by month, January first; undefined where no job was in that month. */
  airByMonth(): (number | undefined)[] {
    const rows = this.#sql("SELECT substr(opened_at, 6, 2) AS month, avg(ambient_c) AS celsius FROM jobs GROUP BY substr(opened_at, 6, 2)").all() as {
      month: string;
      celsius: number;
    }[];
    return Array.from({ length: 12 }, (_, month) => rows.find((row) => Number(row.month) === month + 1)?.celsius);
  }

  /** Open jobs, the longest waiting first. */
  listOpen(limit: number, offset: number): Job[] {
    return this.#sql("SELECT * FROM jobs WHERE closed_at IS NULL ORDER BY opened_at, id LIMIT ? OFFSET ?")
      .all(limit, offset)
      .map((row) => jobRow.parse(row));
  }

  /** Closed jobs, the latest first. */
  listClosed(limit: number): Job[] {
    return this.#sql("SELECT * FROM jobs WHERE closed_at IS NOT NULL ORDER BY closed_at DESC, id DESC LIMIT ?")
      .all(limit)
      .map((row) => jobRow.parse(row));
  }

  /** All jobs, open and closed. */
  count(): { open: number; closed: number } {
    return { open: this.countOpen(), closed: this.#sql("SELECT count(*) FROM jobs WHERE closed_at IS NOT NULL").pluck().get() as number };
  }

  /** Counted off the index of open jobs, which holds nothing else: however many are closed, it takes as long. */
  countOpen(): number {
    return this.#sql("SELECT count(*) FROM jobs WHERE closed_at IS NULL").pluck().get() as number;
  }

  /** Puts an open job with a machine, as of a part that turned out to be its. */
  join(id: number, unitTag: string): void {
    this.#sql("UPDATE jobs SET unit_tag = ? WHERE id = ? AND closed_at IS NULL").run(unitTag, id);
  }

  /** The reasons why steps were skipped; the latest for a step counts. */
  skips(id: number): Skip[] {
    return this.#sql("SELECT id, step, reason FROM skips WHERE job_id = ? ORDER BY rowid").all(id) as Skip[];
  }

  /** Notes why a step is skipped; sent twice (same id), it is noted once. */
  skip(id: number, skip: Skip, now: string, by?: string): void {
    this.#sql("INSERT INTO skips (id, job_id, step, reason, skipped_at, by) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING").run(
      skip.id,
      id,
      skip.step,
      skip.reason,
      now,
      by ?? null,
    );
  }

  /** What was kept under the id of an entry, whichever job it is of; undefined where nothing was. */
  entryWith(id: string): KeptEntry | undefined {
    const reading = this.#sql("SELECT job_id AS jobId, 'reading' AS kind, test, coalesce(number, word) AS value, NULL AS step FROM readings WHERE id = ?").get(
      id,
    );
    const other = `SELECT job_id AS jobId, 'skip' AS kind, NULL AS test, NULL AS value, step FROM skips WHERE id = @id
       UNION ALL SELECT job_id, 'caution', NULL, NULL, NULL FROM seen_cautions WHERE id = @id
       UNION ALL SELECT job_id, 'wait', NULL, what, NULL FROM waits WHERE id = @id
       UNION ALL SELECT job_id, 'put-back', NULL, pulled_for, NULL FROM put_backs WHERE id = @id
       UNION ALL SELECT job_id, 'trace', NULL, name, NULL FROM traces WHERE id = @id`;
    return (reading ?? this.#sql(other).get({ id })) as KeptEntry | undefined;
  }

  /** Notes that cautions were said to have been read. */
  seeCautions(jobId: number, id: string, cautions: readonly CautionId[], at: string, by?: string): void {
    this.#sql("INSERT INTO seen_cautions (id, job_id, cautions, seen_at, by) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING").run(
      id,
      jobId,
      JSON.stringify(cautions),
      at,
      by ?? null,
    );
  }

  seenCautions(jobId: number): SeenCautions[] {
    return this.#sql("SELECT id, cautions, seen_at, by FROM seen_cautions WHERE job_id = ? ORDER BY rowid")
      .all(jobId)
      .map((row) => seenRow.parse(row));
  }

  /** Begins a wait, or ends it. */
  wait(jobId: number, id: string, { what, note, until, beganAt }: Wait, by?: string): void {
    this.#sql("INSERT INTO waits (id, job_id, what, note, until, began_at, by) VALUES (?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING").run(
      id,
      jobId,
      what,
      note ?? null,
      until ?? null,
      beganAt,
      by ?? null,
    );
  }

  /** Notes that what was pulled for a reading is back. */
  putBack(jobId: number, id: string, pulledFor: string, at: string, by?: string): void {
    this.#sql("INSERT INTO put_backs (id, job_id, pulled_for, back_at, by) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING").run(
      id,
      jobId,
      pulledFor,
      at,
      by ?? null,
    );
  }

  /** Readings for which something had been pulled that is back by now. */
  putBacks(jobId: number): string[] {
    return this.#sql("SELECT pulled_for FROM put_backs WHERE job_id = ? ORDER BY rowid").pluck().all(jobId) as string[];
  }

  waits(jobId: number): Wait[] {
    return this.#sql("SELECT what, note, until, began_at FROM waits WHERE job_id = ? ORDER BY began_at, rowid")
      .all(jobId)
      .map((row) => waitRow.parse(row));
  }

  /** Changes the lead zero that later readings of this job are corrected with, unless one taken later is known. @param takenAt ISO time */
  setLeadZero(id: number, ohms: number, takenAt: string): void {
    this.#sql(
      `UPDATE jobs SET meter = json_set(meter, '$.leadOhms', @ohms), lead_zero_at = @takenAt
         WHERE id = @id AND closed_at IS NULL AND (lead_zero_at IS NULL OR lead_zero_at <= @takenAt)`,
    ).run({ id, ohms, takenAt });
  }

  repairs(id: number): Repair[] {
    return this.#sql("SELECT id, part, fault, found, done, repaired_at, by FROM repairs WHERE job_id = ? ORDER BY id")
      .all(id)
      .map((row) => repairRow.parse(row));
  }

  repair(id: number, repair: { part: string; fault: string | null; found: string | null; done: string }, now: string, by?: string): void {
    this.#sql("INSERT INTO repairs (job_id, part, fault, found, done, repaired_at, by) VALUES (@id, @part, @fault, @found, @done, @now, @by)").run({
      id,
      ...repair,
      now,
      by: by ?? null,
    });
  }

  /** Closes an open job; false when it was closed already. */
  close(id: number, ending: Ending, note: string | null, now: string, by?: string): boolean {
    const sql = "UPDATE jobs SET closed_at = ?, ending = ?, closing_note = ?, closed_by = ? WHERE id = ? AND closed_at IS NULL";
    return this.#sql(sql).run(now, ending, note, by ?? null, id).changes === 1;
  }

  /** Opens a closed job again; how it had ended stays in its record. */
  reopen(id: number, now: string, by?: string): void {
    this.#sql(
      `INSERT INTO endings (job_id, ending, note, closed_at, closed_by, reopened_at, reopened_by)
         SELECT id, ending, closing_note, closed_at, closed_by, ?, ? FROM jobs WHERE id = ? AND closed_at IS NOT NULL`,
    ).run(now, by ?? null, id);
    this.#sql("UPDATE jobs SET closed_at = NULL, ending = NULL, closing_note = NULL, closed_by = NULL WHERE id = ?").run(id);
  }

  /**
   * Brings something of its own time into a job, closed or not: counts that are taken as jobs close are taken with it.
   * @param work writes what belongs to the job
   */
  amid(id: number, work: () => void): void {
    const closed = this.#sql("SELECT closed_at, ending FROM jobs WHERE id = ? AND closed_at IS NOT NULL").get(id);
    if (closed) this.#sql("UPDATE jobs SET closed_at = NULL, ending = NULL WHERE id = ?").run(id);
    work();
    if (closed) this.#sql("UPDATE jobs SET closed_at = @closed_at, ending = @ending WHERE id = @id").run({ ...closed, id });
  }

  /** How a job had ended each time before it was opened again, the first ending first. */
  endings(id: number): FormerEnding[] {
    return this.#sql(
      "SELECT ending, note, closed_at AS closedAt, closed_by AS closedBy, reopened_at AS reopenedAt, reopened_by AS reopenedBy FROM endings WHERE job_id = ? ORDER BY id",
    ).all(id) as FormerEnding[];
  }
}
