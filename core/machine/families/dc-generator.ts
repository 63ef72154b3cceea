import { junctionOf } from "../../circuit/junction";
import type { Element, Gate } from "../../circuit/netlist";
import { OPEN_OHMS } from "../../circuit/netlist";
import { COPPER_PER_K } from "../copper";
import { excitationOf, excitedShare, fieldElements, leastShareOf } from "../excitation";
import type { Sheet } from "../sheet";
import type { Standing } from "../standing";
import type { Field, MachineState, Winding } from "../state";
import type { Size } from "./family";
import { wireElements } from "./permanent-magnet";
import { singlePhase } from "./single-phase";

/** The way through the cut-out. */
const CUT_OUT = "A>B+";

const family = singlePhase([], {
  id: "dc-generator",
  title: "DC generator, cut-out and voltage coil",
  blurb: "Brushes take DC off a commutator; the regulator grounds the field through its contacts, the cut-out keeps the battery off the armature.",
  terminals: [
    { id: "A", role: "the armature" },
    { id: "F", role: "the field" },
  ],
  amps: () => [7, 15],
  unit: { holds: "letting-go", upper: "diode", lower: "diode", shunts: [], switched: ["upper"] },
  looks: { wires: [2], unit: ["can"], generator: "commutator", earthed: "some" },
  bands: [
    { test: "charge.volts", low: 13, high: 15, says: "13 to 15 V once the cut-out has closed" },
    { test: "generator.field", low: 2.2, high: 6, says: "2.5–5 Ω on 12 V" },
    { test: "generator.armature", low: 0, high: 1.2, says: "well under an ohm: brushes and armature" },
    { test: "generator.output", low: 3.5, says: "it builds up with the field grounded" },
  ],
});

export const dcGenerator: typeof family = {
  ...family,
  field: {
    part: "stator",
    wires: { back: "F" },
    fed: "armature",
    test: "generator.field",
    ohms: [2.5, 5],
    contactOhms: ({ systemVolts }, amps) => (LOST.brushes * (systemVolts / 12)) / amps,
    residual: 0.04,
  },
  belt: true,
  gentleRpm: 3000,
  turning: () => ["A"],
  pairs: () => [],
  acPairs: () => [],
  floating: () => [],
  ways: () => [CUT_OUT],
  windings,
  coils: () => [{ lead: "A", from: "brush:A", to: "engine", phase: 0 }],
  elements,
  output,
  lacks: ["stator.wrong-fit", "regulator.diode-open", "regulator.diode-shorted", "regulator.diode-leaky", "regulator.wrong-unit"],
  // Its current comes home through the engine; on the unit's ground there is the field's alone.
  partNames: { stator: "Field", rotor: "Armature", regulator: "Regulator and cut-out" },
  untested: ["stator.legDrop", "rotor.pull", "regulator.diode", "charge.outputVolts", "charge.groundDrop"],
};

/** Share of the idle speed at which it builds up to the battery's volts with its field grounded, and those volts for 12 V. */
const BUILDS_UP = { at: 1.35, volts: 13.6 } as const;
/** Volts lost at the rated output in the armature, and at its brushes, for 12 V. */
const LOST = { armature: 3.4, brushes: 1 } as const;
/** What flows is steady: a henry or none makes no difference but to how fast it settles. */
const ARMATURE_HENRIES = 2e-6;
/** What the cut-out's contacts lose, its current coil with them, as a junction that blocks backward current. */
const CONTACT = { volts: 0.02, slope: 0.008, ohms: 0.006 } as const;
const WELDED_OHMS = 0.02;
const REGULATOR_OHMS = 0.05;
const BROKEN_OHMS = 1e8;
/** The current coil lets this much more than the rated output through. */
const LIMIT = 1.05;

const ratedOf = ({ ratedAmps }: Pick<Sheet, "ratedAmps">): number => ratedAmps ?? ASSUMED_AMPS;
const ASSUMED_AMPS = 10;

function windings(sheet: Sheet, amps: number): Winding[] {
  const scale = sheet.systemVolts / 12;
  // At its rated current the field, fed by the armature itself, is at its knee: there the EMF is the full one.
  const voltsPerRpm = (BUILDS_UP.volts * scale) / (BUILDS_UP.at * sheet.idleRpm);
  return [{ voltsPerRpm, ohms: (LOST.armature * scale) / amps, henries: ARMATURE_HENRIES, open: false }];
}

/** What stands in the way of the field's current beside its copper: F's wire, the regulator's contacts and its ground. */
function inFieldsWay(state: MachineState): number {
  return (state.pinOhms[1] ?? 0) + (state.cableOhms[1] ?? 0) + REGULATOR_OHMS + state.unit.innerGroundOhms;
}

