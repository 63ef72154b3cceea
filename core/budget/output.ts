import type { Netlist } from "../circuit/netlist";
import { steady } from "../circuit/steady";
import { circuitOf } from "../machine/circuit";
import { gatesWhile } from "../machine/families/family";
import { familyOf, unitOf } from "../machine/families/registry";
import type { MachineState } from "../machine/state";

/** What a machine can make at one speed, and what it uses. */
export interface OutputPoint {
  rpm: number;
  /** Most amps out of the unit at charging volts, the regulator holding nothing back. */
  amps: number;
}

/** Volts at which the output is stated, for 12 V: a battery nearly charged. */
const STATED_VOLTS = 13.8;
/** A set point that is never reached. */
const FREE_VOLTS = 100;
/** Settling block without a control, s. */
const BLOCK_SECONDS = 0.003;

/** Speeds of an output curve: from idle to the sheet's test rpm and a fifth beyond, evenly. */
export function curveSpeeds({ sheet }: Pick<MachineState, "sheet">, points: number): number[] {
  const top = Math.max(sheet.testRpm, sheet.idleRpm * 2) * 1.2;
  return Array.from({ length: points }, (_, i) => Math.round((sheet.idleRpm + ((top - sheet.idleRpm) * i) / (points - 1)) / 10) * 10);
}

/**
 * Output against speed, from the circuit: the unit with its control out of the way into stiff charging volts, lights on, because some
 * machines have a winding that comes in with them.
 * @returns one point a speed, in the order given; amps never below 0
 */
export function outputCurve(state: MachineState, speeds: readonly number[]): OutputPoint[] {
  // What limits the amps of a generator stays: it would burn without.
  const freed = familyOf(state.family).output ? { setVolts: FREE_VOLTS } : { gates: gatesWhile(unitOf(state.family), "giving") };
  const open: MachineState = { ...state, unit: { ...state.unit, ...freed } };
  const stiff = (netlist: Netlist): Netlist => ({
    ...netlist,
    elements: netlist.elements.map((element) =>
      element.kind === "battery"
        ? { ...element, cell: { openVolts: STATED_VOLTS * (state.sheet.systemVolts / 12), ohms: 0.001, polarOhms: 0.0001, acceptAmps: 1e6, acceptVolts: 1e-3 } }
        : element,
    ),
  });
  return speeds.map((rpm) => {
    const netlist = stiff(circuitOf(open, { engine: "running", key: "on", rpm, loads: "normal", unplug: [], pulled: [] }));
    const run = steady(netlist, { probes: [{ amps: "outputWire" }], judge: ["B+", "battery-"], blockSeconds: BLOCK_SECONDS });
    return { rpm, amps: Math.max(0, run.mean[0] as number) };
  });
}

/**
 * Speed at which output meets a load, by straight lines between the points.
 * @returns rpm; the first speed when it is met there already; undefined when it is never met
 */
export function breakEvenRpm(curve: readonly OutputPoint[], loadAmps: number): number | undefined {
  const above = curve.findIndex(({ amps }) => amps >= loadAmps);
  if (above < 0) return undefined;
  const [high, low] = [curve[above] as OutputPoint, curve[above - 1]];
  if (!low) return high.rpm;
  return low.rpm + ((high.rpm - low.rpm) * (loadAmps - low.amps)) / (high.amps - low.amps);
}

/** Amps a machine makes at a speed, by straight lines between the points; flat beyond them. */
export function ampsAt(curve: readonly OutputPoint[], rpm: number): number {
  const above = curve.findIndex((point) => point.rpm >= rpm);
  if (above === 0) return (curve[0] as OutputPoint).amps;
  if (above < 0) return (curve.at(-1) as OutputPoint).amps;
  const [low, high] = [curve[above - 1] as OutputPoint, curve[above] as OutputPoint];
  return low.amps + ((high.amps - low.amps) * (rpm - low.rpm)) / (high.rpm - low.rpm);
}
