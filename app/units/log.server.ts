import { format } from "date-fns";
import { schoolOf } from "../../core/procedure/schools";
import { stepKey, stepTitle } from "../../core/procedure/step";
import { machineLog, type PastJob, seasonalShift, type TestLog } from "../../core/trend/log";
import { airByMonth, type Warning, warningOf } from "../../core/trend/warning";
import { warningWords } from "../../core/trend/words";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { countedOf } from "../jobs/view";

/** Jobs of a machine that its log goes back over, and machines of the same sheet it is compared with. */
const JOBS_BACK = 120;
const SISTERS = 12;
/** Of a sister machine only the latest jobs are read. */
const SISTER_JOBS = 2;

/** A test's log, with what it warns of and what sister machines read last. */
export interface LoggedTest {
  key: string;
  log: TestLog;
  warning: Warning | undefined;
  says: string | undefined;
  sisters: { tag: string; value: number }[];
  /** The month whose air moves it most, and by how much; undefined where warmth plays no part. */
  coldest: { month: string; by: number } | undefined;
}

/** What of a kept job its machine's log is made of. */
function pastOf(file: JobFile): PastJob {
  const { job } = file;
  const { current, context } = countedOf(file);
  return {
    id: job.id,
    openedAt: job.openedAt,
    open: job.closedAt === null,
    ambientC: job.ambientC,
    sheet: job.sheet,
    school: schoolOf(job.school),
    meter: context.meter,
    readings: current,
    repairs: file.repairs,
  };
}

function pastJobs(store: Store, tag: string, most: number): PastJob[] {
  return store.jobs.ofUnit(tag, most).flatMap((id) => {
    const file = store.jobs.file(id);
    return file ? [pastOf(file)] : [];
  });
}

/**
 * The log of a machine, each test with its course, its warning and its sisters' latest figures.
 * @param now ms
 */
export function loggedTests(store: Store, tag: string, now: number): LoggedTest[] {
  const jobs = pastJobs(store, tag, JOBS_BACK);
  const [latest] = jobs;
  if (!latest) return [];
  const air = airByMonth(store.jobs.airByMonth());
  const sisters = store.workshop.sisters(tag, SISTERS).map((sister) => {
    const logs = machineLog(pastJobs(store, sister, SISTER_JOBS));
    return { tag: sister, values: new Map(logs.map((log) => [stepKey(log.step), log.points.at(-1)?.value])) };
  });
  return machineLog(jobs).map((log) => {
    const key = stepKey(log.step);
    const shifts = air.map((celsius) => seasonalShift(latest.sheet, log.step, celsius, latest.meter));
    const coldest = coldestOf(shifts);
    const warning = warningOf(log, now, (month) => shifts[month] ?? 0);
    return {
      key,
      log,
      warning,
      says: warning && warningWords(log.step, warning, coldest !== undefined),
      coldest,
      sisters: sisters.flatMap(({ tag: sister, values }) => {
        const value = values.get(key);
        return value === undefined ? [] : [{ tag: sister, value }];
      }),
    };
  });
}

/** Less than this is nothing that is seen on a drawing, in the figure's unit. */
const SEEN = 0.02;

function coldestOf(shifts: readonly number[]): LoggedTest["coldest"] {
  const month = shifts.reduce((most, shift, k) => (Math.abs(shift) > Math.abs(shifts[most] as number) ? k : most), 0);
  const by = shifts[month] as number;
  return Math.abs(by) < SEEN ? undefined : { month: format(new Date(2001, month, 1), "MMMM"), by };
}

/** What is foreseen of a machine, kept so that the day's plan can tell it without reading the log again. */
interface Foresight {
  step: string;
  title: string;
  says: string;
  odds: number;
  month: string;
}

/** Looks ahead for a machine and keeps what is foreseen. */
export function foresee(store: Store, tag: string, now: Date): void {
  const foreseen = loggedTests(store, tag, now.getTime()).flatMap(({ key, log, warning, says }): Foresight[] =>
    warning && says ? [{ step: key, title: stepTitle(log.step), says, odds: warning.odds, month: warning.month.toISOString().slice(0, 7) }] : [],
  );
  store.foresights.keep(tag, foreseen, now.toISOString());
}
