import { threePhase } from "./three-phase";

export const threePhaseMosfet = threePhase({
  id: "three-phase-mosfet",
  title: "Three-phase permanent magnet, synchronous shunt regulator/rectifier",
  blurb: "Three equal legs, six transistors; their body diodes read lower than plain ones and are judged against each other.",
  unit: { holds: "shorting", upper: "transistor", lower: "transistor", shunts: [], switched: ["upper", "lower"] },
});
