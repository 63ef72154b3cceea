import { beforeEach, describe, expect, test } from "@jest/globals";
import type { Sheet } from "../core/machine/sheet";
import { DEMO_SHEETS } from "../demo/sheets";
import { openStore } from "../tests/support/store";
import type { Store } from "./store";
import { MOST_DRAWN, type NewTrace, newTraceSchema } from "./traces";

const NOW = "2026-06-01T10:00:00.000Z";
const trace: NewTrace = {
  id: "trace-0001",
  name: "morning.csv",
  seconds: 30,
  rate: 100,
  phases: [
    { phase: "rest", from: 0, to: 10, volts: 12.7 },
    { phase: "gap", from: 10, to: 30 },
  ],
  drawn: { seconds: [0, 10], lowest: [12.6, 12.7], highest: [12.7, 12.8] },
};
let store: Store;
let job: number;

beforeEach(() => {
  store = openStore();
  job = store.jobs.open(
    {
      unitTag: null,
      nickname: "Dunlin",
      sheet: DEMO_SHEETS[0] as Sheet,
      school: "harbour",
      meter: { name: "M", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 },
      ambientC: 20,
      batteryAgeYears: null,
      complaint: [],
      words: "",
    },
    NOW,
  );
});

describe("traces", () => {
  test("come back as they were kept, each once however often it is sent, and of their own job only", () => {
    store.traces.keep(job, trace, false, NOW);
    store.traces.keep(job, trace, false, NOW);
    store.traces.keep(job, { ...trace, id: "trace-0002" }, true, NOW, "Ailsa");
    expect(store.traces.of(job)).toEqual([
      { ...trace, afterRepair: false, keptAt: NOW, by: null },
      { ...trace, id: "trace-0002", afterRepair: true, keptAt: NOW, by: "Ailsa" },
    ]);
    expect(store.traces.of(job + 1)).toEqual([]);
  });

  test("are listed over all jobs, the latest first, with the machine that each is of, and no more than are asked for", () => {
    for (const [n, after] of [false, true, false].entries()) store.traces.keep(job, { ...trace, id: `trace-000${n}`, name: `log ${n}` }, after, NOW);
    const listed = store.traces.latest(2);
    expect(listed.map(({ name, afterRepair }) => [name, afterRepair])).toEqual([
      ["log 2", false],
      ["log 1", true],
    ]);
    expect(listed[0]).toEqual({
      id: "trace-0002",
      name: "log 2",
      seconds: 30,
      rate: 100,
      afterRepair: false,
      keptAt: NOW,
      jobId: job,
      unitTag: null,
      nickname: "Dunlin",
    });
  });

  test.each([
    ["a phase that is none", { phases: [{ phase: "asleep", from: 0, to: 1 }] }],
    ["more steps than a page shows", { drawn: { seconds: Array(MOST_DRAWN + 1).fill(0), lowest: [], highest: [] } }],
    ["fewer figures than times", { drawn: { seconds: [0, 1], lowest: [1], highest: [1, 2] } }],
    ["no name", { name: " " }],
    ["an id that is none", { id: "x" }],
  ])("%s is refused", (_what, wrong) => {
    expect(newTraceSchema.safeParse({ ...trace, ...wrong }).success).toBe(false);
  });
});
