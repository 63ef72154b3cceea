import { type Battery, cellOf } from "../battery/model";
import type { Cell } from "../circuit/cell";
import { forwardVolts, type Junction, junctionOf } from "../circuit/junction";
import type { Sheet } from "./sheet";

/** What a second battery on the same generator makes of the way to the first. */

const ASSUMED_AMPS = 25;

/** The diode on the way to this battery: some 0.7 V at 10 A, as power diodes of isolators lose. */
export function isolatorJunction({ ratedAmps }: Pick<Sheet, "ratedAmps">): Junction {
  return junctionOf(0.38, 0.03, 0.004, ratedAmps ?? ASSUMED_AMPS);
}

/** Volts that the isolator keeps of what flows to the battery; none where there is no diode, or nothing flows. */
export function isolatorVolts(sheet: Pick<Sheet, "ratedAmps" | "isolator">, amps: number): number {
  return sheet.isolator === "diode" && amps > 0 ? forwardVolts(isolatorJunction(sheet), amps) : 0;
}

/** Volts of a 12 V system below which a combiner lets go of the second battery, as common relays do. */
const LETS_GO = 12.8;
/** The second battery's charge: what a night aboard leaves of it. */
const LEFT = 0.8;
/** What little the released relay passes back, Ω. */
const RELEASED_OHMS = 1e5;

/**
 * The second battery behind a combiner as the circuit sees it: like the first, in good order, part drained, and there only above the
 * volts at which the relay lets go. Undefined where there is no combiner.
 */
export function combinedCell({ isolator }: Pick<Sheet, "isolator">, first: Battery): Cell | undefined {
  if (isolator !== "combiner") return undefined;
  const cell = cellOf({ ...first, charge: LEFT, resistance: 1, capacity: 1, shortedCells: 0, jointOhms: 0 });
  return { ...cell, openVolts: Math.max(cell.openVolts, LETS_GO * (first.systemVolts / 12)), polarOhms: RELEASED_OHMS };
}
