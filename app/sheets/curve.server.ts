import { curveSpeeds, type OutputPoint, outputCurve } from "../../core/budget/output";
import type { Sheet } from "../../core/machine/sheet";
import { healthyState } from "../../core/machine/state";

/** Points of the curve on a sheet's page. */
const POINTS = 9;
/** Windings of a warm machine, °C. */
const WARM_C = 80;
const MOST_KEPT = 200;

const kept = new Map<string, OutputPoint[]>();

/** A sheet's output curve; worked out once a version of the sheet, some tens of milliseconds. */
export function curveOf(sheet: Sheet): OutputPoint[] {
  const key = JSON.stringify(sheet);
  const known = kept.get(key);
  if (known) return known;
  const state = { ...healthyState(sheet), windingC: WARM_C };
  const curve = outputCurve(state, curveSpeeds(state, POINTS));
  if (kept.size >= MOST_KEPT) kept.clear();
  kept.set(key, curve);
  return curve;
}
