import { chargerAmps } from "../../battery/charger";
import { ampsInto, type Cell, steadyVolts } from "../../circuit/cell";
import { ENDLESS_OVERLOAD } from "../../circuit/netlist";
import { conditionOf, stateOf } from "../../machine/condition";
import { COPPER_PER_K } from "../../machine/copper";
import type { SetFault } from "../../machine/defects";
import { excitedShare, FEED_VOLTS, fedAmps, gripOf, leastShareOf } from "../../machine/excitation";
import { endsOf, gatesWhile, leadsOf, wayAt } from "../../machine/families/family";
import { familyOf, unitOf } from "../../machine/families/registry";
import { faultOf, needsNoPart } from "../../machine/faults";
import type { Part } from "../../machine/part";
import { combinedCell, isolatorVolts } from "../../machine/secondBattery";
import type { Sheet } from "../../machine/sheet";
import type { Loads } from "../../machine/standing";
import { healthyState, type MachineState } from "../../machine/state";
import { AtRest } from "./atRest";
import { blend, blendUnit, turnedPlace, turnOf, type WeighedChart } from "./blend";
import type { Build } from "./builds";
import { type Atlas, chartKey, isCharted, switchesOff, typicalOf } from "./charts";
import { ampsAt, type Drawn, gridOf } from "./curve";
import { falsePosition } from "./falsePosition";
import { BY_INDUCTANCE, NO_OFFSETS, type Offsets } from "./nuisance";

/** One machine that might be the one on the lift: its faults with their severities, and its battery's charge. */
export interface Candidate {
  faults: readonly SetFault[];
  charge: number;
  /**
   * Whether a fault that comes with heat is already there on an engine that runs, or only while its windings carry current (a parted
   * plug lets them cool); and whether a melted fuse is still in its holder.
   */
  early: boolean | "loaded";
  /** Rating of the main fuse, as a share of the sheet's: without a sheet nobody knows it. */
  fuse: number;
  /** Its lamps burn whenever the engine runs: what is on with the loads "off" is what is on anyway. */
  alwaysLit: boolean;
}

/** The state of the job in which a candidate is looked at. */
export interface Moment {
  /** Heat is in the engine. */
  warm: boolean;
  running: boolean;
  charged: boolean;
  mended: readonly Part[];
}

/** The parts of a prediction that the candidates of one build share. */
export interface Surroundings {
  sheet: Sheet;
  atlas: Atlas;
  ambientC: number;
  sound: MachineState;
  grids: Record<Drawn, readonly number[]>;
  /** What the charts' currents and ohms are multiplied by. */
  scale: Build["scale"];
}

export function surroundingsOf({ sheet, scale }: Pick<Build, "sheet" | "scale">, atlas: Atlas, ambientC: number): Surroundings {
  return {
    sheet,
    atlas,
    ambientC,
    sound: healthyState(sheet),
    grids: { idle: gridOf(sheet, "idle"), test: gridOf(sheet, "test"), off: gridOf(sheet, "off") },
    scale,
  };
}

/** What a machine that runs steadily shows along its charge path. */
interface Charging {
  /** At the cables' lugs on the battery's posts. */
  volts: number;
  /** Into the battery, and out of the unit, A. */
  into: number;
  out: number;
  /** Out of a generator of which nothing is held back, at the same volts, A. */
  unheld: number;
  /** At the unit's own output. */
  unitVolts: number;
  /** Volts at the lugs and at the unit, were the generator strong enough for the unit to hold its set point; undefined where nothing is held. */
  held: { volts: number; unitVolts: number } | undefined;
  /**
   * By how much the generator is stronger than it needs to be for that, as the logarithm of a factor on its magnets; below nought it
   * is too weak, and not a number where nothing is held.
   */
  spare: number;
}

/**
 * A of a generator with its regulator holding nothing or all back, at some volts behind it and at the main fuse, from where its field
 * is fed; and, as the logarithm of a factor on its magnets, of one that is stronger.
 */
