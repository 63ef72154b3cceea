import { conditionOf } from "../machine/condition";
import type { Part } from "../machine/part";
import type { Sheet } from "../machine/sheet";
import type { Meter } from "../meter/meter";
import { type TestId, testOf } from "../procedure/catalogue";
import { type JudgedReading, judgeAll, judgedWords } from "../procedure/judge";
import type { School } from "../procedure/schools";
import { simulateStep } from "../procedure/simulate";
import { type Reading, type Step, stepKey } from "../procedure/step";
import type { GroupId } from "../procedure/test";
import { isNumber } from "../units";
import { type Change, FEWEST, weighChange } from "./change";

/** One machine over the years: what every test of its jobs came to, on one scale of temperature, cut where a repair made it another machine. */

/** A job of the machine, as much of it as its log needs. */
export interface PastJob {
  id: number;
  openedAt: string;
  /** Whether it is still on the bench: what ails it now is no course. */
  open: boolean;
  ambientC: number;
  sheet: Sheet;
  school: School;
  meter: Meter;
  /** The readings that no later one took the place of. */
  readings: readonly Reading[];
  repairs: readonly { part: string; repairedAt: string }[];
}

/** One figure of one job. */
interface LoggedPoint {
  jobId: number;
  at: string;
  /** As read, corrected for leads and the like. */
  read: number;
  /** Referred to 20 °C where the circuit says how. */
  value: number;
  ambientC: number;
  afterRepair: boolean;
  /** How it was judged then, in words. */
  says: string;
}

/** A repair between two figures. */
interface LoggedRepair {
  jobId: number;
  at: string;
  part: string;
}

/** Every figure of one test at one place, speed and load. */
export interface TestLog {
  step: Step;
  points: LoggedPoint[];
  repairs: LoggedRepair[];
  /** Index of the first figure since the last repair that could have moved it. */
  since: number;
  /** What the figures since then say of their course; undefined where they are too few. */
  change: Change | undefined;
  low: number | undefined;
  high: number | undefined;
  /** How far two readings of a machine that has not changed lie apart, one standard deviation. */
  scatter: number;
}

/** What the log's figures are referred to. */
const LOG_CELSIUS = 20;

/** Scatter of a repeated reading on a machine that has not changed: a fixed part, on 12 V, and a share of the figure; from charge, speed read off a gauge, and the meter. */
const SCATTER: Partial<Record<TestId, { fixed?: number; share?: number }>> = {
  "battery.rest": { fixed: 0.06 },
  "battery.settled": { fixed: 0.09 },
  "battery.crank": { fixed: 0.16 },
  "battery.load": { fixed: 0.16 },
  "battery.conductance": { fixed: 4 },
  "battery.crankingAmps": { share: 0.06 },
  "battery.innerOhms": { share: 0.06 },
  "battery.postDrop": { fixed: 0.03, share: 0.1 },
  "starter.cableDrop": { fixed: 0.03, share: 0.1 },
  "starter.amps": { share: 0.07 },
  "charge.volts": { fixed: 0.08 },
  "charge.outputVolts": { fixed: 0.1 },
  "charge.positiveDrop": { fixed: 0.03, share: 0.1 },
  "charge.groundDrop": { fixed: 0.03, share: 0.1 },
  "charge.current": { fixed: 0.3, share: 0.08 },
  "charge.ripple": { fixed: 0.03, share: 0.2 },
  "stator.resistance": { fixed: 0.02, share: 0.04 },
  "stator.acVolts": { fixed: 0.3, share: 0.025 },
  "stator.acVoltsAtUnit": { fixed: 0.3, share: 0.025 },
  "stator.dcVolts": { fixed: 0.3, share: 0.035 },
  "stator.legDrop": { fixed: 0.04, share: 0.15 },
  "regulator.diode": { fixed: 0.012 },
  "drain.current": { fixed: 0.3, share: 0.15 },
  "field.resistance": { fixed: 0.05, share: 0.04 },
  "field.fullField": { fixed: 0.2 },
  "generator.output": { fixed: 0.2, share: 0.04 },
  "generator.field": { fixed: 0.05, share: 0.04 },
  "generator.armature": { fixed: 0.03, share: 0.1 },
};

/** Tests that a log follows: those whose scatter is known. */
export const LOGGED_TESTS = Object.keys(SCATTER) as TestId[];

/** Which repairs make the figures of a stage those of another machine; any other leaves them as they were. */
const RESETS: Record<GroupId, readonly Part[]> = {
  walk: [],
  battery: ["battery", "starter", "wiring", "loads"],
  charge: ["battery", "rotor", "stator", "regulator", "wiring", "loads", "drive"],
  stator: ["rotor", "stator", "drive", "regulator"],
  regulator: ["regulator"],
  wiring: ["wiring", "regulator", "stator", "loads"],
  drain: ["regulator", "wiring", "loads", "battery"],
};

/** What the air's warmth moves, by the circuit's own arithmetic, and how full the battery is taken to be. */
const SEASONAL: readonly TestId[] = ["battery.rest", "battery.settled", "battery.crank", "battery.load", "battery.innerOhms", "starter.amps"];
const CHARGE = 0.95;

const shifts = new WeakMap<Sheet, Map<string, number>>();

