import { describe, expect, test } from "@jest/globals";
import { beyondBounds } from "./bounds";
import { readCase } from "./case";

const nested = (depth: number): string => "[".repeat(depth) + "]".repeat(depth);

describe("a JSON text", () => {
  test.each([
    ["a plain one", '{"a":[1,2,{"b":"c"}]}'],
    ["brackets and commas in strings", JSON.stringify({ a: `${"[,{".repeat(5000)}"\\` })],
    ["as deep as may be", nested(32)],
    ["no JSON", "not a case"],
    ["nothing", ""],
  ])("within bounds: %s", (_what, text) => expect(beyondBounds(text)).toBeUndefined());

  test.each([
    ["too deep", nested(33), /nests deeper than 32 levels/],
    ["20,000 deep and never closed", '{"a":'.repeat(20_000), /nests deeper/],
    ["too many values", `[${"1,".repeat(100_001)}1]`, /holds more than 100,000 values/],
  ])("too much: %s", (_what, text, says) => {
    expect(beyondBounds(text)).toMatch(says);
    expect(readCase(text, () => undefined)).toEqual({ ok: false, problems: [{ field: "file", error: expect.stringMatching(says) }] });
  });

  test("where fewer may be sent, fewer are read", () => {
    const text = JSON.stringify([1, 2, 3]);
    expect(beyondBounds(text, 3)).toBeUndefined();
    expect(beyondBounds(text, 2)).toBe("holds more than 2 values");
  });
});
