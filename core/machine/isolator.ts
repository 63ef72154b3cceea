import { forwardVolts, type Junction, junctionOf } from "../circuit/junction";
import type { Sheet } from "./sheet";

/** A diode isolator, which charges two batteries from one generator and keeps them apart: each has a diode of its own on the way. */

const ASSUMED_AMPS = 25;

/** The diode on the way to this battery: some 0.7 V at 10 A, as power diodes of isolators lose. */
export function isolatorJunction({ ratedAmps }: Pick<Sheet, "ratedAmps">): Junction {
  return junctionOf(0.38, 0.03, 0.004, ratedAmps ?? ASSUMED_AMPS);
}

/** Volts that the isolator keeps of what flows to the battery; none where there is no isolator, or nothing flows. */
export function isolatorVolts(sheet: Pick<Sheet, "ratedAmps" | "isolator">, amps: number): number {
  return sheet.isolator === "diode" && amps > 0 ? forwardVolts(isolatorJunction(sheet), amps) : 0;
}
