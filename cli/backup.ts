import { resolve } from "node:path";
import type { Command } from "commander";
import { backUp, restore, type Whole } from "../store/backup";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import type { Refuse } from "./command";

/** `uvrel backup FILE` and `uvrel restore FILE`. */
export function addBackup(program: Command, folder: string, refuse: Refuse): void {
  const told = async (work: () => Promise<string> | string): Promise<void> => {
    try {
      process.stdout.write(`${await work()}\n`);
    } catch (error) {
      if (!(error instanceof DatabaseProblem)) throw error;
      refuse([{ field: "file", error: error.message }]);
    }
  };
  program
    .command("backup")
    .argument("<file>", "where the copy goes; nothing may be there yet")
    .description("Copy the workshop's database whole, while it is in use")
    .action((file: string) =>
      told(async () => {
        const whole = await backUp(folder, resolve(file));
        return `${file} holds ${counted(whole)}.\nsha256 ${whole.sha256}`;
      }),
    );
  program
    .command("restore")
    .argument("<file>", "a backup")
    .description("Put a backup in the database's place, once it is proved whole; stop Uvrel first")
    .action((file: string) =>
      told(() => {
        const whole = restore(folder, resolve(file), MIGRATIONS.length, new Date());
        return `Restored ${counted(whole)} to ${folder}.${whole.before ? `\nThe database that was there is kept as ${whole.before}.` : ""}`;
      }),
    );
}

const counted = ({ jobs, readings, repairs }: Whole): string => `${jobs} jobs, ${readings} readings, ${repairs} repairs`;
