import { type ReactNode, useState } from "react";
import { standWords } from "../../core/diagnosis/words/words";
import type { Sheet } from "../../core/machine/sheet";
import { type TestId, testOf } from "../../core/procedure/catalogue";
import { isBad, judgedWords } from "../../core/procedure/judge";
import type { Line, Stage } from "../../core/procedure/runlist";
import { type Step, stepKey, stepTitle, testTitle } from "../../core/procedure/step";
import { formatValue } from "../../core/units";
import { ReadingRuler } from "../ruler/ReadingRuler";

interface RunListProps {
  stages: readonly Stage[];
  active: string | undefined;
  school: string;
  /** Whether the bench goes on by the odds, and the way to change it. */
  byOdds: boolean;
  onOrder: () => void;
  sheet: Pick<Sheet, "statorConnector">;
  /** The plan by the odds, pulled out on top. */
  plan: ReactNode;
  stepLink: (step: Step) => string;
}

/** The run list: every step in working order, done ones with their rulers, the active one pulled out. */
export function RunList({ stages, active, school, byOdds, onOrder, sheet, plan, stepLink }: RunListProps) {
  return (
    <nav aria-label="Run list">
      <p className="text-mute m-0 mb-2 flex justify-between text-[0.95rem] font-semibold">
        <span>Run list</span>
        <span className="font-normal">school: {school}</span>
      </p>
      <button type="button" className="text-petrol min-h-8 text-left text-[0.9rem]" aria-pressed={byOdds} onClick={onOrder}>
        {byOdds ? "Goes on by the odds" : "Goes on by the list"}
        <span className="key">f</span>
      </button>
      {plan ? <div className="bg-paper sticky -top-3 z-10 -mx-5 px-5 py-1">{plan}</div> : null}
      {stages.map((stage) => (
        <StageLines key={stage.group} stage={stage} active={active} sheet={sheet} stepLink={stepLink} />
      ))}
    </nav>
  );
}

function StageLines({ stage, active, sheet, stepLink }: StageProps) {
  const left = stage.lines.filter((line) => !line.done && !line.skipped).length;
  const isHere = stage.lines.some((line) => line.key === active) || stage.more.some((step) => stepKey(step) === active);
  const bad = stage.lines.some((line) => line.done && isBad(line.done.judged));
  const begun = left > 0 && left < stage.lines.length;
  const [folded, setFolded] = useState<boolean>();
  const open = folded === undefined ? isHere || bad || begun : !folded;
  return (
    <section className="border-hair border-t py-1.5 first-of-type:border-t-0">
      <details open={open}>
        {/* What is folded away is not drawn: a long record would cost every page its time. */}
        {/* biome-ignore lint/a11y/noStaticElementInteractions: a summary answers keys by itself */}
        <summary
          onClick={(event) => {
            event.preventDefault();
            setFolded(open);
          }}
          className="text-mute flex min-h-8 cursor-pointer list-none items-center justify-between text-[0.95rem]"
        >
          <span className={isHere ? "text-ink font-semibold" : ""}>{stage.title}</span>
          <span className="num text-[0.8rem]">{left === 0 ? (stage.lines.length > 0 ? "done" : "") : `${left} left, ${Math.ceil(stage.minutesLeft)} min`}</span>
        </summary>
        {open ? <StageBody {...{ stage, active, sheet, stepLink }} /> : null}
      </details>
    </section>
  );
}

interface StageProps extends LineProps {
  stage: Stage;
  sheet: Pick<Sheet, "statorConnector">;
}

function StageBody({ stage, active, sheet, stepLink }: StageProps) {
  return (
    <>
      {groupByStand(stage.lines, sheet).map(({ stand, lines: here }) => (
        <div key={stand}>
          <p className="text-mute m-0 pt-1 text-[0.85rem]">{stand}</p>
          {groupByTest(here).map(({ test, lines }) =>
            lines.length > 3 ? (
              <TestGrid key={test} {...{ test, lines, active, stepLink }} />
            ) : (
              lines.map((line) => <StepLine key={line.key} {...{ line, active, stepLink }} />)
            ),
          )}
        </div>
      ))}
      {stage.more.length > 0 ? (
        <MoreSteps steps={stage.more} stepLink={stepLink} open={stage.more.some((step) => stepKey(step) === active)} active={active} />
      ) : null}
    </>
  );
}

/** Lines by how the machine has to stand for them, so that nobody starts it and parts a plug twice for want of looking. */
function groupByStand(lines: readonly Line[], sheet: Pick<Sheet, "statorConnector">): { stand: string; lines: Line[] }[] {
  const stands = new Map<string, Line[]>();
  for (const line of lines) {
    const stand = standWords({ look: { step: line.step, hot: false, charged: false } }, sheet);
    stands.set(stand, [...(stands.get(stand) ?? []), line]);
  }
  return [...stands].map(([stand, here]) => ({ stand, lines: here }));
}

