import { testOf } from "./catalogue";
import { type Reading, stepTitle } from "./step";
import { TOOLS, type ToolId } from "./tools";

/**
 * What is odd about how a reading is said to have been taken, in a sentence: a state that the machine cannot have been in, or a tool
 * that the shop lacks. It is kept and weighed as what it is; whoever typed it may have meant something else.
 * @param before the readings of the job taken before it
 * @returns undefined where nothing is odd
 */
export function oddityOf(reading: Reading, before: readonly Reading[], tools: readonly ToolId[]): string | undefined {
  const test = testOf(reading.test);
  if (reading.test === "battery.rest" && reading.restHours !== undefined && reading.restHours < LEAST_REST)
    return `${stepTitle(reading)} after ${reading.restHours === 0 ? "no rest at all" : "hardly any rest"}: a battery just charged or loaded shows something else than its charge, and it is weighed as that.`;
  if (reading.hot && test.setUp.engine !== "running" && !before.some((earlier) => testOf(earlier.test).setUp.engine === "running" || earlier.hot))
    return "Said to be hot, but the engine has not run in this job: untick it if everything was cold.";
  if (test.tool && !tools.includes(test.tool)) return `The shop's settings name no ${TOOLS[test.tool].toLowerCase()}; the reading counts all the same.`;
  return undefined;
}

/** Below so much rest a battery shows what was done to it last, h. */
const LEAST_REST = 0.25;
