import type { ElementOf } from "./netlist";
import { excitedVolts, NetlistProblem } from "./netlist";
import type { Plan } from "./plan";

/**
 * The fields of a running circuit: the current of each follows the volts that its chopper lets through with a lag, and the windings that it
 * excites have the EMF which goes with it. The lag is far shorter than a real field's, which is of no moment: a circuit is run until it
 * stands still, and at the speed of its ripple no field moves.
 */
export class Fields {
  /** Current of each field, A. */
  readonly amps: Float64Array;
  readonly #plan: Plan;
  /** By chopper: the number of the control that turns it, −1 for none. */
  readonly #controls: Int32Array;
  /** By winding: its field's number, −1 for one that magnets excite. */
  readonly #excited: readonly number[];

  /** @throws {NetlistProblem} for a gate that names no control */
  constructor(plan: Plan) {
    this.#plan = plan;
    this.#excited = plan.windings.map(({ field }) => field);
    this.#controls = Int32Array.from(plan.fields, ({ element: { id, gate } }) => {
      if (typeof gate !== "object") return -1;
      const at = plan.controls.findIndex(({ element }) => element.id === gate.control);
      if (at < 0) throw new NetlistProblem(`The gate of ${id} names the control ${gate.control}, which is not there.`);
      return at;
    });
    // It starts as if it had been running: what it cannot keep up it loses, and nothing waits for the little that is left in the iron.
    this.amps = Float64Array.from(plan.fields, (_, k) => {
      const excitation = plan.windings.find(({ field }) => field === k)?.element.excitation;
      return excitation ? (Math.sign(excitation.residualVolts) || 1) * excitation.kneeAmps : 0;
    });
  }

  /** The share of its volts that a field gets. @param shares what each control lets through */
  share(k: number, shares: ArrayLike<number>): number {
    const { gate, least } = (this.#plan.fields[k] as Plan["fields"][number]).element;
    const control = this.#controls[k] as number;
    return Math.max(least, gate === "on" ? 1 : gate === "off" ? 0 : (shares[control] as number));
  }

  /**
   * Moves one field's current on by a step: L·di/dt = share·v − R·i, implicit in the current and in the volts that it itself pulls down.
   * @param volts seen between feed and return while `drawn` A were taken there
   * @param sourceOhms resistance of the circuit at these two points
   */
  move(k: number, share: number, volts: number, drawn: number, sourceOhms: number, seconds: number): void {
    const { ohms } = this.#plan.fields[k] as Plan["fields"][number];
    const by = seconds / LAG_SECONDS;
    const open = volts + sourceOhms * drawn;
    this.amps[k] = ((this.amps[k] as number) + (by * share * open) / ohms) / (1 + by * (1 + (share * share * sourceOhms) / ohms));
  }

  /** Writes the peak of every excited winding's EMF, V. */
  excite(peaks: Float64Array): void {
    this.#excited.forEach((field, i) => {
      if (field < 0) return;
      const { excitation } = (this.#plan.windings[i] as Plan["windings"][number]).element;
      if (excitation) peaks[i] = excitedVolts(excitation, this.amps[field] as number);
    });
  }
}

/** Lag of a field's current behind its volts, s. */
const LAG_SECONDS = 0.006;

/** What a field's control lets through moves with what it misses: a share a volt-second, a share a volt; volts a missed ampere counts as. */
const GAIN = { integral: 15, proportional: 0.4, voltsPerAmp: 0.1 } as const;

/**
 * One step of a field's control. @param sensed the volts it feels, filtered @param amps current of the winding it limits, out of it
 * @returns the integral, and the share that it lets through, both 0 to 1
 */
export function controlField(
  { setVolts, most }: Pick<ElementOf<"fieldControl">, "setVolts" | "most">,
  sensed: number,
  amps: number,
  integral: number,
  seconds: number,
): { integral: number; share: number } {
  const short = setVolts - Math.abs(sensed);
  const miss = most ? Math.min(short, GAIN.voltsPerAmp * (most.amps - amps)) : short;
  const within = (share: number): number => Math.min(1, Math.max(0, share));
  const next = within(integral + GAIN.integral * miss * seconds);
  return { integral: next, share: within(next + GAIN.proportional * miss) };
}
