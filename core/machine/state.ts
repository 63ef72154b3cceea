import type { Battery } from "../battery/model";
import { type FieldPlan, leadsOf, soundWays } from "./families/family";
import { circuitFamily } from "./families/registry";
import { ampHoursOf, printedMiddle, sleepingMilliamps } from "./printed";
import { LOAD_SHARES, middleOf } from "./ranges";
import type { Sheet } from "./sheet";

/** The electrical state of one machine: what its circuit is built from, healthy from the sheet, altered by a condition. */
export interface MachineState {
  sheet: Sheet;
  /** The family whose circuit it is; a wrong unit makes it another than the sheet's. */
  family: string;
  winding: "wye" | "delta";
  windings: Winding[];
  bridges: { from: number; to: number; ohms: number }[];
  /** Engine speed that reaches the magnets, as a share; and what the belt that turns the generator loses of it under full load, 1 where it is off. */
  grip: number;
  beltSlip: number;
  /** Undefined where magnets excite the windings. */
  field: Field | undefined;
  /** Contact resistance of each pin of the stator plug, and of each wire of the cable behind it, Ω. */
  pinOhms: number[];
  cableOhms: number[];
  unit: Unit;
  outputOhms: number;
  groundOhms: number;
  strapOhms: number;
  postOhms: number;
  fuseOhms: Record<string, number>;
  battery: Battery;
  /** Volts of a charger or jump pack that was left clamped on; undefined where none is. */
  chargerVolts: number | undefined;
  /** What the machine uses, A at 13.5 V for 12 V. */
  loadAmps: { off: number; normal: number; all: number };
  /** Steady draws with the key out: behind which fuse, mA. */
  draws: { fuse: string | undefined; milliamps: number }[];
  /** What the starter takes while it turns the engine, at 10.5 V (12 V systems), and what a sound one takes, A; its cable from the battery's post, Ω. */
  starter: { crankAmps: number; soundAmps: number; cableOhms: number };
  /** Winding temperature, °C. */
  windingC: number;
  ambientC: number;
}

export interface Winding {
  /** EMF peak, V a rpm. */
  voltsPerRpm: number;
  /** Copper at 20 °C, Ω, and inductance, H. */
  ohms: number;
  henries: number;
  open: boolean;
  /** Share of its turns that is shorted, and how closely those are coupled with the rest. */
  shorted?: { share: number; coupling: number };
  /** Where it touches the core: share of its length from the lead, and the resistance of the touch. */
  touch?: { along: number; ohms: number };
}

/** A field winding with its brushes and its feed. */
export interface Field {
  /** Copper of the sound winding at 20 °C, Ω, and of this one. */
  ratedOhms: number;
  ohms: number;
  /** Resistance of brushes and rings, or of the commutator, Ω. */
  contactOhms: number;
  /** Share of its turns that carry its current. */
  turns: number;
  /** Where it touches the engine: share of its length from the regulator's end, and the resistance of the touch. */
  touch?: { along: number; ohms: number };
  /** EMF that is left in the iron, as a share of the full one; negative where it is magnetised the wrong way. */
  residual: number;
  /** Resistance of the wire that feeds it from the key, Ω. */
  feedOhms: number;
}

/** One rectifying way of the unit. */
export type Way = "sound" | "open" | "shorted" | { leakOhms: number };

interface Unit {
  setVolts: number;
  /** Whether its control works, holds every gate on, or never gates. */
  gates: "control" | "on" | "off";
  /** By name: "1>B+" between a wire and the output, "B->1" between the unit's negative and a wire. */
  ways: Record<string, Way>;
  innerGroundOhms: number;
  senseOpen: boolean;
  /** The rail behind the case no longer reaches the output pin. */
  outputBroken: boolean;
}

/** Volts that a unit holds where no sheet says, on 12 V. */
const ASSUMED_SET_VOLTS = 14.25;
/** Volts lost at rated output in the sound wires from the unit to the battery and back. */
const SOUND_DROP = { output: 0.18, ground: 0.06, strap: 0.04 } as const;
/** What the running engine itself takes of the normal load. */
const OFF_SHARE = 0.35;
/** Cranking amps as a share of the rating, or per Ah where no rating is printed. */
const CRANK = { ofRating: 0.38, perAh: 5.5 } as const;
/** Volts that a sound starter cable keeps for itself while cranking, on 12 V. */
const CABLE_DROP = 0.2;
/** Cranking rating of a lead battery for its Ah, A. */
const CCA_PER_AH = 12;
const CABLE_OHMS = 0.004;
const PIN_OHMS = 0.002;

