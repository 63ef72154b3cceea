import { beforeEach, describe, expect, test } from "@jest/globals";
import { ASSUMED_PRICES } from "../core/diagnosis/planning/prices";
import type { Atlas } from "../core/diagnosis/population/charts";
import type { Sheet } from "../core/machine/sheet";
import { DEMO_SHEETS } from "../demo/sheets";
import { openStore } from "../tests/support/store";
import { atlasKey } from "./atlases";
import { predictionsKey } from "./predictions";
import { pricesSchema } from "./prices";
import type { Store } from "./store";

const sheet = DEMO_SHEETS[0] as Sheet;
const ATLAS = { sound: { seen: {} } } as unknown as Atlas;
let store: Store;

beforeEach(() => {
  store = openStore();
});

describe("charts that were drawn", () => {
  test("are found again under their key, and not under another; drawn anew they take the place of the old", () => {
    expect(store.atlases.has("k")).toBe(false);
    for (const day of [1, 2]) store.atlases.keep("k", ATLAS, `2026-01-0${day}`);
    expect(store.atlases.has("k")).toBe(true);
    expect(store.atlases.has("l")).toBe(false);
  });

  test("make room, the oldest first", () => {
    for (let n = 0; n < 302; n++) store.atlases.keep(`k${n}`, {}, `2026-01-01T00:${String(n).padStart(5, "0")}`);
    expect(["k0", "k1", "k2", "k301"].map((key) => store.atlases.has(key))).toEqual([false, false, true, true]);
  });

  test("belong to the machine's circuit: its name may change, its bands may not", () => {
    expect(atlasKey({ ...sheet, id: "own", maker: "Other", model: "Name", years: "1999", source: "typed in" })).toBe(atlasKey(sheet));
    const legs = sheet.legs.map((leg) => ({ ...leg, wire: { base: "pink" as const } }));
    expect(atlasKey({ ...sheet, legs, groundWire: { base: "grey" } })).toBe(atlasKey(sheet));
    expect(atlasKey({ ...sheet, testRpm: sheet.testRpm + 100 })).not.toBe(atlasKey(sheet));
    expect(atlasKey({ ...sheet, battery: { ...sheet.battery, ah: 99 } })).not.toBe(atlasKey(sheet));
    expect(new Set(DEMO_SHEETS.map(atlasKey)).size).toBe(DEMO_SHEETS.length);
  });
});

describe("packs of predictions", () => {
  test("are found byte for byte under their key until the oldest make room", () => {
    const body = Uint8Array.from([31, 139, 0, 255]);
    expect(store.predictions.find("k")).toBeUndefined();
    store.predictions.keep("k", body, "2026-01-01");
    expect(Uint8Array.from(store.predictions.find("k") ?? [])).toEqual(body);
    for (let n = 0; n < 400; n++) store.predictions.keep(`k${n}`, body, `2026-01-02T00:${String(n).padStart(5, "0")}`);
    expect([store.predictions.find("k"), store.predictions.find("k0") !== undefined]).toEqual([undefined, true]);
  });

  test("belong to a machine in some air with some parts mended; air a degree apart is the same", () => {
    const key = predictionsKey(sheet, 20, []);
    expect(predictionsKey({ ...sheet, maker: "Other" }, 21, [])).toBe(key);
    for (const other of [predictionsKey(sheet, 28, []), predictionsKey(sheet, 20, ["stator"]), predictionsKey({ ...sheet, testRpm: 4000 }, 20, [])])
      expect(other).not.toBe(key);
  });
});

describe("the shop's prices", () => {
  test("are the assumed ones until it enters its own", () => {
    expect(store.prices.get()).toEqual(ASSUMED_PRICES);
    const own = { ...ASSUMED_PRICES, labourPerHour: 84, parts: { ...ASSUMED_PRICES.parts, stator: { money: 312.5, minutes: 150 } } };
    store.prices.change(own);
    expect(store.prices.get()).toEqual(own);
    store.prices.change(ASSUMED_PRICES);
    expect(store.prices.get()).toEqual(ASSUMED_PRICES);
  });

  test("of a shop that priced its parts before one came into the program: that one is assumed, the others stay its own", () => {
    const { drive: _later, ...before } = ASSUMED_PRICES.parts;
    const own = { labourPerHour: 70, parts: { ...before, battery: { money: 99, minutes: 9 } } };
    store.prices.change(own as typeof ASSUMED_PRICES);
    expect(store.prices.get()).toEqual({ ...own, parts: { ...own.parts, drive: ASSUMED_PRICES.parts.drive } });
  });

  test.each<[string, unknown, RegExp]>([
    ["a negative price", { ...ASSUMED_PRICES, labourPerHour: -1 }, /must be 0 or more/],
    ["a price beyond belief", { ...ASSUMED_PRICES, labourPerHour: 1e9 }, /100,000 or less/],
    ["a word", { ...ASSUMED_PRICES, labourPerHour: "lots" }, /must be a number/],
    ["a part left out", { labourPerHour: 60, parts: {} }, /./],
    ["a part too many", { ...ASSUMED_PRICES, parts: { ...ASSUMED_PRICES.parts, horn: { money: 1, minutes: 1 } } }, /horn/],
    ["days of labour", { ...ASSUMED_PRICES, parts: { ...ASSUMED_PRICES.parts, rotor: { money: 1, minutes: 5000 } } }, /2,000 or less/],
  ])("%s is refused and named", (_what, body, says) => {
    const answer = pricesSchema.safeParse(body);
    expect(answer.success).toBe(false);
    expect(answer.error?.issues.map(({ path, message }) => `${path.join(".")}: ${message}`).join("\n")).toMatch(says);
  });
});
