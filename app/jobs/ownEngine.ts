import { type Remote, wrap } from "comlink";
import type { EngineWorker } from "../../workers/engine";
import type { Subject } from "../context";

/** The thread in a box of its own: a remote answers to every name, `then` too, and must not be taken for a promise. */
export interface OwnEngine {
  engine: Remote<EngineWorker>;
}

/** One for the whole page: going from the bench to the verdict and back costs nothing. */
let shared: { key: string; worker: Worker; ready: Promise<OwnEngine> } | undefined;

/**
 * The page's own engine for a job, in a thread of its own. It goes on with the line down; a job's own copy of the sheet never
 * changes, so whatever else the page loads anew, the engine stays.
 */
export function ownEngine(jobId: number, { sheet, ambientC }: Subject): Promise<OwnEngine> {
  const key = `${jobId} ${ambientC}`;
  if (shared?.key === key) return shared.ready;
  shared?.worker.terminate();
  const worker = new Worker(new URL("../../workers/engine.ts", import.meta.url), { type: "module" });
  const engine = wrap<EngineWorker>(worker);
  const ready = new Promise<OwnEngine>((resolve, reject) => {
    worker.addEventListener("error", (event) =>
      reject(new Error(event.message || "what works them out could not be fetched, reload the page once the line is back")),
    );
    engine.open(jobId, sheet).then(() => resolve({ engine }), reject);
  });
  shared = { key, worker, ready };
  ready.catch(() => {
    if (shared?.worker === worker) shared = undefined;
    worker.terminate();
  });
  return ready;
}
