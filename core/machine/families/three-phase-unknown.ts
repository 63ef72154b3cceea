import { threePhase } from "./three-phase";
import { threePhaseSeries } from "./three-phase-series";
import { threePhaseShunt } from "./three-phase-shunt";

/** Who has no sheet sees three legs and a unit; a synchronous unit is a shunt unit to all but the diode dial. */
export const threePhaseUnknown = threePhase({
  id: "three-phase",
  title: "Three-phase permanent magnet, kind of unit not known",
  blurb: "Three equal legs into a unit that nobody has a sheet for: shunt, series or synchronous. The readings tell.",
  unit: undefined,
  mayBe: [
    [threePhaseShunt, 0.7],
    [threePhaseSeries, 0.3],
  ],
});
