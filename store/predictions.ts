import { createHash } from "node:crypto";
import type { Database } from "better-sqlite3";
import { roundedC } from "../core/diagnosis/population/column";
import type { Part } from "../core/machine/part";
import type { Sheet } from "../core/machine/sheet";
import { atlasKey } from "./atlases";
import { preparer } from "./statements";

/** Most packs that are kept: one is under a tenth of a megabyte. */
const MOST_KEPT = 400;

/** Packed predictions, compressed, by the key of machine, temperature and repairs. */
export class Predictions {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  find(key: string): Uint8Array | undefined {
    const row = this.#sql("SELECT body FROM predictions WHERE key = ?").get(key) as { body: Uint8Array } | undefined;
    return row?.body;
  }

  /** Keeps a pack; the oldest make room. */
  keep(key: string, body: Uint8Array, now: string): void {
    this.#sql(
      "INSERT INTO predictions (key, body, made_at) VALUES (?, ?, ?) ON CONFLICT (key) DO UPDATE SET body = excluded.body, made_at = excluded.made_at",
    ).run(key, body, now);
    this.#sql("DELETE FROM predictions WHERE key NOT IN (SELECT key FROM predictions ORDER BY made_at DESC, key LIMIT ?)").run(MOST_KEPT);
  }
}

/** The key of what a machine shows: everything about it that reaches the circuit, the edition that predicts, the air and what was mended. */
export function predictionsKey(sheet: Sheet, ambientC: number, mended: readonly Part[]): string {
  return createHash("sha256")
    .update([atlasKey(sheet), roundedC(ambientC), ...mended].join())
    .digest("hex");
}
