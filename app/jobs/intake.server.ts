import { z } from "zod";
import { capacitorProblem } from "../../core/machine/capacitor";
import { FAMILY_IDS, familyOf } from "../../core/machine/families/registry";
import { KIND_IDS } from "../../core/machine/kind";
import { LOOSE, LOOSE_IDS, looseProblem } from "../../core/machine/loose";
import { unlistedSheet } from "../../core/machine/unlisted";
import { WIRE_COLOURS } from "../../core/machine/wire";
import { COMPLAINTS, PLAIN_CAUSES } from "../../core/procedure/complaints";
import { schoolOf } from "../../core/procedure/schools";
import { typedNumber } from "../../formats/typed";
import type { Store } from "../../store/store";
import { noteClosing } from "./closing.server";

/** What a form came to: the new job's id, or one message a field with everything typed kept by the page. */
type IntakeResult = { ok: true; jobId: number } | { ok: false; errors: Record<string, string> };

const number = (low: number, high: number, unit: string) =>
  z
    .number({ error: `Must be a number from ${low} to ${high} ${unit}.` })
    .min(low, `Must be ${low} ${unit} or more.`)
    .max(high, `Must be ${high} ${unit} or less.`);

const intakeSchema = z.object({
  machine: z.string({ error: "Pick a machine, or one without a sheet." }).min(1, "Pick a machine, or one without a sheet."),
  /** What kind of machine it is, where it has no sheet to say so. */
  kind: z.enum(KIND_IDS, { error: "Pick a kind of machine, or leave it open." }).optional(),
  /** What eyes see of it: the wires out of the engine, and how the unit is grounded. */
  legs: z.enum(WIRE_COLOURS, { error: "Pick a colour, or leave it open." }).optional(),
  earth: z.enum(["negative", "positive"], { error: "Pick which post is joined to the engine, or leave it open." }).optional(),
  stores: z.enum(["capacitor"], { error: "Pick the capacitor, or leave it: it has a battery." }).optional(),
  unitGround: z.enum(["wire", "case"], { error: "Pick how the unit is grounded, or leave it open." }).optional(),
  /** What of it was brought in, where it is not the whole. */
  loose: z.enum(LOOSE_IDS, { error: "Pick what came in." }).optional(),
  nickname: z.string().trim().max(40, "May hold 40 characters at most."),
  newTag: z
    .string()
    .trim()
    .max(20, "May hold 20 characters at most.")
    .regex(/^[A-Za-z0-9 -]*$/, "May hold letters, digits, spaces and hyphens."),
  words: z.string().trim().max(500, "May hold 500 characters at most."),
  complaint: z.array(z.enum(COMPLAINTS.map((complaint) => complaint.id) as [string, ...string[]])),
  causes: z.array(z.enum(PLAIN_CAUSES.map((cause) => cause.id) as [string, ...string[]])),
  batteryAgeYears: number(0, 50, "years").optional(),
  ambientC: number(-50, 60, "°C"),
  useCount: number(0, 2_000_000, "hours or kilometres").optional(),
  useUnit: z.enum(["h", "km"], { error: "Pick hours or kilometres." }),
  end: z.boolean(),
});

