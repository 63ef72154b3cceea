import type { CautionId } from "../../core/procedure/cautions";
import { type JudgedReading, type JudgingContext, judgeAll } from "../../core/procedure/judge";
import { beginningOf, worked } from "../../core/procedure/moves";
import { nextStep, runList, type Skip, type Stage } from "../../core/procedure/runlist";
import { schoolOf } from "../../core/procedure/schools";
import type { Reading, Step } from "../../core/procedure/step";
import { type Wait, waitOf } from "../../core/procedure/waits";
import type { JobFile } from "../../store/jobs";
import { isOfNow, withMended } from "./mended";
import type { Sent } from "./outbox";

/** One kept value of a step and, where a later one took its place, why. */
interface HistoryLine extends Reading {
  repairs?: number | undefined;
  supersedes?: string | undefined;
  supersedesWhy?: "mistyped" | "taken-again" | undefined;
}

/** What of a job counts: what the store has and what is still on its way to it. */
export interface Counted {
  context: JudgingContext;
  /** Every value ever kept. */
  history: HistoryLine[];
  /** The readings that no later one took the place of. */
  current: Reading[];
  skips: Skip[];
  /** Cautions said to have been read in this job. */
  seen: CautionId[];
  /** Readings for which something had been pulled that is back by now. */
  putBacks: ReadonlySet<string>;
  /** What the job waits for. */
  wait: Wait | undefined;
}

/** A job as every screen shows it: what counts, judged, and the run list. */
export interface JobView extends Counted {
  judged: JudgedReading[];
  stages: Stage[];
  next: Step | undefined;
  /** Hands-on minutes of the moves and readings made so far, and minutes on the clock that nobody's hands were needed for. */
  minutes: number;
  waiting: number;
  /** Whether a reading is of the machine as it stands since the last repair. */
  isNow: (reading: Reading) => boolean;
}

/** Sorts out what counts of a job. */
export function countedOf(file: JobFile, sent: readonly Sent[] = []): Counted {
  const known = new Set(file.history.map((reading) => reading.id));
  const ours = sent.filter((sent) => sent.state !== "refused").map((sent) => sent.entry);
  const history: HistoryLine[] = [
    ...file.history,
    ...ours.flatMap((entry) => (entry.kind === "reading" && !known.has(entry.reading.id) ? [entry.reading] : [])),
  ];
  const replaced = new Set(history.map((reading) => reading.supersedes).filter(Boolean));
  const current = withMended(
    history.filter((reading) => !replaced.has(reading.id)),
    file.repairs,
  );
  const skips: Skip[] = [...file.skips, ...ours.flatMap((entry) => (entry.kind === "skip" ? [entry.skip] : []))];
  const leadOhms = ours.findLast((entry) => entry.kind === "lead-zero")?.leadOhms ?? file.job.meter.leadOhms;
  const context: JudgingContext = {
    sheet: file.job.sheet,
    school: schoolOf(file.job.school),
    meter: { ...file.job.meter, leadOhms },
    ambientC: file.job.ambientC,
  };
  const seen = [...file.seen.flatMap(({ cautions }) => cautions), ...ours.flatMap((entry) => (entry.kind === "caution" ? entry.cautions : []))];
  const waits = [...file.waits, ...ours.flatMap((entry) => (entry.kind === "wait" ? [{ ...entry.wait, beganAt: entry.takenAt }] : []))];
  const putBacks = new Set([...file.putBacks, ...ours.flatMap((entry) => (entry.kind === "put-back" ? [entry.pulledFor] : []))]);
  return { context, history, current, skips, seen, putBacks, wait: waitOf(waits) };
}

/**
 * Works a job out from what the store has and what is still on its way to it. The same computation runs on the server
 * and in the browser, so that a reading is judged at once, line or no line.
 */
export function viewOf(file: JobFile, sent: readonly Sent[] = []): JobView {
  const counted = countedOf(file, sent);
  const { context, current, skips } = counted;
  const judged = judgeAll(current, context);
  const time = worked(current, context.school.restHours, beginningOf(context.sheet));
  const stages = runList(context.sheet, context.school, judged, skips);
  return {
    ...counted,
    judged,
    stages,
    next: nextStep(stages),
    minutes: Math.round(time.hands),
    waiting: Math.round(time.waiting),
    isNow: (reading) => isOfNow(reading, file.repairs),
  };
}
