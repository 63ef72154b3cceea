/**
 * What differs from machine to machine and from mechanic to mechanic without being a fault: spread of parts about their sheet,
 * the meter's errors, a throttle held a little high. Each is one coordinate with a standard deviation; predictions are
 * linear in them. The spreads are wider than a factory's, because worn but sound parts, other makers' spares and
 * hasty hands are among them.
 */
export const SPREADS = {
  /** Logarithms of the magnets' strength, copper, inductance. */
  emf: 0.1,
  /** Logarithm of what a generator with a fault in coils, plug or unit still gives, against its charts: how bad the rest of it is nobody knows. */
  output: 0.1,
  ohms: 0.13,
  henries: 0.12,
  /** The same of a second winding against the first, where the two are not wound alike: nought unless a build has such. */
  emfOther: 0,
  ohmsOther: 0,
  /** Set point, V on 12 V. */
  setVolts: 0.22,
  /** By how much lower a unit holds with every load on than with none, V on 12 V. */
  droop: 0.2,
  /** Logarithms of the loads, of the battery's resistance, of cranking amps, of the sound wires' resistance, of the sleeping draw. */
  loads: 0.2,
  /** Logarithm of what is still on with the loads off. */
  unlit: 0.3,
  /** What the switches add to the loads as ridden, as a share by which it differs from the middle machine's; nought where a sheet prints it. */
  switched: 0,
  batteryOhms: 0.32,
  crank: 0.25,
  /** Logarithm of how steeply a battery's volts rise where it is charged past 14.4 V: overcharged, each goes its own way. */
  steepness: 0.4,
  /** Logarithm of the starter cable's resistance. */
  cable: 0.2,
  /** Logarithm of the battery's size, which a label settles: nought unless a build leaves it open. The starter goes with it. */
  capacity: 0,
  wires: 0.5,
  /** Logarithm of the generator's rating, and with it all that grows with a machine: nought unless a build stands for half of all sizes. */
  rating: 0,
  /** Logarithm of the resistance of sound wires and pins between generator and unit: thick or thin, long or short, alike in all of them. */
  legWires: 0.5,
  draw: 0.8,
  /** Logarithm of what flows back through a generator at rest: contacts that burnt together still have ohms. */
  back: 1.1,
  /** The battery's own volts at its charge, V on 12 V; its charge about the particle's. */
  openVolts: 0.07,
  charge: 0.06,
  /** Share of a full charge that a badly worn battery no longer takes, about the middle one; a slightly worn one takes nearly all. */
  refused: 0.13,
  /** Relative errors of the volts and AC ranges. */
  volts: 0.02,
  ac: 0.03,
  /** Lead zero that was not, or wrongly, taken off, Ω: common to all ohms, and to one visit to the cold or hot windings. */
  lead: 0.05,
  leadCold: 0.03,
  leadHot: 0.03,
  leadGround: 0.05,
  /** Logarithms of the engine speed in one visit. */
  rpmAc: 0.04,
  rpmAcIdle: 0.07,
  rpmUnit: 0.04,
  rpmCharge: 0.06,
  rpmChargeIdle: 0.09,
  /** Junction volts of this unit at this temperature. */
  junction: 0.04,
  /** Logarithms of what a conductance tester makes of a battery's resistance, and of what a load tester really draws. */
  tester: 0.2,
  pile: 0.1,
  /** Zero of the clamp, A. */
  clamp: 0.5,
  /** Volts of a unit that no battery steadies, in standard deviations of its own. */
  floating: 1,
  /** Logarithm of the volts that a leg which hangs on nothing strays to. */
  stray: 1.1,
  /** How far a fault's severity lies from the particle's, in shares of all severities met. */
  severity: 0.07,
  severity2: 0.07,
} as const;

export type Spread = keyof typeof SPREADS;

export const SPREAD_IDS = Object.keys(SPREADS) as Spread[];

/** Offsets by coordinate, in their own units; a coordinate left out is nought. */
export type Offsets = Partial<Record<Spread, number>>;

export const NO_OFFSETS: Offsets = {};

/** Current falls a little less than in proportion to the inductance: copper limits too. */
export const BY_INDUCTANCE = 0.8;
