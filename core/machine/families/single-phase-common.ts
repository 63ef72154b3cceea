import { nameTapped } from "./naming";
import { singlePhase } from "./single-phase";

/** The assisting winding comes in with the lights, whose load it makes up for: nothing holds it back. */
export const singlePhaseCommon = singlePhase(
  [
    { lead: "M", ends: "C", volts: [16, 26], ohms: [0.3, 0.55], share: 0.6, halfWave: false },
    { lead: "A", ends: "C", volts: [16, 26], ohms: [0.7, 1.2], share: 0.4, halfWave: false },
  ],
  {
    id: "single-phase-common",
    title: "Single phase, two windings from a common wire",
    blurb: "A main winding and one that assists it when the lights are on, both from a common wire; highest ohms lie across the two ends.",
    terminals: [
      { id: "C", role: "common to both windings" },
      { id: "M", role: "the main winding" },
      { id: "A", role: "the winding that comes in with the lights" },
    ],
    amps: () => [6, 10],
    unit: { holds: "shorting", upper: "diode", lower: "diode", shunts: ["C", "M"], switched: ["lower"] },
    pairs: () => ["C-M", "C-A", "M-A"],
    switchedLeads: () => ["A"],
    acPairs: () => ["C-M", "C-A"],
    naming: { wires: 3, tell: nameTapped },
    looks: { wires: [3], unit: ["finned"], generator: "flywheel", earthed: "none" },
    bands: [
      { test: "stator.resistance", at: "C-M", low: 0.2, high: 0.7, says: "the main winding some 0.4 Ω" },
      { test: "stator.resistance", at: "C-A", low: 0.5, high: 1.4, says: "the assisting one some 0.9 Ω" },
      { test: "stator.resistance", at: "M-A", low: 0.7, high: 2, says: "both together" },
      { test: "stator.acVolts", at: "C-M", low: 13, rpm: 5000, says: "16 to 22 V at 5,000 rpm" },
      { test: "stator.acVolts", at: "C-A", low: 13, rpm: 5000, says: "16 to 22 V at 5,000 rpm" },
    ],
  },
);
