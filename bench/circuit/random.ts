import { type Element, excitedVolts, type Netlist, type Probe } from "../../core/circuit/netlist";
import { steady } from "../../core/circuit/steady";
import { circuitOf } from "../../core/machine/circuit";
import { conditionOf, stateOf } from "../../core/machine/condition";
import { DEFECTS, type SetFault } from "../../core/machine/defects";
import { FAMILY_IDS, familyOf } from "../../core/machine/families/registry";
import { FAULTS } from "../../core/machine/faults";
import { placesOf, unfitReason } from "../../core/machine/places";
import type { Sheet } from "../../core/machine/sheet";
import { ASSUMED_METER } from "../../core/meter/meter";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { simulateStep, standingFor } from "../../core/procedure/simulate";
import { type Step, stepKey, stepsOf } from "../../core/procedure/step";
import { isNumber } from "../../core/units";
import { DEMO_SHEETS } from "../../demo/sheets";

/** What came of many random machines, faults and set-ups. */
interface RandomResult {
  count: number;
  running: number;
  notNumbers: string[];
  unexplained: string[];
  stated: number;
  /** Worst energy imbalance as a share of what the windings made. */
  worstBalance: number;
  overBalance: string[];
  seconds: number;
}

/** Share by which made and used energy may differ. */
const BALANCE = 0.02;
/** Below this many watts a share means nothing. */
const LEAST_WATTS = 5;

/** A small generator of repeatable chance (mulberry32, public domain). */
function chance(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** Simulates `count` random combinations and looks at each for numbers that are none, silence about trouble, and lost energy. */
export function tryRandom(count: number, seed: number): RandomResult {
  const random = chance(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const result: RandomResult = { count, running: 0, notNumbers: [], unexplained: [], stated: 0, worstBalance: 0, overBalance: [], seconds: 0 };
  const from = performance.now();
  for (let i = 0; i < count; i++) {
    const machine = pick(DEMO_SHEETS);
    const sheet: Sheet = { ...machine, family: pick(kin(machine.family)), winding: pick(["wye", "delta"] as const) };
    const faults = Array.from({ length: Math.floor(random() * 4) }, () => randomFault(sheet, random, pick)).filter((setFault) => setFault !== undefined);
    const condition = conditionOf(faults, { ambientC: -10 + 50 * random(), charge: random() });
    const test = pick(CATALOGUE);
    const steps = stepsOf(test, sheet);
    if (steps.length === 0) continue;
    const drawn = pick(steps);
    const step: Step = drawn.rpm === undefined ? drawn : { ...drawn, rpm: Math.round(400 + 7600 * random()) };
    const name = `${sheet.id} ${sheet.family} ${sheet.winding} ${stepKey(step)} ${JSON.stringify(faults)}`;
    try {
      if (test.setUp.engine === "running") {
        result.running++;
        const state = stateOf(sheet, condition, true);
        look(circuitOf(state, standingFor(step, sheet)), name, result);
      } else {
        const { value } = simulateStep(sheet, condition, step, ASSUMED_METER);
        if (isNumber(value) && !Number.isFinite(value)) result.notNumbers.push(name);
      }
    } catch (error) {
      result.unexplained.push(`${name}: ${error instanceof Error ? error.message : String(error)}`);
    }
  }
  result.seconds = (performance.now() - from) / 1000;
  return result;
}

/** Families whose machines have the same wires: their units are tried on each other's generators. */
function kin(id: string): string[] {
  const wires = (family: string): string =>
    familyOf(family)
      .terminals.map((terminal) => terminal.id)
      .join();
  return FAMILY_IDS.filter((other) => wires(other) === wires(id));
}

function randomFault(sheet: Sheet, random: () => number, pick: <T>(list: readonly T[]) => T): SetFault | undefined {
  const { id } = pick(FAULTS);
  const { severity, along } = DEFECTS[id];
  if (unfitReason(id, sheet)) return undefined;
  const places = placesOf(id, sheet);
  return {
    fault: id,
    ...(places.length > 0 ? { at: pick(places) } : {}),
    severity: severity.low + (severity.high - severity.low) * random() ** 3,
    ...(along ? { along: random() } : {}),
  };
}

/** Runs one circuit with every element watched, and sums what the windings make and everything else takes. */
function look(netlist: Netlist, name: string, result: RandomResult): void {
  type Watched = Exclude<Element, { kind: "coupling" | "control" | "source" | "chopper" | "fieldControl" }>;
  const watched = netlist.elements.filter(
    (element): element is Watched => !["coupling", "control", "source", "chopper", "fieldControl"].includes(element.kind),
  );
  const probes = watched.flatMap((element): Probe[] => [{ amps: element.id }, { volts: [element.a, element.b] }]);
  const run = steady(netlist, { probes, judge: ["battery+", "battery-"] });
  if (run.mean.some((value) => !Number.isFinite(value))) result.notNumbers.push(name);
  if (run.unsteady || run.melted.length > 0) result.stated++;
  // While it still wanders or a fuse has just gone, energy is going in and out of coils and plates.
  if (run.unsteady) return;
  let made = 0;
  let used = 0;
  const fieldAmps = run.mean[2 * watched.findIndex(({ kind }) => kind === "field")] ?? 0;
  watched.forEach((element, k) => {
    const amps = run.samples[2 * k] as Float64Array;
    const volts = run.samples[2 * k + 1] as Float64Array;
    const steps = amps.length;
    let sum = 0;
    if (element.kind === "field") {
      // Fed by its chopper, whose mean it is: what it warms with is all that it takes.
      const { seriesOhms } = netlist.elements.find((chopper) => chopper.kind === "chopper" && chopper.field === element.id) as Extract<
        Element,
        { kind: "chopper" }
      >;
      for (let i = 0; i < steps; i++) used += ((amps[i] as number) ** 2 * (element.ohms + seriesOhms)) / steps;
      return;
    }
    if (element.kind === "winding") {
      const peak = element.excitation ? excitedVolts(element.excitation, fieldAmps) : element.peakVolts;
      for (let i = 0; i < steps; i++) {
        const emf = peak * (element.commutated ? 1 : Math.sin(2 * Math.PI * ((i + 1) * run.step * netlist.hertz + element.phaseDegrees / 360)));
        sum -= emf * (amps[i] as number);
        used += ((amps[i] as number) ** 2 * element.ohms) / steps;
      }
      made += sum / steps;
      return;
    }
    for (let i = 0; i < steps; i++) sum += (volts[i] as number) * (amps[i] as number);
    if (element.kind === "battery" && sum < 0) made -= sum / steps;
    else used += sum / steps;
  });
  if (Math.max(made, used) < LEAST_WATTS) return;
  const off = Math.abs(made - used) / Math.max(made, used);
  result.worstBalance = Math.max(result.worstBalance, off);
  if (off > BALANCE) result.overBalance.push(`${(100 * off).toFixed(1)} % of ${made.toFixed(0)} W: ${name}`);
}
