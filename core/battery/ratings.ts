/**
 * Cranking ratings as labels and testers name them. All say what a cold battery gives for a while before it sinks below some
 * volts; the standards differ in how cold, how long and how far.
 */
export const RATINGS = {
  sae: "SAE, −18 °C",
  en: "EN, −18 °C",
  iec: "IEC, −18 °C",
  din: "DIN, −18 °C",
  ca: "CA or MCA, 0 °C",
} as const;

export type Rating = keyof typeof RATINGS;

export const RATING_IDS = Object.keys(RATINGS) as [Rating, ...Rating[]];

/**
 * Amps of each standard for one of SAE J537, as the battery trade's conversion tables put it: EN 50342 asks for 7.5 V after 10 s,
 * IEC 60095 for 8.4 V after 60 s, the old DIN 43539 for 9 V after 30 s; at 0 °C a quarter more is to be had.
 */
const OF_SAE: Record<Rating, number> = { sae: 1, en: 0.95, iec: 0.7, din: 0.6, ca: 1.25 };

/** Cranking amps of one standard as amps of SAE J537. */
export function saeAmps(amps: number, rating: Rating): number {
  return amps / OF_SAE[rating];
}
