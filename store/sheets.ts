import type { Database } from "better-sqlite3";
import { type Sheet, sheetSchema } from "../core/machine/sheet";
import { preparer } from "./statements";

interface SheetRow {
  id: string;
  body: string;
  changed_at: string;
}

/** One line of the sheet list. */
interface SheetLine {
  sheet: Sheet;
  changedAt: string;
  units: number;
}

/** The library of model sheets. */
export class Sheets {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** Every sheet, by maker and model: what a table of the whole shelf is written from. */
  all(): Sheet[] {
    return (this.#sql("SELECT * FROM sheets ORDER BY maker, model, id").all() as SheetRow[]).map(read);
  }

  count(): number {
    return this.#sql("SELECT count(*) FROM sheets").pluck().get() as number;
  }

  /** A stretch of the shelf, by maker and model. */
  list(limit: number, offset: number): SheetLine[] {
    const rows = this.#sql(`${LINES} ORDER BY maker, model, id LIMIT ? OFFSET ?`).all(limit, offset) as (SheetRow & { units: number })[];
    return rows.map(lineOf);
  }

  /** Some sheets by their short names, in that order; names of none are left out. */
  some(ids: readonly string[]): SheetLine[] {
    return ids.flatMap((id) => {
      const row = this.#sql(`${LINES} WHERE id = ?`).get(id) as (SheetRow & { units: number }) | undefined;
      return row ? [lineOf(row)] : [];
    });
  }

  /** Sheets by short name, maker and model, without what is in them; at most so many. */
  names(limit: number): { ref: string; name: string }[] {
    return this.#sql("SELECT id AS ref, maker || ' ' || model AS name FROM sheets ORDER BY maker, model, id LIMIT ?").all(limit) as {
      ref: string;
      name: string;
    }[];
  }

  /** Sheets as they are offered at the counter, by maker and model: their names, kind and years; at most so many. */
  offered(limit: number): { id: string; name: string; kind: string | null; years: string | null }[] {
    return this.#sql(
      `SELECT id, maker || ' ' || model AS name, json_extract(body, '$.kind') AS kind, json_extract(body, '$.years') AS years
         FROM sheets ORDER BY maker, model, id LIMIT ?`,
    ).all(limit) as { id: string; name: string; kind: string | null; years: string | null }[];
  }

  /** What a sheet said before it was changed, the latest first: its body then, and since when it had stood. */
  versions(id: string): { sheet: Sheet; stoodFrom: string }[] {
    const rows = this.#sql("SELECT body, stood_from FROM sheet_versions WHERE sheet_id = ? ORDER BY id DESC LIMIT ?").all(id, MOST_VERSIONS) as {
      body: string;
      stood_from: string;
    }[];
    return rows.map(({ body, stood_from }) => ({ sheet: sheetSchema.parse(JSON.parse(body)), stoodFrom: stood_from }));
  }

  find(id: string): Sheet | undefined {
    const row = this.#sql("SELECT * FROM sheets WHERE id = ?").get(id) as SheetRow | undefined;
    return row && read(row);
  }

  /** When a sheet was changed last, ISO time: who began from an earlier one does not write over it unseen. */
  changedAt(id: string): string | undefined {
    return (this.#sql("SELECT changed_at FROM sheets WHERE id = ?").get(id) as SheetRow | undefined)?.changed_at;
  }

  /** Adds a sheet; false when one of that id is there already. */
  add(sheet: Sheet, now: string): boolean {
    return (
      this.#sql("INSERT INTO sheets (id, body, changed_at) VALUES (?, ?, ?) ON CONFLICT DO NOTHING").run(sheet.id, JSON.stringify(sheet), now).changes === 1
    );
  }

  /** Writes a changed sheet over the one of the same id; false when there is none. Jobs keep their own copy. */
  change(sheet: Sheet, now: string): boolean {
    return this.#sql("UPDATE sheets SET body = ?, changed_at = ? WHERE id = ?").run(JSON.stringify(sheet), now, sheet.id).changes === 1;
  }
}

/** Earlier versions of a sheet that are handed out. */
const MOST_VERSIONS = 20;

const LINES = "SELECT s.id, s.body, s.changed_at, (SELECT count(*) FROM units u WHERE u.sheet_id = s.id) AS units FROM sheets s";

const lineOf = (row: SheetRow & { units: number }): SheetLine => ({ sheet: read(row), changedAt: row.changed_at, units: row.units });

function read(row: SheetRow): Sheet {
  return sheetSchema.parse(JSON.parse(row.body));
}
