import { surfaceVolts } from "../battery/charge";
import { newMilliohms } from "../battery/model";
import { saeAmps } from "../battery/ratings";
import { COPPER_PER_K } from "../machine/copper";
import { groupAlike, leadsOf } from "../machine/families/family";
import { familyOf } from "../machine/families/registry";
import type { Sheet } from "../machine/sheet";
import type { Meter } from "../meter/meter";
import { formatQuantity, isNumber, isOpen, OPEN_LINE, type ReadingValue } from "../units";
import { type Band, bandFor, OPEN_OHMS, rpmOf } from "./bands";
import { type TestId, testOf } from "./catalogue";
import type { School } from "./schools";
import { cellsOf, isPaired, type Reading, turningVolts } from "./step";

/** What a reading comes to against its band. */
export type Judged = "in" | "low" | "high" | "open" | "shorted" | "unequal" | "pulsing" | "info";

/** What judging needs to know besides the readings. */
export interface JudgingContext {
  sheet: Sheet;
  school: School;
  meter: Meter;
  ambientC: number;
}

/** A reading with its corrected value, its band, what was corrected, and the judgement. */
export interface JudgedReading {
  reading: Reading;
  /** The value after every correction; equal to the reading's where none applied. */
  value: ReadingValue;
  corrections: string[];
  band: Band | undefined;
  judged: Judged;
  /** Largest difference among the equal legs as a fraction of their mean, once all of them are in. */
  imbalance?: number;
}

/** The winding temperature assumed for a reading marked hot. */
const HOT_WINDING_C = 85;

/** Diode readings from here up are the meter running out of volts, not a junction. */
const DIODE_OPEN_VOLTS = 2;

/** Below this a junction is no junction but a short. */
const DIODE_SHORT_VOLTS = 0.1;

/** A path to the case below this is a touch; above it, damp or dirt. */
const TOUCH_OHMS = 1000;

/**
 * Winding resistance referred to 20 °C: R20 = R / (1 + α(T − 20)), copper.
 * @param ohms measured at the winding's temperature
 */
export function ohmsAt20(ohms: number, windingC: number): number {
  return ohms / (1 + COPPER_PER_K * (windingC - 20));
}

/**
 * Imbalance of legs or pairs: (largest − smallest) / mean; 0 when all are 0.
 * @param values at least two, in one unit
 */
export function imbalanceOf(values: readonly number[]): number {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  return mean === 0 ? 0 : (Math.max(...values) - Math.min(...values)) / mean;
}

/** Judges every reading of a job, each with the others in view (rest volts for the rise, the other legs for balance). */
export function judgeAll(readings: readonly Reading[], context: JudgingContext): JudgedReading[] {
  const rest = readings.findLast((reading) => reading.test === "battery.rest" && !reading.afterRepair)?.value;
  const restVolts = rest !== undefined && isNumber(rest) ? rest : undefined;
  const judged = readings.map((reading) => judgeOne(reading, context, restVolts));
  markUnequal(judged, context);
  markOddCells(judged, context.sheet);
  if (context.school.ceiling === "climbing") markClimbing(judged, context.sheet);
  return judged;
}

/** How far the cells of a sound battery lie apart at rest, V. */
const CELLS_APART = 0.05;

/** Marks the cells that lie below the best of a whole set: one cell that has failed takes the battery with it. */
function markOddCells(judged: readonly JudgedReading[], sheet: Sheet): void {
  for (const repaired of [undefined, true]) {
    const cells = new Map(
      judged.flatMap((judgedReading) =>
        judgedReading.reading.test === "battery.cell" && isNumber(judgedReading.value) && judgedReading.reading.afterRepair === repaired
          ? [[judgedReading.reading.at, judgedReading]]
          : [],
      ),
    );
    if (cells.size < cellsOf(sheet)) continue;
    const best = Math.max(...[...cells.values()].map(({ value }) => value as number));
    for (const cell of cells.values()) if (best - (cell.value as number) > CELLS_APART + 1e-9 && !isBad(cell.judged)) cell.judged = "unequal";
  }
}

/** Charging volts climb where they are this far above those at a slower speed, and beyond what any regulator holds, V on 12 V. */
const CLIMBS = { by: 0.5, beyond: 15 } as const;

/** Marks charging volts that climb on with the speed: what a school without a ceiling takes for a regulator that has let go. */
function markClimbing(judged: readonly JudgedReading[], sheet: Sheet): void {
  const scale = sheet.systemVolts / 12;
  const runs = judged.filter(({ reading, value }) => reading.test === "charge.volts" && isNumber(value));
  for (const run of runs) {
    const [volts, rpm] = [run.value as number, rpmOf(run.reading, sheet)];
    const climbs = runs.some(
      ({ reading, value }) =>
        rpmOf(reading, sheet) < rpm && !reading.afterRepair === !run.reading.afterRepair && volts - (value as number) >= CLIMBS.by * scale,
    );
    if (climbs && volts > CLIMBS.beyond * scale && (run.judged === "in" || run.judged === "info")) run.judged = "high";
  }
}