type Generation = (of: "full" | "held", volts: number, main?: number, stronger?: number) => number;

/** A blended curve, A at its grid's volts: nothing held back, and as much held back as its unit can where that leaves something. */
interface Sampled {
  full: number[];
  held: number[] | undefined;
}

/** Windings that were run hot before the meter went on, °C; and those of an engine under way, to which its curves belong. */
const HOT_C = 85;
/** A field is never weaker than this, against its charts'. */
const LEAST_FIELD = 0.01;
/** A field's share below which its regulator holds back everything, and the most that a generator in closed form gives, times its rating. */
const LEAST_LEAK = 0.02;
const CLOSED_MOST = 8;
/** A short through the unit that draws this many times the fuse's rating melts it. */
const MELTS = 2;
/** A curve below this gives nothing, A. */
const LEAST_AMPS = 0.05;
/** From a battery's post over its fuse's wire to the main fuse. */
const FUSE_WIRE_OHMS = 0.001;
/** A unit that nothing steadies, for 12 V: volts it can reach, those at which its own parts clip, what leaks off it, how vague its volts are. */
const FLOATING = { most: 80, clamped: 40, leakAmps: 0.005, vague: 1, unheld: 4 } as const;
/** Mean volts of a unit that gates into its own shorted diode and so pulls its output down after every pulse: the circuit's lie between 9 and 13. */
const HUNTS = { volts: 12, vague: 2.5 } as const;
/** Factors on a generator's strength beyond which nobody looks for what it needs, and how closely it is found, as logarithms. */
const STRENGTH = { most: 2.5, within: 0.01 } as const;

/** The more a unit has to deliver the lower it holds: by load, the share of what it then lies off. */
const DROOPS: Record<Loads, number> = { off: 0, normal: 0.5, all: 1 };

/**
 * A candidate worked out: the state of its parts and the charts it is blended from. Everything that a look can ask of it is
 * a closed sum from here; the circuit itself was asked when the charts were drawn.
 */
export class Subject extends AtRest {
  readonly around: Surroundings;
  readonly candidate: Candidate;
  /** Charts of its windings or plug, of its unit; empty where that is sound. */
  readonly windings: WeighedChart[];
  readonly unit: WeighedChart[];
  /** Charts of the touch of windings that are burnt besides. */
  readonly touch: WeighedChart[];
  /** Under which of the family's other names its charted faults lie at home. */
  readonly turns: { windings: number; unit: number; touch: number };
  /** Its faults in this moment: without what was mended, and what comes with heat only where there is some. */
  readonly present: readonly SetFault[];
  /** The main fuse melted through a short in the unit. */
  readonly melted: boolean;
  /** Its charted fault lies in plug or cable. */
  readonly pinned: boolean;
  /** Strength of the magnets and speed that reaches them, against the sheet's. */
  readonly strength: number;
  readonly grip: number;
  readonly #curves: Partial<Record<Drawn, Sampled>> = {};

