import { CLOSED_OHMS, type Netlist, NetlistProblem, nodeNumber, OPEN_OHMS, type Probe } from "./netlist";
import type { Plan } from "./plan";

/** What of a running circuit its probes read from: it changes under them. */
export interface Live {
  plan: Plan;
  /** Currents of the windings, overpotentials of the batteries, currents of the fields. */
  amps: Float64Array;
  eta: Float64Array;
  fieldAmps: Float64Array;
  conducts: (rectifier: number) => boolean;
  melted: ReadonlySet<string>;
  /** Has the volts between two nodes looked at with the others. @returns where they stand among what is seen */
  watch: (a: number, b: number) => number;
}

/** Makes a probe's reader: what it shows at the volts that are seen. @throws {NetlistProblem} for a probe that nothing can be read in */
export function readerOf(probe: Probe, netlist: Netlist, { plan, amps, eta, fieldAmps, conducts, melted, watch }: Live): (seen: Float64Array) => number {
  const { nodes, rectifiers, windings, batteries, fields } = plan;
  if ("volts" in probe) {
    const at = watch(nodeNumber(nodes, probe.volts[0]), nodeNumber(nodes, probe.volts[1]));
    return (seen) => seen[at] as number;
  }
  const element = netlist.elements.find((element) => element.id === probe.amps);
  switch (element?.kind) {
    case "winding": {
      const i = windings.findIndex((winding) => winding.element.id === element.id);
      return () => amps[i] as number;
    }
    case "battery": {
      const k = batteries.findIndex((battery) => battery.element.id === element.id);
      const at = rectifiers.length + windings.length + k;
      return (seen) => {
        const drop = (seen[at] as number) - element.cell.openVolts - (eta[k] as number);
        return drop / element.cell.ohms;
      };
    }
    case "field": {
      const k = fields.findIndex((field) => field.element.field === element.id);
      return () => fieldAmps[k] as number;
    }
    case "diode":
    case "scr":
    case "mosfet": {
      const from = nodeNumber(nodes, element.a);
      const ways = rectifiers.flatMap((rectifier, i) => (rectifier.element === element.id ? [{ i, rectifier, sign: rectifier.a === from ? 1 : -1 }] : []));
      return (seen) =>
        ways.reduce((sum, { i, rectifier, sign }) => sum + (conducts(i) ? sign * rectifier.siemens * ((seen[i] as number) - rectifier.volts) : 0), 0);
    }
    case "resistor":
    case "switch":
    case "fuse": {
      const ohms = element.kind === "switch" ? (element.closed ? CLOSED_OHMS : OPEN_OHMS) : element.ohms;
      const at = watch(nodeNumber(nodes, element.a), nodeNumber(nodes, element.b));
      return (seen) => (melted.has(element.id) ? 0 : (seen[at] as number) / ohms);
    }
    case "current":
      return () => element.amps;
    default:
      throw new NetlistProblem(`No current can be read in ${probe.amps}.`);
  }
}
