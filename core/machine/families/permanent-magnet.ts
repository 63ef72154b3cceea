import { type Junction, junctionOf } from "../../circuit/junction";
import type { Element, Gate, Node } from "../../circuit/netlist";
import { gripOf } from "../excitation";
import type { Standing } from "../standing";
import type { MachineState, Way } from "../state";
import { type Family, type Leads, leadsOf, type RectifierKind, type UnitPlan, wayAt } from "./family";
import { windingElements } from "./winding";

/**
 * Permanent-magnet families, from the magnets to the unit's output pin: windings, plug and cable of every wire, and a unit of one-way
 * streets between the wires and its rails. Nodes carry the names of the probe points.
 */

/** A plain diode of a rectifier block: 0.49 V at 1 mA on the diode dial, about 0.9 V at 10 A. */
export const diodeAt = (amps: number, celsius: number): Junction => junctionOf(0.49, 0.0347, 0.008, amps, celsius);
/** A thyristor's way while it conducts. */
const thyristorAt = (amps: number, celsius: number): Junction => junctionOf(0.61, 0.036, 0.009, amps, celsius);
/** The body diode of a power transistor: lower on the dial than a plain diode. */
const bodyAt = (amps: number, celsius: number): Junction => junctionOf(0.42, 0.033, 0.004, amps, celsius);
/** A transistor switched on in step with its diode: a few hundredths of a volt. */
const synchronous = (amps: number): Junction => ({ saturation: 1e-3, slope: 0.005, ohms: 0.006, workAmps: amps });

/** How far the unit warms above the surroundings while it runs. */
export const UNIT_RISE_K = 40;
const SHORT_OHMS = 0.01;
const BROKEN_OHMS = 1e8;
/** What every unit hangs on each wire to sense and fire by: it also ties down a wire that nothing else does. */
const FIRING_OHMS = 47_000;
const ASSUMED_AMPS = 25;

/** Elements from the magnets to the unit's pins: windings, plug, cable, rectifier, control. */
export function permanentMagnetElements(family: Family, state: MachineState, standing: Standing): Element[] {
  const wires = wireElements(family, state, standing);
  return family.unit ? [...wires, ...unitElements(family.unit, state, standing, leadsOf(state.sheet))] : wires;
}

/** Windings, plug and cable, up to the pins of whatever the wires lead to. */
export function wireElements(family: Family, state: MachineState, standing: Standing): Element[] {
  const parted = (connector: Standing["unplug"][number]): boolean => standing.unplug.includes(connector);
  const elements = windingElements(state, family.coils(state), standing.engine === "running" ? standing.rpm * gripOf(state, standing.loads) : 0);
  const leads = leadsOf(state.sheet);
  const off = standing.loads === "off" ? family.switchedLeads(leads) : [];
  leads.forEach((lead, i) => {
    elements.push(
      { kind: "resistor", id: `pin:${lead}`, a: `leg:${lead}`, b: parted("stator") ? `open:${lead}` : `harness:${lead}`, ohms: state.pinOhms[i] as number },
      { kind: "resistor", id: `cable:${lead}`, a: `harness:${lead}`, b: `cable:${lead}`, ohms: state.cableOhms[i] as number },
      { kind: "switch", id: `unitPlug:${lead}`, a: `cable:${lead}`, b: `unitLeg:${lead}`, closed: !parted("unit") && !off.includes(lead) },
    );
  });
  return elements;
}

/** The unit between its wires and its rails, with its control. */
export function unitElements(plan: UnitPlan, state: MachineState, standing: Standing, leads: Leads): Element[] {
  const { unit, sheet } = state;
  const running = standing.engine === "running";
  const celsius = state.ambientC + (running ? UNIT_RISE_K : 0);
  // Unpowered on the bench no gate is driven, whatever the control would do with it.
  const gate: Gate = !running ? "off" : unit.gates === "control" ? { control: "control" } : unit.gates;
  // A leg's peak is about the rated amps: Idc = (3/π)·Ipeak, and nearly all of it while its thyristor shorts it.
  const amps = sheet.ratedAmps ?? ASSUMED_AMPS;
  const [diode, thyristor, channel] = [diodeAt(amps, celsius), thyristorAt(amps, celsius), synchronous(amps)];
  const body = running ? channel : bodyAt(amps, celsius);
  // Behind a pin that is broken off inside the rail hangs on nothing but what creeps across the break.
  const rail: Node = unit.outputBroken ? "unit+" : "B+";
  const elements: Element[] = unit.outputBroken ? [{ kind: "resistor", id: "outputBreak", a: "unit+", b: "B+", ohms: BROKEN_OHMS }] : [];
  /** A rectifier that lets current from `a` to `b`; a transistor conducts by itself from its second node to its first. */
  const sound = (kind: RectifierKind, id: string, a: Node, b: Node, driven: Gate): Rectifier =>
    kind === "diode"
      ? { kind: "diode", id, a, b, junction: diode }
      : kind === "thyristor"
        ? { kind: "scr", id, a, b, junction: thyristor, gate }
        : { kind: "mosfet", id, a: b, b: a, body, channel, gate: driven };
  for (const lead of leads) {
    const terminal = `unitLeg:${lead}`;
    const [up, low] = [unit.ways[wayAt(lead, "upper")], unit.ways[wayAt(lead, "lower")]];
    if (up) elements.push(...wayElements(up, sound(plan.upper, `up:${lead}`, terminal, rail, "off")));
    if (low) elements.push(...wayElements(low, sound(plan.lower, `low:${lead}`, "unit-", terminal, gate)));
    elements.push({ kind: "resistor", id: `firing:${lead}`, a: terminal, b: "unit-", ohms: FIRING_OHMS });
    if (low && (plan.shunts === "every" || plan.shunts.includes(lead)))
      elements.push({ kind: "scr", id: `shunt:${lead}`, a: terminal, b: "unit-", junction: thyristor, gate });
  }
  const sensed = unit.senseOpen ? "unit-" : sheet.sense === "battery" && !standing.unplug.includes("output") ? "battery+" : "B+";
  elements.push(
    { kind: "resistor", id: "innerGround", a: "unit-", b: "B-", ohms: unit.innerGroundOhms },
    { kind: "control", id: "control", a: sensed, b: "unit-", law: plan.holds === "letting-go" ? "series" : "shunt", setVolts: unit.setVolts },
  );
  return elements;
}

type Rectifier = Extract<Element, { kind: "diode" | "scr" | "mosfet" }>;

/** One way of the unit as it is: its rectifier, whole, gone, shorted or with a leak beside it. */
export function wayElements(way: Way, rectifier: Rectifier): Element[] {
  // A transistor's nodes stand the other way round: it conducts by itself against its first.
  const [a, b] = rectifier.kind === "mosfet" ? [rectifier.b, rectifier.a] : [rectifier.a, rectifier.b];
  const { id } = rectifier;
  if (way === "sound") return [rectifier];
  if (way === "open") return [];
  if (way === "shorted") return [{ kind: "resistor", id, a, b, ohms: SHORT_OHMS }];
  return [rectifier, { kind: "resistor", id: `${id}:leak`, a, b, ohms: way.leakOhms }];
}
