import { z } from "zod";
import { KIND_IDS } from "../core/machine/kind";
import { PARTS } from "../core/machine/part";
import { CATALOGUE } from "../core/procedure/catalogue";
import { typedNumber } from "../formats/typed";
import type { Question } from "./records";

/** A question to the records as an address carries it. */

const DAY = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;
const day = z.string().regex(DAY, "Must be a day, as 2026-05-31.").optional();
const figure = z.number({ error: "Must be a number." }).min(-1e9, "Must be a number of a meter.").max(1e9, "Must be a number of a meter.").optional();

const ENDING_IDS = ["open", "proven", "healthy", "plain-cause", "unproven"] as const;

const questionSchema = z
  .object({
    words: z.string().max(120, "May hold 120 characters at most.").optional(),
    unitTag: z.string().max(20, "May hold 20 characters at most.").optional(),
    sheetId: z.string().max(60, "May hold 60 characters at most.").optional(),
    kind: z.enum(KIND_IDS, { error: "Pick a kind of machine." }).optional(),
    part: z.enum([...PARTS, "none"], { error: "Pick a part." }).optional(),
    ending: z.enum(ENDING_IDS, { error: "Pick how the job ended." }).optional(),
    test: z.enum(CATALOGUE.map(({ id }) => id) as [string, ...string[]], { error: "Pick a test." }).optional(),
    least: figure,
    most: figure,
    from: day,
    to: day,
  })
  .refine(({ least, most }) => least === undefined || most === undefined || least <= most, { path: ["most"], error: "Must not lie below the least." })
  .refine(({ from, to }) => !from || !to || from <= to, { path: ["to"], error: "Must not lie before the first day." })
  .refine(({ test, least, most }) => test !== undefined || (least === undefined && most === undefined), {
    path: ["test"],
    error: "Pick the test that the figures are of.",
  });

const TEXTS = ["words", "unitTag", "sheetId", "kind", "part", "ending", "test", "from", "to"] as const;
const FIGURES = ["least", "most"] as const;
const FIELDS = [...TEXTS, ...FIGURES];

/** What was asked, what of it stands, and what is wrong by field: what is wrong narrows nothing, and is said. */
interface Asked {
  question: Question;
  typed: Record<string, string>;
  errors: Record<string, string>;
}

/** Reads a question out of an address. */
export function questionOf(params: URLSearchParams): Asked {
  const typed = Object.fromEntries(FIELDS.flatMap((name) => (params.get(name)?.trim() ? [[name, (params.get(name) as string).trim()]] : [])));
  const document = Object.fromEntries(
    Object.entries(typed).map(([name, text]) => [name, (FIGURES as readonly string[]).includes(name) ? typedNumber(text) : text]),
  );
  const parsed = questionSchema.safeParse(document);
  if (parsed.success) return { question: parsed.data, typed, errors: {} };
  const errors = Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message]));
  const rest = Object.fromEntries(Object.entries(document).filter(([name]) => !(name in errors)));
  const again = questionSchema.safeParse(rest);
  return { question: again.success ? again.data : {}, typed, errors };
}

/** The same question as an address, without what is empty. */
export function addressOf(typed: Readonly<Record<string, string>>, more: Readonly<Record<string, string>> = {}): string {
  const params = new URLSearchParams();
  for (const name of FIELDS) if (typed[name]) params.set(name, typed[name]);
  for (const [name, value] of Object.entries(more)) params.set(name, value);
  const text = params.toString();
  return text === "" ? "" : `?${text}`;
}
