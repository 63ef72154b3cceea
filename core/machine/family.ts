/** The charging-system families that this edition can work on; a family is a circuit and its tests. */
export const FAMILIES = {
  "three-phase-shunt": {
    title: "Three-phase permanent magnet, shunt regulator/rectifier",
    blurb: "Three equal legs, six diodes, three switches that short the legs to negative above the set point.",
    legs: 3,
  },
  "three-phase-series": {
    title: "Three-phase permanent magnet, series regulator/rectifier",
    blurb: "Three equal legs; the upper half is switched and opens above the set point, so unloaded legs swing high.",
    legs: 3,
  },
  "three-phase-mosfet": {
    title: "Three-phase permanent magnet, synchronous shunt regulator/rectifier",
    blurb: "Three equal legs, six transistors; their body diodes read lower than plain ones and are judged against each other.",
    legs: 3,
  },
  "three-phase": {
    title: "Three-phase permanent magnet, kind of unit not known",
    blurb: "Three equal legs into a unit that nobody has a sheet for: shunt, series or synchronous. The readings tell.",
    legs: 3,
  },
} as const;

export type FamilyId = keyof typeof FAMILIES;

/** A family whose circuit is known. */
export type CircuitFamily = Exclude<FamilyId, "three-phase">;

/** The circuit that stands for a family: shunt, the commonest, where the kind of unit is not known. */
export function circuitFamily(family: FamilyId): CircuitFamily {
  return family === "three-phase" ? "three-phase-shunt" : family;
}

export const FAMILY_IDS = Object.keys(FAMILIES) as [FamilyId, ...FamilyId[]];
