import { familyOf } from "./families/registry";
import { type FaultId, faultOf } from "./faults";
import type { Sheet } from "./sheet";

/** Machines that are kicked into life and run without a battery: a capacitor smooths what the unit gives, and keeps none of it. */

export const hasCapacitor = ({ battery }: Pick<Sheet, "battery">): boolean => battery.chemistry === "capacitor";

/** Of a family that cannot run without a battery: why; undefined where it can. */
export function capacitorProblem(family: string): string | undefined {
  const { title, field, unit } = familyOf(family);
  if (field) return `a machine of the family “${title}” needs a battery: its field is fed by one`;
  if (unit?.inLead) return `a machine of the family “${title}” needs a battery: nothing else holds its volts`;
  return undefined;
}

/** Faults that a machine with a capacitor in its battery's place cannot have: of batteries, starters, and of what drains at rest. */
export function failsWithCapacitor(fault: FaultId): boolean {
  if (fault === "battery.capacitor-dry") return true;
  return !["battery", "starter"].includes(faultOf(fault).part) && !OF_BATTERIES.includes(fault);
}

const OF_BATTERIES: readonly FaultId[] = ["loads.parasitic", "regulator.diode-leaky"];
