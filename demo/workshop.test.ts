import { describe, expect, test } from "@jest/globals";
import { conclude } from "../core/diagnosis/flowchart/flowchart";
import { ASSUMED_METER } from "../core/meter/meter";
import { checkValue, stepProblem } from "../core/procedure/entry";
import { schoolOf } from "../core/procedure/schools";
import { current } from "../store/readings";
import { openStore } from "../tests/support/store";
import { DEMO_JOBS } from "./jobs";
import { demoReadings } from "./readings";
import { DEMO_SHEETS } from "./sheets";
import { seedDemo } from "./workshop";

const now = new Date("2026-06-01T12:00:00Z");

function seeded() {
  const store = openStore();
  seedDemo(store, now);
  return store;
}

/** What each demo job's readings come to by the fixed order. */
const EXPECTED: Record<string, { status: string; fault?: string }> = {
  "SK-121": { status: "not-enough" },
  "SK-302": { status: "narrowed", fault: "battery.discharged" },
  "SK-207": { status: "not-enough" },
  "SK-114": { status: "found", fault: "stator.winding-grounded" },
  "SK-109": { status: "found", fault: "regulator.no-output" },
  "SK-133": { status: "found", fault: "wiring.output-resistance" },
  "SK-102": { status: "found", fault: "loads.parasitic" },
  "SK-206": { status: "found", fault: "regulator.set-high" },
};

describe("the demo workshop", () => {
  test("has its fleet, its sheets and its jobs", () => {
    const store = seeded();
    expect(store.workshop.units().length).toBeGreaterThanOrEqual(6);
    expect(store.sheets.list().length).toBe(DEMO_SHEETS.length);
    expect(store.jobs.count()).toEqual({ open: 7, closed: 1 });
    expect(store.jobs.listClosed(5)[0]).toMatchObject({ unitTag: "SK-206", ending: "proven" });
  });

  test.each(DEMO_JOBS.map((job) => [job.unit, job] as const))("%s: every reading is one a mechanic could keep", (_tag, job) => {
    const store = seeded();
    const sheet = store.sheets.find(store.workshop.unit(job.unit)?.sheetId ?? "");
    if (!sheet) throw new Error(`no sheet for ${job.unit}`);
    for (const reading of demoReadings(job, sheet, ASSUMED_METER)) {
      expect(stepProblem(reading, sheet)).toBeUndefined();
      expect(checkValue(reading.value, reading.test)).toEqual({ ok: true, value: reading.value });
    }
  });

  test.each(Object.entries(EXPECTED))("%s comes to what its story says", (tag, expected) => {
    const store = seeded();
    const job = [...store.jobs.listOpen(20, 0), ...store.jobs.listClosed(20)].find((one) => one.unitTag === tag);
    if (!job) throw new Error(`no job for ${tag}`);
    const readings = current(store.jobs.readings.of(job.id));
    const verdict = conclude(readings, { sheet: job.sheet, school: schoolOf(job.school), meter: job.meter, ambientC: job.ambientC });
    expect(verdict).toMatchObject(expected);
  });

  test("no time lies in the future, and jobs begin before their readings", () => {
    const store = seeded();
    for (const job of [...store.jobs.listOpen(20, 0), ...store.jobs.listClosed(20)]) {
      const times = [job.openedAt, ...store.jobs.readings.of(job.id).map((reading) => reading.takenAt)];
      expect([...times].sort()).toEqual(times);
      expect(new Date(times.at(-1) ?? "").getTime()).toBeLessThanOrEqual(now.getTime());
    }
  });
});
