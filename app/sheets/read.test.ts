import { describe, expect, test } from "@jest/globals";
import { readSheetForm } from "./read.server";

const form = (fields: Record<string, string>): FormData => {
  const data = new FormData();
  for (const [name, value] of Object.entries(fields)) data.append(name, value);
  return data;
};
const refused = (fields: Record<string, string>): unknown => {
  try {
    return readSheetForm(form(fields)).status;
  } catch (error) {
    return (error as Response).status;
  }
};

describe("a posted sheet", () => {
  test.each(["legs", "legs[0]", "legs[0].wire", "battery", "legs.x", "fuses[0]"])(
    "“%s” given one plain value is passed over: no page could show it again",
    (name) => {
      const { payload } = readSheetForm(form({ id: "a", [name]: "x" }));
      expect(JSON.stringify(payload)).toBe('{"id":"a"}');
    },
  );

  test("a group of figures that is left empty is left out; half of one is read", () => {
    const errorsOf = (fields: Record<string, string>): string[] => Object.keys(readSheetForm(form({ family: "field-excited", ...fields })).reply().error ?? {});
    expect(
      errorsOf({ "wakes.aboveRpm": "", "wakes.afterSeconds": "", "loadAmps.normal": "", "loadAmps.all": "" }).filter((name) => /wakes|loadAmps/.test(name)),
    ).toEqual([]);
    expect(errorsOf({ "wakes.aboveRpm": "20", "wakes.afterSeconds": "" })).toContain("wakes.aboveRpm");
    expect(errorsOf({ "loadAmps.normal": "3", "loadAmps.all": "" })).toContain("loadAmps.all");
  });

  test("the form's own buttons add and take away lines", () => {
    const insert = { type: "insert", payload: { name: "bands" } };
    expect(readSheetForm(form({ id: "a", __intent__: JSON.stringify(insert) })).payload).toMatchObject({ id: "a", bands: [undefined] });
  });

  test("a field that is typed anew is looked through", () => {
    const validate = { type: "validate", payload: { name: "polePairs" } };
    expect(readSheetForm(form({ id: "a", polePairs: "0", __intent__: JSON.stringify(validate) })).payload).toMatchObject({ id: "a", polePairs: "0" });
  });

  test.each([
    "x",
    "{}",
    JSON.stringify({ type: "insert", payload: { name: "id" } }),
    JSON.stringify({ type: "insert", payload: { name: "legs", index: 99_999_999 } }),
    JSON.stringify({ type: "update", payload: { name: "legs", value: 3 } }),
  ])("a button that the form does not have is refused: %s", (intent) => expect(refused({ id: "a", __intent__: intent })).toBe(400));
});
