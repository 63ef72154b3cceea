import { interpolate } from "./charge";

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