  constructor(around: Surroundings, candidate: Candidate, { warm, running, charged, mended }: Moment) {
    const { sheet } = around;
    // What comes with heat: a joint that opens, a unit that gives up.
    const faults = candidate.faults.flatMap((set): SetFault[] => {
      if (mended.includes(faultOf(set.fault).part) && !needsNoPart(set.fault)) return [];
      if (set.fault === "stator.joint-opens-hot") return warm ? [{ fault: "stator.winding-open", ...(set.at ? { at: set.at } : {}) }] : [];
      if (set.fault === "regulator.fails-hot") return warm ? [{ fault: "regulator.no-output" }] : [];
      if (needsNoPart(set.fault)) return charged || mended.length > 0 ? [] : [set];
      return [set];
    });
    const refilled = charged || mended.includes("battery");
    const plain = faults.filter(({ fault }) => !(fault.startsWith("stator.") && isCharted(fault)) && !fault.startsWith("regulator.diode"));
    const worn = faults.find(({ fault }) => fault === "battery.sulphated")?.severity ?? WORN.from;
    const refuses = Math.min(1, Math.max(0, Math.log(worn / WORN.from) / Math.log(WORN.to / WORN.from)));
    const charge = refilled ? REFILLED - refuses * REFUSED : mended.length > 0 ? Math.max(candidate.charge, RECOVERED) : candidate.charge;
    super(stateOf(sheet, conditionOf(plain, { charge, ambientC: around.ambientC }), true), refilled ? refuses : undefined);
    if (candidate.alwaysLit) this.state.loadAmps.off = this.state.loadAmps.normal;
    this.around = around;
    this.candidate = candidate;
    this.present = faults;
    this.strength = (excited(this.state) * (this.state.windings[0]?.voltsPerRpm ?? 0)) / (excited(around.sound) * (around.sound.windings[0]?.voltsPerRpm ?? 1));
    this.grip = gripOf(this.state, "normal");
    this.#least = this.state.field ? leastShareOf(this.state.field) : 0;
    const [winding, touch] = faults.filter(({ fault }) => isCharted(fault) && !fault.startsWith("regulator."));
    const diodes = faults.filter(({ fault }) => isCharted(fault) && fault.startsWith("regulator."));
    this.turns = { windings: turnOf(winding?.at, sheet), unit: turnOf(diodes[0]?.at, sheet), touch: turnOf(touch?.at, sheet) };
    this.pinned = winding?.fault.startsWith("wiring.") === true;
    this.windings = winding ? blend(around, winding) : [];
    this.touch = touch ? blend(around, touch) : [];
    this.unit = diodes.length > 0 ? blendUnit(around, diodes) : [];
    this.#both = winding && diodes.length === 1 ? { winding, diode: diodes[0] as SetFault } : undefined;
    const { held } = this.#curveOf("test");
    const reaches = held && this.amps("test", this.grip, this.state.unit.setVolts, NO_OFFSETS, "full") > 0 && this.controls;
    const shorts = held ? around.scale.amps * ampsAt(around.grids.test, held, this.state.unit.setVolts) : 0;
    const [fuse] = sheet.fuses;
    const rated = candidate.fuse * (fuse?.amps ?? 30);
    const carries = ENDLESS_OVERLOAD * rated;
    // What stands at the battery whether the engine runs or not: a way back through a generator, or a shorted one through a coil to ground.
    const standing = this.cell(NO_OFFSETS).openVolts;
    const drained =
      faults.some(({ fault }) => fault === "stator.diode-shorted") ||
      this.backAmps(standing) > carries ||
      (this.unit.length > 0 && -this.amps("idle", this.grip, standing, NO_OFFSETS, "full") > carries);
    this.melted = drained || (Boolean(reaches) && shorts < -MELTS * rated);
    // A generator that nothing holds back gives more than the fuse carries.
    const { output } = familyOf(this.state.family);
    this.melted ||= output !== undefined && !this.#holdsBack && this.work(sheet.testRpm, "normal", NO_OFFSETS).out > carries;
    // A fuse that melted may have been seen to before the machine came in; it melts again as soon as it runs.
    if (this.melted && (drained || running || candidate.early !== false) && fuse) this.state.fuseOhms[fuse.id] = 1e8;
  }

  /** Share of its volts that a field gets whatever its regulator does. */
  readonly #least: number;
  readonly #both: { winding: SetFault; diode: SetFault } | undefined;

  /** True where a fault sits in coils, plug or unit. */
  get isCharted(): boolean {
    return this.windings.length + this.unit.length > 0;
  }

  /** True while there is a unit that can hold back at its set point. */
  get controls(): boolean {
    return this.state.unit.gates === "control" && !this.state.unit.senseOpen && !unitOf(this.state.family).inLead;
  }

