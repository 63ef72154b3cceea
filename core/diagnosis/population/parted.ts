/** Resistance from which a bad joint counts as parted, Ω: what is called burnt through measures anything up there. */
export const PARTED_OHMS = 60;
