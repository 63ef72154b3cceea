import { z } from "zod";
import { DEFECTS, type SetFault } from "./defects";
import { FAULTS, type FaultId } from "./faults";
import type { FieldProblem, Sheet } from "./sheet";
import { problemsOf } from "./sheet";
import { healthyState, type MachineState } from "./state";

/** What ails a machine and how it stands in the world: faults, heat, charge, and the spread of sound parts. */
export interface Condition {
  faults: readonly SetFault[];
  /** Battery's state of charge, 0 to 1, where no fault says otherwise. */
  charge: number;
  ambientC: number;
  /** Winding temperature while the engine is stopped, and while it runs warm. */
  coldC: number;
  warmC: number;
  /** Factors and offsets of this one machine against its sheet. */
  spread: { emf: number; ohms: number; henries: number; setVolts: number; loads: number; batteryOhms: number };
}

const WARM_WINDING_C = 80;
export const NO_SPREAD: Condition["spread"] = { emf: 1, ohms: 1, henries: 1, setVolts: 0, loads: 1, batteryOhms: 1 };

/** A sound machine on a mild day, or one with the faults given. */
export function conditionOf(faults: readonly SetFault[] = [], more: Partial<Condition> = {}): Condition {
  const ambientC = more.ambientC ?? 20;
  return { faults, charge: 0.95, ambientC, coldC: ambientC, warmC: Math.max(WARM_WINDING_C, ambientC), spread: NO_SPREAD, ...more };
}

const setFaultSchema = z.strictObject({
  fault: z.enum(FAULTS.map((fault) => fault.id) as [FaultId, ...FaultId[]], {
    error: (issue) => `“${String(issue.input)}” is not a fault this edition knows (${FAULTS.map((fault) => fault.id).join(", ")})`,
  }),
  at: z.string().optional(),
  severity: z.number({ error: "must be a number" }).optional(),
  along: z.number({ error: "must be a number" }).min(0, "must be 0 or more").max(1, "must be 1 or less").optional(),
});

/** Where a fault can sit on a machine, by the name its `at` takes; empty for faults that have no place. */
export function placesOf(fault: FaultId, sheet: Sheet): string[] {
  const legs = sheet.legs.map((leg) => leg.id);
  switch (DEFECTS[fault].at) {
    case "leg":
      return legs;
    case "pair":
      return legs.map((leg, i) => `${leg}-${legs[(i + 1) % legs.length]}`);
    case "diode":
      return [...legs.map((leg) => `${leg}>B+`), ...legs.map((leg) => `B->${leg}`)];
    case "fuse":
      return sheet.fuses.map((fuse) => fuse.id);
    default:
      return [];
  }
}

/** Reads faults as typed or posted against a machine: each is named, fits the machine, and has figures within its reach. */
export function parseFaults(data: unknown, sheet: Sheet): { ok: true; faults: SetFault[] } | { ok: false; problems: FieldProblem[] } {
  const parsed = z.array(setFaultSchema).max(12, "may hold 12 faults at most").safeParse(data, { reportInput: true });
  if (!parsed.success) return { ok: false, problems: problemsOf(parsed.error).map(({ field, error }) => ({ field: `faults.${field}`, error })) };
  const problems = parsed.data.flatMap((set, i) => faultProblems(set, sheet).map(({ field, error }) => ({ field: `faults.${i}.${field}`, error })));
  return problems.length > 0 ? { ok: false, problems } : { ok: true, faults: parsed.data };
}

function faultProblems(set: SetFault, sheet: Sheet): FieldProblem[] {
  const { at, severity: reach, along, unfit } = DEFECTS[set.fault];
  const problems: FieldProblem[] = [];
  const why = unfit?.(sheet);
  if (why) problems.push({ field: "fault", error: `${set.fault} cannot be on the ${sheet.model}: ${why}` });
  const places = placesOf(set.fault, sheet);
  if (set.at !== undefined && !places.includes(set.at)) {
    problems.push({ field: "at", error: places.length > 0 ? `must be one of ${places.join(", ")}` : `${set.fault} has no place` });
  }
  if (set.severity !== undefined && !(set.severity >= reach.low && set.severity <= reach.high)) {
    problems.push({ field: "severity", error: `${reach.what} must be ${reach.low} to ${reach.high} ${reach.unit}` });
  }
  if (set.along !== undefined && !along) problems.push({ field: "along", error: `${set.fault} (${at ?? "no place"}) is not along a winding` });
  return problems;
}

/** The electrical state of a machine under a condition. @param running whether the windings are at their warm temperature */
export function stateOf(sheet: Sheet, condition: Condition, running: boolean): MachineState {
  const state = healthyState(sheet);
  const { spread } = condition;
  state.windingC = running ? condition.warmC : condition.coldC;
  state.ambientC = condition.ambientC;
  state.battery.charge = condition.charge;
  state.battery.celsius = condition.ambientC;
  state.battery.resistance *= spread.batteryOhms;
  state.unit.setVolts += spread.setVolts;
  for (const winding of state.windings) {
    winding.voltsPerRpm *= spread.emf;
    winding.ohms *= spread.ohms;
    winding.henries *= spread.henries;
  }
  for (const loads of ["off", "normal", "all"] as const) state.loadAmps[loads] *= spread.loads;
  for (const set of condition.faults) applyFault(state, set);
  return state;
}

function applyFault(state: MachineState, set: SetFault): void {
  const { sheet } = state;
  const { severity, apply } = DEFECTS[set.fault];
  const at = set.at ?? placesOf(set.fault, sheet)[0] ?? "";
  const [from = "", to = ""] = at.split(/[->]/).length === 2 && !at.includes("B") ? at.split("-") : [at.replace(/^B->|>B\+$/g, ""), ""];
  const place = (id: string): number =>
    Math.max(
      0,
      sheet.legs.findIndex((leg) => leg.id === id),
    );
  apply(state, {
    leg: place(from),
    other: place(to),
    severity: set.severity ?? severity.typical,
    along: set.along ?? 0.3,
    diode: at.endsWith(">B+") ? "upper" : "lower",
    fuse: DEFECTS[set.fault].at === "fuse" ? at : "",
  });
}
