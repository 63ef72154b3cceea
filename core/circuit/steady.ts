import { ENDLESS_OVERLOAD, elementsOf, type Netlist, type Probe } from "./netlist";
import { SETTLED_FARADS, Transient } from "./transient";

/** What a circuit that runs steadily shows: every probe's samples over one block of whole cycles, and their mean. */
export interface Steady {
  mean: Float64Array;
  samples: readonly Float64Array[];
  /** One step, s. */
  step: number;
  /** Ids of the fuses that melted on the way. */
  melted: readonly string[];
  /** Set when the circuit kept wandering, or rectifiers found no pattern: what was seen, in words. */
  unsteady?: string;
}

interface SteadyOptions {
  probes: readonly Probe[];
  /** Steadiness is judged by the volts between these nodes. */
  judge: readonly [string, string];
  /** Measures with half the step: for the rms and ripple of chopped waveforms, whose edges fall between steps. */
  fine?: boolean;
  /** Settling block in seconds; a circuit without a control needs far less than the usual. */
  blockSeconds?: number;
}

/** A settling block is this long at least, in seconds; and this many cycles. */
const SETTLE_SECONDS = 0.01;
/** The measured block is this many settling blocks long: a control hunts about its mean. */
const MEASURE_BLOCKS = 3;
const BLOCK_CYCLES = 3;
/** Two stages: a small capacitance runs to the neighbourhood, the real one settles there. Limits are relative changes between blocks. */
const STAGES = [
  { farads: 0.01, change: 0.0006, most: 40, least: 3 },
  { farads: SETTLED_FARADS, change: 0.0003, most: 60, least: 3 },
] as const;
/** A battery's current may still move by this much, A or as a share, from block to block: its volts stand still long before. */
const FLOW_AMPS = 0.04;
const FLOW_SHARE = 0.005;
/** A machine whose rectifiers peak below this share of their working current is charging nothing. */
const FAINT = 0.02;
const STEPS = { coarse: 198, fine: 396 } as const;
/** Share of steps without a consistent pattern above which the answer is not trusted. */
const MOST_UNSETTLED = 0.01;

/** Runs a circuit until its block means stand still, then measures one block. */
export function steady(netlist: Netlist, options: SteadyOptions): Steady {
  const fuses = elementsOf(netlist, "fuse");
  const batteries = elementsOf(netlist, "battery");
  const currents = [...fuses, ...batteries].map((element): Probe => ({ amps: element.id }));
  const probes: Probe[] = [...options.probes, { volts: options.judge }, ...currents];
  const judged = options.probes.length;
  let transient = new Transient(netlist, { probes, stepsPerCycle: STEPS.coarse });
  let steps = 0;
  let moved = 0;
  const block = options.blockSeconds ?? SETTLE_SECONDS;
  const run = (seconds: number, record?: readonly Float64Array[]): Float64Array => {
    const count = blockSteps(transient, seconds);
    steps += count;
    return transient.run(count, record);
  };
  const settle = ({ farads, change, most, least }: (typeof STAGES)[number]): boolean => {
    transient.farads = farads;
    let last: Float64Array | undefined;
    for (let i = 0; i < most; i++) {
      const mean = run(block);
      const volts = mean[judged] as number;
      moved = last ? Math.abs(volts - (last[judged] as number)) / Math.max(1, Math.abs(volts)) : 1;
      const before = last;
      const flows = batteries.every((_, k) => {
        const at = judged + 1 + fuses.length + k;
        return before && Math.abs((mean[at] as number) - (before[at] as number)) < Math.max(FLOW_AMPS, FLOW_SHARE * Math.abs(mean[at] as number));
      });
      last = mean;
      const overloaded = transient.meltOverloaded((id) => (mean[judged + 1 + fuses.findIndex((fuse) => fuse.id === id)] as number) ** 2, ENDLESS_OVERLOAD);
      if (i + 1 >= least && moved < change && flows && overloaded.length === 0) return true;
    }
    return false;
  };
  settle(STAGES[0]);
  let settled = settle(STAGES[1]);
  let unsettled = transient.unsettled;
  let drawn = netlist;
  const peak = transient.peakAmps();
  if (peak > 0 && peak < FAINT * workAmps(netlist)) {
    // Rectifiers that carry next to nothing sit far below the knee of a working one: their chords are drawn again there.
    drawn = redrawn(netlist, peak);
    const again = new Transient(drawn, { probes, stepsPerCycle: STEPS.coarse });
    again.adopt(transient);
    transient = again;
    settled = settle(STAGES[1]);
    unsettled += transient.unsettled;
  }
  if (options.fine) {
    const finer = new Transient(drawn, { probes, stepsPerCycle: STEPS.fine });
    finer.adopt(transient);
    transient = finer;
    settled = settle(STAGES[1]);
  }
  const samples = options.probes.map(() => new Float64Array(blockSteps(transient, MEASURE_BLOCKS * block)));
  const mean = run(MEASURE_BLOCKS * block, samples);
  if (options.fine) unsettled += transient.unsettled;
  const share = unsettled / steps;
  const unsteady =
    share > MOST_UNSETTLED
      ? `in ${(100 * share).toFixed(1)} % of the steps the rectifiers found no pattern that fits`
      : settled
        ? undefined
        : `the mean still moves by ${(100 * moved).toFixed(2)} % from block to block after ${transient.time.toFixed(1)} s`;
  return { mean: mean.slice(0, judged), samples, step: transient.step, melted: [...transient.melted], ...(unsteady ? { unsteady } : {}) };
}

/** The largest working current among a netlist's rectifiers, A. */
function workAmps(netlist: Netlist): number {
  return Math.max(0, ...netlist.elements.map((element) => (element.kind === "diode" || element.kind === "scr" ? element.junction.workAmps : 0)));
}

/** The netlist with its junctions' chords drawn at another current. */
function redrawn(netlist: Netlist, amps: number): Netlist {
  const elements = netlist.elements.map((element) =>
    element.kind === "diode" || element.kind === "scr" ? { ...element, junction: { ...element.junction, workAmps: amps } } : element,
  );
  return { ...netlist, elements };
}

/** Steps of a block of whole cycles that lasts so many seconds at least. */
function blockSteps(transient: Transient, seconds: number): number {
  const cycle = transient.stepsPerCycle;
  return cycle * Math.max(BLOCK_CYCLES, Math.ceil(seconds / (transient.step * cycle)));
}
