import Papa from "papaparse";
import { parseSheet, type Sheet, type SheetBand } from "../core/machine/sheet";
import { beyondBounds } from "./bounds";
import { csvOf } from "./table";

/** Sheets as a table that any spreadsheet opens: one row a band, what belongs to the model in the first row of its name. */

type Wire = Sheet["outputWire"];

const wireText = ({ base, tracer }: Wire): string => (tracer ? `${base}/${tracer}` : base);
const wireOf = (text: string): { base: string; tracer?: string } => {
  const [base = "", tracer] = text.split("/").map((part) => part.trim());
  return tracer ? { base, tracer } : { base };
};

/** A column of the model: how its cell is written, and where its figure goes when it is read. */
interface Column {
  name: string;
  write: (sheet: Sheet) => string | number | undefined;
  /** The path in a sheet that the cell fills. */
  field: string;
  read: (cell: string) => unknown;
}

const words = (name: string, field: string, write: Column["write"]): Column => ({ name, field, write, read: (cell) => cell });
const figure = (name: string, field: string, write: Column["write"]): Column => ({ name, field, write, read: numberOf });
const split = (cell: string): string[] =>
  cell
    .split(";")
    .map((part) => part.trim())
    .filter(Boolean);

const COLUMNS: readonly Column[] = [
  words("id", "id", ({ id }) => id),
  words("maker", "maker", ({ maker }) => maker),
  words("model", "model", ({ model }) => model),
  words("years", "years", ({ years }) => years),
  words("kind", "kind", ({ kind }) => kind),
  words("family", "family", ({ family }) => family),
  figure("systemVolts", "systemVolts", ({ systemVolts }) => systemVolts),
  words("earth", "earth", ({ earth }) => earth),
  words("winding", "winding", ({ winding }) => winding),
  figure("polePairs", "polePairs", ({ polePairs }) => polePairs),
  {
    name: "legs",
    field: "legs",
    write: ({ legs }) => legs.map(({ id, pin, wire }) => `${id} ${pin} ${wireText(wire)}`).join("; "),
    read: (cell) =>
      split(cell).map((leg) => {
        const [id = "", pin = "", wire = ""] = leg.split(/\s+/);
        return { id, pin, wire: wireOf(wire) };
      }),
  },
  words("plug", "statorConnector.name", ({ statorConnector }) => statorConnector.name),
  words("plugPlace", "statorConnector.place", ({ statorConnector }) => statorConnector.place),
  { name: "outputWire", field: "outputWire", write: ({ outputWire }) => wireText(outputWire), read: wireOf },
  { name: "groundWire", field: "groundWire", write: ({ groundWire }) => wireText(groundWire), read: wireOf },
  words("unitGround", "unitGround", ({ unitGround }) => unitGround),
  words("sense", "sense", ({ sense }) => sense),
  words("isolator", "isolator", ({ isolator }) => isolator),
  words("tach", "tach", ({ tach }) => tach),
  words("drive", "drive", ({ drive }) => drive),
  figure("wakesAboveRpm", "wakes.aboveRpm", ({ wakes }) => wakes?.aboveRpm),
  figure("wakesAfterSeconds", "wakes.afterSeconds", ({ wakes }) => wakes?.afterSeconds),
  {
    name: "access",
    field: "access",
    write: ({ access }) => access?.map(({ place, minutes = "", steps = "", tools = "" }) => [place, minutes, steps, tools].join(" | ")).join("; "),
    read: (cell) =>
      split(cell).map((way) => {
        const [place = "", minutes = "", steps = "", tools = ""] = way.split("|").map((part) => part.trim());
        return { place, ...(minutes ? { minutes: numberOf(minutes) } : {}), ...(steps ? { steps } : {}), ...(tools ? { tools } : {}) };
      }),
  },
  {
    name: "fuses",
    field: "fuses",
    write: ({ fuses }) => fuses.map(({ id, amps, feeds }) => `${id} ${amps} ${feeds}`).join("; "),
    read: (cell) =>
      split(cell).map((fuse) => {
        const [id = "", amps = "", ...feeds] = fuse.split(/\s+/);
        return { id, amps: numberOf(amps), feeds: feeds.join(" ") };
      }),
  },
  words("chemistry", "battery.chemistry", ({ battery }) => battery.chemistry),
  figure("ah", "battery.ah", ({ battery }) => battery.ah),
  figure("cca", "battery.cca", ({ battery }) => battery.cca),
  figure("microfarads", "battery.microfarads", ({ battery }) => battery.microfarads),
  figure("idleRpm", "idleRpm", ({ idleRpm }) => idleRpm),
  figure("testRpm", "testRpm", ({ testRpm }) => testRpm),
  figure("ratedAmps", "ratedAmps", ({ ratedAmps }) => ratedAmps),
  figure("loadsNormal", "loadAmps.normal", ({ loadAmps }) => loadAmps?.normal),
  figure("loadsAll", "loadAmps.all", ({ loadAmps }) => loadAmps?.all),
  words("source", "source", ({ source }) => source),
];

