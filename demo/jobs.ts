import type { SetFault } from "../core/machine/defects";
import type { TestId } from "../core/procedure/catalogue";
import { diodesOf, pairsOf, type Step } from "../core/procedure/step";

/** One step of a demo job and what is noted beside it; the figure comes from the simulated machine. */
export type DemoStep = Step & { restHours?: number; note?: string; afterRepair?: boolean };

/** A job on the demo rail: the machine's hidden state, and the steps the mechanic has taken so far. */
export interface DemoJob {
  unit: string;
  complaint: string[];
  words: string;
  batteryAgeYears: number | null;
  ambientC: number;
  school: string;
  /** Hours before the demo's "now" at which the job was opened. */
  openedHoursAgo: number;
  /** What ails the machine; readings after the repair are taken without it. */
  faults: SetFault[];
  /** Battery's state of charge, 0 to 1. */
  charge: number;
  steps: DemoStep[];
  repair?: { part: string; fault: string; found: string; done: string };
  ending?: { ending: "proven" | "healthy"; note: string };
}

const LEGS = [{ id: "1" }, { id: "2" }, { id: "3" }];

const one = (test: TestId, more: Partial<DemoStep> = {}): DemoStep => ({ test, ...more });
const walk = (): DemoStep[] => [one("inspect.terminals"), one("inspect.connector", { at: "stator" }), one("inspect.connector", { at: "output" })];
const battery = (): DemoStep[] => [one("battery.rest", { restHours: 12 }), one("battery.settled"), one("battery.crank")];
const charge = (more: Partial<DemoStep> = {}): DemoStep[] => [
  one("charge.volts", { rpm: "idle", loads: "normal", ...more }),
  one("charge.volts", { rpm: 5000, loads: "normal", ...more }),
  one("charge.volts", { rpm: 5000, loads: "all", ...more }),
];
const perPair = (test: TestId, more: Partial<DemoStep> = {}): DemoStep[] => pairsOf(LEGS).map((at) => one(test, { at, ...more }));
const perLeg = (): DemoStep[] => LEGS.map(({ id }) => one("stator.toGround", { at: id }));
const diodes = (): DemoStep[] => diodesOf(LEGS).map((at) => one("regulator.diode", { at }));
const wires = (): DemoStep[] =>
  (["charge.outputVolts", "charge.positiveDrop", "charge.groundDrop"] as const).map((test) => one(test, { rpm: 5000, loads: "normal" }));

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
    faults: [{ fault: "battery.sulphated", severity: 3 }],
    charge: 0.9,
    steps: [],
  },
  {
    unit: "SK-302",
    complaint: ["sat-long", "no-crank"],
    words: "Stood since the regatta. Clicks and nothing more.",
    batteryAgeYears: 5,
    ambientC: 11,
    school: "harbour",
    openedHoursAgo: 3,
    faults: [],
    charge: 0.06,
    steps: [...walk(), one("battery.rest", { restHours: 12 }), one("battery.settled")],
  },
  {
    unit: "SK-207",
    complaint: ["flat-after-ride", "lamps-pulse"],
    words: "Lamp dims when the grips are on. Flat after patrol.",
    batteryAgeYears: 1,
    ambientC: 2,
    school: "patrol",
    openedHoursAgo: 26,
    faults: [
      { fault: "stator.turns-shorted", at: "2", severity: 0.6 },
      { fault: "loads.too-much", severity: 7 },
    ],
    charge: 0.85,
    steps: [...walk(), ...battery(), ...charge(), ...perPair("stator.acVolts", { rpm: "idle" })],
  },
  {
    unit: "SK-114",
    complaint: ["flat-after-ride"],
    words: "Flat after every beach round.",
    batteryAgeYears: 1.2,
    ambientC: 14,
    school: "harbour",
    openedHoursAgo: 5,
    faults: [{ fault: "stator.winding-grounded", at: "1", along: 0.3, severity: 0.01 }],
    charge: 0.95,
    steps: [...walk(), ...battery(), ...charge(), ...perPair("stator.resistance"), ...perLeg()],
  },
  {
    unit: "SK-109",
    complaint: ["warning-lamp", "flat-after-ride"],
    words: "Charge lamp on since Tuesday, now it will not start.",
    batteryAgeYears: 3,
    ambientC: 17,
    school: "harbour",
    openedHoursAgo: 29,
    faults: [{ fault: "regulator.no-output" }],
    charge: 0.95,
    steps: [
      ...walk(),
      ...battery(),
      ...charge(),
      ...perPair("stator.resistance"),
      ...perLeg(),
      ...perPair("stator.acVolts", { rpm: "idle" }),
      ...perPair("stator.acVolts", { rpm: 5000 }),
      ...perPair("stator.acVoltsAtUnit", { rpm: 5000 }),
      ...diodes(),
      one("regulator.feed"),
      one("regulator.ground"),
      ...wires(),
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
    faults: [{ fault: "wiring.output-resistance", severity: 0.24 }],
    charge: 0.9,
    steps: [
      ...walk(),
      ...battery(),
      ...charge(),
      ...perPair("stator.acVolts", { rpm: "idle" }),
      ...perPair("stator.acVolts", { rpm: 5000 }),
      ...perPair("stator.resistance"),
      ...perLeg(),
      ...diodes(),
      one("regulator.feed"),
      one("regulator.ground"),
      ...wires(),
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
    faults: [{ fault: "loads.parasitic", at: "F3", severity: 86 }],
    charge: 0.95,
    steps: [
      ...walk(),
      ...battery(),
      ...charge(),
      one("drain.current"),
      one("drain.unitUnplugged"),
      one("drain.fusePulled", { at: "main" }),
      one("drain.fusePulled", { at: "F3" }),
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
    faults: [{ fault: "regulator.set-high", severity: 2.3 }],
    charge: 0.95,
    steps: [...walk(), ...battery(), ...charge(), one("inspect.fluid"), ...diodes(), one("regulator.ground"), ...charge({ afterRepair: true })],
    repair: {
      part: "regulator",
      fault: "regulator.set-high",
      found: "Regulator/rectifier (19 in 20, nearly sure). Set point too high.",
      done: "Regulator/rectifier renewed, ground point cleaned, cells topped up.",
    },
    ending: { ending: "proven", note: "In band at 5,000 rpm, steady, lights on. Bulb holds." },
  },
];
