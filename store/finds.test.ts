import { beforeEach, describe, expect, test } from "@jest/globals";
import { seedDemo } from "../demo/workshop";
import { openStore } from "../tests/support/store";
import type { Store } from "./store";

const NOW = "2026-06-01T10:00:00.000Z";
let store: Store;

beforeEach(() => {
  store = openStore();
  seedDemo(store, new Date(NOW));
});

const refs = (typed: string): string[] => store.finds.look(typed).map(({ kind, ref }) => `${kind} ${ref}`);

describe("looking for anything", () => {
  test.each([
    ["sk-207", "machine SK-207"],
    ["Hare", "machine SK-207"],
    ["ferrel", "sheet corvane-ferrel-650"],
    ["650 corv", "sheet corvane-ferrel-650"],
  ])("“%s” finds %s first", (typed, first) => {
    expect(refs(typed)[0]).toBe(first);
  });

  test("a typing error still finds it", () => {
    expect(refs("ferell").slice(0, 4)).toContain("sheet corvane-ferrel-650");
    expect(refs("tidewrigth")[0]).toMatch(/^sheet tidewright-/);
  });

  test("one or two letters find what begins so", () => {
    const machines = store.finds.look("s");
    expect(machines.length).toBeGreaterThan(5);
    expect(machines.every(({ title }) => /^S|SK/.test(title))).toBe(true);
    expect(refs("%")).toEqual([]);
  });

  test("signs of the index's own language are letters like others", () => {
    for (const typed of ['"', 'a" OR "b', "NEAR(x", "title:sk-", "***", "'; DROP TABLE finds;--", "   "]) expect(() => store.finds.look(typed)).not.toThrow();
    expect(store.finds.look("title:sk-207")).not.toHaveLength(0);
    expect(store.finds.look("   ")).toEqual([]);
  });

  test("what is taken in, noted, put with a machine and changed is found at once", () => {
    const sheet = store.sheets.find("corvane-ferrel-650");
    if (!sheet) throw new Error("no sheet");
    const { id: _, ...meter } = store.workshop.meter();
    const job = store.jobs.open(
      { unitTag: null, nickname: "Quokka", sheet, school: "harbour", meter, ambientC: 20, batteryAgeYears: null, complaint: [], words: "Mumbles." },
      NOW,
    );
    expect(refs("quokka")).toEqual([`job ${job}`]);
    expect(refs("mumbles")).toEqual([`job ${job}`]);
    store.jobs.join(job, "SK-102");
    expect(store.finds.look("quokka")[0]?.title).toBe("SK-102 Quokka");
    store.jobs.close(job, "unproven", "Belt glazed.", NOW);
    expect(refs("glazed")).toEqual([`job ${job}`]);
    store.sheets.change({ ...sheet, model: "Wombat 650" }, NOW);
    expect(refs("wombat")).toEqual(["sheet corvane-ferrel-650"]);
    expect(store.finds.look("ferrel").filter(({ title }) => title.includes("Ferrel"))).toEqual([]);
  });
});
