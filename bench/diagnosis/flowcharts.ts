import { Chance } from "./chance";
import type { Asked, Label, SheetData } from "./kinds";
import { Stopwatch } from "./stopwatch";
import type { Machine } from "./world";

/** The baselines: fixed orders of work with limits, worked down until the chart ends. Limits are tuned on machines of this world. */
export interface Limits {
  rest: number;
  crank: number;
  chargeLow: number;
  chargeHigh: number;
  idleLow: number;
  ohmsOff: number;
  acOff: number;
  acLow: number;
  drop: number;
  ground: number;
  drain: number;
  diodeHigh: number;
}

interface Charted {
  parts: Label[];
  readings: number;
  minutes: number;
  hands: Stopwatch;
}

type Order = "battery first" | "regulator first" | "output first";
export const ORDERS: readonly Order[] = ["battery first", "regulator first", "output first"];

const MINUTES: Record<string, [minutes: number, access: number]> = {
  "battery.rest": [1, 1],
  "battery.crank": [1, 1],
  "starter.cableDrop": [1, 1],
  "charge.volts": [1, 2],
  "charge.positiveDrop": [0.5, 0],
  "charge.groundDrop": [0.5, 0],
  "stator.resistance": [0.5, 3],
  "stator.toGround": [0.5, 0],
  "stator.acVolts": [1, 2],
  "stator.acVoltsAtUnit": [1, 2],
  "regulator.diode": [0.25, 4],
  "regulator.feed": [1, 1],
  "regulator.ground": [0.5, 0],
  "drain.current": [3, 2],
  "drain.unitUnplugged": [1, 1],
  "inspect.terminals": [0.5, 1],
  "inspect.connector": [1, 2],
};

/** A machine whose every reading is taken once and then remembered: charts are compared on the same figures. */
export class Remembered {
  readonly machine: Machine;
  readonly #values = new Map<string, number | string>();

  constructor(machine: Machine) {
    this.machine = machine;
  }

  take(asked: Asked): number | string {
    const key = JSON.stringify(asked);
    const value = this.#values.get(key) ?? this.machine.take(asked);
    this.#values.set(key, value);
    return value;
  }
}

