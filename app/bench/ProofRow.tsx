import { bandFor } from "../../core/procedure/bands";
import { testOf } from "../../core/procedure/catalogue";
import { type JudgedReading, type JudgingContext, judgedWords } from "../../core/procedure/judge";
import { type Step, stepKey, stepTitle } from "../../core/procedure/step";
import { cautionsOf } from "../../core/procedure/stepCautions";
import { formatQuantity } from "../../core/units";
import { type JobEntry, readingOf } from "../jobs/entry";
import { Ruler } from "../ruler/Ruler";
import { ReadingField } from "./ReadingField";
import { Cautions } from "./SetUp";

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
  const keep = (value: number | string): void => {
    const reading = readingOf(step, value, { repairs, leadOhms: context.meter.leadOhms });
    add({ kind: "reading", reading: { ...reading, ...(after ? { supersedes: after.reading.id, supersedesWhy: "taken-again" as const } : {}) } });
  };
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
          <ReadingField
            step={step}
            draft={`${jobId}.proof.${stepKey(step)}`}
            label={`${stepTitle(step)} after the repair, in ${test.unit}`}
            button={after ? "Take again" : "Keep"}
            onKeep={keep}
          />
        </>
      )}
    </li>
  );
}
