import type { JobFacts } from "../../core/diagnosis/advice";
import { ASSUMED_PRICES } from "../../core/diagnosis/planning/prices";
import { NO_HISTORY } from "../../core/diagnosis/population/hypotheses";
import { ASSUMED_METER } from "../../core/meter/meter";
import type { Reading } from "../../core/procedure/step";
import { USUAL_TOOLS } from "../../core/procedure/tools";

/** A reading as a test writes it down; without an id it is numbered in the order taken. */
type Written = Omit<Reading, "id"> & { id?: string };

/** What the engine is told of a job in a usual shop: these readings, and nothing else that leans. */
export function jobFacts(readings: readonly Written[] = [], over: Partial<JobFacts> = {}): JobFacts {
  return {
    readings: readings.map((reading, i) => ({ id: String(i), ...reading })),
    meter: ASSUMED_METER,
    prices: ASSUMED_PRICES,
    history: NO_HISTORY,
    mended: [],
    skipped: [],
    tools: USUAL_TOOLS,
    restHours: 12,
    ...over,
  };
}
