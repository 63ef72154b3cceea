import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../demo/sheets";
import type { Sheet } from "../machine/sheet";
import { ASSUMED_METER } from "../meter/meter";
import { schoolOf } from "../procedure/schools";
import type { Reading } from "../procedure/step";
import { LOGGED_TESTS, machineLog, type PastJob, scatterOf, seasonalShift } from "./log";
import { airByMonth, courseOf, warningOf } from "./warning";
import { warningWords } from "./words";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const NOW = Date.UTC(2026, 8, 1);

function job(id: number, at: string, ambientC: number, figures: Partial<Reading>[], more: Partial<PastJob> = {}): PastJob {
  const readings = figures.map((figure, k): Reading => ({ test: "battery.crank", id: `${id}-${k}`, value: 0, takenAt: at, ...figure }));
  return { id, openedAt: at, open: false, ambientC, sheet, school: schoolOf("harbour"), meter: ASSUMED_METER, readings, repairs: [], ...more };
}

const DAYS = ["2024-01-10", "2024-05-10", "2024-09-10", "2025-01-10", "2025-05-10", "2025-09-10", "2026-01-10", "2026-05-10"].map(
  (day) => `${day}T10:00:00.000Z`,
);
const AIR = [0, 14, 16, 0, 14, 16, 0, 14];
/** A dip that falls by half a volt a year, read in the air of the day. */
const falling = DAYS.map((at, k) =>
  job(k + 1, at, AIR[k] as number, [{ value: 11.9 - (0.5 * k) / 3 + seasonalShift(sheet, { test: "battery.crank" }, AIR[k] as number, ASSUMED_METER) }]),
);

describe("the log of a machine", () => {
  test("cold days lower a crank dip by the circuit's own arithmetic, and the log takes that off", () => {
    expect(seasonalShift(sheet, { test: "battery.crank" }, 0, ASSUMED_METER)).toBeLessThan(-0.25);
    expect(seasonalShift(sheet, { test: "battery.crank" }, 20, ASSUMED_METER)).toBe(0);
    expect(seasonalShift(sheet, { test: "stator.toGround", at: "1" }, -20, ASSUMED_METER)).toBe(0);
    const [log] = machineLog(falling);
    expect(log?.points.map(({ value }) => Number(value.toFixed(2)))).toEqual(DAYS.map((_, k) => Number((11.9 - (0.5 * k) / 3).toFixed(2))));
  });

  test("a falling dip is warned of, by the month whose cold brings it below its limit", () => {
    const [log] = machineLog(falling);
    if (!log) throw new Error("no log");
    const air = airByMonth([0, undefined, undefined, undefined, 14, undefined, undefined, undefined, 16]);
    const warning = warningOf(log, NOW, (month) => seasonalShift(sheet, log.step, air[month] as number, ASSUMED_METER));
    expect(warning).toMatchObject({ side: "low", limit: 10.5, course: "slope" });
    expect(warning && warningWords(log.step, warning, true)).toMatch(
      /^Crank dip falls 0\.[45]\d V a year at 20 °C: below 10\.50 V by (now|\w+ 202[67]), \d+ in \d+\.$/,
    );
    // Without the winter it would hold longer.
    const warm = warningOf(log, NOW, () => 0);
    expect(warm === undefined || warm.month.getTime() > (warning?.month.getTime() ?? 0)).toBe(true);
  });

  test("a repair that could have moved the figure begins a new line; any other does not", () => {
    const repaired = (part: string) =>
      machineLog(falling.map((pastJob, k) => (k === 4 ? { ...pastJob, repairs: [{ part, repairedAt: "2025-05-10T12:00:00.000Z" }] } : pastJob)))[0];
    expect(repaired("battery")).toMatchObject({ since: 5, repairs: [{ part: "battery", jobId: 5 }] });
    expect(repaired("rotor")).toMatchObject({ since: 0, repairs: [] });
  });

  test("figures of a job still on the bench are drawn, and are no course", () => {
    const failing = job(9, "2026-08-20T10:00:00.000Z", 17, [{ value: 7.1 }], { open: true });
    const [log] = machineLog([...falling, failing]);
    expect(log?.points).toHaveLength(9);
    expect(log?.change?.observations).toHaveLength(8);
  });

  test("of one job the last figure before and the last after the repair count; words, open lines and hot windings do not", () => {
    const logs = machineLog([
      job(1, DAYS[0] as string, 20, [
        { value: 10.1 },
        { value: 10.4 },
        { value: 10.6, afterRepair: true },
        { test: "stator.resistance", at: "1-2", value: 0.4, hot: true },
        { test: "stator.resistance", at: "2-3", value: "OL" },
        { test: "inspect.terminals", value: "tight" },
      ]),
    ]);
    expect(logs).toHaveLength(1);
    expect(logs[0]?.points.map(({ read, afterRepair }) => [read, afterRepair])).toEqual([
      [10.4, false],
      [10.6, true],
    ]);
    expect(logs[0]?.change).toBeUndefined();
  });

  test("every test it follows has a scatter that is more than nothing", () => {
    for (const id of LOGGED_TESTS) expect(scatterOf(id, 1, 12)).toBeGreaterThan(0);
    expect(scatterOf("charge.volts", 7, 6)).toBeCloseTo(scatterOf("charge.volts", 14, 12) / 2, 9);
  });

  test("the course is drawn from the first figure to the day asked for", () => {
    const [log] = machineLog(falling);
    if (!log?.change) throw new Error("no course");
    const course = courseOf(log.change, NOW);
    expect(course[0]?.at.toISOString().slice(0, 10)).toBe("2024-01-10");
    expect(course.at(-1)?.at.getTime()).toBeCloseTo(NOW, -3);
    expect(course.at(-1)?.mean).toBeLessThan(10.9);
  });

  test("a month without jobs lies between its neighbours; a shop without jobs is at 20 °C", () => {
    expect(airByMonth([0, undefined, 10])[1]).toBe(5);
    expect(airByMonth([])[5] ?? 20).toBe(20);
    expect(airByMonth(Array.from({ length: 12 }, () => undefined))).toEqual(Array.from({ length: 12 }, () => 20));
  });
});
