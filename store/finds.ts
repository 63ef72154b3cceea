import type { Database } from "better-sqlite3";
import { preparer } from "./statements";

/** Something that was looked for: a machine by its tag, a sheet by its short name, a job by its number. */
export interface Find {
  kind: "machine" | "sheet" | "job";
  ref: string;
  title: string;
  more: string;
}

/** What is handed out at once: more is no help to whoever looks. */
const MOST = 12;
/** Fewer letters than this have no trigram. */
const TRIGRAM = 3;

/** Looking for machines, sheets and jobs by a few letters. */
export class Finds {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /**
   * What holds every word that was typed, the best first; where nothing does, what shares most of their letters in threes with them, so
   * that a typing error still finds its machine. One or two letters find tags and names that begin so.
   * @param kind only what is of it
   */
  look(typed: string, kind?: Find["kind"]): Find[] {
    const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
    const long = words.filter((word) => [...word].length >= TRIGRAM);
    if (words.length === 0) return [];
    if (long.length === 0) return kind === "sheet" || kind === "job" ? [] : this.#beginning(words.join(" "));
    const exact = this.#matching(long.map(quoted).join(" AND "), kind);
    if (exact.length > 0) return exact;
    const threes = [...new Set(long.flatMap((word) => trigrams(word)))];
    return this.#matching(threes.map(quoted).join(" OR "), kind);
  }

  #matching(query: string, kind: Find["kind"] | undefined): Find[] {
    // A title tells more than what stands beside it; a machine or sheet more than one of its many jobs.
    return this.#sql(
      `SELECT kind, ref, title, more FROM finds WHERE finds MATCH @query AND (@kind IS NULL OR kind = @kind)
         ORDER BY bm25(finds, 0, 0, 4, 1) - (CASE kind WHEN 'machine' THEN 2 WHEN 'sheet' THEN 1 ELSE 0 END), rowid LIMIT ${MOST}`,
    ).all({ query, kind: kind ?? null }) as Find[];
  }

  #beginning(letters: string): Find[] {
    const pattern = `${letters.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
    return this.#sql(
      `SELECT 'machine' AS kind, tag AS ref, tag || ' ' || nickname AS title, used_for AS more FROM units
         WHERE tag LIKE @pattern ESCAPE '\\' OR nickname LIKE @pattern ESCAPE '\\' ORDER BY tag LIMIT ${MOST}`,
    ).all({ pattern }) as Find[];
  }
}

/** A word as the index takes it: letters, whatever signs are among them. */
const quoted = (word: string): string => `"${word.replaceAll('"', '""')}"`;

function trigrams(word: string): string[] {
  const letters = [...word];
  return letters.slice(0, letters.length - TRIGRAM + 1).map((_, i) => letters.slice(i, i + TRIGRAM).join(""));
}
