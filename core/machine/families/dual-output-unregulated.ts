import type { Element } from "../../circuit/netlist";
import { lampElements } from "./lamps";
import { diodeAt, UNIT_RISE_K, wayElements, wireElements } from "./permanent-magnet";
import { ENGINE, singlePhase } from "./single-phase";

/** The way through the diode that is built into the DC lead. */
const INNER = "D>B+";

const family = singlePhase(
  [
    { lead: "D", ends: ENGINE, volts: [26, 52], ohms: [0.25, 0.7], share: 1, halfWave: true },
    { lead: "A", ends: ENGINE, volts: [17, 30], ohms: [0.2, 0.6], share: 1, halfWave: true },
  ],
  {
    id: "dual-output-unregulated",
    title: "One DC lead, one lamp lead, nothing regulates",
    blurb: "A diode in the lead charges the battery with half of each wave; the lamps burn on AC while the engine runs. 13 to 15.6 V is healthy.",
    terminals: [
      { id: "D", role: "the DC lead, its diode built in" },
      { id: "A", role: "the AC lead of the lamps" },
    ],
    amps: () => [2, 5],
    // What stands between lead and battery is one diode; nothing holds the volts down.
    unit: { holds: "shorting", upper: "diode", lower: "diode", shunts: [], switched: [], inLead: true },
    pairs: () => ["A"],
    acPairs: () => ["A"],
    innerDiodes: () => ["D"],
    lampLeads: () => ["A"],
    ways: () => [INNER],
    looks: { wires: [2], unit: ["none"], generator: "flywheel", earthed: "some" },
    bands: [
      { test: "charge.volts", low: 13, high: 15.6, says: "13 to 15.6 V by load: nothing regulates it" },
      { test: "charge.outputVolts", low: 13, high: 15.8, says: "13 to 15.8 V where the lead ends" },
      { test: "stator.resistance", at: "A", low: 0.1, high: 0.8, says: "0.2–0.6 Ω to the engine" },
      { test: "stator.acVolts", at: "A", low: 12, rpm: 3600, says: "some 13 V and more at 3,600 rpm" },
      { test: "stator.dcVolts", low: 9, rpm: 3600, says: "well over 9 V, lead unplugged, at 3,600 rpm" },
    ],
    untested: ["regulator.diode", "regulator.ground", "charge.groundDrop", "swap.unit"],
    lacks: [
      "regulator.diode-open",
      "regulator.diode-shorted",
      "regulator.diode-leaky",
      "regulator.no-output",
      "regulator.set-high",
      "regulator.set-low",
      "regulator.never-regulates",
      "regulator.sense-open",
      "regulator.ground-open",
      "regulator.output-open",
      "regulator.wrong-unit",
      "regulator.other-system",
      "regulator.fails-hot",
      "wiring.ground-resistance",
    ],
  },
);

export const dualOutputUnregulated: typeof family = {
  ...family,
  coils: (state) => family.coils(state).map((coil) => (coil.lead === "D" ? { ...coil, from: "inner:D" } : coil)),
  elements: (state, standing) => [
    ...wireElements(dualOutputUnregulated, state, standing),
    ...innerDiode(state.unit.ways[INNER] ?? "sound", state.sheet.ratedAmps ?? ASSUMED_AMPS, state.ambientC + (standing.engine === "running" ? UNIT_RISE_K : 0)),
    // The lead goes to the battery by itself; there is no unit for a ground wire to come from.
    { kind: "resistor", id: "lead", a: "unitLeg:D", b: "B+", ohms: 0.001 },
    { kind: "resistor", id: "unit-", a: "unit-", b: "B-", ohms: 0.001 },
    ...lampElements("unitLeg:A", state, standing),
  ],
};

const ASSUMED_AMPS = 3;

function innerDiode(way: Parameters<typeof wayElements>[0], amps: number, celsius: number): Element[] {
  return wayElements(way, { kind: "diode", id: "inner", a: "inner:D", b: "leg:D", junction: diodeAt(amps, celsius) });
}
