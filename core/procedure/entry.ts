import { hasCapacitor } from "../machine/capacitor";
import { samePoint } from "../machine/families/family";
import { LOOSE } from "../machine/loose";
import type { Sheet } from "../machine/sheet";
import { formatQuantity, isNumber, isOpen, parseEntry, type ReadingValue } from "../units";
import { CATALOGUE, type TestId, testOf } from "./catalogue";
import { isTaken, pointsOf, type Step, type Takes } from "./step";

/** What came of an entry: kept as it is, kept after one question, or refused with what is allowed. */
export type EntryCheck = { ok: true; value: ReadingValue; question?: string } | { ok: false; error: string };

/**
 * Reads and checks what was typed for a test. Impossible figures are refused with the allowed range; unlikely ones
 * come back with a question that is asked once.
 * @param text as typed, decimal comma allowed
 */
export function checkEntry(text: string, id: TestId): EntryCheck {
  const test = testOf(id);
  const entry = parseEntry(text, test.unit, test.choices);
  return entry.ok ? checkValue(entry.value, id) : entry;
}

/** Checks a value against what the test can show at all, and against what such a machine shows. */
export function checkValue(value: ReadingValue, id: TestId): EntryCheck {
  const test = testOf(id);
  if (isOpen(value)) {
    return test.openAllowed
      ? { ok: true, value }
      : {
          ok: false,
          error: `The open line is no answer here: this test is read in ${test.unit}. Type the figure, or skip the test with a reason.`,
        };
  }
  if (!isNumber(value)) {
    if (test.choices?.includes(value)) return { ok: true, value };
    return { ok: false, error: `“${value}” is not on the list. Allowed: ${test.choices?.join(", ") ?? `a number in ${test.unit}`}.` };
  }
  if (test.unit === "choice") return { ok: false, error: `Allowed: ${test.choices?.join(", ")}.` };
  const [low, high] = test.possible;
  if (!(value >= low && value <= high)) {
    return {
      ok: false,
      error: `${formatQuantity(value, test.unit)} cannot be. Allowed: ${formatQuantity(low, test.unit)} to ${formatQuantity(high, test.unit)}.`,
    };
  }
  const [from, to] = test.plausible;
  if (value < from || value > to) {
    return {
      ok: true,
      value,
      question: `${formatQuantity(value, test.unit)} is unlikely here: most machines show ${formatQuantity(from, test.unit)} to ${formatQuantity(to, test.unit)}. Keep it?`,
    };
  }
  return { ok: true, value };
}

/** That a test cannot be taken on a machine, and which can. */
export function notTaken(test: string, sheet: Takes): string {
  const taken = CATALOGUE.filter((row) => isTaken(row, sheet)).map(({ id }) => id);
  const of = sheet.loose ? `a loose ${LOOSE[sheet.loose].toLowerCase()}` : `${sheet.family}${hasCapacitor(sheet) ? " with a capacitor" : ""}`;
  return `“${test}” is not a test of ${of}. Known: ${taken.join(", ")}`;
}

/** What somebody may call a place that no sheet names. */
const NAMED = /^[\p{L}\p{N}][\p{L}\p{N} .-]{0,19}$/u;
export const NAME_RULE = "1 to 20 letters, digits, spaces, dots or hyphens";

/** What is wrong with a step on this machine, or undefined: an unknown point, a missing speed. */
export function stepProblem(
  step: Step,
  sheet: Takes & Pick<Sheet, "legs" | "fuses" | "systemVolts">,
): { field: "test" | "at" | "rpm"; error: string } | undefined {
  const test = testOf(step.test);
  if (!isTaken(test, sheet)) return { field: "test", error: notTaken(step.test, sheet) };
  if (test.points === "named") return NAMED.test(step.at ?? "") ? undefined : { field: "at", error: `${step.test} needs a name: ${NAME_RULE}.` };
  const points = pointsOf(test, sheet);
  const known = points[0] === undefined ? step.at === undefined : points.some((point) => samePoint(point, step.at));
  if (!known) {
    const allowed = points[0] === undefined ? "none" : points.join(", ");
    return { field: "at", error: `“${step.at ?? ""}” is not a point of ${step.test} on this machine. Allowed: ${allowed}.` };
  }
  if (test.runs && step.rpm === undefined) return { field: "rpm", error: `${step.test} needs the rpm at which it was taken, or "idle".` };
  return undefined;
}
