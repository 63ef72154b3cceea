import { junctionOf } from "../../circuit/junction";
import type { Element, Node } from "../../circuit/netlist";
import type { Standing } from "../standing";
import type { MachineState } from "../state";

/** Lamps that burn on a coil's AC, whatever the battery does: a machine's own headlamp and tail lamp. */
const LAMPS = { watts: 38, volts: 12.6 } as const;

/** The lamps on a wire, lit while the engine runs with its lights on; cold filaments and an open switch otherwise. */
export function lampElements(wire: Node, { sheet }: Pick<MachineState, "sheet">, { engine, loads }: Standing): Element[] {
  if (engine !== "running" || loads === "off") return [];
  const ohms = (LAMPS.volts * (sheet.systemVolts / 12)) ** 2 / LAMPS.watts;
  return [{ kind: "resistor", id: "lamps", a: wire, b: "engine", ohms }];
}

/** What clips a lamp circuit both ways: it conducts from some volts upward. */
export function clipperElements(wire: Node, ground: Node, volts: number): Element[] {
  const junction = junctionOf(volts, CLIPPER.slope, CLIPPER.ohms, CLIPPER.amps);
  return [
    { kind: "diode", id: "clip:up", a: wire, b: ground, junction },
    { kind: "diode", id: "clip:down", a: ground, b: wire, junction },
  ];
}

/** How steeply it clips: a tenth of a volt a decade of current, a few hundredths of an ohm. */
const CLIPPER = { slope: 0.045, ohms: 0.05, amps: 5 } as const;
