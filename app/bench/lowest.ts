import { testOf } from "../../core/procedure/catalogue";
import { checkEntry, type EntryCheck } from "../../core/procedure/entry";
import type { Step } from "../../core/procedure/step";
import { isNumber } from "../../core/units";

/** A checked entry, and how many catches it was the lowest of. */
type Typed = EntryCheck & { catches?: number };

/**
 * Checks what was typed for a step. A step that keeps the lowest takes several catches parted by spaces or slashes and
 * keeps the lowest of them; one that cannot be read refuses the whole entry.
 */
export function checkTyped(text: string, step: Step): Typed {
  const test = testOf(step.test);
  const catches = test.keepLowest
    ? text
        .trim()
        .split(/[\s/;]+/)
        .filter(Boolean)
    : [];
  if (catches.length < 2) return checkEntry(text, step.test);
  const checked = catches.map((caught) => checkEntry(caught, step.test));
  const refused = checked.find((entryCheck) => !entryCheck.ok);
  if (refused) return refused;
  const lowest = checked.reduce((best, entryCheck) =>
    entryCheck.ok && best.ok && isNumber(entryCheck.value) && isNumber(best.value) && entryCheck.value < best.value ? entryCheck : best,
  );
  return { ...lowest, catches: catches.length };
}
