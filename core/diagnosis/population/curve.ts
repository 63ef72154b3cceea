import type { Element } from "../../circuit/netlist";
import { Transient } from "../../circuit/transient";
import { conditionOf, stateOf } from "../../machine/condition";
import type { SetFault } from "../../machine/defects";
import { FEED_VOLTS } from "../../machine/excitation";
import { gatesWhile } from "../../machine/families/family";
import { familyOf, unitOf } from "../../machine/families/registry";
import { windingElements } from "../../machine/families/winding";
import { polePairsOf } from "../../machine/printed";
import type { Sheet } from "../../machine/sheet";
import type { Loads, Standing } from "../../machine/standing";
import type { MachineState } from "../../machine/state";
import { alternating } from "../../meter/read";
import { acPairsOf } from "../../procedure/step";

/**
 * What a generator (magnets, windings, plug, unit) delivers at its output pins when these are held at a voltage: the circuit
 * run against a stiff source, once with the regulator not holding back and, where a fault keeps it from holding back fully,
 * once with it holding back all it can. Battery, wiring and loads are sums on top of it.
 */
export interface Curve {
  /** A out of the unit's pins at each of the speed's {@link gridOf} volts, the regulator not holding back. */
  full: number[];
  /** The same with the regulator holding back; absent where that is nothing. */
  held?: number[];
  /** Rms current in each leg with the output at working volts and nothing held back, A. */
  legAmps: number[];
  /** What alternates in the current out of the unit then: rms about its mean, A. */
  ripple: number;
}

type Speed = "idle" | "test";
/** A state in which curves are sampled: at either speed with the lights on, and at the test speed with those off that switch a winding in. */
export type Drawn = Speed | "off";

/** Output volts at which a curve is sampled, for 12 V: dense where the speed's machines meet their batteries. */
const GRID = {
  idle: [3, 8, 10.5, 12, 13, 14, 15.5, 18, 22, 30],
  test: [3, 10, 13, 16, 22, 36, 60],
} as const;

/** The sampled volts of a machine's curves in one of the states in which they are drawn. */
export function gridOf(sheet: Pick<Sheet, "systemVolts">, drawn: Drawn): number[] {
  return GRID[drawn === "idle" ? "idle" : "test"].map((volts) => volts * (sheet.systemVolts / 12));
}

/** A stiff source follows whatever current comes: half a milliohm in all. */
const STIFF = { ohms: 0.0005, polarOhms: 0.0005, acceptAmps: 1, acceptVolts: 0.0005 } as const;
const STIFF_FARADS = 0.01;
/** A multiple of three, so that legs stay alike; against twice as many steps a curve moves by 0.04 A rms. */
const STEPS_PER_CYCLE = 108;
/** Blocks of whole cycles are run until two agree to this, A or as a share; a machine that wanders is taken as it is then. */
const AGREE = { cycles: 1, blocks: 30, amps: 0.01, share: 0.003 } as const;
/** Volts, for 12 V, at which the leg currents are taken. */
const WORKING_VOLTS = 14;
/** Windings are warm under way, °C. */
const WARM_C = 80;

/** Samples one curve from the circuit. @param holds also with the regulator holding back */
export function curveOf(sheet: Sheet, faults: readonly SetFault[], drawn: Drawn, holds: boolean): Curve {
  const plain: Sheet = { ...sheet, sense: "output" };
  const state = stateOf(plain, conditionOf(faults, { warmC: WARM_C }), true);
  const rpm = drawn === "idle" ? sheet.idleRpm : sheet.testRpm;
  const loads = drawn === "off" ? "off" : "normal";
  const gated = (what: "giving" | "holding"): MachineState => ({ ...state, unit: { ...state.unit, gates: gatesWhile(unitOf(state.family), what) } });
  const grid = gridOf(sheet, drawn);
  const free = bench(gated("giving"), rpm, loads);
  const full = grid.map((volts) => free.amps(volts));
  const working = free.waves(WORKING_VOLTS * (sheet.systemVolts / 12));
  if (!holds) return { full, ...working };
  const holding = bench(gated("holding"), rpm, loads);
  return { full, held: grid.map((volts) => holding.amps(volts)), ...working };
}

/** The generator on a bench, its output held at volts that can be turned: one circuit serves every point of a curve. */
function bench(
  state: MachineState,
  rpm: number,
  loads: Loads,
): { amps: (volts: number) => number; waves: (volts: number) => Pick<Curve, "legAmps" | "ripple"> } {
  const standing: Standing = { engine: "running", key: "on", rpm, loads, unplug: [], pulled: [] };
  const cell = { openVolts: 0, ...STIFF };
  const transient = new Transient(
    {
      elements: [
        ...familyOf(state.family).elements(state, standing),
        ...fieldFeed(state),
        { kind: "resistor", id: "groundWire", a: "B-", b: "engine", ohms: state.groundOhms },
        { kind: "battery", id: "held", a: "B+", b: "B-", cell },
      ],
      ground: "B-",
      hertz: (rpm * polePairsOf(state.sheet)) / 60,
    },
    { probes: [{ amps: "held" }, ...state.sheet.legs.map((leg) => ({ amps: `pin:${leg.id}` }))], stepsPerCycle: STEPS_PER_CYCLE },
  );
  transient.farads = STIFF_FARADS;
  const steps = STEPS_PER_CYCLE * AGREE.cycles;
  const settle = (volts: number): number => {
    cell.openVolts = volts;
    let last = Number.NaN;
    for (let block = 0; block < AGREE.blocks; block++) {
      const mean = transient.run(steps)[0] as number;
      if (Math.abs(mean - last) < AGREE.amps + AGREE.share * Math.abs(mean)) return mean;
      last = mean;
    }
    return last;
  };
  return {
    amps: settle,
    waves: (volts) => {
      const mean = settle(volts);
      const record = Array.from({ length: state.sheet.legs.length + 1 }, () => new Float64Array(steps));
      transient.run(steps, record);
      const rms = (samples: Float64Array, about = 0): number => Math.sqrt(samples.reduce((sum, sample) => sum + (sample - about) ** 2, 0) / steps);
      const [out, ...legs] = record as [Float64Array, ...Float64Array[]];
      return { legAmps: legs.map((samples) => rms(samples)), ripple: rms(out, mean) };
    },
  };
}

