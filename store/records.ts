import type { Database } from "better-sqlite3";
import { preparer } from "./statements";

/** What is asked of the records; every condition narrows it, none is needed. */
export interface Question {
  /** Words of the job, its machine, its notes and repairs; beginnings of words are enough. */
  words?: string | undefined;
  unitTag?: string | undefined;
  sheetId?: string | undefined;
  family?: string | undefined;
  kind?: string | undefined;
  /** The part mended last. */
  part?: string | undefined;
  ending?: "open" | "proven" | "healthy" | "plain-cause" | "unproven" | undefined;
  /** A reading among the job's: its test and between which figures it lies. */
  test?: string | undefined;
  least?: number | undefined;
  most?: number | undefined;
  /** Opened on these days, both included, as YYYY-MM-DD. */
  from?: string | undefined;
  to?: string | undefined;
}

/** A job as the records list it. */
interface RecordLine {
  jobId: number;
  openedAt: string;
  closedAt: string | null;
  ending: string | null;
  unitTag: string | null;
  nickname: string;
  model: string;
  partSaid: string | null;
  partLast: string | null;
  /** The owner's words. */
  words: string;
}

/** A question that is asked again, by its name; `query` is what stands in the address. */
interface SavedView {
  id: number;
  name: string;
  query: string;
}

/** How often something was said or mended. */
interface Counted {
  name: string;
  part: string;
  times: number;
}

const LINE = `job_id AS jobId, opened_at AS openedAt, closed_at AS closedAt, ending, unit_tag AS unitTag, nickname, model, part_said AS partSaid,
  part_last AS partLast, (SELECT words FROM jobs WHERE id = job_id) AS words`;

/** Words that are looked for at once. */
const MOST_WORDS = 8;

/** A closed job was confirmed where its repair was proven. */
const PROVEN = "ending = 'proven' AND part_last IS NOT NULL";

/** The records of all jobs: found by any field, counted, drawn. */
export class Records {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** The latest jobs that fit, and how many fit in all. */
  look(question: Question, limit: number, offset: number): { lines: RecordLine[]; found: number } {
    const { where, bound } = conditions(question);
    const lines = this.#sql(`SELECT ${LINE} FROM records ${where} ORDER BY opened_at DESC, job_id DESC LIMIT @limit OFFSET @offset`).all({
      ...bound,
      limit,
      offset,
    }) as RecordLine[];
    return { lines, found: this.#sql(`SELECT count(*) FROM records ${where}`).pluck().get(bound) as number };
  }

  /** What failed on what: proven repairs by model, or another column, and part. */
  failures(question: Question, by: "model" | "kind" | "family"): Counted[] {
    const { where, bound } = conditions(question, PROVEN);
    return this.#sql(
      `SELECT coalesce(${by}, 'not given') AS name, part_last AS part, count(*) AS times FROM records ${where} GROUP BY 1, 2 ORDER BY 3 DESC LIMIT 200`,
    ).all(bound) as Counted[];
  }

  /** How often the part named first was the one that proved right, in steps of the odds it was named with. */
  reliability(question: Question): { odds: number; said: number; right: number }[] {
    const { where, bound } = conditions(question, `${PROVEN} AND odds_said IS NOT NULL`);
    return this.#sql(
      `SELECT avg(odds_said) AS odds, count(*) AS said, sum(part_said = part_last AND repairs = 1) AS right FROM records ${where}
         GROUP BY CASE WHEN odds_said >= 0.97 THEN 10 WHEN odds_said >= 0.9 THEN 9 ELSE CAST(odds_said * 10 AS INTEGER) END ORDER BY 1`,
    ).all(bound) as { odds: number; said: number; right: number }[];
  }

  /** How often the first part mended was the right one, was mended for nothing, and by what part. */
  firstRight(question: Question): { jobs: number; right: number; wrong: { part: string; times: number }[] } {
    const { where, bound } = conditions(question, PROVEN);
    const all = this.#sql(`SELECT count(*) AS jobs, coalesce(sum(repairs = 1 OR part_first = part_last), 0) AS right FROM records ${where}`).get(bound) as {
      jobs: number;
      right: number;
    };
    const rest = conditions(question, `${PROVEN} AND repairs > 1 AND part_first <> part_last`);
    const wrong = this.#sql(`SELECT part_first AS part, count(*) AS times FROM records ${rest.where} GROUP BY 1 ORDER BY 2 DESC`).all(rest.bound) as {
      part: string;
      times: number;
    }[];
    return { ...all, wrong };
  }

  /** Jobs by the month they came in, at most ten years back from the latest. */
  byMonth(question: Question): { month: string; jobs: number }[] {
    const { where, bound } = conditions(question);
    const rows = this.#sql(`SELECT substr(opened_at, 1, 7) AS month, count(*) AS jobs FROM records ${where} GROUP BY 1 ORDER BY 1 DESC LIMIT 120`).all(bound);
    return (rows as { month: string; jobs: number }[]).reverse();
  }

  /** Minutes a test took, over all closed jobs, those that took the most of all first. */
  minutesByTest(): { test: string; times: number; minutes: number }[] {
    return this.#sql("SELECT test, times, minutes FROM test_times WHERE times > 0 ORDER BY minutes DESC LIMIT 40").all() as {
      test: string;
      times: number;
      minutes: number;
    }[];
  }

  /** Notes what hands and clock a closed job took. */
  took(jobId: number, hands: number, clock: number): void {
    this.#sql("UPDATE records SET hands = ?, clock = ? WHERE job_id = ?").run(hands, clock, jobId);
  }

  /** Notes which part was named, and how surely, when the first repair of a job was recorded; later ones change nothing. */
  state(jobId: number, part: string, odds: number, at: string): void {
    this.#sql("INSERT INTO stated (job_id, part, odds, stated_at) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING").run(jobId, part, odds, at);
  }

  views(): SavedView[] {
    return this.#sql("SELECT id, name, query FROM saved_views ORDER BY name").all() as SavedView[];
  }

  /** Keeps a question under a name; the same name again takes its place. */
  keepView(name: string, query: string, now: string, by?: string): void {
    this.#sql(
      "INSERT INTO saved_views (name, query, kept_at, by) VALUES (?, ?, ?, ?) ON CONFLICT (name) DO UPDATE SET query = excluded.query, kept_at = excluded.kept_at",
    ).run(name, query, now, by ?? null);
  }

  dropView(id: number): void {
    this.#sql("DELETE FROM saved_views WHERE id = ?").run(id);
  }
}

