import { restVoltsAt } from "../battery/charge";
import type { Sheet } from "../machine/sheet";
import { formatQuantity, isNumber } from "../units";
import { type TestId, testOf } from "./catalogue";
import { cellsOf, type Reading, stepTitle } from "./step";
import { TOOLS, type ToolId } from "./tools";

/**
 * What is odd about how a reading is said to have been taken, in a sentence: a state that the machine cannot have been in, or a tool
 * that the shop lacks. It is kept and weighed as what it is; whoever typed it may have meant something else.
 * @param before the readings of the job taken before it
 * @returns undefined where nothing is odd
 */
export function oddityOf(
  reading: Reading,
  before: readonly Reading[],
  tools: readonly ToolId[],
  { battery, systemVolts }: Pick<Sheet, "battery" | "systemVolts">,
): string | undefined {
  const test = testOf(reading.test);
  if (reading.test === "battery.rest" && reading.restHours !== undefined && reading.restHours < LEAST_REST)
    return `${stepTitle(reading)} after ${reading.restHours === 0 ? "no rest at all" : "hardly any rest"}: a battery just charged or loaded shows something else than its charge, and it is weighed as that.`;
  const other = otherSystem(reading, systemVolts);
  if (other !== undefined) return other;
  const above = ABOVE_FULL[reading.test];
  if (above !== undefined && isNumber(reading.value) && reading.value > restVoltsAt(1, battery.chemistry, systemVolts) + above * (systemVolts / 12))
    return `No battery of this kind shows ${formatQuantity(reading.value, test.unit)} by itself: is a charger or jump pack on still, or hardly off? Take it off, let the battery rest, and read again.`;
  const apart = cellsApart(reading, before, systemVolts);
  if (apart !== undefined)
    return `The cells add up to ${formatQuantity(apart.sum, "V")}, the whole battery showed ${formatQuantity(apart.whole, "V")}: one of them was mistyped, or read between other cells.`;
  if (reading.hot && test.setUp.engine !== "running" && !before.some((earlier) => testOf(earlier.test).setUp.engine === "running" || earlier.hot))
    return "Said to be hot, but the engine has not run in this job: untick it if everything was cold.";
  if (test.tool && !tools.includes(test.tool)) return `The shop's settings name no ${TOOLS[test.tool].toLowerCase()}; the reading counts all the same.`;
  return undefined;
}

/** Rest volts of a battery of the other system, from a worn one to a full one, V: nothing that a sound one of this system shows. */
const OTHER_SYSTEM = { 6: { from: 10, to: 13.5 }, 12: { from: 5.8, to: 6.8 } } as const;

/** What is said of volts at rest that are those of a battery of the other system: machines are converted, and lines in a form mistaken. */
function otherSystem({ test, value }: Reading, systemVolts: 6 | 12): string | undefined {
  const { from, to } = OTHER_SYSTEM[systemVolts];
  if (test !== "battery.rest" || !isNumber(value) || value < from || value > to) return undefined;
  const shown = formatQuantity(value, "V");
  return systemVolts === 6
    ? `${shown} at rest is a 12 V battery, and this job is for a 6 V machine: count the cells, six are 12 V. If it was converted, open its job as a 12 V machine, or every figure is judged by half of what it should be.`
    : `${shown} at rest is all that a 6 V battery has, or a 12 V battery drained past empty: count the cells, three are 6 V. If the machine is a 6 V one, open its job as that.`;
}

/** Cells add up to their battery within this, V on 12 V: probes in acid are no clean contact. */
const ADDS_UP = 0.4;

/** What the cells of a whole set add up to, where that is not what the battery showed at rest. */
function cellsApart(reading: Reading, before: readonly Reading[], systemVolts: 6 | 12): { sum: number; whole: number } | undefined {
  if (reading.test !== "battery.cell") return undefined;
  const now = [...before, reading].filter(({ afterRepair }) => afterRepair === reading.afterRepair);
  const cells = new Map(now.flatMap(({ test, at, value }) => (test === "battery.cell" && isNumber(value) ? [[at, value]] : [])));
  const whole = now.findLast(({ test }) => test === "battery.rest")?.value;
  if (cells.size < cellsOf({ systemVolts }) || whole === undefined || !isNumber(whole)) return undefined;
  const sum = [...cells.values()].reduce((total, volts) => total + volts, 0);
  return Math.abs(sum - whole) > ADDS_UP * (systemVolts / 12) ? { sum, whole } : undefined;
}

/** How far above its rest volts when full a battery can be found, V on 12 V: what is left of a charge at rest; nothing with key and lights on. */
const ABOVE_FULL: Partial<Record<TestId, number>> = { "battery.rest": 0.5, "battery.settled": 0.2 };

/** Below so much rest a battery shows what was done to it last, h. */
const LEAST_REST = 0.25;