/** Judges one reading on its own: corrections first, then the band. */
export function judgeOne(reading: Reading, context: JudgingContext, restVolts?: number): JudgedReading {
  const { value, corrections } = correct(reading, context);
  const band = bandFor(reading, context.sheet, context.school, restVolts, context.ambientC);
  const judged = compare(value, band, reading);
  return { reading, value, corrections, band, judged: isBad(judged) || pulsingWords(reading, context) === undefined ? judged : "pulsing" };
}

function correct(reading: Reading, context: JudgingContext): { value: ReadingValue; corrections: string[] } {
  const { meter, ambientC, sheet } = context;
  const test = testOf(reading.test);
  const corrections: string[] = [];
  let value = reading.value;
  if (test.dial === "diode" && isNumber(value) && value >= Math.min(DIODE_OPEN_VOLTS, meter.diodeMaxVolts)) {
    corrections.push(`${formatQuantity(value, "V")} is the dial's own limit, taken as open`);
    value = OPEN_LINE;
  }
  if (reading.secondMeter) corrections.push("on the second meter");
  if (!isNumber(value)) return { value, corrections };
  const lead = reading.leadOhms ?? meter.leadOhms;
  if (test.leadZero && reading.raw && lead > 0) {
    const below = value < lead - (reading.ohmsResolution ?? meter.ohmsResolution);
    value = Math.max(0, Number((value - lead).toPrecision(12)));
    corrections.push(below ? `below the ${lead} Ω lead zero: take the lead zero again` : `${lead} Ω of leads taken off`);
  }
  if (reading.test === "stator.resistance") {
    const windingC = reading.hot ? HOT_WINDING_C : ambientC;
    if (Math.abs(windingC - 20) >= 5) {
      value = Number(ohmsAt20(value, windingC).toFixed(4));
      corrections.push(`taken at ${windingC} °C, referred to 20 °C`);
    }
  }
  const still = stillFalls(reading, sheet);
  if (still !== undefined) corrections.push(`rested ${reading.restHours} h: if it was charged or ridden before, it falls by another ${still.toFixed(2)} V`);
  const pulsing = pulsingWords(reading, context);
  if (reading.test === "battery.crank" && reading.swing !== undefined && reading.swing > 0) {
    // A meter's hold, which limits are made for, hardly sees the first pull.
    corrections.push(`the first pull went to ${formatQuantity(value, "V")}; judged by what it turned at`);
    value = turningVolts(value, reading);
  } else if (reading.swing !== undefined && reading.swing > 0)
    corrections.push(`swings by ${formatQuantity(reading.swing, test.unit)}${pulsing ? `: ${pulsing}` : ""}`);
  const share = ratedShare({ ...reading, value }, sheet);
  if (share !== undefined) corrections.push(`${Math.round(share)} % of the battery's rating`);
  return { value, corrections };
}

/** A fall of rest volts that a meter shows, V. */
const LEAST_FALL = 0.02;

/** What rest volts taken too early are likely to fall by still, V, where the rest is known: surface charge going. */
function stillFalls({ test, restHours }: Reading, { battery, systemVolts }: Sheet): number | undefined {
  if (test !== "battery.rest" || restHours === undefined) return undefined;
  const falls = surfaceVolts(battery.chemistry, systemVolts, restHours);
  return falls >= LEAST_FALL ? falls : undefined;
}

/**
 * What still counts as standing still. Charging volts at a steady speed, V on 12 V: what a display's last digits do is less. Ohms while
 * the lead is wiggled, as a share, and a last digit or two of the meter.
 */
const STEADY = { volts: 0.4, share: 0.15, digits: 2 } as const;

/** Tests whose figure can be seen to swing: at one speed, or while lead and plug are wiggled. */
export function swings(test: TestId): boolean {
  return ["charge.volts", "charge.outputVolts", "stator.resistance", "stator.toGround", "field.resistance", "regulator.ground"].includes(test);
}

/** Whether a figure swung to and fro by more than a sound machine lets it, and what that comes from. */
function pulsingWords({ test, swing = 0, value, ohmsResolution }: Reading, { sheet, meter }: JudgingContext): string | undefined {
  if (!swings(test) || !isNumber(value)) return undefined;
  if (testOf(test).unit === "V") return swing > STEADY.volts * (sheet.systemVolts / 12) ? "a loose contact, or a unit or cut-out that chatters" : undefined;
  return swing > Math.max(STEADY.share * value, STEADY.digits * (ohmsResolution ?? meter.ohmsResolution))
    ? "lead or plug, not the winding: part it at the next joint and read there"
    : undefined;
}

/**
 * What a tester's figure comes to in percent of a new battery's, whichever way it speaks: percent, cranking amps of some standard, or
 * milliohms. Undefined for other readings, and where the label that it is held against is not known.
 */
export function ratedShare(
  { test, value, rating = "sae" }: Pick<Reading, "test" | "value" | "rating">,
  { battery, systemVolts }: Pick<Sheet, "battery" | "systemVolts">,
): number | undefined {
  if (!isNumber(value)) return undefined;
  if (test === "battery.crankingAmps" && battery.cca !== undefined) return (100 * saeAmps(value, rating)) / battery.cca;
  const { chemistry, ah } = battery;
  if (test === "battery.innerOhms" && ah !== undefined && chemistry !== "capacitor" && value > 0)
    return (100 * newMilliohms(chemistry, ah, systemVolts)) / value;
  return undefined;
}

