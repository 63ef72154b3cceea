import { chordOf } from "./junction";
import { invert, stamp } from "./matrix";
import { CLOSED_OHMS, type Element, type ElementOf, elementsOf, type Gate, type Netlist, NetlistProblem, nodeNumber, numberNodes, OPEN_OHMS } from "./netlist";

/**
 * The plan of a transient: the netlist sorted into what the time loop touches at every step (windings, rectifiers,
 * batteries, controls, probes) and what stays put (everything linear). Only volts between a few pairs of nodes and a few
 * injected currents take part in a step, so for each pattern of conducting rectifiers ("mask") one small matrix carries
 * the injected currents straight to those volts; it is made when the pattern first comes up and kept.
 */
export interface Plan {
  nodeCount: number;
  nodes: ReadonlyMap<string, number>;
  windings: readonly WindingPlan[];
  rectifiers: readonly Rectifier[];
  batteries: readonly (Ends & { element: ElementOf<"battery"> })[];
  controls: readonly (Ends & { element: ElementOf<"control" | "fieldControl"> })[];
  fuses: readonly (Ends & { element: ElementOf<"fuse"> })[];
  currents: readonly (Ends & { element: ElementOf<"current"> })[];
  /** Fields by their choppers: from where they are fed to where their current goes. */
  fields: readonly FieldPlan[];
  /** Conductances that never change, as a nodal matrix. */
  fixed: Float64Array;
  /** Inductances, henries, and resistances of the windings: one row a winding. */
  inductance: Float64Array;
}

interface Ends {
  a: number;
  b: number;
}

interface WindingPlan extends Ends {
  element: ElementOf<"winding">;
  /** Its field's number; −1 for one that magnets excite. */
  field: number;
}

/** One field with its chopper; `ohms` is all that stands in its current's way. */
interface FieldPlan extends Ends {
  element: ElementOf<"chopper">;
  ohms: number;
}

/** One conducting direction of one element: a diode, a gated rectifier, either half of a transistor. */
interface Rectifier extends Ends {
  element: string;
  /** Volts and conductance of its chord while it conducts. */
  volts: number;
  siemens: number;
  gate: Gate;
  /** True for those that need no gate. */
  free: boolean;
}

/** Leak of every node to ground in the time domain, S: parted pieces keep a value. */
const LEAK = 1e-9;
/** Leakage of a rectifier that blocks, S. */
const BLOCKED = 1e-8;

/** Sorts a netlist for the time loop. @throws {NetlistProblem} for a coupling, gate or node that names nothing */
export function planOf(netlist: Netlist): Plan {
  const nodes = numberNodes(netlist);
  const n = nodes.size - 1;
  const ends = (element: Exclude<Element, { kind: "coupling" }>): Ends => ({ a: nodeNumber(nodes, element.a), b: nodeNumber(nodes, element.b) });
  const placed = <K extends Exclude<Element["kind"], "coupling">>(kind: K) =>
    elementsOf(netlist, kind).map((element) => ({ element, ...ends(element as Exclude<Element, { kind: "coupling" }>) }));
  const fixed = new Float64Array(n * n);
  for (let i = 0; i < n; i++) fixed[i * n + i] = LEAK;
  for (const { element, a, b } of placed("resistor")) stamp(fixed, n, a, b, 1 / element.ohms);
  for (const { element, a, b } of placed("switch")) stamp(fixed, n, a, b, 1 / (element.closed ? CLOSED_OHMS : OPEN_OHMS));
  for (const { element, a, b } of placed("battery")) stamp(fixed, n, a, b, 1 / element.cell.ohms);
  const choppers = elementsOf(netlist, "chopper");
  const windings = placed("winding").map((winding): WindingPlan => {
    const { id, excitation } = winding.element;
    const field = excitation ? choppers.findIndex((chopper) => chopper.field === excitation.field) : -1;
    if (excitation && field < 0) throw new NetlistProblem(`The winding ${id} names the field ${excitation.field}, which nothing feeds.`);
    return { ...winding, field };
  });
  return {
    nodeCount: n,
    nodes,
    windings,
    rectifiers: rectifiersOf(netlist, ends),
    batteries: placed("battery"),
    controls: [...placed("control"), ...placed("fieldControl")],
    fuses: placed("fuse"),
    currents: placed("current"),
    fields: choppers.map((element) => {
      const field = elementsOf(netlist, "field").find(({ id }) => id === element.field);
      if (!field) throw new NetlistProblem(`The chopper ${element.id} names the field ${element.field}, which is not there.`);
      return { element, a: nodeNumber(nodes, element.feed), b: nodeNumber(nodes, element.b), ohms: field.ohms + element.seriesOhms };
    }),
    fixed,
    inductance: inductanceOf(netlist, windings),
  };
}

function rectifiersOf(netlist: Netlist, ends: (element: ElementOf<"diode" | "scr" | "mosfet">) => Ends): Rectifier[] {
  const controls = new Set(elementsOf(netlist, "control").map((control) => control.id));
  return netlist.elements.flatMap((element): Rectifier[] => {
    if (element.kind !== "diode" && element.kind !== "scr" && element.kind !== "mosfet") return [];
    const { a, b } = ends(element);
    if (element.kind !== "diode" && typeof element.gate === "object" && !controls.has(element.gate.control)) {
      throw new NetlistProblem(`The gate of ${element.id} names the control ${element.gate.control}, which is not there.`);
    }
    const rectifierOf = (from: number, to: number, chord: { volts: number; ohms: number }, gate: Gate): Rectifier => ({
      element: element.id,
      a: from,
      b: to,
      volts: chord.volts,
      siemens: 1 / chord.ohms,
      gate,
      free: gate === "on",
    });
    if (element.kind === "diode") return [rectifierOf(a, b, chordOf(element.junction), "on")];
    if (element.kind === "scr") return [rectifierOf(a, b, chordOf(element.junction), element.gate)];
    return [rectifierOf(b, a, chordOf(element.body), "on"), rectifierOf(a, b, chordOf(element.channel), element.gate)];
  });
}

