import { CloudOff } from "lucide-react";
import { useState } from "react";
import { isTestId, testOf } from "../../core/procedure/catalogue";
import { checkEntry } from "../../core/procedure/entry";
import { stepTitle } from "../../core/procedure/step";
import { WAITS } from "../../core/procedure/waits";
import { formatQuantity } from "../../core/units";
import { useDraft } from "../ui/useDraft";
import { entryId, type JobEntry, newId } from "./entry";
import type { Sent } from "./outbox";

/** A count of what the store has not confirmed yet; it is sent again by itself. */
export function Waiting({ sent }: { sent: readonly Sent[] }) {
  const waiting = sent.filter((sent) => sent.state === "waiting");
  return (
    <span role="status" className={waiting.length > 0 ? "border-copper flex items-center gap-2 border-2 px-2 py-0.5" : "sr-only"}>
      {waiting.length > 0 ? (
        <>
          <CloudOff size={17} aria-hidden="true" />
          {`${waiting.length} not yet sent`}
        </>
      ) : null}
    </span>
  );
}

/** Entries that need a hand: those the store would not keep, those that wait for somebody, and those this device has no room for. */
export function Refused({ sent, drop }: { sent: readonly Sent[]; drop: (id: string, instead?: JobEntry) => void }) {
  const unshelved = sent.filter((sent) => sent.state === "waiting" && sent.unshelved);
  const held = [...new Set(sent.flatMap((sent) => (sent.state === "waiting" && sent.error ? [sent.error] : [])))];
  return (
    <>
      {unshelved.length > 0 ? (
        <p role="alert" className="border-copper m-0 mb-3 border-2 p-2">
          This device keeps nothing more: {listed(unshelved.map(({ entry }) => wordsOf(entry)))} {unshelved.length > 1 ? "live" : "lives"} in this page alone
          until the line is back. Leave it open.
        </p>
      ) : null}
      {held.map((why) => (
        <p key={why} role="status" className="border-copper m-0 mb-3 border-2 p-2">
          Not yet sent: {why}
        </p>
      ))}
      {sent.flatMap(({ entry, state, error }) => (state === "refused" ? [<NotKept key={entryId(entry)} {...{ entry, error, drop }} />] : []))}
    </>
  );
}

/** One entry that the store would not keep: why not, the figure to be put right and sent again, and a way to set it aside. */
function NotKept({ entry, error, drop }: { entry: JobEntry; error: string | undefined; drop: (id: string, instead?: JobEntry) => void }) {
  // The page may turn to another screen while it is being typed.
  const [typed, setTyped] = useDraft(`refused.${entryId(entry)}`);
  const [changed, setChanged] = useState(false);
  const text = typed === "" && !changed && entry.kind === "reading" ? String(entry.reading.value) : typed;
  const change = (next: string): void => {
    setChanged(true);
    setTyped(next);
  };
  const takeOff = (instead?: JobEntry): void => {
    setTyped("");
    drop(entryId(entry), instead);
  };
  const [problem, setProblem] = useState<string>();
  const again = (event: React.FormEvent): void => {
    event.preventDefault();
    if (entry.kind !== "reading") return;
    const checked = checkEntry(text, entry.reading.test);
    if (!checked.ok) return setProblem(checked.error);
    takeOff({ kind: "reading", reading: { ...entry.reading, id: newId(), value: checked.value } });
  };
  return (
    <form onSubmit={again} role="alert" className="border-copper mb-3 flex flex-wrap items-center gap-3 border-2 p-2" noValidate>
      <p className="m-0 min-w-48 flex-1">
        Not kept: {wordsOf(entry)}. {problem ?? error}
      </p>
      {entry.kind === "reading" && isTestId(entry.reading.test) ? (
        <>
          <label className="flex items-center gap-2">
            <span className="sr-only">{stepTitle(entry.reading)}, put right</span>
            <input value={text} onChange={(event) => change(event.target.value)} className="border-hair bg-sheet num min-h-10 w-24 border px-2" />
          </label>
          <button type="submit" className="btn min-h-10">
            Send again
          </button>
        </>
      ) : null}
      <button type="button" className="btn min-h-10" onClick={() => takeOff()}>
        Set aside
      </button>
    </form>
  );
}

function wordsOf(entry: JobEntry): string {
  if (entry.kind === "skip") return `skip “${entry.skip.reason}”`;
  if (entry.kind === "lead-zero") return `lead zero ${entry.leadOhms} Ω`;
  if (entry.kind === "caution") return "that the cautions were read";
  if (entry.kind === "wait") return WAITS[entry.wait.what]?.toLowerCase() ?? "a wait";
  if (entry.kind === "trace") return `the curve ${entry.trace.name}`;
  if (entry.kind === "put-back") return "that a pull is back in its place";
  // Written down by another edition of the page.
  if (!isTestId(entry.reading.test)) return `${String(entry.reading.test)} ${entry.reading.value}`;
  return `${stepTitle(entry.reading)} ${formatQuantity(entry.reading.value, testOf(entry.reading.test).unit)}`;
}

const listed = (words: readonly string[]): string => words.join("; ");
