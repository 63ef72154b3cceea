import { describe, expect, test } from "@jest/globals";
import Papa from "papaparse";
import { DEMO_SHEETS } from "../demo/sheets";
import { readSheets, writeSheetTable } from "./sheetTable";

const [whole] = DEMO_SHEETS;
if (!whole) throw new Error("no sheet");
const table = writeSheetTable([whole]);
const [header = "", first = "", ...rest] = table.split("\r\n").filter(Boolean);
const read = (text: string) => readSheets(text, async () => undefined);
const problemsOf = async (text: string): Promise<string[]> => (await read(text)).problems.map(({ row, column, error }) => `${row} ${column}: ${error}`);
const withCell = (line: string, column: string, cell: string): string => {
  const [cells = []] = Papa.parse<string[]>(line).data;
  return Papa.unparse([cells.map((old, i) => (i === header.split(",").indexOf(column) ? cell : old))]);
};

describe("sheets as a table", () => {
  test("every sheet of the demo comes back as it was, one row a band", async () => {
    const text = writeSheetTable(DEMO_SHEETS);
    const { sheets, problems } = await read(text);
    expect(problems).toEqual([]);
    expect(sheets).toEqual(DEMO_SHEETS);
    expect(text.trim().split("\r\n")).toHaveLength(1 + DEMO_SHEETS.reduce((sum, { bands }) => sum + Math.max(1, bands.length), 0));
  });

  test("semicolons and decimal commas are read, and so is a mark at the beginning of the file", async () => {
    const rows = Papa.parse<string[]>(table.trim()).data.map((cells) => cells.map((cell) => (/^\d+\.\d+$/.test(cell) ? cell.replace(".", ",") : cell)));
    const text = `\uFEFF${Papa.unparse(rows, { delimiter: ";" })}`;
    expect(text).toContain(";13,8;14,9;");
    expect(await read(text)).toEqual({ sheets: [whole], problems: [] });
  });

  test("no cell that goes out begins like a formula, and what was marked so comes back without the mark", async () => {
    const odd = { ...whole, source: "=HYPERLINK(1)", years: "+2001" };
    const text = writeSheetTable([odd]);
    expect(text).toContain("'=HYPERLINK(1)");
    expect(text).not.toMatch(/(^|[,"])[=+@]/m);
    expect((await read(text)).sheets).toEqual([odd]);
  });
});

describe("what is wrong is named row by row, and that sheet is not kept", () => {
  test("columns that lack or are none of a sheet", async () => {
    expect(await problemsOf("id,model\r\na,b")).toEqual(["1 header: lacks the columns maker, family, test; it has id, model"]);
    expect(await problemsOf(`${header},colour\r\n`)).toEqual(["1 header: has columns that are none of a sheet: colour"]);
    expect(await problemsOf("")).toEqual([expect.stringMatching(/^1 header: lacks the columns id, /)]);
  });

  test("another encoding", async () => {
    expect(await problemsOf(`${header}\r\nb\uFFFDc`)).toEqual(["1 table: is not in UTF-8; save it as “CSV UTF-8”"]);
  });

  test("a figure that is none, a band upside down, a row without a name, a family that nobody knows", async () => {
    expect((await problemsOf([header, withCell(first, "idleRpm", "1.200,5"), ...rest].join("\r\n")))[0]).toMatch(/^2 (idleRpm|row): /);
    expect(await problemsOf([header, withCell(withCell(first, "low", "9"), "high", "2"), ...rest].join("\r\n"))).toEqual([
      "2 low: must not be above the high figure",
    ]);
    expect(await problemsOf([header, first, withCell(rest[0] ?? "", "id", "")].join("\r\n"))).toEqual(["3 id: is missing: every row names its sheet"]);
    expect((await problemsOf([header, withCell(first, "family", "steam"), ...rest].join("\r\n")))[0]).toMatch(/^2 family: “steam” is not a family/);
  });

  test("a band twice, and a model that contradicts itself", async () => {
    expect(await problemsOf([header, first, rest[0], rest[0]].join("\r\n"))).toEqual(["4 test: is the band of row 3 once more"]);
    expect(await problemsOf([header, first, withCell(rest[0] ?? "", "model", "Other")].join("\r\n"))).toEqual([
      `3 model: differs from row 2: “Other” is not “${whole.model}”`,
    ]);
  });

  test("the others are not held back by it", async () => {
    const [sheet, other] = DEMO_SHEETS;
    if (!sheet || !other) throw new Error("no sheets");
    const [, ...lines] = writeSheetTable([sheet, other]).split("\r\n").filter(Boolean);
    const { sheets, problems } = await read([header, withCell(lines[0] ?? "", "chemistry", "water"), ...lines.slice(1)].join("\r\n"));
    expect(problems.map(({ row, column }) => [row, column])).toEqual([[2, "chemistry"]]);
    expect(sheets).toEqual([other]);
  });
});

describe("sheets as a list of documents", () => {
  test("come back as they were, with a mark before them or not", async () => {
    expect(await read(JSON.stringify(DEMO_SHEETS))).toEqual({ sheets: DEMO_SHEETS, problems: [] });
    expect(await read(`\uFEFF${JSON.stringify(whole)}`)).toEqual({ sheets: [whole], problems: [] });
  });

  test("a document with something wrong is told by its place, and the others can be kept", async () => {
    const upsideDown = { ...whole, id: "upside-down", bands: [{ test: "charge.volts", rpm: 5000, low: 15, high: 14 }] };
    const { sheets, problems } = await read(JSON.stringify([whole, upsideDown, whole, 7]));
    expect(sheets).toEqual([whole]);
    expect(problems.map(({ row, column }) => `${row} ${column}`)).toEqual(["2 bands.0.low", `3 id`, expect.stringMatching(/^4 /)]);
  });

  test("no JSON, and far too much of it, are one sentence", async () => {
    expect(await problemsOf("[{")).toEqual([expect.stringMatching(/^1 document: is not valid JSON/)]);
    expect(await problemsOf(`${"[".repeat(100)}${"]".repeat(100)}`)).toEqual(["1 document: nests deeper than 32 levels"]);
  });
});
