import { existsSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import type { TableCells, TableName } from "../formats/tables";
import { DatabaseProblem } from "./migrate";
import { DATABASE_FILE } from "./open";
import { conditions, type Question } from "./records";

/** A job's name in every workshop: what it came with, or this one's key and its number. */
const JOB_NAME = "coalesce((SELECT origin FROM imported_jobs WHERE job_id = records.job_id), (SELECT key FROM shop_key) || '-' || records.job_id)";

/** Where rows hang on jobs, the job's own part of a row: its number, its name, its machine. */
const JOB = `SELECT job_id AS id, ${JOB_NAME} AS job, unit_tag AS machine FROM records @where ORDER BY job_id`;

/** What is read of each kind of table, in the order of its columns; `@where` is what narrows it to some jobs. */
const WHOLE = {
  jobs: `SELECT ${JOB_NAME}, jobs.unit_tag, jobs.nickname, sheet, school, meter, ambient_c, jobs.battery_age_years, complaint, jobs.words, use_count, use_unit,
      jobs.opened_at, opened_by, jobs.closed_at, jobs.ending, closing_note, closed_by, model, family, kind, part_said, odds_said, part_last, fault_last, repairs, hands, clock
    FROM (SELECT * FROM records @where) AS records JOIN jobs ON jobs.id = records.job_id ORDER BY records.job_id`,
  units: "SELECT tag, nickname, sheet_id, used_for FROM units ORDER BY tag",
  sheets: "SELECT id, maker, model, body FROM sheets ORDER BY id",
} as const;

/** What of a job is read row by row, its own part of each row among it; each row as one JSON array, which is handed over in a third of the time of its cells. */
const OF_JOB = {
  readings: `SELECT json_array(id, @job, @machine, test, at, rpm, idle, loads, number, word, raw, lead_ohms, ohms_resolution, second_meter, hot, charged, rest_hours, amps, touched, rating, swing, note, after_repair,
      repairs, taken_at, by, supersedes, supersedes_why) FROM readings WHERE job_id = @id ORDER BY rowid`,
  repairs: "SELECT json_array(@job, part, fault, found, done, repaired_at, by) FROM repairs WHERE job_id = @id ORDER BY id",
} as const;

/**
 * Walks through a table as the database stands now: a connection of its own, so that readings are kept meanwhile and everything is of one moment.
 * @throws DatabaseProblem where there is no database
 */
export function* exportRows(folder: string, name: TableName, question: Question = {}): Generator<TableCells> {
  const file = join(folder, DATABASE_FILE);
  if (!existsSync(file)) throw new DatabaseProblem(`There is no database in ${folder} yet: nothing to export.`);
  const db = new Database(file, { readonly: true });
  try {
    db.exec("BEGIN");
    const { where, bound } = conditions(question);
    if (name === "readings" || name === "repairs") {
      // Read job by job: the names of jobs are looked up once each, and nothing has to be sorted.
      const rows = db.prepare(OF_JOB[name]).pluck();
      for (const job of db.prepare(JOB.replace("@where", where)).all(bound)) yield* JSON.parse(`[${rows.all(job).join()}]`) as TableCells[];
      return;
    }
    const statement = db.prepare(WHOLE[name].replace("@where", where)).raw();
    const rows = name === "jobs" ? statement.iterate(bound) : statement.iterate();
    for (const row of rows) yield row as TableCells;
  } finally {
    db.close();
  }
}
