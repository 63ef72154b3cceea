import type { Command } from "commander";
import { read } from "read";
import type { FieldProblem } from "../core/machine/sheet";
import { DatabaseProblem } from "../store/migrate";
import { MIGRATIONS } from "../store/migrations";
import { openDatabase } from "../store/open";
import { MOST_NAME, PASSWORD, secretOf } from "../store/people";
import { Store } from "../store/store";
import type { Refuse } from "./command";

/** `uvrel person add NAME`, `password NAME`, `remove NAME` and `list`. */
export function addPerson(program: Command, folder: string, refuse: Refuse): void {
  const person = program.command("person").description("Who may sign in where Uvrel is reached from other machines");
  const within = async (work: (store: Store) => Promise<string> | string): Promise<void> => {
    let store: Store | undefined;
    try {
      store = new Store(openDatabase(folder, MIGRATIONS));
      process.stdout.write(`${await work(store)}\n`);
    } catch (error) {
      if (error instanceof Refused) refuse([error]);
      else if (error instanceof DatabaseProblem) refuse([{ field: "database", error: error.message }]);
      else throw error;
    } finally {
      store?.close();
    }
  };
  person
    .command("add")
    .argument("<name>", "as it stands on reports")
    .description("Add somebody; the password is asked for, or read from standard input")
    .action((given: string) =>
      within(async (store) => {
        const name = given.trim();
        if (name === "" || name.length > MOST_NAME) throw new Refused("name", `must be 1 to ${MOST_NAME} characters`);
        if (store.people.list().some((person) => person.name.toLowerCase() === name.toLowerCase())) throw new Refused("name", `${name} is there already`);
        const secret = await secretOf(await password());
        await store.patiently(() => store.people.add(name, secret, new Date().toISOString()));
        return `${name} may sign in.`;
      }),
    );
  person
    .command("password")
    .argument("<name>")
    .description("Give somebody a new password; their sessions end")
    .action((name: string) =>
      within(async (store) => {
        known(store, name);
        const secret = await secretOf(await password());
        await store.patiently(() => store.people.changeSecret(name, secret));
        return `${name} has a new password, and signs in anew.`;
      }),
    );
  person
    .command("remove")
    .argument("<name>")
    .description("Take somebody off; what they did keeps their name")
    .action((name: string) =>
      within(async (store) => {
        known(store, name);
        await store.patiently(() => store.people.remove(name));
        return `${name} can no longer sign in.`;
      }),
    );
  person
    .command("list")
    .description("Who may sign in")
    .action(() =>
      within(
        ({ people }) =>
          people
            .list()
            .map(({ name }) => name)
            .join("\n") || "Nobody yet.",
      ),
    );
}

class Refused extends Error implements FieldProblem {
  readonly field: string;
  readonly error: string;

  constructor(field: string, error: string) {
    super(`${field}: ${error}`);
    this.field = field;
    this.error = error;
  }
}

function known(store: Store, name: string): void {
  if (!store.people.list().some((person) => person.name.toLowerCase() === name.toLowerCase())) throw new Refused("name", `there is nobody called ${name}`);
}

/** A password typed unseen, twice; or the first line of standard input where that is no keyboard. */
async function password(): Promise<string> {
  const typed = process.stdin.isTTY ? await read({ prompt: "Password: ", silent: true }) : await read({ output: process.stderr });
  if (typed.length < PASSWORD.least || typed.length > PASSWORD.most) throw new Refused("password", `must be ${PASSWORD.least} to ${PASSWORD.most} characters`);
  if (process.stdin.isTTY && (await read({ prompt: "Once more: ", silent: true })) !== typed) throw new Refused("password", "the two are not alike");
  return typed;
}
