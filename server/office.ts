import { availableParallelism } from "node:os";
import { resolve } from "node:path";
import { Piscina } from "piscina";
import type { Drawing, Office, Subject } from "../app/context";
import type { OutputPoint } from "../core/budget/output";
import { type Advice, type JobFacts, NOTHING_READ } from "../core/diagnosis/advice";
import { chartSheetsOf } from "../core/diagnosis/population/builds";
import type { Atlas, Chart, ChartTask } from "../core/diagnosis/population/charts";
import { tasksOf } from "../core/diagnosis/population/charts";
import type { Look } from "../core/diagnosis/population/look";
import { FAMILIES } from "../core/machine/families/all";
import { KIND_IDS } from "../core/machine/kind";
import type { Part } from "../core/machine/part";
import type { Sheet } from "../core/machine/sheet";
import { unlistedSheet } from "../core/machine/unlisted";
import { atlasKey } from "../store/atlases";
import { predictionsKey } from "../store/predictions";
import type { Store } from "../store/store";

/** Charts handed to a thread at a time: few enough to show progress, enough to be worth the trip. */
const BATCH = 4;
const MOST_THREADS = 4;
/** How long a thread without work is kept, ms: the adviser a working day, so that what it has made and compiled serves the next job too. */
const IDLE = { drawing: 20_000, advising: 8 * 3_600_000 } as const;
/** How often the drawing of charts that an advice waits for is looked at, ms. */
const LOOK_AGAIN = 100;
/** How often it is looked whether the pages are quiet, ms. */
const LULL = 1000;

/** Output curves that are remembered: the sheets of a large shelf. */
const MOST_CURVES = 200;

/** Air of a workshop, °C. */
const ROOM_C = 20;

/** An advice that is asked for, and who waits to hear it. */
interface Advising extends Subject {
  facts: JobFacts;
  heard: Promise<Advice | undefined>;
  tell: (advice: Advice | undefined) => void;
}

/**
 * The office behind the pages: machines' charts are drawn in threads and kept in the store, so that no machine's circuit is run
 * twice; one thread of its own predicts and advises, so that a machine's population is made once for all who ask.
 */
export class ThreadedOffice implements Office {
  readonly #store: Store;
  readonly #pool: Piscina;
  readonly #adviser: Piscina;
  /** A page waits for a curve: it stands in no line behind charts and advices. */
  readonly #sketcher: Piscina;
  readonly #drawing = new Map<string, Drawing>();
  readonly #predicting = new Map<string, Promise<Uint8Array>>();
  readonly #curves = new Map<string, Promise<OutputPoint[]>>();
  readonly #waiting = new Map<number, Advising>();
  #advising = false;
  #closed = false;
  readonly #log: (error: unknown) => void;

  /** @param log where what failed in the background is told */
  constructor(store: Store, log: (error: unknown) => void) {
    this.#store = store;
    this.#log = log;
    const filename = resolve("build/tools/charts.js");
    this.#pool = new Piscina({ filename, minThreads: 0, maxThreads: Math.min(MOST_THREADS, availableParallelism()), idleTimeout: IDLE.drawing });
    this.#sketcher = new Piscina({ filename, minThreads: 0, maxThreads: 1, idleTimeout: IDLE.drawing });
    this.#adviser = new Piscina({ filename, minThreads: 0, maxThreads: 1, idleTimeout: IDLE.advising });
  }

