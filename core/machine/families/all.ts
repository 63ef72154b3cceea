import { dcGenerator } from "./dc-generator";
import { dualOutputUnregulated } from "./dual-output-unregulated";
import type { Family } from "./family";
import { fieldExcited } from "./field-excited";
import { groundReferencedPair } from "./ground-referenced-pair";
import { multiWinding } from "./multi-winding";
import { singlePhaseCommon } from "./single-phase-common";
import { singlePhaseTwoWire } from "./single-phase-two-wire";
import { threePhaseMosfet } from "./three-phase-mosfet";
import { threePhaseSeries } from "./three-phase-series";
import { threePhaseShunt } from "./three-phase-shunt";
import { threePhaseUnknown } from "./three-phase-unknown";

/** The charging-system families that this edition can work on, a line each. */
export const FAMILIES: readonly Family[] = [
  threePhaseShunt,
  threePhaseSeries,
  threePhaseMosfet,
  threePhaseUnknown,
  singlePhaseTwoWire,
  singlePhaseCommon,
  groundReferencedPair,
  dualOutputUnregulated,
  multiWinding,
  fieldExcited,
  dcGenerator,
];
