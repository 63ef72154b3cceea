import type { Cell } from "./cell";
import type { Junction } from "./junction";

/**
 * A netlist: a circuit as data. Elements join named nodes; the solvers and the SPICE writer read nothing else, so that
 * whatever knows about machines stays outside.
 */

export type Node = string;

/** What opens the gate of a controlled rectifier: always, never, or a control. */
export type Gate = "on" | "off" | { control: string };

interface Between {
  id: string;
  a: Node;
  b: Node;
}

/** An element of a netlist. Volts are those of `a` (anode, plus) over `b` (cathode, minus); current flows in at `a`. */
export type Element =
  | ({ kind: "resistor"; ohms: number } & Between)
  | ({ kind: "switch"; closed: boolean } & Between)
  /** A coil with its own EMF: v = peak·sin(ωt + phase) + R·i + L·di/dt. */
  | ({ kind: "winding"; ohms: number; henries: number; peakVolts: number; phaseDegrees: number } & Between)
  /** Coupling factor between two windings, as M = k·√(L1·L2). */
  | { kind: "coupling"; id: string; of: readonly [string, string]; factor: number }
  | ({ kind: "diode"; junction: Junction } & Between)
  /** A rectifier that starts when gated and stops when its current does. */
  | ({ kind: "scr"; junction: Junction; gate: Gate } & Between)
  /** A transistor from drain `a` to source `b`: its body diode passes b → a always; the gate lets a → b pass as a rectifier. */
  | ({ kind: "mosfet"; body: Junction; channel: Junction; gate: Gate } & Between)
  | ({ kind: "battery"; cell: Cell } & Between)
  /** A current that flows from `a` through the element to `b`, whatever the volts. */
  | ({ kind: "current"; amps: number } & Between)
  /** A meter's own source: constant current out of `a` up to its compliance. */
  | ({ kind: "source"; amps: number; complianceVolts: number } & Between)
  /** A fuse: melts when ∫I²dt passes its melting integral, or when it carries well over its rating for long. */
  | ({ kind: "fuse"; ohms: number; amps: number } & Between)
  /**
   * Phase control of rectifiers: each gated one is fired `delay` degrees after its volts turn positive. `shunt` fires earlier
   * the higher the sensed volts are, `series` later.
   */
  | ({ kind: "control"; law: "shunt" | "series"; setVolts: number } & Between);

export type ElementOf<K extends Element["kind"]> = Extract<Element, { kind: K }>;

/** A circuit: its elements, the node that counts as 0 V, and the electrical frequency of every winding, in Hz (0 at rest). */
export interface Netlist {
  elements: readonly Element[];
  ground: Node;
  hertz: number;
}

/** What can be asked of a solved circuit: volts between two nodes, or the current into an element at `a`. */
export type Probe = { volts: readonly [Node, Node] } | { amps: string };

/** Resistance of a closed switch, a plugged pin, in Ω; an open one leaks like clean plastic. */
export const CLOSED_OHMS = 0.0008;
export const OPEN_OHMS = 1e10;

/** The elements of one kind. */
export function elementsOf<K extends Element["kind"]>(netlist: Netlist, kind: K): ElementOf<K>[] {
  return netlist.elements.filter((element): element is ElementOf<K> => element.kind === kind);
}

/** Every node but ground, numbered from 0 in the order met; ground is −1. */
export function numberNodes(netlist: Netlist): Map<Node, number> {
  const nodes = new Map<Node, number>([[netlist.ground, -1]]);
  for (const element of netlist.elements) {
    if (element.kind === "coupling") continue;
    for (const node of [element.a, element.b]) if (!nodes.has(node)) nodes.set(node, nodes.size - 1);
  }
  return nodes;
}

/** A bug in whoever built the netlist: a node, element or gate that isn't there. */
export class NetlistProblem extends Error {}

/** Looks up a node's number. @throws {NetlistProblem} when no element touches it */
export function nodeNumber(nodes: ReadonlyMap<Node, number>, node: Node): number {
  const number = nodes.get(node);
  if (number === undefined) throw new NetlistProblem(`No element touches the node ${node}.`);
  return number;
}
