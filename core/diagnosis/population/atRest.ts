import { surfaceVolts } from "../../battery/charge";
import { chargerAmps, voltsOnCharger } from "../../battery/charger";
import { type Battery, cellOf, conductancePercent } from "../../battery/model";
import { type Cell, steadyVolts } from "../../circuit/cell";
import { firstPullVolts } from "../../machine/crank";
import { FEED_VOLTS, fedAmps, gripOf } from "../../machine/excitation";
import { familyOf } from "../../machine/families/registry";
import type { Loads } from "../../machine/standing";
import { type MachineState, pileAmpsOf } from "../../machine/state";
import { cellsOf } from "../../procedure/step";
import { falsePosition } from "./falsePosition";
import type { Offsets } from "./nuisance";

/** A joint, wire or fuse above this carries nothing. */
const OPEN_OHMS = 1e5;
/** Volts at which loads are stated, for 12 V; what the running engine takes of the loads at any switch. */
const LOAD_VOLTS = 13.5;

/** A battery at rest under some load: volts at the cable's lug on its plus post, and what the post loses, V. */
interface Loaded {
  volts: number;
  post: number;
}

/** What a candidate machine shows with nothing charging it: its battery at rest, under load and under the starter, its generator by itself. */
export class AtRest {
  readonly state: MachineState;
  readonly #refuses: number | undefined;

  /** @param refuses of a battery that was charged since it came in, how worn it is, 0 to 1, and so refuses a charge; undefined for one as it came in */
  constructor(state: MachineState, refuses: number | undefined) {
    this.state = state;
    this.#refuses = refuses;
  }

  readonly #cells = new Map<Offsets, Cell>();

