import { samePoint } from "./families/family";
import { middleOf, rangesOf } from "./ranges";
import type { Sheet, SheetBand } from "./sheet";

/** Figures as a sheet prints them, and the middle of what such machines have where it is silent. */

/** The whole band that a sheet prints for a test, at a point where it gives one for that. */
function printed({ bands }: Pick<Sheet, "bands">, test: string, at: string | undefined): SheetBand | undefined {
  const whole = bands.filter((row) => row.test === test && row.low !== undefined && row.high !== undefined);
  return whole.find((row) => row.at !== undefined && samePoint(row.at, at)) ?? whole.find((row) => row.at === undefined);
}

/** The middle of a band that the sheet prints for a test, or what is assumed otherwise. @param at the point, where points differ */
export function printedMiddle(sheet: Pick<Sheet, "bands">, test: string, otherwise: number, at?: string): number {
  const band = printed(sheet, test, at);
  return band ? ((band.low as number) + (band.high as number)) / 2 : otherwise;
}

/** AC volts that the sheet prints for a pair, a rpm; or what is assumed at 5,000. */
export function printedVoltsPerRpm(sheet: Pick<Sheet, "bands">, otherwise: number, at?: string): number {
  const band = printed(sheet, "stator.acVolts", at);
  return band ? printedMiddle(sheet, "stator.acVolts", otherwise, at) / (band.rpm ?? AC_RPM) : otherwise / AC_RPM;
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
