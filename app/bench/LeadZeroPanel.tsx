import { useState } from "react";
import { parseEntry } from "../../core/units";
import { Panel } from "../ui/Panel";

/** Above this the probes are not touching each other. */
const MOST_OHMS = 5;

/** Takes the lead zero: what the meter shows with its probes shorted. Later readings are corrected with it. */
export function LeadZeroPanel({
  open,
  onOpenChange,
  leadOhms,
  onKeep,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  leadOhms: number;
  onKeep: (ohms: number) => void;
}) {
  const [text, setText] = useState("");
  const [error, setError] = useState<string>();
  const submit = (event: React.FormEvent): void => {
    event.preventDefault();
    const entry = parseEntry(text, "Ω");
    if (!entry.ok) return setError(entry.error);
    if (typeof entry.value !== "number" || entry.value < 0 || entry.value > MOST_OHMS) {
      return setError(`The lead zero must be from 0 to ${MOST_OHMS} Ω. If the meter shows more, the probes are not touching or a lead is broken.`);
    }
    setText("");
    setError(undefined);
    onKeep(entry.value);
  };
  return (
    <Panel open={open} onOpenChange={onOpenChange} title="Lead zero">
      <p className="mt-0">
        Dial to ohms, lowest range. Press the two tips hard together and read. It is taken off every later ohms reading of this job; readings kept so far keep
        the zero they were taken with.
      </p>
      <form onSubmit={submit} className="flex flex-col gap-3" noValidate>
        <label>
          Shorted leads read, in Ω (now {leadOhms} Ω)
          <input
            className="field num mt-1 text-2xl"
            value={text}
            onChange={(event) => setText(event.target.value)}
            inputMode="decimal"
            autoComplete="off"
            aria-invalid={error ? true : undefined}
          />
        </label>
        <div role="alert">{error ? <p className="rule-left m-0">{error}</p> : null}</div>
        <button type="submit" className="btn btn-main">
          Keep the zero
        </button>
      </form>
    </Panel>
  );
}