type Intake = z.output<typeof intakeSchema>;

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Opens a job from the intake form, or ends it there as a plain cause: one transaction, nothing half-written. */
export function takeIn(store: Store, form: FormData, now: Date, by?: string): IntakeResult {
  const parsed = intakeSchema.safeParse({
    machine: form.get("machine") ?? undefined,
    kind: form.get("kind") || undefined,
    legs: form.get("legs") || undefined,
    unitGround: form.get("unitGround") || undefined,
    earth: form.get("earth") || undefined,
    stores: form.get("stores") || undefined,
    loose: form.get("loose") || undefined,
    nickname: form.get("nickname") ?? "",
    newTag: form.get("newTag") ?? "",
    words: form.get("words") ?? "",
    complaint: form.getAll("complaint"),
    causes: form.getAll("cause"),
    batteryAgeYears: typedNumber(form.get("batteryAgeYears")),
    ambientC: typedNumber(form.get("ambientC")) ?? 20,
    useCount: typedNumber(form.get("useCount")),
    useUnit: form.get("useUnit") || "h",
    end: form.get("end") === "yes",
  });
  if (!parsed.success) return { ok: false, errors: Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message])) };
  return store.action(() => {
    const machine = machineOf(store, parsed.data);
    if ("errors" in machine) return { ok: false, errors: machine.errors };
    const { loose } = parsed.data;
    const wrong = loose && looseProblem(loose, machine.sheet);
    if (wrong) return { ok: false, errors: { loose: `${capital(wrong)}.` } };
    if (loose) machine.sheet = { ...machine.sheet, loose };
    return { ok: true, jobId: openJob(store, parsed.data, machine, now, by) };
  });
}

type Machine = { unitTag: string | null; nickname: string; sheet: ReturnType<typeof unlistedSheet> };

function machineOf(
  store: Store,
  { machine, loose, nickname, newTag, kind: sort, legs, unitGround, earth, stores }: Intake,
): Machine | { errors: Record<string, string> } {
  const [kind, id = ""] = machine.split(":");
  if (kind === "unit") {
    const unit = store.workshop.unit(id);
    const sheet = unit && store.sheets.find(unit.sheetId);
    return unit && sheet ? { unitTag: unit.tag, nickname: unit.nickname, sheet } : { errors: { machine: `There is no machine ${id}.` } };
  }
  if (kind === "sheet") {
    const sheet = store.sheets.find(id);
    if (!sheet) return { errors: { machine: `There is no sheet ${id}.` } };
    const name = nickname || newTag || sheet.model;
    if (newTag && !store.workshop.addUnit({ tag: newTag, nickname: name, sheetId: sheet.id, usedFor: "" })) {
      return { errors: { newTag: `The tag ${newTag} is on another machine already. Pick that machine, or type another tag.` } };
    }
    return { unitTag: newTag || null, nickname: name, sheet };
  }
  const [family, volts] = id.split("/");
  const known = FAMILY_IDS.find((id) => id === family);
  if (kind !== "family" || !known) return { errors: { machine: "Pick a machine, or one without a sheet." } };
  const unfit = stores && capacitorProblem(known);
  if (unfit) return { errors: { stores: `${capital(unfit)}.` } };
  const usual = unlistedSheet(known, volts === "6" ? 6 : 12, sort, { legs, unitGround, earth, stores });
  // A school that tests everything at one speed does so where no sheet says otherwise.
  const { testRpm } = schoolOf(store.workshop.shop().school);
  const sheet = testRpm !== undefined && testRpm > usual.idleRpm ? { ...usual, testRpm: Math.min(testRpm, familyOf(known).gentleRpm ?? testRpm) } : usual;
  return { unitTag: null, nickname: nickname || newTag || (loose ? `Loose ${LOOSE[loose].toLowerCase()}` : "Unlisted machine"), sheet };
}

function openJob(store: Store, intake: Intake, machine: Machine, now: Date, by: string | undefined): number {
  const shop = store.workshop.shop();
  const { id: _, ...meter } = store.workshop.meter();
  const jobId = store.jobs.open(
    {
      ...machine,
      school: shop.school,
      meter,
      ambientC: intake.ambientC,
      batteryAgeYears: intake.batteryAgeYears ?? null,
      complaint: [...intake.complaint, ...intake.causes],
      words: intake.words,
      use: intake.useCount === undefined ? undefined : { count: intake.useCount, unit: intake.useUnit },
      by,
    },
    now.toISOString(),
  );
  if (intake.end) {
    const causes = PLAIN_CAUSES.filter((cause) => intake.causes.includes(cause.id));
    store.jobs.close(jobId, "plain-cause", causes.map((cause) => `${cause.question} Yes. ${cause.advice}`).join(" ") || null, now.toISOString(), by);
    noteClosing(store, jobId);
  }
  return jobId;
}
