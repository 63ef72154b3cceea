import { readFileSync } from "node:fs";
import { Command } from "commander";
import type { FieldProblem } from "../core/machine/sheet";
import { demoSheet } from "../demo/sheets";
import { caseJsonSchema, readCase } from "../formats/case";
import { resultOf } from "../formats/result";
import { dataFolder } from "../store/folder";
import { librarySheet } from "../store/library";

/** Exit code for input that is refused. */
const REFUSED = 2;

const program = new Command("uvrel").description("Finds the failed part of a powersports charging system.");

// Set before the commands are added, which take it over from here.
program.exitOverride((error) => {
  process.exit(error.exitCode === 0 ? 0 : REFUSED);
});
program
  .command("diagnose")
  .description("Diagnose a case file and print the result as JSON")
  .argument("<case>", "path of the case file, or - to read it from standard input")
  .action((path: string) => {
    const text = readInput(path);
    if (text === undefined) return;
    const read = readCase(text, (id) => librarySheet(dataFolder(), id) ?? demoSheet(id));
    if (!read.ok) return refuse(read.problems);
    process.stdout.write(`${JSON.stringify(resultOf(read.case), null, 2)}\n`);
  });

program
  .command("schema")
  .description("Print the JSON Schema of the case file")
  .action(() => {
    process.stdout.write(`${JSON.stringify(caseJsonSchema(), null, 2)}\n`);
  });

program.parse();

function readInput(path: string): string | undefined {
  try {
    return readFileSync(path === "-" ? 0 : path, "utf8");
  } catch (error) {
    const why = error instanceof Error && "code" in error && error.code === "ENOENT" ? "there is no such file" : "it cannot be read";
    process.stderr.write(`${path}: ${why}\n`);
    process.exitCode = REFUSED;
    return undefined;
  }
}

function refuse(problems: readonly FieldProblem[]): void {
  for (const { field, error } of problems) process.stderr.write(`${field}: ${error}\n`);
  process.exitCode = REFUSED;
}