function groupByTest(lines: readonly Line[]): { test: TestId; lines: Line[] }[] {
  const groups: { test: TestId; lines: Line[] }[] = [];
  for (const line of lines) {
    const last = groups.at(-1);
    if (last?.test === line.step.test) last.lines.push(line);
    else groups.push({ test: line.step.test, lines: [line] });
  }
  return groups;
}

interface LineProps {
  active: string | undefined;
  stepLink: (step: Step) => string;
}

function StepLine({ line, active, stepLink }: LineProps & { line: Line }) {
  const here = line.key === active;
  return (
    <a
      data-step=""
      href={stepLink(line.step)}
      aria-current={here ? "step" : undefined}
      className={`grid min-h-9 grid-cols-[18px_1fr_auto] items-center gap-x-2 py-1 no-underline ${here ? "bg-ink text-paper -mx-5 px-5" : ""}`}
    >
      <Tick line={line} here={here} />
      <span className={line.done || here ? "" : "text-mute"}>{stepTitle(line.step)}</span>
      <span className="num text-[0.85rem] whitespace-nowrap">
        {line.done ? formatValue(line.done.value, testOf(line.step.test).unit) : line.skipped ? "skipped" : here ? "now" : ""}
      </span>
      {line.done?.band && !here && line.done.band.kind !== "words" ? (
        <span className="col-start-2 col-end-4">
          <ReadingRuler judgedReading={line.done} />
        </span>
      ) : null}
    </a>
  );
}

/** Twelve diode directions and the like: a grid of small cells under one heading, so that the list stays short. */
function TestGrid({ test, lines, active, stepLink }: LineProps & { test: TestId; lines: Line[] }) {
  const short = test === "regulator.diode" ? "Diodes, red > black" : testTitle(testOf(test));
  return (
    <div className="py-1">
      <p className="text-mute m-0 text-[0.95rem]">{short}</p>
      <div className="grid grid-cols-3 gap-1">
        {lines.map((line) => {
          const here = line.key === active;
          const bad = line.done && isBad(line.done.judged);
          return (
            <a
              data-step=""
              key={line.key}
              href={stepLink(line.step)}
              aria-current={here ? "step" : undefined}
              className={`flex min-h-9 flex-col justify-center border px-1 text-[0.75rem] leading-tight no-underline ${here ? "bg-ink text-paper border-ink" : bad ? "border-copper border-2" : line.done ? "border-petrol" : "border-hair text-mute border-dashed"}`}
            >
              <span className="sr-only">{`${stepTitle(line.step)}${line.done ? `: ${formatValue(line.done.value, testOf(test).unit)}, ${judgedWords(line.done)}` : ""}`}</span>
              <span aria-hidden="true" className="num">
                {test === "regulator.diode" || !line.step.rpm ? line.step.at : `${line.step.at} ${line.step.rpm}`}
              </span>
              <span aria-hidden="true" className="num">
                {line.done ? formatValue(line.done.value, testOf(test).unit) : line.skipped ? "skip" : "·"}
              </span>
            </a>
          );
        })}
      </div>
    </div>
  );
}

function Tick({ line, here }: { line: Line; here: boolean }) {
  if (here) return <span aria-hidden="true">▸</span>;
  if (!line.done)
    return (
      <span aria-hidden="true" className="text-mute">
        {line.skipped ? "–" : ""}
      </span>
    );
  const bad = isBad(line.done.judged);
  return (
    <svg width="16" height="16" role="img" aria-label={judgedWords(line.done)}>
      {bad ? (
        <path d="M3 13L13 3M1 8h14" stroke="var(--copper)" strokeWidth="2.2" fill="none" />
      ) : (
        <path d="M2 13h12v-9" stroke="var(--petrol)" strokeWidth="2.2" fill="none" />
      )}
    </svg>
  );
}

function MoreSteps({ steps, stepLink, open, active }: { steps: readonly Step[]; stepLink: (step: Step) => string; open: boolean; active: string | undefined }) {
  return (
    <details open={open} className="pt-1">
      <summary className="text-petrol min-h-8 cursor-pointer text-[0.9rem]">Other tests here</summary>
      {steps.map((step) => (
        <a
          data-step=""
          key={stepKey(step)}
          href={stepLink(step)}
          aria-current={stepKey(step) === active ? "step" : undefined}
          className="text-mute block min-h-8 py-1 pl-[26px] no-underline"
        >
          {stepTitle(step)}
        </a>
      ))}
    </details>
  );
}
