import { samePoint } from "./families/family";
import { middleOf, rangesOf } from "./ranges";
import type { Sheet, SheetBand } from "./sheet";

/** Figures as a sheet prints them, and the middle of what such machines have where it is silent. */

/** What a band tells of sound machines: the middle of them, and the standard deviation of their logarithm about it. */
interface Told {
  middle: number;
  width: number;
  /** At which the figure holds, where speed plays a part. */
  rpm: number | undefined;
}

/**
 * What a limit on one side tells: makers print the least AC that they take back no stator for, which sound ones exceed by a third, and
 * the most ohms, of which sound ones have about half.
 */
const ONE_SIDED: Readonly<Record<string, { side: "low" | "high"; middle: number; width: number }>> = {
  "stator.acVolts": { side: "low", middle: 1.3, width: 0.17 },
  "stator.resistance": { side: "high", middle: 0.5, width: 0.45 },
  "field.resistance": { side: "high", middle: 0.6, width: 0.3 },
  "generator.field": { side: "high", middle: 0.6, width: 0.3 },
};
/** Sound machines lie within a band: so many standard deviations span it, on a scale of factors. Ohms are printed with more room than volts. */
const SPANNED = { volts: 3.6, ohms: 5 } as const;
/** A band wider than this factor is no tolerance but a fence around many models: its middle is that of a scale of factors. */
const FENCE = 3;

/** @returns undefined for a band that says nothing of where sound machines lie within it */
function toldBy({ test, low = 0, high, rpm }: SheetBand): Told | undefined {
  if (low > 0 && high !== undefined)
    return {
      middle: high > FENCE * low ? Math.sqrt(low * high) : (low + high) / 2,
      width: Math.log(high / low) / SPANNED[test === "stator.acVolts" ? "volts" : "ohms"],
      rpm,
    };
  const limit = ONE_SIDED[test];
  const figure = limit?.side === "low" ? low : high;
  return limit && figure ? { middle: limit.middle * figure, width: limit.width, rpm } : undefined;
}

/** What a sheet tells of a test, at a point where it gives a band for that; undefined where it tells nothing. @param at the point, where points differ */
export function printed({ bands }: Pick<Sheet, "bands">, test: string, at?: string): Told | undefined {
  const telling = bandsTelling({ bands }, test);
  const band = telling.find((row) => row.at !== undefined && samePoint(row.at, at)) ?? telling.find((row) => row.at === undefined);
  return band && toldBy(band);
}

/** The bands of a test that tell where sound machines lie: those with both figures first, then the faster; at idle a unit holds nothing yet. */
export function bandsTelling({ bands }: Pick<Sheet, "bands">, test: string): SheetBand[] {
  const isWhole = ({ low, high }: SheetBand): boolean => low !== undefined && high !== undefined;
  return bands.filter((row) => row.test === test && toldBy(row)).sort((a, b) => Number(isWhole(b)) - Number(isWhole(a)) || (b.rpm ?? 0) - (a.rpm ?? 0));
}

/** The middle of a band that the sheet prints for a test, or what is assumed otherwise. @param at the point, where points differ */
export function printedMiddle(sheet: Pick<Sheet, "bands">, test: string, otherwise: number, at?: string): number {
  return printed(sheet, test, at)?.middle ?? otherwise;
}

/** AC volts that the sheet prints for a pair, a rpm; or what is assumed at 5,000. */
export function printedVoltsPerRpm(sheet: Pick<Sheet, "bands">, otherwise: number, at?: string): number {
  const told = printed(sheet, "stator.acVolts", at);
  return told ? told.middle / (told.rpm ?? AC_RPM) : otherwise / AC_RPM;
}

/** What a clock, an alarm and the unit's own leakage take as a share of the limit that a sheet prints, and where nobody prints one, mA. */
const SLEEPING = { ofLimit: 0.3, unprinted: 0.5 } as const;

/** The most that a sheet lets a machine draw with the key out, mA. */
export function drainLimitOf({ bands }: Pick<Sheet, "bands">): number | undefined {
  return bands.find(({ test, high }) => test === "drain.current" && high !== undefined)?.high;
}

/** What a sound machine takes with the key out, mA. */
export function sleepingMilliamps(sheet: Pick<Sheet, "bands">): number {
  const limit = drainLimitOf(sheet);
  return limit === undefined ? SLEEPING.unprinted : SLEEPING.ofLimit * limit;
}

/** The speed that AC volts hold at where nobody says. */
const AC_RPM = 5000;

/** Battery, Ah. */
export function ampHoursOf({ battery, kind }: Pick<Sheet, "battery" | "kind">): number {
  return battery.ah ?? middleOf(rangesOf(kind).ah);
}

const ASSUMED_POLE_PAIRS = 9;

/** Pairs of magnetic poles that pass a coil in one turn. */
export function polePairsOf({ polePairs }: Pick<Sheet, "polePairs">): number {
  return polePairs ?? ASSUMED_POLE_PAIRS;
}
