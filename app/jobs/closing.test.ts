import { setImmediate as turn } from "node:timers/promises";
import { describe, expect, test } from "@jest/globals";
import { advise } from "../../core/diagnosis/advice";
import { seedDemo } from "../../demo/workshop";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { populationOf } from "../../tests/support/population";
import { openStore } from "../../tests/support/store";
import { foreseeBehind, noteClosing, noteStatement } from "./closing.server";
import { factsIn, shopKnows } from "./file.server";

const NOW = new Date("2026-06-01T12:00:00.000Z");

function seeded(): { store: Store; file: (tag: string) => JobFile } {
  const store = openStore();
  seedDemo(store, NOW);
  return {
    store,
    file: (tag) => {
      const id = store.jobs.listOpen(30, 0).find(({ unitTag }) => unitTag === tag)?.id;
      return store.jobs.file(id ?? 0) as JobFile;
    },
  };
}

const recordOf = (store: Store, jobId: number) => store.records.look({}, 200, 0).lines.find((line) => line.jobId === jobId);

describe("what is noted as a job is mended and closed", () => {
  test("the part that stood first and its odds, as the kept advice has them, before the first repair alone", () => {
    const { store, file } = seeded();
    const skua = file("SK-114");
    // Nobody has worked anything out yet: nothing was stated.
    noteStatement(store, skua, NOW.toISOString());
    expect(recordOf(store, skua.job.id)?.partSaid).toBeNull();
    const facts = factsIn(skua, shopKnows(store, skua), false);
    store.advices.keep(skua.job.id, facts, advise(populationOf(skua.job.sheet), facts), NOW.toISOString());
    noteStatement(store, skua, NOW.toISOString());
    expect(recordOf(store, skua.job.id)).toMatchObject({ partSaid: "stator" });
    store.jobs.repair(skua.job.id, { part: "stator", fault: "stator.winding-grounded", found: null, done: "x" }, NOW.toISOString());
    store.jobs.close(skua.job.id, "proven", null, NOW.toISOString());
    const [step] = store.records.reliability({ unitTag: "SK-114", from: "2026-05-01" });
    expect(step).toMatchObject({ said: 1, right: 1 });
    expect(step?.odds).toBeGreaterThan(0.85);
  });

  test("the minutes that a closed job took", () => {
    const { store, file } = seeded();
    const { id } = file("SK-109").job;
    store.jobs.close(id, "unproven", null, NOW.toISOString());
    noteClosing(store, id);
    noteClosing(store, 99_999);
    expect(store.records.look({ unitTag: "SK-109", ending: "unproven" }, 5, 0).lines.map(({ jobId }) => jobId)).toEqual([id]);
  });

  test("what its machine's log foresees, once the page is out; a part by itself and an open job have none", async () => {
    const { store, file } = seeded();
    store.foresights.keep("SK-305", [], NOW.toISOString());
    expect(store.foresights.list(10).some(({ tag }) => tag === "SK-305")).toBe(false);
    const [latest] = store.jobs.ofUnit("SK-305", 1) as [number];
    foreseeBehind(store, latest, NOW);
    foreseeBehind(store, file("SK-114").job.id, NOW);
    foreseeBehind(store, 99_999, NOW);
    await turn();
    expect(store.foresights.list(10).find(({ tag }) => tag === "SK-305")?.foreseen[0]?.says).toMatch(/^Crank dip falls/);
    expect(store.foresights.list(10).some(({ tag }) => tag === "SK-114")).toBe(false);
  });
});
