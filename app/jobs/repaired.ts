import { partNamesOf } from "../../core/machine/families/registry";
import { PARTS, type Part } from "../../core/machine/part";

/** What a repair was done to, as it is called on machines of the family; a cleaned or charged battery is no part. */
export function repairedName(family: string, part: string): string {
  return PARTS.includes(part as Part) ? partNamesOf(family)[part as Part] : "Cleaned or charged, no part";
}
