import { familyOf } from "./families/registry";
import { type FaultId, faultOf } from "./faults";
import type { Part } from "./part";
import type { Sheet } from "./sheet";

/** What customers bring without its machine. */
export const LOOSE = { battery: "Battery", stator: "Stator", regulator: "Regulator/rectifier", generator: "Generator" } as const;

export type Loose = keyof typeof LOOSE;

export const LOOSE_IDS = Object.keys(LOOSE) as [Loose, ...Loose[]];

/** The parts of a machine that a loose one is: a generator comes with what turns in it. */
const PARTS_OF: Record<Loose, readonly Part[]> = {
  battery: ["battery"],
  stator: ["stator"],
  regulator: ["regulator"],
  generator: ["stator", "rotor"],
};

/** Faults that lie between a part and its machine: by itself it has none of them. */
const OF_BOTH: readonly FaultId[] = ["battery.undersized", "stator.wrong-fit", "regulator.wrong-unit", "regulator.other-system"];

/** Whether a loose part can have a fault. */
export function failsLoose(fault: FaultId, loose: Loose): boolean {
  return PARTS_OF[loose].includes(faultOf(fault).part) && !OF_BOTH.includes(fault);
}

/** Why a machine has no such loose part to test; undefined where it has. */
export function looseProblem(loose: Loose, { family, battery }: Pick<Sheet, "family" | "battery">): string | undefined {
  const { title, field, unit } = familyOf(family);
  if (loose === "battery" && battery.chemistry === "capacitor") return "it has none: a capacitor stands in its battery's place";
  if (loose === "stator" && field) return `on a machine of the family “${title}” the whole generator is tested; give generator`;
  if (loose === "generator" && !field) return `a machine of the family “${title}” has magnets in its flywheel; give stator`;
  if (loose === "regulator" && unit?.inLead) return `a machine of the family “${title}” has none: what rectifies is built into a lead of its stator`;
  return undefined;
}
