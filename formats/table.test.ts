import { expect, test } from "@jest/globals";
import Papa from "papaparse";
import { csvOf } from "./table";

test("text that would be run as a formula is marked where it is asked for, figures and our own names never", () => {
  expect(csvOf(["@battery"], [["=1+1"], [-2]])).toBe("@battery\r\n=1+1\r\n-2\r\n");
  expect(csvOf(["note"], [["=1+1"], [-2], ["@x"]], true)).toBe('note\r\n"\'=1+1"\r\n-2\r\n"\'@x"\r\n');
});

test("a table goes out with its header and comes back as it was, commas, quotes and lines in its cells included", () => {
  const rows = [
    ["leg:1,leg:2", 12.5, 'said "fine"'],
    ["two\nlines", -0.001, ""],
  ];
  const text = csvOf(["point", "volts", "note"], rows);
  expect(text.startsWith("point,volts,note\r\n")).toBe(true);
  expect(text.endsWith("\r\n")).toBe(true);
  const read = Papa.parse<string[]>(text.trimEnd(), { dynamicTyping: false });
  expect(read.data).toEqual([["point", "volts", "note"], ...rows.map((row) => row.map(String))]);
});
