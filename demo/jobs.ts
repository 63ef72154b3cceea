import type { TestId } from "../core/procedure/catalogue";
import type { Step } from "../core/procedure/step";
import type { ReadingValue } from "../core/units";

/** One demo reading: what to take where, and what the meter showed (lead zero still in ohms). */
type DemoReading = Step & { value: ReadingValue; restHours?: number; note?: string; afterRepair?: boolean };

export interface DemoJob {
  unit: string;
  complaint: string[];
  words: string;
  batteryAgeYears: number | null;
  ambientC: number;
  school: string;
  /** Hours before the demo's "now" at which the job was opened. */
  openedHoursAgo: number;
  readings: DemoReading[];
  repair?: { part: string; fault: string; done: string };
  ending?: { ending: "proven" | "healthy"; note: string };
}

const one = (test: TestId, value: ReadingValue, more: Partial<DemoReading> = {}): DemoReading => ({ test, value, ...more });

const walk = (): DemoReading[] => [
  one("inspect.terminals", "tight"),
  one("inspect.connector", "clean", { at: "stator" }),
  one("inspect.connector", "clean", { at: "output" }),
];

const battery = (rest: number, settled: number, crank: number, restHours = 12): DemoReading[] => [
  one("battery.rest", rest, { restHours }),
  one("battery.settled", settled),
  one("battery.crank", crank),
];

const charge = (idle: number, test: number, all: number, rpm = 5000, more: Partial<DemoReading> = {}): DemoReading[] => [
  one("charge.volts", idle, { rpm: "idle", loads: "normal", ...more }),
  one("charge.volts", test, { rpm, loads: "normal", ...more }),
  one("charge.volts", all, { rpm, loads: "all", ...more }),
];

const PAIRS = ["1-2", "2-3", "3-1"];

const perPair = (test: TestId, values: ReadingValue[], more: Partial<DemoReading> = {}): DemoReading[] =>
  values.map((value, i) => one(test, value, { at: PAIRS[i] as string, ...more }));

const perLeg = (values: ReadingValue[]): DemoReading[] => values.map((value, i) => one("stator.toGround", value, { at: String(i + 1) }));

/** A sound unit's diode test; `odd` replaces single directions. */
const diodes = (odd: Record<string, ReadingValue> = {}): DemoReading[] => {
  const pass = { "1": 0.49, "2": 0.49, "3": 0.5 };
  const sound = Object.entries(pass).flatMap(([leg, volts]): [string, ReadingValue][] => [
    [`${leg}>B+`, volts],
    [`B+>${leg}`, "OL"],
    [`B->${leg}`, volts],
    [`${leg}>B-`, "OL"],
  ]);
  return [...sound, ["B->B+", 0.9] as [string, ReadingValue], ["B+>B-", "OL"] as [string, ReadingValue]].map(([at, value]) =>
    one("regulator.diode", odd[at] ?? value, { at }),
  );
};

