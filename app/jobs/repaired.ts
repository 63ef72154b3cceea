import { type Named, partNamesOf } from "../../core/machine/families/registry";
import { PARTS, type Part } from "../../core/machine/part";

/** What a repair was done to, as it is called on the machine; a cleaned or charged battery is no part. */
export function repairedName(machine: Named, part: string): string {
  return PARTS.includes(part as Part) ? partNamesOf(machine)[part as Part] : "Cleaned or charged, no part";
}
