import { type Element, ENDLESS_OVERLOAD, elementsOf, type Netlist, OPEN_OHMS, type Probe } from "../circuit/netlist";
import { operatingPoint } from "../circuit/operating";
import { steady } from "../circuit/steady";
import { circuitOf } from "../machine/circuit";
import type { Point } from "../machine/points";
import type { Standing } from "../machine/standing";
import type { MachineState } from "../machine/state";
import { OPEN_LINE, roundTo } from "../units";
import type { Meter } from "./meter";

/** Where the dial stands. `A DC` is in series between the probes; `clamp` closes round the battery's plus cable. */
export type MeterDial = "V DC" | "V AC" | "Ω" | "diode" | "A DC" | "clamp";

/** The cable that a clamp is closed round: the battery's, or the starter's. */
type Clamped = "battery" | "starter";

/** What a meter shows, and what is odd about it. */
export interface Display {
  value: number | typeof OPEN_LINE;
  /** Words on a reading that means little, a fuse that melted, a machine that would not settle. */
  notes: string[];
}

/** Input resistance of a digital meter on volts, Ω. */
const INPUT_OHMS = 1e7;
/** Resistance of the ammeter's shunt and jacks, Ω. */
const SHUNT_OHMS = 0.02;
/** No lead is without resistance; far smaller ones only cost the sums their digits. */
const LEAST_LEAD_OHMS = 2e-4;
/** Test current of the diode dial, A. */
const DIODE_AMPS = 0.001;
/** Volts above which the ohms ranges give up, as a share of the source's compliance. */
const RANGE_FULL = 0.85;
/** Compliance of the ohms ranges, V. */
const OHMS_VOLTS = 2.6;
/** Test current of each ohms range, A, and its last digit in Ω as a multiple of the meter's finest. */
const RANGES: readonly { amps: number; digit: number }[] = [
  { amps: 1e-3, digit: 1 },
  { amps: 1e-4, digit: 10 },
  { amps: 1e-5, digit: 100 },
  { amps: 1e-6, digit: 1000 },
  { amps: 1e-7, digit: 1e4 },
];
/** Form factor of a sine, by which an average-responding meter scales what it rectifies. */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);
/** AC below this is the meter's own noise, V. */
const AC_FLOOR = 0.005;

/** Reads a machine: the set-up's circuit with the meter in it, solved, and shown the way that meter shows it. */
export function readMeter(
  state: MachineState,
  standing: Standing,
  dial: MeterDial,
  probes: { red: Point; black: Point },
  meter: Meter,
  clamped: Clamped = "battery",
): Display {
  const netlist = circuitOf(state, standing);
  if (dial === "Ω" || dial === "diode") return readResting(netlist, standing, dial, probes, meter);
  const { wired, probe } = connect(netlist, dial, probes, meter, clamped);
  if (standing.engine !== "running") {
    const { point, melted } = restPoint(wired);
    return { value: dial === "V AC" ? 0 : shown(point.read(probe), dial), notes: melted.map(meltedWords) };
  }
  const run = steady(wired, { probes: [probe], judge: ["battery+", "battery-"], fine: dial === "V AC" });
  const samples = run.samples[0] as Float64Array;
  const value = dial === "V AC" ? alternating(samples, meter.trueRms) : (run.mean[0] as number);
  const notes = [...run.melted.map(meltedWords), ...(run.unsteady ? [`does not settle: ${run.unsteady}`] : [])];
  return { value: shown(value, dial), notes };
}

const meltedWords = (id: string): string => `${id.replace("fuse:", "fuse ")} has melted`;

/** The operating point, its fuses melted that would carry far more than their rating without end. */
function restPoint(netlist: Netlist): { point: ReturnType<typeof operatingPoint>; melted: string[] } {
  const point = operatingPoint(netlist);
  const melted = elementsOf(netlist, "fuse")
    .filter(({ id, amps }) => Math.abs(point.read({ amps: id })) > ENDLESS_OVERLOAD * amps)
    .map(({ id }) => id);
  if (melted.length === 0) return { point, melted };
  const elements = netlist.elements.map(
    (element): Element => (element.kind === "fuse" && melted.includes(element.id) ? { ...element, ohms: OPEN_OHMS } : element),
  );
  const after = restPoint({ ...netlist, elements });
  return { point: after.point, melted: [...melted, ...after.melted] };
}

