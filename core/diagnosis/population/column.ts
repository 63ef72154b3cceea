import type { Look } from "./look";
import { SPREAD_IDS } from "./nuisance";

/** Predictions of one look for every particle; for a worded test the probability of each word. */
export interface Column {
  look: Look;
  at: Float64Array;
  open: Float64Array;
  /** Cell after cell: change on the test's scale a standard deviation of each spread. */
  slopes: Float64Array;
  words: readonly Float64Array[];
  /** The spreads that move it, by index. */
  moved: Int32Array;
  /** Logarithm of the probability that a figure is shown. */
  figured: Float64Array;
  /** Of running volts only. */
  held: Held | undefined;
}

/** Where a unit would hold running volts, were the generator strong enough. */
export interface Held {
  /** By particle: the figure; not a number where nothing holds it. */
  at: Float64Array;
  /** By particle: how much stronger the generator is than that takes, as the logarithm of a factor on its magnets; below nought it is too weak. */
  spare: Float64Array;
  /** Cell after cell: change of what is spared a standard deviation of each spread. */
  slopes: Float64Array;
}

export const SPREAD_COUNT = SPREAD_IDS.length;

/** Where the predictions of a look come from: worked out from charts, or read from what somebody worked out before. */
export interface ColumnSource {
  /** What a look shows on every particle; undefined where the source cannot say. */
  column(look: Look): Column | undefined;
}

const DEGREES = 5;

/** The air temperature that predictions are worked out for: finer steps than five degrees make no difference to any reading. */
export function roundedC(ambientC: number): number {
  return DEGREES * Math.round(ambientC / DEGREES);
}
