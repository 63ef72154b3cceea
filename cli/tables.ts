import { once } from "node:events";
import { createWriteStream, existsSync, readFileSync, renameSync, rmSync, statSync } from "node:fs";
import { join, resolve } from "node:path";
import { Argument, type Command, Option } from "commander";
import { readTable } from "../formats/tableIn";
import { writeTable } from "../formats/tableOut";
import { TABLE_FORMAT_NAMES, TABLE_NAMES, TABLES, type TableFormat, type TableName } from "../formats/tables";
import { exportRows } from "../store/exporting";
import { bring } from "../store/importing";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import { DATABASE_FILE, openDatabase } from "../store/open";
import { questionOf } from "../store/question";
import { Store } from "../store/store";
import type { Refuse } from "./command";

/** Tables larger than this are sent in parts, bytes. */
const LARGEST = 1_000_000_000;
/** Problems that are printed; more are counted. */
const PRINTED = 20;

interface ExportOptions {
  format: TableFormat;
  out?: string;
  words?: string;
  machine?: string;
  kind?: string;
  part?: string;
  ending?: string;
  from?: string;
  to?: string;
}

/** `uvrel export WHAT` and `uvrel import FILE`. */
export function addTables(program: Command, folder: string, refuse: Refuse): void {
  program
    .command("export")
    .description("Write jobs, readings, repairs, machines or sheets as a table")
    .addArgument(new Argument("<what>", "which table").choices(TABLE_NAMES))
    .addOption(new Option("--format <format>", "how it is written").choices(TABLE_FORMAT_NAMES).default("csv"))
    .option("--out <file>", "where it goes; without it, standard output")
    .option("--words <words>", "only jobs with these words")
    .option("--machine <tag>", "only jobs of this machine")
    .option("--kind <kind>", "only jobs of this kind of machine")
    .option("--part <part>", "only jobs in which this part was mended last")
    .option("--ending <ending>", "only jobs that ended so, or are open")
    .option("--from <day>", "only jobs that came in on this day or later, as 2026-05-31")
    .option("--to <day>", "only jobs that came in on this day or earlier")
    .action(async (what: TableName, { format, out, ...narrow }: ExportOptions) => {
      const { machine, ...rest } = narrow;
      const asked = questionOf(new URLSearchParams(Object.entries({ ...rest, ...(machine ? { unitTag: machine } : {}) }) as [string, string][]));
      const wrong = Object.entries(asked.errors);
      if (wrong.length > 0) return refuse(wrong.map(([field, error]) => ({ field: field === "unitTag" ? "machine" : field, error })));
      try {
        // A database of an earlier version is brought up to date first, as at every start.
        if (existsSync(join(folder, DATABASE_FILE))) openDatabase(folder, MIGRATIONS).close();
        const rows = exportRows(folder, what, asked.question);
        const written = out === undefined ? await toStdout(what, rows, format) : await toFile(resolve(out), what, rows, format);
        if (out !== undefined) process.stdout.write(`${out} holds ${written.toLocaleString("en")} rows.\n`);
      } catch (error) {
        if (!(error instanceof DatabaseProblem)) throw error;
        refuse([{ field: "export", error: error.message }]);
      }
    });

  program
    .command("import")
    .description("Bring in a table of jobs, readings, repairs, machines or sheets; what is here already is left as it is")
    .argument("<file>", "CSV, NDJSON or Parquet, as export writes it")
    .option("--look", "say what it would do and keep nothing")
    .action(async (file: string, { look }: { look?: boolean }) => {
      const bytes = bytesOf(file);
      if (typeof bytes === "string") return refuse([{ field: file, error: bytes }]);
      const read = await readTable(bytes);
      if (!read.name) return refuse(read.problems.map(({ row, column, error }) => ({ field: `row ${row}, ${column}`, error })));
      try {
        const store = new Store(openDatabase(folder, MIGRATIONS));
        const brought = bring(store, read.name, read.rows, new Date().toISOString());
        const problems = [...read.problems, ...brought.problems].sort((a, b) => a.row - b.row);
        if (!look && problems.length === 0) store.action(brought.keep);
        store.close();
        const would = look || problems.length > 0 ? "would be" : "are";
        process.stdout.write(`${TABLES[read.name].title}: ${brought.fresh} ${would} new, ${brought.changed} changed, ${brought.known} here already.\n`);
        if (problems.length === 0) return;
        refuse(problems.slice(0, PRINTED).map(({ row, column, error }) => ({ field: `row ${row}, ${column}`, error })));
        process.stderr.write(`${problems.length > PRINTED ? `and ${problems.length - PRINTED} more. ` : ""}Nothing was kept.\n`);
      } catch (error) {
        if (!(error instanceof DatabaseProblem)) throw error;
        refuse([{ field: "import", error: error.message }]);
      }
    });
}

function bytesOf(file: string): Uint8Array | string {
  try {
    if (statSync(file).size > LARGEST) return "is larger than 1 GB: send it in parts";
    return readFileSync(file);
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === "ENOENT" ? "there is no such file" : "it cannot be read";
  }
}

async function toStdout(what: TableName, rows: Parameters<typeof writeTable>[1], format: TableFormat): Promise<number> {
  return writeTable(TABLES[what].columns, rows, format, async (bytes) => {
    if (!process.stdout.write(bytes)) await once(process.stdout, "drain");
  });
}

/** Writes beside the file first and gives it its name when it is whole. @throws DatabaseProblem where the disk does not take it */
async function toFile(file: string, what: TableName, rows: Parameters<typeof writeTable>[1], format: TableFormat): Promise<number> {
  const part = `${file}.part`;
  const stream = createWriteStream(part);
  const failed = new Promise<never>((_, reject) => stream.once("error", reject));
  failed.catch(() => undefined);
  try {
    const written = await writeTable(TABLES[what].columns, rows, format, async (bytes) => {
      if (!stream.write(bytes)) await Promise.race([once(stream, "drain"), failed]);
    });
    stream.end();
    await Promise.race([once(stream, "close"), failed]);
    renameSync(part, file);
    return written;
  } catch (error) {
    stream.destroy();
    rmSync(part, { force: true });
    const { code } = error as NodeJS.ErrnoException;
    if (code === undefined || error instanceof DatabaseProblem) throw error;
    const why =
      code === "ENOSPC" ? "the disk is full" : code === "ENOENT" ? "there is no such folder" : code === "EACCES" ? "nothing may be written there" : code;
    throw new DatabaseProblem(`${file} could not be written: ${why}. Nothing is left of it.`);
  }
}
