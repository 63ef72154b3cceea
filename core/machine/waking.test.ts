import { describe, expect, test } from "@jest/globals";
import { sheetOf } from "../../tests/support/population";
import { ASSUMED_METER } from "../meter/meter";
import { readMeter } from "../meter/read";
import { conditionOf, stateOf } from "./condition";
import { parseSheet, type Sheet } from "./sheet";
import { isAsleep, Wakefulness, wakingWords } from "./waking";

const launch: Sheet = { ...sheetOf("tidewright-farway-29"), wakes: { aboveRpm: 1400, afterSeconds: 5 } };
const RUNNING = { engine: "running", key: "on", rpm: 3000, loads: "normal", unplug: [], pulled: [] } as const;

describe("a generator that wakes late", () => {
  test("gives nothing until it has woken: the volts stay below those of the battery at rest", () => {
    const state = stateOf(launch, conditionOf([], { charge: 0.8 }), true);
    const volts = (awake?: boolean): number =>
      Number(readMeter(state, { ...RUNNING, ...(awake === undefined ? {} : { awake }) }, "V DC", { red: "battery+", black: "battery-" }, ASSUMED_METER).value);
    expect(volts(false)).toBeLessThan(12.7);
    expect(volts()).toBeGreaterThan(13.7);
    expect(volts(true)).toBe(volts());
  });

  test("is asleep only where its sheet says that it wakes late, and while it runs", () => {
    const { wakes: _, ...atOnce } = launch;
    expect(isAsleep(launch, { ...RUNNING, awake: false })).toBe(true);
    expect(isAsleep(launch, RUNNING)).toBe(false);
    expect(isAsleep(launch, { ...RUNNING, engine: "off", awake: false })).toBe(false);
    expect(isAsleep(atOnce, { ...RUNNING, awake: false })).toBe(false);
  });

  test("wakes some seconds after it was revved, stays awake at idle, and sleeps again once stopped", () => {
    const wakefulness = new Wakefulness(launch);
    wakefulness.ran(850, 60);
    expect(wakefulness.awake).toBe(false);
    wakefulness.ran(1500, 4);
    expect(wakefulness.awake).toBe(false);
    wakefulness.ran(850, 1.5);
    expect(wakefulness.awake).toBe(true);
    wakefulness.stopped();
    expect(wakefulness.awake).toBe(false);
    expect(new Wakefulness({ family: "three-phase-shunt", wakes: undefined }).awake).toBe(true);
  });

  test("is said beside what is read on it, as far as anybody knows", () => {
    expect(wakingWords(launch)).toBe("It wakes late: rev it past 1,400 rpm once, then count 5 s before you read.");
    expect(wakingWords({ ...launch, wakes: { afterSeconds: 8 } })).toBe("It wakes late: count 8 s before you read.");
    expect(wakingWords({ family: "field-excited", wakes: undefined })).toMatch(/^Some wake late/);
    expect(wakingWords({ family: "three-phase-shunt", wakes: undefined })).toBeUndefined();
  });

  test("a sheet that says so of a unit that shorts what is too much, or says neither speed nor seconds, is refused by name", () => {
    const problems = (sheet: object): string[] => {
      const parsed = parseSheet(sheet);
      return parsed.ok ? [] : parsed.problems.map(({ field, error }) => `${field}: ${error}`);
    };
    expect(problems(launch)).toEqual([]);
    expect(problems({ ...sheetOf("corvane-ferrel-650"), wakes: { aboveRpm: 1500 } })).toEqual([
      expect.stringMatching(/^wakes\.aboveRpm: .+ charges from the first turn$/),
    ]);
    expect(problems({ ...launch, wakes: {} })).toEqual(["wakes.aboveRpm: needs the rpm, the seconds or both"]);
    expect(problems({ ...launch, wakes: { aboveRpm: 20 } })).toEqual(["wakes.aboveRpm: must be 300 rpm or more"]);
  });
});
