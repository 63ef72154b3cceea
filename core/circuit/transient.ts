import { acceptAmps } from "./cell";
import { controlField, Fields } from "./fields";
import { type Netlist, NetlistProblem, type Probe } from "./netlist";
import { type Plan, planOf, type Transfer, transferOf, windingConductance } from "./plan";
import { type Live, readerOf } from "./readers";

/**
 * The circuit in the time domain at a fixed step: trapezoidal rule, and wherever a rectifier starts or stops the step is
 * taken back and replaced by two backward-Euler half-steps (critical damping at switching instants, after Marti & Lin,
 * IEEE Trans. Power Systems 4(2), 1989). Rectifiers are their chords; a step therefore is a small matrix times a vector.
 */
interface TransientOptions {
  /** Steps an electrical cycle, a multiple of three so that the phases fall on steps; 198 unless told otherwise. */
  stepsPerCycle?: number;
  /** Capacitance of a battery's overpotential, F: small settles fast, the real ripple wants 0.2. */
  overpotentialFarads?: number;
  probes: readonly Probe[];
}

/** Slowest electrical frequency simulated, Hz: a machine at rest is stepped as if at this. */
const SLOWEST_HERTZ = 5;
const STEPS_PER_CYCLE = 198;
export const SETTLED_FARADS = 0.2;
/** Rounds in which every violating rectifier is flipped at once; after them only the worst, so that no pattern can chase its tail. */
const FLIP_ALL_ROUNDS = 6;
const MOST_ROUNDS = 48;
/** Patterns kept at once; a machine visits a few dozen. */
const MOST_PATTERNS = 512;
/** Phase control: integral gain in degrees a volt-second, its reach in degrees, proportional gain in degrees a volt, and its filter. */
const CONTROL = { integral: 20_000, reach: 200, proportional: 60, filterSeconds: 0.002 };
/** A fuse's melting integral in A²s for its rated amps squared (blade fuses, order of magnitude). */
const MELTING = 2;

export class Transient {
  readonly netlist: Netlist;
  /** One step, s. */
  readonly step: number;
  readonly stepsPerCycle: number;
  /** Steps whose rectifiers found no consistent pattern. */
  unsettled = 0;
  /** Simulated time, s. */
  time = 0;
  /** Ids of the fuses that have melted. */
  readonly melted = new Set<string>();
  /** Capacitance of the overpotential, F; may be changed between runs. */
  farads: number;

  readonly #plan: Plan;
  /** Figures that every step needs, taken out of the plan's objects. */
  readonly #ohms: Float64Array;
  readonly #peak: Float64Array;
  /** Windings behind a commutator. */
  readonly #steady: readonly boolean[];
  readonly #knee: Float64Array;
  readonly #free: Uint8Array;
  /** Watched pairs that only probes asked for; they stand behind all others. */
  #extra = 0;
  readonly #siemens: Float64Array;
  readonly #reactance: Float64Array;
  readonly #watched: { a: number; b: number }[];
  readonly #patterns = new Map<number, Transfer>();
  #mask = 0;
  #transfer: Transfer;
  #eulerNext = true;
  #cycleStep = 0;
  readonly #sine: Float64Array;
  /** Phase of each winding in half-steps. */
  readonly #phase: Int32Array;
  readonly #amps: Float64Array;
  readonly #emf: Float64Array;
  readonly #emfNext: Float64Array;
  readonly #input: Float64Array;
  readonly #history: Float64Array;
  #seen: Float64Array;
  #spare: Float64Array;
  readonly #eta: Float64Array;
  readonly #sensed: Float64Array;
  readonly #integral: Float64Array;
  /** What each control asks for: the delay of its gates in degrees, or the share of its field's volts. */
  readonly #delay: Float64Array;
  readonly #angle: Float64Array;
  readonly #gated: Uint8Array;
  readonly #control: Int32Array;
  /** The rectifiers that a control fires. */
  readonly #controlled: Int32Array;
  readonly #fields: Fields;
  readonly #heat: Float64Array;
  readonly #blown: boolean[];
  readonly #readers: ((seen: Float64Array) => number)[];

