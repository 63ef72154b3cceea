import { ampsInto, type Cell } from "./cell";
import { conduct, type Junction } from "./junction";
import { inject, solve, stamp } from "./matrix";
import { CLOSED_OHMS, type Element, elementsOf, type Netlist, type Node, nodeNumber, numberNodes, OPEN_OHMS, type Probe } from "./netlist";

/**
 * The operating point of a circuit at rest: windings are their copper, junctions their full exponential curve. Nodal
 * analysis with Newton's method; where that wanders, small conductances to ground are laid across every junction and taken
 * away again step by step (gmin stepping, as SPICE does).
 */
interface OperatingPoint {
  /** Volts between nodes, or the current into an element at `a`. */
  read: (probe: Probe) => number;
}

/** The circuit has no operating point that Newton's method could find; `saw` tells how far it came. */
class NoOperatingPoint extends Error {}

/** Every node's leak to ground, S: damp and plastic; keeps parted pieces of a circuit from floating without a value. */
const LEAK = 1e-10;
const ROUNDS = 120;
/**
 * A branch has settled when its volts move by less than this, V, or by so little that its current does, A: a piece that hangs
 * on megohms floats within the sums' rounding, and that moves no meter. `enough` is taken when rounding lets it get no nearer.
 */
const SETTLED = { volts: 1e-7, amps: 1e-11 } as const;
const ENOUGH = { volts: 1e-5, amps: 1e-9 } as const;
const GMIN_STEPS = [1e-2, 1e-3, 1e-4, 1e-6, 1e-8, 1e-10, 0] as const;
/** Leakage of a blocking rectifier, S. */
const BLOCKED = 1e-9;
/** Width of the knee with which a meter's source gives up its current, V. */
const KNEE = 0.025;

/** Current and slope of an element at given volts; undefined for those without a branch of their own. */
function branch(element: Element, volts: number): { amps: number; siemens: number } | undefined {
  const linear = (siemens: number) => ({ amps: volts * siemens, siemens });
  switch (element.kind) {
    case "resistor":
    case "winding":
    case "field":
    case "fuse":
      return linear(1 / element.ohms);
    // A regulator that feels less than its set volts lets everything through.
    case "chopper":
      return linear(1 / (element.gate === "off" ? OPEN_OHMS : CLOSED_OHMS));
    case "switch":
      return linear(1 / (element.closed ? CLOSED_OHMS : OPEN_OHMS));
    case "diode":
      return withLeak(element.junction, volts);
    case "scr":
      return element.gate === "on" ? withLeak(element.junction, volts) : linear(BLOCKED);
    case "mosfet": {
      const back = withLeak(element.body, -volts);
      return { amps: -back.amps, siemens: back.siemens };
    }
    case "battery":
      return battery(element.cell, volts);
    case "current":
      return { amps: element.amps, siemens: 0 };
    case "source": {
      // Beyond the knee the curve goes on as its tangent: the same open-circuit volts, and Newton does not creep.
      const past = (volts - element.complianceVolts) / KNEE;
      const exp = Math.exp(Math.min(2, past));
      return { amps: element.amps * (exp * (1 + Math.max(0, past - 2)) - 1), siemens: (element.amps * exp) / KNEE };
    }
    default:
      return undefined;
  }
}

function withLeak(junction: Junction, volts: number): { amps: number; siemens: number } {
  const { amps, siemens } = conduct(junction, volts);
  return { amps: amps + BLOCKED * volts, siemens: siemens + BLOCKED };
}

/** The battery's steady curve inverted, and its slope. */
function battery(cell: Cell, volts: number): { amps: number; siemens: number } {
  const amps = ampsInto(cell, volts);
  return { amps, siemens: 1 / (cell.ohms + (amps > 0 ? cell.acceptVolts / (amps + cell.acceptAmps) : cell.polarOhms)) };
}

/** Finds the operating point. @throws {NoOperatingPoint} when there is none to be found */
export function operatingPoint(netlist: Netlist): OperatingPoint {
  const nodes = numberNodes(netlist);
  const n = nodes.size - 1;
  const branches = netlist.elements
    .filter(
      (element): element is Exclude<Element, { kind: "coupling" }> =>
        element.kind !== "coupling" && element.kind !== "control" && element.kind !== "fieldControl",
    )
    .map((element) => ({ element, a: nodeNumber(nodes, element.a), b: nodeNumber(nodes, element.b) }));
  // A start near the truth: at rest every node of a machine lies between its battery's posts.
  let volts = new Float64Array(n);
  for (const { a, cell } of elementsOf(netlist, "battery")) {
    const plus = nodeNumber(nodes, a);
    if (plus >= 0) volts[plus] = cell.openVolts;
  }
  const at = (node: number): number => (node < 0 ? 0 : (volts[node] as number));
  const slopes = new Float64Array(branches.length);
  const newton = (gmin: number): boolean => {
    const before = volts.slice();
    for (let round = 0; round < ROUNDS; round++) {
      const matrix = new Float64Array(n * n);
      const rhs = new Float64Array(n);
      for (let i = 0; i < n; i++) matrix[i * n + i] = LEAK + gmin;
      branches.forEach(({ element, a, b }, k) => {
        const across = at(a) - at(b);
        const linear = branch(element, across);
        slopes[k] = linear?.siemens ?? 0;
        if (!linear) return;
        stamp(matrix, n, a, b, linear.siemens);
        inject(rhs, a, b, linear.amps - linear.siemens * across);
      });
      if (!solve(matrix, rhs, n)) break;
      // Judged across elements: a parted piece as a whole may float to any value without meaning anything.
      let moved = 0;
      let [settled, enough] = [true, true];
      const shift = (node: number): number => (node < 0 ? 0 : (rhs[node] as number) - (volts[node] as number));
      branches.forEach(({ a, b }, k) => {
        const off = Math.abs(shift(a) - shift(b));
        const amps = off * (slopes[k] as number);
        moved = Math.max(moved, off);
        if (off > SETTLED.volts && amps > SETTLED.amps) settled = false;
        if (off > ENOUGH.volts && amps > ENOUGH.amps) enough = false;
      });
      if (!Number.isFinite(moved)) break;
      // Large moves are shortened: far from the solution a tangent points too far.
      const share = moved > 4 ? 4 / moved : 1;
      for (let i = 0; i < n; i++) volts[i] = (volts[i] as number) + share * ((rhs[i] as number) - (volts[i] as number));
      if (settled || (enough && round === ROUNDS - 1)) return true;
    }
    volts = before;
    return false;
  };
  if (!newton(0)) {
    for (const gmin of GMIN_STEPS) {
      if (!newton(gmin)) throw new NoOperatingPoint(`The circuit at rest does not settle (${n} nodes, stuck at ${gmin} S of help).`);
    }
  }
  return {
    read: (probe) => {
      if ("volts" in probe) return at(nodeNumber(nodes, probe.volts[0])) - at(nodeNumber(nodes, probe.volts[1]));
      const found = branches.find(({ element }) => element.id === probe.amps);
      return found ? (branch(found.element, at(found.a) - at(found.b))?.amps ?? 0) : Number.NaN;
    },
  };
}

/** Reads one pair of nodes at rest; a shorthand for the many tests that ask for no more. */
export function restVolts(netlist: Netlist, a: Node, b: Node): number {
  return operatingPoint(netlist).read({ volts: [a, b] });
}
