import type { Chemistry } from "../battery/charge";
import type { FamilyBand } from "../machine/families/family";
import type { GroupId, TestId } from "./catalogue";
import { parseSchoolName, withRows } from "./schoolRows";

/**
 * A school: what one tradition of the trade does where the sheet is silent — its limits, its order, how long it
 * rests a battery. The sheet always wins. Figures are for a 12 V system and are scaled for 6 V by cell count.
 */
export interface School {
  id: string;
  title: string;
  saying: string;
  restHours: number;
  /** Judge charging volts by fixed limits, or by the rise over this machine's own rest volts. */
  chargingBy: "limits" | "rise";
  /** Which stator test comes first: quick cold ohms, or AC under way. */
  statorFirst: "ohms" | "ac";
  /** Without a ceiling, charging volts are too high only if they keep climbing with the speed. */
  ceiling: "limit" | "climbing";
  /** AC volts of the windings against their band, or by the legs being alike: then what is low and equal is only noted. */
  acBy: "band" | "balance";
  /** Whether only what failed is renewed, or stator and regulator as a set. */
  partner: "only" | "set";
  /** Speed at which machines without a sheet are tested, where the school has one for all kinds. */
  testRpm?: number;
  order: readonly GroupId[];
  /** Largest difference between pairs, as a fraction of their mean. */
  imbalance: { ohms: number; ac: number };
  bands: readonly SchoolBand[];
}

/** A rule, in the school's own short words. */
export interface SchoolBand extends FamilyBand {
  test: TestId;
  chemistry?: readonly Chemistry[];
}

/** Limits on which the schools agree; each school's own come before them. */
export const COMMON_BANDS: readonly SchoolBand[] = [
  { test: "battery.rest", chemistry: ["lithium-iron"], low: 13.2, high: 13.8, says: "lithium iron rests at 13.2 and up" },
  { test: "battery.settled", chemistry: ["lithium-iron"], low: 12.9, says: "lithium iron settles above 12.9" },
  { test: "battery.settled", low: 11.8, says: "settles at 11.8 or more" },
  { test: "battery.load", low: 9.6, says: "9.6 V after 15 s at 21 °C" },
  { test: "battery.conductance", low: 70, says: "70 % of rated cranking amps" },
  { test: "battery.postDrop", high: 0.2, says: "a fifth of a volt between post and lug" },
  { test: "battery.firstPull", low: 8.5, says: "8.5 V held as the starter’s contact closes" },
  { test: "battery.recovery", low: 12.2, says: "back above 12.2" },
  { test: "starter.cableDrop", high: 0.5, says: "half a volt in the starter cable" },
  { test: "charge.ripple", high: 0.5, says: "half a volt of ripple" },
  { test: "charge.current", low: 0, says: "current flows in, not out" },
  { test: "charge.positiveDrop", high: 0.3, says: "0.3 V on the way out" },
  { test: "charge.groundDrop", high: 0.2, says: "0.2 V on the way home" },
  { test: "stator.resistance", low: 0.1, high: 1.2, says: "0.1–1.2 Ω, equal pairs" },
  { test: "stator.acVolts", low: 35, rpm: 5000, says: "7 V each 1,000 rpm, equal pairs" },
  { test: "stator.acVoltsAtUnit", low: 35, rpm: 5000, says: "7 V each 1,000 rpm, equal pairs" },
  { test: "stator.legDrop", high: 0.5, says: "half a volt in plug and cable" },
  { test: "regulator.ground", high: 0.3, says: "0.3 Ω to the battery's earthed post" },
  { test: "regulator.feed", low: 11.5, says: "battery volts, near enough" },
  { test: "fuse.continuity", high: 0.3, says: "a whole fuse reads like the leads" },
];

