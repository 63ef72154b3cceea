import type { Band } from "../../core/procedure/bands";
import { isNumber, isOpen, type ReadingValue, type Unit } from "../../core/units";

/** A ruler's scale: values mapped to 0…1 along the rule; the open line has its own stop at the far end. */
interface Scale {
  from: number;
  to: number;
  /** Long ranges (ohms to the case) are drawn by decades. */
  log: boolean;
  hasOpen: boolean;
}

/** Share of the rule kept free at its far end for the open line's stop. */
const OPEN_STOP = 0.94;

/** Chooses a scale that shows the band with some ground on both sides, and every value. */
export function scaleFor(band: Band | undefined, values: readonly ReadingValue[], unit: Unit, openAllowed: boolean): Scale {
  const numbers = values.filter(isNumber);
  if (band?.kind === "open" && unit === "Ω") return { from: 0.1, to: 2e7, log: true, hasOpen: true };
  const limits = band?.kind === "between" ? [band.low, band.high].filter((limit) => limit !== undefined) : [];
  const all = [...numbers, ...limits];
  const low = Math.min(...all, band?.kind === "open" ? 0 : Number.POSITIVE_INFINITY);
  const high = Math.max(...all, band?.kind === "open" ? 2 : Number.NEGATIVE_INFINITY);
  if (!Number.isFinite(low) || !Number.isFinite(high)) return { from: 0, to: 1, log: false, hasOpen: openAllowed };
  const span = Math.max(high - low, Math.abs(high) * 0.25, 0.2);
  const from = low - span * 0.35;
  return { from: low >= 0 && from < 0 ? 0 : from, to: high + span * 0.35, log: false, hasOpen: openAllowed };
}

/** Where a value stands on the rule, 0 at the near end to 1 at the far end. */
export function placeOn(scale: Scale, value: ReadingValue): number {
  const end = scale.hasOpen ? OPEN_STOP - 0.04 : 1;
  if (isOpen(value)) return 0.97;
  if (!isNumber(value)) return 0;
  const at = scale.log
    ? (Math.log10(Math.max(value, scale.from)) - Math.log10(scale.from)) / (Math.log10(scale.to) - Math.log10(scale.from))
    : (value - scale.from) / (scale.to - scale.from);
  return Math.min(1, Math.max(0, at)) * end;
}

/** The band's bracket on the rule as [near, far]; undefined where there is none. */
export function bracketOn(scale: Scale, band: Band | undefined): [number, number] | undefined {
  if (band?.kind === "open") return [OPEN_STOP, 1];
  if (band?.kind !== "between") return undefined;
  return [band.low === undefined ? 0 : placeOn(scale, band.low), band.high === undefined ? (scale.hasOpen ? OPEN_STOP - 0.04 : 1) : placeOn(scale, band.high)];
}
