import { type Element, elementsOf, type Netlist, type Probe } from "../circuit/netlist";
import { type Steady, steady } from "../circuit/steady";

/** Elements without a current of their own. */
const DRIVEN: readonly Element["kind"][] = ["coupling", "control", "source", "chopper", "fieldControl"];

/** What a waveform shows: the volts of a point over battery minus ("leg:1"), between two ("leg:1,leg:2"), or a current ("@battery"). */
export function probeNamed(name: string, netlist: Netlist): Probe | undefined {
  if (name.startsWith("@")) {
    const id = name.slice(1);
    return netlist.elements.some((element) => element.id === id && !DRIVEN.includes(element.kind)) ? { amps: id } : undefined;
  }
  const nodes = new Set(netlist.elements.flatMap((element) => (element.kind === "coupling" ? [] : [element.a, element.b])));
  const [a = "", b = netlist.ground] = name.split(",");
  return nodes.has(a) && nodes.has(b) ? { volts: [a, b] } : undefined;
}

/** Steady waveforms over one block. @throws when the netlist has no battery to judge steadiness by */
export function waves(netlist: Netlist, probes: readonly Probe[]): Steady {
  const [battery] = elementsOf(netlist, "battery");
  if (!battery) throw new Error("A waveform needs a machine with a battery.");
  return steady(netlist, { probes, judge: [battery.a, battery.b], fine: true });
}
