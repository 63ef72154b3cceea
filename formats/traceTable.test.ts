import { describe, expect, test } from "@jest/globals";
import { readTraceText } from "./traceTable";

const rows = (count: number, line: (k: number) => string): string => Array.from({ length: count }, (_, k) => line(k)).join("\n");
const read = (text: string, wanted?: string) => {
  const outcome = readTraceText(text, wanted);
  if (!outcome.ok) throw new Error(outcome.error);
  return outcome.trace;
};
const refusal = (text: string, wanted?: string): string => {
  const outcome = readTraceText(text, wanted);
  return outcome.ok ? "read" : outcome.error;
};
const some = (values: Float64Array, count = 3): number[] => [...values.slice(0, count)].map((value) => Number(value.toFixed(6)));

describe("a log of any common shape", () => {
  test("commas and a header; the column of volts by its name", () => {
    const trace = read(`Time (s),Temp,Battery (V)\n${rows(10, (k) => `${k / 10},21,12.${k}`)}`);
    expect([trace.timeColumn, trace.column, trace.columns]).toEqual(["Time (s)", "Battery (V)", ["Temp", "Battery (V)"]]);
    expect(some(trace.seconds)).toEqual([0, 0.1, 0.2]);
    expect(some(trace.volts)).toEqual([12, 12.1, 12.2]);
  });

  test("semicolons, decimal commas, and what the logger says of itself before them", () => {
    const trace = read(`\uFEFFLogger 7;serial 12\nStarted;yesterday\n\nZeit [s];Kanal 1 [V]\r\n${rows(8, (k) => `${k},5;12,${k}5`)}`);
    expect(trace.notes).toEqual(["decimal commas"]);
    expect(some(trace.volts)).toEqual([12.05, 12.15, 12.25]);
    expect(some(trace.seconds)).toEqual([0, 1, 2]);
  });

  test("tabs and no header; times from anywhere begin at nought", () => {
    const trace = read(rows(8, (k) => `${100 + k}\t12.6`));
    expect([trace.timeColumn, trace.column]).toEqual(["column 1", "column 2"]);
    expect(some(trace.seconds)).toEqual([0, 1, 2]);
  });

  test("a clock that goes past midnight, dates, milliseconds", () => {
    const clock = read(`clock,volts\n23:59:58.5,12.1\n23:59:59.5,12.1\n00:00:00.5,12.1\n00:00:01.5,12.2\n00:00:02.5,12.2`);
    expect([...clock.seconds]).toEqual([0, 1, 2, 3, 4]);
    const dates = read(`timestamp,volts\n${rows(6, (k) => `2026-03-02T10:00:0${k}.250Z,12.${k}`)}`);
    expect([some(dates.seconds), dates.notes]).toEqual([[0, 1, 2], ["times are dates"]]);
    expect(some(read(`time ms,volts\n${rows(6, (k) => `${k * 20},12.${k}`)}`).seconds)).toEqual([0, 0.02, 0.04]);
    expect(read(`time,volts\n${rows(6, (k) => `${1_770_000_000_000 + 500 * k},12.${k}`)}`).notes).toEqual(["times are milliseconds since 1970"]);
  });

  test("samples that share a second are spread over it, and that is said", () => {
    const trace = read(`time,volts\n${rows(12, (k) => `10:00:0${Math.floor(k / 4)},12.${k}`)}`);
    expect(some(trace.seconds, 6)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.25]);
    expect(trace.notes.join()).toContain("samples that share a time were spread");
  });

  test("cells without a figure, and an instrument's overflow, are no samples of volts", () => {
    const trace = read(`t,v\n0,12.1\n1,\n2,nan\n3,9.9E37\n4,12.2\n5,12.3\n6,12.3`);
    expect([...trace.volts].map(Number.isFinite)).toEqual([true, false, false, false, true, true, true]);
  });

  test("another column is read where it is named", () => {
    const text = `t,battery V,output V\n${rows(6, (k) => `${k},12.${k},14.${k}`)}`;
    expect(some(read(text, "output V").volts)).toEqual([14, 14.1, 14.2]);
    expect(refusal(text, "amps")).toBe("There is no column “amps” with figures. There are: battery V, output V.");
  });

  test("progress is told, and a long log is read whole", () => {
    const told: number[] = [];
    const outcome = readTraceText(`t,v\n${rows(200_000, (k) => `${k / 1000},12.${k % 10}`)}`, undefined, (count) => told.push(count));
    expect(outcome.ok && outcome.trace.seconds.length).toBe(200_000);
    expect(told.length).toBeGreaterThan(1);
    expect(told.at(-1)).toBe(200_000);
  });
});

describe("what is no trace is refused in one sentence", () => {
  test.each([
    ["nothing", "", "The file is empty."],
    ["a picture", "\u0089PNG\0\0", "The file is no text in UTF-8: save the log as CSV."],
    [
      "prose",
      "Dear customer,\nyour battery is flat.\nYours",
      "No table was found in it: a trace has a column of times and one of volts, parted by commas, semicolons or tabs.",
    ],
    [
      "mixed decimals",
      `t;v\n${rows(6, (k) => `${k};${k % 2 ? "12,5" : "12.5"}`)}`,
      "Decimal points and decimal commas are mixed in it: nobody could say which figures are meant.",
    ],
    [
      "times that go back",
      "t,v\n0,12\n1,12\n2,12\n1.5,12\n3,12\n4,12",
      "Row 5: its time lies before that of the row above it. A trace is read in the order in which it was logged.",
    ],
    ["too few rows", "t,v\n0,12\n1,12\n2,12", "It holds fewer than five samples with a time."],
    ["no figures", `t,v\n${rows(8, (k) => `${k},${k ? "" : "12"}`)}`, expect.stringMatching(/^(Most cells of v hold no figure|None of its columns)/)],
  ])("%s", (_name, text, error) => {
    expect(refusal(text)).toEqual(error);
  });
});
