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

  close(): void {
    this.#db.close();
  }
}
