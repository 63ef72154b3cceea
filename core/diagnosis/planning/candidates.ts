import { hasCapacitor } from "../../machine/capacitor";
import type { Part } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import { type TestId, testOf } from "../../procedure/catalogue";
import type { Step } from "../../procedure/step";
import type { ToolId } from "../../procedure/tools";
import { isOfBattery, type Look, lookOf, mindsCharge, WEAKEST_CELL, weighedSteps } from "../population/look";
import type { Population } from "../population/population";

/** What decides which readings could be asked for at all. */
export interface Askable {
  /** Keys of looks already taken in the present state, or skipped. */
  done: ReadonlySet<string>;
  /** Tests read so far, in any state. */
  tests: ReadonlySet<TestId>;
  charged: boolean;
  /** Charging volts were read under way, and all of them were right. */
  carries: boolean;
  mended: readonly Part[];
  /** What the shop has beside a multimeter. */
  tools: readonly ToolId[];
}

/** Never asked for, weighed when taken: a cover off for half an hour, a spare unit in and out, a look at the fluid, volts within seconds of a stop and a starter's first pull, which a log has. */
const SELDOM: readonly TestId[] = ["swap.unit", "rotor.pull", "inspect.fluid", "battery.recovery", "battery.firstPull"];
/** How much a battery leaves of a ripple is known so roughly that nobody is sent for it; across a capacitor it tells nearly all. */
const isSeldom = (test: TestId, sheet: Sheet): boolean => SELDOM.includes(test) || (test === "charge.ripple" && !hasCapacitor(sheet));
/** What must have been read before a step makes sense. */
const AFTER: Partial<Record<TestId, TestId>> = { "drain.unitUnplugged": "drain.current", "drain.fusePulled": "drain.current" };
const HEATED: readonly TestId[] = ["stator.resistance", "charge.volts"];

/** Whether a step is taken once more with everything hot: what has no engine to warm it is not. */
function isHeated({ test, rpm, loads }: Step, { loose }: Sheet): boolean {
  return !loose && HEATED.includes(test) && rpm !== "idle" && (loads ?? "normal") === "normal";
}

/** Every look that can be wanted of a machine with some parts mended, whatever the shop has and whether the battery has been charged or not. */
export function looksOf(sheet: Sheet, mended: readonly Part[]): Look[] {
  const looks = new Map<string, Look>();
  for (const step of [...weighedSteps(sheet), WEAKEST_CELL]) {
    const { test } = step;
    const heats = isHeated(step, sheet) ? [false, true] : [false];
    for (const charged of mindsCharge(test) ? [false, true] : [false]) {
      for (const hot of heats) {
        const look = lookOf(step, { mended, charged, hot });
        looks.set(look.key, look);
      }
    }
  }
  return [...looks.values()];
}

const LOOKS = new WeakMap<Population, Map<string, Look[]>>();

/** Every look that could be asked for in the present state of the job. */
export function candidates(population: Population, bench: Askable): Look[] {
  let byState = LOOKS.get(population);
  if (!byState) {
    byState = new Map();
    LOOKS.set(population, byState);
  }
  const state = `${bench.charged}${bench.carries}${bench.tests.has("drain.current")}${bench.mended.join()}${bench.tools.join()}`;
  const all = byState.get(state) ?? allLooks(population, bench);
  byState.set(state, all);
  return all.filter((look) => !bench.done.has(look.key) && population.knows(look));
}

function allLooks(population: Population, bench: Askable): Look[] {
  const looks: Look[] = [];
  for (const step of weighedSteps(population.sheet)) {
    const { test } = step;
    const { tool } = testOf(test);
    if (isSeldom(test, population.sheet) || (tool && !bench.tools.includes(tool))) continue;
    const before = AFTER[test];
    if (before && !bench.tests.has(before)) continue;
    if (test === "fuse.continuity" && step.at !== population.sheet.fuses[0]?.id) continue;
    // A field is fed in full past its regulator to see what is missing: where nothing is, that only stresses the machine.
    if (test === "field.fullField" && bench.carries) continue;
    const state = { mended: bench.mended };
    looks.push(lookOf(step, { ...state, charged: bench.charged && mindsCharge(test) }));
    if (isOfBattery(test) && !bench.charged && bench.mended.length === 0) looks.push(lookOf(step, { ...state, charged: true }));
    if (isHeated(step, population.sheet)) looks.push(lookOf(step, { ...state, hot: true, charged: bench.charged && test === "charge.volts" }));
  }
  return looks;
}
