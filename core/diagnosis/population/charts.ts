import { conditionOf } from "../../machine/condition";
import { COUPLING } from "../../machine/coupling";
import { DEFECTS, type SetFault } from "../../machine/defects";
import { atHome, endsOf, HALVES, leadsOf, wayAt } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import type { FaultId } from "../../machine/faults";
import { placesOf, unfitReason } from "../../machine/places";
import type { Sheet } from "../../machine/sheet";
import type { Meter } from "../../meter/meter";
import { type TestId, testOf } from "../../procedure/catalogue";
import { simulateStep } from "../../procedure/simulate";
import { acPairsOf, stepKey, stepsOf } from "../../procedure/step";
import type { ReadingValue } from "../../units";
import { type Curve, curveOf, unloadedVolts } from "./curve";
import { PARTED_OHMS } from "./parted";
import { TOGETHER } from "./rates";

/**
 * A chart: all that the circuit has to say of one generator, ailing or sound — its curves at two speeds, and what a perfect
 * meter shows on its windings and its unit. Population and predictions are made from charts alone, so a machine's circuit is
 * run once, when its charts are drawn, and never during a job.
 */
export interface Chart {
  /** Absent where the faults are too faint to move the running machine. */
  idle?: Curve;
  test?: Curve;
  /** At the test speed with the lights off; only where those switch a winding in. */
  off?: Curve;
  /** By step; legs rotated so that the fault sits where the chart's key says. */
  seen: Record<string, ReadingValue>;
}

/** The charts of one machine by their keys. */
export type Atlas = Record<string, Chart>;

/** Severities at which a fault's charts are drawn; what lies between is interpolated. Ohms are spaced by decades. */
export const GRADES: Partial<Record<FaultId, readonly number[]>> = {
  "stator.turns-shorted": [0.04, 0.15, 0.3, 0.5, 0.8],
  "stator.burnt": [0.03, 0.07, 0.12, 0.17, 0.23, 0.3, 0.4],
  "stator.winding-grounded": [0.02, 0.5, 5, 80, 3000, 1e5, 1e6],
  "stator.windings-bridged": [0.02, 1, 40],
  "stator.joint-resists": [0.3, 1, 3, 10, 30],
  "stator.wrong-fit": [0.45, 0.65, 0.85, 1.3, 1.8],
  "wiring.leg-burnt": [0.05, 0.3, 1, 4, 15, 60, 1e8],
  "regulator.diode-leaky": [4, 15, 50, 150, 500, 1500, 5000],
};
/** Places along a winding at which a touch is charted. */
export const ALONG = [0.03, 0.35, 0.7, 0.98] as const;

/** Couplings of shorted turns that are charted. */
export const COUPLINGS = [COUPLING.apart, COUPLING.closely] as const;

/** Faults that change the generator's own circuit. */
const WINDINGS: readonly FaultId[] = [
  "stator.winding-open",
  "stator.leads-parted",
  "stator.turns-shorted",
  "stator.winding-grounded",
  "stator.burnt",
  "stator.windings-bridged",
  "stator.joint-resists",
  "stator.wrong-fit",
  "stator.diode-open",
  "stator.diode-shorted",
];
const UNIT: readonly FaultId[] = [
  "regulator.diode-open",
  "regulator.diode-shorted",
  "regulator.diode-leaky",
  "regulator.half-open",
  "regulator.leg-open",
  "regulator.output-open",
  "regulator.wrong-unit",
];
const DIODES: readonly FaultId[] = ["regulator.diode-open", "regulator.diode-shorted"];
const PINS: readonly FaultId[] = ["wiring.leg-burnt", "wiring.cable-broken"];

/** True for a fault whose charts differ from the sound machine's. */
export function isCharted(fault: FaultId): boolean {
  return WINDINGS.includes(fault) || UNIT.includes(fault) || PINS.includes(fault);
}

/** Severity at which a fault enters charts of two. */
const TYPICAL: Partial<Record<FaultId, number>> = {
  "stator.turns-shorted": 0.3,
  "stator.winding-grounded": 0.5,
};

