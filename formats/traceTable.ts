import Papa from "papaparse";
import type { Trace } from "../core/trace/bins";

/** A logged trace as it was read out of a file: what it holds, and how it was understood. */
export interface LoggedTrace extends Trace {
  /** Every column that holds figures, by its name. */
  columns: string[];
  /** The column whose figures these are, and the one of the times. */
  column: string;
  timeColumn: string;
  /** What was understood of the file and is not plain: decimal commas, milliseconds, a clock, times made up. */
  notes: string[];
}

type Outcome = { ok: true; trace: LoggedTrace } | { ok: false; error: string };

/** Lines that may stand before the table: what a logger says of itself. */
const MOST_PREAMBLE = 60;
/** Rows that the shape of a table is judged by. */
const SHAPED_BY = 200;
/** A column of figures holds at least this share of them. */
const FIGURES = 0.5;
/** Most samples of one trace: some hours at a thousand a second. */
const MOST_SAMPLES = 20_000_000;
/** Names of a column of times, and of one of volts. */
const TIME_NAME = /^(t|time|zeit|date|uhrzeit|seconds?|secs?|timestamp|clock|elapsed)\b|\btime\b|^t \(|\[(m?s|sec)\]/i;
const VOLTS_NAME = /volt|spannung|\bv(dc|bat|batt)?\b|\[v\]|\(v\)|batt/i;
const DAY = 86_400;

/** How the cells of a table are to be read. */
interface Shape {
  decimalComma: boolean;
  time: (cell: string) => number;
  /** What is understood of its times, where that is not plain seconds. */
  says?: string;
  /** Times go round at midnight. */
  clock?: true;
}

/** Reads a figure; NaN for none. The overflow of an instrument is none either. */
function figureOf(cell: string, decimalComma: boolean): number {
  const text = cell.trim();
  if (text === "") return Number.NaN;
  const value = Number(decimalComma ? text.replace(",", ".") : text);
  return Math.abs(value) >= OVERFLOW ? Number.NaN : value;
}

/** What instruments give for more than they can show (IEEE 488.2: 9.9E37). */
const OVERFLOW = 9e36;

function clockOf(cell: string): number {
  const [, hours = "", minutes = "", seconds = ""] = /^(\d{1,2}):(\d{2}):(\d{2}(?:[.,]\d+)?)$/.exec(cell.trim()) ?? [];
  return hours === "" ? Number.NaN : Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds.replace(",", "."));
}

function isoOf(cell: string): number {
  return Date.parse(cell.trim().replace(" ", "T").replace(",", ".")) / 1000;
}

/** How a column of times is to be read: seconds, milliseconds, a clock, a date with its time. */
function shapeOf(cells: readonly string[], name: string, decimalComma: boolean): Shape | undefined {
  const readBy = (read: (cell: string) => number): boolean => cells.filter((cell) => Number.isFinite(read(cell))).length > 0.9 * cells.length;
  const figure = (cell: string): number => figureOf(cell, decimalComma);
  if (readBy(clockOf)) return { decimalComma, time: clockOf, clock: true, says: "times are a clock's" };
  if (readBy(figure)) {
    const first = figure(cells[0] ?? "");
    if (first > 1e11) return { decimalComma, time: (cell) => figure(cell) / 1000, says: "times are milliseconds since 1970" };
    if (/\bms\b|milli/i.test(name)) return { decimalComma, time: (cell) => figure(cell) / 1000, says: "times are milliseconds" };
    return { decimalComma, time: figure };
  }
  if (cells.some((cell) => /\d{4}-\d{2}-\d{2}/.test(cell)) && readBy(isoOf)) return { decimalComma, time: isoOf, says: "times are dates" };
  return undefined;
}

