import { describe, expect, test } from "@jest/globals";
import { DEMO_JOBS } from "../demo/jobs";
import { demoReadings } from "../demo/readings";
import { DEMO_SHEETS } from "../demo/sheets";
import { populationOf } from "../tests/support/population";
import { type Case, readCase, writeCase } from "./case";
import { resultOf as resultWith } from "./result";

const resultOf = (file: Case) => resultWith(file, populationOf(file.sheet));

const MACHINE: Record<string, string> = {
  "SK-102": "corvane-ferrel-650",
  "SK-109": "corvane-ferrel-650",
  "SK-114": "ostrel-burro-520",
  "SK-121": "ostrel-burro-520",
  "SK-133": "corvane-linnet-125",
  "SK-206": "brannoch-corrie-600",
  "SK-207": "brannoch-corrie-600",
  "SK-302": "tidewright-sound-40",
};

const METER = { name: "Meter 2", leadOhms: 0.15, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };

/** A demo job as a case file. */
function caseOf(unit: string): Case {
  const job = DEMO_JOBS.find((job) => job.unit === unit);
  const sheet = DEMO_SHEETS.find((sheet) => sheet.id === MACHINE[unit]);
  if (!job || !sheet) throw new Error(`no demo job for ${unit}`);
  return {
    sheet,
    ambientC: job.ambientC,
    complaint: job.complaint,
    words: job.words,
    batteryAgeYears: job.batteryAgeYears,
    school: job.school,
    tools: [],
    meter: METER,
    readings: demoReadings(job, sheet, METER).map((reading, i) => ({
      ...reading,
      id: String(i),
      ...(/resistance|toGround|regulator\.ground/.test(reading.test) ? { raw: true } : {}),
    })),
  };
}

const STATUS = ["found", "narrowed", "healthy", "contradiction", "not-enough"];
const JUDGED = ["low", "high", "in", "open", "shorted", "unequal", "info"];

describe("the result document keeps to the contract", () => {
  test.each(Object.keys(MACHINE))("%s: its own words, its own numbers, one entry a reading", (unit) => {
    const file = caseOf(unit);
    const result = resultOf(file);
    expect(STATUS).toContain(result.verdict.status);
    expect(result.readings).toHaveLength(file.readings.length);
    result.readings.forEach((reading, i) => {
      expect(reading.test).toBe(file.readings[i]?.test);
      expect(JUDGED).toContain(reading.judged);
      expect(["sheet", "school", "none"]).toContain(reading.bandFrom);
      if (Array.isArray(reading.band)) expect(reading.band).toHaveLength(2);
    });
    expect(result.verdict.odds).toBeGreaterThanOrEqual(0);
    for (const { odds } of [...result.parts, ...result.faults]) expect(odds).toBeLessThanOrEqual(1);
    for (const next of result.next) expect(next).toMatchObject({ test: expect.any(String), why: expect.any(String), minutes: expect.any(Number) });
    for (const cleared of result.ruledOut) for (const by of cleared.by) expect(file.readings[by]).toBeDefined();
    expect(JSON.parse(JSON.stringify(result))).toEqual(result);
  });

  test.each(Object.keys(MACHINE))("%s: through the case file and back, the same verdict", (unit) => {
    const file = caseOf(unit);
    const read = readCase(writeCase(file), () => undefined);
    if (!read.ok) throw new Error(JSON.stringify(read.problems));
    expect(resultOf(read.case)).toEqual(resultOf(file));
  });

  test("another school judges the same readings by its own limits", () => {
    const file = caseOf("SK-302");
    const bandOf = (school: string) => resultOf({ ...file, school }).readings.find((reading) => reading.test === "battery.rest")?.bandSays;
    expect(new Set(["harbour", "patrol", "parade"].map(bandOf)).size).toBe(3);
  });

  test("a doubtful reading that is the only one disagrees with no other", () => {
    const file = caseOf("SK-121");
    const alone = resultOf({ ...file, readings: [{ id: "1", test: "charge.volts", value: 45, rpm: file.sheet.testRpm, loads: "normal" }] });
    expect(alone.doubts.map(({ why }) => why)).toEqual([expect.stringMatching(/^Charging volts.* is not what such a machine shows; take it again$/)]);
  });

  test("words of an owner that this edition does not know lean nothing, and that is said with those it knows", () => {
    const file = { ...caseOf("SK-121"), readings: [], complaint: ["flat-overnight"] };
    expect(resultOf(file)).not.toHaveProperty("notes");
    const { notes, ...rest } = resultOf({ ...file, complaint: ["flat-overnight", "hums"] });
    expect(notes).toEqual([
      expect.stringMatching(/^complaint\.1: “hums” is not one this edition knows, and leans nothing; it knows flat-after-ride, .*new-accessory$/),
    ]);
    expect(rest).toEqual(resultOf(file));
  });

  test("without readings nothing is judged and nothing is ruled out", () => {
    expect(resultOf({ ...caseOf("SK-121"), readings: [] })).toMatchObject({ verdict: { status: "not-enough" }, readings: [], ruledOut: [], doubts: [] });
  });
});
