import { Timer } from "lucide-react";
import { useEffect, useState } from "react";
import { beep } from "../ui/beep";

/** How long a load stays on, s. */
const LOADED_SECONDS = 15;

/** Counts the seconds of a load test and says when to read: on the page, to readers of the page, and with a tone. */
export function Countdown() {
  const [until, setUntil] = useState<number>();
  const [left, setLeft] = useState<number>();
  useEffect(() => {
    if (until === undefined) return;
    const tick = (): void => {
      const seconds = Math.max(0, Math.ceil((until - Date.now()) / 1000));
      setLeft(seconds);
      if (seconds > 0) return;
      setUntil(undefined);
      beep();
    };
    const ticking = setInterval(tick, 100);
    return () => clearInterval(ticking);
  }, [until]);
  const start = (): void => {
    setLeft(LOADED_SECONDS);
    setUntil(Date.now() + LOADED_SECONDS * 1000);
  };
  return (
    <span className="flex items-center gap-3">
      <button type="button" className="btn flex min-h-10 items-center gap-2" onClick={start}>
        <Timer size={18} aria-hidden="true" /> Load on: count {LOADED_SECONDS} s
      </button>
      {left ? <span className="num text-2xl">{left} s</span> : null}
      <span role="status">{left === 0 ? "Read, then load off." : null}</span>
    </span>
  );
}
