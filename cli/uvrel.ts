import { readFileSync } from "node:fs";
import { Command } from "commander";
import { type FieldProblem, parseSheet } from "../core/machine/sheet";
import { demoSheet } from "../demo/sheets";
import { caseJsonSchema } from "../formats/case";
import { dataFolder } from "../store/folder";
import { librarySheet } from "../store/library";
import { Populations } from "../store/populations";
import { addBackup } from "./backup";
import { addBench } from "./bench";
import { addConsult } from "./consult";
import { addDiagnose } from "./diagnose";
import { addMeter } from "./meter";
import { addPaper } from "./paper";
import { addPerson } from "./person";
import { addSimulate } from "./simulate";
import { addTables } from "./tables";
import { addTrace } from "./trace";

/** Exit code for input that is refused. */
const REFUSED = 2;

// A reader that has seen enough (head, less) closes the pipe; that is no error.
process.stdout.on("error", (error: NodeJS.ErrnoException) => {
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});

const program = new Command("uvrel").description("Finds the failed part of a powersports charging system.");

// Set before the commands are added, which take it over from here.
program.exitOverride((error) => {
  process.exit(error.exitCode === 0 ? 0 : REFUSED);
});
const findSheet = (id: string) => librarySheet(dataFolder(), id) ?? demoSheet(id);
const populations = new Populations(dataFolder());
addDiagnose(program, findSheet, populations, refuse);

program
  .command("schema")
  .description("Print the JSON Schema of the case file")
  .action(() => {
    process.stdout.write(`${JSON.stringify(caseJsonSchema(), null, 2)}\n`);
  });

addSimulate(program, namedSheet, refuse);
addConsult(program, findSheet, populations);
addBench(program, refuse);
addBackup(program, dataFolder(), refuse);
addTables(program, dataFolder(), refuse);
addPaper(program, dataFolder(), refuse);
addPerson(program, dataFolder(), refuse);
addTrace(program, refuse);
addMeter(program, namedSheet, refuse);

await program.parseAsync();

/** A sheet by its id in the workshop's library or the demo's, or from a file. */
function namedSheet(name: string): ReturnType<typeof parseSheet> {
  const known = librarySheet(dataFolder(), name) ?? demoSheet(name);
  if (known) return { ok: true, sheet: known };
  if (!/\.json$/.test(name))
    return { ok: false, problems: [{ field: "sheet", error: `there is no sheet “${name}”; give an id from the library or a .json file` }] };
  try {
    return parseSheet(JSON.parse(readFileSync(name, "utf8")));
  } catch (error) {
    return {
      ok: false,
      problems: [{ field: "sheet", error: error instanceof SyntaxError ? `${name} is not JSON: ${error.message}` : `${name} cannot be read` }],
    };
  }
}

function refuse(problems: readonly FieldProblem[]): void {
  for (const { field, error } of problems) process.stderr.write(`${field}: ${error}\n`);
  process.exitCode = REFUSED;
}
