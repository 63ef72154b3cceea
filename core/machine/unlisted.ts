import { familyOf } from "./families/registry";
import { KINDS, type Kind } from "./kind";
import { rangesOf } from "./ranges";
import type { Sheet } from "./sheet";
import type { Wire } from "./wire";

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
    fuses: [{ id: "main", amps: 30, feeds: "battery and charge line" }],
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
