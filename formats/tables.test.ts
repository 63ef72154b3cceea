import { describe, expect, test } from "@jest/globals";
import { parquetMetadata, parquetReadObjects } from "hyparquet";
import { readTable } from "./tableIn";
import { writeTable } from "./tableOut";
import { TABLE_FORMAT_NAMES, TABLE_NAMES, TABLES, type TableFormat, type TableRow } from "./tables";

/** A table as one piece of bytes, and in how many pieces it was written. */
async function written(
  columns: Parameters<typeof writeTable>[0],
  rows: Iterable<TableRow>,
  format: TableFormat,
): Promise<{ bytes: Uint8Array; pieces: number; rows: number }> {
  const pieces: Uint8Array[] = [];
  const cells = [...rows].map((row) => columns.map(({ name }) => row[name] ?? null));
  const count = await writeTable(columns, cells, format, (piece) => void pieces.push(piece.slice()));
  return { bytes: Buffer.concat(pieces), pieces: pieces.length, rows: count };
}

const READING: TableRow = {
  id: "reading-0001",
  job: "abc-1",
  machine: "SK-102",
  test: "battery.rest",
  at: null,
  rpm: null,
  idle: 0,
  loads: null,
  number: 12.64,
  word: null,
  raw: 0,
  leadOhms: null,
  ohmsResolution: null,
  secondMeter: 0,
  hot: 0,
  charged: 1,
  restHours: 12,
  amps: null,
  touched: null,
  rating: null,
  swing: null,
  note: '=SUM(1), "quoted"\nsecond line, ø',
  afterRepair: 0,
  repairs: 0,
  takenAt: "2026-05-31T09:30:00.000Z",
  by: null,
  supersedes: null,
  supersedesWhy: null,
};

/** What of a row comes back: what is told is not read. */
const comesBack = ({ machine: _machine, ...rest }: TableRow): TableRow => rest;

