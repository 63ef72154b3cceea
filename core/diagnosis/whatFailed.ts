import { DEFECTS, type SetFault } from "../machine/defects";
import { type FaultId, faultOf } from "../machine/faults";
import type { Part } from "../machine/part";
import { fromNearestWire } from "../machine/places";
import type { Advice } from "./advice";
import type { Build } from "./population/builds";
import type { Posterior } from "./posterior/posterior";
import { type Remedy, remedyOf } from "./remedies";

/**
 * Faults behind the decided set, and where the likeliest of them sits, how far along and how bad; what was mended is no longer among them.
 * @param indexOf index of each particle's set @param decided index of the decided one, which `remedies` mend
 */
export function whatOf(
  posterior: Posterior,
  indexOf: Int32Array,
  decided: number,
  remedies: readonly Remedy[],
  mended: readonly Part[],
): Pick<Advice, "faults" | "fault" | "places" | "along" | "severity"> {
  const { population, weights } = posterior;
  const faults = new Map<FaultId, number>();
  const mine: { set: SetFault; weight: number }[] = [];
  population.particles.forEach(({ candidate, build }, i) => {
    const weight = weights[i] as number;
    const { sheet } = population.builds[build] as Build;
    const left = candidate.faults.filter(({ fault }) => !mended.includes(faultOf(fault).part));
    for (const id of new Set(left.map(({ fault }) => fault))) faults.set(id, (faults.get(id) ?? 0) + weight);
    if (indexOf[i] === decided) for (const set of left) if (remedies.includes(remedyOf(set.fault))) mine.push({ set: fromNearestWire(set, sheet), weight });
  });
  const ordered = [...faults].map(([what, odds]) => ({ what, odds })).sort((a, b) => b.odds - a.odds);
  const within = new Map<FaultId, number>();
  for (const { set, weight } of mine) within.set(set.fault, (within.get(set.fault) ?? 0) + weight);
  const first = [...within].sort((a, b) => b[1] - a[1])[0]?.[0];
  const of = mine.filter(({ set }) => set.fault === first);
  const total = of.reduce((sum, { weight }) => sum + weight, 0) || 1;
  const places = new Map<string, number>();
  for (const { set, weight } of of) if (set.at) places.set(set.at, (places.get(set.at) ?? 0) + weight / total);
  return {
    faults: ordered.filter(({ odds }) => odds > 0.005),
    fault: first,
    places: [...places].map(([what, odds]) => ({ what, odds })).sort((a, b) => b.odds - a.odds),
    along: momentsOf(of, ({ along }) => along),
    severity: first && rangeOf(of, DEFECTS[first].severity.unit),
  };
}

function momentsOf(of: readonly { set: SetFault; weight: number }[], value: (set: SetFault) => number | undefined): Advice["along"] {
  const known = of.flatMap(({ set, weight }) => {
    const figure = value(set);
    return figure === undefined ? [] : [{ figure, weight }];
  });
  const total = known.reduce((sum, { weight }) => sum + weight, 0);
  if (total <= 0) return undefined;
  const at = known.reduce((sum, { figure, weight }) => sum + figure * weight, 0) / total;
  return { at, spread: Math.sqrt(known.reduce((sum, { figure, weight }) => sum + weight * (figure - at) ** 2, 0) / total) };
}

/** The middle four fifths of the severities that fit. */
function rangeOf(of: readonly { set: SetFault; weight: number }[], unit: string): Advice["severity"] {
  const known = of
    .flatMap(({ set, weight }) => (set.severity === undefined ? [] : [{ severity: set.severity, weight }]))
    .sort((a, b) => a.severity - b.severity);
  const total = known.reduce((sum, { weight }) => sum + weight, 0);
  if (total <= 0) return undefined;
  const quantile = (share: number): number => {
    let sum = 0;
    for (const { severity, weight } of known) {
      sum += weight;
      if (sum >= share * total) return severity;
    }
    return known.at(-1)?.severity ?? 0;
  };
  return { at: quantile(0.5), low: quantile(0.1), high: quantile(0.9), unit };
}
