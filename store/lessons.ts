import type { Database } from "better-sqlite3";
import { z } from "zod";
import type { SoundFigure } from "../core/learning/figures";
import type { MeterFigure } from "../core/learning/meters";
import type { Lesson } from "../core/learning/priors";
import { FAULTS, type FaultId } from "../core/machine/faults";
import { preparer } from "./statements";

/** What a shop learns from its own work, each of which can be switched off. */
export const LEARNING = {
  repairs: "Confirmed repairs lean the odds of machines like theirs",
  figures: "Sound machines of a model move its sheet's figures, as a draft",
  meters: "A meter that reads otherwise than the others is named",
} as const;
type LearningId = keyof typeof LEARNING;
export const LEARNING_IDS = Object.keys(LEARNING) as [LearningId, ...LearningId[]];

export type Switches = Record<LearningId, boolean>;

const switchesSchema = z.object({ repairs: z.boolean().default(true), figures: z.boolean().default(true), meters: z.boolean().default(true) });

/** A figure without the leads' own ohms; one of a machine that was sound by then, and that no later one took the place of. */
const READ = "CASE r.raw WHEN 1 THEN r.number - coalesce(r.lead_ohms, 0) ELSE r.number END";
const SOUND = `g.ending IN ('proven', 'healthy') AND (g.ending = 'healthy' OR r.after_repair = 1) AND r.number IS NOT NULL AND r.hot = 0
  AND NOT EXISTS (SELECT 1 FROM readings later WHERE later.supersedes = r.id)`;

const DIALS: Record<string, MeterFigure["dial"]> = { "stator.acVolts": "V AC", "stator.resistance": "Ω" };

const isFault = (fault: string): fault is FaultId => FAULTS.some(({ id }) => id === fault);

/** Confirmed repairs as lessons, and what of them is used. */
export class Lessons {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** The proven repairs of all machines of a family; the database counts them as jobs close and open again. */
  of(family: string): Lesson[] {
    const rows = this.#sql("SELECT sheet_id AS sheetId, family, kind, used_for AS usedFor, age, year, fault, times FROM lessons WHERE family = ?").all(
      family,
    ) as (Omit<Lesson, "fault"> & { fault: string })[];
    return rows.flatMap(({ fault, ...lesson }) => (isFault(fault) ? [{ ...lesson, fault }] : []));
  }

  /** How many proven repairs there are, of how many models. */
  count(): { repairs: number; models: number } {
    return this.#sql("SELECT coalesce(sum(times), 0) AS repairs, count(DISTINCT sheet_id) AS models FROM lessons").get() as { repairs: number; models: number };
  }

  /** Models with the most proven repairs, each with its repairs by fault. */
  byModel(limit: number): { sheetId: string; model: string; fault: string; times: number }[] {
    return this.#sql(
      `SELECT lessons.sheet_id AS sheetId, coalesce((SELECT maker || ' ' || model FROM sheets WHERE id = lessons.sheet_id), lessons.sheet_id) AS model,
         fault, sum(times) AS times FROM lessons
         WHERE sheet_id IN (SELECT sheet_id FROM lessons GROUP BY sheet_id ORDER BY sum(times) DESC LIMIT ?) GROUP BY 1, 3 ORDER BY 2, 4 DESC`,
    ).all(limit) as { sheetId: string; model: string; fault: string; times: number }[];
  }

  /** Sheets of which the most jobs left their machine sound, as many jobs as it takes to say anything of a figure. */
  soundModels(least: number, limit: number): string[] {
    return this.#sql(`SELECT sheet_id FROM records WHERE ending IN ('proven', 'healthy') GROUP BY sheet_id HAVING count(*) >= ? ORDER BY count(*) DESC LIMIT ?`)
      .pluck()
      .all(least, limit) as string[];
  }

  /**
   * What sound machines of a sheet read: all of a job in which nothing had failed, what was read after the repair of a proven one; the
   * latest first, leads taken off.
   */
  soundFigures(sheetId: string, limit: number): SoundFigure[] {
    return this.#sql(
      `SELECT r.test, r.at, r.rpm, r.loads, ${READ} AS value, coalesce(g.unit_tag, 'job ' || g.job_id) AS machine
         FROM records g JOIN readings r ON r.job_id = g.job_id
         WHERE g.sheet_id = ? AND ${SOUND} ORDER BY g.opened_at DESC LIMIT ?`,
    ).all(sheetId, limit) as SoundFigure[];
  }

  /** What jobs' own meters read on sound machines, the latest first: each with its meter's name and what it was read of. */
  meterFigures(limit: number): MeterFigure[] {
    const rows = this.#sql(
      `SELECT json_extract(j.meter, '$.name') AS meter, g.sheet_id || ' ' || r.test || ' ' || coalesce(r.at, '') || ' ' || coalesce(r.rpm, '') || ' ' || coalesce(r.loads, '') AS of,
         r.test, g.job_id AS job, ${READ} AS value
         FROM (SELECT * FROM records WHERE ending IN ('proven', 'healthy') ORDER BY opened_at DESC LIMIT ?) g
         JOIN jobs j ON j.id = g.job_id JOIN readings r ON r.job_id = g.job_id
         WHERE r.test IN ('charge.volts', 'regulator.diode', 'stator.acVolts', 'stator.resistance') AND r.second_meter = 0 AND ${SOUND}`,
    ).all(limit) as (Omit<MeterFigure, "dial"> & { test: string })[];
    return rows.map(({ test, ...figure }) => ({ ...figure, dial: DIALS[test] ?? "V" }));
  }

  switches(): Switches {
    const row = this.#sql("SELECT body FROM learning").get() as { body: string } | undefined;
    return switchesSchema.parse(row ? JSON.parse(row.body) : {});
  }

  change(switches: Switches): void {
    this.#sql("INSERT INTO learning (only, body) VALUES (1, ?) ON CONFLICT (only) DO UPDATE SET body = excluded.body").run(JSON.stringify(switches));
  }
}
