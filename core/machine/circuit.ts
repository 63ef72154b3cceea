import { chargerCell } from "../battery/charger";
import { cellOf } from "../battery/model";
import type { Element, Netlist, Node } from "../circuit/netlist";
import { gripOf } from "./excitation";
import { familyOf, isMirrored } from "./families/registry";
import { polePairsOf } from "./printed";
import { combinedCell, isolatorJunction } from "./secondBattery";
import type { Standing } from "./standing";
import type { MachineState } from "./state";
import { isAsleep } from "./waking";

/**
 * The whole machine as a netlist in one set-up: the family's generator and unit, the way to the battery, fuses, loads,
 * draws and starter. Every probe point is a node of the same name; ground of the sums is the battery's minus post.
 */
export function circuitOf(machine: MachineState, standing: Standing): Netlist {
  const state: MachineState = isAsleep(machine.sheet, standing) ? { ...machine, unit: { ...machine.unit, gates: "off" } } : machine;
  const running = standing.engine === "running";
  return {
    elements: [...familyOf(state.family).elements(state, standing), ...wayHome(state, standing), ...consumers(state, standing)],
    ground: "battery-",
    hertz: running ? (standing.rpm * gripOf(state, standing.loads) * polePairsOf(state.sheet)) / 60 : 0,
  };
}

/** What parted pins leave between them: clean plastic. */
const PARTED_OHMS = 1e9;
/** Volts at which loads are stated, for 12 V. */
const LOAD_VOLTS = 13.5;

/** From the unit's pins to the battery: output wire, main fuse, ground, straps. */
function wayHome(state: MachineState, standing: Standing): Element[] {
  const { sheet, battery } = state;
  const cell = cellOf(battery);
  const parted = (connector: Standing["unplug"][number]): boolean => standing.unplug.includes(connector);
  // With every pole turned round a circuit is the same circuit; only the names at its posts change.
  const toPlus = sheet.earth === "positive" && !isMirrored(sheet);
  const earth: Node = toPlus ? "battery+" : "cable-";
  const [main, ...others] = sheet.fuses;
  const parts = sheet.isolator === "diode";
  const combined = combinedCell(sheet, battery);
  const elements: Element[] = [
    { kind: "switch", id: "outputPlug", a: "B+", b: "feed", closed: !parted("output") },
    { kind: "resistor", id: "outputWire", a: "feed", b: parts ? "isolator" : `fuse:${main?.id}:out`, ohms: state.outputOhms },
    ...(parts ? [{ kind: "diode", id: "isolator", a: "isolator", b: `fuse:${main?.id}:out`, junction: isolatorJunction(sheet) } as const] : []),
    { kind: "resistor", id: "groundWire", a: "B-", b: toPlus ? "cable-" : "engine", ohms: state.groundOhms },
    { kind: "resistor", id: "strap", a: "engine", b: earth, ohms: state.strapOhms },
    { kind: "resistor", id: "minusPost", a: "cable-", b: "battery-", ohms: parted("negative") ? PARTED_OHMS : 0.0005 },
    { kind: "resistor", id: "plusPost", a: "battery+", b: "post+", ohms: state.postOhms },
    { kind: "battery", id: "battery", a: "post+", b: "battery-", cell },
    ...(combined ? [{ kind: "battery", id: "combined", a: "battery+", b: "battery-", cell: combined } as const] : []),
    ...(state.chargerVolts === undefined
      ? []
      : [{ kind: "battery", id: "charger", a: "battery+", b: "battery-", cell: chargerCell(state.chargerVolts) } as const]),
  ];
  const fuse = (id: string, amps: number): Element => {
    const ohms = state.fuseOhms[id] ?? 0.002;
    const [a, b] = [`fuse:${id}:in`, `fuse:${id}:out`];
    return standing.pulled.includes(id) || ohms > 1e6
      ? { kind: "resistor", id: `fuse:${id}`, a, b, ohms: PARTED_OHMS }
      : { kind: "fuse", id: `fuse:${id}`, a, b, ohms, amps };
  };
  for (const printed of [main, ...others]) {
    if (!printed) continue;
    elements.push(fuse(printed.id, printed.amps), { kind: "resistor", id: `fuseWire:${printed.id}`, a: "battery+", b: `fuse:${printed.id}:in`, ohms: 0.001 });
  }
  return elements;
}

/** Loads behind the key, draws that never sleep, and the starter. */
function consumers(state: MachineState, standing: Standing): Element[] {
  const { sheet } = state;
  const main = `fuse:${sheet.fuses[0]?.id}:out`;
  const volts = LOAD_VOLTS * (sheet.systemVolts / 12);
  const elements: Element[] = state.draws.map(({ fuse, milliamps }, i) => ({
    kind: "resistor",
    id: `draw:${i}`,
    a: fuse ? `fuse:${fuse}:out` : main,
    b: "cable-",
    ohms: (volts / milliamps) * 1000,
  }));
  const amps = standing.key === "on" ? state.loadAmps[standing.loads] : 0;
  if (amps > 0) elements.push({ kind: "resistor", id: "loads", a: main, b: "cable-", ohms: volts / amps });
  if (state.field && familyOf(state.family).field?.fed === "key") {
    elements.push(
      { kind: "switch", id: "fieldKey", a: main, b: "key", closed: standing.key === "on" },
      { kind: "resistor", id: "fieldWire", a: "key", b: "exciter", ohms: state.field.feedOhms },
    );
  }
  const cranks = standing.engine === "cranking";
  elements.push({
    kind: "resistor",
    id: "starterCable",
    a: "battery+",
    b: cranks ? "starter+" : "relay",
    ohms: state.starter.cableOhms,
  });
  if (!cranks) elements.push({ kind: "switch", id: "starterRelay", a: "relay", b: "starter+", closed: false });
  elements.push({ kind: "resistor", id: "starter", a: "starter+", b: "engine", ohms: (10.5 * (sheet.systemVolts / 12)) / state.starter.crankAmps });
  return elements;
}
