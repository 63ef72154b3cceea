import { PART_NAMES, type Part } from "../part";
import type { Sheet } from "../sheet";
import { FAMILIES } from "./all";
import { type Family, leadsOf, type UnitPlan } from "./family";

export const FAMILY_IDS = FAMILIES.map(({ id }) => id) as [string, ...string[]];

const BY_ID = new Map(FAMILIES.map((family) => [family.id, family]));

/** The family of that id. @throws for an id that is not in the registry (the edges check) */
export function familyOf(id: string): Family {
  const family = BY_ID.get(id);
  if (!family) throw new Error(`no family ${id}`);
  return family;
}

/** The family whose circuit stands for one: the commonest of those it may be, itself where it is known. */
export function circuitFamily(id: string): Family {
  const family = familyOf(id);
  return family.mayBe[0]?.[0] ?? family;
}

/** What the unit of a family is made of; of the commonest one where nobody knows. */
export function unitOf(id: string): UnitPlan {
  return circuitFamily(id).unit as UnitPlan;
}

/** The family whose unit is taken for another's by mistake: it plugs in, and holds the volts the other way; undefined where none does. */
export function mistakenFor(id: string): Family | undefined {
  const { terminals, unit } = familyOf(id);
  return FAMILIES.find((other) => other.unit && sameWires(other.terminals, terminals) && unit && other.unit.holds !== unit.holds);
}

/** True for wires of the same names in the same order. */
export const sameWires = (these: Family["terminals"], other: Family["terminals"]): boolean =>
  these.map(({ id }) => id).join() === other.map(({ id }) => id).join();

/** Whether a belt turns the generator: as the sheet says, and else as such machines have it. */
export function isBelted({ family, drive }: Pick<Sheet, "family" | "drive">): boolean {
  return drive ? drive === "belt" : familyOf(family).belt === true;
}

/**
 * Whether a positive-earth machine is a negative-earth one with every pole turned round: its generator has an end on the engine, so
 * that the battery's minus post is the live one. Where no winding is earthed only the battery's cables are changed over.
 */
export function isMirrored({ family, earth, legs }: Pick<Sheet, "family" | "earth" | "legs">): boolean {
  const { floating, field } = familyOf(family);
  return earth === "positive" && (field !== undefined || floating(leadsOf({ legs })).length < legs.length);
}

/** What says how a machine's parts are called: its family, and what stands in its battery's place. */
export type Named = { family: string; battery?: { chemistry: string } };

/** What the parts of a machine are called. */
export function partNamesOf({ family, battery }: Named): Record<Part | "none", string> {
  return { ...PART_NAMES, ...familyOf(family).partNames, ...(battery?.chemistry === "capacitor" ? { battery: "Capacitor" } : {}) };
}