function elements(state: MachineState, standing: Standing): Element[] {
  const { unit, sheet } = state;
  const field = state.field as Field;
  const running = standing.engine === "running";
  const wires = wireElements(dcGenerator, state, standing).map(
    (element): Element => (element.kind === "winding" ? { ...element, excitation: excitationOf(state, element.peakVolts), commutated: true } : element),
  );
  const parted = standing.unplug.includes("stator") || standing.unplug.includes("unit");
  const past = standing.fullField === true;
  const gate: Gate = past ? "on" : unit.gates === "control" ? { control: "control" } : unit.gates;
  const rail = unit.outputBroken ? "unit+" : "B+";
  const way = unit.ways[CUT_OUT];
  // At rest the spring holds it open.
  const cutOut: Element[] =
    way === "shorted"
      ? [{ kind: "resistor", id: "cutOut", a: "unitLeg:A", b: rail, ohms: WELDED_OHMS }]
      : running && way === "sound"
        ? [{ kind: "diode", id: "cutOut", a: "unitLeg:A", b: rail, junction: junctionOf(CONTACT.volts, CONTACT.slope, CONTACT.ohms, ratedOf(sheet)) }]
        : [{ kind: "resistor", id: "cutOut", a: "unitLeg:A", b: rail, ohms: BROKEN_OHMS }];
  return [
    ...wires,
    { kind: "resistor", id: "brushes", a: "leg:A", b: "brush:A", ohms: field.contactOhms },
    ...fieldElements(field, "leg:A", "leg:F"),
    ...cutOut,
    ...(unit.outputBroken ? [{ kind: "resistor", id: "outputBreak", a: "unit+", b: "B+", ohms: BROKEN_OHMS } as const] : []),
    { kind: "resistor", id: "innerGround", a: "unit-", b: "B-", ohms: unit.innerGroundOhms },
    {
      kind: "chopper",
      id: "chopper",
      field: "field",
      feed: "leg:A",
      a: "unitLeg:F",
      b: past ? "engine" : "unit-",
      seriesOhms: (past ? REGULATOR_OHMS : parted ? OPEN_OHMS : inFieldsWay(state)) + (field.touch ? field.touch.along * field.ohms : 0),
      least: leastShareOf(field),
      // Its contacts are closed by a spring: at rest too the field is grounded through them.
      gate: running || gate === "off" ? gate : "on",
    },
    {
      kind: "fieldControl",
      id: "control",
      a: unit.senseOpen ? "unit-" : "unitLeg:A",
      b: "unit-",
      setVolts: unit.setVolts,
      ...(unit.gates === "control" && !past ? { most: { winding: "winding:A", amps: LIMIT * ratedOf(sheet) } } : {}),
    },
  ];
}

/**
 * Its output in closed form: I = (E(If) − V − If·R)/R with the field's current If = V/Rf, which the armature carries as well; the
 * cut-out lets nothing back unless it is welded. What a regulator whose coils work lets out ends a little above the rating.
 */
function output(state: MachineState, rpm: number, volts: number, { emf, ohms, fieldShare }: Size): number {
  const way = state.unit.ways[CUT_OUT];
  const welded = way === "shorted";
  const field = state.field as Field;
  // Built up backwards, or not at all, it stands behind an open cut-out.
  if (way === "open" || state.unit.outputBroken || (!welded && field.residual <= 0)) return 0;
  const [armature] = state.windings as [Winding];
  const into = (at: number): number => (Math.max(fieldShare, leastShareOf(field)) * at) / (field.ohms + inFieldsWay(state));
  const inner = (armature.ohms * (1 + COPPER_PER_K * (state.windingC - 20)) + field.contactOhms) * ohms;
  const wire = (state.pinOhms[0] ?? 0) + (state.cableOhms[0] ?? 0) + (welded ? WELDED_OHMS : CONTACT.ohms);
  // The terminal stands above the pins by what the wire loses: found by turns, halved so that they settle on a long wire too.
  let amps = 0;
  for (let turn = 0; turn < TURNS; turn++) {
    const at = volts + amps * wire;
    const taken = into(at);
    amps = 0.5 * amps + (0.5 * (armature.voltsPerRpm * rpm * emf * excitedShare(state, taken) - volts - taken * inner)) / (inner + wire);
  }
  // What its coils cannot take from the field they cannot limit either.
  const most = state.unit.gates === "control" && fieldShare > 0 ? LIMIT * ratedOf(state.sheet) : Number.POSITIVE_INFINITY;
  return welded ? Math.min(most, amps) : Math.max(0, Math.min(most, amps));
}

const TURNS = 14;
