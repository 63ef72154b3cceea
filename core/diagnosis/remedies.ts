import { type FaultId, faultOf, needsNoPart } from "../machine/faults";
import type { Part } from "../machine/part";

/** A part that is bought or mended, or the charger: a battery that is only flat needs no part. */
export type Remedy = Part | "charge";

/** What mends one fault. */
export function remedyOf(fault: FaultId): Remedy {
  return needsNoPart(fault) ? "charge" : faultOf(fault).part;
}

/** A set of remedies by its name. */
export function remediesOf(set: string): Remedy[] {
  return set === "" ? [] : (set.split("+") as Remedy[]);
}

/** The name of a set of remedies: sorted, joined by "+"; charging is no repair beside another. */
export function setOf(remedies: readonly Remedy[]): string {
  const parts = [...new Set(remedies)].filter((remedy) => remedy !== "charge").sort();
  return parts.length > 0 ? parts.join("+") : remedies.includes("charge") ? "charge" : "";
}

/** True for a set that buys no part: a sound machine, or one whose battery is only flat. */
export function isWhole(set: string): boolean {
  return set === "" || set === "charge";
}
