/**
 * How readings go wrong. The shares are this program's own estimates of hasty hands in gloves, checked against the benchmark's
 * world only for their order of size.
 */

/** Share of readings that are taken wrongly altogether: wrong hole, wrong dial, a digit misread. */
export const MISREAD = 0.016;
/**
 * Share of misread generator volts that lie above the true ones: a bad contact, a slow throttle and a probe on the case all show less,
 * and little but a slipped decimal point shows more.
 */
export const MISREAD_HIGH = 0.2;
/** Share of words that say nothing: the next word was tapped, another plug looked at. Whose eyes were elsewhere says what is usual, which the words' own odds have. */
export const BLIND = 0.015;
/** A figure where nothing should conduct, or the open line where something should, is a misread of this probability on that particle. */
export const CONTRADICTED = 0.8;
/** Machines differ from the model in ways nobody listed: how often a prediction is further off than usual, and how many times. */
export const LOOSE = { often: 0.07, times: 3 } as const;
/** The same of what sound coils give, which are wound alike and measure each other. */
export const LOOSE_COILS = { often: 0.04, times: 1.5 } as const;
/** How often coils that are burnt everywhere are burnt each for itself, and how far apart what they give then lies, as a logarithm. */
export const UNEVEN = { often: 0.75, each: 0.25 } as const;
/**
 * Visits (a test's readings in one state of the machine) that are off as a whole: one bad contact at the probe they share, the
 * wrong side of the plug, the wrong dial. In so many of them one error is common to all figures, in the others they say nothing.
 */
export const SPOILT = { often: 0.01, shared: 0.6, allOpen: 0.4, open: 0.15 } as const;
/** How often the running machine as a whole lies off its model, and by how much, V. */
export const ALIKE = { often: 0.08, volts: 0.3 } as const;
/** How often a meter reads all volts wrong (its battery low, its jack worn), and by how much on a 12 V machine, V. */
export const METER = { often: 0.015, volts: 0.7 } as const;
/**
 * How often a machine comes in with its battery drained past empty, whatever did it, and by how much its volts then lie below those of
 * one that is only empty, V; in so many of them the volts fell together, in the others its figures say nothing.
 */
export const DRAINED = { often: 0.16, volts: 2, shared: 0.5 } as const;
/** Of a particle's readings, this many most unlikely ones are tried as misread two at a time. */
export const SUSPECTS = 6;
/** Pairs are tried where leaving one reading out changes the logarithm of the likelihood by this: below it a pair is one in hundreds. */
export const SUSPICIOUS = -3;
/** At most so many readings of a job are taken to be misread; a further one is not thought of where it makes the whole less likely by this factor's logarithm. */
export const MOST_MISREADS = 5;
export const FAINT = 4;
/** A third misread is thought of where two make the readings likelier by this factor's logarithm. */
export const PLAIN = 1;
