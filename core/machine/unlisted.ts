import { FAMILY_IDS, familyOf } from "./families/registry";
import { KIND_IDS, KINDS, type Kind } from "./kind";
import { rangesOf } from "./ranges";
import type { Sheet } from "./sheet";
import type { Wire } from "./wire";

/** The fuse of a machine nobody knows: of its rating nothing is believed. */
const ASSUMED_FUSE = { id: "main", amps: 30, feeds: "battery and charge line" } as const;

/** What eyes see of a machine without a sheet: the colour of the wires out of the engine, and how the unit is grounded. */
interface Seen {
  legs?: Wire["base"] | undefined;
  unitGround?: Sheet["unitGround"] | undefined;
  /** Which post of the battery is joined to the engine. */
  earth?: Sheet["earth"] | undefined;
  /** What stands in its battery's place. */
  stores?: "capacitor" | undefined;
}

/**
 * The sheet of a machine for which there is none: only family, system volts and perhaps the kind of machine are known.
 * It holds no band, so a school judges every reading, and no figure, so the engine takes all of them as unknown; colours that
 * nobody told are the ones a mechanic would assume, speeds those at which such machines are tested.
 */
export function unlistedSheet(
  family: string,
  systemVolts: 6 | 12,
  kind?: Kind,
  { legs = "yellow", unitGround = "wire", earth = "negative", stores }: Seen = {},
): Sheet {
  const { idleRpm, testRpm } = rangesOf(kind);
  const { terminals, gentleRpm = testRpm } = familyOf(family);
  return {
    id: ["unlisted", family, `${systemVolts}v`, kind].filter(Boolean).join("-"),
    maker: "Unlisted",
    model: `${kind ? `${KINDS[kind]}, ` : ""}${systemVolts} V, without a sheet`,
    ...(kind ? { kind } : {}),
    family,
    systemVolts,
    earth,
    winding: "unknown",
    legs: terminals.map(({ id }) => ({ id, pin: id, wire: { base: legs } })),
    statorConnector: { name: "stator plug", place: "follow the lead out of the engine cover" },
    outputWire: { base: "red" },
    groundWire: { base: "green" },
    unitGround,
    sense: "unknown",
    fuses: [ASSUMED_FUSE],
    battery: { chemistry: stores ?? "flooded" },
    idleRpm,
    testRpm: Math.min(testRpm, gentleRpm),
    bands: [],
  };
}

/** True for a sheet that stands in for a missing one. */
export function isUnlisted(sheet: Pick<Sheet, "id">): boolean {
  return sheet.id.startsWith("unlisted-");
}

/** True where the rating of the machine's fuse is nobody's word. */
export function isFuseAssumed({ id, fuses: [fuse] }: Pick<Sheet, "id" | "fuses">): boolean {
  return isUnlisted({ id }) && fuse?.id === ASSUMED_FUSE.id && fuse.amps === ASSUMED_FUSE.amps;
}

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null && !Array.isArray(value);

/** The speed at which the figures of a page that somebody copied hold: that of its charging volts, or of its AC. */
function printedRpm(bands: unknown): number | undefined {
  const printed = Array.isArray(bands) ? bands.filter(isRecord) : [];
  const rpmOf = (test: string): unknown => printed.find((band) => band.test === test && typeof band.rpm === "number")?.rpm;
  return (rpmOf("charge.volts") ?? rpmOf("stator.acVolts")) as number | undefined;
}

/**
 * Part of a sheet as a whole one: what is not in it is what is assumed of a machine without a sheet, so that one page of a manual
 * serves. What it holds stays as it is, right or wrong, for the sheet's own checks.
 * @param part fields of a sheet, of which none has to be there but the family
 * @returns the part itself where no family that this edition knows is named in it
 */
export function completed(part: unknown): unknown {
  if (!isRecord(part) || !FAMILY_IDS.some((id) => id === part.family)) return part;
  const kind = KIND_IDS.find((id) => id === part.kind);
  const volts = part.systemVolts === 6 ? 6 : 12;
  const assumed = unlistedSheet(String(part.family), volts, kind);
  const testRpm = typeof part.testRpm === "number" ? part.testRpm : (printedRpm(part.bands) ?? assumed.testRpm);
  return {
    ...assumed,
    model: `${kind ? `${KINDS[kind]}, ` : ""}${volts} V, part of a sheet`,
    testRpm,
    idleRpm: Math.min(assumed.idleRpm, testRpm / 2),
    ...part,
    ...(isRecord(part.battery) ? { battery: { ...assumed.battery, ...part.battery } } : {}),
    ...(isRecord(part.statorConnector) ? { statorConnector: { ...assumed.statorConnector, ...part.statorConnector } } : {}),
    ...(Array.isArray(part.legs) ? { legs: part.legs.map((leg) => (isRecord(leg) ? { pin: leg.id, wire: assumed.legs[0]?.wire, ...leg } : leg)) } : {}),
  };
}