/**
 * How much higher a sound machine of the sheet reads at some air temperature than at 20 °C, in the test's unit; 0 where warmth plays no
 * part. Worked out on the machine's circuit at both temperatures.
 */
export function seasonalShift(sheet: Sheet, step: Step, celsius: number, meter: Meter): number {
  if (!SEASONAL.includes(step.test)) return 0;
  const known = shifts.get(sheet) ?? new Map<string, number>();
  shifts.set(sheet, known);
  const at = (warmth: number): number => {
    const key = `${stepKey(step)} ${warmth}`;
    const kept = known.get(key);
    if (kept !== undefined) return kept;
    const { value } = simulateStep(sheet, conditionOf([], { ambientC: warmth, charge: CHARGE }), step, meter);
    const figure = isNumber(value) ? value : 0;
    known.set(key, figure);
    return figure;
  };
  return at(Math.round(celsius)) - at(LOG_CELSIUS);
}

/** Standard deviation of one reading of a test about its true figure. @param figure what it usually is */
export function scatterOf(test: TestId, figure: number, systemVolts: number): number {
  const { fixed = 0, share = 0 } = SCATTER[test] ?? { share: 0.1 };
  const { unit } = testOf(test);
  return Math.hypot(fixed * (unit === "V" || unit === "V AC" ? systemVolts / 12 : 1), share * figure);
}

/** Years from the beginning of 2000, as the courses count them. */
export function yearsOf(at: string | number | Date): number {
  return (new Date(at).getTime() - Date.UTC(2000, 0, 1)) / (365.25 * 86_400_000);
}

/**
 * The log of one machine, one entry a step, those with the most figures first.
 * @param jobs in any order; jobs of a part that came in by itself are left out by the caller
 */
export function machineLog(jobs: readonly PastJob[]): TestLog[] {
  const logs = new Map<string, TestLog>();
  const repairs = jobs.flatMap(({ id, repairs: done }) => done.map(({ part, repairedAt }) => ({ jobId: id, at: repairedAt, part })));
  for (const job of [...jobs].sort((a, b) => a.openedAt.localeCompare(b.openedAt))) {
    const judged = judgeAll(job.readings, { sheet: job.sheet, school: job.school, meter: job.meter, ambientC: job.ambientC });
    for (const judgedReading of latestOf(judged)) {
      const { test, at, rpm, loads } = judgedReading.reading;
      const step: Step = { test, at, rpm, loads };
      const key = stepKey(step);
      const log = logs.get(key) ?? { step, points: [], repairs: [], since: 0, change: undefined, low: undefined, high: undefined, scatter: 0 };
      logs.set(key, log);
      const read = judgedReading.value as number;
      log.points.push({
        jobId: job.id,
        at: judgedReading.reading.takenAt ?? job.openedAt,
        read,
        value: read - seasonalShift(job.sheet, step, job.ambientC, job.meter),
        ambientC: job.ambientC,
        afterRepair: judgedReading.reading.afterRepair === true,
        says: judgedWords(judgedReading),
      });
      // Limits of today's sheet hold for the whole line; older jobs had copies of their own.
      const { band } = judgedReading;
      if (band?.kind === "between") [log.low, log.high] = [band.low, band.high];
    }
  }
  return [...logs.values()].map((log) => finished(log, repairs, jobs)).sort((a, b) => b.points.length - a.points.length);
}

/** The last figure of each step before any repair, and the last one after. */
function latestOf(judged: readonly JudgedReading[]): JudgedReading[] {
  const latest = new Map<string, JudgedReading>();
  for (const judgedReading of judged)
    if (isNumber(judgedReading.value) && !judgedReading.reading.hot && SCATTER[judgedReading.reading.test])
      latest.set(`${stepKey(judgedReading.reading)} ${judgedReading.reading.afterRepair ? "after" : "before"}`, judgedReading);
  return [...latest.values()];
}

function finished(log: TestLog, repairs: readonly LoggedRepair[], jobs: readonly PastJob[]): TestLog {
  const systemVolts = jobs[0]?.sheet.systemVolts ?? 12;
  const { group } = testOf(log.step.test);
  const points = log.points.sort((a, b) => a.at.localeCompare(b.at));
  const ours = repairs.filter(({ part }) => (RESETS[group] as readonly string[]).includes(part)).sort((a, b) => a.at.localeCompare(b.at));
  const last = ours.at(-1);
  const since = last ? points.findIndex((point) => point.at >= last.at || (point.jobId === last.jobId && point.afterRepair)) : 0;
  const from = since < 0 ? points.length : since;
  const now = points.slice(from);
  const open = new Set(jobs.flatMap((job) => (job.open ? [job.id] : [])));
  const middle = [...now].sort((a, b) => a.value - b.value)[Math.floor(now.length / 2)]?.value ?? 0;
  const scatter = scatterOf(log.step.test, Math.abs(middle), systemVolts);
  const observations = now.filter(({ jobId }) => !open.has(jobId)).map(({ at, value }) => ({ years: yearsOf(at), value }));
  return { ...log, points, repairs: ours, since: from, scatter, change: observations.length >= FEWEST ? weighChange(observations, scatter) : undefined };
}
