import { describe, expect, test } from "@jest/globals";
import { sheetOf } from "../../tests/support/population";
import { moveWords } from "../diagnosis/words/words";
import { parseSheet } from "../machine/sheet";
import { layReady } from "./layReady";
import { beginningOf, movesTo } from "./moves";

const ferrel = sheetOf("corvane-ferrel-650");
const { access: _, ...silent } = ferrel;

describe("a sheet's ways in", () => {
  test("say what comes off and with what, and set the minutes until a place is open", () => {
    const at = (sheet: typeof ferrel) => movesTo({ test: "regulator.feed" }, {}, beginningOf(sheet), 2).moves.filter(({ id }) => id === "open");
    expect(at(ferrel).map(({ what, hands }) => [what, hands])).toEqual([
      ["unit", 6],
      ["battery", 2],
    ]);
    expect(at(silent).map(({ what, hands }) => [what, hands])).toEqual([
      ["unit", 3],
      ["battery", 1],
    ]);
    expect(moveWords(at(ferrel), ferrel)).toEqual([
      "Get to the regulator/rectifier: Tail cover off, two screws; tools: cross-head screwdriver.",
      "Get to the battery: Seat off, strap aside; tools: 5 mm hex.",
    ]);
    expect(moveWords(at(silent), silent)).toEqual(["Get to the regulator/rectifier.", "Get to the battery."]);
  });

  test("bring their tools to what is laid ready, each once, with those of the shop", () => {
    const list = layReady({ ...ferrel, access: [...(ferrel.access ?? []), { place: "generator", tools: "5 mm hex, pin puller" }] }, ["test-lamp", "clamp"]);
    expect(list).toEqual(expect.arrayContaining(["Test lamp", "Clamp ammeter", "5 mm hex", "Pin puller", "Cross-head screwdriver"]));
    expect(new Set(list).size).toBe(list.length);
    expect(list.at(-1)).toMatch(/^Goggles and gloves/);
    expect(layReady({ ...ferrel, loose: "regulator" }, []).join()).not.toMatch(/hex|grease/);
  });

  test("are refused by name: no such place, one place twice, minutes below nought", () => {
    const problems = (access: unknown): string[] => {
      const parsed = parseSheet({ ...ferrel, access });
      return parsed.ok ? [] : parsed.problems.map(({ field, error }) => `${field}: ${error}`);
    };
    expect(problems([{ place: "boot" }])).toEqual([expect.stringMatching(/^access\.0\.place: must be one of battery, /)]);
    expect(problems([{ place: "unit" }, { place: "unit" }])).toEqual(["access: names a place twice"]);
    expect(problems([{ place: "unit", minutes: -1 }])).toEqual(["access.0.minutes: must be 0 min or more"]);
    expect(problems([{ place: "unit", minutes: 4 }])).toEqual([]);
  });
});
