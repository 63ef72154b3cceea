import { readFileSync } from "node:fs";
import type { Command } from "commander";
import type { FieldProblem, Sheet } from "../core/machine/sheet";
import { readCase } from "../formats/case";
import { resultOf } from "../formats/result";
import type { Populations } from "../store/populations";
import type { Refuse } from "./command";

/** Adds `uvrel diagnose`. */
export function addDiagnose(program: Command, findSheet: (id: string) => Sheet | undefined, populations: Populations, refuse: Refuse): void {
  program
    .command("diagnose")
    .description("Diagnose a case file and print the result as JSON")
    .argument("<case>", "path of the case file, or - to read it from standard input")
    .option("--lines", "read one case a line and print one result a line")
    .action((path: string, options: { lines?: boolean }) => {
      const text = readInput(path, refuse);
      if (text === undefined) return;
      if (options.lines) return eachLine(text);
      const read = readCase(text, findSheet);
      if (!read.ok) return refuse(read.problems);
      process.stdout.write(`${JSON.stringify(resultOf(read.case, populations.of(read.case.sheet, read.case.ambientC)), null, 2)}\n`);
    });

  /** A refused line is answered by its problems on a line of its own, so that lines out match lines in. */
  function eachLine(text: string): void {
    const problems: FieldProblem[] = [];
    text.split("\n").forEach((line, i) => {
      if (line.trim() === "") return;
      const read = readCase(line, findSheet);
      if (!read.ok) problems.push(...read.problems.map(({ field, error }) => ({ field: `line ${i + 1}, ${field}`, error })));
      const answer = read.ok ? resultOf(read.case, populations.of(read.case.sheet, read.case.ambientC)) : { error: read.problems };
      process.stdout.write(`${JSON.stringify(answer)}\n`);
    });
    if (problems.length > 0) refuse(problems);
  }
}

function readInput(path: string, refuse: Refuse): string | undefined {
  try {
    return readFileSync(path === "-" ? 0 : path, "utf8");
  } catch (error) {
    const missing = error instanceof Error && "code" in error && error.code === "ENOENT";
    refuse([{ field: path, error: missing ? "there is no such file" : "it cannot be read" }]);
    return undefined;
  }
}
