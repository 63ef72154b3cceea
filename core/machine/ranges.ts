import type { Kind } from "./kind";

/** Between which two figures nine in ten sound machines lie. */
export type Range = readonly [low: number, high: number];

/** What machines of a kind have, for those whose sheet does not say. */
interface KindRanges {
  /** Rated output of the generator, A. */
  amps: Range;
  /** Battery, Ah. */
  ah: Range;
  /** Speeds at which such machines are tested. */
  idleRpm: number;
  testRpm: number;
}

/**
 * What machines of each kind have, their generator three-phase where its family says nothing else. These are this program's own estimates of what is in use, from
 * battery and alternator catalogues of the trade; wide on purpose, because a figure nobody printed is unknown.
 */
const RANGES: Record<Kind, KindRanges> = {
  motorcycle: { amps: [13, 50], ah: [5, 24], idleRpm: 1200, testRpm: 5000 },
  scooter: { amps: [6, 26], ah: [4, 12], idleRpm: 1600, testRpm: 5000 },
  atv: { amps: [13, 52], ah: [8, 32], idleRpm: 1300, testRpm: 5000 },
  snowmobile: { amps: [13, 50], ah: [7, 24], idleRpm: 1600, testRpm: 5000 },
  outboard: { amps: [6, 65], ah: [20, 110], idleRpm: 850, testRpm: 3000 },
  boat: { amps: [9, 65], ah: [25, 120], idleRpm: 850, testRpm: 3000 },
  mower: { amps: [8, 30], ah: [12, 40], idleRpm: 1600, testRpm: 3600 },
};

/** The same where not even the kind is known. */
const ANY_KIND: KindRanges = { amps: [8, 60], ah: [4, 90], idleRpm: 1300, testRpm: 5000 };

/** What the machines of a kind have; of every kind where it is not known. */
export function rangesOf(kind: Kind | undefined): KindRanges {
  return kind ? RANGES[kind] : ANY_KIND;
}

/** What such machines take of their own output: with the usual lights, and with everything on. */
export const LOAD_SHARES = { normal: 0.33, all: 0.5 } as const;

/** The middle of a range on a scale of factors. */
export const middleOf = ([low, high]: Range): number => Math.sqrt(low * high);

/** The place in a range below which a share of those met lies, on a scale of factors. */
export const placeIn = ([low, high]: Range, share: number): number => low * (high / low) ** share;

/** Standard deviation of the logarithm over a range that nine in ten lie in. */
export const widthOf = ([low, high]: Range): number => Math.log(high / low) / 3.29;
