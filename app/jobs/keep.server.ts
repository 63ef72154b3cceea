import { z } from "zod";
import { testOf } from "../../core/procedure/catalogue";
import { CAUTION_IDS } from "../../core/procedure/cautions";
import { checkValue, stepProblem } from "../../core/procedure/entry";
import { WAIT_KINDS } from "../../core/procedure/waits";
import { entryId as id, readingSchema } from "../../store/entries";
import type { KeptEntry } from "../../store/jobs";
import type { Repair } from "../../store/rows";
import type { Store } from "../../store/store";
import { newTraceSchema } from "../../store/traces";
import type { EntryAnswer } from "./entry";

/** The largest lead zero that is still leads: above it the probes are not touching. */
const MOST_LEAD_OHMS = 5;

/** What the bench may send. */
export const entrySchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("reading"), reading: readingSchema }),
  z.strictObject({
    kind: z.literal("skip"),
    skip: z.strictObject({
      id,
      step: z.string().min(1).max(80),
      reason: z.string().trim().min(1, "give a reason in a word or two").max(200, "may hold 200 characters at most"),
    }),
  }),
  z.strictObject({
    kind: z.literal("lead-zero"),
    id,
    leadOhms: z.number().min(0, "must be 0 Ω or more").max(MOST_LEAD_OHMS, `must be ${MOST_LEAD_OHMS} Ω or less: are the probes touching?`),
    // Left out by pages that were open before an update.
    takenAt: z.iso.datetime().optional(),
  }),
  z.strictObject({ kind: z.literal("caution"), id, cautions: z.array(z.enum(CAUTION_IDS)).min(1).max(CAUTION_IDS.length), takenAt: z.iso.datetime() }),
  z.strictObject({
    kind: z.literal("wait"),
    id,
    wait: z.strictObject({
      what: z.enum(WAIT_KINDS, { error: `must be one of ${WAIT_KINDS.join(", ")}` }),
      note: z.string().trim().max(200, "may hold 200 characters at most").optional(),
      until: z.iso.datetime({ error: "must be a day and time" }).optional(),
    }),
    takenAt: z.iso.datetime(),
  }),
  z.strictObject({ kind: z.literal("put-back"), id, pulledFor: id, takenAt: z.iso.datetime() }),
  z.strictObject({
    kind: z.literal("trace"),
    id,
    trace: newTraceSchema.omit({ id: true }),
    repairs: z.number().int().min(0).max(1000),
    takenAt: z.iso.datetime(),
  }),
]);

/**
 * Keeps one entry of the bench: checked whole before anything is written, written in one transaction, and kept once
 * however often it is sent.
 * @param by who sends it, where people sign in
 */
export async function keepEntry(store: Store, jobId: number, data: unknown, now: Date, by?: string): Promise<EntryAnswer> {
  const parsed = entrySchema.safeParse(data, { reportInput: true });
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return refused(issue?.path.join(".") ?? "entry", issue?.message ?? "cannot be read");
  }
  const entry = parsed.data;
  return store.patiently((): EntryAnswer => {
    const id = idOf(entry);
    const before = store.jobs.entryWith(id);
    // What has been kept is kept, whatever has become of its job since.
    if (before) return isSame(entry, jobId, before) ? { kept: true } : refused("id", "Something else was kept under this number already. Type it once more.");
    const job = store.jobs.find(jobId);
    if (!job) return refused("job", "There is no such job any more.");
    if (job.closedAt) return { ...refused("job", "This job is closed. Open it again, and it is sent by itself."), later: true };
    if (entry.kind === "skip") {
      store.jobs.skip(jobId, entry.skip, now.toISOString(), by);
      return { kept: true };
    }
    if (entry.kind === "lead-zero") {
      store.jobs.setLeadZero(jobId, entry.leadOhms, entry.takenAt ?? now.toISOString());
      return { kept: true };
    }
    if (entry.kind === "caution") {
      store.jobs.seeCautions(jobId, entry.id, entry.cautions, entry.takenAt, by);
      return { kept: true };
    }
    if (entry.kind === "wait") {
      store.jobs.wait(jobId, entry.id, { ...entry.wait, beganAt: entry.takenAt }, by);
      return { kept: true };
    }
    if (entry.kind === "put-back") {
      store.jobs.putBack(jobId, entry.id, entry.pulledFor, entry.takenAt, by);
      return { kept: true };
    }
    if (entry.kind === "trace") {
      const mended = entry.repairs > 0 || doneBy(entry.takenAt, store.jobs.repairs(jobId)) > 0;
      store.traces.keep(jobId, { id: entry.id, ...entry.trace }, mended, entry.takenAt, by);
      return { kept: true };
    }
    const reading = sinceRepairs(entry.reading, store.jobs.repairs(jobId));
    const step = stepProblem(reading, job.sheet);
    if (step) return refused(step.field, step.error);
    const value = checkValue(reading.value, reading.test);
    if (!value.ok) return refused("value", value.error);
    const raw = testOf(reading.test).leadZero === true && reading.raw !== false;
    const kept = store.jobs.readings.keep(jobId, { ...reading, by, raw, ...(raw ? { leadOhms: reading.leadOhms ?? job.meter.leadOhms } : {}) });
    if (kept === "superseded-meanwhile")
      return refused("value", "This reading was corrected meanwhile on another screen. Look at it again before you change it.");
    if (kept === "another-test") return refused("test", "A reading can be corrected by one of the same test only.");
    if (kept === "no-such-reading") return refused("value", "The reading to be corrected is not one of this job.");
    return { kept: true };
  });
}

type Entry = z.output<typeof entrySchema>;

const idOf = (entry: Entry): string => (entry.kind === "reading" ? entry.reading.id : entry.kind === "skip" ? entry.skip.id : entry.id);

/** True when an entry is what was kept under its id: sent twice, not two things. */
function isSame(entry: Entry, jobId: number, before: KeptEntry): boolean {
  if (before.jobId !== jobId || before.kind !== entry.kind) return false;
  if (entry.kind === "reading") return before.test === entry.reading.test && before.value === entry.reading.value;
  if (entry.kind === "trace") return before.value === entry.trace.name;
  if (entry.kind === "put-back") return before.value === entry.pulledFor;
  return entry.kind === "skip" ? before.step === entry.skip.step : entry.kind === "caution" || (entry.kind === "wait" && before.value === entry.wait.what);
}

/** How many repairs had been done by some time. */
const doneBy = (at: string, repairs: readonly Repair[]): number => repairs.filter(({ repairedAt }) => Date.parse(repairedAt) <= Date.parse(at)).length;

/**
 * A reading as the machine stood when it was taken: a bench that was open since before a repair does not know of it, and what it read
 * after that is of the mended machine. It then takes the place of none from before.
 */
function sinceRepairs(reading: z.output<typeof readingSchema>, repairs: readonly Repair[]): z.output<typeof readingSchema> {
  const done = doneBy(reading.takenAt, repairs);
  if (done <= (reading.repairs ?? 0)) return reading;
  const { supersedes: _before, supersedesWhy: _why, ...rest } = reading;
  return { ...rest, afterRepair: true, repairs: done };
}

function refused(field: string, error: string): EntryAnswer & { kept: false } {
  return { kept: false, field, error };
}
