import type { Suggestion } from "../../core/diagnosis/planning/plan";
import type { CautionId } from "../../core/procedure/cautions";
import { type Reading, stepKey } from "../../core/procedure/step";

/** The state in which the machine is to be for a reading: what is ticked beforehand, and what has yet to be done for it. */
export interface Preparation {
  charged: boolean;
  hot: boolean;
  first: string[];
  cautions: CautionId[];
}

/**
 * What the open step's advised reading asks of the machine. A battery that was charged stays so until somebody says otherwise;
 * heat is asked for anew at every reading, for it goes.
 * @param key of the open step
 * @param advised the readings that are shown as worth taking, the best first
 * @param readings of the machine as it stands now
 */
export function preparationOf(key: string, advised: readonly Suggestion[], readings: readonly Reading[]): Preparation {
  const look = advised.find(({ step }) => stepKey(step) === key)?.look;
  const wasCharged = readings.some((reading) => reading.charged);
  const charge = look?.charged === true && !wasCharged;
  const heat = look?.hot === true;
  return {
    charged: charge || wasCharged,
    hot: heat,
    first: [...(charge ? ["Charge the battery fully, then let it rest."] : []), ...(heat ? ["Run the engine until everything is hot."] : [])],
    cautions: [...(charge ? (["hydrogen", "no-sparks"] as const) : []), ...(heat ? (["exhaust", "moving-parts", "hot-engine"] as const) : [])],
  };
}
