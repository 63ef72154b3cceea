import { ByteWriter, ParquetWriter, schemaFromColumnData } from "hyparquet-writer";
import Papa from "papaparse";
import type { Column, TableCells, TableFormat } from "./tables";

/** Rows that are written at a time: memory holds no more of a table of any length. */
const CSV_ROWS = 2000;
const PARQUET_ROWS = 10_000;

/** Takes bytes on, and says when it can take more. */
type Sink = (bytes: Uint8Array) => Promise<void> | void;

/**
 * Writes a table in an open format, in pieces.
 * @param rows in their order, walked through once
 * @returns how many rows were written
 */
export async function writeTable(columns: readonly Column[], rows: Iterable<TableCells>, format: TableFormat, sink: Sink): Promise<number> {
  if (format === "parquet") return writeParquet(columns, rows, sink);
  const encoder = new TextEncoder();
  const names = columns.map(({ name }) => name);
  if (format === "csv") await sink(encoder.encode(`${Papa.unparse([names])}\r\n`));
  let written = 0;
  for (const some of inPieces(rows, CSV_ROWS)) {
    const text = format === "csv" ? `${Papa.unparse(some as string[][], { escapeFormulae: true })}\r\n` : linesOf(columns, some);
    await sink(encoder.encode(text));
    written += some.length;
  }
  return written;
}

/** Rows as lines of JSON: flags true, documents as documents; what is not there is left out. */
function linesOf(columns: readonly Column[], rows: readonly TableCells[]): string {
  const kinds = columns.map(({ name, kind }) => ({ key: JSON.stringify(name), kind }));
  return rows
    .map((row) => {
      const entries: string[] = [];
      row.forEach((cell, k) => {
        const { key, kind } = kinds[k] as (typeof kinds)[number];
        if (cell === null || (kind === "flag" && cell === 0)) return;
        entries.push(`${key}:${kind === "flag" ? "true" : kind === "json" ? cell : JSON.stringify(cell)}`);
      });
      return `{${entries.join(",")}}\n`;
    })
    .join("");
}

const PARQUET_TYPES = { text: "STRING", json: "JSON", number: "DOUBLE", whole: "INT32", flag: "BOOLEAN" } as const;

const asItIs = (cell: TableCells[number]): unknown => cell;
const PARQUET_VALUE: Readonly<Record<Column["kind"], (cell: TableCells[number]) => unknown>> = {
  text: asItIs,
  number: asItIs,
  whole: asItIs,
  flag: (cell) => cell === 1,
  json: (cell) => (typeof cell === "string" ? JSON.parse(cell) : cell),
};

async function writeParquet(columns: readonly Column[], rows: Iterable<TableCells>, sink: Sink): Promise<number> {
  const writer = new FlushingWriter(sink);
  const columnsOf = (some: readonly TableCells[]) =>
    columns.map(({ name, kind, ranged = false }, k) => {
      const into = PARQUET_VALUE[kind];
      // To find the least and most of each stretch of rows is a fifth of the work: only for what is asked for by range.
      return { name, type: PARQUET_TYPES[kind], nullable: true, statistics: ranged, data: some.map((row) => into(row[k] ?? null)) };
    });
  const parquet = new ParquetWriter({ writer, schema: schemaFromColumnData({ columnData: columnsOf([]) }), createdBy: "uvrel" });
  let written = 0;
  for (const some of inPieces(rows, PARQUET_ROWS)) {
    await parquet.write({ columnData: columnsOf(some), rowGroupSize: PARQUET_ROWS });
    await writer.handedOn;
    written += some.length;
  }
  parquet.finish();
  await writer.handedOn;
  return written;
}

/** Bytes of a Parquet file, handed on after each group of rows. */
class FlushingWriter extends ByteWriter {
  readonly #sink: Sink;
  /** Settled when all that was flushed has been taken on. */
  handedOn: Promise<void> = Promise.resolve();

  constructor(sink: Sink) {
    super();
    this.#sink = sink;
  }

  flush(): void {
    if (this.index === 0) return;
    const bytes = this.getBytes().slice();
    this.index = 0;
    this.handedOn = this.handedOn.then(() => this.#sink(bytes));
  }

  override finish(): void {
    this.flush();
  }
}

function* inPieces<T>(rows: Iterable<T>, size: number): Generator<T[]> {
  let piece: T[] = [];
  for (const row of rows) {
    piece.push(row);
    if (piece.length < size) continue;
    yield piece;
    piece = [];
  }
  if (piece.length > 0) yield piece;
}
