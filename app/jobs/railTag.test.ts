import { setTimeout as pause } from "node:timers/promises";
import { beforeEach, describe, expect, jest, test } from "@jest/globals";
import { seedDemo } from "../../demo/workshop";
import type { Store } from "../../store/store";
import { openStore } from "../../tests/support/store";
import { shopKnowing } from "./file.server";
import { railTagsOf } from "./railTag.server";

const NOW = new Date("2026-06-01T10:00:00.000Z");
let store: Store;
const open = () => store.jobs.listOpen(50, 0);
const tags = () => railTagsOf(store, open(), () => shopKnowing(store));
const settled = () => pause(20);

beforeEach(() => {
  store = openStore();
  seedDemo(store, NOW);
});

describe("the tags of the rail", () => {
  test("tell minutes and repairs, and no odds that nobody has worked out", async () => {
    while (tags().includes(undefined)) await settled();
    for (const [k, tag] of tags().entries()) {
      const file = store.jobs.file(open()[k]?.id ?? 0);
      expect(tag).toMatchObject({ ready: false, repaired: (file?.repairs.length ?? 0) > 0 });
      expect((tag?.minutes ?? 0) > 0).toBe((file?.history.length ?? 0) > 0);
    }
  });

  test("are drawn once: the next look reads no job, until something about one changes", async () => {
    while (tags().includes(undefined)) await settled();
    const first = tags();
    const read = jest.spyOn(store.jobs, "file");
    expect(tags()).toEqual(first);
    expect(read).not.toHaveBeenCalled();
    const [job] = open();
    store.jobs.repair(job?.id ?? 0, { part: "battery", fault: null, found: null, done: "Battery renewed." }, NOW.toISOString());
    expect(tags()[0]).toMatchObject({ repaired: true });
    expect(read).toHaveBeenCalledTimes(1);
  });

  test("that take long hold no page up: they are drawn behind it, one at a time", async () => {
    const file = store.jobs.file.bind(store.jobs);
    jest.spyOn(store.jobs, "file").mockImplementation((id) => {
      for (const end = performance.now() + 40; performance.now() < end; );
      return file(id);
    });
    const first = tags();
    expect(first[0]).toBeDefined();
    expect(first.at(-1)).toBeUndefined();
    while (tags().includes(undefined)) await settled();
    expect(tags()).toHaveLength(open().length);
  });
});
