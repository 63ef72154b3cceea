import { threePhase } from "./three-phase";

export const threePhaseShunt = threePhase({
  id: "three-phase-shunt",
  title: "Three-phase permanent magnet, shunt regulator/rectifier",
  blurb: "Three equal legs, six diodes, three switches that short the legs to negative above the set point.",
  unit: { holds: "shorting", upper: "diode", lower: "diode", shunts: "every", switched: ["lower"] },
});
