import { SPREAD_COUNT } from "../population/column";
import { MOST_MISREADS, SUSPECTS } from "./slips";

/** What is filled and read again for one particle after another. */
export const scratch = {
  gains: new Float64Array(0),
  misreads: new Float64Array(0),
  /** What stands for a reading that its Gaussian does not: a misread, or the set point that a unit holds; and the misread's share of that. */
  outside: new Float64Array(0),
  really: new Float64Array(0),
  /** Logarithm of how likely a generator turns out otherwise there than its particle's middle, against as that, and of the density of the reading then. */
  otherwise: new Float64Array(0),
  /** Logarithm of how unlikely a reading is for lying above what a unit holds, where its generator's Gaussian reaches beyond. */
  passed: new Float64Array(0),
  /** By figure: the slopes of one cell. */
  slopes: new Float64Array(0),
  block: new Float64Array(MOST_MISREADS * MOST_MISREADS),
  errors: new Float64Array(MOST_MISREADS),
  order: new Int32Array(SUSPECTS),
  pairs: new Float64Array((SUSPECTS * (SUSPECTS - 1)) / 2),
  sets: new Float64Array(2 ** SUSPECTS),
};

/** Makes room for so many figures. */
export function grow(n: number): void {
  scratch.gains = new Float64Array(2 * n);
  scratch.misreads = new Float64Array(2 * n);
  scratch.outside = new Float64Array(2 * n);
  scratch.really = new Float64Array(2 * n);
  scratch.otherwise = new Float64Array(2 * n);
  scratch.passed = new Float64Array(2 * n);
  scratch.slopes = new Float64Array(2 * n * SPREAD_COUNT);
}
