import { ASSUMED_METER } from "../core/meter/meter";
import { schoolOf } from "../core/procedure/schools";
import type { Reading } from "../core/procedure/step";
import { machineLog, type PastJob, seasonalShift, type TestLog } from "../core/trend/log";
import { warningOf } from "../core/trend/warning";
import { DEMO_SHEETS } from "../demo/sheets";
import { Chance } from "./diagnosis/chance";
import { writeBlock } from "./document";

/**
 * Machines that age, serviced a few times a year by hands that misread now and then: how many failures are warned of a month ahead, and how
 * many warnings come to nothing. How the figures age, what the air does to them and how they are read is written here by itself.
 */

const MACHINES = 400;
const YEARS = 6;
const DAY = 86_400_000;
/** A failure counts as warned of when said so many days before it. */
const AHEAD_DAYS = 30;
/** A warning came to nothing when the figure has not passed its limit so long after it, years. */
const COMES_TRUE = 1.5;
const MISREAD = 0.02;
const BOUNDS = { warned: 0.5, falsePerYear: 1 / 20 } as const;

const sheet = DEMO_SHEETS[0];
if (!sheet) throw new Error("no demo sheet");
const school = schoolOf("harbour");
const begin = Date.UTC(2019, 3, 1);

/** Air in the workshop over the year, °C. */
const air = (at: number): number => 10 - 9 * Math.cos((2 * Math.PI * (new Date(at).getUTCMonth() + 0.5 - 0.5)) / 12);

/** One kind of figure: what it truly is at a time and a temperature, and how it is read. */
interface Ageing {
  name: string;
  steps: readonly Pick<Reading, "test" | "at" | "rpm" | "loads">[];
  /** Which way it fails, and where. */
  limit: number;
  side: "low" | "high";
  true(at: number, celsius: number): number;
  noise: number;
}

/** Years since something set in, growing: 0 before. */
const grown = (at: number, onset: number, pace: number, power: number): number => Math.max(0, ((at - onset) / DAY / 365.25) * pace) ** power;

/** A battery that tires: its resistance doubles in one to four years from some time on. */
function crankDip(random: Chance, ages: boolean): Ageing {
  const [ohms, amps, open] = [random.between(0.022, 0.03), random.between(60, 80), random.between(12.5, 12.75)];
  const onset = begin + random.between(0, YEARS) * 365 * DAY;
  const pace = ages ? 1 / random.between(1, 4) : 0;
  return {
    name: "crank dip of a tiring battery",
    steps: [{ test: "battery.crank" }],
    limit: 9.6,
    side: "low",
    noise: 0.12,
    true: (at, celsius) => open - amps * ohms * (1 + grown(at, onset, pace, 1.4)) * (1 + 0.008 * (20 - celsius)),
  };
}

/** A joint that corrodes on the way to the battery. */
function corrodedJoint(random: Chance, ages: boolean): Ageing {
  const sound = random.between(0.04, 0.12);
  const onset = begin + random.between(0, YEARS) * 365 * DAY;
  const pace = ages ? random.between(0.25, 0.9) : 0;
  return {
    name: "volts lost at a joint",
    steps: [{ test: "charge.positiveDrop", rpm: 5000, loads: "normal" }],
    limit: 0.3,
    side: "high",
    noise: 0.025,
    true: (at) => sound + 0.35 * grown(at, onset, pace, 1.6),
  };
}

/** Windings whose turns join one after another. */
function sinkingPair(random: Chance, ages: boolean): Ageing {
  const sound = random.between(58, 63);
  const onset = begin + random.between(0, YEARS) * 365 * DAY;
  const pace = ages ? random.between(0.15, 0.6) : 0;
  return {
    name: "AC of a pair that loses turns",
    steps: [{ test: "stator.acVolts", at: "1-2", rpm: 5000 }],
    limit: 50,
    side: "low",
    noise: 1.1,
    // Turns go a few at a time.
    true: (at) => sound - 1.6 * Math.floor(12 * grown(at, onset, pace, 1)),
  };
}

const KINDS = [crankDip, corrodedJoint, sinkingPair] as const;

interface Outcome {
  failures: number;
  warned: number;
  falseWarnings: number;
  years: number;
}

