import type { Database } from "better-sqlite3";
import { z } from "zod";
import { JACK_IDS, type Jack } from "../core/procedure/jacks";
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
  /** Where its red lead sits, or that it is a clamp; nothing where whoever reads moves it as the dial is turned. */
  jack: z.enum(JACK_IDS, { error: "Pick where its lead sits." }).nullable(),
  /** What it shows with its tips together, Ω, and its last digit on ohms, Ω; nothing where they are those of the job's meter. */
  leadOhms: z
    .number({ error: "Must be a number from 0 to 5 Ω, or nothing." })
    .min(0, "Must be 0 Ω or more.")
    .max(5, "Must be 5 Ω or less: are the probes touching?")
    .nullable(),
  ohmsResolution: z
    .number({ error: "Must be a number from 0.0001 to 10 Ω, or nothing." })
    .min(0.0001, "Must be 0.0001 Ω or more.")
    .max(10, "Must be 10 Ω or less.")
    .nullable(),
  /** It is the second meter: what it shows is told apart from what the job's meter shows. */
  secondMeter: z.boolean(),
});

export interface Instrument extends z.output<typeof instrumentSchema> {
  id: number;
}

/** More than this hang on no workshop's bench. */
const MOST = 20;

interface InstrumentRow {
  id: number;
  name: string;
  language: Language;
  host: string;
  port: number;
  jack: Jack | null;
  lead_ohms: number | null;
  ohms_resolution: number | null;
  second_meter: number;
}

const instrumentOf = ({ lead_ohms, ohms_resolution, second_meter, ...row }: InstrumentRow): Instrument => ({
  ...row,
  leadOhms: lead_ohms,
  ohmsResolution: ohms_resolution,
  secondMeter: second_meter === 1,
});

const rowOf = <T extends Omit<Instrument, "id">>(instrument: T) => ({ ...instrument, secondMeter: instrument.secondMeter ? 1 : 0 });

/** The shop's instruments that speak. */
export class Instruments {
  readonly #sql: ReturnType<typeof preparer>;

  constructor(db: Database) {
    this.#sql = preparer(db);
  }

  list(): Instrument[] {
    return (this.#sql("SELECT * FROM instruments ORDER BY id").all() as InstrumentRow[]).map(instrumentOf);
  }

  find(id: number): Instrument | undefined {
    const row = this.#sql("SELECT * FROM instruments WHERE id = ?").get(id) as InstrumentRow | undefined;
    return row && instrumentOf(row);
  }

  /** Adds one; false where there are too many already. */
  add(instrument: Omit<Instrument, "id">): boolean {
    if (this.list().length >= MOST) return false;
    this.#sql(
      `INSERT INTO instruments (name, language, host, port, jack, lead_ohms, ohms_resolution, second_meter)
         VALUES (@name, @language, @host, @port, @jack, @leadOhms, @ohmsResolution, @secondMeter)`,
    ).run(rowOf(instrument));
    return true;
  }

  change(instrument: Instrument): void {
    this.#sql(
      `UPDATE instruments SET name = @name, language = @language, host = @host, port = @port, jack = @jack, lead_ohms = @leadOhms,
         ohms_resolution = @ohmsResolution, second_meter = @secondMeter WHERE id = @id`,
    ).run(rowOf(instrument));
  }

  remove(id: number): void {
    this.#sql("DELETE FROM instruments WHERE id = ?").run(id);
  }
}
