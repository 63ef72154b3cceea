import { createInterface } from "node:readline";
import type { Command } from "commander";
import type { Sheet } from "../core/machine/sheet";
import type { Populations } from "../store/populations";
import { Consultation } from "./consultation";

/** Adds `uvrel consult`. */
export function addConsult(program: Command, findSheet: (id: string) => Sheet | undefined, populations: Populations): void {
  program
    .command("consult")
    .description("Hold a dialogue in JSON lines: open a case, give readings, hear what to read next, until the verdict")
    .action(async () => {
      const consultation = new Consultation(findSheet, populations);
      for await (const line of createInterface({ input: process.stdin })) {
        if (line.trim()) process.stdout.write(`${JSON.stringify(consultation.answer(line))}\n`);
      }
    });
}