/** What feeds a field from the key: volts of their own, so that a curve belongs to one strength of the field. */
function fieldFeed({ family, sheet }: MachineState): Element[] {
  if (familyOf(family).field?.fed !== "key") return [];
  return [{ kind: "battery", id: "fieldSource", a: "exciter", b: "B-", cell: { openVolts: FEED_VOLTS * (sheet.systemVolts / 12), ...STIFF } }];
}

/** Input resistance of a meter on volts, Ω: it is what an open leg is read through. */
const INPUT_OHMS = 1e7;
const DAMP_OHMS = 1e9;
/** Cycles until what turns in shorted loops has died away, and cycles measured. */
const UNLOADED_CYCLES = { settle: 8, read: 1 } as const;

/**
 * AC volts of every pair with the unit unplugged, at the far end of plug and cable: a circuit without rectifiers, so few cycles do.
 * @returns V rms (of a sine, so any meter shows the same), in the order of {@link acPairsOf}
 */
export function unloadedVolts(sheet: Sheet, faults: readonly SetFault[], speed: Speed): number[] {
  if (acPairsOf(sheet).length === 0) return [];
  const state = stateOf(sheet, conditionOf(faults, { warmC: WARM_C }), true);
  const rpm = speed === "idle" ? sheet.idleRpm : sheet.testRpm;
  const pairs = acPairsOf(sheet).map((pair) => {
    const [a = "", b] = pair.split("-");
    return [`end:${a}`, b === undefined ? "engine" : `end:${b}`] as const;
  });
  const ways: Element[] = sheet.legs.map((leg, i) => ({
    kind: "resistor",
    id: `way:${leg.id}`,
    a: `leg:${leg.id}`,
    b: `end:${leg.id}`,
    ohms: (state.pinOhms[i] ?? 0) + (state.cableOhms[i] ?? 0),
  }));
  const read = (among: typeof pairs): number[] => {
    const transient = new Transient(
      {
        elements: [
          ...windingElements(state, familyOf(state.family).coils(state), rpm),
          ...ways,
          ...among.map(([a, b], i): Element => ({ kind: "resistor", id: `meter:${i}`, a, b, ohms: INPUT_OHMS })),
          { kind: "resistor", id: "damp", a: `leg:${sheet.legs[0]?.id}`, b: "engine", ohms: DAMP_OHMS },
        ],
        ground: "engine",
        hertz: (rpm * polePairsOf(sheet)) / 60,
      },
      { probes: among.map((volts) => ({ volts })), stepsPerCycle: STEPS_PER_CYCLE },
    );
    transient.run(STEPS_PER_CYCLE * UNLOADED_CYCLES.settle);
    const record = among.map(() => new Float64Array(STEPS_PER_CYCLE * UNLOADED_CYCLES.read));
    transient.run(STEPS_PER_CYCLE * UNLOADED_CYCLES.read, record);
    return record.map((samples) => alternating(samples, true));
  };
  // A leg that hangs on nothing but meters would be read through its neighbours' too: then one meter at a time.
  const hangs = state.windings.some(({ open }) => open) || ways.some((way) => way.kind === "resistor" && way.ohms > INPUT_OHMS / 10);
  return hangs ? pairs.flatMap((pair) => read([pair])) : read(pairs);
}

/** Volts that a rectifier keeps for itself, added before a curve is scaled with the EMF. */
const JUNCTIONS = 1.7;

/**
 * Current of a sampled curve at some volts, the EMF multiplied by `emf` and the speed by `turn`: a circuit of coils, resistors and
 * rectifiers is homogeneous, so that e times the EMF at e times the volts (rectifiers included) gives e times the current; with the
 * speed both EMF and reactance grow, so that t times the volts give the same current. Beyond the grid the last straight piece goes
 * on, down to nothing.
 */
export function ampsAt(grid: readonly number[], samples: readonly number[], volts: number, emf = 1, turn = 1): number {
  if (emf <= 0.01 || turn <= 0.02) return 0;
  const at = (volts + JUNCTIONS) / (emf * turn) - JUNCTIONS;
  let k = 1;
  while (k < grid.length - 1 && at > (grid[k] as number)) k++;
  const [v0, v1, i0, i1] = [grid[k - 1] as number, grid[k] as number, samples[k - 1] as number, samples[k] as number];
  const amps = i0 + ((i1 - i0) * (at - v0)) / (v1 - v0);
  // Past the last sample a curve that has come down to nothing stays there.
  return emf * (at > v1 ? Math.max(Math.min(0, i1), amps) : amps);
}
