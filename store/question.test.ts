import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { addressOf, questionOf } from "./question";

const asked = (address: string) => questionOf(new URLSearchParams(address));

describe("a question in an address", () => {
  test("is read whole: words, part, days, a test with its figures", () => {
    expect(asked("words=radar&part=drive&ending=proven&kind=boat&from=2026-01-01&to=2026-05-31&test=charge.volts&least=12,5&most=15.2").question).toEqual({
      words: "radar",
      part: "drive",
      ending: "proven",
      kind: "boat",
      from: "2026-01-01",
      to: "2026-05-31",
      test: "charge.volts",
      least: 12.5,
      most: 15.2,
    });
  });

  test("what is empty, or none of its fields, narrows nothing", () => {
    expect(asked("")).toEqual({ question: {}, typed: {}, errors: {} });
    expect(asked("words=&part=&colour=green&least=").question).toEqual({});
    expect(asked("words=%20%20frost%20").typed).toEqual({ words: "frost" });
  });

  test.each<[string, string, RegExp]>([
    ["part=wing", "part", /Pick a part/],
    ["kind=plane", "kind", /Pick a kind/],
    ["ending=sold", "ending", /Pick how/],
    ["test=battery.colour", "test", /Pick a test/],
    ["from=31.5.2026", "from", /Must be a day, as 2026-05-31/],
    ["to=2026-13-01", "to", /Must be a day/],
    ["test=charge.volts&least=much", "least", /Must be a number/],
    ["least=12", "test", /Pick the test that the figures are of/],
    ["test=charge.volts&least=15&most=12", "most", /Must not lie below the least/],
    ["from=2026-05-02&to=2026-05-01", "to", /Must not lie before the first day/],
    [`words=${"x".repeat(121)}`, "words", /120 characters/],
    [`unitTag=${"x".repeat(21)}`, "unitTag", /20 characters/],
  ])("%s: said by field, and what was typed stays", (address, field, says) => {
    const { errors, typed } = asked(address);
    expect(errors[field]).toMatch(says);
    expect(typed).toEqual(Object.fromEntries(new URLSearchParams(address)));
  });

  test("what is wrong is left out, and the rest still narrows", () => {
    expect(asked("part=wing&words=frost").question).toEqual({ words: "frost" });
  });

  test("goes back into an address and comes out as it was", () => {
    const field = fc.constantFrom("words", "unitTag", "sheetId", "part", "least");
    fc.assert(
      fc.property(
        fc.dictionary(
          field,
          fc.string({ minLength: 1, maxLength: 15 }).filter((text) => text.trim() === text && text !== ""),
        ),
        (typed) => {
          expect(asked(addressOf(typed).slice(1)).typed).toEqual({ ...typed });
        },
      ),
    );
    expect(addressOf({})).toBe("");
    expect(addressOf({ words: "a b" }, { show: "counts" })).toBe("?words=a+b&show=counts");
  });
});
