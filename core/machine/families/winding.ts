import type { Element, Node } from "../../circuit/netlist";
import { COPPER_PER_K } from "../copper";
import type { MachineState, Winding } from "../state";
import type { Coil } from "./family";

/**
 * A stator's windings as coupled coils. A winding that touches the core, is bridged to another or has shorted turns is cut there
 * into sections: EMF and copper divide by length, inductance by its square, the sections coupled with each other.
 */

/** Coupling between sections of one sound winding. */
const COUPLING = 0.995;
/** What bridges shorted turns, Ω. */
const TURN_SHORT_OHMS = 0.002;
/** Resistance of a break. */
const BROKEN_OHMS = 1e8;
/** A section is never shorter than this share: a touch at the very lead still has a wire. */
const LEAST = 0.004;

interface Cut {
  along: number;
  node: Node;
}

/** Elements of all windings, their touches and bridges, at the given speed of the magnets. @param coils how the windings lie, in the state's order */
export function windingElements(state: MachineState, coils: readonly Coil[], rpm: number): Element[] {
  const elements: Element[] = [];
  state.windings.forEach((winding, i) => {
    const { lead, from, to, phase } = coils[i] as Coil;
    const cuts: Cut[] = [];
    if (winding.touch) {
      cuts.push({ along: winding.touch.along, node: `touch:${lead}` });
      elements.push({ kind: "resistor", id: `touch:${lead}`, a: `touch:${lead}`, b: "engine", ohms: winding.touch.ohms });
    }
    if (state.bridges.some((bridge) => bridge.from === i || bridge.to === i)) cuts.push({ along: 0.5, node: `middle:${lead}` });
    elements.push(...sectionsOf(winding, { lead, start: from, end: to, cuts, phase, rpm, celsius: state.windingC }));
  });
  state.bridges.forEach(({ from, to, ohms }, i) => {
    elements.push({ kind: "resistor", id: `bridge:${i}`, a: `middle:${coils[from]?.lead}`, b: `middle:${coils[to]?.lead}`, ohms });
  });
  return elements;
}

interface Laid {
  lead: string;
  start: Node;
  end: Node;
  cuts: Cut[];
  phase: number;
  rpm: number;
  celsius: number;
}

function sectionsOf(winding: Winding, { lead, start: lies, end, cuts, phase, rpm, celsius }: Laid): Element[] {
  const copper = winding.ohms * (1 + COPPER_PER_K * (celsius - 20));
  const elements: Element[] = [];
  let start = lies;
  if (winding.open) {
    elements.push({ kind: "resistor", id: `break:${lead}`, a: start, b: `coil:${lead}`, ohms: BROKEN_OHMS });
    start = `coil:${lead}`;
  }
  // Shorted turns lie at the far end, where the winding's own cuts are kept clear of them.
  const { shorted } = winding;
  const sound = 1 - (shorted?.share ?? 0);
  const marks = [...cuts]
    .sort((tap, other) => tap.along - other.along)
    .map(({ along, node }) => ({ along: Math.min(sound - LEAST, Math.max(LEAST, along * sound)), node }));
  if (shorted) marks.push({ along: sound, node: `turns:${lead}` });
  const ends = [...marks, { along: 1, node: end }];
  let from = 0;
  const ids: string[] = [];
  ends.forEach(({ along, node }, k) => {
    const share = Math.max(LEAST, along - from);
    const id = `winding:${lead}${k > 0 ? `:${k}` : ""}`;
    ids.push(id);
    elements.push({
      kind: "winding",
      id,
      a: start,
      b: node,
      ohms: copper * share,
      henries: winding.henries * share * share,
      peakVolts: winding.voltsPerRpm * rpm * share,
      phaseDegrees: phase,
    });
    start = node;
    from = along;
  });
  ids.forEach((id, i) => {
    ids.slice(i + 1).forEach((other, j) => {
      const factor = shorted && i + 1 + j === ids.length - 1 ? shorted.coupling : COUPLING;
      elements.push({ kind: "coupling", id: `k:${lead}:${i}${i + 1 + j}`, of: [id, other], factor });
    });
  });
  if (shorted) elements.push({ kind: "resistor", id: `short:${lead}`, a: `turns:${lead}`, b: end, ohms: TURN_SHORT_OHMS });
  return elements;
}
