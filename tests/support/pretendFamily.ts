import type { Family } from "../../core/machine/families/family";
import { ENGINE, singlePhase } from "../../core/machine/families/single-phase";

/** A family that no machine has: one coil to the engine, one wire, one thyristor. It proves that a family is one file and one line. */
export const pretendFamily: Family = singlePhase([{ lead: "W", ends: ENGINE, volts: [24, 44], ohms: [0.2, 0.9], share: 1, halfWave: true }], {
  id: "one-wire",
  title: "One wire, one coil to the engine",
  blurb: "Half of each wave goes to the battery; above the set point the unit lets go of the wire.",
  terminals: [{ id: "W", role: "the only wire" }],
  amps: () => [4, 9],
  unit: { holds: "letting-go", upper: "thyristor", lower: "diode", shunts: [], switched: ["upper"] },
  ways: () => ["W>B+"],
  looks: { wires: [1], unit: ["finned"], generator: "flywheel", earthed: "some" },
  bands: [
    { test: "stator.resistance", low: 0.2, high: 1, says: "0.2–0.9 Ω to the engine" },
    { test: "stator.acVolts", low: 20, rpm: 5000, says: "20 V and more at 5,000 rpm" },
  ],
});
