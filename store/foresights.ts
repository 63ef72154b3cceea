import type { Database } from "better-sqlite3";
import { z } from "zod";
import { preparer } from "./statements";

const foresightSchema = z.array(z.object({ step: z.string(), title: z.string(), says: z.string(), odds: z.number(), month: z.string() }));

type Foreseen = z.output<typeof foresightSchema>;

/** What the logs of machines warned of when they were last looked at. */
export class Foresights {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** Keeps what is foreseen of a machine; nothing takes an older warning down. */
  keep(tag: string, foreseen: Foreseen, now: string): void {
    if (foreseen.length === 0) this.#sql("DELETE FROM foresights WHERE unit_tag = ?").run(tag);
    else
      this.#sql(
        "INSERT INTO foresights (unit_tag, body, looked_at) VALUES (?, ?, ?) ON CONFLICT (unit_tag) DO UPDATE SET body = excluded.body, looked_at = excluded.looked_at",
      ).run(tag, JSON.stringify(foreseen), now);
  }

  /** Machines of which something is foreseen and that are not in the shop; the soonest first. */
  list(limit: number): { tag: string; nickname: string; foreseen: Foreseen }[] {
    const rows = this.#sql(
      `SELECT unit_tag AS tag, nickname, body FROM foresights JOIN units ON tag = unit_tag
         WHERE NOT EXISTS (SELECT 1 FROM jobs WHERE jobs.unit_tag = tag AND closed_at IS NULL)
         ORDER BY json_extract(body, '$[0].month'), tag LIMIT ?`,
    ).all(limit) as { tag: string; nickname: string; body: string }[];
    return rows.map(({ body, ...row }) => ({ ...row, foreseen: foresightSchema.parse(JSON.parse(body)) }));
  }
}