/** Rated cranking amps (SAE J537), or what goes with the Ah where no rating is printed. */
export function crankingRatingOf(sheet: Pick<Sheet, "battery" | "kind">): number {
  return sheet.battery.cca ?? CCA_PER_AH * ampHoursOf(sheet);
}

/** Amps of a carbon-pile test: half the rated cranking amps. */
export function pileAmpsOf(sheet: Pick<Sheet, "battery" | "kind">): number {
  return crankingRatingOf(sheet) / 2;
}

/** A sound field: its ohms as the sheet prints them. */
function fieldOf(sheet: Sheet, amps: number, { test, ohms, contactOhms, residual }: FieldPlan): Field {
  const scale = sheet.systemVolts / 12;
  const copper = printedMiddle(sheet, test, middleOf(ohms) * scale);
  return { ratedOhms: copper, ohms: copper, contactOhms: contactOhms(sheet, amps), turns: 1, residual, feedOhms: FIELD_WIRE_OHMS };
}

const FIELD_WIRE_OHMS = 0.03;

/** The healthy machine of a sheet: what it prints, and the middle of what such machines have where it is silent. */
export function healthyState(sheet: Sheet): MachineState {
  const scale = sheet.systemVolts / 12;
  const family = circuitFamily(sheet.family);
  const amps = sheet.ratedAmps ?? middleOf(family.amps(sheet.kind));
  const loads = sheet.loadAmps ?? { normal: LOAD_SHARES.normal * amps, all: LOAD_SHARES.all * amps };
  const ah = ampHoursOf(sheet);
  const crankAmps = sheet.battery.cca ? CRANK.ofRating * sheet.battery.cca : CRANK.perAh * ah;
  const wires = (volts: number): number => (volts * scale) / amps;
  const unit: Unit = {
    setVolts:
      printedMiddle(sheet, "charge.volts", ASSUMED_SET_VOLTS * scale) +
      (sheet.sense !== "battery" ? wires(SOUND_DROP.output + SOUND_DROP.ground) * loads.normal : 0),
    gates: "control",
    ways: soundWays(family, leadsOf(sheet)),
    innerGroundOhms: 0.001,
    senseOpen: false,
    outputBroken: false,
  };
  return {
    sheet,
    family: family.id,
    winding: sheet.winding === "delta" ? "delta" : "wye",
    windings: family.windings(sheet, amps),
    bridges: [],
    grip: 1,
    beltSlip: 0,
    field: family.field && fieldOf(sheet, amps, family.field),
    pinOhms: sheet.legs.map(() => PIN_OHMS),
    cableOhms: sheet.legs.map(() => CABLE_OHMS),
    unit,
    outputOhms: wires(SOUND_DROP.output),
    groundOhms: wires(SOUND_DROP.ground),
    strapOhms: wires(SOUND_DROP.strap),
    postOhms: 0.0005,
    fuseOhms: Object.fromEntries(sheet.fuses.map((fuse) => [fuse.id, 0.06 / fuse.amps])),
    battery: {
      chemistry: sheet.battery.chemistry,
      ...(sheet.battery.microfarads ? { farads: 1e-6 * sheet.battery.microfarads } : {}),
      systemVolts: sheet.systemVolts,
      ah,
      charge: 0.95,
      celsius: 20,
      resistance: 1,
      capacity: 1,
      shortedCells: 0,
      jointOhms: 0,
    },
    chargerVolts: undefined,
    loadAmps: { off: OFF_SHARE * loads.normal, normal: loads.normal, all: Math.max(loads.normal, loads.all) },
    draws: [{ fuse: sheet.fuses[1]?.id ?? sheet.fuses[0]?.id, milliamps: sleepingMilliamps(sheet) }],
    starter: { crankAmps, soundAmps: crankAmps, cableOhms: (CABLE_DROP * scale) / crankAmps },
    windingC: 20,
    ambientC: 20,
  };
}
