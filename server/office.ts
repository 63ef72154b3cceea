import { availableParallelism } from "node:os";
import { resolve } from "node:path";
import { Piscina } from "piscina";
import type { Advice, JobFacts } from "../core/diagnosis/advice";
import { chartSheetsOf } from "../core/diagnosis/population/builds";
import type { Atlas, Chart, ChartTask } from "../core/diagnosis/population/charts";
import { tasksOf } from "../core/diagnosis/population/charts";
import type { Sheet } from "../core/machine/sheet";
import { atlasKey } from "../store/atlases";
import type { Store } from "../store/store";

/** How far the drawing of a machine's charts is: the text once drawn, a count before, why it failed. */
type Drawing = { state: "ready"; body: string } | { state: "drawing"; done: number; of: number } | { state: "failed"; why: string };

/** Charts handed to a thread at a time: few enough to show progress, enough to be worth the trip. */
const BATCH = 4;
const MOST_THREADS = 4;
/** How often the drawing of charts that an advice waits for is looked at, ms. */
const LOOK_AGAIN = 200;

/** An advice that is asked for. */
interface Advising {
  sheet: Sheet;
  ambientC: number;
  facts: JobFacts;
}

/**
 * The drawing office: charts of machines, drawn in threads of their own and kept in the store, so that no page waits for them
 * and no machine's circuit is run twice.
 */
export class Office {
  readonly #store: Store;
  readonly #pool: Piscina;
  readonly #drawing = new Map<string, Drawing>();
  readonly #waiting = new Map<number, Advising>();
  #advising = false;
  #closed = false;
  readonly #log: (error: unknown) => void;

  /** @param log where what failed in the background is told */
  constructor(store: Store, log: (error: unknown) => void) {
    this.#store = store;
    this.#log = log;
    this.#pool = new Piscina({
      filename: resolve("build/tools/charts.js"),
      minThreads: 0,
      maxThreads: Math.min(MOST_THREADS, availableParallelism()),
      idleTimeout: 20_000,
    });
  }

  /** The charts of every way in which a sheet's machine could be made, as one list; begins the drawing of those that are not there. */
  ask(sheet: Sheet): Drawing {
    const all = chartSheetsOf(sheet).map((chart) => this.#askOne(chart));
    const failed = all.find(({ state }) => state === "failed");
    if (failed) return failed;
    const bodies = all.flatMap((drawing) => (drawing.state === "ready" ? [drawing.body] : []));
    if (bodies.length === all.length) return { state: "ready", body: `[${bodies.join()}]` };
    const each = tasksOf(chartSheetsOf(sheet)[0] as Sheet).length;
    const done = all.reduce((sum, drawing) => sum + (drawing.state === "ready" ? each : drawing.state === "drawing" ? drawing.done : 0), 0);
    return { state: "drawing", done, of: each * all.length };
  }

  /**
   * Has the advice to a job worked out in a thread and kept with it, so that the next page shows it in its first paint. One job after
   * another, and only once its charts are drawn, so that whoever waits for charts does not wait for this; of one job only the latest
   * facts count. What fails here fails quietly: the page's own engine answers all the same.
   */
  advise(jobId: number, job: { sheet: Sheet; ambientC: number }, facts: JobFacts): void {
    this.#waiting.set(jobId, { sheet: job.sheet, ambientC: job.ambientC, facts });
    if (!this.#advising) void this.#adviseAll();
  }

  async #adviseAll(): Promise<void> {
    this.#advising = true;
    for (let next = this.#next(); next && !this.#closed; next = this.#next()) {
      const [jobId, task] = next;
      this.#waiting.delete(jobId);
      try {
        if (this.#store.advices.find(jobId, task.facts) || !(await this.#drawn(task.sheet))) continue;
        const advice = (await this.#pool.run(task, { name: "advice" })) as Advice;
        if (!this.#closed) this.#store.action(() => this.#store.advices.keep(jobId, task.facts, advice, new Date().toISOString()));
      } catch (error) {
        if (!this.#closed) this.#log(error);
      }
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
    const kept = this.#store.atlases.find(key);
    if (kept !== undefined) return { state: "ready", body: kept };
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
    const batches = Array.from({ length: Math.ceil(tasks.length / BATCH) }, (_, k) => tasks.slice(k * BATCH, (k + 1) * BATCH));
    try {
      await Promise.all(
        batches.map(async (some) => {
          const charts = (await this.#pool.run({ sheet, tasks: some }, { name: "draw" })) as [string, Chart][];
          for (const [name, chart] of charts) atlas[name] = chart;
          done += some.length;
          this.#drawing.set(key, { state: "drawing", done, of: tasks.length });
        }),
      );
      this.#store.action(() => this.#store.atlases.keep(key, atlas, new Date().toISOString()));
      this.#drawing.delete(key);
    } catch (error) {
      this.#drawing.set(key, { state: "failed", why: error instanceof Error ? error.message : String(error) });
    }
  }

  async close(): Promise<void> {
    this.#closed = true;
    await this.#pool.destroy();
  }
}
