import { medianOf } from "./median";

/** A dip of a battery under its starter: bins `from` up to, not including, `to`. */
interface Dip {
  from: number;
  to: number;
}

/** Figures in volts are of 12 V. */
const DIP = {
  /** So far it falls, within so many seconds. */
  falls: 0.5,
  within: 0.16,
  /** So far below rest it goes. */
  below: 0.45,
  /** It is over once so much of it has come back, for so long: the strokes of the engine come back for less. */
  back: 0.45,
  for: 0.24,
  /** A starter is on for so long, s. */
  least: 0.25,
  most: 20,
  /** What stood before is looked at for so long, s. */
  before: 1,
} as const;

/**
 * Finds the cranks: quick falls well below rest that come back. A charge that ends falls as quickly, but not below rest; a heavy load
 * falls as far, but stays.
 * @param level middles with short holes bridged, NaN in gaps
 * @param rest rest volts
 */
export function cranksOf(level: Float64Array, width: number, rest: number, scale: number): Dip[] {
  const found: Dip[] = [];
  const reach = Math.max(1, Math.round(DIP.within / width));
  const hold = Math.max(1, Math.round(DIP.for / width));
  const most = Math.round(DIP.most / width);
  for (let k = 1; k < level.length; k++) {
    const back = Math.max(0, k - reach);
    const fall = (level[back] as number) - (level[k] as number);
    if (!(fall >= DIP.falls * scale) || !((level[k] as number) < rest - DIP.below * scale)) continue;
    const base = medianOf(level.slice(Math.max(found.at(-1)?.to ?? 0, back - Math.round(DIP.before / width)), back + 1));
    if (!((level[k] as number) < Math.min(base, rest + 2 * DIP.below * scale) - DIP.falls * scale)) continue;
    const from = beginning(level, back, k, base, scale);
    const to = endOf(level, k, base, hold, Math.min(level.length, from + most), scale);
    if (to === undefined) continue;
    if ((to - from) * width >= DIP.least) found.push({ from, to });
    k = to;
  }
  return found;
}

/** The first bin that has left what stood before. */
function beginning(level: Float64Array, back: number, k: number, base: number, scale: number): number {
  let from = k;
  while (from > back && (level[from - 1] as number) < base - 0.15 * scale) from--;
  return from;
}

/** Share of a crank's bins below the level that it leaves when it is over. */
const STROKES = 0.85;

/** What comes back rises all the way, but for this, V on 12 V; a stroke falls before it. */
const FLAT = 0.06;

/** Back from where a crank is surely over to where its volts began to leave it. */
function leaves(level: Float64Array, from: number, over: number, scale: number): number {
  const sorted = level.slice(from, over).sort();
  const edge = sorted[Math.floor(STROKES * (sorted.length - 1))] as number;
  let k = over;
  while (k > from + 1 && (level[k - 1] as number) > edge && (level[k - 1] as number) < (level[k] as number) + FLAT * scale) k--;
  return k;
}

/** The first bin of those that have come back and stay; undefined where they never do. */
function endOf(level: Float64Array, from: number, base: number, hold: number, last: number, scale: number): number | undefined {
  let lowest = level[from] as number;
  for (let k = from; k < last; k++) {
    const value = level[k] as number;
    if (Number.isNaN(value)) return undefined;
    // The first pull goes lower than what follows: what it has to come back from is what it turns at.
    lowest = Math.min(lowest, value);
    const turning = medianOf(level.slice(from, k + 1));
    const back = turning + DIP.back * (base - turning);
    let stays = value > back;
    for (let j = k; stays && j < Math.min(level.length, k + hold); j++) stays = (level[j] as number) > back;
    if (stays && k > from) return leaves(level, from, k, scale);
  }
  return undefined;
}
