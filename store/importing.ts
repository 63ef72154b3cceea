import { z } from "zod";
import { parseSheet, type Sheet } from "../core/machine/sheet";
import { checkValue, stepProblem } from "../core/procedure/entry";
import { parseSchoolName } from "../core/procedure/schoolRows";
import { SCHOOLS } from "../core/procedure/schools";
import { isNumber } from "../core/units";
import type { PlacedRow, RowProblem } from "../formats/tableIn";
import type { TableName, TableRow } from "../formats/tables";
import { readingSchema } from "./entries";
import { ENDING_IDS, meterSchema } from "./rows";
import type { Store } from "./store";

/** What a table that came in would do, and the doing of it. */
interface Bringing {
  /** Rows that would be new, that stand here as they are, and that would change what stands here. */
  fresh: number;
  known: number;
  changed: number;
  problems: RowProblem[];
  /** Writes all of it; called inside one transaction. */
  keep: () => void;
}

/** What one row comes to: it is here already, or how it is written. */
type Checked = "known" | { changes?: true; jobId?: number; write: () => void };

/** Says what is wrong with a row, by its column. */
class RowRefusal extends Error {
  constructor(
    readonly column: string,
    error: string,
  ) {
    super(error);
  }
}

/**
 * Looks the rows of a table through against what is here. Nothing is written; a row with anything wrong is left out and named.
 * @param now ISO time, for what has no time of its own
 */
export function bring(store: Store, name: TableName, rows: readonly PlacedRow[], now: string): Bringing {
  const bringing: Bringing = { fresh: 0, known: 0, changed: 0, problems: [], keep: () => undefined };
  const writes: { jobId: number | undefined; work: (() => void)[] }[] = [];
  const check = CHECKS[name](store, now);
  for (const { row, cells } of rows) {
    try {
      const checked = check(cells);
      if (checked === "known") {
        bringing.known++;
        continue;
      }
      if (checked.changes) bringing.changed++;
      else bringing.fresh++;
      // What belongs to one job is written together: a closed one is counted anew once, not at every row.
      const last = writes.at(-1);
      if (last && checked.jobId !== undefined && last.jobId === checked.jobId) last.work.push(checked.write);
      else writes.push({ jobId: checked.jobId, work: [checked.write] });
    } catch (error) {
      if (!(error instanceof RowRefusal)) throw error;
      bringing.problems.push({ row, column: error.column, error: error.message });
    }
  }
  bringing.keep = () => {
    for (const { jobId, work } of writes) {
      const all = (): void => {
        for (const write of work) write();
      };
      if (jobId === undefined) all();
      else store.jobs.amid(jobId, all);
    }
  };
  return bringing;
}

/** How the rows of each table are checked: a function for one file, which remembers the rows before. */
const CHECKS: Record<TableName, (store: Store, now: string) => (cells: TableRow) => Checked> = {
  units: checkUnits,
  sheets: checkSheets,
  jobs: checkJobs,
  repairs: checkRepairs,
  readings: checkReadings,
};

const unitSchema = z.object({
  tag: z.string().regex(/^[A-Za-z0-9 -]{1,20}$/, "may hold 20 letters, digits, spaces and hyphens at most"),
  nickname: z.string().min(1).max(40, "may hold 40 characters at most"),
  sheetId: z.string(),
  usedFor: z.string().max(200, "may hold 200 characters at most"),
});

function checkUnits(store: Store): (cells: TableRow) => Checked {
  const seen = new Set<string>();
  return (cells) => {
    const unit = parsed(unitSchema, { ...cells, usedFor: cells.usedFor ?? "" });
    if (seen.has(unit.tag)) throw new RowRefusal("tag", `names the machine ${unit.tag} a second time`);
    seen.add(unit.tag);
    if (store.workshop.unit(unit.tag)) return "known";
    if (!store.sheets.find(unit.sheetId))
      throw new RowRefusal("sheetId", `names the sheet ${unit.sheetId}, which is not on the shelf: bring in the sheets first`);
    return { write: () => void store.workshop.addUnit(unit) };
  };
}

