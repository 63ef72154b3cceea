import { minutesToRepay, startCost } from "../battery/figures";
import { ampsAt, type OutputPoint } from "./output";

/** What a ride does to the battery: the start takes, the running engine gives back. */
interface Hop {
  /** Ah the start took, Ah put back, and the balance. */
  takenAh: number;
  backAh: number;
  /** Amps to spare at that speed (negative: the battery pays). */
  spareAmps: number;
  /** Minutes at that speed that repay the start; Infinity when it never does. */
  repayMinutes: number;
}

/** Charge a lead battery keeps of what is put in. */
const KEPT = 0.85;
/** Most amps a battery takes for long as a share of its Ah. */
const MOST_ACCEPTED = 0.3;

/**
 * The charge budget of a short ride.
 * @param minutes at a mean engine speed of `rpm`
 * @param ride crank amps and seconds of the start, loads in A, battery size in Ah
 */
export function hopOf(
  curve: readonly OutputPoint[],
  minutes: number,
  rpm: number,
  ride: { crankAmps: number; crankSeconds: number; loadAmps: number; ah: number },
): Hop {
  const takenAh = startCost(ride.crankAmps, ride.crankSeconds);
  const spareAmps = ampsAt(curve, rpm) - ride.loadAmps;
  const into = Math.min(spareAmps, MOST_ACCEPTED * ride.ah);
  return {
    takenAh,
    backAh: (into > 0 ? into * KEPT : into) * (minutes / 60),
    spareAmps,
    repayMinutes: minutesToRepay(takenAh, into),
  };
}