/** The circuit with a meter in it that only looks: across the points on volts, in between on amps, round the cable as a clamp. */
export function connect(
  netlist: Netlist,
  dial: Exclude<MeterDial, "Ω" | "diode">,
  { red, black }: { red: Point; black: Point },
  meter: Meter,
  clamped: Clamped = "battery",
): { wired: Netlist; probe: Probe } {
  if (dial === "clamp") return { wired: netlist, probe: { amps: clamped } };
  const amps = dial === "A DC";
  const element: Element = { kind: "resistor", id: "meter", a: red, b: black, ohms: amps ? SHUNT_OHMS + meter.leadOhms : INPUT_OHMS };
  return { wired: { ...netlist, elements: [...netlist.elements, element] }, probe: amps ? { amps: "meter" } : { volts: [red, black] } };
}

/**
 * AC volts of a sampled waveform, its mean taken off first (the dial is coupled through a capacitor): true rms, or the
 * rectified average times the form factor of a sine, as common meters do.
 */
export function alternating(samples: Float64Array, trueRms: boolean): number {
  let sum = 0;
  for (const sample of samples) sum += sample;
  const mean = sum / samples.length;
  let size = 0;
  for (const sample of samples) size += trueRms ? (sample - mean) ** 2 : Math.abs(sample - mean);
  const volts = trueRms ? Math.sqrt(size / samples.length) : (FORM_FACTOR * size) / samples.length;
  return volts < AC_FLOOR ? 0 : volts;
}

/** Ohms and diode dials push a current of their own through what must be dead. */
function readResting(netlist: Netlist, standing: Standing, dial: "Ω" | "diode", { red, black }: { red: Point; black: Point }, meter: Meter): Display {
  const notes =
    standing.engine === "running" || standing.engine === "cranking" ? ["ohms and diodes are read with the engine stopped; this figure means nothing"] : [];
  const volts = (amps: number, compliance: number): number => {
    const leads: Element[] = [
      { kind: "resistor", id: "lead:red", a: "tip:red", b: red, ohms: Math.max(LEAST_LEAD_OHMS, meter.leadOhms / 2) },
      { kind: "resistor", id: "lead:black", a: "tip:black", b: black, ohms: Math.max(LEAST_LEAD_OHMS, meter.leadOhms / 2) },
      { kind: "source", id: "meter", a: "tip:red", b: "tip:black", amps, complianceVolts: compliance },
    ];
    return operatingPoint({ ...netlist, elements: [...netlist.elements, ...leads], hertz: 0 }).read({ volts: ["tip:red", "tip:black"] });
  };
  if (dial === "diode") {
    const seen = volts(DIODE_AMPS, meter.diodeMaxVolts + 0.3);
    return { value: seen >= Math.min(2, meter.diodeMaxVolts) ? OPEN_LINE : roundTo(seen, 0.001), notes };
  }
  for (const { amps, digit } of RANGES) {
    const seen = volts(amps, OHMS_VOLTS);
    if (seen > RANGE_FULL * OHMS_VOLTS) continue;
    const live = Math.abs(seen) > 0.05 && seen < 0 ? ["there is voltage between the probes; ohms mean nothing here"] : [];
    return { value: roundTo(seen / amps, meter.ohmsResolution * digit), notes: [...notes, ...live] };
  }
  return { value: OPEN_LINE, notes };
}

/** What the display of a common handheld makes of a value: milliamps in series, tenths and hundredths by size. */
export function shown(value: number, dial: MeterDial): number {
  const size = Math.abs(value);
  if (dial === "A DC") return roundTo(value * 1000, size < 0.4 ? 0.1 : 1);
  if (dial === "clamp") return roundTo(value, 0.1);
  if (dial === "V AC") return roundTo(value, size < 4 ? 0.01 : 0.1);
  return roundTo(value, size < 40 ? 0.01 : 0.1);
}
