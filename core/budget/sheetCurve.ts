import type { Sheet } from "../machine/sheet";
import { healthyState } from "../machine/state";
import { curveSpeeds, type OutputPoint, outputCurve } from "./output";

/** Points of the curve on a sheet's page. */
const POINTS = 9;
/** Windings of a warm machine, °C. */
const WARM_C = 80;

/** What a sheet's machine gives over its speeds, sound and warm: some tens of milliseconds of circuit. */
export function sheetCurve(sheet: Sheet): OutputPoint[] {
  const state = { ...healthyState(sheet), windingC: WARM_C };
  return outputCurve(state, curveSpeeds(state, POINTS));
}