function fate(random: Chance): Outcome {
  const outcome: Outcome = { failures: 0, warned: 0, falseWarnings: 0, years: 0 };
  const figures = KINDS.map((kind) => kind(random, random.yes(0.3)));
  const end = begin + YEARS * 365.25 * DAY;
  const failsAt = figures.map((figure) => {
    for (let at = begin; at < end + COMES_TRUE * 365 * DAY; at += 7 * DAY) {
      const value = figure.true(at, air(at));
      if (figure.side === "low" ? value < figure.limit : value > figure.limit) return at;
    }
    return Number.POSITIVE_INFINITY;
  });
  const jobs: PastJob[] = [];
  const said = figures.map(() => false);
  // The first failure ends the machine's story: what is mended then is another machine.
  const last = Math.min(end, ...failsAt);
  const months = Array.from({ length: 12 }, (_, month) => air(Date.UTC(2020, month, 15)));
  let id = 1;
  for (let at = begin + random.between(0, 90) * DAY; at < last; at += random.between(90, 240) * DAY) {
    const celsius = air(at) + random.normal(2.5);
    const takenAt = new Date(at).toISOString();
    const readings = figures.flatMap(({ steps, true: truly, noise }) =>
      steps.map((step): Reading => {
        const value = truly(at, celsius) + random.normal(noise) + (random.yes(MISREAD) ? random.normal(8 * noise) : 0);
        return { ...step, id: `${id} ${step.test}`, value: Math.round(value * 100) / 100, takenAt };
      }),
    );
    jobs.push({
      id: id++,
      openedAt: takenAt,
      open: false,
      ambientC: Math.round(celsius),
      sheet: sheet as NonNullable<typeof sheet>,
      school,
      meter: ASSUMED_METER,
      readings,
      repairs: [],
    });
    for (const [k, figure] of figures.entries()) {
      const log = machineLog(jobs).find(({ step }) => step.test === figure.steps[0]?.test) as TestLog;
      const limits = figure.side === "low" ? { low: figure.limit, high: undefined } : { low: undefined, high: figure.limit };
      const seasonal = (month: number): number => seasonalShift(sheet as NonNullable<typeof sheet>, log.step, months[month] as number, ASSUMED_METER);
      if (said[k] || !warningOf({ ...log, ...limits }, at, seasonal)) continue;
      said[k] = true;
      const fails = failsAt[k] as number;
      if (fails - at > COMES_TRUE * 365 * DAY) outcome.falseWarnings++;
      else if (fails <= last && fails - at >= AHEAD_DAYS * DAY) outcome.warned++;
    }
  }
  outcome.years = (last - begin) / DAY / 365.25;
  outcome.failures = failsAt.filter((fails) => fails <= last && fails < end).length;
  return outcome;
}

const random = new Chance(Number(process.argv[2] ?? 14_001));
const sum: Outcome = { failures: 0, warned: 0, falseWarnings: 0, years: 0 };
for (let k = 0; k < MACHINES; k++) {
  const outcome = fate(random);
  for (const name of Object.keys(sum) as (keyof Outcome)[]) sum[name] += outcome[name];
}
const [share, often] = [sum.warned / sum.failures, sum.falseWarnings / sum.years];
const text = [
  `${MACHINES} machines over ${YEARS} years each, serviced every three to eight months; three figures a machine, each of which ages in three of ten machines; one reading in fifty is misread.`,
  "",
  "| | measured | bound | |",
  "|---|---|---|---|",
  `| failures warned of at least ${AHEAD_DAYS} days ahead (of ${sum.failures}) | ${share.toFixed(2)} | ≥ ${BOUNDS.warned} | ${share >= BOUNDS.warned ? "holds" : "**falls short**"} |`,
  `| warnings that came to nothing, in ${Math.round(sum.years)} machine-years: one in | ${(1 / Math.max(1e-9, often)).toFixed(0)} years | ≥ 20 years | ${often <= BOUNDS.falsePerYear ? "holds" : "**falls short**"} |`,
].join("\n");
process.stdout.write(`${text}\n`);
if (process.argv[2] === undefined) writeBlock("ageing", text);
