import { useMemo } from "react";
import { isTestId } from "../../core/procedure/catalogue";
import type { Job } from "../../store/rows";
import type { JobEntry } from "./entry";
import { outbox, type Sent, useAllSent } from "./outbox";

/** The outbox as one job sees it. */
export function useOutbox(job: Pick<Job, "id" | "unitTag" | "nickname">): {
  sent: readonly Sent[];
  waiting: number;
  add: (entry: JobEntry) => void;
  /** An entry as it will stand once it is added. */
  waits: (entry: JobEntry) => Sent;
  drop: (id: string, instead?: JobEntry) => void;
} {
  const all = useAllSent();
  const jobId = job.id;
  const tag = job.unitTag ?? job.nickname;
  return useMemo(() => {
    // What another edition of the page wrote down is for the store to judge; no sum here knows it.
    const sent = all.filter(({ jobId: of, entry, state }) => of === jobId && (state === "refused" || entry.kind !== "reading" || isTestId(entry.reading.test)));
    return {
      sent,
      waiting: sent.filter((sent) => sent.state === "waiting").length,
      waits: (entry: JobEntry): Sent => ({ jobId, tag, entry, state: "waiting" }),
      add: (entry: JobEntry) => outbox.add({ jobId, tag }, entry),
      drop: (id: string, instead?: JobEntry) => outbox.drop(id, instead),
    };
  }, [all, jobId, tag]);
}
