import type { SetFault } from "../core/machine/defects";
import type { Part } from "../core/machine/part";
import type { DemoJob, DemoStep } from "./jobs";

/** Services in which nothing had failed yet: what a machine's log is made of, years on end. */

interface Served {
  unit: string;
  /** Months before now, the earliest first. */
  monthsAgo: readonly number[];
  rpm: number;
  /** What has crept in by then. @param share 0 at the first service, 1 at the last */
  ails: (share: number) => SetFault[];
  /** Hours on its counter at the first service, and what a month adds. */
  hours: readonly [number, number];
}

const SERVED: readonly Served[] = [
  {
    unit: "SK-305",
    monthsAgo: [30, 26, 22, 18, 14, 10, 7, 4],
    rpm: 5000,
    ails: (share) => (share < 0.25 ? [] : [{ fault: "battery.sulphated", severity: 1 + 0.72 * (share - 0.2) ** 1.3 }]),
    hours: [410, 11],
  },
  { unit: "SK-206", monthsAgo: [28, 21, 16, 9], rpm: 5000, ails: () => [], hours: [290, 13] },
  { unit: "SK-207", monthsAgo: [27, 20, 15, 9, 5], rpm: 5000, ails: () => [], hours: [380, 12] },
  {
    unit: "SK-211",
    monthsAgo: [25, 19, 13, 8, 3],
    rpm: 5000,
    ails: (share) => [{ fault: "wiring.output-resistance", severity: 0.004 + 0.009 * share ** 2 }],
    hours: [150, 14],
  },
];

const HOURS_A_MONTH = 730;

/** Air in the workshop so many months before now, by a year that is coldest in January. @param now moment that the demo counts back from */
function airThen(monthsAgo: number, now: Date): number {
  const month = (now.getUTCMonth() - monthsAgo + 120) % 12;
  return Math.round(9 - 8 * Math.cos((2 * Math.PI * month) / 12));
}

/** Every service as a job of its own. */
export function demoServices(now: Date): DemoJob[] {
  return SERVED.flatMap(({ unit, monthsAgo, rpm, ails, hours }) =>
    monthsAgo.map((ago, k): DemoJob => {
      const steps: DemoStep[] = [
        { test: "battery.rest", restHours: 12 },
        { test: "battery.crank" },
        { test: "charge.volts", rpm: "idle", loads: "normal" },
        { test: "charge.volts", rpm, loads: "normal" },
        { test: "charge.volts", rpm, loads: "all" },
        { test: "charge.positiveDrop", rpm, loads: "normal" },
      ];
      return {
        unit,
        complaint: [],
        words: "Service.",
        batteryAgeYears: 1 + (monthsAgo[0] ?? 0) / 12 - ago / 12,
        ambientC: airThen(ago, now),
        school: "harbour",
        openedHoursAgo: HOURS_A_MONTH * ago,
        faults: ails(k / (monthsAgo.length - 1)),
        charge: 0.95,
        steps,
        use: { count: Math.round(hours[0] + hours[1] * ((monthsAgo[0] ?? 0) - ago)), unit: "h" },
        ending: { ending: "healthy", note: "Nothing failed." },
      };
    }),
  );
}

/** A repair of the last years in few words: machine, months ago, what had failed, what stood first and how surely, what was mended for nothing before. */
interface Past {
  unit: string;
  monthsAgo: number;
  rpm: number;
  fault: SetFault;
  part: Part;
  said: readonly [Part, number];
  done: string;
  before?: { part: Part; done: string };
}

const PAST: readonly Past[] = [
  { unit: "SK-102", monthsAgo: 22, rpm: 5000, fault: { fault: "regulator.no-output" }, part: "regulator", said: ["regulator", 0.94], done: "Unit renewed." },
  {
    unit: "SK-109",
    monthsAgo: 20,
    rpm: 5000,
    fault: { fault: "regulator.set-low", severity: 1.4 },
    part: "regulator",
    said: ["regulator", 0.72],
    done: "Unit renewed.",
  },
  {
    unit: "SK-114",
    monthsAgo: 18,
    rpm: 5000,
    fault: { fault: "stator.winding-open", at: "2" },
    part: "stator",
    said: ["stator", 0.97],
    done: "Stator renewed, cover gasket too.",
  },
  {
    unit: "SK-121",
    monthsAgo: 17,
    rpm: 5000,
    fault: { fault: "wiring.output-resistance", severity: 0.3 },
    part: "wiring",
    said: ["wiring", 0.91],
    done: "Fuse holder renewed.",
  },
  {
    unit: "SK-109",
    monthsAgo: 16,
    rpm: 5000,
    fault: { fault: "regulator.no-output" },
    part: "regulator",
    said: ["battery", 0.56],
    done: "Unit renewed.",
    before: { part: "battery", done: "Battery renewed; flat again within the week." },
  },
  {
    unit: "SK-302",
    monthsAgo: 15,
    rpm: 5000,
    fault: { fault: "battery.sulphated", severity: 5 },
    part: "battery",
    said: ["battery", 0.93],
    done: "Battery renewed.",
  },
  {
    unit: "SK-114",
    monthsAgo: 12,
    rpm: 5000,
    fault: { fault: "regulator.no-output" },
    part: "regulator",
    said: ["regulator", 0.88],
    done: "Unit renewed, moved into the air.",
  },
  {
    unit: "SK-102",
    monthsAgo: 10,
    rpm: 5000,
    fault: { fault: "battery.sulphated", severity: 4 },
    part: "battery",
    said: ["battery", 0.81],
    done: "Battery renewed.",
  },
  {
    unit: "SK-302",
    monthsAgo: 8,
    rpm: 5000,
    fault: { fault: "wiring.ground-resistance", severity: 0.5 },
    part: "wiring",
    said: ["wiring", 0.77],
    done: "Ground strap renewed.",
  },
  {
    unit: "SK-133",
    monthsAgo: 6,
    rpm: 5000,
    fault: { fault: "battery.sulphated", severity: 6 },
    part: "battery",
    said: ["battery", 0.96],
    done: "Battery renewed.",
  },
];

/** Every past repair as a job: read, mended, proved. */
export function demoPast(): DemoJob[] {
  return PAST.map(({ unit, monthsAgo, rpm, fault, part, said, done, before }) => ({
    unit,
    complaint: ["flat-after-ride"],
    words: "Flat again.",
    batteryAgeYears: 3,
    ambientC: 12,
    school: "harbour",
    openedHoursAgo: HOURS_A_MONTH * monthsAgo,
    faults: [fault],
    charge: 0.8,
    steps: [
      { test: "battery.rest", restHours: 12 },
      { test: "battery.crank" },
      { test: "charge.volts", rpm, loads: "normal" },
      { test: "charge.volts", rpm, loads: "normal", afterRepair: true },
    ],
    stated: { part: said[0], odds: said[1] },
    ...(before ? { repairedBefore: { ...before, fault: null, found: null } } : {}),
    repair: { part, fault: fault.fault, found: null, done },
    ending: { ending: "proven", note: "In band at speed." },
  }));
}