  /** One of the generator's curves, blended once. */
  #curveOf(drawn: Drawn): Sampled {
    this.#curves[drawn] ??= this.#blended(drawn);
    return this.#curves[drawn];
  }

  #blended(drawn: Drawn): Sampled {
    const { atlas, grids } = this.around;
    const sound = atlas.sound?.[drawn]?.full ?? [];
    const mix = (charts: WeighedChart[], of: "full" | "held"): number[] =>
      grids[drawn].map((_, k) => charts.reduce((sum, { chart, weight }) => sum + weight * ((chart[drawn]?.[of] ?? (of === "full" ? sound : []))[k] ?? 0), 0));
    if (this.windings.length === 0 && this.unit.length === 0) return { full: sound, held: undefined };
    const held = this.unit.some(({ chart }) => chart[drawn]?.held) ? mix(this.unit, "held") : undefined;
    if (this.unit.length === 0) return { full: this.#touched(mix(this.windings, "full"), mix(this.touch, "full"), sound), held: undefined };
    if (this.windings.length === 0) return { full: mix(this.unit, "full"), held };
    const together = this.#pair(drawn);
    const [winding, unit] = [mix(this.windings, "full"), mix(this.unit, "full")];
    return {
      // A pair is charted at typical severities; how much worse or better this one is comes from its winding alone.
      full: winding.map((amps, k) => {
        if (!together) return Math.min(amps, unit[k] as number);
        const typical = Math.max(LEAST_AMPS, together.typical[k] as number);
        return (together.full[k] as number) * Math.min(2, amps / typical);
      }),
      held,
    };
  }

  /** What burnt windings still give once they touch the core as well: the share that a touch leaves a sound machine. */
  #touched(burnt: number[], touched: readonly number[], sound: readonly number[]): number[] {
    if (this.touch.length === 0) return burnt;
    return burnt.map((amps, k) => amps * Math.min(1, Math.max(0, (touched[k] as number) / Math.max(LEAST_AMPS, sound[k] as number))));
  }

  /** The chart of both faults together, and the winding's own at the same severity. */
  #pair(drawn: Drawn): { full: readonly number[]; typical: readonly number[] } | undefined {
    if (!this.#both) return undefined;
    const { sheet, atlas } = this.around;
    const { winding, diode } = this.#both;
    const { windings: turn } = this.turns;
    const home = (at: string | undefined): string | undefined => at && turnedPlace(at, turn, sheet);
    const typical = typicalOf({ ...winding, at: home(winding.at) }, sheet);
    if (!typical) return undefined;
    const { half, lead } = endsOf(home(diode.at) ?? "");
    const seat = familyOf(sheet.family).secondSeat(lead, leadsOf(sheet));
    const curve = atlas[chartKey([typical])]?.[drawn];
    const two = atlas[chartKey([typical, { fault: diode.fault, at: wayAt(seat, half) }])]?.[drawn];
    return curve && two ? { full: two.full, typical: curve.full } : undefined;
  }

  /**
   * Current out of the unit at some volts, by one of its curves. @param turn the magnets' speed against the speed of the curve
   * @param volts at the unit's pins, inner ground included @param stronger logarithm of a factor on the magnets
   */
  amps(drawn: Drawn, turn: number, volts: number, z: Offsets, of: "full" | "held", stronger = 0): number {
    // A field that its regulator cannot take everything from goes on at that share of it.
    const leaks = of === "held" && this.#least > 0;
    const samples = this.#curveOf(drawn)[leaks ? "full" : of];
    if (!samples) return 0;
    const strength = this.strength * Math.exp((z.emf ?? 0) + stronger + (this.isCharted ? (z.output ?? 0) : 0)) * (leaks ? this.#leastExcited : 1);
    const amps = this.around.scale.amps * ampsAt(this.around.grids[drawn], samples, volts, strength, turn);
    return of === "full" ? amps * Math.exp(-BY_INDUCTANCE * (z.henries ?? 0)) : amps;
  }

  /** EMF at the share of its field that cannot be held back, against the full one. */
  get #leastExcited(): number {
    const amps = fedAmps(this.state);
    return excitedShare(this.state, this.#least * amps) / excitedShare(this.state, amps);
  }

  /** Whether its regulator can take the field's current down to where nothing much is left. */
  get #holdsBack(): boolean {
    return this.controls && !this.leaks;
  }

  /** True where holding back all that the regulator can leaves something. */
  get leaks(): boolean {
    return this.#curveOf("test").held !== undefined || this.#least > LEAST_LEAK;
  }

  /** As {@link Subject.work}, remembered: the looks at one running machine share it. */
  charging(rpm: number | "idle", loads: Loads, z: Offsets): Charging {
    let runs = this.#runs.get(z);
    if (!runs) {
      runs = new Map();
      this.#runs.set(z, runs);
    }
    const key = `${rpm}${loads}`;
    let run = runs.get(key);
    if (!run) {
      run = this.work(rpm, loads, z);
      runs.set(key, run);
    }
    return run;
  }

  readonly #runs = new Map<Offsets, Map<string, Charging>>();

  /**
   * The running machine: where generator, regulator, loads and battery agree. The current into the battery, and the volts of a
   * capacitor, which takes none, are searched by false position (the Illinois rule); each of the balances falls through once.
   * @param rpm engine speed; "idle" the sheet's @param fullField whether the field is fed in full past its regulator
   */
  work(rpm: number | "idle", loads: Loads, z: Offsets, fullField = false): Charging {
    const { sheet, sound } = this.around;
    const { state } = this;
    const cell = this.cell(z);
    const load = this.loadOhms(loads, z);
    const generated = this.#generation(rpm, loads, z, fullField);
    if (this.outputOpen) return this.#apart(generated, cell, this.mainFuseOpen ? load : this.uncharged(loads, z), z);
    const wires = Math.exp(z.wires ?? 0);
    // Only the sound part of a wire spreads; what a fault adds is the fault's own severity.
    const out = state.outputOhms + sound.outputOhms * (wires - 1);
    const ground = this.homeOhms(z);
    const fuse = (state.fuseOhms[sheet.fuses[0]?.id ?? ""] ?? 0.002) + FUSE_WIRE_OHMS;
    const inner = this.#homeByEngine ? 0 : state.unit.innerGroundOhms;
    const combined = combinedCell(sheet, state.battery);
    const floats = cell.farads !== undefined;
    const at = (searched: number) => {
      const into = floats ? 0 : searched;
      const posts = floats ? searched : steadyVolts(cell, into) + into * state.postOhms;
      const stored = into + (combined ? ampsInto(combined, posts) * Math.exp(z.loads ?? 0) : 0);
      const main = posts + stored * fuse;
      const taken = main / load;
      const amps = stored + taken - chargerAmps(state.chargerVolts, posts);
      const pins = main + amps * (out + ground) + isolatorVolts(sheet, amps);
      return { posts, main, amps, pins, behind: pins + amps * inner };
    };
    const { output } = familyOf(state.family);
    const most = output
      ? CLOSED_MOST * (sheet.ratedAmps ?? 10)
      : 1.6 * this.strength * Math.exp(z.emf ?? 0) * (this.around.scale.amps * (this.#curveOf("test").full[0] ?? 0) + 1) + 5;
    const [low, high] = floats ? [0, FLOATING.most * this.scale] : [-cell.openVolts / (load + fuse + cell.ohms) - 0.5 - this.fieldAmps, most];
    const search = (miss: (searched: number) => number): number => falsePosition(miss, low, high);
    const balance = (of: "full" | "held") =>
      search((searched) => {
        const { amps, behind, main } = at(searched);
        return generated(of, behind, main) - amps;
      });
    const sensed = (searched: number): number => {
      const { posts, amps, behind } = at(searched);
      return sheet.sense === "battery" ? posts + amps * (ground + inner) : behind;
    };
    const set = this.#setVolts(z) - DROOPS[loads] * (z.droop ?? 0) * this.scale;
    let found = balance("full");
    // A unit that holds too low draws nothing out of the battery; only a diode that shorted does.
    const idle = (searched: number): number => (this.leaks || at(searched).amps >= 0 ? searched : search((least) => -at(least).amps));
    const held = this.controls && !fullField ? idle(search((searched) => set - sensed(searched))) : undefined;
    if (held !== undefined && sensed(found) > set) found = this.leaks ? Math.max(held, balance("held")) : held;
    const seen = at(found);
    const then = held === undefined ? undefined : at(held);
    return {
      volts: seen.posts,
      into: floats ? 0 : found,
      out: seen.amps,
      unheld: generated("full", seen.behind, seen.main),
      unitVolts: seen.pins,
      held: then && { volts: then.posts, unitVolts: then.pins },
      spare: then ? this.#spare(rpm, loads, z, then) : Number.NaN,
    };
  }

  /** How much stronger the generator is than what it takes to give some amps at some volts behind the unit's inner ground. */
  #spare(rpm: number | "idle", loads: Loads, z: Offsets, { amps, behind }: { amps: number; behind: number }): number {
    const { most, within } = STRENGTH;
    const generated = this.#generation(rpm, loads, z);
    return -falsePosition((stronger) => amps - generated("full", behind, behind, stronger), -most, most, within);
  }

  /** What the generator delivers at an engine speed, A at volts behind the unit's inner ground. */
  #generation(rpm: number | "idle", loads: Loads, z: Offsets, fullField = false): Generation {
    const { sheet } = this.around;
    const { state } = this;
    const idle = rpm === "idle";
    // A unit that holds everything back by itself gives nothing, but to a field that is fed past it.
    if (!fullField && state.unit.gates === gatesWhile(unitOf(state.family), "holding")) return () => 0;
    const turn = (idle ? sheet.idleRpm : rpm) * gripOf(state, loads) * Math.exp((idle ? z.rpmChargeIdle : z.rpmCharge) ?? 0);
    const { output } = familyOf(state.family);
    if (output) {
      const ohms = Math.exp(z.henries ?? 0);
      return (of, volts, _main, stronger = 0) =>
        output(state, turn, volts, { emf: Math.exp((z.emf ?? 0) + stronger), ohms, fieldShare: of === "full" ? 1 : 0 });
    }
    const share = idle ? 0 : Math.min(1, Math.max(0, (turn - sheet.idleRpm) / (sheet.testRpm - sheet.idleRpm)));
    const rests = loads === "off" && !idle && switchesOff(sheet);
    const fed = familyOf(state.family).field?.fed === "key";
    const [drawn, amps] = fed ? [excited(state), fedAmps(state, fullField) / (FEED_VOLTS * this.scale)] : [1, 0];
    return (of: "full" | "held", volts: number, main = volts, stronger = 0): number => {
      // A field that the machine's own volts feed is stronger or weaker by them than on its charts.
      const more = fed ? stronger + Math.log(Math.max(LEAST_FIELD, excitedShare(state, amps * Math.max(0, main)) / drawn)) : stronger;
      // What the field itself takes does not come out.
      const taken = fed && of === "full" ? amps * Math.max(0, main) : 0;
      if (rests) return this.amps("off", turn / sheet.testRpm, volts, z, of, more) - taken;
      const high = share > 0 ? this.amps("test", turn / sheet.testRpm, volts, z, of, more) : 0;
      const low = share < 1 ? this.amps("idle", turn / sheet.idleRpm, volts, z, of, more) : 0;
      return share * high + (1 - share) * low - taken;
    };
  }

  #setVolts(z: Offsets): number {
    return this.state.unit.setVolts + (z.setVolts ?? 0) * this.scale;
  }

  /**
   * The running machine with the way from unit to battery parted: the battery by itself, and the unit by itself. Behind a
   * melted main fuse the unit feeds the loads; behind a parted output wire the battery does. A unit with nothing on it but
   * loads is steadied by no battery: what an averaging meter makes of its pulses is known roughly, which `floating` says.
   */
  #apart(generated: Generation, cell: Cell, load: number, z: Offsets): Charging {
    const feeds = this.mainFuseOpen;
    const ohms = cell.ohms + cell.polarOhms + this.state.postOhms;
    const into = feeds ? 0 : -cell.openVolts / (load + ohms);
    const volts = steadyVolts(cell, into) + into * this.state.postOhms;
    const taken = (at: number): number => (feeds ? at / load : 0);
    const most = FLOATING.most * this.scale;
    const free = falsePosition((at) => generated("full", at) - taken(at) - FLOATING.leakAmps, 0, most);
    const { unitVolts, vague } = this.#floats(free, z);
    return {
      volts,
      into,
      out: taken(unitVolts),
      unheld: 0,
      unitVolts: Math.max(0, unitVolts + (z.floating ?? 0) * vague * this.scale),
      held: undefined,
      spare: Number.NaN,
    };
  }

  /** Volts of a unit by itself that would stand at some volts unregulated, and by how much they may be off, V on 12 V. */
  #floats(free: number, z: Offsets): { unitVolts: number; vague: number } {
    const { sheet } = this.around;
    const set = this.#setVolts(z);
    if (this.controls && this.#curveOf("test").held) return { unitVolts: Math.min(free, HUNTS.volts * this.scale), vague: HUNTS.vague };
    if (free <= set) return { unitVolts: free, vague: FLOATING.vague };
    if (!this.controls) return { unitVolts: free, vague: FLOATING.unheld };
    if (sheet.sense === "output") return { unitVolts: set, vague: FLOATING.vague };
    // A unit that feels the battery's volts holds nothing back once it is cut off from it, unless it feels its own as well.
    const high = Math.min(free, FLOATING.clamped * this.scale);
    return { unitVolts: 0.5 * (set + high), vague: (0.5 * (high - set)) / this.scale };
  }

  /** Windings that end on the engine take their current home through it: none of it comes through the unit's ground. */
  get #homeByEngine(): boolean {
    return familyOf(this.state.family).floating(leadsOf(this.around.sheet)).length === 0;
  }

  /** Ohms on the way from the battery's minus to where the current comes from. */
  homeOhms(z: Offsets): number {
    const { sound } = this.around;
    const wires = Math.exp(z.wires ?? 0) - 1;
    const strap = this.state.strapOhms + sound.strapOhms * wires;
    return this.#homeByEngine ? strap : this.state.groundOhms + sound.groundOhms * wires + strap;
  }

  /** Factor on winding ohms at the temperature of a look. */
  copper(hot: boolean): number {
    return 1 + COPPER_PER_K * ((hot ? HOT_C : this.around.ambientC) - 20);
  }

  /** Rms current in a leg on the running machine, A. */
  legAmps(leg: number): number {
    const { atlas, sheet } = this.around;
    const sound = atlas.sound?.test?.legAmps ?? [];
    const charts = this.windings.length > 0 ? this.windings : this.unit;
    const turn = this.windings.length > 0 ? this.turns.windings : this.turns.unit;
    const leads = leadsOf(sheet);
    const place = leads.indexOf(turnedPlace(leads[leg] as string, turn, sheet));
    const size = this.strength * this.around.scale.amps;
    if (charts.length === 0) return (sound[leg] ?? 0) * size;
    return charts.reduce((sum, { chart, weight }) => sum + weight * ((chart.test?.legAmps ?? sound)[place] ?? 0), 0) * size;
  }
}

/** EMF of a machine's field against the rated one; nothing changes where magnets or the armature excite it. */
function excited(state: MachineState): number {
  return state.field && familyOf(state.family).field?.fed === "key" ? excitedShare(state, fedAmps(state)) : 1;
}

/** State of charge after a full charge, and that of a machine which has run since its repair. */
const REFILLED = 0.97;
/** Factors on a sulphated battery's resistance at which it begins to refuse a charge, and from which it refuses all that it may. */
const WORN = { from: 1.6, to: 7 } as const;
/** Share of a full charge that those refuse in the middle of them; how widely they differ is the spread `refused`. */
const REFUSED = 0.11;
const RECOVERED = 0.9;