/** A chart's key: its faults in the order given. */
export function chartKey(faults: readonly SetFault[]): string {
  return faults.map(({ fault, at, severity, along, coupling }) => [fault, at ?? "", severity ?? "", along ?? coupling ?? ""].join("@")).join("+") || "sound";
}

/** What to draw: the faults, and whether their unit cannot hold back fully. */
export interface ChartTask {
  key: string;
  faults: SetFault[];
}

const task = (...faults: SetFault[]): ChartTask => ({ key: chartKey(faults), faults });

/** Where a fault sits on its charts: of places that are alike but for their names, the first. */
function homesOf(fault: FaultId, sheet: Sheet): (string | undefined)[] {
  if (!DEFECTS[fault].at) return [undefined];
  return atHome(placesOf(fault, sheet), familyOf(sheet.family), leadsOf(sheet));
}

/** Where along its winding a fault is charted, or how closely coupled. */
function seatsOf(fault: FaultId): Pick<SetFault, "along" | "coupling">[] {
  if (fault === "stator.winding-grounded") return ALONG.map((along) => ({ along }));
  return DEFECTS[fault].coupled ? COUPLINGS.map((coupling) => ({ coupling })) : [{}];
}

/** A fault with its severity's charted grades, at each of its homes. */
function gradesOf(fault: FaultId, sheet: Sheet): SetFault[] {
  if (unfitReason(fault, sheet)) return [];
  const grades = GRADES[fault] ?? [undefined];
  const seats = seatsOf(fault);
  return homesOf(fault, sheet).flatMap((at) =>
    grades.flatMap((severity) =>
      seats.map((seat) => ({
        fault,
        ...(at === undefined ? {} : { at }),
        ...(severity === undefined ? {} : { severity }),
        ...seat,
      })),
    ),
  );
}

/** The faults of plug, cable or winding as they enter a chart of two, at their homes. */
function typicalsOf(fault: FaultId, sheet: Sheet): SetFault[] {
  const wanted = fault === "wiring.leg-burnt" ? PINS_OF_TWO : [TYPICAL[fault]];
  return gradesOf(fault, sheet).filter(
    ({ severity, along = ALONG[1], coupling = COUPLING.closely }) => wanted.includes(severity) && along === ALONG[1] && coupling === COUPLING.closely,
  );
}

/** Resistances at which a burnt pin enters a chart of two: one that leads, and one that does not. */
const PINS_OF_TWO: readonly (number | undefined)[] = [1, 1e8];

/** The fault of plug, cable or winding that stands on charts of two for one at a place at home. */
export function typicalOf({ fault, at, severity = 0 }: SetFault, sheet: Sheet): SetFault | undefined {
  const drawn = typicalsOf(PINS.includes(fault) ? "wiring.leg-burnt" : fault, sheet).filter((typical) => typical.at === at);
  return drawn.length > 1 ? drawn[severity > PARTED_OHMS ? 1 : 0] : drawn[0];
}

/** Every chart of a machine: the sound one, each fault by itself, and what travels with a diode in one of its seats. */
export function tasksOf(sheet: Sheet): ChartTask[] {
  const family = familyOf(sheet.family);
  const leads = leadsOf(sheet);
  const ways = new Set(family.ways(leads));
  const singles = [...WINDINGS, "wiring.leg-burnt" as const, ...UNIT].flatMap((fault) => gradesOf(fault, sheet).map((set) => task(set)));
  const chips = gradesOf("regulator.diode-leaky", sheet).flatMap((leak) => {
    const { half, lead } = endsOf(leak.at ?? "");
    const below = wayAt(lead, "lower");
    return half === "upper" && ways.has(below) ? [task(leak, { ...leak, at: below })] : [];
  });
  const seats = [...new Set(leads.map((lead) => family.secondSeat(lead, leads)))];
  const seated = seats.flatMap((lead) => HALVES.map((half) => wayAt(lead, half)).filter((way) => ways.has(way)));
  const others = [
    ...WINDINGS.filter((fault) => TOGETHER.some(({ first, second }) => first === fault && DIODES.includes(second))),
    "wiring.leg-burnt" as const,
  ].flatMap((fault) => typicalsOf(fault, sheet));
  const pairs = others.flatMap((other) => DIODES.flatMap((fault) => seated.map((at) => task(other, { fault, at }))));
  const twos = family
    .twoWays(leads)
    .filter(([first]) => atHome([first], family, leads).length > 0)
    .map((both) => task(...both.map((at): SetFault => ({ fault: "regulator.diode-open", at }))));
  return [task(), ...singles, ...chips, ...pairs, ...twos];
}

