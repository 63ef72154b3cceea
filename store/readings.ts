import type { Database } from "better-sqlite3";
import type { Reading } from "../core/procedure/step";
import { isNumber } from "../core/units";
import { readingRow, type StoredReading } from "./rows";
import { preparer } from "./statements";

/** A reading to be kept, and the one it takes the place of. */
export interface NewReading extends Reading {
  takenAt: string;
  /** Repairs recorded when it was taken. */
  repairs?: number | undefined;
  /** Who took it, where people sign in. */
  by?: string | undefined;
  supersedes?: string | undefined;
  supersedesWhy?: "mistyped" | "taken-again" | undefined;
}

/** What came of keeping a reading. */
type Kept = "kept" | "already-kept" | "superseded-meanwhile" | "no-such-reading" | "another-test";

/** Checked readings that are remembered: the records of a few hundred jobs. */
const MOST_KNOWN = 20_000;

/** A reading as a job lists it: all else about it never changes. */
interface Listed {
  id: string;
  superseded_by: string | null;
}

/** Readings, append-only. */
export class Readings {
  readonly #db: Database;
  readonly #sql: ReturnType<typeof preparer>;
  readonly #known = new Map<string, StoredReading>();

  constructor(db: Database) {
    this.#db = db;
    this.#sql = preparer(db);
  }

  /** Every reading of a job in the order kept; `supersededBy` names the one that took its place. */
  of(jobId: number): StoredReading[] {
    return this.#sql(
      `SELECT r.id, later.id AS superseded_by FROM readings r LEFT JOIN readings later ON later.supersedes = r.id
         WHERE r.job_id = ? ORDER BY r.rowid`,
    )
      .all(jobId)
      .map((row) => this.#checked(row as Listed));
  }

  /** A row read and checked. Kept readings never change but for being superseded, so each is read once and remembered. */
  #checked({ id, superseded_by }: Listed): StoredReading {
    const known = this.#known.get(id);
    if (known && known.supersededBy === (superseded_by ?? undefined)) return known;
    const row = this.#sql("SELECT * FROM readings WHERE id = ?").get(id) as object;
    const reading = Object.freeze(readingRow.parse({ ...row, superseded_by }));
    if (this.#known.size >= MOST_KNOWN) this.#known.clear();
    this.#known.set(id, reading);
    return reading;
  }

  /**
   * Keeps a reading in one transaction. Sent twice (same id), it is kept once; a correction of a reading that was
   * corrected meanwhile is refused, so that neither hand's work is lost unseen.
   */
  keep(jobId: number, reading: NewReading): Kept {
    return this.#db
      .transaction((): Kept => {
        if (this.#sql("SELECT 1 FROM readings WHERE id = ?").get(reading.id)) return "already-kept";
        if (reading.supersedes) {
          const before = this.#sql("SELECT test FROM readings WHERE id = ? AND job_id = ?").get(reading.supersedes, jobId) as { test: string } | undefined;
          if (!before) return "no-such-reading";
          if (before.test !== reading.test) return "another-test";
          if (this.#sql("SELECT 1 FROM readings WHERE supersedes = ?").get(reading.supersedes)) return "superseded-meanwhile";
        }
        this.#insert(jobId, reading);
        return "kept";
      })
      .immediate();
  }

  #insert(jobId: number, reading: NewReading): void {
    this.#sql(
      `INSERT INTO readings (id, job_id, test, at, rpm, idle, loads, number, word, raw, lead_ohms, ohms_resolution, second_meter, hot, charged, rest_hours, amps, touched, rating, swing, note, after_repair, repairs, taken_at, supersedes, supersedes_why, by)
         VALUES (@id, @jobId, @test, @at, @rpm, @idle, @loads, @number, @word, @raw, @leadOhms, @ohmsResolution, @secondMeter, @hot, @charged, @restHours, @amps, @touched, @rating, @swing, @note, @afterRepair, @repairs, @takenAt, @supersedes, @supersedesWhy, @by)`,
    ).run({
      id: reading.id,
      jobId,
      test: reading.test,
      at: reading.at ?? null,
      rpm: typeof reading.rpm === "number" ? Math.round(reading.rpm) : null,
      idle: reading.rpm === "idle" ? 1 : 0,
      loads: reading.loads ?? null,
      number: isNumber(reading.value) ? reading.value : null,
      word: isNumber(reading.value) ? null : reading.value,
      raw: reading.raw ? 1 : 0,
      leadOhms: reading.leadOhms ?? null,
      ohmsResolution: reading.ohmsResolution ?? null,
      secondMeter: reading.secondMeter ? 1 : 0,
      hot: reading.hot ? 1 : 0,
      charged: reading.charged ? 1 : 0,
      restHours: reading.restHours ?? null,
      amps: reading.amps ?? null,
      touched: reading.touched ?? null,
      rating: reading.rating ?? null,
      swing: reading.swing ?? null,
      note: reading.note ?? null,
      afterRepair: reading.afterRepair ? 1 : 0,
      repairs: reading.repairs ?? (reading.afterRepair ? 1 : 0),
      takenAt: reading.takenAt,
      supersedes: reading.supersedes ?? null,
      by: reading.by ?? null,
      supersedesWhy: reading.supersedes ? (reading.supersedesWhy ?? "taken-again") : null,
    });
  }
}

/** The readings that count: those no later one has taken the place of. */
export function current(history: readonly StoredReading[]): StoredReading[] {
  return history.filter((reading) => reading.supersededBy === undefined);
}
