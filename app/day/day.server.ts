import { format } from "date-fns";
import { type DayJob, overnight, planDay } from "../../core/day/plan";
import { isOver } from "../../core/procedure/waits";
import type { Store } from "../../store/store";
import { shopKnowing } from "../jobs/file.server";
import { railTagsOf } from "../jobs/railTag.server";
import { at } from "./clock";

/** Machines that one day's plan holds: of more, those that wait the longest. */
const MOST = 60;
/** What is not worked out yet is looked at for so long, min. */
const UNKNOWN_MINUTES = 15;

/** So long before the hands go home it is asked what the night could do, ms. */
const EVENING_MS = 3_600_000;

/** The plan of today, or of tomorrow once the hands have gone home. */
export function dayOf(store: Store, now: Date) {
  const bay = store.days.bay();
  const today = at(now, bay.ends) > now.getTime() ? now : new Date(now.getTime() + 86_400_000);
  const day = format(today, "yyyy-MM-dd");
  const [begins, ends] = [at(today, bay.begins), at(today, bay.ends)];
  const from = Math.max(begins, now.getTime());
  const listed = store.jobs.listOpen(MOST, 0);
  const tags = railTagsOf(store, listed, () => shopKnowing(store));
  const marks = new Map(store.days.marks(day).map((mark) => [mark.jobId, mark]));
  const jobs = listed.map((job, k) => {
    const tag = tags[k];
    const wait = tag?.wait && !isOver(tag.wait, now.getTime()) ? tag.wait : undefined;
    return { job, tag, wait, mark: marks.get(job.id) };
  });
  const planned = jobs.flatMap(({ job, tag, wait, mark }): DayJob[] => {
    if (mark?.beginsAt === null || (wait && wait.until === undefined)) return [];
    const tasks = tag?.ahead ?? [{ kind: "hands" as const, minutes: UNKNOWN_MINUTES, title: "Look at it" }];
    return [
      {
        id: job.id,
        name: job.nickname,
        tasks,
        readyAt: wait?.until ? Date.parse(wait.until) : 0,
        ...(wait?.what === "charge" ? { onCharger: true as const } : {}),
        ...(mark?.beginsAt ? { pinnedAt: Date.parse(mark.beginsAt) } : {}),
      },
    ];
  });
  const plan = planDay(planned, bay, from, ends);
  const isToday = today === now;
  const evening = !isToday || ends - now.getTime() < EVENING_MS;
  return {
    day,
    isToday,
    now: now.getTime(),
    begins: Math.min(begins, from),
    ends,
    bay,
    plan,
    /** Some machines are still being worked out behind the page. */
    toCome: tags.some((tag) => tag === undefined),
    overnight: evening ? overnight(planned, bay, now.getTime()) : [],
    done: isToday
      ? store.days.workedSince(
          listed.map(({ id }) => id),
          new Date(begins).toISOString(),
        )
      : [],
    machines: jobs.map(({ job, wait, mark, tag }) => ({
      id: job.id,
      tag: job.unitTag,
      name: job.nickname,
      wait: wait ?? null,
      pinned: mark?.beginsAt ?? null,
      dropped: mark !== undefined && mark.beginsAt === null,
      repaired: tag?.repaired ?? false,
    })),
    coming: store.foresights.list(8),
  };
}

export type Day = ReturnType<typeof dayOf>;
