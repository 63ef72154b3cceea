import { lightFormat } from "date-fns";
import { useEffect, useState } from "react";
import { typedNumber } from "../../formats/typed";
import { FigureInSentence } from "../ui/FigureInSentence";

/** How long control units stay awake after the key is out, min, where nobody knows better. */
const USUAL_MINUTES = 10;

/** A wait until everything that goes to sleep by itself has: what draws before that is no drain. */
export function Asleep() {
  const [minutes, setMinutes] = useState(String(USUAL_MINUTES));
  const [until, setUntil] = useState<number>();
  const [reached, setReached] = useState(false);
  useEffect(() => {
    if (until === undefined) return;
    const waiting = setTimeout(() => setReached(true), Math.max(0, until - Date.now()));
    return () => clearTimeout(waiting);
  }, [until]);
  const count = typedNumber(minutes);
  const known = count !== undefined && count >= 0 && count <= 240;
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (!known) return;
        setReached(false);
        setUntil(Date.now() + count * 60_000);
      }}
    >
      <FigureInSentence before="Control units sleep after" after="min" text={minutes} onText={setMinutes} good={known} says="asleep-says" />
      <button type="submit" className="btn min-h-10">
        Key is out: wait
      </button>
      <span id="asleep-says" role="status" className="w-full">
        {!known
          ? "Minutes must be a number from 0 to 240."
          : until === undefined
            ? ""
            : reached
              ? "Asleep now: read."
              : `Asleep about ${lightFormat(until, "HH:mm")}.`}
      </span>
    </form>
  );
}
