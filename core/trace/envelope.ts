import type { Trace } from "./bins";
import { lowerBound } from "./bins";

/** A stretch of a trace in so many steps: of each its time and the lowest and highest figure in it; steps without a figure are left out. */
export interface Envelope {
  seconds: number[];
  lowest: number[];
  highest: number[];
}

/** @param from seconds from the first sample @param points steps at most; where there are fewer samples each is a step of its own */
export function envelopeOf({ seconds, volts }: Trace, from: number, to: number, points: number): Envelope {
  const first = seconds[0] ?? 0;
  const [begin, end] = [lowerBound(seconds, first + from), lowerBound(seconds, first + to + 1e-9)];
  const envelope: Envelope = { seconds: [], lowest: [], highest: [] };
  const add = (time: number, low: number, high: number): void => {
    if (low > high) return;
    envelope.seconds.push(Number((time - first).toFixed(4)));
    envelope.lowest.push(Number(low.toFixed(3)));
    envelope.highest.push(Number(high.toFixed(3)));
  };
  if (end - begin <= points) {
    for (let k = begin; k < end; k++) if (Number.isFinite(volts[k])) add(seconds[k] as number, volts[k] as number, volts[k] as number);
    return envelope;
  }
  const each = (end - begin) / points;
  for (let step = 0; step < points; step++) {
    const [a, b] = [begin + Math.floor(step * each), begin + Math.floor((step + 1) * each)];
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (let k = a; k < b; k++) {
      const value = volts[k] as number;
      if (value < low) low = value;
      if (value > high) high = value;
    }
    add(seconds[a] as number, low, high);
  }
  return envelope;
}
