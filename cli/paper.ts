import { existsSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { Argument, type Command } from "commander";
import { labelOf, logOf, reportOf } from "../papers/gather";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import { DATABASE_FILE, openDatabase } from "../store/open";
import { Store } from "../store/store";
import type { Refuse } from "./command";

/** `uvrel paper report JOB FILE`, `uvrel paper label JOB FILE`, `uvrel paper log TAG FILE`. */
export function addPaper(program: Command, folder: string, refuse: Refuse): void {
  program
    .command("paper")
    .description("Write a PDF: the work report of a job, the label for its part, or the log of a machine")
    .addArgument(new Argument("<what>", "which paper").choices(["report", "label", "log"]))
    .argument("<of>", "number of the job, or tag of the machine")
    .argument("<file>", "where it goes")
    .action(async (what: "report" | "label" | "log", of: string, file: string) => {
      if (!existsSync(join(folder, DATABASE_FILE))) return refuse([{ field: "paper", error: `there is no database in ${folder} yet` }]);
      const jobId = /^\d{1,15}$/.test(of) ? Number(of) : undefined;
      if (what !== "log" && jobId === undefined) return refuse([{ field: "of", error: `“${of}” is no number of a job` }]);
      try {
        const store = new Store(openDatabase(folder, MIGRATIONS));
        const now = new Date();
        const bytes = await (what === "log" ? logOf(store, of, now) : what === "label" ? labelOf(store, jobId ?? 0) : reportOf(store, jobId ?? 0, now));
        store.close();
        if (!bytes) return refuse([{ field: "of", error: what === "log" ? `there is no machine ${of} on the books` : `there is no job ${of}` }]);
        writeFileSync(resolve(file), bytes);
        process.stdout.write(`${file} is written.\n`);
      } catch (error) {
        if (error instanceof DatabaseProblem) return refuse([{ field: "paper", error: error.message }]);
        const { code } = error as NodeJS.ErrnoException;
        if (code === undefined) throw error;
        refuse([
          { field: "file", error: code === "ENOENT" ? "there is no such folder" : code === "ENOSPC" ? "the disk is full" : `it cannot be written (${code})` },
        ]);
      }
    });
}
