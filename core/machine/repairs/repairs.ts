import type { FaultId } from "../faults";
import { GENERATOR_REPAIRS } from "./generator";
import type { Repair } from "./repair";
import { SUPPLY_REPAIRS } from "./supply";
import { UNIT_REPAIRS } from "./unit";

/** What each fault asks of its repair. */
export const REPAIRS: Record<FaultId, Repair> = { ...SUPPLY_REPAIRS, ...GENERATOR_REPAIRS, ...UNIT_REPAIRS };
