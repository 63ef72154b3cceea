import { z } from "zod";
import { RATING_IDS } from "../core/battery/ratings";
import { type Sheet, sheetSchema } from "../core/machine/sheet";
import { CATALOGUE } from "../core/procedure/catalogue";
import { CAUTION_IDS } from "../core/procedure/cautions";
import { TOUCHED } from "../core/procedure/step";
import { WAIT_KINDS } from "../core/procedure/waits";

/** Shapes of rows on their way out of the database: what is stored is checked before it is believed. */

export const testIdSchema = z.enum(CATALOGUE.map((test) => test.id) as [(typeof CATALOGUE)[number]["id"]]);
/** How a job ends. */
export const ENDING_IDS = ["proven", "healthy", "plain-cause", "unproven"] as const;

export const loadsSchema = z.enum(["off", "normal", "all"]);

export const meterSchema = z.object({
  name: z.string(),
  leadOhms: z.number().min(0),
  ohmsResolution: z.number().positive(),
  trueRms: z.boolean(),
  diodeMaxVolts: z.number().positive(),
});

const json = <T extends z.ZodType>(schema: T) => z.string().transform((text) => schema.parse(JSON.parse(text)) as z.output<T>);

/** How many parsed sheets are remembered: enough for the jobs of a day. */
const SHEETS_KEPT = 100;
const sheetsRead = new Map<string, Sheet>();

/** A job's own copy of its sheet never changes, so the same text need not be checked twice. */
function sheetOf(text: string): Sheet {
  const known = sheetsRead.get(text);
  if (known) return known;
  const sheet = sheetSchema.parse(JSON.parse(text));
  if (sheetsRead.size >= SHEETS_KEPT) sheetsRead.clear();
  sheetsRead.set(text, sheet);
  return sheet;
}

export const jobRow = z
  .object({
    id: z.number(),
    unit_tag: z.string().nullable(),
    nickname: z.string(),
    sheet: z.string().transform(sheetOf),
    school: z.string(),
    meter: json(meterSchema),
    ambient_c: z.number(),
    battery_age_years: z.number().nullable(),
    complaint: json(z.array(z.string())),
    words: z.string(),
    use_count: z.number().nullable(),
    use_unit: z.enum(["h", "km"]).nullable(),
    opened_at: z.string(),
    closed_at: z.string().nullable(),
    ending: z.enum(ENDING_IDS).nullable(),
    closing_note: z.string().nullable(),
    opened_by: z.string().nullable(),
    closed_by: z.string().nullable(),
  })
  .transform((row) => ({
    id: row.id,
    unitTag: row.unit_tag,
    nickname: row.nickname,
    sheet: row.sheet,
    school: row.school,
    meter: row.meter,
    ambientC: row.ambient_c,
    batteryAgeYears: row.battery_age_years,
    complaint: row.complaint,
    words: row.words,
    use: row.use_count === null || row.use_unit === null ? null : { count: row.use_count, unit: row.use_unit },
    openedAt: row.opened_at,
    closedAt: row.closed_at,
    ending: row.ending,
    closingNote: row.closing_note,
    openedBy: row.opened_by,
    closedBy: row.closed_by,
  }));

export type Job = z.output<typeof jobRow>;

export const readingRow = z
  .object({
    id: z.string(),
    test: testIdSchema,
    at: z.string().nullable(),
    rpm: z.number().nullable(),
    idle: z.number(),
    loads: loadsSchema.nullable(),
    number: z.number().nullable(),
    word: z.string().nullable(),
    raw: z.number(),
    lead_ohms: z.number().nullable(),
    ohms_resolution: z.number().nullable(),
    second_meter: z.number(),
    hot: z.number(),
    charged: z.number(),
    rest_hours: z.number().nullable(),
    amps: z.number().nullable(),
    touched: z.enum(TOUCHED).nullable(),
    rating: z.enum(RATING_IDS).nullable(),
    swing: z.number().nullable(),
    note: z.string().nullable(),
    after_repair: z.number(),
    repairs: z.number(),
    taken_at: z.string(),
    supersedes: z.string().nullable(),
    supersedes_why: z.enum(["mistyped", "taken-again"]).nullable(),
    superseded_by: z.string().nullable(),
    by: z.string().nullable(),
  })
  .transform((row) => ({
    id: row.id,
    test: row.test,
    ...(row.at === null ? {} : { at: row.at }),
    ...(row.idle ? { rpm: "idle" as const } : row.rpm === null ? {} : { rpm: row.rpm }),
    ...(row.loads === null ? {} : { loads: row.loads }),
    value: row.number ?? row.word ?? "",
    ...(row.raw ? { raw: true } : {}),
    ...(row.lead_ohms === null ? {} : { leadOhms: row.lead_ohms }),
    ...(row.ohms_resolution === null ? {} : { ohmsResolution: row.ohms_resolution }),
    ...(row.second_meter ? { secondMeter: true } : {}),
    ...(row.hot ? { hot: true } : {}),
    ...(row.charged ? { charged: true } : {}),
    ...(row.rest_hours === null ? {} : { restHours: row.rest_hours }),
    ...(row.amps === null ? {} : { amps: row.amps }),
    ...(row.rating === null ? {} : { rating: row.rating }),
    ...(row.swing === null ? {} : { swing: row.swing }),
    ...(row.touched === null ? {} : { touched: row.touched }),
    ...(row.note === null ? {} : { note: row.note }),
    ...(row.after_repair ? { afterRepair: true, repairs: Math.max(1, row.repairs) } : {}),
    takenAt: row.taken_at,
    ...(row.supersedes === null ? {} : { supersedes: row.supersedes }),
    ...(row.supersedes_why === null ? {} : { supersedesWhy: row.supersedes_why }),
    ...(row.superseded_by === null ? {} : { supersededBy: row.superseded_by }),
    ...(row.by === null ? {} : { by: row.by }),
  }));

export type StoredReading = z.output<typeof readingRow>;

export const seenRow = z
  .object({ id: z.string(), cautions: json(z.array(z.enum(CAUTION_IDS))), seen_at: z.string(), by: z.string().nullable() })
  .transform(({ seen_at, ...row }) => ({ ...row, at: seen_at }));

export const waitRow = z
  .object({ what: z.enum(WAIT_KINDS), note: z.string().nullable(), until: z.string().nullable(), began_at: z.string() })
  .transform(({ what, note, until, began_at }) => ({ what, note: note ?? undefined, until: until ?? undefined, beganAt: began_at }));

export const repairRow = z
  .object({
    id: z.number(),
    part: z.string(),
    fault: z.string().nullable(),
    found: z.string().nullable(),
    done: z.string(),
    repaired_at: z.string(),
    by: z.string().nullable(),
  })
  .transform(({ repaired_at, ...row }) => ({ ...row, repairedAt: repaired_at }));

export type Repair = z.output<typeof repairRow>;
