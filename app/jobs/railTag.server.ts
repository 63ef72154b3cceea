import { setImmediate } from "node:timers/promises";
import type { Task } from "../../core/day/plan";
import { tasksOf } from "../../core/day/tasks";
import { marksOf } from "../../core/diagnosis/words/marks";
import { headline } from "../../core/diagnosis/words/words";
import { beginningOf, worked } from "../../core/procedure/moves";
import { type Reading, stepTitle } from "../../core/procedure/step";
import type { Wait } from "../../core/procedure/waits";
import { isNumber } from "../../core/units";
import type { JobFile } from "../../store/jobs";
import type { Job } from "../../store/rows";
import type { Store } from "../../store/store";
import { factsOf, type ShopKnows } from "./facts";
import { countedOf } from "./view";

/** How a job stands, as the rail tells it. */
interface RailTag {
  marks: Partial<ReturnType<typeof marksOf>>;
  /** What the bench and the verdict say; nothing until the odds are there. */
  headline?: string | undefined;
  repaired: boolean;
  next?: string | undefined;
  ready: boolean;
  /** What it waits for. */
  wait?: Wait | undefined;
  minutes: number;
  /** What it still needs, for the day's plan. */
  ahead: Task[];
}

/** So long a page may be held up for tags that have to be drawn, ms; the others are drawn behind it. */
const DRAWING_MS = 60;

/**
 * How some jobs stand: what was kept with each, so that a rail full of long jobs reads no reading of theirs. What is not kept is drawn
 * now as far as there is time, and after the page is out where there is none: undefined then.
 */
export function railTagsOf(store: Store, jobs: readonly Job[], knows: () => (file: JobFile) => ShopKnows): (RailTag | undefined)[] {
  const begun = performance.now();
  const left: number[] = [];
  const tags = jobs.map(({ id }) => {
    const kept = store.tags.find(id) as RailTag | undefined;
    if (kept) return kept;
    if (performance.now() - begun < DRAWING_MS) return drawn(store, id, knows());
    left.push(id);
    return undefined;
  });
  void drawLater(store, left, knows).catch(() => undefined);
  return tags;
}

/** Draws tags one after another, and lets whoever waits go first. */
async function drawLater(store: Store, jobIds: readonly number[], knows: () => (file: JobFile) => ShopKnows): Promise<void> {
  for (const id of jobIds) {
    await setImmediate();
    if (!store.tags.find(id)) drawn(store, id, knows());
  }
}

function drawn(store: Store, jobId: number, knows: (file: JobFile) => ShopKnows): RailTag {
  const tag = draw(store, jobId, knows);
  // Not kept, it is drawn once more.
  store.patiently(() => store.tags.keep(jobId, tag)).catch(() => undefined);
  return tag;
}

/** The latest rest volts. */
function restVoltsIn(readings: readonly Reading[]): number | undefined {
  const value = readings.findLast(({ test }) => test === "battery.rest")?.value;
  return value !== undefined && isNumber(value) ? value : undefined;
}

function draw(store: Store, jobId: number, knows: (file: JobFile) => ShopKnows): RailTag {
  const file = store.jobs.file(jobId);
  if (!file) return { marks: {}, repaired: false, ready: false, minutes: 0, ahead: [] };
  const counted = countedOf(file);
  const shop = knows(file);
  // What the bench last said; a rail full of machines is no reason to work all of them out.
  const advice = store.advices.find(jobId, factsOf(file, counted, shop));
  const read = counted.current.length;
  return {
    marks: advice ? marksOf(advice, read) : {},
    headline: advice && read > 0 && (advice.settled || advice.sure.length > 0) ? headline(advice) : undefined,
    repaired: file.repairs.length > 0,
    next: advice?.next[0] && !advice.settled ? stepTitle(advice.next[0].step) : undefined,
    ready: advice !== undefined,
    wait: counted.wait,
    minutes: Math.round(worked(counted.current, counted.context.school.restHours, beginningOf(counted.context.sheet)).hands),
    ahead: tasksOf(
      {
        sheet: counted.context.sheet,
        advice,
        restVolts: restVoltsIn(counted.current),
        restHours: counted.context.school.restHours,
        repaired: file.repairs.length > 0,
      },
      shop.prices,
    ),
  };
}
