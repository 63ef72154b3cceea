import { spawnSync } from "node:child_process";
import { join } from "node:path";
import type { Command } from "commander";
import type { Refuse } from "./command";

/** Benchmarks that can be run from the command line, by the built program behind each. */
const BENCHES = { diagnosis: "diagnosis.js" } as const;

/** Adds `uvrel bench`. */
export function addBench(program: Command, refuse: Refuse): void {
  program
    .command("bench")
    .description("Measure the engine against hidden faults of an independent world")
    .argument("<what>", Object.keys(BENCHES).join(", "))
    .argument("[cases]", "how many machines", "2000")
    .argument("[seed]", "the first machine's number", "60000")
    .action((what: string, cases: string, seed: string) => {
      const file = BENCHES[what as keyof typeof BENCHES];
      if (!file) return refuse([{ field: "what", error: `must be one of ${Object.keys(BENCHES).join(", ")}` }]);
      const wrong = [
        { field: "cases", text: cases },
        { field: "seed", text: seed },
      ].filter(({ text }) => !/^[1-9]\d{0,8}$/.test(text));
      if (wrong.length > 0) return refuse(wrong.map(({ field }) => ({ field, error: "must be a whole number above 0" })));
      process.exitCode = spawnSync(process.execPath, [join(import.meta.dirname, file), cases, seed], { stdio: "inherit" }).status ?? 1;
    });
}