  constructor(netlist: Netlist, options: TransientOptions) {
    this.netlist = netlist;
    this.stepsPerCycle = options.stepsPerCycle ?? STEPS_PER_CYCLE;
    this.farads = options.overpotentialFarads ?? SETTLED_FARADS;
    this.step = 1 / (Math.max(SLOWEST_HERTZ, netlist.hertz) * this.stepsPerCycle);
    const plan = planOf(netlist);
    this.#plan = plan;
    if (plan.rectifiers.length > 30) throw new NetlistProblem(`${plan.rectifiers.length} rectifiers are more than one pattern holds (30).`);
    const conductance = windingConductance(plan, this.step);
    this.#siemens = conductance.siemens;
    this.#reactance = conductance.reactance;
    this.#ohms = Float64Array.from(plan.windings, ({ element }) => element.ohms);
    this.#peak = Float64Array.from(plan.windings, ({ element }) => element.peakVolts);
    this.#steady = plan.windings.map(({ element }) => element.commutated === true);
    this.#fields = new Fields(plan);
    this.#fields.excite(this.#peak);
    this.#knee = Float64Array.from(plan.rectifiers, ({ volts }) => volts);
    this.#free = Uint8Array.from(plan.rectifiers, ({ free }) => (free ? 1 : 0));
    const count = plan.windings.length;
    const half = 2 * this.stepsPerCycle;
    // At rest there is no EMF, whatever the windings' peaks say.
    this.#sine = Float64Array.from({ length: half }, (_, i) => (netlist.hertz > 0 ? Math.sin((2 * Math.PI * i) / half) : 0));
    this.#phase = Int32Array.from(plan.windings, ({ element }) => ((Math.round((element.phaseDegrees / 360) * half) % half) + half) % half);
    this.#amps = new Float64Array(count);
    this.#emf = new Float64Array(count);
    this.#emfNext = new Float64Array(count);
    this.#history = new Float64Array(count);
    this.#input = new Float64Array(count + plan.batteries.length + plan.fields.length);
    this.#eta = new Float64Array(plan.batteries.length);
    this.#sensed = Float64Array.from(plan.controls, ({ element }) => element.setVolts);
    this.#integral = Float64Array.from(plan.controls, ({ element }) => (element.kind === "fieldControl" ? 1 : element.law === "shunt" ? CONTROL.reach : 0));
    this.#delay = Float64Array.from(this.#integral);
    this.#angle = new Float64Array(plan.rectifiers.length);
    this.#gated = new Uint8Array(plan.rectifiers.length);
    this.#control = Int32Array.from(plan.rectifiers, ({ gate }) =>
      typeof gate === "object" ? plan.controls.findIndex(({ element }) => element.id === gate.control) : -1,
    );
    this.#controlled = Int32Array.from(plan.rectifiers.flatMap((_, i) => ((this.#control[i] as number) < 0 ? [] : [i])));
    this.#heat = new Float64Array(plan.fuses.length);
    this.#blown = plan.fuses.map(() => false);
    this.#watched = [...plan.rectifiers, ...plan.windings, ...plan.batteries, ...plan.controls, ...plan.fields, ...plan.fuses].map(({ a, b }) => ({ a, b }));
    const live: Live = {
      plan,
      amps: this.#amps,
      eta: this.#eta,
      fieldAmps: this.#fields.amps,
      conducts: (i) => (this.#mask & (1 << i)) !== 0,
      melted: this.melted,
      watch: (a, b) => this.#watch(a, b),
    };
    this.#readers = options.probes.map((probe) => readerOf(probe, netlist, live));
    this.#seen = new Float64Array(this.#watched.length);
    this.#spare = new Float64Array(this.#watched.length);
    this.#transfer = this.#pattern(0);
    this.#emfAt(0, this.#emf);
  }