  ask(sheet: Sheet): Drawing {
    const all = chartSheetsOf(sheet).map((chart) => this.#askOne(chart));
    const failed = all.find(({ state }) => state === "failed");
    if (failed) return failed;
    if (all.every(({ state }) => state === "ready")) return { state: "ready" };
    const each = tasksOf(chartSheetsOf(sheet)[0] as Sheet).length;
    const done = all.reduce((sum, drawing) => sum + (drawing.state === "ready" ? each : drawing.state === "drawing" ? drawing.done : 0), 0);
    return { state: "drawing", done, of: each * all.length };
  }

  /**
   * One job after another, and only once its charts are drawn, so that whoever waits for charts does not wait for this; of one job
   * only the latest facts count.
   */
  advise(jobId: number, { sheet, ambientC }: Subject, facts: JobFacts): Promise<Advice | undefined> {
    const before = this.#waiting.get(jobId);
    if (before && JSON.stringify(before.facts) === JSON.stringify(facts)) return before.heard;
    before?.tell(undefined);
    const { promise, resolve: tell } = withResolver<Advice | undefined>();
    this.#waiting.set(jobId, { sheet, ambientC, facts, heard: promise, tell });
    if (!this.#advising) void this.#adviseAll();
    return promise;
  }

  curve(sheet: Sheet): Promise<OutputPoint[]> {
    const key = JSON.stringify(sheet);
    const known = this.#curves.get(key);
    if (known) return known;
    const curve = this.#sketcher.run({ sheet }, { name: "curve" }) as Promise<OutputPoint[]>;
    if (this.#curves.size >= MOST_CURVES) this.#curves.clear();
    this.#curves.set(key, curve);
    // One that failed is tried again by whoever asks next.
    curve.catch(() => this.#curves.delete(key));
    return curve;
  }

  /** What is worked out already is waited for, not asked for once more. */
  predictions({ sheet, ambientC }: Subject, of: { mended: Part[] } | { looks: Look[] }): Promise<Uint8Array> {
    const asked = JSON.stringify([sheet, ambientC, of]);
    const under = this.#predicting.get(asked);
    if (under) return under;
    const work = this.#predict(sheet, ambientC, of).finally(() => this.#predicting.delete(asked));
    this.#predicting.set(asked, work);
    return work;
  }

  async #predict(sheet: Sheet, ambientC: number, of: { mended: Part[] } | { looks: Look[] }): Promise<Uint8Array> {
    const key = "mended" in of ? predictionsKey(sheet, ambientC, of.mended) : undefined;
    const kept = key && this.#store.predictions.find(key);
    if (kept) return kept;
    const body = (await this.#adviser.run({ sheet, ambientC, of }, { name: "predictions" })) as Uint8Array;
    if (key && !this.#closed) await this.#store.patiently(() => this.#store.predictions.keep(key, body, new Date().toISOString()));
    return body;
  }

  async #adviseAll(): Promise<void> {
    this.#advising = true;
    for (let next = this.#next(); next && !this.#closed; next = this.#next()) {
      const [jobId, { sheet, ambientC, facts, tell }] = next;
      let advice: Advice | undefined;
      try {
        advice = this.#store.advices.find(jobId, facts);
        if (!advice && (await this.#drawn(sheet))) {
          advice = await this.#advised({ sheet, ambientC }, facts);
          const made = advice;
          if (!this.#closed) await this.#store.patiently(() => this.#store.advices.keep(jobId, facts, made, new Date().toISOString()));
        }
      } catch (error) {
        if (!this.#closed) this.#log(error);
      }
      // What was asked for of the same job meanwhile waits its turn.
      if (this.#waiting.get(jobId) === next[1]) this.#waiting.delete(jobId);
      tell(advice);
    }
    this.#advising = false;
  }

  #next(): [number, Advising] | undefined {
    return this.#waiting.entries().next().value;
  }

  /** Waits until a sheet's charts are drawn; false when they cannot be. */
  async #drawn(sheet: Sheet): Promise<boolean> {
    for (;;) {
      const { state } = this.ask(sheet);
      if (state !== "drawing" || this.#closed) return state === "ready";
      await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN));
    }
  }

  #askOne(sheet: Sheet): Drawing {
    const key = atlasKey(sheet);
    if (this.#store.atlases.has(key)) return { state: "ready" };
    const under = this.#drawing.get(key);
    if (under) {
      // A failure is told once; asking again tries again.
      if (under.state === "failed") this.#drawing.delete(key);
      return under;
    }
    const tasks = tasksOf(sheet);
    const begun: Drawing = { state: "drawing", done: 0, of: tasks.length };
    this.#drawing.set(key, begun);
    void this.#draw(key, sheet, tasks);
    return begun;
  }

  async #draw(key: string, sheet: Sheet, tasks: ChartTask[]): Promise<void> {
    const atlas: Atlas = {};
    let done = 0;
    try {
      await Promise.all(
        batchesOf(tasks).map(async (some) => {
          const charts = (await this.#pool.run({ sheet, tasks: some }, { name: "draw" })) as [string, Chart][];
          for (const [name, chart] of charts) atlas[name] = chart;
          done += some.length;
          this.#drawing.set(key, { state: "drawing", done, of: tasks.length });
        }),
      );
      await this.#store.patiently(() => this.#store.atlases.keep(key, atlas, new Date().toISOString()));
      this.#drawing.delete(key);
    } catch (error) {
      this.#drawing.set(key, { state: "failed", why: error instanceof Error ? error.message : String(error) });
    }
  }

  /**
   * Draws the charts of machines without a sheet before anybody asks, one batch at a time, so that the first such job of a shop does
   * not wait for them; and advises on the first of them, because a thread that has advised once does it in half the time. It is work
   * for lulls: whoever uses the pages has the processor for himself, and what a job waits for goes first.
   * @param isQuiet whether nobody has asked for anything lately
   */
  async prepareAhead(isQuiet: () => boolean): Promise<void> {
    const lull = async (): Promise<void> => {
      while ((!isQuiet() || this.#drawing.size > 0 || this.#advising) && !this.#closed) await new Promise((resolve) => setTimeout(resolve, LULL).unref());
    };
    const families = FAMILIES.filter(({ mayBe }) => mayBe.length > 0);
    const machines = families.flatMap(({ id }) => [undefined, ...KIND_IDS].map((kind) => unlistedSheet(id, 12, kind)));
    try {
      for (const [k, machine] of machines.entries()) {
        for (const sheet of chartSheetsOf(machine)) await this.#drawAhead(sheet, lull);
        await lull();
        if (this.#closed) return;
        if (k === 0) await this.#advised({ sheet: machine, ambientC: ROOM_C }, NOTHING_READ);
      }
    } catch (error) {
      if (!this.#closed) this.#log(error);
    }
  }

  /** @param lull waits until it is nobody's turn */
  async #drawAhead(sheet: Sheet, lull: () => Promise<void>): Promise<void> {
    const key = atlasKey(sheet);
    if (this.#store.atlases.has(key)) return;
    const atlas: Atlas = {};
    for (const tasks of batchesOf(tasksOf(sheet))) {
      await lull();
      if (this.#closed || this.#store.atlases.has(key)) return;
      Object.assign(atlas, Object.fromEntries((await this.#pool.run({ sheet, tasks }, { name: "draw" })) as [string, Chart][]));
    }
    if (!this.#closed) await this.#store.patiently(() => this.#store.atlases.keep(key, atlas, new Date().toISOString()));
  }

  #advised({ sheet, ambientC }: Subject, facts: JobFacts): Promise<Advice> {
    return this.#adviser.run({ sheet, ambientC, facts }, { name: "advice" }) as Promise<Advice>;
  }

  async close(): Promise<void> {
    this.#closed = true;
    for (const { tell } of this.#waiting.values()) tell(undefined);
    await Promise.all([this.#pool.destroy(), this.#adviser.destroy(), this.#sketcher.destroy()]);
  }
}

/** Tasks in batches that are worth the trip to a thread. */
const batchesOf = (tasks: readonly ChartTask[]): ChartTask[][] =>
  Array.from({ length: Math.ceil(tasks.length / BATCH) }, (_, k) => tasks.slice(k * BATCH, (k + 1) * BATCH));

function withResolver<T>(): { promise: Promise<T>; resolve: (value: T) => void } {
  let settle: (value: T) => void = () => undefined;
  const promise = new Promise<T>((resolve) => {
    settle = resolve;
  });
  return { promise, resolve: settle };
}
