import type { Database } from "better-sqlite3";
import { z } from "zod";
import { ASSUMED_PRICES, type Prices } from "../core/diagnosis/planning/prices";
import { PARTS } from "../core/machine/part";
import { preparer } from "./statements";

const money = z.number({ error: "must be a number" }).min(0, "must be 0 or more").max(100_000, "must be 100,000 or less");
const minutes = z.number({ error: "must be a number of minutes" }).min(0, "must be 0 or more").max(2000, "must be 2,000 or less");

/** What a shop charges; every part has a price and a time. */
export const pricesSchema = z.strictObject({
  labourPerHour: money,
  parts: z.strictObject(
    Object.fromEntries(PARTS.map((part) => [part, z.strictObject({ money, minutes })])) as Record<
      (typeof PARTS)[number],
      z.ZodObject<{ money: typeof money; minutes: typeof minutes }>
    >,
  ),
});

/** The shop's prices, kept whole. */
export class PriceList {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  /** The shop's own prices, or the assumed ones. */
  get(): Prices {
    const row = this.#sql("SELECT body FROM prices").get() as { body: string } | undefined;
    if (!row) return ASSUMED_PRICES;
    const kept = JSON.parse(row.body) as Prices;
    // A part that came into the program after the shop priced its own has the assumed price.
    return pricesSchema.parse({ ...kept, parts: { ...ASSUMED_PRICES.parts, ...kept.parts } });
  }

  change(prices: Prices): void {
    this.#sql("INSERT INTO prices (only, body) VALUES (1, ?) ON CONFLICT (only) DO UPDATE SET body = excluded.body").run(JSON.stringify(prices));
  }
}
