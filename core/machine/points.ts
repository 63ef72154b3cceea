import { hasCapacitor } from "./capacitor";
import { familyOf, isMirrored } from "./families/registry";
import type { Sheet } from "./sheet";

/**
 * Probe points: the places on a machine where a probe can go. A leg's points end in its name.
 * The same names serve the loom's eyelets, the probe card's wording and the circuit's nodes.
 */
export type Point =
  | `leg:${string}` // pin of the stator connector, part side
  | `harness:${string}` // pin of the stator connector, harness side
  | `cable:${string}` // the cable's far end, harness side of the unit's own plug
  | `unitLeg:${string}` // the unit's own pin
  | `fuse:${string}:${"in" | "out"}`
  | "B+" // the unit's own output pin
  | "feed" // harness side of the unit's output pin
  | "B-" // the unit's own ground pin or case
  | "exciter" // where the field is fed from the key
  | "engine" // clean bare metal of the engine
  | "battery+" // the cable's lug on the plus post
  | "post+" // the plus post's own lead, behind that lug
  | "battery-"
  | "cable-" // negative cable, off the post (ammeter tests)
  | "starter+";

/** Says where a point is, in the words of the probe card. */
export function pointName(point: Point, sheet: Pick<Sheet, "family" | "legs" | "unitGround" | "earth" | "loose" | "battery">): string {
  const [kind, id = "", end] = point.split(":");
  // Points carry the names of a negative-earth machine.
  const [live, earthed] = isMirrored(sheet) ? ["minus", "plus"] : ["plus", "minus"];
  const stored = hasCapacitor(sheet) ? "capacitor" : "battery";
  const leg = sheet.legs.find((leg) => leg.id === id);
  const pin = leg && leg.pin !== leg.id ? `pin ${leg.pin} (leg ${leg.id})` : `pin ${id}`;
  switch (kind) {
    case "leg": {
      // Legs are alike and need no more than their number; a wire of its own name is told by what it is.
      const { ownNames, terminals } = familyOf(sheet.family);
      const role = ownNames ? undefined : terminals.find((terminal) => terminal.id === id)?.role;
      return role ? `${pin} (${role})` : pin;
    }
    case "harness":
      return `${pin}, harness side`;
    case "cable":
      return `${pin}, cable end at the unit`;
    case "unitLeg":
      return `${pin} at the unit`;
    case "fuse":
      return `fuse ${id}, ${end === "in" ? "battery" : "far"} side`;
    case "B+":
      return "the unit's output pin";
    case "feed":
      return "the output plug, harness side";
    case "B-":
      return sheet.unitGround === "case" ? "the unit's bare case" : "the unit's ground pin";
    case "exciter":
      return "the field's feed wire";
    case "engine":
      return sheet.loose ? "bare metal of its core or housing" : "a clean engine bolt";
    case "battery+":
      return `${stored} ${live} terminal`;
    case "post+":
      return `the ${live} post's own lead`;
    case "battery-":
      return `${stored} ${earthed} terminal`;
    case "cable-":
      return `the loose ${earthed === "plus" ? "positive" : "negative"} cable`;
    default:
      return "the starter's post";
  }
}

/** Every point of a machine, in the order in which they lie along the loom. */
export function pointsAlong(sheet: Pick<Sheet, "family" | "legs" | "fuses" | "battery">): Point[] {
  const each = (kind: "leg" | "harness" | "cable" | "unitLeg") => sheet.legs.map((leg): Point => `${kind}:${leg.id}`);
  const fuses = sheet.fuses.flatMap((fuse): Point[] => [`fuse:${fuse.id}:out`, `fuse:${fuse.id}:in`]);
  return [
    "engine",
    ...each("leg"),
    ...each("harness"),
    ...each("cable"),
    ...each("unitLeg"),
    // What rectifies in its lead has no ground of its own.
    ...(familyOf(sheet.family).unit?.inLead ? [] : (["B-"] as const)),
    ...(familyOf(sheet.family).field?.fed === "key" ? (["exciter"] as const) : []),
    "B+",
    "feed",
    ...fuses,
    "battery+",
    "post+",
    "battery-",
    "cable-",
    // What runs on a capacitor is kicked into life.
    ...(hasCapacitor(sheet) ? [] : (["starter+"] as const)),
  ];
}
