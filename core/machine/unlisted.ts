import type { FamilyId } from "./family";
import type { Sheet } from "./sheet";

/**
 * The sheet of a machine for which there is none: only family and system volts are known.
 * It holds no band, so a school judges every reading; colours and rpm are the ones a mechanic would assume.
 */
export function unlistedSheet(family: FamilyId, systemVolts: 6 | 12): Sheet {
  return {
    id: `unlisted-${family}-${systemVolts}v`,
    maker: "Unlisted",
    model: `${systemVolts} V machine without a sheet`,
    kind: "motorcycle",
    family,
    systemVolts,
    earth: "negative",
    winding: "unknown",
    legs: ["1", "2", "3"].map((id) => ({ id, pin: id, wire: { base: "yellow" } })),
    statorConnector: { name: "stator plug", place: "follow the lead out of the engine cover" },
    outputWire: { base: "red" },
    groundWire: { base: "green" },
    unitGround: "wire",
    sense: "output",
    fuses: [{ id: "main", amps: 30, feeds: "battery and charge line" }],
    battery: { chemistry: "flooded", ah: 12 },
    idleRpm: 1200,
    testRpm: 5000,
    bands: [],
  };
}

/** True for a sheet that stands in for a missing one. */
export function isUnlisted(sheet: Pick<Sheet, "id">): boolean {
  return sheet.id.startsWith("unlisted-");
}
