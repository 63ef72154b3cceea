import type { Database } from "better-sqlite3";
import { Advices } from "./advices";
import { Atlases } from "./atlases";
import { Jobs } from "./jobs";
import { Predictions } from "./predictions";
import { PriceList } from "./prices";
import { Sheets } from "./sheets";
import { Workshop } from "./shop";

/** Everything the workshop keeps, over one open database. */
export class Store {
  readonly advices: Advices;
  readonly atlases: Atlases;
  readonly jobs: Jobs;
  readonly predictions: Predictions;
  readonly prices: PriceList;
  readonly sheets: Sheets;
  readonly workshop: Workshop;
  readonly #db: Database;

  constructor(db: Database) {
    this.#db = db;
    this.advices = new Advices(db);
    this.atlases = new Atlases(db);
    this.jobs = new Jobs(db);
    this.predictions = new Predictions(db);
    this.prices = new PriceList(db);
    this.sheets = new Sheets(db);
    this.workshop = new Workshop(db);
  }

  /** Runs one action as one transaction: all of it is written, or none. */
  action<T>(work: () => T): T {
    return this.#db.transaction(work).immediate();
  }

  /**
   * Runs the action of a form once, however often it is sent, as one transaction.
   * @param id the form's number; without one it runs each time
   * @param work does it and says which page it leads to; nothing where it refused, and then it may be sent again
   */
  once(id: string | undefined, now: string, work: () => string | undefined): string | undefined {
    return this.action(() => {
      const before = id && (this.#db.prepare("SELECT leads_to FROM sent_forms WHERE id = ?").get(id) as { leads_to: string } | undefined);
      if (before) return before.leads_to;
      const leadsTo = work();
      if (id && leadsTo) this.#db.prepare("INSERT INTO sent_forms (id, leads_to, sent_at) VALUES (?, ?, ?)").run(id, leadsTo, now);
      return leadsTo;
    });
  }

  close(): void {
    this.#db.close();
  }
}
