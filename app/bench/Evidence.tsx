import { Link } from "react-router";
import { testOf } from "../../core/procedure/catalogue";
import { type JudgedReading, judgedWords } from "../../core/procedure/judge";
import { stepKey, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import { ReadingRuler } from "../ruler/ReadingRuler";

/** One reading as evidence: its figure, its judgement, its ruler and where its band comes from. */
export function Evidence({ judgedReading, jobId }: { judgedReading: JudgedReading; jobId: number }) {
  const test = testOf(judgedReading.reading.test);
  return (
    <li className="border-hair grid grid-cols-[1fr_auto] items-center gap-x-4 border-t py-1.5">
      <Link to={`/jobs/${jobId}?step=${encodeURIComponent(stepKey(judgedReading.reading))}`} className="no-underline">
        {stepTitle(judgedReading.reading)}
      </Link>
      <span className="whitespace-nowrap">
        <span className="num">{formatQuantity(judgedReading.value, test.unit)}</span>, {judgedWords(judgedReading)}
      </span>
      <span className="col-span-2">
        <ReadingRuler judgedReading={judgedReading} />
      </span>
      <span className="text-mute col-span-2 text-[0.95rem]">{[judgedReading.band?.says, ...judgedReading.corrections].filter(Boolean).join("; ")}</span>
    </li>
  );
}