  /** What probe `index` shows now. */
  read(index: number): number {
    return (this.#readers[index] as (seen: Float64Array) => number)(this.#seen);
  }

  /** Goes on where another run of much the same circuit stands: currents, charge, controls, molten fuses, by element id. */
  adopt(other: Transient): void {
    const carry = <T extends { element: { id: string } }>(mine: readonly T[], theirs: readonly T[], copy: (to: number, from: number) => void): void => {
      mine.forEach(({ element }, to) => {
        const from = theirs.findIndex((source) => source.element.id === element.id);
        if (from >= 0) copy(to, from);
      });
    };
    carry(this.#plan.windings, other.#plan.windings, (to, from) => {
      this.#amps[to] = other.#amps[from] as number;
    });
    carry(this.#plan.batteries, other.#plan.batteries, (to, from) => {
      this.#eta[to] = other.#eta[from] as number;
    });
    carry(this.#plan.controls, other.#plan.controls, (to, from) => {
      this.#sensed[to] = other.#sensed[from] as number;
      this.#integral[to] = other.#integral[from] as number;
      this.#delay[to] = other.#delay[from] as number;
    });
    carry(this.#plan.fields, other.#plan.fields, (to, from) => {
      this.#fields.amps[to] = other.#fields.amps[from] as number;
    });
    this.#fields.excite(this.#peak);
    carry(this.#plan.fuses, other.#plan.fuses, (to, from) => {
      this.#heat[to] = other.#heat[from] as number;
      if (other.#blown[from]) this.#blow(to);
    });
    if (this.#knee.length === other.#knee.length) {
      this.#angle.set(other.#angle);
      this.#mask = other.#mask;
      this.#transfer = this.#pattern(this.#mask);
    }
    this.time = other.time;
    this.#cycleStep = Math.round((other.#cycleStep / other.stepsPerCycle) * this.stepsPerCycle) % this.stepsPerCycle;
    this.#emfAt(2 * this.#cycleStep, this.#emf);
    this.#eulerNext = true;
  }

  /**
   * Runs some steps. Returns the mean of every probe; with `record`, its samples too (one array a probe, at least `steps` long).
   */
  run(steps: number, record?: readonly Float64Array[]): Float64Array {
    const sums = new Float64Array(this.#readers.length);
    for (let i = 0; i < steps; i++) {
      this.#advance();
      for (let k = 0; k < sums.length; k++) {
        const value = (this.#readers[k] as (seen: Float64Array) => number)(this.#seen);
        sums[k] = (sums[k] as number) + value;
        const track = record?.[k];
        if (track) track[i] = value;
      }
    }
    for (let k = 0; k < sums.length; k++) sums[k] = (sums[k] as number) / steps;
    return sums;
  }

  /** Runs one cycle. @returns the largest current of any rectifier that conducted in it, A; 0 when none did */
  peakAmps(): number {
    let peak = 0;
    for (let i = 0; i < this.stepsPerCycle; i++) {
      this.#advance();
      this.#plan.rectifiers.forEach(({ siemens, volts }, k) => {
        if (this.#mask & (1 << k)) peak = Math.max(peak, siemens * ((this.#seen[k] as number) - volts));
      });
    }
    return peak;
  }

  /** Melts the fuses that carry more than they can for long, given their mean square current. @returns the ids of those that melted */
  meltOverloaded(meanSquare: (id: string) => number, times: number): string[] {
    const found: string[] = [];
    this.#plan.fuses.forEach(({ element }, i) => {
      if (this.#blown[i] || meanSquare(element.id) <= (times * element.amps) ** 2) return;
      this.#blow(i);
      found.push(element.id);
    });
    return found;
  }

  #advance(): void {
    this.#fireGates();
    const next = (this.#cycleStep + 1) % this.stepsPerCycle;
    let done = false;
    if (!this.#eulerNext) {
      this.#emfAt(2 * next, this.#emfNext);
      this.#trapezoidalInput();
      this.#look(this.#transfer, this.#spare);
      if (this.#worst(this.#mask, this.#spare) < 0) {
        this.#commit(this.step);
        done = true;
      }
    }
    if (!done) {
      this.#eulerNext = false;
      this.#halfStep(2 * this.#cycleStep + 1);
      if (this.#halfStep(2 * next)) this.#eulerNext = true;
    }
    this.#cycleStep = next;
    this.time += this.step;
    this.#controls();
    if (this.#plan.fields.length > 0) this.#moveFields();
    if (this.#blown.length > 0) this.#heatFuses();
  }

  /** One backward-Euler half-step. @returns true when the pattern of conducting rectifiers changed */
  #halfStep(at: number): boolean {
    this.#emfAt(at, this.#emfNext);
    const history = this.#history;
    const next = this.#emfNext;
    const amps = this.#amps;
    const reactance = this.#reactance;
    const n = history.length;
    for (let i = 0, row = 0; i < n; i++) {
      let sum = -(next[i] as number);
      for (let j = 0; j < n; j++, row++) sum += (reactance[row] as number) * (amps[j] as number);
      history[i] = sum;
    }
    this.#fillInput();
    const before = this.#mask;
    this.#settlePattern();
    this.#commit(this.step / 2);
    return this.#mask !== before;
  }

  #trapezoidalInput(): void {
    const history = this.#history;
    const seen = this.#seen;
    const emf = this.#emf;
    const next = this.#emfNext;
    const amps = this.#amps;
    const reactance = this.#reactance;
    const ohms = this.#ohms;
    const first = this.#knee.length;
    const n = history.length;
    for (let i = 0, at = 0; i < n; i++) {
      let sum = (seen[first + i] as number) - (emf[i] as number) - (next[i] as number) - (ohms[i] as number) * (amps[i] as number);
      for (let j = 0; j < n; j++, at++) sum += (reactance[at] as number) * (amps[j] as number);
      history[i] = sum;
    }
    this.#fillInput();
  }

  /** The currents that windings and batteries inject at this step. */
  #fillInput(): void {
    const history = this.#history;
    const input = this.#input;
    const siemens = this.#siemens;
    const n = history.length;
    for (let i = 0, at = 0; i < n; i++) {
      let sum = 0;
      for (let j = 0; j < n; j++, at++) sum += (siemens[at] as number) * (history[j] as number);
      input[i] = sum;
    }
    const { batteries, fields } = this.#plan;
    for (let k = 0; k < batteries.length; k++) {
      const { cell } = (batteries[k] as Plan["batteries"][number]).element;
      input[n + k] = -(cell.openVolts + (this.#eta[k] as number)) / cell.ohms;
    }
    for (let k = 0; k < fields.length; k++) input[n + batteries.length + k] = this.#drawn(k);
  }

  /** What a field takes from where it is fed, A. */
  #drawn(k: number): number {
    return this.#fields.share(k, this.#delay) * (this.#fields.amps[k] as number);
  }

  #look({ matrix, constant }: Transfer, into: Float64Array): void {
    const input = this.#input;
    const columns = input.length;
    for (let row = 0, at = 0; row < into.length; row++) {
      let sum = constant[row] as number;
      for (let column = 0; column < columns; column++, at++) sum += (matrix[at] as number) * (input[column] as number);
      into[row] = sum;
    }
  }

  /** The rectifier that contradicts the pattern most, or −1: one that conducts backwards, or blocks though free to conduct. */
  #worst(mask: number, seen: Float64Array): number {
    const knee = this.#knee;
    const free = this.#free;
    const gated = this.#gated;
    let worst = -1;
    let most = 0;
    for (let i = 0; i < knee.length; i++) {
      const over = (seen[i] as number) - (knee[i] as number);
      const against = mask & (1 << i) ? -over : free[i] || gated[i] ? over : 0;
      if (against > most) {
        most = against;
        worst = i;
      }
    }
    return worst;
  }

  /** The pattern with every contradicting rectifier turned over. */
  #turned(mask: number, seen: Float64Array): number {
    let turned = mask;
    for (let i = 0; i < this.#knee.length; i++) {
      const over = (seen[i] as number) - (this.#knee[i] as number);
      if (mask & (1 << i) ? over < 0 : (this.#free[i] || this.#gated[i]) && over > 0) turned ^= 1 << i;
    }
    return turned;
  }

  #settlePattern(): void {
    for (let round = 0; round < MOST_ROUNDS; round++) {
      this.#look(this.#transfer, this.#spare);
      const worst = this.#worst(this.#mask, this.#spare);
      if (worst < 0) return;
      this.#mask = round < FLIP_ALL_ROUNDS ? this.#turned(this.#mask, this.#spare) : this.#mask ^ (1 << worst);
      this.#transfer = this.#pattern(this.#mask);
    }
    this.unsettled++;
    this.#look(this.#transfer, this.#spare);
  }

  #pattern(mask: number): Transfer {
    const known = this.#patterns.get(mask);
    if (known) return known;
    if (this.#patterns.size >= MOST_PATTERNS) this.#patterns.clear();
    const made = transferOf(this.#plan, this.#siemens, this.#watched, (i) => (mask & (1 << i)) !== 0, this.#blown);
    if (!made) throw new NetlistProblem("The circuit's matrix is singular: some node hangs on nothing.");
    this.#patterns.set(mask, made);
    return made;
  }

  /** Takes over what was looked at as the state at the end of a step of `seconds`. */
  #commit(seconds: number): void {
    const kept = this.#seen;
    this.#seen = this.#spare;
    this.#spare = kept;
    const { batteries } = this.#plan;
    const input = this.#input;
    const seen = this.#seen;
    const siemens = this.#siemens;
    const amps = this.#amps;
    const first = this.#knee.length;
    const n = amps.length;
    for (let i = 0, at = 0; i < n; i++) {
      let sum = input[i] as number;
      for (let j = 0; j < n; j++, at++) sum += (siemens[at] as number) * (seen[first + j] as number);
      amps[i] = sum;
    }
    this.#emf.set(this.#emfNext);
    for (let k = 0; k < batteries.length; k++) {
      const { cell } = (batteries[k] as Plan["batteries"][number]).element;
      const eta = this.#eta[k] as number;
      const into = ((seen[first + n + k] as number) - cell.openVolts - eta) / cell.ohms;
      // Implicit in the battery's own curve, which is far steeper than the step is short.
      const accepts = acceptAmps(cell, eta);
      const slope = eta >= 0 ? (accepts + cell.acceptAmps) / cell.acceptVolts : 1 / cell.polarOhms;
      const share = seconds / (cell.farads ?? this.farads);
      this.#eta[k] = eta + (share * (into - accepts)) / (1 + share * slope);
    }
  }

  #emfAt(halfStep: number, into: Float64Array): void {
    const sine = this.#sine;
    const phase = this.#phase;
    const peak = this.#peak;
    const half = sine.length;
    for (let i = 0; i < peak.length; i++) into[i] = (peak[i] as number) * (this.#steady[i] ? 1 : (sine[(halfStep + (phase[i] as number)) % half] as number));
  }

  /** Opens and closes the gates for this step by the angle since each rectifier's volts turned positive. */
  #fireGates(): void {
    const degrees = 360 / this.stepsPerCycle;
    const controlled = this.#controlled;
    const seen = this.#seen;
    const angles = this.#angle;
    const gated = this.#gated;
    const control = this.#control;
    const delay = this.#delay;
    for (let k = 0; k < controlled.length; k++) {
      const i = controlled[k] as number;
      const angle = (seen[i] as number) > 0 ? (angles[i] as number) + degrees : 0;
      angles[i] = angle;
      const after = delay[control[i] as number] as number;
      // A rectifier that conducts stays latched until its current stops. One that is not wanted at all is never fired, though its volts
      // never turn: a wire that a weak winding holds between the rails is positive without end.
      gated[i] = this.#mask & (1 << i) || (angle > 0 && angle >= after && after < CONTROL.reach) ? 1 : 0;
    }
  }

  #controls(): void {
    const { controls, rectifiers, windings, batteries } = this.#plan;
    const first = rectifiers.length + windings.length + batteries.length;
    for (let k = 0; k < controls.length; k++) {
      const { element } = controls[k] as Plan["controls"][number];
      const filtered = (this.#sensed[k] as number) + (((this.#seen[first + k] as number) - (this.#sensed[k] as number)) * this.step) / CONTROL.filterSeconds;
      this.#sensed[k] = filtered;
      if (element.kind === "fieldControl") {
        const { integral, share } = controlField(element, filtered, this.#ampsOf(element.most?.winding), this.#integral[k] as number, this.step);
        this.#integral[k] = integral;
        this.#delay[k] = share;
        continue;
      }
      const miss = element.law === "shunt" ? element.setVolts - filtered : filtered - element.setVolts;
      const integral = Math.min(CONTROL.reach, Math.max(0, (this.#integral[k] as number) + CONTROL.integral * miss * this.step));
      this.#integral[k] = integral;
      this.#delay[k] = integral + CONTROL.proportional * miss;
    }
  }

  /** Current out of a winding, A. */
  #ampsOf(winding: string | undefined): number {
    const i = this.#plan.windings.findIndex(({ element }) => element.id === winding);
    return i < 0 ? 0 : -(this.#amps[i] as number);
  }

  #moveFields(): void {
    const { rectifiers, windings, batteries, controls, fields } = this.#plan;
    const first = rectifiers.length + windings.length + batteries.length + controls.length;
    const column = windings.length + batteries.length;
    for (let k = 0; k < fields.length; k++) {
      const sourceOhms = Math.max(0, -(this.#transfer.matrix[(first + k) * this.#input.length + column + k] as number));
      this.#fields.move(k, this.#fields.share(k, this.#delay), this.#seen[first + k] as number, this.#input[column + k] as number, sourceOhms, this.step);
    }
    this.#fields.excite(this.#peak);
  }

  #heatFuses(): void {
    const { fuses } = this.#plan;
    const first = this.#watched.length - this.#extra - fuses.length;
    for (let k = 0; k < fuses.length; k++) {
      if (this.#blown[k]) continue;
      const { element } = fuses[k] as Plan["fuses"][number];
      const amps = (this.#seen[first + k] as number) / element.ohms;
      const rated = element.amps * element.amps;
      const heat = Math.max(0, (this.#heat[k] as number) + (amps * amps - rated) * this.step);
      this.#heat[k] = heat;
      if (heat > MELTING * rated) this.#blow(k);
    }
  }

  #blow(fuse: number): void {
    this.#blown[fuse] = true;
    this.melted.add((this.#plan.fuses[fuse] as Plan["fuses"][number]).element.id);
    this.#patterns.clear();
    this.#transfer = this.#pattern(this.#mask);
    this.#eulerNext = true;
  }

  #watch(a: number, b: number): number {
    this.#extra++;
    return this.#watched.push({ a, b }) - 1;
  }
}
