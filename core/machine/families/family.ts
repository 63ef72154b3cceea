/** What sets a family's unit apart from others of like legs. */
interface UnitTraits {
  /** How it keeps the volts down: it shorts the legs to negative, or it lets go of them. Not known where nobody has a sheet. */
  holds: "shorting" | "letting-go" | undefined;
  /** Which of its halves are switched: of those nobody knows none is drawn. */
  switched: readonly ("upper" | "lower")[];
  /** Its ways are transistors, whose body diodes read lower than plain ones. */
  bodyDiodes: boolean;
  /** How often it is met where nobody knows the unit; a synchronous unit is a shunt unit to all but the diode dial. */
  met: number;
}

interface FamilyLine extends UnitTraits {
  title: string;
  blurb: string;
  legs: number;
}

/** The charging-system families that this edition can work on; a family is a circuit and its tests. */
export const FAMILIES = {
  "three-phase-shunt": {
    title: "Three-phase permanent magnet, shunt regulator/rectifier",
    blurb: "Three equal legs, six diodes, three switches that short the legs to negative above the set point.",
    legs: 3,
    holds: "shorting",
    switched: ["lower"],
    bodyDiodes: false,
    met: 0.7,
  },
  "three-phase-series": {
    title: "Three-phase permanent magnet, series regulator/rectifier",
    blurb: "Three equal legs; the upper half is switched and opens above the set point, so unloaded legs swing high.",
    legs: 3,
    holds: "letting-go",
    switched: ["upper"],
    bodyDiodes: false,
    met: 0.3,
  },
  "three-phase-mosfet": {
    title: "Three-phase permanent magnet, synchronous shunt regulator/rectifier",
    blurb: "Three equal legs, six transistors; their body diodes read lower than plain ones and are judged against each other.",
    legs: 3,
    holds: "shorting",
    switched: ["upper", "lower"],
    bodyDiodes: true,
    met: 0,
  },
  "three-phase": {
    title: "Three-phase permanent magnet, kind of unit not known",
    blurb: "Three equal legs into a unit that nobody has a sheet for: shunt, series or synchronous. The readings tell.",
    legs: 3,
    holds: undefined,
    switched: [],
    bodyDiodes: false,
    met: 0,
  },
} as const satisfies Record<string, FamilyLine>;

export type FamilyId = keyof typeof FAMILIES;

/** A family whose circuit is known. */
export type CircuitFamily = Exclude<FamilyId, "three-phase">;

/** What sets a family's unit apart. */
export const unitTraits = (family: FamilyId): UnitTraits => FAMILIES[family];

/** True for a family whose kind of unit the readings have to tell. */
export const isUnitUnknown = (family: FamilyId): boolean => FAMILIES[family].holds === undefined;

/** The circuit that stands for a family: shunt, the commonest, where the kind of unit is not known. */
export function circuitFamily(family: FamilyId): CircuitFamily {
  return family === "three-phase" ? "three-phase-shunt" : family;
}

/** The kind of unit that is taken for a family's by mistake: it plugs in, and holds the volts the other way. */
export function mistakenFor(family: CircuitFamily): CircuitFamily {
  return FAMILIES[family].holds === "letting-go" ? "three-phase-shunt" : "three-phase-series";
}

/** The kinds of unit that a machine of unknown unit may have, each with how often it is met. */
export const UNITS_MET: readonly (readonly [CircuitFamily, number])[] = (Object.keys(FAMILIES) as FamilyId[]).flatMap((family) =>
  family !== "three-phase" && FAMILIES[family].met > 0 ? [[family, FAMILIES[family].met] as const] : [],
);

/** How a unit's switches stand while it gives all it can, or while it holds everything back. */
export function gatesWhile(family: CircuitFamily, what: "giving" | "holding"): "on" | "off" {
  return (FAMILIES[family].holds === "letting-go") === (what === "giving") ? "on" : "off";
}

export const FAMILY_IDS = Object.keys(FAMILIES) as [FamilyId, ...FamilyId[]];
