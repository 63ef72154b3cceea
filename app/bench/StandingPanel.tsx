import { Link } from "react-router";
import { PART_NAMES } from "../../core/machine/part";
import { testOf } from "../../core/procedure/catalogue";
import { isBad, judgedWords } from "../../core/procedure/judge";
import { type Step, stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { MARK_WORDS, MarkSquare } from "../loom/marks";
import { EngineProgress, OddsPanel } from "./OddsPanel";

interface StandingPanelProps {
  engine: Engine;
  view: JobView;
  jobId: number;
  stepLink: (step: Step) => string;
  onSuspects: () => void;
}

/** How every part stands, which readings speak for and against it, and what would change that. */
export function StandingPanel({ engine, view, jobId, stepLink, onSuspects }: StandingPanelProps) {
  if (engine.advice) return <OddsPanel engine={engine} advice={engine.advice} view={view} jobId={jobId} stepLink={stepLink} onSuspects={onSuspects} />;
  return (
    <>
      <EngineProgress engine={engine} />
      <FixedOrder view={view} jobId={jobId} stepLink={stepLink} />
    </>
  );
}

/** The standing by the fixed order of a manual, until the odds are there. */
function FixedOrder({ view, jobId, stepLink }: Omit<StandingPanelProps, "engine" | "onSuspects">) {
  const { conclusion } = view;
  const decided = conclusion.status === "found" || conclusion.status === "healthy";
  const count = view.judged.filter((one) => !one.reading.afterRepair).length;
  return (
    <section aria-label="Standing">
      <p className="text-mute m-0 mb-2 flex justify-between text-[0.95rem]">
        <span className="font-semibold">Standing</span>
        <span>
          after {count} {count === 1 ? "reading" : "readings"}
        </span>
      </p>
      <ul className="m-0 list-none p-0">
        {conclusion.standing.map(({ part, mark }) => (
          <li key={part} className="grid min-h-8 grid-cols-[30px_1fr_auto] items-center">
            <MarkSquare mark={mark} />
            <span className={mark === "unseen" ? "text-mute" : "font-medium"}>{PART_NAMES[part]}</span>
            <span
              className={
                mark === "cleared"
                  ? "text-petrol"
                  : mark === "condemned"
                    ? "text-plum font-semibold"
                    : mark === "suspect" || mark === "contradicting"
                      ? "text-copper font-semibold"
                      : "text-mute"
              }
            >
              {MARK_WORDS[mark]}
            </span>
          </li>
        ))}
      </ul>
      <div className="border-hair mt-3 border-t pt-3">
        <p className={`m-0 text-lg leading-snug ${decided ? "font-semibold" : ""}`}>{conclusion.headline}</p>
        {conclusion.why.map((reason) => (
          <div key={reason.says} className="mt-2">
            <p className="m-0">{reason.says}</p>
            <ul className="m-0 list-none p-0">
              {reason.because.slice(0, 4).map((one) => (
                <li key={one.reading.id}>
                  <a href={stepLink(one.reading)} data-step="" className="flex min-h-7 justify-between gap-3 no-underline">
                    <span className="text-mute">{stepTitle(one.reading)}</span>
                    <span className={`num text-[0.85rem] whitespace-nowrap ${isBad(one.judged) ? "text-copper" : "text-petrol"}`}>
                      {formatQuantity(one.value, testOf(one.reading.test).unit)} {judgedWords(one)}
                    </span>
                  </a>
                </li>
              ))}
            </ul>
          </div>
        ))}
        <p className="border-hair text-mute mt-3 border-t pt-2">{conclusion.wouldChange}</p>
        <Link to={`/jobs/${jobId}/verdict`} className={`btn mt-1 w-full ${decided ? "btn-main" : ""}`}>
          Verdict and proof <span className="key">v</span>
        </Link>
      </div>
    </section>
  );
}