const BAND: readonly (keyof SheetBand)[] = ["test", "at", "rpm", "loads", "low", "high", "page"];
const BAND_FIGURES: readonly string[] = ["rpm", "low", "high"];
const HEADER: readonly string[] = [...COLUMNS.map(({ name }) => name), ...BAND];

/** A figure as a spreadsheet writes it, with a decimal comma or point; what is none is handed on for the sheet's own rules to name. */
function numberOf(cell: string): number | string {
  const plain = /^-?\d+(?:[.,]\d+)?$/.test(cell) ? Number(cell.replace(",", ".")) : Number.NaN;
  return Number.isFinite(plain) ? plain : cell;
}

/** Sheets as comma-separated text; no cell begins like a formula. */
export function writeSheetTable(sheets: readonly Sheet[]): string {
  const rows = sheets.flatMap((sheet) => {
    const bands: readonly (SheetBand | undefined)[] = sheet.bands.length > 0 ? sheet.bands : [undefined];
    return bands.map((band, i) => [
      ...COLUMNS.map(({ name, write }) => (i === 0 || name === "id" ? (write(sheet) ?? "") : "")),
      ...BAND.map((field) => band?.[field] ?? ""),
    ]);
  });
  return csvOf(HEADER, rows, true);
}

/** What is wrong with one row of a table: its number as a spreadsheet counts, the column, and what is allowed. */
export interface RowProblem {
  row: number;
  column: string;
  error: string;
}

/** The sheets of a table that can be kept as they are, and what is wrong with the others' rows. */
interface SheetTable {
  sheets: Sheet[];
  problems: RowProblem[];
}

interface Row {
  number: number;
  cells: Record<string, string>;
}

/** Above this many rows nobody looks a preview through. */
const MOST_ROWS = 20_000;

/** Sheets that are looked through at a time. */
const AT_A_TIME = 20;

/**
 * Reads sheets out of comma- or semicolon-separated text. A sheet with anything wrong in its rows is not among those that can be kept.
 * @param rest lets others go on between some sheets and the next: thousands take a while
 */
async function readSheetTable(text: string, rest: () => Promise<unknown>): Promise<SheetTable> {
  const whole = (error: string, column = "table"): SheetTable => ({ sheets: [], problems: [{ row: 1, column, error }] });
  if (text.includes("\uFFFD") || text.includes("\0")) return whole("is not in UTF-8; save it as “CSV UTF-8”");
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ""), {
    header: true,
    skipEmptyLines: "greedy",
    transformHeader: (name) => name.trim(),
  });
  const names = parsed.meta.fields ?? [];
  const missing = ["id", "maker", "model", "family", "test"].filter((name) => !names.includes(name));
  if (missing.length > 0) return whole(`lacks the columns ${missing.join(", ")}; it has ${names.slice(0, 8).join(", ") || "none"}`, "header");
  const unknown = names.filter((name) => name !== "" && !HEADER.includes(name));
  if (unknown.length > 0) return whole(`has columns that are none of a sheet: ${unknown.join(", ")}`, "header");
  if (parsed.data.length > MOST_ROWS) return whole(`holds more than ${MOST_ROWS.toLocaleString("en")} rows`);
  const problems: RowProblem[] = parsed.errors.map(({ row = 0, message }) => ({
    row: row + 2,
    column: "row",
    error: message.charAt(0).toLowerCase() + message.slice(1),
  }));
  const byId = new Map<string, Row[]>();
  parsed.data.forEach((cells, i) => {
    const row: Row = { number: i + 2, cells: Object.fromEntries(Object.entries(cells).map(([name, cell]) => [name, unescaped(String(cell ?? "").trim())])) };
    const { id = "" } = row.cells;
    if (id === "") problems.push({ row: row.number, column: "id", error: "is missing: every row names its sheet" });
    else byId.set(id, [...(byId.get(id) ?? []), row]);
  });
  const wrongRows = new Set(problems.map(({ row }) => row));
  const sheets: Sheet[] = [];
  for (const [k, rows] of [...byId.values()].entries()) {
    if (k % AT_A_TIME === 0) await rest();
    const read = sheetOf(rows);
    // What was wrong with the rows themselves is known already; what they come to is known now.
    const broken = read.problems.length > 0 || rows.some(({ number }) => wrongRows.has(number));
    problems.push(...read.problems);
    if (read.sheet && !broken) sheets.push(read.sheet);
  }
  return { sheets, problems: problems.sort((a, b) => a.row - b.row) };
}

