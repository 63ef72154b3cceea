import type { Condition } from "../machine/condition";
import { conditionOf } from "../machine/condition";
import type { Sheet } from "../machine/sheet";
import type { Meter } from "../meter/meter";
import { CATALOGUE } from "../procedure/catalogue";
import { simulateStep } from "../procedure/simulate";
import { type Step, stepsOf } from "../procedure/step";
import { isNumber, type ReadingValue } from "../units";

/** One test that reads differently on the ailing machine. */
export interface Change {
  step: Step;
  sound: ReadingValue;
  ailing: ReadingValue;
  /** How much it stands out: a share of the sound figure, 1 and more where a word or the open line changes. */
  size: number;
}

/** Differences smaller than these are the meter's last digit. */
const LEAST = { share: 0.02, absolute: 0.03 } as const;

/** Steps whose readings are worth comparing on a machine. */
export function comparable(sheet: Sheet): Step[] {
  return CATALOGUE.flatMap((test) => stepsOf(test, sheet));
}

/** Takes one step on the sound and the ailing machine. @returns undefined when they read alike */
export function changeAt(step: Step, sheet: Sheet, condition: Condition, meter: Meter): Change | undefined {
  const sound = simulateStep(sheet, conditionOf([], { ambientC: condition.ambientC, charge: condition.charge }), step, meter).value;
  const ailing = simulateStep(sheet, condition, step, meter).value;
  if (sound === ailing) return undefined;
  if (!isNumber(sound) || !isNumber(ailing)) return { step, sound, ailing, size: 2 };
  const off = Math.abs(ailing - sound);
  if (off <= LEAST.absolute || off <= LEAST.share * Math.abs(sound)) return undefined;
  return { step, sound, ailing, size: off / Math.max(LEAST.absolute, Math.abs(sound), Math.abs(ailing)) };
}
