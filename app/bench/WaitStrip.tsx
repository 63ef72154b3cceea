import { intlFormat, isSameDay, lightFormat } from "date-fns";
import { Hourglass } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Step } from "../../core/procedure/step";
import { isOver, WAITS, type Wait } from "../../core/procedure/waits";
import { beep } from "../ui/beep";

interface WaitStripProps {
  jobId: number;
  wait: Wait;
  restHours: number;
  stepLink: (step: Step) => string;
  onWait: (begun: Omit<Wait, "beganAt">) => void;
}

/** What stands ready once a wait is over. */
const OVER = { charge: "The charge should be done", rest: "Rested enough", part: "The part is due", nothing: "" } as const;

/** A wait in words: "Resting until 19:40", "The part is due: regulator". @param now ms */
export function waitWords(wait: Wait, now: number): string {
  const note = wait.note ? ` (${wait.note})` : "";
  if (isOver(wait, now)) return `${OVER[wait.what]}${note}`;
  return `${WAITS[wait.what]}${note}${wait.until === undefined ? "" : ` until ${clockOf(wait.until, now)}`}`;
}

/** A time as a workshop says it: "18:40" today, "Thu 26 Nov, 09:00" otherwise. The formatter with every pattern would weigh more than all else that waits bring to the bench. */
function clockOf(iso: string, now: number): string {
  const clock = lightFormat(iso, "HH:mm");
  if (isSameDay(iso, now)) return clock;
  return `${intlFormat(new Date(iso), { weekday: "short", day: "numeric", month: "short" }, { locale: "en-GB" })}, ${clock}`;
}

/** What the job waits for, above the step: until when, what comes after it, and a tone when it is over. */
export function WaitStrip({ jobId, wait, restHours, stepLink, onWait }: WaitStripProps) {
  const [now, setNow] = useState(() => Date.now());
  const over = isOver(wait, now);
  useEffect(() => {
    if (over) return;
    const looking = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(looking);
  }, [over]);
  // A tone only for a wait that ran out before the mechanic's eyes: a page opened later says it in words.
  const [opened] = useState(now);
  useEffect(() => {
    if (over && !isOver(wait, opened)) beep();
  }, [over, wait, opened]);
  const rest = (): void => onWait({ what: "rest", until: new Date(Date.now() + restHours * 3_600_000).toISOString() });
  return (
    <section aria-label="Wait" className="border-ink flex flex-wrap items-center gap-x-6 gap-y-1 border-b-2 px-5 py-1.5">
      <p className="m-0 flex items-center gap-2 whitespace-nowrap" role="status" suppressHydrationWarning>
        <Hourglass size={18} aria-hidden="true" />
        <strong className="font-semibold">{waitWords(wait, now)}</strong>
      </p>
      {wait.what === "charge" ? (
        <button type="button" className="btn min-h-10" onClick={rest}>
          Off the charger: rest {restHours} h
        </button>
      ) : null}
      {wait.what === "rest" && over ? (
        <Link to={stepLink({ test: "battery.rest" })} preventScrollReset className="text-petrol">
          Rest volts
        </Link>
      ) : null}
      {wait.what === "part" ? (
        <a href={`/jobs/${jobId}/label.pdf`} className="flex min-h-10 items-center">
          Label for it
        </a>
      ) : null}
      <button type="button" className="min-h-10 underline" onClick={() => onWait({ what: "nothing" })}>
        {over ? "Go on" : "Wait no longer"}
      </button>
    </section>
  );
}
