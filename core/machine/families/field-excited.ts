import type { Element, Gate } from "../../circuit/netlist";
import { OPEN_OHMS } from "../../circuit/netlist";
import { excitationOf, fieldElements, leastShareOf } from "../excitation";
import { polePairsOf, printedMiddle } from "../printed";
import type { Sheet } from "../sheet";
import type { Standing } from "../standing";
import type { Field, MachineState, Winding } from "../state";
import type { Family, Leads } from "./family";
import { unitElements, wireElements } from "./permanent-magnet";
import { threePhase } from "./three-phase";

/** The three phases among the wires; the field's two come behind them. */
const phases = (leads: Leads): Leads => leads.slice(0, 3);
const [FEED, RETURN] = ["F1", "F2"] as const;

const base = threePhase({
  id: "field-excited",
  title: "Three-phase with a wound rotor, field regulated",
  blurb: "The rotor is an electromagnet fed over brushes; the regulator switches its field, and the output follows.",
  // A regulator that switches the field lets go of the output by it.
  unit: { holds: "letting-go", upper: "diode", lower: "diode", shunts: [], switched: [] },
});

export const fieldExcited: Family = {
  ...base,
  terminals: [
    ...base.terminals,
    { id: FEED, role: "the field's feed, first brush" },
    { id: RETURN, role: "the field's return to the regulator, second brush" },
  ],
  ownNames: false,
  joins: [
    ["wye", 0.75],
    ["delta", 0.25],
  ],
  amps: () => [28, 90],
  field: {
    part: "rotor",
    wires: { feed: FEED, back: RETURN },
    fed: "key",
    test: "field.resistance",
    ohms: [3, 5],
    contactOhms: ({ systemVolts }) => 0.1 * (systemVolts / 12),
    residual: 0.012,
  },
  belt: true,
  pairs: (leads) => base.pairs(phases(leads)),
  acPairs: () => [],
  agree: (leads) => base.agree(phases(leads)),
  floating: (leads) => [...leads],
  neighbours: (leads) => base.neighbours(phases(leads)),
  ways: (leads) => base.ways(phases(leads)),
  alike: (leads) => base.alike(phases(leads)).map((names) => [...names, ...leads.slice(3)]),
  secondSeat: (lead, leads) => (leads.indexOf(lead) > 2 ? lead : base.secondSeat(lead, phases(leads))),
  twoWays: (leads) => base.twoWays(phases(leads)),
  windings,
  coils: ({ sheet, winding }) => base.coils({ sheet: { ...sheet, legs: sheet.legs.slice(0, 3) }, winding }),
  elements,
  lacks: ["stator.wrong-fit", "regulator.wrong-unit"],
  looks: { wires: [2, 3, 5], unit: ["on-generator", "finned"], generator: "rings", earthed: "none" },
  bands: [
    { test: "field.resistance", low: 2.6, high: 5.6, says: "3–5 Ω from ring to ring" },
    { test: "field.supply", low: 11.3, says: "battery volts, less half a volt" },
    { test: "field.fullField", low: 14.4, says: "volts climb at once while the field is fed in full" },
    { test: "stator.resistance", low: 0.03, high: 0.5, says: "a few tenths of an ohm" },
  ],
  // The field is fed only while everything is joined: unplugged, the phases give nothing.
  untested: ["stator.acVolts", "stator.acVoltsAtUnit", "rotor.pull", "charge.outputVolts"],
};

/** Share of the idle speed at which the phases, fully excited, just reach the battery's volts. */
const CUT_IN = 0.6;
/** Volts between two phases, rms, at which a bridge begins to charge 12 V: its peak is the battery's and two junctions'. */
const REACHES = 14.3 / Math.SQRT2;
const PAIR_TO_PEAK = Math.sqrt(1.5);
/** Volts that the copper of a pair takes at the rated output, for 12 V. */
const COPPER_VOLTS = 5.5;

/** At full field: EMF from where it begins to charge, inductance from the rated amps (as on permanent magnets), copper as printed or by size. */
function windings(sheet: Sheet, amps: number): Winding[] {
  const scale = sheet.systemVolts / 12;
  const peak = (REACHES * scale) / PAIR_TO_PEAK / (CUT_IN * sheet.idleRpm);
  const delta = sheet.winding === "delta";
  const henries = ((90 / Math.PI ** 2) * peak) / (polePairsOf(sheet) * amps);
  const pairOhms = printedMiddle(sheet, "stator.resistance", (COPPER_VOLTS * scale) / amps);
  return phases(sheet.legs.map(({ id }) => id)).map(() => ({
    voltsPerRpm: delta ? peak * Math.sqrt(3) : peak,
    ohms: delta ? 1.5 * pairOhms : pairOhms / 2,
    henries: delta ? 3 * henries : henries,
    open: false,
  }));
}

/** What the regulator's transistor keeps for itself, as ohms, and the way inside it from its feed to the first brush. */
const CONTACT_OHMS = 0.05;

function elements(state: MachineState, standing: Standing): Element[] {
  const { unit, sheet } = state;
  const field = state.field as Field;
  const excited = wireElements(fieldExcited, state, standing).map(
    (element): Element => (element.kind === "winding" ? { ...element, excitation: excitationOf(state, element.peakVolts) } : element),
  );
  const inUnit = unitElements(base.unit as NonNullable<Family["unit"]>, state, standing, phases(sheet.legs.map(({ id }) => id)));
  const [first, second] = [FEED, RETURN].map((lead) => sheet.legs.findIndex(({ id }) => id === lead)) as [number, number];
  const inLeads = [first, second].reduce((sum, i) => sum + (state.pinOhms[i] ?? 0) + (state.cableOhms[i] ?? 0), 0);
  const parted = standing.unplug.includes("stator") || standing.unplug.includes("unit");
  const past = standing.fullField === true;
  const gate: Gate = past ? "on" : unit.gates === "control" ? { control: "control" } : unit.gates;
  return [
    ...excited,
    ...inUnit.map((element): Element => (element.kind === "control" ? { ...element, kind: "fieldControl" } : element)),
    ...fieldElements(field, `ring:${FEED}`, `leg:${RETURN}`),
    { kind: "resistor", id: "brushes", a: `leg:${FEED}`, b: `ring:${FEED}`, ohms: field.contactOhms },
    { kind: "resistor", id: "fieldFeed", a: "exciter", b: `unitLeg:${FEED}`, ohms: CONTACT_OHMS },
    {
      kind: "chopper",
      id: "chopper",
      field: "field",
      feed: "exciter",
      a: `unitLeg:${RETURN}`,
      b: past ? "engine" : "unit-",
      seriesOhms: parted ? OPEN_OHMS : field.contactOhms + inLeads + 2 * CONTACT_OHMS + (field.touch ? field.touch.along * field.ohms : 0),
      least: parted ? 0 : leastShareOf(field),
      gate: standing.engine === "running" || standing.key === "on" ? gate : "off",
    },
  ];
}