/** The jobs on the demo rail, one in each state a mechanic meets. */
export const DEMO_JOBS: readonly DemoJob[] = [
  {
    unit: "SK-121",
    complaint: ["slow-crank"],
    words: "Slow to start every morning this week.",
    batteryAgeYears: 2,
    ambientC: 9,
    school: "harbour",
    openedHoursAgo: 0.6,
    readings: [],
  },
  {
    unit: "SK-302",
    complaint: ["sat-long", "no-crank"],
    words: "Stood since the regatta. Clicks and nothing more.",
    batteryAgeYears: 5,
    ambientC: 11,
    school: "harbour",
    openedHoursAgo: 3,
    readings: [...walk(), one("battery.rest", 11.62, { restHours: 12 }), one("battery.settled", 10.9)],
  },
  {
    unit: "SK-207",
    complaint: ["flat-after-ride", "lamps-pulse"],
    words: "Lamp dims when the grips are on. Flat after patrol.",
    batteryAgeYears: 1,
    ambientC: 2,
    school: "patrol",
    openedHoursAgo: 26,
    readings: [...walk(), ...battery(12.61, 12.32, 10.1), ...charge(12.55, 13.12, 12.7), ...perPair("stator.acVolts", [20.6, 12.3, 12.1], { rpm: "idle" })],
  },
  {
    unit: "SK-114",
    complaint: ["flat-after-ride"],
    words: "Flat after every beach round.",
    batteryAgeYears: 1.2,
    ambientC: 14,
    school: "harbour",
    openedHoursAgo: 5,
    readings: [
      ...walk(),
      ...battery(12.81, 12.45, 10.4),
      ...charge(12.42, 12.68, 12.21),
      ...perPair("stator.resistance", [0.35, 0.35, 0.35]),
      ...perLeg([0.19, 0.31, 0.31]),
    ],
  },
  {
    unit: "SK-109",
    complaint: ["warning-lamp", "flat-after-ride"],
    words: "Charge lamp on since Tuesday, now it will not start.",
    batteryAgeYears: 3,
    ambientC: 17,
    school: "harbour",
    openedHoursAgo: 29,
    readings: [
      ...walk(),
      ...battery(12.79, 12.5, 10.6),
      ...charge(12.48, 12.36, 12.02),
      ...perPair("stator.resistance", [0.45, 0.46, 0.45]),
      ...perLeg(["OL", "OL", "OL"]),
      ...perPair("stator.acVolts", [14.4, 14.3, 14.5], { rpm: "idle" }),
      ...perPair("stator.acVolts", [60, 60, 61], { rpm: 5000 }),
      ...perPair("stator.acVoltsAtUnit", [60, 60, 61], { rpm: 5000 }),
      ...diodes(),
      one("regulator.feed", 12.71),
      one("regulator.ground", 0.2),
      one("charge.outputVolts", 12.3, { rpm: 5000, loads: "normal" }),
      one("charge.positiveDrop", 0.02, { rpm: 5000, loads: "normal" }),
      one("charge.groundDrop", 0.01, { rpm: 5000, loads: "normal" }),
    ],
  },
  {
    unit: "SK-133",
    complaint: ["flat-after-ride"],
    words: "New battery in spring. Flat again.",
    batteryAgeYears: 0.5,
    ambientC: 16,
    school: "patrol",
    openedHoursAgo: 50,
    readings: [
      ...walk(),
      ...battery(12.72, 12.41, 10.2),
      ...charge(12.6, 13.05, 12.71),
      ...perPair("stator.acVolts", [18.9, 18.7, 18.8], { rpm: "idle" }),
      ...perPair("stator.acVolts", [55, 55, 54], { rpm: 5000 }),
      ...perPair("stator.resistance", [0.85, 0.86, 0.85]),
      ...perLeg(["OL", "OL", "OL"]),
      ...diodes(),
      one("regulator.feed", 12.52),
      one("regulator.ground", 0.18),
      one("charge.outputVolts", 14.42, { rpm: 5000, loads: "normal" }),
      one("charge.positiveDrop", 1.33, { rpm: 5000, loads: "normal" }),
      one("charge.groundDrop", 0.04, { rpm: 5000, loads: "normal" }),
    ],
  },
  {
    unit: "SK-102",
    complaint: ["flat-overnight", "new-accessory"],
    words: "Starts after a ride, dead after two days on the stand.",
    batteryAgeYears: 2,
    ambientC: 18,
    school: "harbour",
    openedHoursAgo: 4,
    readings: [
      ...walk(),
      ...battery(12.78, 12.52, 10.7),
      ...charge(13.9, 14.42, 14.31),
      one("drain.current", 86),
      one("drain.unitUnplugged", 86),
      one("drain.fusePulled", 85, { at: "main" }),
      one("drain.fusePulled", 0.4, { at: "F3" }),
    ],
  },
  {
    unit: "SK-206",
    complaint: ["lamps-burn-out", "boiled-battery"],
    words: "Third headlamp bulb this winter. Battery smells.",
    batteryAgeYears: 2,
    ambientC: 4,
    school: "patrol",
    openedHoursAgo: 75,
    readings: [
      ...walk(),
      ...battery(12.66, 12.4, 10),
      ...charge(14.2, 16.6, 16.1),
      one("inspect.fluid", "low"),
      ...diodes(),
      one("regulator.ground", 0.2),
      ...charge(13.8, 14.31, 14.2, 5000, { afterRepair: true }),
    ],
    repair: { part: "regulator", fault: "regulator.set-high", done: "Regulator/rectifier renewed, ground point cleaned, cells topped up." },
    ending: { ending: "proven", note: "14.31 V at 5,000 rpm, steady, lights on. Bulb holds." },
  },
];
