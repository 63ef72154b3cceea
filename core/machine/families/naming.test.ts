import { describe, expect, test } from "@jest/globals";
import { everyTwo, namePairs, nameTapped } from "./naming";

const OPEN = Number.POSITIVE_INFINITY;

describe("three wires of a tapped winding", () => {
  test.each([
    [{ "0-1": 0.4, "0-2": 0.9, "1-2": 1.3 }, ["C", "M", "A"]],
    [{ "0-1": 1.3, "0-2": 0.4, "1-2": 0.9 }, ["M", "A", "C"]],
    [{ "0-1": 0.9, "0-2": 1.35, "1-2": 0.4 }, ["A", "C", "M"]],
  ])("%j are %j", (ohms, names) => {
    expect(nameTapped(ohms)).toEqual({ names });
  });

  test.each([
    [{ "0-1": 0.4, "0-2": OPEN, "1-2": OPEN }, /open/],
    [{ "0-1": 0.8, "0-2": 0.8, "1-2": 0.8 }, /do not add up/],
    [{ "0-1": 0.6, "0-2": 0.6, "1-2": 1.2 }, /AC volts/],
  ])("%j cannot be named, and it says why", (ohms, says) => {
    expect(nameTapped(ohms)).toEqual({ again: expect.stringMatching(says) });
  });
});

describe("four wires of two windings", () => {
  const all = (joined: Record<string, number>) => ({ ...Object.fromEntries(everyTwo(4).map((pair) => [pair, OPEN])), ...joined });

  test("the pairs that conduct belong together, the lower one charges", () => {
    expect(namePairs(all({ "0-2": 1.7, "1-3": 0.5 }))).toEqual({ names: ["3", "1", "4", "2"] });
    expect(namePairs(all({ "0-1": 0.5, "2-3": 1.7 }))).toEqual({ names: ["1", "2", "3", "4"] });
  });

  test("one pair, three pairs or a wire in both is said", () => {
    expect(namePairs(all({ "0-1": 0.5 }))).toEqual({ again: expect.stringMatching(/Fewer than two/) });
    expect(namePairs(all({ "0-1": 0.5, "1-2": 0.6, "0-2": 0.9 }))).toEqual({ again: expect.stringMatching(/More than two/) });
    expect(namePairs(all({ "0-1": 0.5, "1-2": 0.6 }))).toEqual({ again: expect.stringMatching(/More than two/) });
  });

  test("every two of four are six", () => {
    expect(everyTwo(4)).toEqual(["0-1", "0-2", "0-3", "1-2", "1-3", "2-3"]);
  });
});
