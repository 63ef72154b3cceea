import { describe, expect, test } from "@jest/globals";
import { openStore } from "../tests/support/store";
import { formOf, sendOnce, textOf } from "./forms.server";

const posted = (fields: [string, string][]): Request => new Request("http://uvrel.invalid/", { method: "POST", body: new URLSearchParams(fields) });

async function refusal(request: Request): Promise<[number, string]> {
  const thrown = await formOf(request).then(
    () => undefined,
    (error: unknown) => error,
  );
  if (!(thrown instanceof Response)) throw new Error(`not refused: ${String(thrown)}`);
  return [thrown.status, await thrown.text()];
}

describe("a posted form", () => {
  test("is read as it was sent", async () => {
    const form = await formOf(
      posted([
        ["legs[2].pin", "3"],
        ["words", "Charge lamp on."],
        ["meter-14", "x"],
      ]),
    );
    expect(Object.fromEntries(form)).toEqual({ "legs[2].pin": "3", words: "Charge lamp on.", "meter-14": "x" });
  });

  test.each<[string, [string, string][], number, RegExp]>([
    ["a list without end", [["legs[99999].id", "x"]], 400, /legs\[99999\]\.id is beyond the longest list/],
    ["the same by dots", [["bands.5000.low", "1"]], 400, /beyond the longest list/],
    ["more fields than any form has", Array.from({ length: 1001 }, (_, k) => [`f${k}`, ""]), 413, /1000 fields/],
    ["a name without end", [["x".repeat(101), ""]], 400, /100 characters/],
    ["a value without end", [["words", "x".repeat(2_000_001)]], 413, /words is larger than 2 MB/],
  ])("of %s is refused in one sentence", async (_what, fields, status, says) => {
    expect(await refusal(posted(fields))).toEqual([status, expect.stringMatching(says)]);
  });

  test("that is none is refused", async () => {
    const broken = new Request("http://uvrel.invalid/", { method: "POST", headers: { "Content-Type": "multipart/form-data; boundary=x" }, body: "--y broken" });
    expect(await refusal(broken)).toEqual([400, expect.stringMatching(/no form|not a form/)]);
  });
});

describe("a text that is sent as a file or pasted", () => {
  const form = (file: Blob | undefined, pasted?: string): FormData => {
    const data = new FormData();
    if (file) data.set("file", file, "a.csv");
    if (pasted !== undefined) data.set("table", pasted);
    return data;
  };

  test("is the file's where there is one, else what was pasted; a file that is too large is none", async () => {
    expect(await textOf(form(new Blob(["id;maker"]), "old"), "table")).toBe("id;maker");
    expect(await textOf(form(new Blob([]), "pasted"), "table")).toBe("pasted");
    expect(await textOf(form(undefined), "table")).toBe("");
    expect(await textOf(form(new Blob(["a".repeat(2_000_001)])), "table")).toBeUndefined();
  });
});

describe("a form sent twice", () => {
  const now = "2026-06-01T10:00:00.000Z";
  const form = (id: string): FormData => {
    const data = new FormData();
    data.set("formId", id);
    return data;
  };

  test("does one thing, and leads where it led the first time", async () => {
    const store = openStore();
    let done = 0;
    const work = (): string => `/jobs/${++done}`;
    expect(await sendOnce(store, form("form-0001"), now, work)).toBe("/jobs/1");
    expect(await sendOnce(store, form("form-0001"), now, work)).toBe("/jobs/1");
    expect(await sendOnce(store, form("form-0002"), now, work)).toBe("/jobs/2");
    expect(done).toBe(2);
  });

  test("may be sent again where it was refused, and where it broke half-way nothing of it stays", async () => {
    const store = openStore();
    expect(await sendOnce(store, form("form-0001"), now, () => undefined)).toBeUndefined();
    await expect(
      sendOnce(store, form("form-0001"), now, () => {
        store.workshop.changeShop({ ...store.workshop.shop(), name: "Half" });
        throw new Error("broke");
      }),
    ).rejects.toThrow("broke");
    expect(store.workshop.shop().name).not.toBe("Half");
    expect(await sendOnce(store, form("form-0001"), now, () => "/done")).toBe("/done");
  });

  test("without a number of its own it is done each time", async () => {
    const store = openStore();
    let done = 0;
    for (const id of ["", "x", "'; DROP TABLE jobs"]) await sendOnce(store, form(id), now, () => `/${++done}`);
    expect(done).toBe(3);
  });
});
