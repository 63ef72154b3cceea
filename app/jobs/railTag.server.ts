import { marksOf } from "../../core/diagnosis/words/marks";
import { headline } from "../../core/diagnosis/words/words";
import { worked } from "../../core/procedure/moves";
import { stepTitle } from "../../core/procedure/step";
import type { JobFile } from "../../store/jobs";
import type { Job } from "../../store/rows";
import type { Store } from "../../store/store";
import { factsOf, type ShopKnows } from "./facts";
import { countedOf } from "./view";

/** How a job stands, as the rail tells it. */
export interface RailTag {
  marks: Partial<ReturnType<typeof marksOf>>;
  /** What the bench and the verdict say; nothing until the odds are there. */
  headline?: string | undefined;
  repaired: boolean;
  next?: string | undefined;
  ready: boolean;
  minutes: number;
}

/**
 * How some jobs stand: what was kept with each, or drawn now and kept for the next who asks, so that a rail full of long jobs reads
 * no reading of theirs.
 */
export function railTagsOf(store: Store, jobs: readonly Job[], knows: () => (file: JobFile) => ShopKnows): RailTag[] {
  const drawn = new Map<number, RailTag>();
  const tags = jobs.map(({ id }) => {
    const kept = store.tags.find(id) as RailTag | undefined;
    const tag = kept ?? draw(store, id, knows());
    if (!kept) drawn.set(id, tag);
    return tag;
  });
  if (drawn.size > 0)
    void store
      .patiently(() => {
        for (const [id, tag] of drawn) store.tags.keep(id, tag);
      })
      // Not kept, they are drawn once more.
      .catch(() => undefined);
  return tags;
}

function draw(store: Store, jobId: number, knows: (file: JobFile) => ShopKnows): RailTag {
  const file = store.jobs.file(jobId);
  if (!file) return { marks: {}, repaired: false, ready: false, minutes: 0 };
  const counted = countedOf(file);
  // What the bench last said; a rail full of machines is no reason to work all of them out.
  const advice = store.advices.find(jobId, factsOf(file, counted, knows(file)));
  const read = counted.current.length;
  return {
    marks: advice ? marksOf(advice, read) : {},
    headline: advice && read > 0 && (advice.settled || advice.sure.length > 0) ? headline(advice) : undefined,
    repaired: file.repairs.length > 0,
    next: advice?.next[0] && !advice.settled ? stepTitle(advice.next[0].step) : undefined,
    ready: advice !== undefined,
    minutes: Math.round(worked(counted.current, counted.context.school.restHours).hands),
  };
}
