import { threePhase } from "./three-phase";

export const threePhaseSeries = threePhase({
  id: "three-phase-series",
  title: "Three-phase permanent magnet, series regulator/rectifier",
  blurb: "Three equal legs; the upper half is switched and opens above the set point, so unloaded legs swing high.",
  unit: { holds: "letting-go", upper: "thyristor", lower: "diode", shunts: [], switched: ["upper"] },
});
