import { createHash } from "node:crypto";
import type { Database } from "better-sqlite3";
import type { Atlas } from "../core/diagnosis/population/charts";
import { ENGINE_EDITION } from "../core/diagnosis/population/edition";
import type { Sheet } from "../core/machine/sheet";
import { preparer } from "./statements";

/** Most atlases that are kept: one is about a tenth of a megabyte, and an old edition's are of no more use. */
const MOST_KEPT = 300;

/** Charts already drawn, by the key of sheet and edition. */
export class Atlases {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** True when the charts under a key are drawn. */
  has(key: string): boolean {
    return this.#sql("SELECT 1 FROM atlases WHERE key = ?").get(key) !== undefined;
  }

  /** Keeps an atlas; the oldest make room. */
  keep(key: string, atlas: Atlas, now: string): void {
    this.#sql(
      "INSERT INTO atlases (key, body, drawn_at) VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET body = excluded.body, drawn_at = excluded.drawn_at",
    ).run(key, JSON.stringify(atlas), now);
    this.#sql("DELETE FROM atlases WHERE key NOT IN (SELECT key FROM atlases ORDER BY drawn_at DESC, key LIMIT ?)").run(MOST_KEPT);
  }
}

/** The key of a machine's charts: everything about it that reaches the circuit, and the edition that draws. */
export function atlasKey(sheet: Sheet): string {
  const {
    maker: _maker,
    model: _model,
    years: _years,
    source: _source,
    id: _id,
    outputWire: _out,
    groundWire: _ground,
    statorConnector: _plug,
    unitGround: _case,
    access: _access,
    wakes: _wakes,
    tach: _tach,
    ...rest
  } = sheet;
  // What the wires look like is nothing to the circuit.
  const electrical = { ...rest, legs: sheet.legs.map(({ id }) => id) };
  return createHash("sha256")
    .update(`${ENGINE_EDITION}\n${JSON.stringify(electrical)}`)
    .digest("hex");
}
