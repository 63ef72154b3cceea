import { samePoint } from "../machine/families/family";
import type { Sheet, SheetBand } from "../machine/sheet";
import { isNumber } from "../units";
import { rpmOf } from "./bands";
import { type TestId, testOf } from "./catalogue";
import { isBad, type JudgedReading } from "./judge";
import { isPaired } from "./step";

/** How far sisters of one model lie apart, as a share of a figure and at least so much, in the test's unit: what a band has to leave room for. */
interface Spread {
  share: number;
  least: number;
  /** Only the upper limit says anything: less is better still. */
  most?: true;
}

/** Figures that belong to a model, and not to the day or the battery that is in it now. */
const SPREADS: Partial<Record<TestId, Spread>> = {
  "charge.volts": { share: 0, least: 0.3 },
  "charge.outputVolts": { share: 0, least: 0.3 },
  "charge.ripple": { share: 0.5, least: 0.05, most: true },
  "stator.resistance": { share: 0.15, least: 0.05 },
  "stator.acVolts": { share: 0.12, least: 0.5 },
  "stator.acVoltsAtUnit": { share: 0.12, least: 0.5 },
  "stator.dcVolts": { share: 0.12, least: 0.5 },
  "field.resistance": { share: 0.15, least: 0.2 },
  "generator.field": { share: 0.15, least: 0.2 },
  "generator.armature": { share: 0.3, least: 0.1 },
  "generator.output": { share: 0.15, least: 1 },
  "drain.current": { share: 1, least: 1, most: true },
};

/** Points whose figures lie within this share of one another are of one kind: one band serves them all. */
const ALIKE = 0.25;

interface Group {
  reading: JudgedReading;
  values: number[];
}

/**
 * A machine that is known to be sound, as the draft of a sheet for its sisters: its own figures with the room that sisters need. Points
 * that read alike share a band; windings that differ keep bands of their own. Bands that its sheet has already stand as they are.
 * @param judged its readings; what is out of its band is left out
 * @param taken where the figures come from, for the sheet's source: "SK-121 “Dunlin”, 27 Nov 2026"
 */
export function drawnSheet(sheet: Sheet, judged: readonly JudgedReading[], taken: string): Sheet {
  const groups: Group[] = [];
  for (const judgedReading of judged) {
    const { reading, value } = judgedReading;
    if (!SPREADS[reading.test] || isBad(judgedReading.judged) || !isNumber(value) || value < 0 || reading.rpm === "idle" || reading.hot) continue;
    const before = groups.find(({ reading: { reading: other }, values }) => isOneFigure(other, reading, sheet) && isAlike(values, value));
    if (before) before.values.push(value);
    else groups.push({ reading: judgedReading, values: [value] });
  }
  const drawn = groups.flatMap((group): SheetBand[] => {
    const { test, rpm, loads } = group.reading.reading;
    if (sheet.bands.some((band) => band.test === test)) return [];
    const alone = groups.some((other) => other !== group && isOneFigure(other.reading.reading, group.reading.reading, sheet));
    const at = alone ? group.reading.reading.at : undefined;
    return [
      {
        test,
        ...(at ? { at } : {}),
        ...(rpm === undefined ? {} : { rpm: rpmOf({ test, rpm }, sheet) }),
        ...(loads ? { loads } : {}),
        ...limitsOf(test, group.values),
      },
    ];
  });
  return { ...sheet, bands: [...sheet.bands, ...drawn], source: `drawn from ${taken}`.slice(0, MOST_SOURCE) };
}

/** Letters that a sheet has for its source. */
const MOST_SOURCE = 120;

/** Whether two readings are of one figure of the model: one test at one speed and load, at any of its points. */
function isOneFigure(a: JudgedReading["reading"], b: JudgedReading["reading"], sheet: Sheet): boolean {
  if (a.test !== b.test || (a.loads ?? "normal") !== (b.loads ?? "normal")) return false;
  if (!isPaired(testOf(a.test)) && !samePoint(a.at ?? "", b.at)) return false;
  return Math.abs(rpmOf(a, sheet) - rpmOf(b, sheet)) <= 0.05 * rpmOf(a, sheet);
}

const isAlike = (values: readonly number[], value: number): boolean =>
  Math.max(...values, value) - Math.min(...values, value) <= ALIKE * Math.max(...values, value);

function limitsOf(test: TestId, values: readonly number[]): { low?: number; high: number } {
  const { share, least, most } = SPREADS[test] as Spread;
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = (value: number): number => Math.max(least, share * value);
  const upper = Number((high + room(high)).toPrecision(3));
  return most ? { high: upper } : { low: Number(Math.max(0, low - room(low)).toPrecision(3)), high: upper };
}
