import { beforeEach, describe, expect, test } from "@jest/globals";
import type { Sheet } from "../core/machine/sheet";
import { DEMO_SHEETS } from "../demo/sheets";
import { openStore } from "../tests/support/store";
import type { Store } from "./store";

const NOW = "2026-06-01T10:00:00.000Z";
const sheet = DEMO_SHEETS[0] as Sheet;
let store: Store;

beforeEach(() => {
  store = openStore();
  for (const sheet of DEMO_SHEETS) store.sheets.add(sheet, NOW);
});

const byName = [...DEMO_SHEETS].sort((a, b) => (`${a.maker} ${a.model}` < `${b.maker} ${b.model}` ? -1 : 1));

describe("the shelf", () => {
  test("is handed out in stretches, by maker and model", () => {
    expect(store.sheets.count()).toBe(DEMO_SHEETS.length);
    expect([...store.sheets.list(5, 0), ...store.sheets.list(100, 5)].map((line) => line.sheet)).toEqual(byName);
    expect(store.sheets.all()).toEqual(byName);
    expect(store.sheets.names(3).map(({ ref }) => ref)).toEqual(byName.slice(0, 3).map(({ id }) => id));
    expect(store.sheets.offered(1)).toEqual([
      { id: byName[0]?.id, name: `${byName[0]?.maker} ${byName[0]?.model}`, kind: byName[0]?.kind, years: byName[0]?.years ?? null },
    ]);
  });

  test("gives some by their names in the order asked for, and leaves out what is none", () => {
    const [a, b] = [byName[4]?.id ?? "", byName[1]?.id ?? ""];
    expect(store.sheets.some([a, "none", b]).map((line) => line.sheet.id)).toEqual([a, b]);
  });

  test("keeps what a sheet said before each change, and nothing of one written as it stood", () => {
    store.sheets.change(sheet, "2026-06-02T10:00:00.000Z");
    expect(store.sheets.versions(sheet.id)).toEqual([]);
    store.sheets.change({ ...sheet, testRpm: 5100 }, "2026-06-03T10:00:00.000Z");
    store.sheets.change({ ...sheet, testRpm: 5200 }, "2026-06-04T10:00:00.000Z");
    expect(store.sheets.versions(sheet.id).map((version) => [version.sheet.testRpm, version.stoodFrom])).toEqual([
      [5100, "2026-06-03T10:00:00.000Z"],
      [sheet.testRpm, "2026-06-02T10:00:00.000Z"],
    ]);
    expect(store.sheets.versions("none")).toEqual([]);
  });

  test("is looked through for sheets alone", () => {
    store.workshop.addUnit({ tag: "SK-1", nickname: `${sheet.maker} own`, sheetId: sheet.id, usedFor: "" });
    expect(store.finds.look(sheet.maker, "sheet").every(({ kind }) => kind === "sheet")).toBe(true);
    expect(store.finds.look(sheet.maker).some(({ kind }) => kind === "machine")).toBe(true);
    expect(store.finds.look("SK", "sheet")).toEqual([]);
    expect(store.workshop.units(5)).toMatchObject([{ tag: "SK-1", model: `${sheet.maker} ${sheet.model}` }]);
  });
});
