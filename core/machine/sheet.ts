import { z } from "zod";
import { CHEMISTRIES, type Chemistry } from "../battery/charge";
import { PLACE_IDS } from "./access";
import { capacitorProblem } from "./capacitor";
import { FAMILY_IDS, familyOf } from "./families/registry";
import { ISOLATORS } from "./isolator";
import { KIND_IDS } from "./kind";
import { LOOSE_IDS } from "./loose";
import { WIRE_COLOURS } from "./wire";

/**
 * A sheet: what the maker prints about one model's charging system, and from which the loom, the bands and
 * (with the electrical figures) the circuit are drawn. Anything the sheet leaves out is left out here too;
 * a school fills it when a reading is judged.
 */

const text = (most: number) => z.string().trim().min(1, "may not be empty").max(most, `may hold ${most} characters at most`);

const finite = (low: number, high: number, unit: string) =>
  z
    .number({ error: `must be a number in ${unit}` })
    .min(low, `must be ${low} ${unit} or more`)
    .max(high, `must be ${high} ${unit} or less`);

const wireSchema = z.strictObject({
  base: z.enum(WIRE_COLOURS, { error: `must be one of ${WIRE_COLOURS.join(", ")}` }),
  tracer: z.enum(WIRE_COLOURS, { error: `must be one of ${WIRE_COLOURS.join(", ")}` }).optional(),
});

const legSchema = z.strictObject({
  /** The leg's name in tests and points: "1", or the sheet's own. */
  id: z.string().regex(/^[A-Za-z0-9]{1,4}$/, "must be 1 to 4 letters or digits"),
  pin: text(8),
  wire: wireSchema,
});

/** The kinds of band a sheet can give: between two figures, or "must be open". */
const sheetBandSchema = z
  .strictObject({
    test: z.string(),
    /** Where it is read, for machines whose windings differ: "1-2", "L"; absent where one figure serves all. */
    at: z
      .string()
      .regex(/^[A-Za-z0-9+>-]{1,9}$/, "must be a point such as 1-2")
      .optional(),
    /** The rpm at which the figure holds; absent where rpm plays no part. */
    rpm: finite(100, 20_000, "rpm").optional(),
    loads: z.enum(["off", "normal", "all"], { error: "must be off, normal or all" }).optional(),
    low: finite(0, 100_000, "in the test's unit").optional(),
    high: finite(0, 100_000, "in the test's unit").optional(),
    page: text(24).optional(),
  })
  .refine((band) => band.low !== undefined || band.high !== undefined, {
    error: "needs a low figure, a high figure or both",
    path: ["low"],
  })
  .refine((band) => band.low === undefined || band.high === undefined || band.low <= band.high, {
    error: "must not be above the high figure",
    path: ["low"],
  });

