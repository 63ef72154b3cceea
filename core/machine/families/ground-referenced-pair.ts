import { clipperElements, lampElements } from "./lamps";
import { ENGINE, singlePhase } from "./single-phase";

/** The lamps' wire inside the unit, and the volts it is clipped at on 12 V: some 13 V rms at speed. */
const LAMPS = { wire: "unitLeg:L", clipVolts: 14.6 } as const;

const family = singlePhase(
  [
    { lead: "C", ends: ENGINE, volts: [20, 34], ohms: [0.3, 1.2], share: 1, halfWave: true },
    { lead: "L", ends: ENGINE, volts: [14, 24], ohms: [0.2, 0.8], share: 1, halfWave: true },
  ],
  {
    id: "ground-referenced-pair",
    title: "Charging and lighting coil, each with one end on the engine",
    blurb: "Half of each wave goes to the battery from one coil, the lamps burn on the other; a good coil reads a few ohms to the engine, never open.",
    terminals: [
      { id: "C", role: "the charging coil" },
      { id: "L", role: "the lighting coil" },
    ],
    amps: () => [2, 6],
    unit: { holds: "letting-go", upper: "thyristor", lower: "diode", shunts: [], switched: ["upper"] },
    lampLeads: () => ["L"],
    ways: () => ["C>B+"],
    looks: { wires: [2], unit: ["finned"], generator: "flywheel", earthed: "some" },
    bands: [
      { test: "stator.resistance", at: "C", low: 0.2, high: 1.3, says: "0.2–1.2 Ω to the engine" },
      { test: "stator.resistance", at: "L", low: 0.1, high: 1, says: "0.2–0.8 Ω to the engine" },
      { test: "stator.acVolts", at: "C", low: 15, rpm: 5000, says: "3 V each 1,000 rpm" },
      { test: "stator.acVolts", at: "L", low: 10, rpm: 5000, says: "2 V each 1,000 rpm" },
    ],
  },
);

export const groundReferencedPair: typeof family = {
  ...family,
  elements: (state, standing) => [
    ...family.elements(state, standing),
    ...clipperElements(LAMPS.wire, "unit-", LAMPS.clipVolts * (state.sheet.systemVolts / 12)),
    ...lampElements(LAMPS.wire, state, standing),
  ],
};