/**
 * Reads sheets out of what was chosen or pasted: a list of JSON documents, as the shelf gives them, or a table. Of a list the rows are
 * its documents, the first one 1.
 */
export async function readSheets(text: string, rest: () => Promise<unknown>): Promise<SheetTable> {
  if (!/^\uFEFF?\s*[[{]/.test(text)) return readSheetTable(text, rest);
  const whole = (error: string): SheetTable => ({ sheets: [], problems: [{ row: 1, column: "document", error }] });
  const beyond = beyondBounds(text);
  if (beyond) return whole(beyond);
  let parsed: unknown;
  try {
    parsed = JSON.parse(text.replace(/^\uFEFF/, ""));
  } catch (error) {
    return whole(`is not valid JSON: ${error instanceof Error ? error.message : "it cannot be read"}`);
  }
  const documents: unknown[] = Array.isArray(parsed) ? parsed : [parsed];
  if (documents.length > MOST_ROWS) return whole(`holds more than ${MOST_ROWS.toLocaleString("en")} sheets`);
  const [sheets, problems]: [Map<string, Sheet>, RowProblem[]] = [new Map(), []];
  for (const [k, document] of documents.entries()) {
    if (k % AT_A_TIME === 0) await rest();
    const read = parseSheet(document);
    if (!read.ok) problems.push(...read.problems.map(({ field, error }) => ({ row: k + 1, column: field, error })));
    else if (sheets.has(read.sheet.id)) problems.push({ row: k + 1, column: "id", error: `names the sheet ${read.sheet.id} a second time` });
    else sheets.set(read.sheet.id, read.sheet);
  }
  return { sheets: [...sheets.values()], problems };
}

/** A cell without the mark that keeps it from being a formula. */
const unescaped = (cell: string): string => (/^'[=+\-@\t]/.test(cell) ? cell.slice(1) : cell);

function sheetOf(rows: readonly Row[]): { sheet?: Sheet; problems: RowProblem[] } {
  const [first] = rows as readonly [Row, ...Row[]];
  const problems: RowProblem[] = [];
  const document: Record<string, unknown> = {};
  for (const { name, field, read } of COLUMNS) {
    const cell = first.cells[name] ?? "";
    if (cell !== "") put(document, field, read(cell));
    for (const { number, cells } of rows.slice(1))
      if (cells[name] && cells[name] !== cell)
        problems.push({ row: number, column: name, error: `differs from row ${first.number}: “${cells[name]}” is not “${cell}”` });
  }
  const banded = rows.filter(({ cells }) => cells.test);
  const seen = new Map<string, number>();
  document.bands = banded.map(({ number, cells }) => {
    const key = ["test", "at", "rpm", "loads"].map((name) => cells[name] ?? "").join();
    const before = seen.get(key);
    if (before !== undefined) problems.push({ row: number, column: "test", error: `is the band of row ${before} once more` });
    seen.set(key, number);
    return Object.fromEntries(BAND.flatMap((name) => (cells[name] ? [[name, BAND_FIGURES.includes(name) ? numberOf(cells[name]) : cells[name]]] : [])));
  });
  for (const { number, cells } of rows)
    if (!cells.test && (cells.low || cells.high)) problems.push({ row: number, column: "test", error: "is missing: a band names its test" });
  const parsed = parseSheet(document);
  if (parsed.ok) return { sheet: parsed.sheet, problems };
  for (const { field, error } of parsed.problems) {
    const band = /^bands\.(\d+)\.(\w+)/.exec(field);
    const row = band ? banded[Number(band[1])]?.number : first.number;
    problems.push({ row: row ?? first.number, column: band?.[2] ?? columnOf(field), error });
  }
  return { problems };
}

/** The column that fills a sheet's field. */
function columnOf(field: string): string {
  return COLUMNS.find((column) => column.field === field)?.name ?? COLUMNS.find((column) => field.startsWith(`${column.field}.`))?.name ?? field;
}

function put(document: Record<string, unknown>, field: string, value: unknown): void {
  const [name = "", inner] = field.split(".");
  if (inner === undefined) document[name] = value;
  else document[name] = { ...(document[name] as object | undefined), [inner]: value };
}
