import { useState } from "react";
import { Panel } from "../ui/Panel";

const REASONS = ["Can't reach it", "No tool for it", "Not safe here", "Not fitted", "Already known"] as const;

/** Asks why a step is skipped; the reason stands in the report. */
export function SkipPanel({
  open,
  onOpenChange,
  title,
  onSkip,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  onSkip: (reason: string) => void;
}) {
  const [reason, setReason] = useState("");
  const [error, setError] = useState<string>();
  const done = (text: string): void => {
    const said = text.trim();
    if (said === "" || said.length > 200) return setError("Give a reason in a word or two, 200 characters at most.");
    setReason("");
    setError(undefined);
    onSkip(said);
  };
  return (
    <Panel open={open} onOpenChange={onOpenChange} title={`Skip: ${title}`}>
      <div className="flex flex-col gap-2">
        {REASONS.map((reason) => (
          <button key={reason} type="button" className="btn justify-start" onClick={() => done(reason)}>
            {reason}
          </button>
        ))}
      </div>
      <form
        className="mt-4 flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          done(reason);
        }}
      >
        <label>
          Another reason
          <input className="field" value={reason} onChange={(event) => setReason(event.target.value)} aria-invalid={error ? true : undefined} />
        </label>
        <div role="alert">{error ? <p className="rule-left m-0">{error}</p> : null}</div>
        <button type="submit" className="btn btn-main">
          Skip with this reason
        </button>
      </form>
    </Panel>
  );
}