/** The table inside a text: which line is its header, what parts its cells. */
function tableOf(text: string): { header: string[]; rows: string[][]; skip: number; delimiter: string } | undefined {
  const head = text
    .slice(0, 200_000)
    .split(/\r?\n/)
    .slice(0, MOST_PREAMBLE + SHAPED_BY);
  for (const delimiter of [";", "\t", ",", "|"]) {
    for (let skip = 0; skip < Math.min(head.length - 1, MOST_PREAMBLE); skip++) {
      if (head[skip]?.trim() === "") continue;
      const rows = Papa.parse<string[]>(head.slice(skip).join("\n"), { delimiter, newline: "\n", skipEmptyLines: "greedy" }).data;
      const [first, second, third] = rows;
      if (!first || !second || first.length < 2 || second.length !== first.length || (third && third.length !== first.length && rows.length > 3)) continue;
      const figures = (cells: readonly string[]): number => cells.filter((cell) => /\d/.test(cell) && !/[A-Za-z]{2}/.test(cell)).length;
      if (figures(second) < 2) continue;
      const named = figures(first) < Math.min(2, first.length);
      const header = named ? first.map((name, k) => name.trim() || `column ${k + 1}`) : first.map((_, k) => `column ${k + 1}`);
      return { header, rows: (named ? rows.slice(1) : rows).slice(0, SHAPED_BY), skip: skip + (named ? 1 : 0), delimiter };
    }
  }
  return undefined;
}

/**
 * Reads a trace out of delimited text as loggers write it: any delimiter, decimal point or comma, some lines of its own before the
 * header, times as seconds, milliseconds, a clock or dates.
 * @param wanted name of the column of volts; found by its name or its place where left out
 * @param progress told of the samples read so far
 */
export function readTraceText(text: string, wanted?: string, progress?: (samples: number) => void): Outcome {
  const refuse = (error: string): Outcome => ({ ok: false, error });
  const clean = text.startsWith("\uFEFF") ? text.slice(1) : text;
  if (clean.trim() === "") return refuse("The file is empty.");
  if (clean.includes("\0") || clean.slice(0, 10_000).includes("\uFFFD")) return refuse("The file is no text in UTF-8: save the log as CSV.");
  const table = tableOf(clean);
  if (!table) return refuse("No table was found in it: a trace has a column of times and one of volts, parted by commas, semicolons or tabs.");
  const { header, rows, skip, delimiter } = table;
  const column = (k: number): string[] => rows.map((row) => row[k] ?? "").filter((cell) => cell.trim() !== "");
  const commas = delimiter !== "," && rows.some((row) => row.some((cell) => /^\s*[-+]?\d+,\d+\s*$/.test(cell)));
  if (commas && rows.some((row) => row.some((cell) => /^\s*[-+]?\d+\.\d+\s*$/.test(cell))))
    return refuse("Decimal points and decimal commas are mixed in it: nobody could say which figures are meant.");
  const shapes = header.map((name, k) => shapeOf(column(k), name, commas));
  const times = header.map((_, k) => k).filter((k) => shapes[k]);
  const timeAt = times.find((k) => TIME_NAME.test(header[k] as string)) ?? times.find((k) => shapes[k]?.says !== undefined) ?? times[0];
  if (timeAt === undefined) return refuse(`None of its columns is a time: ${header.join(", ")}.`);
  const figures = header
    .map((_, k) => k)
    .filter(
      (k) =>
        k !== timeAt &&
        column(k).filter((cell) => Number.isFinite(figureOf(cell, commas))).length > FIGURES * Math.max(1, column(k).length) &&
        column(k).length > 0,
    );
  const columns = figures.map((k) => header[k] as string);
  const at = wanted === undefined ? (figures.find((k) => VOLTS_NAME.test(header[k] as string)) ?? figures[0]) : figures.find((k) => header[k] === wanted);
  if (at === undefined)
    return refuse(
      wanted === undefined
        ? `None of its columns holds figures beside ${header[timeAt]}.`
        : `There is no column “${wanted}” with figures. There are: ${columns.join(", ") || "none"}.`,
    );
  return gather(clean, { skip, delimiter, timeAt, at, shape: shapes[timeAt] as Shape, header, columns }, progress);
}

interface Reading {
  skip: number;
  delimiter: string;
  timeAt: number;
  at: number;
  shape: Shape;
  header: string[];
  columns: string[];
}

