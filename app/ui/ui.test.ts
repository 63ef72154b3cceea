import { describe, expect, test } from "@jest/globals";
import type { Sheet } from "../../core/machine/sheet";
import { DEMO_SHEETS } from "../../demo/sheets";
import { typedNumber } from "../../formats/typed";
import { readSheetForm } from "../sheets/read.server";
import { themeOf } from "../theme";
import { KEYS } from "./keys";

describe("a typed number", () => {
  test.each([
    ["12.5", 12.5],
    ["12,5", 12.5],
    [" 3 ", 3],
    ["-4", -4],
    [",5", 0.5],
    ["", undefined],
    ["   ", undefined],
    [null, undefined],
  ])("%s is %s", (typed, value) => expect(typedNumber(typed)).toBe(value));

  test.each(["abc", "1e9", "12 V", "1.2.3", "0x10"])("%s is left for the checks to refuse", (typed) => {
    expect(typedNumber(typed)).toBeNaN();
  });
});

describe("the theme", () => {
  const asked = (cookie: string | undefined) => themeOf(new Request("http://localhost/", cookie === undefined ? {} : { headers: { cookie } }));

  test.each([
    [undefined, "system"],
    ["theme=dark", "dark"],
    ["other=1; theme=light; more=2", "light"],
    ["theme=neon", "system"],
    ["mytheme=dark", "system"],
  ])("cookie %s: %s", (cookie, theme) => expect(asked(cookie)).toBe(theme));
});

test("every key is listed once", () => {
  expect(new Set(KEYS.map(([key]) => key)).size).toBe(KEYS.length);
});

describe("a posted sheet", () => {
  /** A sheet's fields as its form posts them. */
  function formOf(value: unknown, name = "", form = new FormData()): FormData {
    if (Array.isArray(value)) for (const [i, element] of value.entries()) formOf(element, `${name}[${i}]`, form);
    else if (typeof value === "object" && value !== null) for (const [key, field] of Object.entries(value)) formOf(field, name ? `${name}.${key}` : key, form);
    else form.append(name, String(value));
    return form;
  }

  test.each(DEMO_SHEETS.map((sheet) => [sheet.id, sheet] as const))("%s comes through its form as it was", (_id, sheet) => {
    const read = readSheetForm(formOf(sheet));
    expect(read.status === "success" && read.value).toEqual(sheet);
  });

  test("decimal commas are points, two empty load fields are none at all", () => {
    const form = formOf({ ...(DEMO_SHEETS[0] as Sheet), loadAmps: { normal: "", all: "" } });
    form.set("battery.ah", "9,5");
    const read = readSheetForm(form);
    expect(read.status === "success" && read.value.battery.ah).toBe(9.5);
    expect(read.status === "success" && read.value.loadAmps).toBeUndefined();
  });

  test("what is wrong comes back by field, with what was typed", () => {
    const form = formOf(DEMO_SHEETS[0]);
    form.set("polePairs", "0");
    form.set("bands[0].low", "99");
    const { error, initialValue } = readSheetForm(form).reply();
    expect(Object.keys(error ?? {})).toEqual(expect.arrayContaining(["polePairs", "bands[0].low"]));
    expect(initialValue).toMatchObject({ polePairs: "0" });
  });
});
