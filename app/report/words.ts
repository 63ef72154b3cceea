import { format } from "date-fns";
import type { Advice } from "../../core/diagnosis/advice";
import { foundWords } from "../../core/diagnosis/words/words";
import { CAUTIONS } from "../../core/procedure/cautions";
import { complaintWords, PLAIN_CAUSES } from "../../core/procedure/complaints";
import { stepFromKey, stepTitle } from "../../core/procedure/step";
import { cautionsOf } from "../../core/procedure/stepCautions";
import type { JobFile } from "../../store/jobs";
import type { Job } from "../../store/rows";

/** What a work report says, on the screen and on paper alike. */

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

export const moment = (at: string): string => format(at, "d MMMM yyyy, HH:mm");

/** Who did it, where people sign in. */
export const by = (name: string | null): string => (name ? `, ${name}` : "");

/** What the owner complains of, the plain causes of the counter left out. */
export function complaintsOf({ complaint }: Pick<Job, "complaint">): string {
  return complaintWords(complaint.filter((id) => !PLAIN_CAUSES.some((cause) => cause.id === id))).join(", ");
}

/** What had failed, the first of it first: as it was said when it was mended; else what the advice comes to; nothing where neither is there. */
export function foundLines({ job, repairs }: Pick<JobFile, "job" | "repairs">, advice: Advice | undefined): string[] {
  if (job.ending === "plain-cause")
    return [
      PLAIN_CAUSES.filter(({ id }) => job.complaint.includes(id))
        .map(({ question }) => `${question} Yes.`)
        .join(" "),
    ];
  const recorded = repairs.flatMap(({ found }) => found ?? []);
  return recorded.length > 0 || !advice ? recorded : [foundWords(advice, job.sheet)];
}

/** A skipped step by its title. */
export function skipTitle(key: string): string {
  const step = stepFromKey(key);
  return step ? stepTitle(step) : key;
}

/** What stood beside the readings that were taken, each once, and when somebody said to have read it. */
export function cautionsThatApplied({ job, history, seen }: Pick<JobFile, "job" | "history" | "seen">): { says: string; read: string }[] {
  const ids = [...new Set(history.flatMap((reading) => cautionsOf(reading, job.sheet)))];
  return ids.map((id) => {
    const first = seen.find(({ cautions }) => cautions.includes(id));
    return { says: CAUTIONS[id], read: first ? ` Read ${moment(first.at)}${by(first.by)}.` : "" };
  });
}
