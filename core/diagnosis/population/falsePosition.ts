/** How often a search halves or draws its line, and how closely a current is found, A. */
const SEARCH = { rounds: 40, amps: 2e-4 } as const;

/** Where a falling function passes through nought, by false position with the Illinois rule. @param within how closely */
export function falsePosition(miss: (x: number) => number, from: number, to: number, within: number = SEARCH.amps): number {
  let [low, high] = [from, to];
  let [above, below] = [miss(low), miss(high)];
  if (above <= 0) return low;
  if (below >= 0) return high;
  let side = 0;
  for (let round = 0; round < SEARCH.rounds && high - low > within; round++) {
    // Every fourth round halves: a curve with a knee would creep otherwise.
    const x = round % 4 === 3 ? 0.5 * (low + high) : (low * below - high * above) / (below - above);
    const missed = miss(x);
    if (Math.abs(missed) < 1e-6) return x;
    if (missed > 0) {
      low = x;
      above = missed;
      if (side === 1) below /= 2;
      side = 1;
    } else {
      high = x;
      below = missed;
      if (side === -1) above /= 2;
      side = -1;
    }
  }
  return 0.5 * (low + high);
}
