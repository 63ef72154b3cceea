import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { context } from "../../tests/support/readings";
import { CATALOGUE, type Test, type TestId } from "./catalogue";
import { checkEntry, checkValue, stepProblem } from "./entry";

const { sheet } = context();

describe("an entry", () => {
  test.each<[TestId, string, RegExp]>([
    ["battery.rest", "1e9", /cannot be\. Allowed: -20\.00 V to 80\.00 V/],
    ["stator.acVolts", "-4", /cannot be\. Allowed: 0 V AC to 750 V AC/],
    ["stator.resistance", "-3", /cannot be/],
    ["battery.rest", "OL", /open line is no answer here.*read in V/],
    ["inspect.connector", "blue", /not on the list.*clean, green, melted/],
    ["battery.rest", "", /Nothing was typed/],
    ["battery.rest", "abc", /not a number/],
    ["regulator.diode", "9", /cannot be/],
  ])("of %s: “%s” is refused and says what is allowed", (id, text, says) => {
    const entry = checkEntry(text, id);
    expect(entry.ok).toBe(false);
    if (!entry.ok) expect(entry.error).toMatch(says);
  });

  test.each<[TestId, string]>([
    ["stator.resistance", "12k"],
    ["battery.rest", "1.2"],
    ["charge.volts", "24"],
    ["drain.current", "9000"],
  ])("of %s: “%s” is kept after one question", (id, text) => {
    const entry = checkEntry(text, id);
    expect(entry).toMatchObject({ ok: true, question: expect.stringMatching(/unlikely here.*Keep it\?/) });
  });

  test.each<[TestId, string, number | string]>([
    ["stator.resistance", "0,41", 0.41],
    ["stator.toGround", "OL", "OL"],
    ["battery.crank", "10.4", 10.4],
    ["inspect.terminals", "tight", "tight"],
  ])("of %s: “%s” is taken without a word", (id, text, value) => {
    expect(checkEntry(text, id)).toEqual({ ok: true, value });
  });

  test("no number outside the possible is ever kept", () => {
    const measured = (CATALOGUE as readonly Test[]).filter((row) => row.unit !== "choice");
    fc.assert(
      fc.property(fc.constantFrom(...measured), fc.double(), (row, value) => {
        const checked = checkValue(value, row.id as TestId);
        const possible = value >= row.possible[0] && value <= row.possible[1];
        expect(checked.ok).toBe(possible);
      }),
    );
  });
});

describe("a step", () => {
  test.each([
    [{ test: "stator.resistance", at: "1-4" }, "at"],
    [{ test: "stator.resistance" }, "at"],
    [{ test: "battery.rest", at: "1" }, "at"],
    [{ test: "drain.fusePulled", at: "F9" }, "at"],
    [{ test: "charge.volts", loads: "normal" }, "rpm"],
    [{ test: "regulator.diode", at: "1>2" }, "at"],
  ] as const)("%o is refused at %s", (step, field) => {
    expect(stepProblem(step, sheet)?.field).toBe(field);
  });

  test("a pair may be named either way round", () => {
    expect(stepProblem({ test: "stator.resistance", at: "2-1" }, sheet)).toBeUndefined();
    expect(stepProblem({ test: "stator.acVolts", at: "1-3", rpm: 5000 }, sheet)).toBeUndefined();
  });
});
