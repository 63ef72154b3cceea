import { Link } from "react-router";
import { testOf } from "../../core/procedure/catalogue";
import type { Controls } from "../../core/procedure/controls";
import { judgedWords } from "../../core/procedure/judge";
import { type Step, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";

interface ControlsStripProps {
  controls: Controls;
  jobId: number;
  stepLink: (step: Step) => string;
}

/** A job that came in with a plain cause: its three control readings, what they came to, and the way to its end. */
export function ControlsStrip({ controls, jobId, stepLink }: ControlsStripProps) {
  const { causes, passed, failed, charge } = controls;
  return (
    <section aria-label="Plain cause" className="border-hair mb-4 border-b pb-3">
      <p className="m-0">
        <strong className="font-semibold">{causes.join(" ")} Yes.</strong> <span className="text-mute">Three control readings, then the job may end:</span>
      </p>
      <ol className="m-0 list-none p-0">
        {controls.controls.map(({ step, reading }) => (
          <li key={step.test} className="flex flex-wrap justify-between gap-x-4">
            <Link to={stepLink(step)} preventScrollReset className="text-petrol min-h-7">
              {stepTitle(step)}
            </Link>
            <span>
              {reading ? (
                <>
                  <span className="num">{formatQuantity(reading.value, testOf(step.test).unit)}</span>, {judgedWords(reading)}
                </>
              ) : (
                <span className="text-mute">not read yet</span>
              )}
            </span>
          </li>
        ))}
      </ol>
      <p className={`m-0 mt-1 ${passed || failed || charge ? "rule-left" : "sr-only"}`} role="status">
        {passed ? (
          <>
            Nothing has failed. <Link to={`/jobs/${jobId}/verdict`}>End it at the verdict</Link>
          </>
        ) : failed ? (
          `${stepTitle(failed.step)} is ${failed.reading ? judgedWords(failed.reading) : ""}: the plain cause does not explain that. Go on with the search.`
        ) : charge ? (
          "Flat, as after such a cause it must be. Charge it fully, let it rest, and read it again as charged."
        ) : (
          ""
        )}
      </p>
    </section>
  );
}
