import type { FaultId } from "../faults";
import type { Part } from "../part";

/** What follows from a fault for its repair. */
export interface Repair {
  /** What to do, each a sentence that starts with its verb. */
  repair: readonly string[];
  /** What to look at before money is spent. */
  beforeOrdering: string;
  /** The part that often goes with it, and why. */
  partner?: { part: Part; why: string };
  /** Money and minutes, where it takes less than changing its part. */
  bill?: { money: number; minutes: number };
  /** Ids of cautions that stand beside the repair. */
  cautions: readonly string[];
}

/** The repairs of the faults of some parts. */
export type RepairsOf<P extends Part> = Record<Extract<FaultId, `${P}.${string}`>, Repair>;
