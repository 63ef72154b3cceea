import type { Sheet } from "../../core/machine/sheet";
import type { Job } from "../../store/rows";

const ENDINGS = {
  proven: "Repaired and proven",
  healthy: "Nothing failed",
  "plain-cause": "Plain cause, nothing failed",
  unproven: "Closed without proof",
} as const;

/** How jobs end, in words; a part that came in by itself is handed back. */
export function endingsOf({ loose }: Pick<Sheet, "loose">): Record<keyof typeof ENDINGS, string> {
  return loose ? { ...ENDINGS, healthy: "Handed back as good", unproven: "Handed back, not good or not settled" } : ENDINGS;
}

/** Whether a job has left its machine sound: its readings are then what such a machine shows. */
export function isSound({ ending, sheet }: Pick<Job, "ending" | "sheet">): boolean {
  return !sheet.loose && (ending === "proven" || ending === "healthy");
}
