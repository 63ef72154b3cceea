import { conditionOf } from "../../machine/condition";
import { DEFECTS, type SetFault } from "../../machine/defects";
import type { FaultId } from "../../machine/faults";
import type { Sheet } from "../../machine/sheet";
import type { Meter } from "../../meter/meter";
import { type TestId, testOf } from "../../procedure/catalogue";
import { simulateStep } from "../../procedure/simulate";
import { pairsOf, stepKey, stepsOf } from "../../procedure/step";
import type { ReadingValue } from "../../units";
import { type Curve, curveOf, unloadedVolts } from "./curve";
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
  /** By step; legs rotated so that the fault sits where the chart's key says. */
  seen: Record<string, ReadingValue>;
}

/** The charts of one machine by their keys. */
export type Atlas = Record<string, Chart>;

/** Severities at which a fault's charts are drawn; what lies between is interpolated. Ohms are spaced by decades. */
export const GRADES: Partial<Record<FaultId, readonly number[]>> = {
  "stator.turns-shorted": [0.04, 0.15, 0.3, 0.5, 0.8],
  "stator.winding-grounded": [0.02, 0.5, 5, 80, 3000, 1e5, 1e6],
  "stator.windings-bridged": [0.02, 1, 40],
  "stator.wrong-fit": [0.45, 0.65, 0.85, 1.3, 1.8],
  "wiring.leg-burnt": [0.05, 0.3, 1, 4, 15, 60, 1e8],
  "regulator.diode-leaky": [4, 15, 50, 150, 500, 1500, 5000],
};
/** Places along a winding at which a touch is charted. */
export const ALONG = [0.03, 0.35, 0.7, 0.98] as const;

/** Faults that change the generator's own circuit. */
const WINDINGS: readonly FaultId[] = ["stator.winding-open", "stator.turns-shorted", "stator.winding-grounded", "stator.windings-bridged", "stator.wrong-fit"];
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
  return faults.map(({ fault, at, severity, along }) => [fault, at ?? "", severity ?? "", along ?? ""].join("@")).join("+") || "sound";
}

/** What to draw: the faults, and whether their unit cannot hold back fully. */
export interface ChartTask {
  key: string;
  faults: SetFault[];
}

const task = (...faults: SetFault[]): ChartTask => ({ key: chartKey(faults), faults });

/** Where a fault sits on its charts: at the first leg, at its pair with the second, or at its diodes. */
function homesOf(fault: FaultId, sheet: Sheet): (string | undefined)[] {
  const [first = "1", second = "2"] = sheet.legs.map((leg) => leg.id);
  switch (DEFECTS[fault].at) {
    case "diode":
      return [diodeAt(first, "upper"), diodeAt(first, "lower")];
    case "half":
      return ["upper", "lower"];
    case "pair":
      return [`${first}-${second}`];
    case "leg":
      return [first];
    default:
      return [undefined];
  }
}

/** A fault with its severity's charted grades, on the first leg (or pair, or the first leg's diodes). */
function gradesOf(fault: FaultId, sheet: Sheet): SetFault[] {
  const grades = GRADES[fault] ?? [undefined];
  const places = homesOf(fault, sheet);
  const along = fault === "stator.winding-grounded" ? ALONG : [undefined];
  return places.flatMap((at) =>
    grades.flatMap((severity) =>
      along.map((share) => ({
        fault,
        ...(at === undefined ? {} : { at }),
        ...(severity === undefined ? {} : { severity }),
        ...(share === undefined ? {} : { along: share }),
      })),
    ),
  );
}

/** The fault as it enters a chart of two. */
export function typicalOf(fault: FaultId, sheet: Sheet): SetFault {
  const all = gradesOf(fault, sheet);
  const wanted = TYPICAL[fault];
  return all.find((one) => one.severity === wanted && (one.along === undefined || one.along === ALONG[1])) ?? (all[0] as SetFault);
}

/** The diode of a leg in the upper or lower half. */
export const diodeAt = (leg: string, half: "upper" | "lower"): string => (half === "upper" ? `${leg}>B+` : `B->${leg}`);

/** Every chart of a machine: the sound one, each fault by itself, and what travels with a diode, that being on the same or the next leg. */
export function tasksOf(sheet: Sheet): ChartTask[] {
  const singles = [...WINDINGS, "wiring.leg-burnt" as const, ...UNIT].flatMap((fault) => gradesOf(fault, sheet).map((set) => task(set)));
  const leaks = gradesOf("regulator.diode-leaky", sheet).filter((set) => set.at?.endsWith(">B+"));
  const chips = leaks.map((set) => task(set, { ...set, at: diodeAt(sheet.legs[0]?.id ?? "1", "lower") }));
  const [first, next] = [sheet.legs[0]?.id ?? "1", sheet.legs[1]?.id ?? "2"];
  const others = [
    ...WINDINGS.filter((fault) => TOGETHER.some(({ first, second }) => first === fault && DIODES.includes(second))).map((fault) => typicalOf(fault, sheet)),
    ...[1, 1e8].map((severity): SetFault => ({ fault: "wiring.leg-burnt", at: first, severity })),
  ];
  const pairs = others.flatMap((other) =>
    DIODES.flatMap((fault) => [first, next].flatMap((leg) => (["upper", "lower"] as const).map((half) => task(other, { fault, at: diodeAt(leg, half) })))),
  );
  const last = sheet.legs.at(-1)?.id ?? "3";
  const open = (leg: string, half: "upper" | "lower"): SetFault => ({ fault: "regulator.diode-open", at: diodeAt(leg, half) });
  const twos = [
    task(open(first, "upper"), open(next, "upper")),
    task(open(first, "lower"), open(next, "lower")),
    task(open(first, "upper"), open(next, "lower")),
    task(open(first, "upper"), open(last, "lower")),
  ];
  return [task(), ...singles, ...chips, ...pairs, ...twos];
}

/** Perfect meter: charts carry no instrument of their own. */
const PERFECT: Meter = { name: "perfect", leadOhms: 0, ohmsResolution: 0.0001, trueRms: true, diodeMaxVolts: 2.8 };
/** Temperature of everything at rest on a chart, °C. */
const CHART_C = 20;

/** Which of a chart's readings its faults can change; a step a chart lacks reads as on the sound machine. */
function stepsRead(faults: readonly SetFault[]): { rest: TestId[]; ac: boolean } {
  const [first] = faults;
  if (!first) return { rest: ["stator.resistance", "stator.toGround", "regulator.diode", "drain.current", "drain.unitUnplugged"], ac: true };
  if (faults.length > 1 && !UNIT.includes(first.fault)) return { rest: [], ac: false };
  if (WINDINGS.includes(first.fault)) return { rest: ["stator.resistance", "stator.toGround"], ac: true };
  if (PINS.includes(first.fault)) return { rest: [], ac: true };
  return { rest: first.fault === "regulator.diode-leaky" ? ["regulator.diode", "drain.current", "drain.unitUnplugged"] : ["regulator.diode"], ac: false };
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
      pairsOf(sheet.legs).forEach((at, i) => {
        seen[stepKey({ test: "stator.acVoltsAtUnit", at, rpm: speed === "idle" ? "idle" : sheet.testRpm })] = volts[i] as number;
      });
    }
  }
  return isFaint(faults) ? { seen } : { idle: curveOf(sheet, faults, "idle", holds), test: curveOf(sheet, faults, "test", holds), seen };
}