/** A question as SQL. */
export function conditions(question: Question, also?: string): { where: string; bound: Record<string, string | number> } {
  const { words, unitTag, sheetId, family, kind, part, ending, test, least, most, from, to } = question;
  const all: string[] = also ? [also] : [];
  const bound: Record<string, string | number> = {};
  const narrow = (condition: string, name: string, value: string | number | undefined): void => {
    if (value === undefined || value === "") return;
    all.push(condition);
    bound[name] = value;
  };
  const asked = matching(words ?? "");
  narrow("job_id IN (SELECT rowid FROM record_words WHERE record_words MATCH @words)", "words", asked);
  narrow("unit_tag = @unitTag", "unitTag", unitTag);
  narrow("sheet_id = @sheetId", "sheetId", sheetId);
  narrow("family = @family", "family", family);
  narrow("kind = @kind", "kind", kind);
  narrow("part_last = @part", "part", part);
  if (ending === "open") all.push("closed_at IS NULL");
  else narrow("ending = @ending", "ending", ending);
  narrow("opened_at >= @from", "from", from);
  // Days are told by their date alone; whatever stands after the last one lies beyond it.
  narrow("opened_at < date(@to, '+1 day')", "to", to);
  if (test) {
    const figures = [least === undefined ? "" : " AND number >= @least", most === undefined ? "" : " AND number <= @most"].join("");
    narrow(`job_id IN (SELECT job_id FROM readings WHERE test = @test${figures})`, "test", test);
    if (least !== undefined) bound.least = least;
    if (most !== undefined) bound.most = most;
  }
  return { where: all.length === 0 ? "" : `WHERE ${all.join(" AND ")}`, bound };
}

/** Typed words as the index takes them: all of them, each by its beginning; signs are none. */
function matching(typed: string): string {
  const words = typed.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  return words
    .slice(0, MOST_WORDS)
    .map((word) => `"${word}"*`)
    .join(" ");
}