export const SCHOOLS: readonly School[] = [
  {
    id: "harbour",
    title: "Harbour",
    saying: "Tight limits, a night's rest, nothing left to chance before the boat goes out.",
    restHours: 12,
    chargingBy: "limits",
    statorFirst: "ohms",
    ceiling: "limit",
    acBy: "band",
    partner: "only",
    order: ["walk", "battery", "charge", "stator", "regulator", "wiring", "drain"],
    imbalance: { ohms: 0.08, ac: 0.07 },
    bands: [
      { test: "battery.rest", chemistry: ["agm", "gel"], low: 12.75, high: 13.3, says: "12.75 V rest for sealed" },
      { test: "battery.rest", chemistry: ["flooded"], low: 12.6, high: 13.1, says: "12.6 V rest" },
      { test: "battery.crank", chemistry: ["agm", "gel", "lithium-iron"], low: 10.5, says: "10.5 V crank for sealed" },
      { test: "battery.crank", low: 10, says: "10 V crank" },
      { test: "charge.volts", low: 14, high: 14.8, says: "14.0 to 14.8 V" },
      { test: "charge.outputVolts", low: 14, high: 15, says: "14.0 to 15.0 V at the unit" },
      { test: "regulator.diode", low: 0.4, high: 0.6, says: "0.4 to 0.6 V, open back" },
      { test: "drain.current", high: 1, says: "1 mA" },
      { test: "drain.unitUnplugged", high: 1, says: "1 mA" },
      { test: "drain.fusePulled", high: 1, says: "1 mA" },
    ],
  },
  {
    id: "patrol",
    title: "Patrol",
    saying: "Middle limits, two hours' rest, AC under way first: a winding proves itself turning.",
    restHours: 2,
    chargingBy: "limits",
    statorFirst: "ac",
    ceiling: "limit",
    acBy: "band",
    partner: "only",
    order: ["walk", "battery", "charge", "stator", "regulator", "wiring", "drain"],
    imbalance: { ohms: 0.12, ac: 0.1 },
    bands: [
      { test: "battery.rest", chemistry: ["agm", "gel"], low: 12.6, high: 13.3, says: "12.6 V rest for sealed" },
      { test: "battery.rest", chemistry: ["flooded"], low: 12.5, high: 13.1, says: "12.5 V rest" },
      { test: "battery.crank", low: 9.6, says: "9.6 V crank" },
      { test: "charge.volts", low: 13.5, high: 15, says: "13.5 to 15.0 V" },
      { test: "charge.outputVolts", low: 13.5, high: 15.2, says: "13.5 to 15.2 V at the unit" },
      { test: "regulator.diode", low: 0.35, high: 0.7, says: "0.35 to 0.7 V, open back" },
      { test: "drain.current", high: 5, says: "5 mA" },
      { test: "drain.unitUnplugged", high: 5, says: "5 mA" },
      { test: "drain.fusePulled", high: 5, says: "5 mA" },
    ],
  },
  {
    id: "parade",
    title: "Parade",
    saying: "Judge the machine against itself: what matters is the rise over its own rest volts.",
    restHours: 0.5,
    chargingBy: "rise",
    statorFirst: "ohms",
    ceiling: "limit",
    acBy: "band",
    partner: "only",
    order: ["walk", "battery", "charge", "regulator", "stator", "wiring", "drain"],
    imbalance: { ohms: 0.15, ac: 0.15 },
    bands: [
      { test: "battery.rest", chemistry: ["agm", "gel"], low: 12.5, high: 13.4, says: "12.5 V rest for sealed" },
      { test: "battery.rest", chemistry: ["flooded"], low: 12.4, high: 13.2, says: "12.4 V rest" },
      { test: "battery.crank", low: 9, says: "9.0 V crank" },
      { test: "charge.volts", low: 13, high: 15.5, says: "any rise, 15.5 V at most" },
      { test: "charge.outputVolts", low: 13, high: 15.7, says: "any rise, 15.7 V at the unit" },
      { test: "regulator.diode", low: 0.2, high: 0.8, says: "0.2 to 0.8 V, open back" },
      { test: "drain.current", high: 25, says: "25 mA with clock and alarm" },
      { test: "drain.unitUnplugged", high: 25, says: "25 mA with clock and alarm" },
      { test: "drain.fusePulled", high: 25, says: "25 mA with clock and alarm" },
    ],
  },
];

/** The school of that name, with a shop's own rows behind it; the first one where the name is unknown. */
export function schoolOf(name: string): School {
  const { preset, choices } = parseSchoolName(name);
  return withRows(SCHOOLS.find((school) => school.id === preset) ?? (SCHOOLS[0] as School), choices);
}

/** Rise over rest that the `rise` way of judging asks for, in volts on a 12 V system: running fast, and what must be left of it with everything on. */
export const RISE = { low: 1, loaded: 0.5, high: 2.5 } as const;