function checkSheets(store: Store, now: string): (cells: TableRow) => Checked {
  const seen = new Set<string>();
  return (cells) => {
    const sheet = sheetIn(cells.sheet);
    if (sheet.id !== cells.id) throw new RowRefusal("id", `is ${String(cells.id)}, but the document's id is ${sheet.id}`);
    if (seen.has(sheet.id)) throw new RowRefusal("id", `names the sheet ${sheet.id} a second time`);
    seen.add(sheet.id);
    const stands = store.sheets.find(sheet.id);
    if (!stands) return { write: () => store.sheets.add(sheet, now) };
    return JSON.stringify(stands) === JSON.stringify(sheet) ? "known" : { changes: true, write: () => void store.sheets.change(sheet, now) };
  };
}

const time = z.iso.datetime({ error: "must be a time as 2026-05-31T09:30:00.000Z" });
const jobSchema = z
  .object({
    job: z.string().regex(/^[A-Za-z0-9-]{1,60}$/, "may hold 60 letters, digits and hyphens at most"),
    machine: z.string().max(20, "may hold 20 characters at most").nullable(),
    nickname: z.string().max(40, "may hold 40 characters at most"),
    ambientC: z.number().min(-50, "must be -50 or more").max(60, "must be 60 or less"),
    batteryAgeYears: z.number().min(0, "must be 0 or more").max(50, "must be 50 or less").nullable(),
    words: z.string().max(500, "may hold 500 characters at most").nullable(),
    useCount: z.number().min(0, "must be 0 or more").nullable(),
    useUnit: z.enum(["h", "km"], { error: "must be h or km" }).nullable(),
    openedAt: time,
    openedBy: z.string().max(40).nullable(),
    closedAt: time.nullable(),
    ending: z.enum(ENDING_IDS, { error: `must be one of ${ENDING_IDS.join(", ")}` }).nullable(),
    closingNote: z.string().max(2000, "may hold 2,000 characters at most").nullable(),
    closedBy: z.string().max(40).nullable(),
    partSaid: z.string().max(40).nullish(),
    oddsSaid: z.number().min(0, "must be 0 or more").max(1, "must be 1 or less").nullish(),
    hands: z.number().min(0, "must be 0 or more").nullish(),
    clock: z.number().min(0, "must be 0 or more").nullish(),
  })
  .refine(({ closedAt, ending }) => (closedAt === null) === (ending === null), { path: ["ending"], error: "and closedAt go together: both, or neither" })
  .refine(({ openedAt, closedAt }) => closedAt === null || closedAt >= openedAt, { path: ["closedAt"], error: "lies before openedAt" });

function checkJobs(store: Store): (cells: TableRow) => Checked {
  const seen = new Set<string>();
  return (cells) => {
    const job = parsed(jobSchema, cells);
    if (seen.has(job.job)) throw new RowRefusal("job", `names the job ${job.job} a second time`);
    seen.add(job.job);
    if (store.origins.find(job.job) !== undefined) return "known";
    if (job.machine !== null && !store.workshop.unit(job.machine))
      throw new RowRefusal("machine", `names the machine ${job.machine}, which is not on the books: bring in the machines first`);
    const sheet = sheetIn(cells.sheet);
    const meter = parsed(meterSchema, JSON.parse(String(cells.meter)), "meter");
    const complaint = parsed(z.array(z.string().max(40)).max(40), JSON.parse(String(cells.complaint)), "complaint");
    const school = String(cells.school);
    if (!SCHOOLS.some(({ id }) => id === parseSchoolName(school).preset))
      throw new RowRefusal("school", `is ${school.slice(0, 30)}; it must be one of ${SCHOOLS.map(({ id }) => id).join(", ")}`);
    return {
      write: () => {
        const use = job.useCount !== null && job.useUnit !== null ? { count: job.useCount, unit: job.useUnit } : undefined;
        const id = store.jobs.open(
          {
            unitTag: job.machine,
            nickname: job.nickname,
            sheet,
            school,
            meter,
            ambientC: job.ambientC,
            batteryAgeYears: job.batteryAgeYears,
            complaint,
            words: job.words ?? "",
            use,
            by: job.openedBy ?? undefined,
          },
          job.openedAt,
        );
        store.origins.note(job.job, id);
        if (job.partSaid && job.oddsSaid != null) store.records.state(id, job.partSaid, job.oddsSaid, job.openedAt);
        if (job.closedAt === null || job.ending === null) return;
        store.jobs.close(id, job.ending, job.closingNote, job.closedAt, job.closedBy ?? undefined);
        if (job.hands != null && job.clock != null) store.records.took(id, job.hands, job.clock);
      },
    };
  };
}