/** Perfect meter: charts carry no instrument of their own. */
const PERFECT: Meter = { name: "perfect", leadOhms: 0, ohmsResolution: 0.0001, trueRms: true, diodeMaxVolts: 2.8 };
/** Temperature of everything at rest on a chart, °C. */
const CHART_C = 20;

const AT_WINDINGS: TestId[] = ["stator.resistance", "stator.toGround", "stator.diode"];
const DRAINS: TestId[] = ["drain.current", "drain.unitUnplugged"];

/** Which of a chart's readings its faults can change; a step a chart lacks reads as on the sound machine. */
function stepsRead(faults: readonly SetFault[]): { rest: TestId[]; ac: boolean } {
  const [first] = faults;
  if (!first) return { rest: [...AT_WINDINGS, "regulator.diode", ...DRAINS], ac: true };
  if (faults.length > 1 && !UNIT.includes(first.fault)) return { rest: [], ac: false };
  if (WINDINGS.includes(first.fault)) return { rest: AT_WINDINGS, ac: true };
  if (PINS.includes(first.fault)) return { rest: [], ac: true };
  return { rest: first.fault === "regulator.diode-leaky" ? ["regulator.diode", ...DRAINS] : ["regulator.diode"], ac: false };
}

/** A touch or a leak of this many ohms and more takes milliamps, which no running machine shows. */
const FAINT_OHMS = 1000;

/** True where the curves of a generator with these faults would be the sound one's. */
function isFaint(faults: readonly SetFault[]): boolean {
  const [first, ...more] = faults;
  if (!first) return false;
  if (first.fault === "regulator.diode-leaky") return true;
  return more.length === 0 && first.fault === "stator.winding-grounded" && (first.severity ?? 0) >= FAINT_OHMS;
}

/** True where a winding rests while the lights are off. */
export function switchesOff(sheet: Sheet): boolean {
  return familyOf(sheet.family).switchedLeads(leadsOf(sheet)).length > 0;
}

/** Draws one chart from the machine's circuit. */
export function drawChart(sheet: Sheet, { faults }: ChartTask): Chart {
  const holds = faults.some(({ fault }) => fault === "regulator.diode-shorted");
  const { rest, ac } = stepsRead(faults);
  const condition = conditionOf(faults, { ambientC: CHART_C, warmC: CHART_C });
  const seen: Chart["seen"] = {};
  for (const id of rest) for (const step of stepsOf(testOf(id), sheet)) seen[stepKey(step)] = simulateStep(sheet, condition, step, PERFECT).value;
  if (ac) {
    for (const speed of ["idle", "test"] as const) {
      const volts = unloadedVolts(sheet, faults, speed);
      acPairsOf(sheet).forEach((at, i) => {
        seen[stepKey({ test: "stator.acVoltsAtUnit", at, rpm: speed === "idle" ? "idle" : sheet.testRpm })] = volts[i] as number;
      });
    }
    for (const step of stepsOf(testOf("stator.dcVolts"), sheet)) seen[stepKey(step)] = simulateStep(sheet, condition, step, PERFECT).value;
  }
  if (isFaint(faults)) return { seen };
  const off = switchesOff(sheet) ? { off: curveOf(sheet, faults, "off", holds) } : {};
  return { idle: curveOf(sheet, faults, "idle", holds), test: curveOf(sheet, faults, "test", holds), ...off, seen };
}
