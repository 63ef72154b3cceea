import { statSync } from "node:fs";
import { setTimeout as pause } from "node:timers/promises";
import type { Database } from "better-sqlite3";
import { Advices } from "./advices";
import { Atlases } from "./atlases";
import { BackupRule } from "./backups";
import { Days } from "./day";
import { Finds } from "./finds";
import { Foresights } from "./foresights";
import { Instruments } from "./instruments";
import { Jobs } from "./jobs";
import { Lessons } from "./lessons";
import { DatabaseProblem } from "./migrate";
import { Origins } from "./origins";
import { People } from "./people";
import { Predictions } from "./predictions";
import { PriceList } from "./prices";
import { Records } from "./records";
import { Sheets } from "./sheets";
import { Workshop } from "./shop";
import { RailTags } from "./tags";
import { Traces } from "./traces";
import { isBusy, isDamage } from "./trouble";

/** How often, and for how long in all, an action is tried again while another program writes, ms. */
const AGAIN = { every: 40, most: 2500 } as const;

/** Everything the workshop keeps, over one open database. */
export class Store {
  readonly advices: Advices;
  readonly atlases: Atlases;
  readonly backupRule: BackupRule;
  readonly days: Days;
  readonly finds: Finds;
  readonly foresights: Foresights;
  readonly jobs: Jobs;
  readonly lessons: Lessons;
  readonly origins: Origins;
  readonly people: People;
  readonly predictions: Predictions;
  readonly prices: PriceList;
  readonly records: Records;
  readonly sheets: Sheets;
  readonly tags: RailTags;
  readonly traces: Traces;
  readonly instruments: Instruments;
  readonly workshop: Workshop;
  /** What is wrong with the database, once it was noticed: from then on nothing is written to it. */
  damage: string | undefined;
  readonly #db: Database;
  /** Which file the database was opened from. */
  readonly #inode: number | undefined;

  constructor(db: Database) {
    this.#db = db;
    this.#inode = inodeOf(db);
    this.advices = new Advices(db);
    this.atlases = new Atlases(db);
    this.backupRule = new BackupRule(db);
    this.days = new Days(db);
    this.finds = new Finds(db);
    this.foresights = new Foresights(db);
    this.jobs = new Jobs(db);
    this.lessons = new Lessons(db);
    this.origins = new Origins(db);
    this.people = new People(db);
    this.predictions = new Predictions(db);
    this.prices = new PriceList(db);
    this.records = new Records(db);
    this.sheets = new Sheets(db);
    this.tags = new RailTags(db);
    this.traces = new Traces(db);
    this.instruments = new Instruments(db);
    this.workshop = new Workshop(db);
  }

  /**
   * Runs one action as one transaction: all of it is written, or none.
   * @throws DatabaseProblem when the file is no longer where it was: what is written then would be lost with it
   */
  action<T>(work: () => T): T {
    if (this.damage) throw new DatabaseProblem(`The database is damaged (${this.damage}). Nothing was changed: restore a backup.`);
    if (inodeOf(this.#db) !== this.#inode)
      throw new DatabaseProblem(
        `The database ${this.#db.name} is gone or another stands in its place. Nothing was changed: stop Uvrel, put it back, start again.`,
      );
    try {
      return this.#db.transaction(work).immediate();
    } catch (error) {
      this.noticed(error);
      throw error;
    }
  }

  /** Remembers damage that a read or a write came upon; any other error is none. */
  noticed(error: unknown): void {
    if (isDamage(error)) this.damage ??= String((error as Error).message);
  }

  /** Runs one action as one transaction; while another program writes it is tried again, and meanwhile everybody else is served. */
  async patiently<T>(work: () => T): Promise<T> {
    for (const end = Date.now() + AGAIN.most; ; await pause(AGAIN.every)) {
      try {
        return this.action(work);
      } catch (error) {
        if (!isBusy(error) || Date.now() >= end) throw error;
      }
    }
  }

  /**
   * Runs the action of a form once, however often it is sent, as one transaction.
   * @param id the form's number; without one it runs each time
   * @param work does it and says which page it leads to; nothing where it refused, and then it may be sent again
   */
  once(id: string | undefined, now: string, work: () => string | undefined): Promise<string | undefined> {
    return this.patiently(() => {
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

/** The file a database stands in; undefined for one in memory, or where the file is gone. */
function inodeOf(db: Database): number | undefined {
  return db.memory ? undefined : statSync(db.name, { throwIfNoEntry: false })?.ino;
}