const repairSchema = z.object({
  part: z.string().max(40, "may hold 40 characters at most"),
  fault: z.string().max(60).nullable(),
  found: z.string().max(500, "may hold 500 characters at most").nullable(),
  done: z.string().max(500, "may hold 500 characters at most"),
  repairedAt: time,
  by: z.string().max(40).nullable(),
});

function checkRepairs(store: Store): (cells: TableRow) => Checked {
  const seen = new Set<string>();
  return (cells) => {
    const jobId = jobIn(store, cells);
    const { by, repairedAt, ...repair } = parsed(repairSchema, cells);
    const like = `${jobId} ${repair.part} ${repairedAt}`;
    if (seen.has(like)) throw new RowRefusal("repairedAt", "is the time of another repair of this part in the table");
    seen.add(like);
    if (store.jobs.repairs(jobId).some((known) => known.part === repair.part && known.repairedAt === repairedAt)) return "known";
    return { jobId, write: () => store.jobs.repair(jobId, repair, repairedAt, by ?? undefined) };
  };
}

function checkReadings(store: Store): (cells: TableRow) => Checked {
  const seen = new Set<string>();
  const sheets = new Map<number, Sheet>();
  return (cells) => {
    const jobId = jobIn(store, cells);
    const { job: _job, number, word, idle, rpm, by, ...rest } = cells;
    if ((number === null) === (word === null)) throw new RowRefusal("number", "and word: one of them must stand, and not both");
    const present = Object.fromEntries(Object.entries(rest).filter(([, cell]) => cell !== null));
    const flags = Object.fromEntries(FLAGS.flatMap((name) => (cells[name] ? [[name, true as const]] : [])));
    for (const name of FLAGS) delete present[name];
    const reading = parsed(readingSchema, { ...present, ...flags, value: number ?? word, ...(idle ? { rpm: "idle" } : rpm === null ? {} : { rpm }) });
    if (seen.has(reading.id)) throw new RowRefusal("id", `is the id of another reading of the table`);
    seen.add(reading.id);
    const before = store.jobs.entryWith(reading.id);
    if (before) {
      if (before.jobId === jobId && before.test === reading.test) return "known";
      throw new RowRefusal("id", "is here already, of something else");
    }
    const sheet = sheets.get(jobId) ?? (store.jobs.find(jobId)?.sheet as Sheet);
    sheets.set(jobId, sheet);
    const wrong = stepProblem(reading, sheet);
    if (wrong) throw new RowRefusal(wrong.field, wrong.error);
    const value = checkValue(reading.value, reading.test);
    if (!value.ok) throw new RowRefusal(isNumber(reading.value) ? "number" : "word", value.error);
    if (reading.supersedes && !seen.has(reading.supersedes) && !store.jobs.entryWith(reading.supersedes))
      throw new RowRefusal("supersedes", `names the reading ${reading.supersedes}, which is neither here nor above it in the table`);
    return { jobId, write: () => void store.jobs.readings.keep(jobId, { ...reading, by: typeof by === "string" ? by : undefined }) };
  };
}

const FLAGS = ["raw", "secondMeter", "hot", "charged", "afterRepair"] as const;

function jobIn(store: Store, cells: TableRow): number {
  const name = String(cells.job);
  const jobId = store.origins.find(name);
  if (jobId === undefined) throw new RowRefusal("job", `names the job ${name.slice(0, 60)}, which is not here: bring in the jobs first`);
  return jobId;
}

function sheetIn(cell: TableRow[string] | undefined): Sheet {
  const read = parseSheet(JSON.parse(String(cell)));
  if (read.ok) return read.sheet;
  const [first] = read.problems;
  throw new RowRefusal("sheet", `${first?.field ?? "document"} ${first?.error ?? "cannot be read"}`);
}

/** @throws RowRefusal that names the first column that is wrong */
function parsed<T extends z.ZodType>(schema: T, document: unknown, column?: string): z.output<T> {
  const result = schema.safeParse(document);
  if (result.success) return result.data;
  const [issue] = result.error.issues;
  throw new RowRefusal(column ?? String(issue?.path[0] ?? "row"), issue?.message.charAt(0).toLowerCase().concat(issue.message.slice(1)) ?? "cannot be read");
}
