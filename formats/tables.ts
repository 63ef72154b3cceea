/** Tables that leave Uvrel and come back: jobs, readings, repairs, machines and sheets, each column with its kind and what it tells. */

type ColumnKind = "text" | "number" | "whole" | "flag" | "json";

export interface Column {
  name: string;
  kind: ColumnKind;
  tells: string;
  /** Must stand in every row that comes in. */
  needed?: true;
  /** Worked out from the rest: told to whoever counts, ignored when it comes in. */
  told?: true;
  /** Asked for from one figure or moment to another: a file that can say the least and most of each stretch of rows does. */
  ranged?: true;
}

/** One kind of table. */
interface TableKind {
  title: string;
  columns: readonly Column[];
}

const text = (name: string, tells: string, more: Partial<Column> = {}): Column => ({ name, kind: "text", tells, ...more });
const number = (name: string, tells: string, more: Partial<Column> = {}): Column => ({ name, kind: "number", tells, ...more });
const whole = (name: string, tells: string, more: Partial<Column> = {}): Column => ({ name, kind: "whole", tells, ...more });
const flag = (name: string, tells: string): Column => ({ name, kind: "flag", tells });
const json = (name: string, tells: string, more: Partial<Column> = {}): Column => ({ name, kind: "json", tells, ...more });

const NEEDED = { needed: true } as const;
const TOLD = { told: true } as const;
const RANGED = { ranged: true } as const;

/** Every kind of table, by the name that it has on the command line and in addresses. */
export const TABLES = {
  jobs: {
    title: "Jobs",
    columns: [
      text("job", "The job's own name, the same in every workshop it is taken to", NEEDED),
      text("machine", "The machine's tag; empty without one"),
      text("nickname", "What the machine is called", NEEDED),
      json("sheet", "The sheet that the job is judged by, as a JSON document", NEEDED),
      text("school", "The school that fills what the sheet leaves out", NEEDED),
      json("meter", "The meter: name, lead ohms, resolution, true rms, volts on diode", NEEDED),
      number("ambientC", "Air temperature, °C", NEEDED),
      number("batteryAgeYears", "Age of the battery, years; empty where nobody knows"),
      json("complaint", "What the owner complains of, as ids", NEEDED),
      text("words", "The owner's words"),
      number("useCount", "What the machine's own counter shows"),
      text("useUnit", "What it counts: h or km"),
      text("openedAt", "When it came in, ISO 8601", { ...NEEDED, ...RANGED }),
      text("openedBy", "Who took it in"),
      text("closedAt", "When it was closed; empty while it is open", RANGED),
      text("ending", "proven, healthy, plain-cause or unproven"),
      text("closingNote", "What was noted at the end"),
      text("closedBy", "Who closed it"),
      text("model", "Maker and model", TOLD),
      text("family", "Family of charging systems", TOLD),
      text("kind", "Kind of machine", TOLD),
      text("partSaid", "The part named before the first repair"),
      number("oddsSaid", "With what odds, 0 to 1"),
      text("partLast", "The part mended last", TOLD),
      text("faultLast", "What had failed of it", TOLD),
      whole("repairs", "Repairs recorded", TOLD),
      number("hands", "Minutes of hands on the machine, once closed"),
      number("clock", "Minutes on the clock, once closed"),
    ],
  },
  readings: {
    title: "Readings",
    columns: [
      text("id", "The reading's own id", NEEDED),
      text("job", "The job it was taken in", NEEDED),
      text("machine", "The machine's tag", TOLD),
      text("test", "Which test", NEEDED),
      text("at", "Where: leg, pair, diode, fuse or place"),
      whole("rpm", "Engine speed, 1/min; empty at idle and with the engine off"),
      flag("idle", "Taken at idle"),
      text("loads", "off, normal or all"),
      number("number", "What the meter showed, in the test's unit", RANGED),
      text("word", "What was seen instead of a figure; OL for the open line"),
      flag("raw", "The leads' own ohms are still in it"),
      number("leadOhms", "Lead zero of the moment, Ω"),
      number("ohmsResolution", "Last digit on ohms of its own meter, Ω"),
      flag("secondMeter", "Read on the second meter"),
      flag("hot", "With hot windings"),
      flag("charged", "After a full charge"),
      number("restHours", "Hours the battery had rested"),
      number("amps", "Amps of a load test"),
      text("touched", "post or lug"),
      text("rating", "The standard of a tester's amps"),
      number("swing", "How far it swung to and fro"),
      text("note", "What was noted beside it"),
      flag("afterRepair", "Taken after a repair"),
      whole("repairs", "Repairs recorded by then"),
      text("takenAt", "When, ISO 8601", { ...NEEDED, ...RANGED }),
      text("by", "Who took it"),
      text("supersedes", "The reading it takes the place of"),
      text("supersedesWhy", "mistyped or taken-again"),
    ],
  },
  repairs: {
    title: "Repairs",
    columns: [
      text("job", "The job it was done in", NEEDED),
      text("part", "Which part", NEEDED),
      text("fault", "What had failed of it"),
      text("found", "What the verdict said then"),
      text("done", "What was done", NEEDED),
      text("repairedAt", "When, ISO 8601", { ...NEEDED, ...RANGED }),
      text("by", "Who did it"),
    ],
  },
  units: {
    title: "Machines",
    columns: [
      text("tag", "The tag that hangs on it", NEEDED),
      text("nickname", "What it is called", NEEDED),
      text("sheetId", "Its sheet", NEEDED),
      text("usedFor", "What it is used for"),
    ],
  },
  sheets: {
    title: "Sheets",
    columns: [
      text("id", "The sheet's id", NEEDED),
      text("maker", "Maker", TOLD),
      text("model", "Model", TOLD),
      json("sheet", "The whole sheet, as a JSON document", NEEDED),
    ],
  },
} as const satisfies Record<string, TableKind>;

export type TableName = keyof typeof TABLES;
export const TABLE_NAMES = Object.keys(TABLES) as [TableName, ...TableName[]];

/** The open formats in which tables go out and come in, with their media types. */
export const TABLE_FORMATS = {
  csv: { title: "CSV", type: "text/csv; charset=utf-8" },
  ndjson: { title: "NDJSON", type: "application/x-ndjson" },
  parquet: { title: "Parquet", type: "application/vnd.apache.parquet" },
} as const;

export type TableFormat = keyof typeof TABLE_FORMATS;
export const TABLE_FORMAT_NAMES = Object.keys(TABLE_FORMATS) as [TableFormat, ...TableFormat[]];

/** A cell on its way; what is not there is null. */
type TableCell = string | number | null;

/** A row on its way out: its cells in the order of the columns. */
export type TableCells = readonly TableCell[];

/** A row that came in: its cells by the names of their columns. */
export type TableRow = Record<string, TableCell>;
