import { parquetReadObjects } from "hyparquet";
import Papa from "papaparse";
import { type Column, TABLE_NAMES, TABLES, type TableName, type TableRow } from "./tables";

/** What is wrong with one row of a table that came in: its number as a spreadsheet counts, the column, and what is allowed. */
export interface RowProblem {
  row: number;
  column: string;
  error: string;
}

/** A row as it came in, with its place in the file. */
export interface PlacedRow {
  row: number;
  cells: TableRow;
}

interface TableRead {
  name: TableName | undefined;
  rows: PlacedRow[];
  problems: RowProblem[];
}

/** More problems than this nobody reads. */
const MOST_PROBLEMS = 1000;

/**
 * Reads a table of any kind and format; which they are is told by its bytes and its columns.
 * @param bytes the whole file
 */
export async function readTable(bytes: Uint8Array): Promise<TableRead> {
  const whole = (error: string, column = "file"): TableRead => ({ name: undefined, rows: [], problems: [{ row: 1, column, error }] });
  if (bytes.length === 0) return whole("is empty");
  const begins = new TextDecoder("latin1").decode(bytes.subarray(0, 4));
  if (begins === "PAR1") return readParquet(bytes).catch((error: unknown) => whole(`is no Parquet file that can be read: ${messageOf(error)}`));
  const text = new TextDecoder("utf-8").decode(bytes).replace(/^\uFEFF/, "");
  if (text.includes("\uFFFD") || text.includes("\0")) return whole("is not in UTF-8, nor is it Parquet");
  if (text.trim() === "") return whole("is empty");
  return /^\s*\{/.test(text) ? readLines(text) : readCsv(text);
}

/** The kind of table whose needed columns are all there; of several the one with the most. */
function kindOf(names: ReadonlySet<string>): TableName | undefined {
  return TABLE_NAMES.filter((name) => columnsOf(name).every(({ name: column, needed }) => !needed || names.has(column))).sort(
    (a, b) => neededOf(b).length - neededOf(a).length,
  )[0];
}

const columnsOf = (name: TableName): readonly Column[] => TABLES[name].columns;
const neededOf = (name: TableName): readonly Column[] => columnsOf(name).filter(({ needed }) => needed);

/** Says which columns each kind of table needs, where none fits. */
function noKind(names: readonly string[]): TableRead {
  const kinds = TABLE_NAMES.map(
    (name) =>
      `${name} (${neededOf(name)
        .map((column) => column.name)
        .join(", ")})`,
  ).join("; ");
  return {
    name: undefined,
    rows: [],
    problems: [
      { row: 1, column: "header", error: `has the columns ${names.slice(0, 8).join(", ") || "none"}, which are those of no table. The tables need: ${kinds}` },
    ],
  };
}

function readCsv(text: string): TableRead {
  const parsed = Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: "greedy", transformHeader: (name) => name.trim() });
  const names = parsed.meta.fields ?? [];
  const name = kindOf(new Set(names));
  if (!name) return noKind(names);
  const problems: RowProblem[] = parsed.errors.map(({ row = 0, message }) => ({
    row: row + 2,
    column: "row",
    error: message.charAt(0).toLowerCase() + message.slice(1),
  }));
  const broken = new Set(problems.map(({ row }) => row));
  const decimalComma = parsed.meta.delimiter === ";";
  const rows = parsed.data.flatMap((cells, k) => (broken.has(k + 2) ? [] : [{ row: k + 2, cells }]));
  return finished(name, rows, problems, (cell, column) => fromText(unescaped(String(cell ?? "").trim()), column, decimalComma));
}

