import { COUPLING } from "./coupling";
import { DEFECTS, type SetFault } from "./defects";
import { leadsOf } from "./families/family";
import { placesOf, windingsOf } from "./places";
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
  const [from = "", to = ""] = at.split("-");
  const windings = windingsOf(sheet);
  const place = (id: string, among: readonly string[]): number => Math.max(0, among.indexOf(id));
  apply(state, {
    at,
    leg: place(from, leadsOf(sheet)),
    winding: place(from, windings),
    other: place(to, windings),
    severity: set.severity ?? severity.typical,
    along: set.along ?? 0.3,
    coupling: set.coupling ?? COUPLING.closely,
  });
}
