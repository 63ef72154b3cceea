import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { DEMO_SHEETS } from "../../demo/sheets";
import { restVoltsAt } from "../battery/charge";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import { bandFor } from "./bands";
import { testOf } from "./catalogue";
import { checkValue } from "./entry";
import { type JudgingContext, judgeAll } from "./judge";
import { nextStep, runList } from "./runlist";
import { SCHOOLS, type School } from "./schools";
import type { Reading, Step } from "./step";

/** Works a machine from the first step to the last as the list asks, reading what `meter` shows. */
function work(sheet: Sheet, school: School, meter: (step: Step) => Reading["value"]): { readings: Reading[]; context: JudgingContext } {
  const context: JudgingContext = { sheet, school, meter: { name: "m", leadOhms: 0, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 3 }, ambientC: 20 };
  const readings: Reading[] = [];
  for (let turn = 0; turn < 300; turn++) {
    const step = nextStep(runList(sheet, school, judgeAll(readings, context), []));
    if (!step) return { readings, context };
    readings.push({ ...step, id: `t${turn}`, value: meter(step) });
  }
  throw new Error("the run list never ends");
}

/** What a healthy machine shows: the middle of the band. */
function healthy(sheet: Sheet, school: School) {
  return (step: Step): Reading["value"] => {
    const band = bandFor(step, sheet, school, 12.7 * (sheet.systemVolts / 12));
    if (band?.kind === "open") return "OL";
    if (band?.kind === "words") return band.good[0] as string;
    if (step.test === "battery.rest") return restVoltsAt(1, sheet.battery.chemistry, sheet.systemVolts);
    if (band?.kind !== "between") return 1;
    const { low, high } = band;
    return low !== undefined && high !== undefined ? (low + high) / 2 : low !== undefined ? low + 0.3 : (high ?? 0) / 2;
  };
}

const MACHINES: Sheet[] = [...DEMO_SHEETS, unlistedSheet("three-phase-shunt", 12), unlistedSheet("three-phase-shunt", 6)];
const every = MACHINES.flatMap((sheet) => SCHOOLS.map((school) => [`${sheet.id} by ${school.id}`, sheet, school] as const));

describe("a whole job down the run list", () => {
  test.each(every)("%s: on a healthy machine every reading is in its band, and no test is taken twice", (_name, sheet, school) => {
    const { readings, context } = work(sheet, school, healthy(sheet, school));
    const judged = judgeAll(readings, context);
    expect(
      judged
        .filter((judgedReading) => judgedReading.judged !== "in")
        .map((judgedReading) => [judgedReading.reading.test, judgedReading.value, judgedReading.judged]),
    ).toEqual([]);
    expect(new Set(readings.map((reading) => JSON.stringify([reading.test, reading.at, reading.rpm, reading.loads]))).size).toBe(readings.length);
  });

  test.each(every)("%s: a healthy job asks for nothing that only a fault calls for", (_name, sheet, school) => {
    const { readings } = work(sheet, school, healthy(sheet, school));
    expect(readings.every((reading) => !testOf(reading.test).onlyWhenAsked)).toBe(true);
  });

  test("whatever the meter shows, the list comes to an end and every figure could be kept", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...MACHINES),
        fc.constantFrom(...SCHOOLS),
        fc.infiniteStream(fc.double({ min: 0, max: 1, noNaN: true })),
        (sheet, school, chance) => {
          const { readings } = work(sheet, school, (step) => {
            const test_ = testOf(step.test);
            const draw = chance.next().value as number;
            if (test_.choices) return test_.choices[Math.floor(draw * test_.choices.length * 0.999)] as string;
            if (test_.openAllowed && draw < 0.2) return "OL";
            return test_.plausible[0] + draw * (test_.plausible[1] - test_.plausible[0]);
          });
          for (const reading of readings) expect(checkValue(reading.value, reading.test)).toEqual({ ok: true, value: reading.value });
        },
      ),
      { numRuns: 60 },
    );
  });
});
