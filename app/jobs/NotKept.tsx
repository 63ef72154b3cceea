import { CloudOff } from "lucide-react";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import { entryId, type JobEntry } from "./entry";
import type { Sent } from "./outbox";

/** A count of what the store has not confirmed yet; it is sent again by itself. */
export function Waiting({ waiting }: { waiting: number }) {
  return (
    <span role="status" className={waiting > 0 ? "border-copper flex items-center gap-2 border-2 px-2 py-0.5" : "sr-only"}>
      {waiting > 0 ? (
        <>
          <CloudOff size={17} aria-hidden="true" />
          {`${waiting} not yet sent`}
        </>
      ) : null}
    </span>
  );
}

/** Entries the store would not keep: what was sent, why not, and a way to set it aside. */
export function Refused({ sent, drop }: { sent: readonly Sent[]; drop: (id: string) => void }) {
  return sent
    .filter((one) => one.state === "refused")
    .map(({ entry, error }) => (
      <div key={entryId(entry)} role="alert" className="border-copper mb-3 flex items-center gap-3 border-2 p-2">
        <p className="m-0 flex-1">
          Not kept: {wordsOf(entry)}. {error}
        </p>
        <button type="button" className="btn min-h-10" onClick={() => drop(entryId(entry))}>
          Set aside
        </button>
      </div>
    ));
}

function wordsOf(entry: JobEntry): string {
  if (entry.kind === "skip") return `skip “${entry.skip.reason}”`;
  if (entry.kind === "lead-zero") return `lead zero ${entry.leadOhms} Ω`;
  return `${stepTitle(entry.reading)} ${formatQuantity(entry.reading.value, testOf(entry.reading.test).unit)}`;
}
