import { elementsOf, type Netlist, type Probe } from "./netlist";
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

export interface SteadyOptions {
  stepsPerCycle?: number;
  probes: readonly Probe[];
  /** Steadiness is judged by the volts between these nodes. */
  judge: readonly [string, string];
  /** First guess of the current into the battery, A. */
  chargeAmps?: number;
}

/** A block is this long at least, in seconds and in cycles. */
const BLOCK_SECONDS = 0.02;
const BLOCK_CYCLES = 3;
/** Two stages: a small capacitance runs to the neighbourhood, the real one settles there. Limits are relative changes between blocks. */
const STAGES = [
  { farads: 0.03, change: 0.0012, most: 30, least: 2 },
  { farads: SETTLED_FARADS, change: 0.0003, most: 40, least: 3 },
] as const;
/** A fuse that carries this many times its rating without end melts. */
const ENDLESS_OVERLOAD = 1.35;
/** Share of steps without a consistent pattern above which the answer is not trusted. */
const MOST_UNSETTLED = 0.01;

/** Runs a circuit until its block means stand still, then measures one block. */
export function steady(netlist: Netlist, options: SteadyOptions): Steady {
  const fuses = elementsOf(netlist, "fuse");
  const batteries = elementsOf(netlist, "battery");
  const probes: Probe[] = [
    ...options.probes,
    { volts: options.judge },
    ...fuses.map((fuse): Probe => ({ amps: fuse.id })),
    ...batteries.map((battery): Probe => ({ amps: battery.id })),
  ];
  const judged = options.probes.length;
  const transient = new Transient(netlist, { probes, ...(options.stepsPerCycle ? { stepsPerCycle: options.stepsPerCycle } : {}) });
  if (options.chargeAmps !== undefined) transient.presetCharge(options.chargeAmps);
  const cycle = transient.stepsPerCycle;
  const block = cycle * Math.max(BLOCK_CYCLES, Math.ceil(BLOCK_SECONDS / (transient.step * cycle)));
  let steps = 0;
  let moved = 0;
  const settle = ({ farads, change, most, least }: (typeof STAGES)[number]): boolean => {
    transient.farads = farads;
    let last = Number.NaN;
    let calm = 0;
    for (let i = 0; i < most; i++) {
      const mean = transient.run(block);
      steps += block;
      const volts = mean[judged] as number;
      moved = Math.abs(volts - last) / Math.max(1, Math.abs(volts));
      last = volts;
      const overloaded = transient.meltOverloaded((id) => (mean[judged + 1 + fuses.findIndex((fuse) => fuse.id === id)] as number) ** 2, ENDLESS_OVERLOAD);
      calm = moved < change && overloaded.length === 0 ? calm + 1 : 0;
      if (i + 1 >= least && calm >= 1) return true;
    }
    return false;
  };
  settle(STAGES[0]);
  const settled = settle(STAGES[1]);
  const samples = options.probes.map(() => new Float64Array(block));
  const mean = transient.run(block, samples);
  const share = transient.unsettled / (steps + block);
  const unsteady =
    share > MOST_UNSETTLED
      ? `in ${(100 * share).toFixed(1)} % of the steps the rectifiers found no pattern that fits`
      : settled
        ? undefined
        : `the mean still moves by ${(100 * moved).toFixed(2)} % from block to block after ${transient.time.toFixed(1)} s`;
  return { mean: mean.slice(0, judged), samples, step: transient.step, melted: [...transient.melted], ...(unsteady ? { unsteady } : {}) };
}
