import { oddsOf } from "../../core/diagnosis/words/marks";
import { PARTS } from "../../core/machine/part";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { foresee } from "../units/log.server";
import { factsIn, shopKnows } from "./file.server";
import { viewOf } from "./view";

/** What is noted beside a job for the shop's records as it is repaired and closed. */

/** Notes which part stood first, and how surely, before the first repair: what the verdict was worth is told by what proves right. */
export function noteStatement(store: Store, file: JobFile, now: string): void {
  if (file.repairs.length > 0) return;
  const advice = store.advices.find(file.job.id, factsIn(file, shopKnows(store, file), false));
  if (!advice) return;
  const part = PARTS.reduce((first, part) => (oddsOf(advice, part) > oddsOf(advice, first) ? part : first));
  store.records.state(file.job.id, part, Math.min(1, Math.max(0, oddsOf(advice, part))), now);
}

/** Notes what a closed job took. */
export function noteClosing(store: Store, jobId: number): void {
  const file = store.jobs.file(jobId);
  if (!file) return;
  const { minutes, waiting } = viewOf(file);
  store.records.took(jobId, minutes, minutes + waiting);
}

/** Looks ahead for the machine of a closed job, once its page is out: a log of many years takes a while, and nobody waits for it. */
export function foreseeBehind(store: Store, jobId: number, now: Date): void {
  setImmediate(() => {
    try {
      const job = store.jobs.find(jobId);
      if (job?.closedAt && job.unitTag && !job.sheet.loose) foresee(store, job.unitTag, now);
    } catch (error) {
      // Another program holds the database, or Uvrel is being stopped: the log looks ahead again when it is opened or its next job is closed.
      store.noticed(error);
    }
  });
}
