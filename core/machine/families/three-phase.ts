import { type Junction, junctionOf } from "../../circuit/junction";
import type { Element, Gate, Node } from "../../circuit/netlist";
import type { Standing } from "../standing";
import type { MachineState, Way } from "../state";
import { windingElements } from "./winding";

/**
 * The three-phase permanent-magnet families, from the magnets to the unit's output pin: shunt (thyristors short the legs),
 * series (thyristors are the upper half), MOSFET (transistors are both halves). Nodes carry the names of the probe points.
 */

/** A plain diode of a rectifier block: 0.49 V at 1 mA on the diode dial, about 0.9 V at 10 A. */
const diodeAt = (amps: number, celsius: number): Junction => junctionOf(0.49, 0.0347, 0.008, amps, celsius);
/** A thyristor's way while it conducts. */
const thyristorAt = (amps: number, celsius: number): Junction => junctionOf(0.61, 0.036, 0.009, amps, celsius);
/** The body diode of a power transistor: lower on the dial than a plain diode. */
const bodyAt = (amps: number, celsius: number): Junction => junctionOf(0.42, 0.033, 0.004, amps, celsius);
/** A transistor switched on in step with its diode: a few hundredths of a volt. */
const synchronous = (amps: number): Junction => ({ saturation: 1e-3, slope: 0.005, ohms: 0.006, workAmps: amps });

/** How far the unit warms above the surroundings while it runs. */
const UNIT_RISE_K = 40;
const SHORT_OHMS = 0.01;
const BROKEN_OHMS = 1e8;
/** What every unit hangs on each leg to sense and fire by: it also ties down a leg that nothing else does. */
const FIRING_OHMS = 47_000;
const ASSUMED_AMPS = 25;

/** Elements from the magnets to the unit's pins: windings, plug, cable, rectifier, control. */
export function generatorElements(state: MachineState, standing: Standing): Element[] {
  const parted = (connector: Standing["unplug"][number]): boolean => standing.unplug.includes(connector);
  const legs = state.sheet.legs.map((leg) => leg.id);
  const elements = windingElements(state, standing.engine === "running" ? standing.rpm * state.grip : 0);
  legs.forEach((leg, i) => {
    elements.push(
      { kind: "resistor", id: `pin:${leg}`, a: `leg:${leg}`, b: parted("stator") ? `open:${leg}` : `harness:${leg}`, ohms: state.pinOhms[i] as number },
      { kind: "resistor", id: `cable:${leg}`, a: `harness:${leg}`, b: `cable:${leg}`, ohms: state.cableOhms[i] as number },
      { kind: "switch", id: `unitPlug:${leg}`, a: `cable:${leg}`, b: `unitLeg:${leg}`, closed: !parted("unit") },
    );
  });
  return [...elements, ...unitElements(state, standing, legs)];
}

function unitElements(state: MachineState, standing: Standing, legs: readonly string[]): Element[] {
  const { unit, family } = state;
  const running = standing.engine === "running";
  const celsius = state.ambientC + (running ? UNIT_RISE_K : 0);
  // Unpowered on the bench no gate is driven, whatever the control would do with it.
  const gate: Gate = !running ? "off" : unit.gates === "control" ? { control: "control" } : unit.gates;
  // A leg's peak is about the rated amps: Idc = (3/π)·Ipeak, and nearly all of it while its thyristor shorts it.
  const amps = state.sheet.ratedAmps ?? ASSUMED_AMPS;
  const [diode, thyristor, channel] = [diodeAt(amps, celsius), thyristorAt(amps, celsius), synchronous(amps)];
  const body = running ? channel : bodyAt(amps, celsius);
  // Behind a pin that is broken off inside the rail hangs on nothing but what creeps across the break.
  const rail: Node = unit.outputBroken ? "unit+" : "B+";
  const elements: Element[] = unit.outputBroken ? [{ kind: "resistor", id: "outputBreak", a: "unit+", b: "B+", ohms: BROKEN_OHMS }] : [];
  const rectifier = (id: string, way: Way, a: Node, b: Node, sound: Element): void => {
    if (way === "sound") elements.push(sound);
    else if (way === "shorted") elements.push({ kind: "resistor", id, a, b, ohms: SHORT_OHMS });
    else if (way !== "open") elements.push(sound, { kind: "resistor", id: `${id}:leak`, a, b, ohms: way.leakOhms });
  };
  legs.forEach((leg, i) => {
    const [terminal, up, low] = [`unitLeg:${leg}`, `up:${leg}`, `low:${leg}`];
    const upper: Element =
      family === "three-phase-series"
        ? { kind: "scr", id: up, a: terminal, b: rail, junction: thyristor, gate }
        : family === "three-phase-mosfet"
          ? { kind: "mosfet", id: up, a: rail, b: terminal, body, channel, gate: "off" }
          : { kind: "diode", id: up, a: terminal, b: rail, junction: diode };
    const lower: Element =
      family === "three-phase-mosfet"
        ? { kind: "mosfet", id: low, a: terminal, b: "unit-", body, channel, gate }
        : { kind: "diode", id: low, a: "unit-", b: terminal, junction: diode };
    rectifier(up, unit.upper[i] as Way, terminal, rail, upper);
    rectifier(low, unit.lower[i] as Way, "unit-", terminal, lower);
    elements.push({ kind: "resistor", id: `firing:${leg}`, a: terminal, b: "unit-", ohms: FIRING_OHMS });
    if (family === "three-phase-shunt") elements.push({ kind: "scr", id: `shunt:${leg}`, a: terminal, b: "unit-", junction: thyristor, gate });
  });
  const sensed = unit.senseOpen ? "unit-" : state.sheet.sense === "battery" && !standing.unplug.includes("output") ? "battery+" : "B+";
  elements.push(
    { kind: "resistor", id: "innerGround", a: "unit-", b: "B-", ohms: unit.innerGroundOhms },
    { kind: "control", id: "control", a: sensed, b: "unit-", law: family === "three-phase-series" ? "series" : "shunt", setVolts: unit.setVolts },
  );
  return elements;
}
