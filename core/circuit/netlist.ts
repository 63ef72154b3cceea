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
  /**
   * A coil with its own EMF: v = peak·sin(ωt + phase) + R·i + L·di/dt. One that a field excites has the peak that its field's current
   * gives it; behind a commutator the EMF stands at its peak.
   */
  | ({ kind: "winding"; ohms: number; henries: number; peakVolts: number; phaseDegrees: number; excitation?: Excitation; commutated?: true } & Between)
  /** A field winding of some ohms. What feeds it is a chopper. */
  | ({ kind: "field"; ohms: number } & Between)
  /**
   * The switch of a field, from the field's end `a` to where its current goes on to, `b`: closed at rest while its gate is on. While the
   * circuit runs it is taken as its mean: of the volts between `feed` and `b` the field gets the share that the gate's control lets
   * through, `least` at any rate, and takes the same share of its current from `feed`.
   */
  | ({ kind: "chopper"; field: string; feed: Node; seriesOhms: number; least: number; gate: Gate } & Between)
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
  | ({ kind: "control"; law: "shunt" | "series"; setVolts: number } & Between)
  /** The control of a field's chopper: it lets more through below the set volts, of either polarity, and below the most amps of a winding. */
  | ({ kind: "fieldControl"; setVolts: number; most?: { winding: string; amps: number } } & Between);

/**
 * How a field's current makes an EMF: with x = turns·I/knee its peak is `fullVolts`·2x/(1+x), plus what is left in the iron (a
 * saturating magnetisation curve after Fröhlich). `fullVolts` is reached at the knee; `turns` is the share of the field's turns that
 * carry the current, `residualVolts` has a sign.
 */
export interface Excitation {
  field: string;
  fullVolts: number;
  kneeAmps: number;
  turns: number;
  residualVolts: number;
}

/** EMF of an excited winding at a field current, V. */
export function excitedVolts({ fullVolts, kneeAmps, turns, residualVolts }: Excitation, amps: number): number {
  const x = (turns * amps) / kneeAmps;
  return (fullVolts * 2 * x) / (1 + Math.abs(x)) + residualVolts;
}

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

/** A fuse that carries this many times its rating without end melts. */
export const ENDLESS_OVERLOAD = 1.35;

/** The elements of one kind. */
export function elementsOf<K extends Element["kind"]>(netlist: Netlist, kind: K): ElementOf<K>[] {
  return netlist.elements.filter((element): element is ElementOf<K> => element.kind === kind);
}

/** Every node but ground, numbered from 0 in the order met; ground is −1. */
export function numberNodes(netlist: Netlist): Map<Node, number> {
  const nodes = new Map<Node, number>([[netlist.ground, -1]]);
  for (const element of netlist.elements) {
    if (element.kind === "coupling") continue;
    for (const node of element.kind === "chopper" ? [element.a, element.b, element.feed] : [element.a, element.b])
      if (!nodes.has(node)) nodes.set(node, nodes.size - 1);
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
