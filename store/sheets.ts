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

  list(): SheetLine[] {
    const rows = this.#sql(
      "SELECT s.*, (SELECT count(*) FROM units u WHERE u.sheet_id = s.id) AS units FROM sheets s ORDER BY json_extract(body, '$.maker'), json_extract(body, '$.model')",
    ).all() as (SheetRow & { units: number })[];
    return rows.map((row) => ({ sheet: read(row), changedAt: row.changed_at, units: row.units }));
  }

  /** Every sheet by its short name, maker and model, without what is in it. */
  names(): { ref: string; name: string }[] {
    return this.#sql("SELECT id AS ref, json_extract(body, '$.maker') || ' ' || json_extract(body, '$.model') AS name FROM sheets ORDER BY name").all() as {
      ref: string;
      name: string;
    }[];
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

function read(row: SheetRow): Sheet {
  return sheetSchema.parse(JSON.parse(row.body));
}
