/** The three changes of a known-good unit, there and back, in the order in which they are made. */
export const SWAPS = ["Its own unit", "Known-good unit in", "Its own back in", "Known-good in again"] as const;

/** What a swap there and back comes to. */
interface SwapTold {
  /** What it says of the unit; undefined until enough is read, or where the figures do not follow the unit. */
  says: "fixed" | "same" | undefined;
  words: string;
}

/** Charging volts that a change of unit has to move, V on 12 V: less comes from the engine's warmth and the hand at the throttle. */
const MOVES = 0.4;

/**
 * Judges charging volts read with the machine's own unit, a known-good one, its own again, and the known-good one again. One change
 * proves nothing: the plugs were parted and made as well. Only a second change the same way does.
 * @param volts as read so far, in the order of `SWAPS`
 * @param floor lowest volts of a machine that charges, where a band says so
 */
export function swapTells(volts: readonly number[], systemVolts: 6 | 12, floor?: number): SwapTold {
  const least = MOVES * (systemVolts / 12);
  const [own, good, back, again] = volts;
  if (own === undefined || good === undefined) return { says: undefined, words: "" };
  if (good - own < least) {
    const charges = floor !== undefined && own >= floor;
    return {
      says: "same",
      words: charges ? "It charges either way: nothing is wrong with the unit." : "No better with a known-good unit: its own is not what failed.",
    };
  }
  if (back === undefined) return { says: undefined, words: "Better. The plugs were parted and made as well: put its own back to see whether it falls again." };
  if (good - back < least)
    return { says: "same", words: "It stays better with its own unit back in: a plug was mended by parting it. Clean and grease it; the unit is sound." };
  if (again === undefined) return { says: undefined, words: "It fell with its own unit. Once more the known-good one: only the second change proves it." };
  return again - back >= least
    ? { says: "fixed", words: "Better twice with the known-good unit, worse twice with its own: the unit has failed." }
    : { says: undefined, words: "The second change did not repeat the first: something else comes and goes. Look for it in plugs and wires." };
}
