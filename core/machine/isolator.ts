/**
 * Two batteries on one generator. A diode isolator keeps them apart always: each has a diode of its own on the way. A combiner is a
 * relay that joins the second to the first while that is being charged.
 */
export const ISOLATORS = ["diode", "combiner"] as const;
export type Isolator = (typeof ISOLATORS)[number];

/** What each is, in words. */
export const ISOLATOR_WORDS: Record<Isolator, string> = {
  diode: "kept apart by a diode isolator",
  combiner: "joined by a combiner while the first is charged",
};
