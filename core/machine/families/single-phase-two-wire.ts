import { singlePhase } from "./single-phase";

export const singlePhaseTwoWire = singlePhase([{ lead: "1", ends: "2", volts: [39, 67], ohms: [0.1, 0.5], share: 1, halfWave: false }], {
  id: "single-phase-two-wire",
  title: "Single phase, two wires into a three-terminal unit",
  blurb: "One winding, its two wires free of the engine; the unit stands AC, B+, AC and is grounded through its case alone.",
  terminals: [
    { id: "1", role: "an AC wire" },
    { id: "2", role: "an AC wire" },
  ],
  amps: () => [10, 20],
  unit: { holds: "letting-go", upper: "thyristor", lower: "diode", shunts: [], switched: ["upper"] },
  looks: { wires: [2], unit: ["blades", "finned"], generator: "flywheel", earthed: "none" },
  bands: [
    { test: "stator.resistance", low: 0.1, high: 0.5, says: "0.1–0.5 Ω on two wires" },
    { test: "stator.acVolts", low: 28, rpm: 3600, says: "28 V at 3,600 rpm" },
  ],
});
