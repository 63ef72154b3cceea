import { interpolate, type Storing } from "./charge";

/** Arithmetic a mechanic does at the battery. */

/** Lowest volts at the end of a 15 s load at half the rated cranking amps, against electrolyte °C (the battery trade's common table). */
const LOAD_LIMIT: readonly (readonly [celsius: number, volts: number])[] = [
  [-18, 8.5],
  [-12, 8.7],
  [-7, 8.9],
  [-1, 9.1],
  [4, 9.3],
  [10, 9.4],
  [16, 9.5],
  [21, 9.6],
];

/** Least volts a good battery holds at the end of a load test. @param celsius battery temperature */
export function loadLimit(celsius: number, systemVolts: 6 | 12): number {
  return interpolate(LOAD_LIMIT, celsius) * (systemVolts / 12);
}

/** Share of the capacity that can be lost before a machine no longer starts. */
const STARTABLE = 0.6;

/**
 * Days until a drain leaves too little to start.
 * @param milliamps steady drain
 * @param ah rated capacity
 * @param charge state of charge at the start, 0 to 1
 */
export function daysUntilFlat(milliamps: number, ah: number, charge = 1): number {
  return milliamps <= 0 ? Number.POSITIVE_INFINITY : Math.max(0, (ah * (charge - (1 - STARTABLE)) * 1000) / milliamps / 24);
}

/** Charge that one start takes, Ah: cranking amps for some seconds. */
export function startCost(crankAmps: number, seconds: number): number {
  return (crankAmps * seconds) / 3600;
}

/** Minutes of riding that put a start back, with so many amps to spare; Infinity when there are none. Charging returns about 85 % of what is put in. */
export function minutesToRepay(startAh: number, spareAmps: number): number {
  return spareAmps <= 0 ? Number.POSITIVE_INFINITY : (startAh / (0.85 * spareAmps)) * 60;
}

/** Hours for which a load can stay on until the machine no longer starts, and until the battery is flat. @param charge 0 to 1 at the start */
export function hoursOfLoad(amps: number, ah: number, charge = 1): { toNoStart: number; toFlat: number } {
  if (amps <= 0) return { toNoStart: Number.POSITIVE_INFINITY, toFlat: Number.POSITIVE_INFINITY };
  return { toNoStart: Math.max(0, (ah * (charge - (1 - STARTABLE))) / amps), toFlat: (ah * charge) / amps };
}

/**
 * What chargers a battery bears, for 12 V: amps as shares of its Ah — the slow rate of its label, and the fast one for an hour at most —
 * and the volts at which charging has to end. Common figures of battery labels; the label and a lithium pack's maker go first.
 */
export const CHARGER: Record<Storing, { slow: number; fast: number; volts: number; efficiency: number; tail: number }> = {
  flooded: { slow: 0.1, fast: 0.4, volts: 14.8, efficiency: 0.85, tail: 2 },
  agm: { slow: 0.1, fast: 0.4, volts: 14.7, efficiency: 0.9, tail: 1.5 },
  gel: { slow: 0.1, fast: 0.2, volts: 14.4, efficiency: 0.9, tail: 2 },
  "lithium-iron": { slow: 0.5, fast: 1, volts: 14.4, efficiency: 0.98, tail: 0.2 },
};

/** Charge from which a lead battery takes less and less, whatever the charger could give. */
const TAPERS_FROM = 0.8;

/**
 * Hours on a charger until the battery is full: what is missing over what arrives, and the tail in which it takes ever less.
 * @param charge state of charge at the start, 0 to 1
 */
export function hoursToCharge(chemistry: Storing, ah: number, charge: number, amps: number): number {
  const { efficiency, tail } = CHARGER[chemistry];
  if (amps <= 0) return Number.POSITIVE_INFINITY;
  const missing = Math.max(0, 1 - charge);
  return (missing * ah) / (amps * efficiency) + tail * Math.min(1, missing / (1 - TAPERS_FROM));
}
