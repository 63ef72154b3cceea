import { setTimeout as pause } from "node:timers/promises";

/** How long an answer waits for what the threads are at, ms: a crowd queues there, and a connection that says nothing looks dead. */
const PATIENCE = 5000;

/** What a thread works out, or undefined when it takes longer than anybody should wait for one answer; the work goes on, and who asks again has it. */
export async function inTime<T>(work: Promise<T>): Promise<T | undefined> {
  const stop = new AbortController();
  const late = pause(PATIENCE, undefined, { signal: stop.signal }).catch(() => undefined);
  try {
    return await Promise.race([work, late]);
  } finally {
    stop.abort();
    // Nobody hears any more how it went; the office tells its log.
    work.catch(() => undefined);
  }
}
