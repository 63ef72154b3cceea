import { format } from "date-fns";
import { useEffect, useState } from "react";

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
  const count = Number(minutes.replace(",", "."));
  const known = Number.isFinite(count) && count >= 0 && count <= 240;
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
      <label className="flex items-center gap-2">
        Control units sleep after
        <input
          className="border-hair bg-sheet num min-h-10 w-16 border px-2"
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
          inputMode="decimal"
          aria-invalid={known ? undefined : true}
          aria-describedby={known ? undefined : "asleep-says"}
        />
        min
      </label>
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
              : `Asleep about ${format(until, "HH:mm")}.`}
      </span>
    </form>
  );
}
