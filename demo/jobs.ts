import type { SetFault } from "../core/machine/defects";
import type { Sheet } from "../core/machine/sheet";
import { type TestId, testOf } from "../core/procedure/catalogue";
import { type Step, stepsOf } from "../core/procedure/step";
import { demoSheet } from "./sheets";

/** One step of a demo job and what is noted beside it; the figure comes from the simulated machine. */
export type DemoStep = Step & { restHours?: number; note?: string; afterRepair?: boolean };

interface DemoRepair {
  part: string;
  fault: string | null;
  found: string | null;
  done: string;
}

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
  /** Hours on its counter. */
  use?: { count: number; unit: "h" };
  /** What was named first, and how surely. */
  stated?: { part: string; odds: number };
  /** What was mended first, for nothing. */
  repairedBefore?: DemoRepair;
  repair?: DemoRepair;
  ending?: { ending: "proven" | "healthy"; note: string };
}

const demoStep = (test: TestId, more: Partial<DemoStep> = {}): DemoStep => ({ test, ...more });
const walk = (): DemoStep[] => [
  demoStep("inspect.terminals"),
  demoStep("inspect.connector", { at: "stator" }),
  demoStep("inspect.connector", { at: "output" }),
];
const battery = (): DemoStep[] => [demoStep("battery.rest", { restHours: 12 }), demoStep("battery.settled"), demoStep("battery.crank")];
const charge = (more: Partial<DemoStep> = {}, rpm = 5000): DemoStep[] => [
  demoStep("charge.volts", { rpm: "idle", loads: "normal", ...more }),
  demoStep("charge.volts", { rpm, loads: "normal", ...more }),
  demoStep("charge.volts", { rpm, loads: "all", ...more }),
];
/** What a test asks for on machines of three legs, at some speed, and on any machine of the shelf. */
const perPair = (test: TestId, more: Partial<DemoStep> = {}): DemoStep[] => ["1-2", "2-3", "3-1"].map((at) => demoStep(test, { at, ...more }));
const perLeg = (): DemoStep[] => ["1", "2", "3"].map((at) => demoStep("stator.toGround", { at }));
const whole = (test: TestId, sheetId: string, more: Partial<DemoStep> = {}): DemoStep[] =>
  stepsOf(testOf(test), demoSheet(sheetId) as Sheet)
    .filter(({ rpm }) => rpm !== "idle")
    .map((step) => ({ ...step, ...more }));
const diodes = (): DemoStep[] => whole("regulator.diode", "corvane-ferrel-650");
const wires = (): DemoStep[] =>
  (["charge.outputVolts", "charge.positiveDrop", "charge.groundDrop"] as const).map((test) => demoStep(test, { rpm: 5000, loads: "normal" }));

/** Hours in a month, about. */
const MONTH = 730;

interface Mended extends Pick<DemoJob, "unit" | "complaint" | "words" | "faults" | "charge"> {
  monthsAgo: number;
  rpm: number;
  /** What was read beside battery and charging. */
  found: DemoStep[];
  repair: NonNullable<DemoJob["repair"]>;
}

/** A job of a while ago: read, mended, proved and closed. */
function mended({ monthsAgo, rpm, found, ...job }: Mended): DemoJob {
  return {
    ...job,
    batteryAgeYears: 2,
    ambientC: 12,
    school: "harbour",
    openedHoursAgo: MONTH * monthsAgo,
    steps: [demoStep("battery.rest", { restHours: 12 }), demoStep("battery.crank"), ...charge({}, rpm), ...found, ...charge({ afterRepair: true }, rpm)],
    ending: { ending: "proven", note: "In band at speed, all loads on." },
  };
}