describe("tables out and in", () => {
  test.each(TABLE_FORMAT_NAMES)("readings as %s come back as they were, signs and lines included", async (format) => {
    const { bytes, rows } = await written(TABLES.readings.columns, [READING, { ...READING, id: "reading-0002", number: null, word: "OL" }], format);
    expect(rows).toBe(2);
    const read = await readTable(bytes);
    expect(read.problems).toEqual([]);
    expect(read.name).toBe("readings");
    expect(read.rows.map(({ cells }) => cells)).toEqual([comesBack(READING), comesBack({ ...READING, id: "reading-0002", number: null, word: "OL" })]);
  });

  test.each(TABLE_FORMAT_NAMES)("documents in a column come back as documents from %s", async (format) => {
    const sheet = JSON.stringify({ id: "x", bands: [{ low: 1 }], note: 'a "b"' });
    const { bytes } = await written(TABLES.sheets.columns, [{ id: "x", maker: "Corvane", model: "X", sheet }], format);
    const read = await readTable(bytes);
    expect(read.name).toBe("sheets");
    expect(JSON.parse(String(read.rows[0]?.cells.sheet))).toEqual(JSON.parse(sheet));
  });

  test("a Parquet file says the least and most of what is asked for by range, and of nothing else", async () => {
    const later = { ...READING, id: "reading-0002", takenAt: "2026-12-01T08:00:00.000Z" };
    const { bytes } = await written(TABLES.readings.columns, [READING, later], "parquet");
    const [group] = parquetMetadata(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer).row_groups;
    const said = (group?.columns ?? []).flatMap(({ meta_data }) => (meta_data?.statistics?.max_value === undefined ? [] : [meta_data]));
    expect(said.map(({ path_in_schema }) => path_in_schema.join())).toEqual(["number", "takenAt"]);
    // Long texts are cut short there, the greatest rounded up.
    const { min_value: least, max_value: most } = said.at(-1)?.statistics ?? {};
    expect([String(least) <= String(READING.takenAt), String(most) >= later.takenAt]).toEqual([true, true]);
    expect([String(least).slice(0, 10), String(most).slice(0, 10)]).toEqual(["2026-05-31", "2026-12-01"]);
  });

  test("no cell of a CSV begins a formula", async () => {
    const { bytes } = await written(TABLES.units.columns, [{ tag: "=1+1", nickname: "@x", sheetId: "-y", usedFor: "+z" }], "csv");
    for (const cell of new TextDecoder().decode(bytes).split("\r\n")[1]?.split(",") ?? []) expect(cell).toMatch(/^["']/);
  });

  test.each(TABLE_FORMAT_NAMES)("an empty table as %s is whole, and holds nothing", async (format) => {
    const { bytes, rows } = await written(TABLES.units.columns, [], format);
    expect(rows).toBe(0);
    if (format === "parquet") expect(await parquetReadObjects({ file: Uint8Array.from(bytes).buffer })).toEqual([]);
    if (format === "csv") expect(await readTable(bytes)).toMatchObject({ name: "units", rows: [], problems: [] });
  });

  test("a long table goes out in pieces", async () => {
    const rows = Array.from({ length: 25_000 }, (_, k): TableRow => ({ tag: `T${k}`, nickname: "n", sheetId: "s", usedFor: "" }));
    for (const format of TABLE_FORMAT_NAMES) {
      const { pieces, bytes } = await written(TABLES.units.columns, rows, format);
      expect(pieces).toBeGreaterThanOrEqual(3);
      expect((await readTable(bytes)).rows).toHaveLength(25_000);
    }
  });

  test("every column has a name of its own and says what it is", () => {
    for (const name of TABLE_NAMES) {
      const names = TABLES[name].columns.map((column) => column.name);
      expect(new Set(names).size).toBe(names.length);
      for (const { tells } of TABLES[name].columns) expect(tells).not.toBe("");
    }
  });
});

describe("tables that cannot be read", () => {
  const read = (text: string) => readTable(new TextEncoder().encode(text));

  test("empty, of another encoding, of other columns: one problem that says so", async () => {
    expect((await read("")).problems[0]?.error).toBe("is empty");
    expect((await readTable(Uint8Array.from([0x74, 0xe6, 0x67, 0x0a]))).problems[0]?.error).toMatch(/not in UTF-8/);
    const other = await read("a,b\r\n1,2\r\n");
    expect(other.name).toBeUndefined();
    expect(other.problems[0]?.error).toMatch(/^has the columns a, b, which are those of no table\. The tables need: jobs \(job/);
    expect((await readTable(new TextEncoder().encode("PAR1 and then nothing of the kind"))).problems[0]?.error).toMatch(/no Parquet file/);
  });

  test("a row with a wrong cell is named and left out; the others stand", async () => {
    const header = "id,job,test,number,takenAt,idle,rpm";
    const table = await read(
      `${header}\r\nreading-01,a-1,battery.rest,twelve,2026-01-01T00:00:00.000Z,0,\r\nreading-02,a-1,battery.rest,12.5,2026-01-01T00:00:00.000Z,maybe,1.5\r\n,a-1,battery.rest,12.5,x,0,\r\nreading-04,a-1,battery.rest,12.5,2026-01-01T00:00:00.000Z,0,\r\n`,
    );
    expect(table.problems).toEqual([
      { row: 2, column: "number", error: "is “twelve”, which is no number" },
      { row: 3, column: "rpm", error: "is 1.5; it must be a whole number" },
      { row: 3, column: "idle", error: "is “maybe”; it must be 1 or 0" },
      { row: 4, column: "id", error: "is missing" },
    ]);
    expect(table.rows).toHaveLength(1);
    expect(table.rows[0]?.row).toBe(5);
  });

  test("semicolons and decimal commas are a table as well", async () => {
    const table = await read("id;job;test;number;takenAt\r\nreading-01;a-1;battery.rest;12,5;2026-01-01T00:00:00.000Z\r\n");
    expect(table.rows[0]?.cells.number).toBe(12.5);
  });

  test("a broken line among JSON lines is named by its number", async () => {
    const table = await read('{"tag":"A1","nickname":"n","sheetId":"s"}\n{"tag":\n[1]\n{"tag":"A2","nickname":5,"sheetId":"s"}\n');
    expect(table.name).toBe("units");
    expect(table.rows).toHaveLength(1);
    expect(table.problems.map(({ row, column }) => [row, column])).toEqual([
      [2, "line"],
      [3, "line"],
      [4, "nickname"],
    ]);
  });
});
