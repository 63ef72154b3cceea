import { describe, expect, test } from "@jest/globals";
import { DEMO_SHEETS } from "../../demo/sheets";
import { CAUTIONS } from "../procedure/cautions";
import { FAMILY_IDS } from "./families/registry";
import { FAULTS, faultOf } from "./faults";
import { PARTS } from "./part";
import { REPAIRS } from "./repairs/repairs";
import { parseSheet, type Sheet } from "./sheet";
import { isUnlisted, unlistedSheet } from "./unlisted";
import { wireName } from "./wire";

const burro = DEMO_SHEETS.find((sheet) => sheet.id === "ostrel-burro-520") as Sheet;

function problems(change: Record<string, unknown>): string[] {
  const parsed = parseSheet({ ...burro, ...change });
  return parsed.ok ? [] : parsed.problems.map(({ field, error }) => `${field}: ${error}`);
}

describe("a sheet", () => {
  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s is sound and comes back as it was", (_id, sheet) => {
    expect(parseSheet(structuredClone(sheet))).toEqual({ ok: true, sheet });
  });

  test.each<[string, Record<string, unknown>, RegExp]>([
    ["no pole pairs", { polePairs: 0 }, /^polePairs: must be 1 or more$/],
    ["half a pole pair", { polePairs: 4.5 }, /^polePairs: must be a whole number$/],
    ["a band upside down", { bands: [{ test: "charge.volts", low: 15, high: 14 }] }, /^bands\.0\.low: must not be above the high figure$/],
    ["a band without figures", { bands: [{ test: "charge.volts" }] }, /^bands\.0\.low: needs a low figure/],
    ["a negative resistance", { bands: [{ test: "stator.resistance", low: -0.1, high: 1 }] }, /^bands\.0\.low: must be 0/],
    ["no legs", { legs: [] }, /^legs: needs at least one leg$/],
    ["a leg too few for its family", { legs: burro.legs.slice(0, 2) }, /^legs: a machine of the family “Three-phase .*” has 3 legs$/],
    ["the name of another page", { id: "new" }, /^id: may be neither “new” nor “import”/],
    ["two legs of one name", { legs: [burro.legs[0], burro.legs[0]] }, /^legs: two legs have the same name$/],
    ["idle above test rpm", { idleRpm: 4000, testRpm: 3000 }, /^idleRpm: must be below the test rpm$/],
    ["24 volts", { systemVolts: 24 }, /^systemVolts: must be 6 or 12$/],
    ["a family nobody knows", { family: "five-phase" }, /^family: “five-phase” is not a family this edition knows \(three-phase-shunt/],
    ["a colour nobody knows", { outputWire: { base: "mauve" } }, /^outputWire\.base: must be one of black, white/],
    ["a tachometer on a wire that it lacks", { tach: "4" }, /^tach: “4” gives a tachometer no pulses: one of 1, 2, 3 does$/],
    ["no fuse", { fuses: [] }, /^fuses: needs the fuse/],
    ["a field of another document", { horsepower: 40 }, /^horsepower: is not a field of this document$/],
    ["text for a number", { idleRpm: "slow" }, /^idleRpm: must be a number in rpm$/],
    ["no maker", { maker: undefined }, /^maker: is missing$/],
  ])("with %s is refused by its field", (_what, change, says) => {
    const found = problems(change);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(says);
  });

  test("every wrong field is named at once", () => {
    expect(problems({ polePairs: -2, idleRpm: 1, maker: "" })).toHaveLength(3);
  });
});

describe("a machine without a sheet", () => {
  test.each([6, 12] as const)("of %s volts gets a sound sheet without bands", (volts) => {
    for (const family of FAMILY_IDS) {
      const sheet = unlistedSheet(family, volts);
      expect(parseSheet(sheet).ok).toBe(true);
      expect(sheet.bands).toEqual([]);
      expect(isUnlisted(sheet)).toBe(true);
    }
    expect(isUnlisted(burro)).toBe(false);
  });
});

test("wires are named base first, tracer behind", () => {
  expect(wireName({ base: "yellow" })).toBe("yellow");
  expect(wireName({ base: "red", tracer: "white" })).toBe("red with white tracer");
});

describe("the faults", () => {
  test("are each named once, by their part, with a repair and something to look at first", () => {
    expect(new Set(FAULTS.map((fault) => fault.id)).size).toBe(FAULTS.length);
    for (const fault of FAULTS) {
      expect(PARTS).toContain(fault.part);
      expect(fault.id.startsWith(`${fault.part}.`)).toBe(true);
      const { repair, beforeOrdering, cautions } = REPAIRS[fault.id];
      expect(repair.length).toBeGreaterThan(1);
      expect(beforeOrdering).toMatch(/\.$/);
      for (const caution of cautions) expect(Object.keys(CAUTIONS)).toContain(caution);
      expect(faultOf(fault.id)).toBe(fault);
    }
  });

  test("never name themselves as their partner", () => {
    for (const { id, part } of FAULTS) expect(REPAIRS[id].partner?.part).not.toBe(part);
  });
});
