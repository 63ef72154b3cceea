import type { Suggestion } from "../../core/diagnosis/planning/plan";
import type { Look } from "../../core/diagnosis/population/look";
import type { CautionId } from "../../core/procedure/cautions";
import { type Reading, stepKey } from "../../core/procedure/step";

/** The state in which the machine is to be for a reading: what is ticked beforehand, and what has yet to be done for it. */
export interface Preparation {
  charged: boolean;
  hot: boolean;
  /** It is wanted on the second meter. */
  secondMeter: boolean;
  first: string[];
  cautions: CautionId[];
}

/** In which state of the machine a reading is to be taken. */
export type LookState = Pick<Look, "hot" | "charged">;

const AS_IT_IS = "as-it-is";

/** What an address says of the state in which its step is to be read: one step may be advised cold and hot side by side. */
export function stateMark({ hot, charged }: LookState): string {
  return [...(charged ? ["charged"] : []), ...(hot ? ["hot"] : [])].join("-") || AS_IT_IS;
}

/**
 * The state that a way to an advised reading has to name; undefined where its step says it all: none is advised heated or charged,
 * and the machine as it stands is what a step is read on.
 * @param advised all that is advised beside it
 */
export function stateToSay({ step, look }: Suggestion, advised: readonly Suggestion[]): LookState | undefined {
  const isOpen = advised.some((other) => stepKey(other.step) === stepKey(step) && (other.look.hot || other.look.charged));
  return isOpen ? look : undefined;
}

/** The state that an address speaks of; undefined where it says nothing, or nothing that is a state. */
export function stateIn(mark: string | null): LookState | undefined {
  return [false, true].flatMap((hot) => [false, true].map((charged): LookState => ({ hot, charged }))).find((state) => stateMark(state) === mark);
}

/**
 * What the open step's reading asks of the machine: what was come for, or else what is advised of it. A battery that was charged stays
 * so until somebody says otherwise; heat is asked for anew at every reading, for it goes.
 * @param key of the open step
 * @param state in which it was advised where somebody followed an advice to it
 * @param advised the readings that are shown as worth taking, the best first
 * @param readings of the machine as it stands now
 */
export function preparationOf(key: string, state: LookState | undefined, advised: readonly Suggestion[], readings: readonly Reading[]): Preparation {
  const found = advised.find(({ step }) => stepKey(step) === key);
  const look = state ?? found?.look;
  const secondMeter = found?.due === "second-meter";
  const wasCharged = readings.some((reading) => reading.charged);
  const charge = look?.charged === true && !wasCharged;
  const heat = look?.hot === true;
  return {
    charged: charge || wasCharged,
    hot: heat,
    secondMeter,
    first: [
      ...(secondMeter ? ["Take the second meter for this one, on the same points."] : []),
      ...(charge ? ["Charge the battery fully, then let it rest."] : []),
      ...(heat ? ["Run the engine until everything is hot."] : []),
    ],
    cautions: [...(charge ? (["hydrogen", "no-sparks"] as const) : []), ...(heat ? (["exhaust", "moving-parts", "hot-engine"] as const) : [])],
  };
}
