import { useEffect, useRef, useState } from "react";
import type { Loads } from "../../core/machine/standing";
import { checkEntry } from "../../core/procedure/entry";
import type { Step } from "../../core/procedure/step";
import { isNumber } from "../../core/units";
import { typedNumber } from "../../formats/typed";
import { useDraft } from "../ui/useDraft";

interface SpeedFormProps {
  /** The speed and loads that are worth a reading next: what the form begins with. */
  next: Step;
  idleRpm: number;
  draft: string;
  onKeep: (step: Step, value: number, swing: number) => void;
}

const SMALL = "border-hair bg-sheet num min-h-11 border px-2 text-xl";

/** One speed: at which rpm, under which loads, and what the meter shows, or between which two figures it swings. */
export function SpeedForm({ next, idleRpm, draft, onKeep }: SpeedFormProps) {
  const [rpm, setRpm] = useState(next.rpm === "idle" ? "" : String(next.rpm));
  const [loads, setLoads] = useState<Loads>(next.loads ?? "normal");
  const [low, setLow] = useDraft(`${draft}.low`);
  const [high, setHigh] = useDraft(`${draft}.high`);
  const [error, setError] = useState<{ field: "rpm" | "low" | "high"; says: string }>();
  const [asked, setAsked] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  const speed = typedNumber(rpm);
  const submit = (event: React.FormEvent): void => {
    event.preventDefault();
    if (speed !== undefined && !(Number.isInteger(speed) && speed >= 100 && speed <= 20_000))
      return setError({ field: "rpm", says: "Rpm must be a whole number from 100 to 20,000, or empty for idle." });
    const lowest = checkEntry(low, "charge.volts");
    if (!lowest.ok) return setError({ field: "low", says: lowest.error });
    const highest = high.trim() === "" ? lowest : checkEntry(high, "charge.volts");
    if (!highest.ok) return setError({ field: "high", says: highest.error });
    if (!isNumber(lowest.value) || !isNumber(highest.value)) return;
    if (highest.value < lowest.value) return setError({ field: "high", says: "The highest is below the lowest: type them the other way round." });
    const question = lowest.question ?? highest.question;
    if (question && asked !== `${low} ${high}`) {
      setAsked(`${low} ${high}`);
      return setError({ field: "low", says: `${question} Press Keep once more, or type again.` });
    }
    setLow("");
    setHigh("");
    setError(undefined);
    onKeep(
      { test: "charge.volts", rpm: speed === undefined ? "idle" : speed, loads },
      Number(((lowest.value + highest.value) / 2).toFixed(3)),
      Number((highest.value - lowest.value).toFixed(3)),
    );
  };
  const bad = (field: "rpm" | "low" | "high"): object => (error?.field === field ? { "aria-invalid": true, "aria-describedby": "speed-says" } : {});
  const typing = (set: (text: string) => void) => (event: React.ChangeEvent<HTMLInputElement>) => {
    set(event.target.value);
    setError(undefined);
  };
  return (
    <form onSubmit={submit} noValidate className="mt-3 grid grid-cols-2 gap-3">
      <label className="flex flex-col">
        <span className="text-mute">Speed, rpm (empty: idle, about {idleRpm.toLocaleString("en")})</span>
        <input className={SMALL} value={rpm} onChange={typing(setRpm)} inputMode="numeric" autoComplete="off" placeholder="idle" {...bad("rpm")} />
      </label>
      <label className="flex flex-col justify-end">
        <span className="text-mute">Loads</span>
        <select className={SMALL} value={loads} onChange={(event) => setLoads(event.target.value as Loads)}>
          <option value="off">off</option>
          <option value="normal">as ridden</option>
          <option value="all">all on</option>
        </select>
      </label>
      <label className="flex flex-col">
        <span className="text-mute">Volts, or the lowest</span>
        <input ref={input} className={SMALL} value={low} onChange={typing(setLow)} inputMode="decimal" autoComplete="off" {...bad("low")} />
      </label>
      <label className="flex flex-col">
        <span className="text-mute">Highest, where it swings</span>
        <input className={SMALL} value={high} onChange={typing(setHigh)} inputMode="decimal" autoComplete="off" {...bad("high")} />
      </label>
      <div id="speed-says" role="alert" className="col-span-2">
        {error ? <p className="rule-left m-0">{error.says}</p> : null}
      </div>
      <button type="submit" className="btn btn-main col-span-2">
        Keep
      </button>
    </form>
  );
}
