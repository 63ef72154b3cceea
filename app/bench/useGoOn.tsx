import { useEffect, useRef, useState } from "react";
import { type Step, stepTitle } from "../../core/procedure/step";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { type LookState, stateToSay } from "./preparation";

/** How long the next advice is waited for in silence, ms. */
const PATIENCE = 600;

interface GoOn {
  /** Goes on once the odds have what was entered: to what they ask, or, where they cannot be had, to the list's. */
  byOdds: (view: JobView, listed: Step | undefined) => void;
  /** The next advice is late, and this is the list's step, a key away meanwhile; undefined while nothing is waited for. */
  late: { listed: Step | undefined } | undefined;
}

/**
 * How the bench goes on by the odds after an entry. An advice that comes late moves nothing once the hand is elsewhere, or types.
 * @param key of the open step
 * @param text what is typed and not kept yet
 * @param go to a step; without one to the verdict
 */
export function useGoOn(engine: Engine, key: string, text: string, go: (to: Step | undefined, as?: LookState) => void): GoOn {
  const [waiting, setWaiting] = useState<{ key: string; listed: Step | undefined }>();
  const hand = useRef({ key, text, turn: 0 });
  Object.assign(hand.current, { key, text });
  useEffect(
    () => () => {
      hand.current.turn++;
    },
    [],
  );
  const byOdds = (view: JobView, listed: Step | undefined): void => {
    // The page is kept as it is for the tenth of a second that the next advice takes; for longer only with a word on it.
    const turn = ++hand.current.turn;
    const waits = (): boolean => hand.current.turn === turn && hand.current.key === key && hand.current.text === "";
    const say = setTimeout(() => (waits() ? setWaiting({ key, listed }) : undefined), PATIENCE);
    void engine.after(view).then((advice) => {
      clearTimeout(say);
      if (hand.current.turn === turn) setWaiting(undefined);
      if (!waits()) return;
      const advised = advice?.next ?? [];
      const [first] = advised;
      if (advice?.settled) go(undefined);
      else if (first) go(first.step, stateToSay(first, advised));
      else go(listed);
    });
  };
  return { byOdds, late: waiting?.key === key && !engine.isOfNow ? waiting : undefined };
}

/** Said while the next advice is waited for: whoever does not want to wait goes on by the list. */
export function Late({ listed, onGo }: { listed: Step | undefined; onGo: () => void }) {
  return (
    <p className="m-0 -mb-1 text-[0.95rem]" role="status">
      <span className="md:hidden">Kept. </span>What to read next is being worked out.{" "}
      <button type="button" className="text-petrol min-h-11 underline md:min-h-0" onClick={onGo}>
        {listed ? `By the list: ${stepTitle(listed)}` : "To the verdict"}
      </button>
      <span className="key">a</span>
    </p>
  );
}
