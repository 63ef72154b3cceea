import type { Netlist, Probe } from "../circuit/netlist";
import { operatingPoint } from "../circuit/operating";
import { Transient } from "../circuit/transient";
import { circuitOf } from "../machine/circuit";
import { type Condition, stateOf } from "../machine/condition";
import { isMirrored } from "../machine/families/registry";
import type { Sheet } from "../machine/sheet";
import { isAsleep, Wakefulness, wakingWords } from "../machine/waking";
import { probeNamed } from "../machine/wave";
import type { Meter } from "../meter/meter";
import { alternating, connect, type Display, readMeter, shown } from "../meter/read";
import { type RigSetup, standingOf } from "./setup";

/** What a live machine shows after a stretch of time. */
export interface RunFrame {
  display: Display;
  /** One array a channel over the last cycles, in the set-up's order; a machine at rest gives flat ones. */
  channels: Float32Array[];
  /** Seconds between two samples. */
  step: number;
  /** Fuses that have melted since the machine was set up. */
  melted: string[];
}

/** Cycles that the scope shows. */
export const SHOWN_CYCLES = 2;
/** Time over which a meter on DC averages, s. */
const METER_SECONDS = 0.25;
/** Samples of a channel of a machine at rest. */
const RESTING_SAMPLES = 2;

/** One machine kept running: set it, let time pass, see what meter and scope show. */
export class LiveRun {
  readonly #sheet: Sheet;
  readonly #meter: Meter;
  #setup: RigSetup | undefined;
  #condition: Condition | undefined;
  readonly #wakefulness: Wakefulness;
  #transient: Transient | undefined;
  #still: { display: Display; values: number[] } | undefined;
  /** What the meter has averaged so far; undefined just after a change of what it looks at. */
  #average: number | undefined;
  #notes: string[] = [];
  /** Waveforms that the running circuit is asked for: the meter's, then the scope's. */
  #tracks = 0;

  constructor(sheet: Sheet, meter: Meter) {
    this.#sheet = sheet;
    this.#meter = meter;
    this.#wakefulness = new Wakefulness(sheet);
  }

  /** Takes over a set-up; a running machine goes on from where it is, unless `fresh` asks for cold parts and new fuses. */
  set(setup: RigSetup, condition: Condition, fresh = false): void {
    const before = this.#setup;
    this.#setup = setup;
    this.#condition = condition;
    if (setup.engine === "running") this.#wakefulness.ran(setup.rpm, 0);
    else this.#wakefulness.stopped();
    const standing = { ...standingOf(setup), awake: this.#wakefulness.awake };
    const state = stateOf(this.#sheet, condition, standing.engine === "running");
    // The circuit is that of a negative-earth machine: with every pole turned round, so are the probes.
    const looking = isMirrored(this.#sheet) ? { red: setup.black, black: setup.red } : { red: setup.red, black: setup.black };
    if (!before || before.dial !== setup.dial || before.red !== setup.red || before.black !== setup.black || before.engine !== setup.engine)
      this.#average = undefined;
    this.#notes = [];
    const netlist = circuitOf(state, standing);
    const dial = setup.dial === "Ω" || setup.dial === "diode" ? undefined : setup.dial;
    const connected = dial ? connect(netlist, dial, looking, this.#meter) : undefined;
    const wired = connected?.wired ?? netlist;
    const probes = setup.channels.map((name) => probeNamed(name, wired));
    const known = probes.filter((probe) => probe !== undefined);
    if (standing.engine !== "running") {
      this.#transient = undefined;
      this.#still = { display: readMeter(state, standing, setup.dial, looking, this.#meter), values: stillValues(wired, probes) };
      return;
    }
    this.#still = undefined;
    const old = this.#transient;
    this.#transient = new Transient(wired, { probes: [connected?.probe ?? { volts: [looking.red, looking.black] }, ...known] });
    this.#tracks = 1 + known.length;
    if (old && !fresh) this.#transient.adopt(old);
    if (isAsleep(this.#sheet, standing)) this.#notes = [wakingWords(this.#sheet) ?? ""];
    if (!dial) this.#notes = ["stop the engine: ohms and diodes are read on dead parts"];
  }

  /** Lets time pass: whole cycles, about so many seconds. */
  frame(seconds: number): RunFrame {
    const transient = this.#transient;
    const setup = this.#setup;
    if (!transient || !setup) {
      const { display = { value: 0, notes: [] }, values = [] } = this.#still ?? {};
      return { display, channels: values.map((value) => new Float32Array(RESTING_SAMPLES).fill(value)), step: 0, melted: [] };
    }
    const { awake } = this.#wakefulness;
    this.#wakefulness.ran(setup.rpm, seconds);
    if (!awake && this.#wakefulness.awake && this.#condition) {
      this.set(setup, this.#condition);
      return this.frame(seconds);
    }
    const cycle = transient.stepsPerCycle;
    const cycles = Math.max(SHOWN_CYCLES, Math.round(seconds / (transient.step * cycle)));
    const count = cycles * cycle;
    const samples = Array.from({ length: this.#tracks }, () => new Float64Array(count));
    const mean = transient.run(count, samples)[0] as number;
    const from = count - SHOWN_CYCLES * cycle;
    const seen = setup.dial === "V AC" ? alternating(samples[0] as Float64Array, this.#meter.trueRms) : mean;
    const share = Math.min(1, (count * transient.step) / METER_SECONDS);
    this.#average = this.#average === undefined ? seen : this.#average + share * (seen - this.#average);
    const dial = setup.dial === "Ω" || setup.dial === "diode" ? undefined : setup.dial;
    return {
      display: { value: dial ? shown(this.#average, dial) : "OL", notes: this.#notes },
      channels: samples.slice(1).map((track) => Float32Array.from(track.subarray(from))),
      step: transient.step,
      melted: [...transient.melted],
    };
  }
}

function stillValues(netlist: Netlist, probes: readonly (Probe | undefined)[]): number[] {
  const point = operatingPoint(netlist);
  return probes.filter((probe) => probe !== undefined).map((probe) => point.read(probe));
}
