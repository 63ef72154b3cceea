import type { Step } from "../../core/procedure/step";
import type { Engine } from "../jobs/useEngine";
import type { JobView } from "../jobs/view";
import { EngineProgress, OddsPanel } from "./OddsPanel";

interface StandingPanelProps {
  engine: Engine;
  view: JobView;
  jobId: number;
  stepLink: (step: Step) => string;
  onSuspects: () => void;
}

/** How every part stands, which readings speak for and against it, and what would change that; how far the odds are while there are none. */
export function StandingPanel({ engine, view, jobId, stepLink, onSuspects }: StandingPanelProps) {
  if (engine.advice) return <OddsPanel engine={engine} advice={engine.advice} view={view} jobId={jobId} stepLink={stepLink} onSuspects={onSuspects} />;
  return (
    <section aria-label="Standing">
      <p className="text-mute m-0 mb-2 text-[0.95rem] font-semibold">Standing</p>
      <EngineProgress engine={engine} />
    </section>
  );
}
