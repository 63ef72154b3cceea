import type { ElementOf, Excitation } from "../circuit/netlist";
import { excitedVolts } from "../circuit/netlist";
import type { Standing } from "./standing";
import type { Field, MachineState } from "./state";

/** What a field does to the windings that it excites, and the belt that turns them. */

/** Volts at which a field is rated, for 12 V. */
const RATED_VOLTS = 13.5;

/** Current of a sound field at its rated volts, A: the knee of its iron lies there. */
function kneeAmpsOf({ field, sheet }: Pick<MachineState, "field" | "sheet">): number {
  return (RATED_VOLTS * (sheet.systemVolts / 12)) / (field as Field).ratedOhms;
}

/** How one winding is excited, its EMF at full field given. */
export function excitationOf(state: MachineState, fullVolts: number): Excitation {
  const { turns, residual } = state.field as Field;
  return { field: "field", fullVolts, kneeAmps: kneeAmpsOf(state), turns, residualVolts: residual * Math.abs(fullVolts) };
}

/** EMF at a field current against that at the rated one; with what is left in the iron, so it may be negative. */
export function excitedShare(state: MachineState, amps: number): number {
  return excitedVolts(excitationOf(state, 1), amps);
}

/** The share of its volts that a field gets whatever its regulator does, by a touch on the regulator's side of its middle. */
export function leastShareOf({ ohms, touch }: Field): number {
  if (!touch) return 0;
  const fed = (1 - touch.along) * ohms;
  return fed / (fed + touch.ohms);
}

/** The field's winding between two nodes: what touches the engine cuts it there. */
export function fieldElements({ ohms, touch }: Field, a: string, b: string): (ElementOf<"field"> | ElementOf<"resistor">)[] {
  if (!touch) return [{ kind: "field", id: "field", a, b, ohms }];
  return [
    { kind: "field", id: "field", a, b: "touch:field", ohms: (1 - touch.along) * ohms },
    { kind: "resistor", id: "field:rest", a: "touch:field", b, ohms: Math.max(0.01, touch.along * ohms) },
    { kind: "resistor", id: "touch:field", a: "touch:field", b: "engine", ohms: touch.ohms },
  ];
}

/** How much of a slack belt's slip there is, by what the generator is asked for. */
const SLIPS = { off: 0.35, normal: 0.65, all: 1 } as const;

/** The share of the engine's speed that reaches magnets, rotor or armature: a flywheel's taper slips always, a slack belt by its load. */
export function gripOf({ grip, beltSlip }: Pick<MachineState, "grip" | "beltSlip">, loads: Standing["loads"]): number {
  return grip * (beltSlip >= 1 ? 0 : 1 - beltSlip * SLIPS[loads]);
}

/** Current of a field that is fed from the key in full, A, at its rated volts. @param past its return goes past the regulator to the engine */
export function fedAmps({ field, sheet, unit }: Pick<MachineState, "field" | "sheet" | "unit">, past = false): number {
  const { ohms, contactOhms, feedOhms } = field as Field;
  return (RATED_VOLTS * (sheet.systemVolts / 12)) / (ohms + contactOhms + feedOhms + (past ? 0 : unit.innerGroundOhms));
}

/** Volts at which charts are drawn of a field that the key feeds, for 12 V. */
export const FEED_VOLTS = RATED_VOLTS;
