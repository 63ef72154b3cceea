import { useState } from "react";
import { bandFor } from "../../core/procedure/bands";
import { testOf } from "../../core/procedure/catalogue";
import { type JudgedReading, type JudgingContext, judgedWords } from "../../core/procedure/judge";
import { type Step, stepKey, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import { type JobEntry, readingOf } from "../jobs/entry";
import { Ruler } from "../ruler/Ruler";
import { checkTyped } from "./lowest";
import { Cautions, cautionsOf } from "./SetUp";
import { useDraft } from "./useDraft";

interface ProofRowProps {
  step: Step;
  jobId: number;
  context: JudgingContext;
  before: JudgedReading | undefined;
  after: JudgedReading | undefined;
  /** Repairs recorded so far. */
  repairs: number;
  closed: boolean;
  add: (entry: JobEntry) => void;
}

/** One proof reading: the value before the repair, the field for the one after it, both on the same ruler. */
export function ProofRow({ step, jobId, context, before, after, repairs, closed, add }: ProofRowProps) {
  const test = testOf(step.test);
  const [text, setText] = useDraft(`${jobId}.proof.${stepKey(step)}`);
  const [error, setError] = useState<string>();
  const [asked, setAsked] = useState<string>();
  const submit = (event: React.FormEvent): void => {
    event.preventDefault();
    const checked = checkTyped(text, step);
    if (!checked.ok) return setError(checked.error);
    if (checked.question && asked !== text) {
      setAsked(text);
      return setError(`${checked.question} Press Keep once more, or type again.`);
    }
    const reading = readingOf(step, checked.value, { repairs, leadOhms: context.meter.leadOhms });
    add({ kind: "reading", reading: { ...reading, ...(after ? { supersedes: after.reading.id, supersedesWhy: "taken-again" as const } : {}) } });
    setText("");
    setError(undefined);
    setAsked(undefined);
  };
  const id = `proof-${stepKey(step)}`;
  const notches = [
    ...(before ? [{ value: before.value, judged: before.judged, label: "before" }] : []),
    ...(after ? [{ value: after.value, judged: after.judged, label: "after", now: true }] : []),
  ];
  return (
    <li className="border-hair border-t py-2">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <span className="font-medium">{stepTitle(step)}</span>
        <span className="whitespace-nowrap">
          <span className="text-mute">
            {before ? formatQuantity(before.value, test.unit) : "not read"} before{after ? ", " : ""}
          </span>
          {after ? (
            <>
              <strong className="num">{formatQuantity(after.value, test.unit)}</strong> after, {judgedWords(after)}
            </>
          ) : null}
        </span>
      </div>
      {notches.length > 0 ? (
        <Ruler
          band={after?.band ?? before?.band ?? bandFor(step, context.sheet, context.school, undefined, context.ambientC)}
          notches={notches}
          unit={test.unit}
          openAllowed={test.openAllowed}
          title={`before and after, ${(after ?? before)?.band?.says ?? ""}`}
        />
      ) : null}
      {closed ? null : (
        <>
          <Cautions ids={cautionsOf(step, context.sheet).slice(0, 2)} />
          <form onSubmit={submit} className="mt-1 flex items-stretch gap-2" noValidate>
            <input
              aria-label={`${stepTitle(step)} after the repair, in ${test.unit}`}
              className="field num max-w-48 text-xl"
              value={text}
              onChange={(event) => {
                setText(event.target.value);
                setError(undefined);
              }}
              inputMode="decimal"
              autoComplete="off"
              aria-invalid={error ? true : undefined}
              aria-describedby={error ? id : undefined}
            />
            <button type="submit" className="btn">
              {after ? "Take again" : "Keep"}
            </button>
          </form>
          <div id={id} role="alert">
            {error ? <p className="rule-left m-0 mt-1">{error}</p> : null}
          </div>
        </>
      )}
    </li>
  );
}
