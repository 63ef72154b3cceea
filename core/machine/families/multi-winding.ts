import { namePairs } from "./naming";
import { singlePhase } from "./single-phase";

export const multiWinding = singlePhase(
  [
    { lead: "1", ends: "2", volts: [45, 67], ohms: [0.3, 0.9], share: 0.65, halfWave: false },
    { lead: "3", ends: "4", volts: [90, 135], ohms: [1.3, 2.2], share: 0.35, halfWave: false },
  ],
  {
    id: "multi-winding",
    title: "Two windings on four pins, one box",
    blurb: "A charging pair and an auxiliary pair, each rectified by itself in a box whose insides no meter reaches: it is proven by elimination.",
    terminals: [
      { id: "1", role: "the charging pair" },
      { id: "2", role: "the charging pair" },
      { id: "3", role: "the auxiliary pair" },
      { id: "4", role: "the auxiliary pair" },
    ],
    amps: () => [10, 26],
    unit: { holds: "shorting", upper: "diode", lower: "diode", shunts: "every", switched: ["lower"] },
    untested: ["regulator.diode"],
    // Both wires of a pair are one to a diode that fails besides.
    secondSeat: (lead) => (lead === "2" ? "1" : lead === "4" ? "3" : lead),
    naming: { wires: 4, tell: namePairs },
    looks: { wires: [4], unit: ["finned"], generator: "flywheel", earthed: "none" },
    bands: [
      { test: "stator.resistance", at: "1-2", low: 0.2, high: 1.1, says: "0.3–0.9 Ω on the charging pair" },
      { test: "stator.resistance", at: "3-4", low: 1, high: 2.6, says: "1.3–2.2 Ω on the auxiliary pair" },
      { test: "stator.acVolts", at: "1-2", low: 40, rpm: 5000, says: "some 55 V at 5,000 rpm" },
      { test: "stator.acVolts", at: "3-4", low: 80, rpm: 5000, says: "twice the charging pair" },
    ],
  },
);
