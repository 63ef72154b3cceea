import { type JobFacts, NOTHING_READ } from "../../core/diagnosis/advice";
import type { Reading } from "../../core/procedure/step";

/** A reading as a test writes it down; without an id it is numbered in the order taken. */
type Written = Omit<Reading, "id"> & { id?: string };

/** What the engine is told of a job in a usual shop: these readings, and nothing else that leans. */
export function jobFacts(readings: readonly Written[] = [], over: Partial<JobFacts> = {}): JobFacts {
  return { ...NOTHING_READ, readings: readings.map((reading, i) => ({ id: String(i), ...reading })), ...over };
}
