import type { Database } from "better-sqlite3";
import { z } from "zod";
import { preparer } from "./statements";

/** How an instrument speaks. */
export const LANGUAGES = { scpi: "SCPI, asked for its figure", lines: "lines of time, figure, unit" } as const;
type Language = keyof typeof LANGUAGES;

/** Addresses of this machine and of a workshop's own network: nothing beyond is called. */
const OWN_NETWORK =
  /^(localhost|127(\.\d{1,3}){3}|10(\.\d{1,3}){3}|192\.168(\.\d{1,3}){2}|172\.(1[6-9]|2\d|3[01])(\.\d{1,3}){2}|169\.254(\.\d{1,3}){2}|::1|[a-z0-9-]{1,63}(\.local)?)$/i;

/** An instrument as it is set up. */
export const instrumentSchema = z.object({
  name: z.string().trim().min(1, "Give it a name.").max(60, "May hold 60 characters at most."),
  language: z.enum(Object.keys(LANGUAGES) as [Language, ...Language[]], { error: "Pick how it speaks." }),
  host: z.string().trim().regex(OWN_NETWORK, "Must be an address of this machine or of the workshop's own network."),
  port: z
    .number({ error: "Must be a whole number from 1 to 65,535." })
    .int("Must be a whole number from 1 to 65,535.")
    .min(1, "Must be 1 or more.")
    .max(65_535, "Must be 65,535 or less."),
});

export interface Instrument extends z.output<typeof instrumentSchema> {
  id: number;
}

/** More than this hang on no workshop's bench. */
const MOST = 20;

/** The shop's instruments that speak. */
export class Instruments {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  list(): Instrument[] {
    return this.#sql("SELECT id, name, language, host, port FROM instruments ORDER BY id").all() as Instrument[];
  }

  find(id: number): Instrument | undefined {
    return this.#sql("SELECT id, name, language, host, port FROM instruments WHERE id = ?").get(id) as Instrument | undefined;
  }

  /** Adds one; false where there are too many already. */
  add({ name, language, host, port }: Omit<Instrument, "id">): boolean {
    if (this.list().length >= MOST) return false;
    this.#sql("INSERT INTO instruments (name, language, host, port) VALUES (?, ?, ?, ?)").run(name, language, host, port);
    return true;
  }

  change({ id, name, language, host, port }: Instrument): void {
    this.#sql("UPDATE instruments SET name = ?, language = ?, host = ?, port = ? WHERE id = ?").run(name, language, host, port, id);
  }

  remove(id: number): void {
    this.#sql("DELETE FROM instruments WHERE id = ?").run(id);
  }
}
