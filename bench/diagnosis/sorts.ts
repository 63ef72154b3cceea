import { KINDS, type Kind, PAIRS, type Sort } from "./kinds";

/** What fails on machines that are not three-phase on magnets: the same causes where they have the part, and those of their own. */

const without = (...names: string[]): Kind[] => KINDS.filter(({ name }) => !names.includes(name));
const among = (kinds: readonly Kind[]): Sort["pairs"] => {
  const names = new Set(kinds.map(({ name }) => name));
  return PAIRS.filter(([a, b]) => names.has(a) && names.has(b));
};
const sort = (legs: number, kinds: readonly Kind[], pairs: Sort["pairs"] = []): Sort => ({ legs, kinds, pairs: [...among(kinds), ...pairs] });

/** A named one of the common causes with another part or weight. */
const as = (name: string, other: Partial<Kind>): Kind => ({ ...(KINDS.find((kind) => kind.name === name) as Kind), ...other });

const LEAD_DIODE: Kind[] = [
  { name: "lead diode open", part: "stator", weight: 8, fill: "low", set: (f) => f.upper.splice(0, 1, "open") },
  { name: "lead diode shorted", part: "stator", weight: 4, fill: "low", set: (f) => Object.assign(f, { upper: ["short", "good"], fuseBlown: true }) },
];
/** Worn or dirty ones add ohms; one that is stuck in its holder touches nothing. */
const BRUSHES: Kind = {
  name: "brushes",
  part: "rotor",
  weight: 8,
  fill: "low",
  set: (f, c) => Object.assign(f, { brush: c.yes(0.2) ? 1e9 : c.decades(4, 400) }),
};
const field = (part: Kind["part"]): Kind[] => [
  { name: "field open", part, weight: 6, fill: "low", set: (f) => Object.assign(f, { fieldOpen: true }) },
  { name: "field shorted", part, weight: 1.5, fill: "mixed", set: (f, c) => Object.assign(f, { fieldTurns: c.between(0.2, 0.6) }) },
  { name: "field touches", part, weight: 2, fill: "full", set: (f, c) => Object.assign(f, { fieldTouch: [c.between(0.02, 0.6), c.decades(0.05, 8)] }) },
];
const BELT: Kind[] = [
  { name: "belt slack", part: "drive", weight: 6, fill: "low", set: (f, c) => Object.assign(f, { belt: c.between(0.35, 0.8) }) },
  { name: "belt off", part: "drive", weight: 2, fill: "low", set: (f) => Object.assign(f, { belt: 1 }) },
];

/**
 * Unit and windings of grounded coils: nothing that touches the case is a fault there, what they give comes home through the engine and
 * not by the unit's ground, and the one way through the unit is the first coil's, upward.
 */
const GROUNDED = without("touches case", "burnt", "bridged", "half dead", "leg of unit dead", "two diodes open", "inner ground", "ground wire").map(
  (kind): Kind => {
    if (kind.name === "diode open") return { ...kind, set: (f) => f.upper.splice(0, 1, "open") };
    // From the battery through the coil to ground, engine running or not: no fuse of such a machine carries that.
    if (kind.name === "diode shorted") return { ...kind, set: (f) => Object.assign(f, { upper: ["short", "good"], fuseBlown: true }) };
    return kind.name === "leaks" ? { ...kind, set: (f, c) => Object.assign(f, { leak: [0, c.decades(20, 1200)] }) } : kind;
  },
);
const UNIT_LESS = GROUNDED.filter(({ part }) => part !== "regulator");
/** Five wires, of which three are phases: what sits in a phase is drawn on one of those. */
const ALTERNATOR = without("weak magnets", "wrong stator").map(
  (kind): Kind => (kind.name === "pin burnt" || kind.name === "cable broken" ? kind : { ...kind, set: (f, c, leg) => kind.set(f, c, leg % 3) }),
);
const GENERATOR = without(
  "weak magnets",
  "winding open",
  "turns shorted",
  "touches case",
  "burnt",
  "bridged",
  "opens hot",
  "wrong stator",
  "diode open",
  "diode shorted",
  "half dead",
  "leg of unit dead",
  "two diodes open",
  "leaks",
  "ground wire",
  "pin burnt",
);

export const SORTS: Record<string, Sort> = {
  "single-phase-two-wire": sort(2, without("bridged", "two diodes open")),
  "single-phase-common": sort(3, without("bridged", "two diodes open")),
  "ground-referenced-pair": sort(2, GROUNDED),
  "dual-output-unregulated": sort(2, [...UNIT_LESS, ...LEAD_DIODE]),
  "multi-winding": sort(4, without("two diodes open")),
  "field-excited": sort(5, [
    ...ALTERNATOR,
    ...field("rotor"),
    BRUSHES,
    ...BELT,
    { name: "field feed", part: "wiring", weight: 5, fill: "low", set: (f, c) => Object.assign(f, { fieldFeed: c.yes(0.6) ? 1e8 : c.decades(3, 300) }) },
  ]),
  "dc-generator": sort(2, [
    ...GENERATOR,
    ...field("stator"),
    as("pin burnt", { weight: 5 }),
    BRUSHES,
    { name: "armature", part: "rotor", weight: 4, fill: "low", set: (f, c) => Object.assign(f, { armature: c.between(0.25, 0.7) }) },
    { name: "backwards", part: "stator", weight: 4, fill: "low", set: (f) => Object.assign(f, { backwards: true }) },
    { name: "cut-out open", part: "regulator", weight: 4, fill: "low", set: (f) => Object.assign(f, { cutout: "open" }) },
    { name: "cut-out welded", part: "regulator", weight: 2, fill: "low", set: (f) => Object.assign(f, { cutout: "short" }) },
  ]),
};