  /** The battery as the offsets leave it; remembered, as all looks at a machine share it. */
  cell(z: Offsets): Cell {
    const known = this.#cells.get(z);
    if (known) return known;
    const { battery } = this.state;
    const moved: Battery = {
      ...battery,
      charge: Math.min(1, Math.max(0, battery.charge + (this.#refuses === undefined ? (z.charge ?? 0) : -this.#refuses * (z.refused ?? 0)))),
      resistance: battery.resistance * Math.exp((z.batteryOhms ?? 0) + (z.tester ?? 0)),
      ah: battery.ah * Math.exp(z.capacity ?? 0),
      steepness: Math.exp(z.steepness ?? 0),
    };
    const cell = cellOf(moved);
    if (cell.farads !== undefined) return cell;
    const left = { ...cell, openVolts: cell.openVolts + (z.openVolts ?? 0) * (battery.systemVolts / 12) };
    this.#cells.set(z, left);
    return left;
  }

  restVolts(z: Offsets, hours: number): number {
    const { chemistry, systemVolts, charge } = this.state.battery;
    if (this.state.chargerVolts !== undefined) return voltsOnCharger(this.cell(z), this.state.chargerVolts);
    return this.cell(z).openVolts + Math.max(0, charge) * surfaceVolts(chemistry, systemVolts, hours);
  }

  /** Volts of the lowest cell: where one is shorted the others have all that the battery shows. */
  weakestCell(z: Offsets, hours: number): number {
    const { sheet, battery } = this.state;
    const sound = this.restVolts(z, hours) / Math.max(1, cellsOf(sheet) - battery.shortedCells);
    return sound * Math.max(0, 1 - battery.shortedCells);
  }

  /** @param through whether the tester's clamp sits on the cable's lug, so that it measures the post as well */
  conductance(z: Offsets, through: boolean): number {
    const { battery, postOhms } = this.state;
    const jointOhms = battery.jointOhms + (through ? postOhms : 0);
    return conductancePercent({ ...battery, jointOhms, resistance: battery.resistance * Math.exp((z.batteryOhms ?? 0) + (z.tester ?? 0)) });
  }

  /** The battery's internal resistance as a tester shows it, mΩ. @param through as for conductance */
  milliohms(z: Offsets, through: boolean): number {
    return 1000 * (this.cell(z).ohms + (through ? this.state.postOhms : 0));
  }

  get mainFuseOpen(): boolean {
    const id = this.state.sheet.fuses[0]?.id;
    return id !== undefined && (this.state.fuseOhms[id] ?? 0) > OPEN_OHMS;
  }

  get outputOpen(): boolean {
    return this.state.outputOhms > OPEN_OHMS || this.mainFuseOpen;
  }

  protected loadOhms(loads: Loads, z: Offsets): number {
    const { off, normal, all } = this.state.loadAmps;
    const taken = {
      off: Math.min(normal, off * Math.exp(z.unlit ?? 0)),
      normal,
      all: normal + (all - normal) * Math.max(0, 1 + (z.switched ?? 0)),
    }[loads];
    const amps = taken * Math.exp(z.loads ?? 0);
    return (LOAD_VOLTS * (this.state.sheet.systemVolts / 12)) / Math.max(0.01, amps);
  }

  /** What a field that the key feeds takes while nothing holds it back, A. */
  protected get fieldAmps(): number {
    const { field, unit, family } = this.state;
    return field && familyOf(family).field?.fed === "key" && unit.gates !== "off" ? fedAmps(this.state) : 0;
  }

  /** Loads with what generator and field take of a battery that nothing charges, Ω. */
  protected uncharged(loads: Loads, z: Offsets, parted?: "output"): number {
    const { openVolts } = this.cell(z);
    // A capacitor at rest has no volts that could flow back.
    const back = parted || openVolts <= 0 ? 0 : this.backAmps(openVolts) / openVolts;
    return 1 / (1 / this.loadOhms(loads, z) + this.fieldAmps / (FEED_VOLTS * this.scale) + back);
  }

  /** With key and lights on: volts at the cable's lug on the plus post, and what the post loses. @param parted the plug that is */
  settled(z: Offsets, parted?: "output"): Loaded {
    return this.#loaded(this.mainFuseOpen ? Number.POSITIVE_INFINITY : this.uncharged("normal", z, parted), z);
  }

  /** The battery at rest with something on it. */
  #loaded(ohms: number, z: Offsets): Loaded {
    const cell = this.cell(z);
    const { postOhms, chargerVolts } = this.state;
    const inner = cell.ohms + cell.polarOhms + postOhms;
    const alone = Number.isFinite(ohms) ? (cell.openVolts * ohms) / (ohms + inner) : cell.openVolts;
    if (chargerVolts === undefined || chargerVolts <= alone) return { volts: alone, post: (postOhms * (cell.openVolts - alone)) / inner };
    const into = falsePosition(
      (amps) => {
        const at = steadyVolts(cell, amps) + amps * postOhms;
        return chargerAmps(chargerVolts, at) - at / ohms - amps;
      },
      -cell.openVolts / inner,
      chargerAmps(chargerVolts, 0),
    );
    return { volts: steadyVolts(cell, into) + into * postOhms, post: -into * postOhms };
  }

  /** Cranking: volts at the cable's lug on the plus post, what the post loses, what the starter takes, A, and the drop along its cable. */
  cranking(z: Offsets): Loaded & { amps: number; drop: number } {
    const { starter, strapOhms } = this.state;
    const amps = starter.crankAmps * Math.exp((z.crank ?? 0) + (z.capacity ?? 0));
    const cable = starter.cableOhms * Math.exp((z.cable ?? 0) - (z.capacity ?? 0));
    const motor = (10.5 * (this.state.sheet.systemVolts / 12)) / amps;
    const turning = cable + motor + strapOhms;
    const lights = this.mainFuseOpen ? Number.POSITIVE_INFINITY : this.loadOhms("normal", z);
    const loaded = this.#loaded(1 / (1 / turning + 1 / lights), z);
    const taken = loaded.volts / turning;
    return { ...loaded, amps: taken, drop: taken * cable };
  }

  /** Volts at the posts as the starter's contact closes. */
  firstPull(z: Offsets): number {
    const { starter, strapOhms, postOhms, battery } = this.state;
    const larger = Math.exp((z.crank ?? 0) + (z.capacity ?? 0));
    return firstPullVolts({
      systemVolts: battery.systemVolts,
      cell: this.cell(z),
      postOhms,
      cableOhms: starter.cableOhms * Math.exp((z.cable ?? 0) - (z.capacity ?? 0)) + strapOhms,
      soundAmps: starter.soundAmps * larger,
      crankAmps: starter.crankAmps * larger,
    });
  }

  loadedVolts(amps: number | undefined, z: Offsets): number {
    // Unless the load is said, it is set by the battery's own label.
    const load = (amps ?? pileAmpsOf(this.state.sheet) * Math.exp(z.capacity ?? 0)) * Math.exp(z.pile ?? 0);
    const { chargerVolts } = this.state;
    return Math.max(0, chargerVolts === undefined ? steadyVolts(this.cell(z), -load) : voltsOnCharger(this.cell(z), chargerVolts, load));
  }

  /** What the plus post loses under a load tester, V. */
  postUnderLoad(amps: number | undefined, z: Offsets): number {
    return (amps ?? pileAmpsOf(this.state.sheet) * Math.exp(z.capacity ?? 0)) * this.state.postOhms;
  }

  /** What flows back through the generator at rest, its battery at some volts, A. */
  backAmps(volts: number): number {
    const { output } = familyOf(this.state.family);
    return output ? Math.max(0, -output(this.state, 0, volts, { emf: 1, ohms: 1, fieldShare: 1 })) : 0;
  }

  /** Volts of a generator by itself with its field grounded: those at which nothing flows out of it. @param rpm of the engine; idle unless somebody read otherwise */
  unloadedVolts(z: Offsets, rpm: number | "idle" = "idle"): number {
    const { state } = this;
    const { output } = familyOf(state.family);
    if (!output || !state.field) return 0;
    // Joined by nothing but its own housing: neither wires nor regulator stand in the way.
    const alone: MachineState = {
      ...state,
      pinOhms: state.pinOhms.map(() => 0),
      cableOhms: state.cableOhms.map(() => 0),
      unit: { ...state.unit, gates: "on", ways: heldShut(state.unit.ways), outputBroken: false, innerGroundOhms: 0 },
    };
    const turn = (rpm === "idle" ? state.sheet.idleRpm : rpm) * gripOf(state, "normal") * Math.exp(z.rpmChargeIdle ?? 0);
    const size = { emf: Math.exp(z.emf ?? 0), ohms: 1, fieldShare: 1 };
    const forward: MachineState = { ...alone, field: { ...state.field, residual: Math.abs(state.field.residual) } };
    const volts = falsePosition((at) => output(forward, turn, at, size), 0, UNLOADED_MOST * state.sheet.systemVolts, 0.01);
    return Math.sign(state.field.residual) * volts;
  }

  protected get scale(): number {
    return this.state.sheet.systemVolts / 12;
  }
}

/** The most that a generator by itself is looked for at, times the system's volts. */
const UNLOADED_MOST = 8;

/** A cut-out that nothing opens, as a test of the generator by itself has it. */
const heldShut = (ways: MachineState["unit"]["ways"]): MachineState["unit"]["ways"] =>
  Object.fromEntries(Object.keys(ways).map((way) => [way, "shorted" as const]));
