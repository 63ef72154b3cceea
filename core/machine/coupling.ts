/**
 * Coupling of shorted turns with the rest of their winding. Those that lie among the others take more of its AC with every turn of the
 * engine; whole poles of them take their own share at any speed. Which it is follows from how the poles are wound, which nobody prints.
 */
export const COUPLING = { apart: 0.15, closely: 0.8 } as const;
