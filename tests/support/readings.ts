import type { Sheet } from "../../core/machine/sheet";
import type { TestId } from "../../core/procedure/catalogue";
import type { JudgingContext } from "../../core/procedure/judge";
import { schoolOf } from "../../core/procedure/schools";
import type { Reading } from "../../core/procedure/step";
import type { ReadingValue } from "../../core/units";
import { demoSheet } from "../../demo/sheets";

/** Short ways of writing readings down in tests. */

let made = 0;

/** One reading; ids are made up in order. */
export function reading(test: TestId, value: ReadingValue, more: Partial<Reading> = {}): Reading {
  made += 1;
  return { id: `r${made}`, test, value, ...more };
}

export const rest = (volts: number): Reading => reading("battery.rest", volts);
export const crank = (volts: number): Reading => reading("battery.crank", volts);

/** Charging volts at idle, at test rpm, and with all loads. */
export function charging(idle: number, fast: number, loaded: number, more: Partial<Reading> = {}): Reading[] {
  return [
    reading("charge.volts", idle, { rpm: "idle", loads: "normal", ...more }),
    reading("charge.volts", fast, { rpm: 5000, loads: "normal", ...more }),
    reading("charge.volts", loaded, { rpm: 5000, loads: "all", ...more }),
  ];
}

const PAIRS = ["1-2", "2-3", "3-1"];

/** A reading on each pair, 1-2, 2-3, 3-1. */
export function pairs(test: TestId, values: ReadingValue[], more: Partial<Reading> = {}): Reading[] {
  return values.map((value, i) => reading(test, value, { at: PAIRS[i] as string, ...more }));
}

/** Legs 1, 2, 3 to the case. */
export function toCase(values: ReadingValue[]): Reading[] {
  return values.map((value, i) => reading("stator.toGround", value, { at: String(i + 1) }));
}

export const ac = (values: number[], rpm = 5000): Reading[] => pairs("stator.acVolts", values, { rpm });

/** All fourteen diode readings of a sound unit, single ones replaced. */
export function diodes(odd: Record<string, ReadingValue> = {}): Reading[] {
  const legs = ["1", "2", "3"];
  const sound: [string, ReadingValue][] = [
    ...legs.flatMap((leg): [string, ReadingValue][] => [
      [`${leg}>B+`, 0.49],
      [`B+>${leg}`, "OL"],
      [`B->${leg}`, 0.49],
      [`${leg}>B-`, "OL"],
    ]),
    ["B->B+", 0.9],
    ["B+>B-", "OL"],
  ];
  return sound.map(([at, value]) => reading("regulator.diode", odd[at] ?? value, { at }));
}

/** Judging on a demo machine by a school, with leads already taken off and a fine meter. */
export function context(sheetId = "corvane-ferrel-650", school = "harbour", more: Partial<JudgingContext> = {}): JudgingContext {
  return {
    sheet: demoSheet(sheetId) as Sheet,
    school: schoolOf(school),
    meter: { name: "fine", leadOhms: 0.2, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 },
    ambientC: 20,
    ...more,
  };
}