export const sheetSchema = z
  .strictObject({
    id: z
      .string()
      .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, "must be lower-case words joined by hyphens")
      .max(60, "may hold 60 characters at most")
      // Sheets have addresses of their own, and this one is taken.
      .refine((id) => id !== "new" && id !== "import", { error: "may be neither “new” nor “import”: those are pages of their own" }),
    maker: text(40),
    model: text(60),
    years: text(20).optional(),
    /** Absent where all that is known is its charging system. */
    kind: z.enum(KIND_IDS, { error: `must be one of ${KIND_IDS.join(", ")}` }).optional(),
    family: z.enum(FAMILY_IDS, {
      error: (issue) => `“${String(issue.input)}” is not a family this edition knows (${FAMILY_IDS.join(", ")})`,
    }),
    systemVolts: z.union([z.literal(6), z.literal(12)], { error: "must be 6 or 12" }),
    earth: z.enum(["negative", "positive"], { error: "must be negative or positive" }).default("negative"),
    /** How the windings are joined, where a family leaves that open. */
    winding: z.enum(["wye", "delta", "unknown"], { error: "must be wye, delta or unknown" }).default("unknown"),
    polePairs: z
      .number({ error: "must be a whole number" })
      .int("must be a whole number")
      .min(1, "must be 1 or more")
      .max(24, "must be 24 or fewer")
      .optional(),
    legs: z.array(legSchema).min(1, "needs at least one leg").max(5, "may hold five legs at most"),
    statorConnector: z.strictObject({ name: text(12), place: text(80) }),
    outputWire: wireSchema,
    groundWire: wireSchema,
    /** Where the unit is grounded: by a pin and wire, or by its case. */
    unitGround: z.enum(["wire", "case"], { error: "must be wire or case" }),
    /** Where the regulator senses: at the battery (own wire) or at its own output. */
    sense: z.enum(["battery", "output", "unknown"], { error: "must be battery, output or unknown" }).default("output"),
    /** The wire out of the generator whose pulses the tachometer counts; absent where it counts none of them. */
    tach: z.string().optional(),
    /** What keeps two batteries apart that one generator charges; absent where there is one. */
    isolator: z.enum(ISOLATORS, { error: `must be one of ${ISOLATORS.join(", ")}` }).optional(),
    /** What it takes until the generator gives anything: some speed once, some seconds. Absent where it gives from the start. */
    wakes: z
      .strictObject({ aboveRpm: finite(300, 10_000, "rpm").optional(), afterSeconds: finite(1, 120, "s").optional() })
      .refine(({ aboveRpm, afterSeconds }) => aboveRpm !== undefined || afterSeconds !== undefined, {
        error: "needs the rpm, the seconds or both",
        path: ["aboveRpm"],
      })
      .optional(),
    /** This part of it was brought in without the rest. Of one job, never of a model. */
    loose: z.enum(LOOSE_IDS, { error: `must be one of ${LOOSE_IDS.join(", ")}` }).optional(),
    /** What turns the generator, where a family leaves that open. */
    drive: z.enum(["belt", "engine"], { error: "must be belt or engine" }).optional(),
    /** How places are reached: what comes off, with which tools, in how many minutes. */
    access: z
      .array(
        z.strictObject({
          place: z.enum(PLACE_IDS, { error: `must be one of ${PLACE_IDS.join(", ")}` }),
          minutes: finite(0, 600, "min").optional(),
          steps: text(200).optional(),
          tools: text(120).optional(),
        }),
      )
      .max(PLACE_IDS.length, `may hold ${PLACE_IDS.length} places at most`)
      .refine((places) => new Set(places.map(({ place }) => place)).size === places.length, { error: "names a place twice" })
      .optional(),
    fuses: z
      .array(
        z.strictObject({
          id: z.string().regex(/^[A-Za-z0-9]{1,6}$/, "must be 1 to 6 letters or digits"),
          amps: finite(1, 200, "A"),
          feeds: text(60),
        }),
      )
      .min(1, "needs the fuse between the unit and the battery"),
    battery: z.strictObject({
      chemistry: z.enum(CHEMISTRIES, { error: `must be one of ${CHEMISTRIES.join(", ")}` }),
      /** Absent where nobody has read the label. */
      ah: finite(1, 300, "Ah").optional(),
      cca: finite(20, 2000, "A").optional(),
      /** Of a capacitor. */
      microfarads: finite(1000, 500_000, "µF").optional(),
    }),
    idleRpm: finite(300, 4000, "rpm"),
    testRpm: finite(500, 15_000, "rpm"),
    /** Rated output and what the machine itself uses, in amps; the circuit is built from these. */
    ratedAmps: finite(1, 200, "A").optional(),
    loadAmps: z.strictObject({ normal: finite(0, 200, "A"), all: finite(0, 200, "A") }).optional(),
    bands: z.array(sheetBandSchema).max(80, "may hold 80 bands at most"),
    source: text(120).optional(),
  })
  .superRefine(({ legs, family, wakes, tach, battery }, context) => {
    // Asked even where one of the two is none: that is said of the field itself.
    const wrong = Array.isArray(legs) && FAMILY_IDS.includes(family) ? legsProblem(legs, family) : undefined;
    if (wrong) context.addIssue({ code: "custom", message: wrong, path: ["legs"] });
    if (tach !== undefined && Array.isArray(legs) && FAMILY_IDS.includes(family)) {
      const pulsing = legs.map(({ id }) => id).filter((id) => pulses(id, { family, legs }));
      if (!pulsing.includes(tach))
        context.addIssue({
          code: "custom",
          message:
            pulsing.length > 0
              ? `“${tach}” gives a tachometer no pulses: one of ${pulsing.join(", ")} does`
              : "no wire of this family gives a tachometer pulses",
          path: ["tach"],
        });
    }
    if (wakes !== undefined && FAMILY_IDS.includes(family) && familyOf(family).unit?.holds !== "letting-go")
      context.addIssue({
        code: "custom",
        message: `a machine of the family “${familyOf(family).title}” charges from the first turn`,
        path: ["wakes", "aboveRpm"],
      });
    const unfit = battery && FAMILY_IDS.includes(family) ? batteryProblem(battery, family) : undefined;
    if (unfit) context.addIssue({ code: "custom", ...unfit });
  })
  .refine((sheet) => sheet.idleRpm < sheet.testRpm, { error: "must be below the test rpm", path: ["idleRpm"] });