/** The jobs on the demo rail, one in each state a mechanic meets; and what was mended in the two years before. */
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
    steps: [...walk(), demoStep("battery.rest", { restHours: 12 }), demoStep("battery.settled")],
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
      demoStep("regulator.feed"),
      demoStep("regulator.ground"),
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
      demoStep("regulator.feed"),
      demoStep("regulator.ground"),
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
      demoStep("drain.current"),
      demoStep("drain.unitUnplugged"),
      demoStep("drain.fusePulled", { at: "main" }),
      demoStep("drain.fusePulled", { at: "F3" }),
    ],
  },
  {
    unit: "SK-401",
    complaint: ["flat-after-ride"],
    words: "Cuts two graveyards and will not start for the third.",
    batteryAgeYears: 2,
    ambientC: 16,
    school: "harbour",
    openedHoursAgo: 7,
    faults: [{ fault: "regulator.no-output" }],
    charge: 0.6,
    steps: [
      ...walk(),
      ...battery(),
      ...charge({}, 3600),
      ...whole("stator.resistance", "mossgate-cloister-18"),
      ...whole("stator.toGround", "mossgate-cloister-18"),
      ...whole("stator.acVolts", "mossgate-cloister-18"),
      ...whole("stator.acVoltsAtUnit", "mossgate-cloister-18"),
      ...whole("stator.legDrop", "mossgate-cloister-18"),
      ...whole("regulator.diode", "mossgate-cloister-18"),
      demoStep("regulator.feed"),
      demoStep("regulator.ground"),
    ],
  },
  {
    unit: "SK-404",
    complaint: ["flat-after-ride"],
    words: "Lights are bright, battery never fills.",
    batteryAgeYears: 4,
    ambientC: 18,
    school: "patrol",
    openedHoursAgo: 31,
    faults: [{ fault: "stator.diode-open" }],
    charge: 0.45,
    steps: [
      ...walk(),
      ...battery(),
      ...charge({}, 3600),
      ...whole("stator.dcVolts", "mossgate-pavilion-12"),
      ...whole("stator.acVolts", "mossgate-pavilion-12"),
      ...whole("stator.diode", "mossgate-pavilion-12"),
    ],
  },
  {
    unit: "SK-141",
    complaint: ["slow-crank"],
    words: "Kick it and it runs; the button only sighs.",
    batteryAgeYears: 6,
    ambientC: 12,
    school: "parade",
    openedHoursAgo: 2,
    faults: [{ fault: "stator.winding-open", at: "C" }],
    charge: 0.5,
    steps: [...walk(), demoStep("battery.rest", { restHours: 12 }), demoStep("battery.settled")],
  },
  {
    unit: "SK-213",
    complaint: ["flat-after-ride", "sat-long"],
    words: "Stood all summer, flat after the first climb.",
    batteryAgeYears: 3,
    ambientC: 1,
    school: "harbour",
    openedHoursAgo: 49,
    faults: [{ fault: "stator.winding-open", at: "1" }],
    charge: 0.55,
    steps: [...walk(), ...battery(), ...charge(), ...whole("stator.resistance", "brannoch-tor-440")],
  },
  {
    unit: "SK-118",
    complaint: ["flat-after-ride"],
    words: "Goes dim on the parade with the headlamp on.",
    batteryAgeYears: 1,
    ambientC: 17,
    school: "parade",
    openedHoursAgo: 28,
    faults: [{ fault: "stator.winding-open", at: "M" }],
    charge: 0.6,
    steps: [...walk(), ...battery(), ...charge(), ...whole("stator.resistance", "corvane-tern-400"), ...whole("stator.toGround", "corvane-tern-400")],
  },
  {
    unit: "SK-310",
    complaint: ["flat-after-ride", "warning-lamp"],
    words: "Charge lamp stays on, plotter dies by the bar.",
    batteryAgeYears: 2,
    ambientC: 10,
    school: "harbour",
    openedHoursAgo: 8,
    faults: [{ fault: "rotor.brushes-worn", severity: 60 }],
    charge: 0.6,
    steps: [
      ...walk(),
      demoStep("inspect.belt"),
      ...battery(),
      ...charge({}, 3000),
      demoStep("field.resistance"),
      demoStep("field.supply"),
      demoStep("field.fullField", { rpm: 3000 }),
    ],
  },
  {
    unit: "SK-117",
    complaint: ["flat-after-ride"],
    words: "Came back from the rebuild and has not charged since.",
    batteryAgeYears: 1,
    ambientC: 16,
    school: "parade",
    openedHoursAgo: 33,
    faults: [{ fault: "stator.polarity-reversed" }],
    charge: 0.55,
    steps: [
      ...walk(),
      demoStep("battery.rest", { restHours: 12 }),
      ...charge({}, 3000),
      demoStep("generator.field"),
      demoStep("generator.armature"),
      demoStep("generator.motoring"),
      demoStep("generator.output", { rpm: "idle" }),
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
    steps: [...walk(), ...battery(), ...charge(), demoStep("inspect.fluid"), ...diodes(), demoStep("regulator.ground"), ...charge({ afterRepair: true })],
    repair: {
      part: "regulator",
      fault: "regulator.set-high",
      found: "Regulator/rectifier (19 in 20, nearly sure). Set point too high.",
      done: "Regulator/rectifier renewed, ground point cleaned, cells topped up.",
    },
    ending: { ending: "proven", note: "In band at 5,000 rpm, steady, lights on. Bulb holds." },
  },
  ...[
    mended({
      unit: "SK-401",
      monthsAgo: 23,
      rpm: 3600,
      complaint: ["flat-after-ride"],
      words: "Needs a push after every second churchyard.",
      faults: [{ fault: "wiring.ground-resistance", severity: 0.9 }],
      charge: 0.5,
      found: [demoStep("regulator.ground"), demoStep("charge.groundDrop", { rpm: 3600, loads: "normal" })],
      repair: {
        part: "wiring",
        fault: "wiring.ground-resistance",
        found: "Wiring (19 in 20, nearly sure). The unit's ground path is poor.",
        done: "Case and bracket cleaned to bare metal.",
      },
    }),
    mended({
      unit: "SK-118",
      monthsAgo: 19,
      rpm: 5000,
      complaint: ["slow-crank"],
      words: "Tired after the winter.",
      faults: [{ fault: "battery.sulphated", severity: 5 }],
      charge: 0.85,
      found: [demoStep("battery.load")],
      repair: { part: "battery", fault: "battery.sulphated", found: "Battery (99 in 100, as good as sure). Worn out.", done: "Battery renewed." },
    }),
    mended({
      unit: "SK-213",
      monthsAgo: 14,
      rpm: 5000,
      complaint: ["lamps-burn-out"],
      words: "Two bulbs in a week.",
      faults: [{ fault: "regulator.never-regulates" }],
      charge: 0.95,
      found: [demoStep("regulator.ground")],
      repair: {
        part: "regulator",
        fault: "regulator.never-regulates",
        found: "Regulator/rectifier (19 in 20, nearly sure). It no longer regulates.",
        done: "Box renewed.",
      },
    }),
    mended({
      unit: "SK-310",
      monthsAgo: 9,
      rpm: 3000,
      complaint: ["warning-lamp"],
      words: "Squeals when the radar is on.",
      faults: [{ fault: "drive.belt-slack", severity: 0.75 }],
      charge: 0.7,
      found: [demoStep("inspect.belt")],
      repair: { part: "drive", fault: "drive.belt-slack", found: "Belt (9 in 10, likely). It slips under load.", done: "Belt renewed and set." },
    }),
    mended({
      unit: "SK-117",
      monthsAgo: 6,
      rpm: 3000,
      complaint: ["flat-overnight"],
      words: "Flat by morning since the parade.",
      faults: [{ fault: "regulator.cutout-welded" }],
      charge: 0.4,
      found: [demoStep("generator.motoring"), demoStep("drain.unitUnplugged")],
      repair: {
        part: "regulator",
        fault: "regulator.cutout-welded",
        found: "Regulator and cut-out (19 in 20, nearly sure). Welded shut.",
        done: "Cut-out's contacts dressed and set, generator polarised.",
      },
    }),
    mended({
      unit: "SK-141",
      monthsAgo: 3,
      rpm: 5000,
      complaint: ["flat-after-ride"],
      words: "Lamps fine, button dead.",
      faults: [{ fault: "wiring.leg-burnt", at: "C", severity: 40 }],
      charge: 0.5,
      found: [...whole("stator.acVoltsAtUnit", "corvane-dabchick-50"), demoStep("inspect.connector", { at: "stator" })],
      repair: { part: "wiring", fault: "wiring.leg-burnt", found: "Wiring (19 in 20, nearly sure). The pin of C is burnt.", done: "Pin renewed and greased." },
    }),
  ],
];
