import { DEFECTS, type SetFault } from "./defects";
import type { FaultId } from "./faults";
import type { Sheet } from "./sheet";
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
    case "half":
      return ["upper", "lower"];
    case "fuse":
      return sheet.fuses.map((fuse) => fuse.id);
    default:
      return [];
  }
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
    diode: at === "upper" || at.endsWith(">B+") ? "upper" : "lower",
    fuse: DEFECTS[set.fault].at === "fuse" ? at : "",
  });
}
