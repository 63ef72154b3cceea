import type { Battery } from "../battery/model";
import { type CircuitFamily, circuitFamily } from "./families/family";
import { LOAD_SHARES, middleOf, PAIR_VOLTS, pairOhmsAt, rangesOf } from "./ranges";
import type { Sheet } from "./sheet";

/** The electrical state of one machine: what its circuit is built from, healthy from the sheet, altered by a condition. */
export interface MachineState {
  sheet: Sheet;
  family: CircuitFamily;
  winding: "wye" | "delta";
  windings: Winding[];
  bridges: { from: number; to: number; ohms: number }[];
  /** Engine speed that reaches the magnets, as a share. */
  grip: number;
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
  /** What the starter takes at 10.5 V (12 V systems), and its cable from the battery's post. */
  starter: { crankAmps: number; cableOhms: number };
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
  /** Share of its turns that is shorted. */
  shorted: number;
  /** Where it touches the core: share of its length from the lead, and the resistance of the touch. */
  touch?: { along: number; ohms: number };
}

/** One rectifying way of the unit. */
export type Way = "sound" | "open" | "shorted" | { leakOhms: number };

interface Unit {
  setVolts: number;
  /** Whether its control works, holds every gate on, or never gates. */
  gates: "control" | "on" | "off";
  /** Per leg: between leg and output, and between leg and the unit's negative. */
  upper: Way[];
  lower: Way[];
  innerGroundOhms: number;
  senseOpen: boolean;
  /** The rail behind the case no longer reaches the output pin. */
  outputBroken: boolean;
}

/** What is assumed where a sheet is silent and {@link rangesOf} says nothing. */
const ASSUMED = { polePairs: 9, setVolts: 14.4 } as const;
/** Peak of one phase over the rms between two legs of a wye: √2 / √3·… = 1/1.2247 (IEC 60034 line and phase quantities). */
const PAIR_TO_PEAK = Math.sqrt(1.5);
/** Volts lost at rated output in the sound wires from the unit to the battery and back. */
const SOUND_DROP = { output: 0.18, ground: 0.06, strap: 0.04 } as const;
/** What the running engine itself takes of the normal load. */
const OFF_SHARE = 0.35;
/** A clock and the unit's own leakage. */
const SLEEPING_MILLIAMPS = 0.3;
/** Cranking amps as a share of the rating, or per Ah where no rating is printed. */
const CRANK = { ofRating: 0.38, perAh: 5.5 } as const;
/** Volts that a sound starter cable keeps for itself while cranking, on 12 V. */
const CABLE_DROP = 0.2;
/** Cranking rating of a lead battery for its Ah, A. */
const CCA_PER_AH = 12;
const CABLE_OHMS = 0.004;
const PIN_OHMS = 0.002;

/** Rated output, A: the sheet's, or the middle of what machines of the kind have. */
function ratedAmpsOf({ ratedAmps, kind }: Pick<Sheet, "ratedAmps" | "kind">): number {
  return ratedAmps ?? middleOf(rangesOf(kind).amps);
}

/** Battery, Ah: the sheet's, or the middle of what machines of the kind have. */
function ampHoursOf({ battery, kind }: Pick<Sheet, "battery" | "kind">): number {
  return battery.ah ?? middleOf(rangesOf(kind).ah);
}

/** Amps of a carbon-pile test: half the rated cranking amps, or what goes with the Ah where no rating is printed. */
export function pileAmpsOf(sheet: Pick<Sheet, "battery" | "kind">): number {
  return (sheet.battery.cca ?? CCA_PER_AH * ampHoursOf(sheet)) / 2;
}

/**
 * The healthy machine of a sheet. EMF from the unplugged AC band, copper from the pair ohms, inductance from the rated amps:
 * a permanent-magnet machine into a rectifier tends to Idc = (3/π)·E/(ωL) with speed, so L = (90/π²)·Ke/(p·Imax).
 */
export function healthyState(sheet: Sheet): MachineState {
  const scale = sheet.systemVolts / 12;
  const middle = (test: string, otherwise: number): number => {
    const band = sheet.bands.find((one) => one.test === test && one.low !== undefined && one.high !== undefined);
    return band ? ((band.low as number) + (band.high as number)) / 2 : otherwise;
  };
  const acBand = sheet.bands.find((one) => one.test === "stator.acVolts");
  const pairVoltsPerRpm = middle("stator.acVolts", middleOf(PAIR_VOLTS) * scale) / (acBand?.rpm ?? 5000);
  const amps = ratedAmpsOf(sheet);
  const pairOhms = middle("stator.resistance", pairOhmsAt(amps).middle);
  const delta = sheet.winding === "delta";
  const peak = pairVoltsPerRpm / PAIR_TO_PEAK;
  const henries = ((90 / Math.PI ** 2) * peak) / ((sheet.polePairs ?? ASSUMED.polePairs) * amps);
  const winding: Winding = {
    voltsPerRpm: delta ? peak * Math.sqrt(3) : peak,
    ohms: delta ? 1.5 * pairOhms : pairOhms / 2,
    henries: delta ? 3 * henries : henries,
    open: false,
    shorted: 0,
  };
  const loads = sheet.loadAmps ?? { normal: LOAD_SHARES.normal * amps, all: LOAD_SHARES.all * amps };
  const ah = ampHoursOf(sheet);
  const crankAmps = sheet.battery.cca ? CRANK.ofRating * sheet.battery.cca : CRANK.perAh * ah;
  const wires = (volts: number): number => (volts * scale) / amps;
  const unit: Unit = {
    setVolts: middle("charge.volts", ASSUMED.setVolts * scale) + (sheet.sense !== "battery" ? wires(SOUND_DROP.output + SOUND_DROP.ground) * loads.normal : 0),
    gates: "control",
    upper: sheet.legs.map(() => "sound"),
    lower: sheet.legs.map(() => "sound"),
    innerGroundOhms: 0.001,
    senseOpen: false,
    outputBroken: false,
  };
  return {
    sheet,
    family: circuitFamily(sheet.family),
    winding: delta ? "delta" : "wye",
    windings: sheet.legs.map(() => ({ ...winding })),
    bridges: [],
    grip: 1,
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
    draws: [{ fuse: sheet.fuses[1]?.id ?? sheet.fuses[0]?.id, milliamps: SLEEPING_MILLIAMPS }],
    starter: { crankAmps, cableOhms: (CABLE_DROP * scale) / crankAmps },
    windingC: 20,
    ambientC: 20,
  };
}