/** A cell without the mark that keeps it from being a formula. */
const unescaped = (cell: string): string => (/^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

function readLines(text: string): TableRead {
  const problems: RowProblem[] = [];
  const rows = text.split("\n").flatMap((line, k): { row: number; cells: Record<string, unknown> }[] => {
    if (line.trim() === "") return [];
    try {
      const cells: unknown = JSON.parse(line);
      if (typeof cells === "object" && cells !== null && !Array.isArray(cells)) return [{ row: k + 1, cells: cells as Record<string, unknown> }];
      problems.push({ row: k + 1, column: "line", error: "is no JSON object" });
    } catch (error) {
      problems.push({ row: k + 1, column: "line", error: `is not valid JSON: ${messageOf(error)}` });
    }
    return [];
  });
  const names = [...new Set(rows.slice(0, 50).flatMap(({ cells }) => Object.keys(cells)))];
  const name = kindOf(new Set(names));
  if (!name) return rows.length === 0 ? { name: undefined, rows: [], problems } : noKind(names);
  return finished(name, rows, problems, fromJson);
}

async function readParquet(bytes: Uint8Array): Promise<TableRead> {
  const file = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  const cells = (await parquetReadObjects({ file })) as Record<string, unknown>[];
  const names = Object.keys(cells[0] ?? {});
  const name = kindOf(new Set(names));
  if (!name) return noKind(names);
  return finished(
    name,
    cells.map((row, k) => ({ row: k + 1, cells: row })),
    [],
    fromJson,
  );
}

type Read = (cell: unknown, column: Column) => { value: string | number | null } | { error: string };

/** Rows whose every cell is of its column's kind; the others are named. */
function finished(name: TableName, rows: readonly { row: number; cells: Record<string, unknown> }[], problems: RowProblem[], read: Read): TableRead {
  const placed: PlacedRow[] = [];
  for (const { row, cells } of rows) {
    const found: TableRow = {};
    const before = problems.length;
    for (const column of columnsOf(name)) {
      if (column.told) continue;
      const cell = read(cells[column.name], column);
      if ("error" in cell) problems.push({ row, column: column.name, error: cell.error });
      else if (cell.value === null && column.needed) problems.push({ row, column: column.name, error: "is missing" });
      else found[column.name] = cell.value;
    }
    if (problems.length === before) placed.push({ row, cells: found });
    if (problems.length >= MOST_PROBLEMS) break;
  }
  return { name, rows: placed, problems };
}

function fromText(cell: string, { kind }: Column, decimalComma: boolean): ReturnType<Read> {
  if (cell === "") return { value: kind === "flag" ? 0 : null };
  if (kind === "text") return { value: cell };
  if (kind === "json") return fromJsonText(cell);
  if (kind === "flag") {
    const yes = /^(1|true|yes)$/i.test(cell);
    return yes || /^(0|false|no)$/i.test(cell) ? { value: yes ? 1 : 0 } : { error: `is “${cell.slice(0, 30)}”; it must be 1 or 0` };
  }
  const plain = decimalComma ? cell.replace(",", ".") : cell;
  if (!/^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain)) return { error: `is “${cell.slice(0, 30)}”, which is no number` };
  return ofNumber(Number(plain), kind);
}

function fromJson(cell: unknown, { kind }: Column): ReturnType<Read> {
  if (cell === null || cell === undefined || cell === "") return { value: kind === "flag" ? 0 : null };
  if (kind === "json") return typeof cell === "string" ? fromJsonText(cell) : { value: JSON.stringify(cell) };
  if (kind === "flag") return cell === true || cell === 1 ? { value: 1 } : cell === false || cell === 0 ? { value: 0 } : { error: "must be true or false" };
  if (kind === "text") return typeof cell === "string" ? { value: cell } : { error: `must be text, not ${JSON.stringify(cell)?.slice(0, 30)}` };
  if (typeof cell === "bigint") return ofNumber(Number(cell), kind);
  return typeof cell === "number" ? ofNumber(cell, kind) : { error: `must be a number, not ${JSON.stringify(cell)?.slice(0, 30)}` };
}

function ofNumber(value: number, kind: Column["kind"]): ReturnType<Read> {
  if (!Number.isFinite(value)) return { error: "is no finite number" };
  if (kind === "whole" && !Number.isInteger(value)) return { error: `is ${value}; it must be a whole number` };
  return { value };
}

function fromJsonText(cell: string): ReturnType<Read> {
  try {
    JSON.parse(cell);
    return { value: cell };
  } catch (error) {
    return { error: `is not valid JSON: ${messageOf(error)}` };
  }
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));