function compare(value: ReadingValue, band: Band | undefined, reading: Reading): Judged {
  if (!band) return "info";
  if (band.kind === "words") return band.good.includes(String(value)) ? "in" : "low";
  if (band.kind === "open") return compareOpen(value, reading);
  if (isOpen(value)) return "open";
  if (!isNumber(value)) return "info";
  if (testOf(reading.test).dial === "diode" && Math.abs(value) < DIODE_SHORT_VOLTS) return "shorted";
  if (band.low !== undefined && value < band.low - 1e-9) return "low";
  if (band.high !== undefined && value > band.high + 1e-9) return "high";
  return "in";
}

function compareOpen(value: ReadingValue, reading: Reading): Judged {
  if (!isNumber(value)) return "in";
  if (testOf(reading.test).dial === "diode") return value < DIODE_SHORT_VOLTS ? "shorted" : "low";
  if (value >= OPEN_OHMS) return "in";
  return value < TOUCH_OHMS ? "shorted" : "low";
}

/**
 * Marks the odd pairs of a full set. AC fails only downward, so a pair is odd by its distance from the best one. Ohms fail
 * both ways, and one bad winding of a wye shows in two pairs, so the pair nearest the middle of the sheet's band is the one to
 * compare with; without a sheet it is the median. Ohms also allow for the last digit of the meter.
 */
function markUnequal(judged: JudgedReading[], { sheet, school, meter }: JudgingContext): void {
  const groups = familyOf(sheet.family).agree(leadsOf(sheet));
  const sets = new Map<string, JudgedReading[]>();
  for (const judgedReading of judged) {
    if (!isPaired(testOf(judgedReading.reading.test)) || !isNumber(judgedReading.value)) continue;
    const group = groupAlike(groups, judgedReading.reading.at);
    if (group < 0) continue;
    const key = `${group} ${judgedReading.reading.test} ${judgedReading.reading.rpm ?? ""} ${judgedReading.reading.afterRepair ?? ""} ${judgedReading.reading.hot ?? ""}`;
    sets.set(key, [...(sets.get(key) ?? []), judgedReading]);
  }
  for (const [key, set] of sets) {
    if (set.length < (groups[Number.parseInt(key, 10)]?.length ?? 0)) continue;
    const values = set.map((judgedReading) => judgedReading.value as number);
    const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
    const ohms = set[0]?.reading.test === "stator.resistance";
    const allowed = ohms
      ? Math.max(school.imbalance.ohms * mean, ...set.map(({ reading }) => reading.ohmsResolution ?? meter.ohmsResolution))
      : school.imbalance.ac * mean;
    const reference = ohms ? soundest(values, set[0]?.band) : Math.max(...values);
    for (const judgedReading of set) {
      judgedReading.imbalance = imbalanceOf(values);
      const off = ohms ? Math.abs((judgedReading.value as number) - reference) : reference - (judgedReading.value as number);
      if (off > allowed + 1e-9 && (judgedReading.judged === "in" || judgedReading.judged === "info")) judgedReading.judged = "unequal";
    }
    const alike = Math.max(...values) - Math.min(...values) <= allowed + 1e-9;
    if (!ohms && alike && school.acBy === "balance") for (const judgedReading of set) if (judgedReading.judged === "low") judgedReading.judged = "info";
  }
}

/** The pair most likely to be sound: nearest the middle of the sheet's band, or the median without one. */
function soundest(values: readonly number[], band: Band | undefined): number {
  if (band?.kind !== "between" || band.from !== "sheet" || band.low === undefined || band.high === undefined) return median(values);
  const middle = (band.low + band.high) / 2;
  return values.reduce((best, value) => (Math.abs(value - middle) < Math.abs(best - middle) ? value : best));
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] as number;
}

/** True for a judgement that speaks against a part. */
export function isBad(judged: Judged): boolean {
  return judged !== "in" && judged !== "info";
}

const VERDICT_WORDS: Record<Judged, string> = {
  in: "in band",
  low: "low",
  high: "high",
  open: "open line",
  shorted: "shorted",
  unequal: "unequal",
  pulsing: "pulsing",
  info: "noted",
};

/** The judgement in the words of the bench: "in band", "low", "leaks", "path to case". */
export function judgedWords(judgedReading: Pick<JudgedReading, "judged" | "reading" | "band">): string {
  const { judged, reading, band } = judgedReading;
  if (band?.kind === "words") return judged === "in" ? "good" : "not good";
  if (judged === "pulsing" && testOf(reading.test).unit === "Ω") return "unsteady";
  if (reading.test === "stator.toGround" && judged === "shorted") return "path to case";
  if (reading.test === "stator.toGround" && judged === "low") return "leaks to case";
  if (reading.test === "regulator.diode" && band?.kind === "open") {
    if (judged === "in") return "blocks";
    if (judged === "low") return "leaks";
  }
  return VERDICT_WORDS[judged];
}
