import { readFileSync, statSync } from "node:fs";
import type { Command } from "commander";
import { readTrace } from "../core/trace/read";
import { readTraceText } from "../formats/traceTable";
import type { Refuse } from "./command";

/** A log that is larger is no log of one machine, and more than fits into memory at once. */
const MOST_BYTES = 400_000_000;

/** Adds `uvrel trace`: a logged trace read, its phases and figures printed as JSON. */
export function addTrace(program: Command, refuse: Refuse): void {
  program
    .command("trace")
    .description("Read a log of volts over time and print its phases and figures as JSON")
    .argument("<file>", "CSV of any common shape: a column of times and one of volts")
    .option("--column <name>", "the column of volts, where its name does not say so")
    .option("--system <volts>", "12 or 6", "12")
    .action((file: string, { column, system }: { column?: string; system: string }) => {
      if (system !== "12" && system !== "6") return refuse([{ field: "system", error: `“${system}” must be 12 or 6` }]);
      let text: string;
      try {
        if (statSync(file).size > MOST_BYTES) return refuse([{ field: "file", error: `${file} is larger than 400 MB: cut the log into parts` }]);
        text = readFileSync(file, "utf8");
      } catch {
        return refuse([{ field: "file", error: `${file} cannot be read` }]);
      }
      const read = readTraceText(text, column);
      if (!read.ok) return refuse([{ field: column === undefined ? "file" : "column", error: read.error }]);
      const { samples, ratePerSecond, phases, figures, notes } = readTrace(read.trace, system === "6" ? 6 : 12);
      const { column: named, timeColumn, notes: understood } = read.trace;
      process.stdout.write(
        `${JSON.stringify({ samples, ratePerSecond, column: named, timeColumn, phases, figures, notes: [...understood, ...notes] }, null, 2)}\n`,
      );
    });
}