/** Every sample of a table whose shape is known. */
function gather(text: string, { skip, delimiter, timeAt, at, shape, header, columns }: Reading, progress: ((samples: number) => void) | undefined): Outcome {
  let [seconds, volts] = [new Float64Array(65_536), new Float64Array(65_536)];
  let [count, row, none, days, repeats] = [0, skip, 0, 0, 0];
  let error: string | undefined;
  const add = (cells: readonly string[]): boolean => {
    row++;
    const time = shape.time(cells[timeAt] ?? "");
    if (!Number.isFinite(time)) {
      if ((cells[timeAt] ?? "").trim() !== "") none++;
      return none <= MOST_UNREAD + count / 2;
    }
    let when = time + days * DAY;
    const before = count > 0 ? (seconds[count - 1] as number) : when;
    if (shape.clock && when < before - DAY / 2) {
      days++;
      when += DAY;
    }
    if (when < before) {
      error = `Row ${row}: its time lies before that of the row above it. A trace is read in the order in which it was logged.`;
      return false;
    }
    if (when === before && count > 0) repeats++;
    if (count >= MOST_SAMPLES) {
      error = `It holds more than ${MOST_SAMPLES.toLocaleString("en")} samples: cut it into shorter ones.`;
      return false;
    }
    if (count === seconds.length) [seconds, volts] = [grown(seconds), grown(volts)];
    seconds[count] = when;
    volts[count] = figureOf(cells[at] ?? "", shape.decimalComma);
    count++;
    return true;
  };
  let from = lineAfter(text, skip);
  reading: while (from < text.length) {
    // Whole lines, some thousand at a time: an hour at a thousand a second is no string to hold in cells at once.
    const line = text.indexOf("\n", from + CHUNK);
    const to = line < 0 ? text.length : line + 1;
    for (const cells of Papa.parse<string[]>(text.slice(from, to), { delimiter, newline: "\n", skipEmptyLines: "greedy" }).data) if (!add(cells)) break reading;
    from = to;
    progress?.(count);
  }
  if (error) return { ok: false, error };
  if (count < 5) return { ok: false, error: "It holds fewer than five samples with a time." };
  if (none > MOST_UNREAD + count / 2) return { ok: false, error: `Row ${row}: its time cannot be read, as those of many rows before it.` };
  seconds = seconds.slice(0, count);
  volts = volts.slice(0, count);
  const read = volts.reduce((sum, value) => sum + (Number.isFinite(value) ? 1 : 0), 0);
  if (read < count / 4) return { ok: false, error: `Most cells of ${header[at]} hold no figure.` };
  const notes = [shape.says, shape.decimalComma ? "decimal commas" : undefined, repeats > 0 ? spread(seconds) : undefined].filter((note) => note !== undefined);
  const first = seconds[0] as number;
  for (let k = 0; k < count; k++) seconds[k] = (seconds[k] as number) - first;
  return { ok: true, trace: { seconds, volts, columns, column: header[at] as string, timeColumn: header[timeAt] as string, notes } };
}

/** Rows whose time cannot be read are left out up to so many. */
const MOST_UNREAD = 20;
/** Letters that are parsed at a time. */
const CHUNK = 1 << 20;

/** Where the line after so many begins. */
function lineAfter(text: string, lines: number): number {
  let at = 0;
  for (let k = 0; k < lines; k++) at = text.indexOf("\n", at) + 1;
  return at;
}

function grown(values: Float64Array): Float64Array<ArrayBuffer> {
  const larger = new Float64Array(values.length * 2);
  larger.set(values);
  return larger;
}

/** Gives samples that share a time their own: a clock that shows whole seconds stands still between them. */
function spread(seconds: Float64Array): string {
  for (let from = 0; from < seconds.length; ) {
    let to = from + 1;
    while (to < seconds.length && seconds[to] === seconds[from]) to++;
    const next =
      to < seconds.length ? (seconds[to] as number) : (seconds[from] as number) + (from > 0 ? (seconds[from] as number) - (seconds[from - 1] as number) : 1);
    const step = Math.min((next - (seconds[from] as number)) / (to - from), 1);
    for (let k = from + 1; k < to; k++) seconds[k] = (seconds[from] as number) + step * (k - from);
    from = to;
  }
  return "samples that share a time were spread between one time and the next";
}
