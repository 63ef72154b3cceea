import { describe, expect, test } from "@jest/globals";
import { jobIdOf, sheetIdOf, stretchOf } from "./params.server";

describe("what an address may carry", () => {
  test.each([
    ["7", 7],
    ["000012", 12],
    ["", undefined],
    ["-1", undefined],
    ["7.5", undefined],
    ["7e3", undefined],
    ["1'; DROP TABLE jobs", undefined],
    ["9".repeat(16), undefined],
    [undefined, undefined],
  ])("job %s: %s", (param, id) => expect(jobIdOf(param)).toBe(id));

  test.each([
    ["ostrel-burro-520", "ostrel-burro-520"],
    ["../secret", undefined],
    ["Ostrel", undefined],
    ["", undefined],
    ["a".repeat(61), undefined],
  ])("sheet %s: %s", (param, id) => expect(sheetIdOf(param)).toBe(id));

  test.each([
    ["", 1],
    ["?stretch=3", 3],
    ["?stretch=0", 1],
    ["?stretch=-2", 1],
    ["?stretch=many", 1],
    ["?stretch=1.5", 1],
  ])("the rail%s: stretch %s", (search, stretch) => expect(stretchOf(new Request(`http://localhost/${search}`))).toBe(stretch));
});
