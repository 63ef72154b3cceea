import { describe, expect, test } from "@jest/globals";
import { factsIn, shopKnows } from "../app/jobs/file.server";
import { advise } from "../core/diagnosis/advice";
import type { Remedy } from "../core/diagnosis/remedies";
import { ASSUMED_METER } from "../core/meter/meter";
import { checkValue, stepProblem } from "../core/procedure/entry";
import { populationOf } from "../tests/support/population";
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

/** What each demo job's readings, as the machine came in, come to: the likeliest part and whether it is sure; nothing where the search has hardly begun. */
const EXPECTED: Record<string, { part: Remedy; sure: boolean }> = {
  "SK-302": { part: "charge", sure: false },
  "SK-114": { part: "stator", sure: true },
  "SK-109": { part: "regulator", sure: true },
  "SK-133": { part: "wiring", sure: true },
  "SK-102": { part: "loads", sure: true },
  "SK-401": { part: "regulator", sure: true },
  "SK-404": { part: "stator", sure: true },
  "SK-213": { part: "stator", sure: true },
  "SK-118": { part: "stator", sure: true },
  "SK-310": { part: "rotor", sure: true },
  "SK-117": { part: "stator", sure: true },
  "SK-206": { part: "regulator", sure: true },
};

describe("the demo workshop", () => {
  test("has its fleet, its sheets and its jobs", () => {
    const store = seeded();
    expect(store.workshop.units(100).length).toBeGreaterThanOrEqual(6);
    expect(store.sheets.all().length).toBe(DEMO_SHEETS.length);
    expect(store.jobs.count()).toEqual({ open: 14, closed: 39 });
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
    const job = [...store.jobs.listOpen(20, 0), ...store.jobs.listClosed(20)].find(({ unitTag }) => unitTag === tag);
    const file = job && store.jobs.file(job.id);
    if (!file) throw new Error(`no job for ${tag}`);
    const advice = advise(populationOf(file.job.sheet), factsIn(file, shopKnows(store, file), true));
    expect(advice.parts[0]?.what).toBe(expected.part);
    expect(advice.sure.some(({ part }) => part === expected.part)).toBe(expected.sure);
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
