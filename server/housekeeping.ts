import { resolve } from "node:path";
import type { NextFunction, Request, Response } from "express";
import { Piscina } from "piscina";
import type { Housekeeping } from "../app/context";
import type { Whole } from "../store/backup";
import { backupsIn, isBackupDue, newBackup, restoreAdvice, thinOut } from "../store/backups";
import { DatabaseProblem } from "../store/migrate";
import type { Store } from "../store/store";

/** How often it is looked whether a backup is due, ms. */
const EVERY = 3_600_000;
/** How often the database is looked through, ms, and how long after the start for the first time. */
const LOOK = { every: 6 * 3_600_000, first: 600_000 } as const;

/** Where the work is done that would hold up the pages. */
type Threads = Pick<Piscina, "run" | "destroy">;

const ownThread = (): Threads => new Piscina({ filename: resolve("build/tools/housekeeping.js"), minThreads: 0, maxThreads: 1 });

/**
 * Keeps house behind the pages, in a thread of its own: backups by the shop's rule and when somebody asks, and a look through the
 * database for damage.
 */
export class Housekeeper implements Housekeeping {
  readonly #store: Store;
  readonly #folder: string;
  readonly #threads: Threads;
  readonly #timers: ReturnType<typeof setInterval>[] = [];
  readonly #log: (error: unknown) => void;
  /** Why the last backup by the rule came to nothing; undefined since one was made. */
  failed: string | undefined;

  /** @param folder the data folder @param log where what failed in the background is told */
  constructor(store: Store, folder: string, log: (error: unknown) => void, threads: Threads = ownThread()) {
    this.#threads = threads;
    this.#store = store;
    this.#folder = folder;
    this.#log = log;
  }

  /** Begins to keep house by itself. */
  begin(): void {
    const by = (work: () => Promise<unknown>) => () => void work().catch(this.#log);
    this.#timers.push(
      setInterval(
        by(() => this.backUpIfDue(new Date())),
        EVERY,
      ),
      setInterval(
        by(() => this.lookThrough()),
        LOOK.every,
      ),
      setTimeout(
        by(async () => {
          await this.lookThrough();
          await this.backUpIfDue(new Date());
        }),
        LOOK.first,
      ),
    );
    for (const timer of this.#timers) timer.unref();
  }

  async backUp(now: Date, byHand: boolean): Promise<Whole> {
    const task = { folder: this.#folder, file: newBackup(this.#folder, now, byHand) };
    const copied = (await this.#threads.run(task, { name: "copy" })) as Whole | { problem: string };
    if ("problem" in copied) throw new DatabaseProblem(copied.problem);
    this.failed = undefined;
    return copied;
  }

  /** Makes the day's backup if the shop's rule wants one, and takes away what the rule no longer keeps. A damaged database is not copied over good ones. */
  async backUpIfDue(now: Date): Promise<void> {
    const rule = this.#store.backupRule.get();
    if (this.#store.damage || !isBackupDue(backupsIn(this.#folder), rule, now)) return;
    try {
      await this.backUp(now, false);
      thinOut(this.#folder, rule);
    } catch (error) {
      this.failed = error instanceof Error ? error.message : String(error);
      throw error;
    }
  }

  /** Looks through the database; what is wrong with it stops every page until a backup is restored. */
  async lookThrough(): Promise<void> {
    this.#store.damage ??= (await this.#threads.run({ folder: this.#folder }, { name: "look" })) as string | undefined;
  }

  async close(): Promise<void> {
    for (const timer of this.#timers) clearInterval(timer);
    await this.#threads.destroy();
  }
}

/** Once damage was noticed nothing is read or written any more: half a record would be taken for a whole one. */
export function soundOnly(store: Store, folder: string) {
  return (_request: Request, response: Response, next: NextFunction): void => {
    if (!store.damage) return next();
    response
      .status(503)
      .type("text")
      .send(`The database is damaged (${store.damage}). Nothing is read or written any more. ${restoreAdvice(folder)}`);
  };
}