function inductanceOf(netlist: Netlist, windings: readonly WindingPlan[]): Float64Array {
  const n = windings.length;
  const matrix = new Float64Array(n * n);
  const place = new Map(windings.map(({ element }, i) => [element.id, i]));
  windings.forEach(({ element }, i) => {
    matrix[i * n + i] = element.henries;
  });
  for (const { id, of, factor } of elementsOf(netlist, "coupling")) {
    const [i, j] = [place.get(of[0]), place.get(of[1])];
    if (i === undefined || j === undefined) throw new NetlistProblem(`The coupling ${id} names a winding that is not there.`);
    const mutual = factor * Math.sqrt((matrix[i * n + i] as number) * (matrix[j * n + j] as number));
    matrix[i * n + j] = mutual;
    matrix[j * n + i] = mutual;
  }
  return matrix;
}

/**
 * Conductance of the windings over one step, (2L/h + R)⁻¹: trapezoidal rule over h, and at the same time backward Euler
 * over h/2, which is why a step can be halved at a switching instant without new matrices.
 */
export function windingConductance(plan: Plan, step: number): { siemens: Float64Array; reactance: Float64Array } {
  const n = plan.windings.length;
  const reactance = plan.inductance.map((henries) => (2 * henries) / step);
  const impedance = reactance.slice();
  plan.windings.forEach(({ element }, i) => {
    impedance[i * n + i] = (impedance[i * n + i] as number) + element.ohms;
  });
  const siemens = invert(impedance, n);
  if (!siemens) throw new NetlistProblem("The windings' inductances are singular: a coupling factor must be below 1.");
  return { siemens, reactance };
}

/** Adds the windings' conductance to a nodal matrix: G[i][j] between the ends of i and the ends of j. */
function stampWindings(matrix: Float64Array, plan: Plan, siemens: Float64Array): void {
  const { nodeCount: n, windings } = plan;
  const count = windings.length;
  const add = (row: number, column: number, value: number): void => {
    if (row >= 0 && column >= 0) matrix[row * n + column] = (matrix[row * n + column] as number) + value;
  };
  windings.forEach((winding, i) => {
    windings.forEach((other, j) => {
      const g = siemens[i * count + j] as number;
      if (g === 0) return;
      add(winding.a, other.a, g);
      add(winding.a, other.b, -g);
      add(winding.b, other.a, -g);
      add(winding.b, other.b, g);
    });
  });
}

/** A linear map from the injected currents (windings, batteries, fields, the mask's own sources) to the watched volts. */
export interface Transfer {
  /** Rows = watched pairs, columns = windings, batteries, fields. */
  matrix: Float64Array;
  /** The part that the conducting rectifiers' own volts and fixed currents bring. */
  constant: Float64Array;
}

/** Builds the transfer for one pattern of conducting rectifiers and blown fuses. @returns undefined when singular */
export function transferOf(
  plan: Plan,
  siemens: Float64Array,
  watched: readonly Ends[],
  conducts: (i: number) => boolean,
  blown: readonly boolean[],
): Transfer | undefined {
  const { nodeCount: n } = plan;
  const matrix = plan.fixed.slice();
  stampWindings(matrix, plan, siemens);
  const fixed = new Float64Array(n);
  const inject = (target: Float64Array, { a, b }: Ends, amps: number): void => {
    if (a >= 0) target[a] = (target[a] as number) - amps;
    if (b >= 0) target[b] = (target[b] as number) + amps;
  };
  plan.rectifiers.forEach((rectifier, i) => {
    const on = conducts(i);
    stamp(matrix, n, rectifier.a, rectifier.b, on ? rectifier.siemens : BLOCKED);
    if (on) inject(fixed, rectifier, -rectifier.siemens * rectifier.volts);
  });
  plan.fuses.forEach((fuse, i) => {
    stamp(matrix, n, fuse.a, fuse.b, 1 / (blown[i] ? OPEN_OHMS : fuse.element.ohms));
  });
  for (const current of plan.currents) inject(fixed, current, current.element.amps);
  const inverse = invert(matrix, n);
  if (!inverse) return undefined;
  const sources: readonly Ends[] = [...plan.windings, ...plan.batteries, ...plan.fields];
  const out = new Float64Array(watched.length * sources.length);
  const constant = new Float64Array(watched.length);
  const rowOf = (node: number, column: number): number => (node < 0 || column < 0 ? 0 : (inverse[node * n + column] as number));
  watched.forEach(({ a, b }, row) => {
    const between = (column: number): number => rowOf(a, column) - rowOf(b, column);
    sources.forEach((source, column) => {
      out[row * sources.length + column] = between(source.b) - between(source.a);
    });
    let sum = 0;
    for (let node = 0; node < n; node++) sum += between(node) * (fixed[node] as number);
    constant[row] = sum;
  });
  return { matrix: out, constant };
}