/** Whether AC stands on a wire out of the generator while it runs: one end of a pair that is read for AC volts. */
function pulses(lead: string, { family, legs }: { family: string; legs: readonly { id: string }[] }): boolean {
  return familyOf(family)
    .acPairs(legs.map(({ id }) => id))
    .some((pair) => pair.split("-").includes(lead));
}

/** What of a battery's figures is none of its own, or does not go with the family. */
function batteryProblem(
  battery: { chemistry: Chemistry; ah?: number | undefined; cca?: number | undefined; microfarads?: number | undefined },
  family: string,
) {
  const { chemistry, ah, cca, microfarads } = battery;
  if (chemistry !== "capacitor")
    return microfarads === undefined ? undefined : { message: "is a figure of capacitors; a battery has none", path: ["battery", "microfarads"] };
  const message = capacitorProblem(family);
  if (message) return { message, path: ["battery", "chemistry"] };
  if (ah !== undefined || cca !== undefined)
    return { message: "is a figure of batteries; a capacitor has microfarads", path: ["battery", ah === undefined ? "cca" : "ah"] };
  return undefined;
}

/** What is wrong with a machine's legs, beside there being none. */
function legsProblem(legs: readonly { id: string }[], family: string): string | undefined {
  if (new Set(legs.map(({ id }) => id)).size < legs.length) return "two legs have the same name";
  const { title, terminals, ownNames } = familyOf(family);
  const names = terminals.map(({ id }) => id);
  if (legs.length > 0 && legs.length !== names.length) return `a machine of the family “${title}” has ${names.length} legs`;
  if (!ownNames && legs.some(({ id }, i) => id !== names[i])) return `the wires of a machine of the family “${title}” are ${names.join(", ")}, in this order`;
  return undefined;
}

export type Sheet = z.infer<typeof sheetSchema>;
export type SheetBand = z.infer<typeof sheetBandSchema>;

/** A problem with one field of a document: the path to it and what is allowed. */
export interface FieldProblem {
  field: string;
  error: string;
}

/** Writes Zod's issues as one problem a field, with paths such as `bands.2.low`. */
export function problemsOf(error: z.ZodError): FieldProblem[] {
  return error.issues.flatMap((issue) =>
    issue.code === "unrecognized_keys"
      ? issue.keys.map((key) => ({ field: [...issue.path, key].join("."), error: "is not a field of this document" }))
      : [{ field: issue.path.join(".") || "document", error: plain(issue) }],
  );
}

function plain(issue: z.core.$ZodIssue): string {
  if (issue.code === "invalid_type" && issue.input === undefined) return "is missing";
  return issue.message.replace(/^Invalid input: /, "");
}

/** The sheet as read from unknown data, or its problems field by field. */
export function parseSheet(data: unknown): { ok: true; sheet: Sheet } | { ok: false; problems: FieldProblem[] } {
  const parsed = sheetSchema.safeParse(data, { reportInput: true });
  return parsed.success ? { ok: true, sheet: parsed.data } : { ok: false, problems: problemsOf(parsed.error) };
}