/** Works one chart down on one machine. */
export function work(remembered: Remembered, sheet: SheetData, order: Order, limits: Limits): Charted {
  const { machine } = remembered;
  const seen = new Map<string, number | string>();
  let minutes = 0;
  const opened = new Set<string>();
  const stopwatch = new Stopwatch();
  const take = (asked: Asked): number | string => {
    const key = JSON.stringify(asked);
    const known = seen.get(key);
    if (known !== undefined) return known;
    const [each, access] = MINUTES[asked.test] ?? [1, 1];
    minutes += each + (opened.has(asked.test) ? 0 : access);
    opened.add(asked.test);
    stopwatch.read(asked);
    const value = remembered.take(asked);
    seen.set(key, value);
    return value;
  };
  const number = (asked: Asked, otherwise: number): number => {
    const value = take(asked);
    return typeof value === "number" ? value : otherwise;
  };
  const band = (test: string): [number, number] => {
    const band = sheet.bands.find((band) => band.test === test && band.low !== undefined && band.high !== undefined);
    return [band?.low ?? 0, band?.high ?? 1];
  };
  const scale = sheet.systemVolts / 12;
  const legs = sheet.legs.map((leg) => leg.id);
  const pairs = legs.map((leg, i) => `${leg}-${legs[(i + 1) % legs.length]}`);
  const found = new Set<Label>();
  let [statorBad, unitBad, wireBad] = [false, false, false];
  const rpm = sheet.testRpm;

  const battery = (): void => {
    if (take({ test: "inspect.terminals" }) !== "tight") found.add("wiring");
    const rest = number({ test: "battery.rest" }, 0) / scale;
    const crank = number({ test: "battery.crank" }, 0) / scale;
    const lithium = sheet.battery.chemistry === "lithium-iron" ? 0.6 : 0;
    if (rest < 10.9 + lithium) found.add("battery");
    else if (crank < limits.crank && rest >= limits.rest + lithium) {
      if (number({ test: "starter.cableDrop" }, 0) > 0.6) found.add("starter");
      else found.add("battery");
    } else if (rest < limits.rest + lithium) found.add("charge");
  };
  const charging = (): "good" | "low" | "high" => {
    const [low, high] = band("charge.volts");
    const volts = number({ test: "charge.volts", rpm, loads: "normal" }, 0);
    const all = number({ test: "charge.volts", rpm, loads: "all" }, 0);
    if (Math.max(volts, all) > high + limits.chargeHigh) return "high";
    return Math.min(volts, all) < low - limits.chargeLow ? "low" : "good";
  };
  const stator = (): void => {
    const [low, high] = band("stator.resistance");
    const lead = machine.meter.leadOhms;
    for (const at of pairs) {
      const value = take({ test: "stator.resistance", at });
      if (value === "OL" || (typeof value === "number" && (value - lead < low - limits.ohmsOff || value - lead > high + limits.ohmsOff))) statorBad = true;
    }
    for (const at of legs) {
      const value = take({ test: "stator.toGround", at });
      if (typeof value === "number" && value < 1e6) statorBad = true;
    }
    if (!statorBad) ac();
    if (statorBad) found.add("stator");
  };
  const ac = (): void => {
    const [low] = band("stator.acVolts");
    const at5000 = sheet.bands.find((band) => band.test === "stator.acVolts")?.rpm ?? rpm;
    const volts = pairs.map((at) => number({ test: "stator.acVolts", at, rpm }, 0));
    const [least, most] = [Math.min(...volts), Math.max(...volts)];
    if (least < most * (1 - limits.acOff)) statorBad = true;
    else if (most < ((low * rpm) / at5000) * limits.acLow) found.add("rotor");
  };
  const unit = (): void => {
    for (const leg of legs) {
      const series = sheet.family === "three-phase-series";
      const ways: [string, boolean][] = [
        [`${leg}>B+`, !series],
        [`B+>${leg}`, false],
        [`B->${leg}`, true],
        [`${leg}>B-`, false],
      ];
      for (const [at, passes] of ways) {
        const value = take({ test: "regulator.diode", at });
        if (passes ? value === "OL" || (value as number) < 0.1 || (value as number) > limits.diodeHigh : value !== "OL") unitBad = true;
      }
    }
    if (unitBad) found.add("regulator");
  };
  const wires = (): void => {
    if (number({ test: "regulator.feed" }, 0) < 10.5 * scale) wireBad = true;
    if (number({ test: "regulator.ground" }, 99) - machine.meter.leadOhms > limits.ground) wireBad = true;
    if (number({ test: "charge.positiveDrop", rpm, loads: "normal" }, 0) > limits.drop) wireBad = true;
    if (number({ test: "charge.groundDrop", rpm, loads: "normal" }, 0) > limits.drop) wireBad = true;
    if (take({ test: "inspect.connector", at: "stator" }) === "melted") wireBad = true;
    if (!statorBad) {
      const own = pairs.map((at) => number({ test: "stator.acVolts", at, rpm }, 0));
      pairs.forEach((at, i) => {
        if (number({ test: "stator.acVoltsAtUnit", at, rpm }, 0) < 0.8 * (own[i] as number)) wireBad = true;
      });
    }
    if (wireBad) found.add("wiring");
  };
  const drain = (): void => {
    if (number({ test: "drain.current" }, 0) <= limits.drain) return;
    if (number({ test: "drain.unitUnplugged" }, 0) <= limits.drain) found.add("regulator");
    else found.add("loads");
  };
  const undercharge = (): void => {
    const steps = order === "regulator first" ? [unit, wires, stator] : order === "output first" ? [ac, stator, unit, wires] : [stator, unit, wires];
    for (const step of steps) step();
    if (!statorBad && !unitBad && !wireBad && !found.has("rotor")) found.add("regulator");
  };
  if (order !== "output first") battery();
  const state = charging();
  if (state === "high") found.add("regulator");
  else if (state === "low") undercharge();
  if (order === "output first") battery();
  if (state === "good") drain();
  // A flat battery beside a fault that explains it needs the charger only.
  if (found.size > 1) found.delete("charge");
  return { parts: [...found], readings: seen.size, minutes, hands: stopwatch };
}

/** Random limits about middling ones. */
export function someLimits(chance: Chance): Limits {
  return {
    rest: chance.between(12.1, 12.6),
    crank: chance.between(8.2, 10),
    chargeLow: chance.between(-0.1, 0.8),
    chargeHigh: chance.between(0, 0.9),
    idleLow: 0,
    ohmsOff: chance.between(0, 0.2),
    acOff: chance.between(0.08, 0.3),
    acLow: chance.between(0.7, 1),
    drop: chance.between(0.25, 0.9),
    ground: chance.between(0.1, 0.6),
    drain: chance.between(2, 20),
    diodeHigh: chance.between(0.6, 0.9),
  };
}

export const chanceOf = (seed: number): Chance => new Chance(seed);
