import { Check } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { testOf } from "../../core/procedure/catalogue";
import { type DrainLadder, drainLadder, type Pull } from "../../core/procedure/drainLoop";
import { NAME_RULE, stepProblem } from "../../core/procedure/entry";
import { judgedWords } from "../../core/procedure/judge";
import { type Step, stepKey, stepTitle } from "../../core/procedure/step";
import { cautionsOf } from "../../core/procedure/stepCautions";
import { formatQuantity } from "../../core/units";
import type { JobFile } from "../../store/jobs";
import { ReadingField } from "../bench/ReadingField";
import { Cautions } from "../bench/SetUp";
import { newId, readingOf } from "../jobs/entry";
import { Refused, Waiting } from "../jobs/NotKept";
import { ofMachine } from "../jobs/ofMachine";
import { useOutbox } from "../jobs/useOutbox";
import { viewOf } from "../jobs/view";
import { TopBar } from "../ui/TopBar";
import { useDraft } from "../ui/useDraft";
import { Asleep } from "./Asleep";

const BASE: Step = { test: "drain.current" };

/** The search for what drains a machine at rest, as one loop with the meter in series throughout: pull, read, put back, until it is found. */
export function DrainLoop({ file }: { file: JobFile }) {
  const { job, repairs } = file;
  const outbox = useOutbox(job);
  const view = useMemo(() => viewOf(file, outbox.sent), [file, outbox.sent]);
  const { sheet } = view.context;
  const now = view.judged.filter(({ reading }) => view.isNow(reading));
  const ladder = drainLadder(sheet, now);
  const keep = (step: Step, value: number | string): void => {
    const { leadOhms } = view.context.meter;
    const earlier = now.findLast(({ reading }) => stepKey(reading) === stepKey(step))?.reading;
    const reading = readingOf(step, value, { repairs: repairs.length, leadOhms });
    outbox.add({ kind: "reading", reading: { ...reading, ...(earlier ? { supersedes: earlier.id, supersedesWhy: "taken-again" as const } : {}) } });
  };
  // What is pulled for a reading is out until it is ticked; pulled once more it is a reading of its own.
  const tick = (pulledFor: string): void => outbox.add({ kind: "put-back", id: newId(), pulledFor, takenAt: new Date().toISOString() });
  const isBack = ({ reading }: Pull): boolean => reading !== undefined && view.putBacks.has(reading.reading.id);
  const out = ladder.pulls.filter((pull) => pull.reading && !isBack(pull));
  const open = job.closedAt === null;
  const [left] = out;
  const name = `${job.unitTag ?? ""} “${job.nickname}”`.trim();
  return (
    <>
      <title>{`Drain, ${job.nickname} · Uvrel`}</title>
      <TopBar back={{ to: `/jobs/${job.id}`, label: "Bench" }} tag={`${name}, ${ofMachine(job.sheet)}`}>
        <Waiting sent={outbox.sent} />
      </TopBar>
      <main className="mx-auto grid max-w-[1240px] gap-x-12 px-4 py-5 md:grid-cols-[1fr_1.25fr] md:px-6">
        <div>
          <h1 className="mt-0 mb-3 text-3xl">{headline(ladder)}</h1>
          <Refused sent={outbox.sent} drop={outbox.drop} />
          {/* Once the meter is in, the ladder is what is looked at. */}
          <details open={!ladder.base} key={`${ladder.base === undefined}`}>
            <summary className="text-mute min-h-9 cursor-pointer font-semibold">How the machine and the meter stand</summary>
            <ol className="mt-1 mb-2 list-decimal pl-5">
              <li>Key out and off the machine, every lamp and door as it is when it stands.</li>
              <li>Take the earthed cable, negative on most machines, off the battery. Keep every ground lead together on it.</li>
              <li>Meter on amps, its own jack and the highest range first; one probe on the cable, the other on the post. Step down once it is quiet.</li>
              <li>Leave it so to the end: a meter taken out wakes what had gone to sleep.</li>
            </ol>
          </details>
          <Cautions ids={cautionsOf(BASE, sheet)} />
          <Asleep />
          <Days ladder={ladder} />
        </div>
        <section aria-label="Ladder">
          <h2 className="mt-0">What each pull changed</h2>
          <ol className="m-0 list-none p-0">
            <Rung step={BASE} what="Everything in" reading={ladder.base} fell={undefined} active={open && !ladder.base}>
              {open && !ladder.base ? <Entry step={BASE} jobId={job.id} onKeep={keep} /> : null}
            </Rung>
            {ladder.base
              ? ladder.pulls.map((pull) => {
                  const active = open && pull === ladder.next && !left;
                  return (
                    <Rung key={stepKey(pull.step)} {...pull} reading={pull.reading} active={active}>
                      {active ? <Entry step={pull.step} jobId={job.id} onKeep={keep} /> : null}
                      {pull.reading && !isBack(pull) && open ? <PutBack what={pull.what} onBack={() => tick(pull.reading?.reading.id ?? "")} /> : null}
                    </Rung>
                  );
                })
              : null}
          </ol>
          {open && ladder.tooMuch && !ladder.next && !left ? <NewConnector jobId={job.id} found={ladder.found} onKeep={keep} sheet={sheet} /> : null}
          <p className={`mt-4 ${left ? "rule-left" : "text-mute"}`} role="status">
            {left
              ? `Still out: ${out.map(({ what }) => what.toLowerCase()).join("; ")}.`
              : ladder.pulls.some(({ reading }) => reading)
                ? "All that was pulled is back in."
                : ""}
          </p>
          {ladder.base && (!ladder.next || !ladder.tooMuch) && !left ? (
            <p>
              <Link to={`/jobs/${job.id}/verdict`} className="btn btn-main inline-flex items-center" data-bench="">
                To the verdict
              </Link>
            </p>
          ) : null}
        </section>
      </main>
    </>
  );
}

function headline({ base, tooMuch, found, next }: DrainLadder): string {
  if (!base) return "What drains it while it stands?";
  if (!tooMuch) return "Nothing drains it beyond its limit.";
  if (found) return `Found behind: ${found.what}.`;
  return next ? `Too much: pull ${next.what.charAt(0).toLowerCase()}${next.what.slice(1)} next.` : "Behind none of what was pulled.";
}

function Days({ ladder: { base, tooMuch, days } }: { ladder: DrainLadder }) {
  if (!base || days === undefined || !Number.isFinite(days)) return null;
  const told = days >= 60 ? `${Math.round(days / 30)} months` : days >= 2 ? `${Math.round(days)} days` : `${Math.max(1, Math.round(days * 24))} hours`;
  return (
    <p className={tooMuch ? "rule-left" : "text-mute"}>
      At this drain a full battery starts the machine for about <span className="num">{told}</span>.
    </p>
  );
}

/** What a meter on amps shows of nothing having changed, mA. */
const LEAST_CHANGE = 0.3;

interface RungProps extends Pick<Pull, "step" | "what" | "reading" | "fell"> {
  under?: boolean;
  active: boolean;
  children?: React.ReactNode;
}

/** One line of the ladder: what was out, what the meter showed, and what that changed. */
function Rung({ step, what, reading, fell, under = false, active, children }: RungProps) {
  return (
    <li className={`border-hair border-t py-2 ${active ? "rule-left" : ""}`} aria-current={active ? "step" : undefined}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span className={active ? "font-semibold" : ""}>{what}</span>
        {reading ? (
          <span className="whitespace-nowrap">
            <span className="num text-lg">{formatQuantity(reading.value, testOf(step.test).unit)}</span>
            {fell === undefined
              ? `, ${judgedWords(reading)}${reading.band?.kind === "between" ? ` (${reading.band.says}: ${formatQuantity(reading.band.high ?? 0, "mA")})` : ""}`
              : null}
            {fell === undefined ? null : (
              <span className={under ? "text-petrol font-semibold" : "text-mute"}>
                {" "}
                {fell >= LEAST_CHANGE ? `fell by ${formatQuantity(fell, "mA")}` : "no less"}
              </span>
            )}
          </span>
        ) : null}
      </div>
      {children}
    </li>
  );
}

interface EntryProps {
  step: Step;
  jobId: number;
  onKeep: (step: Step, value: number | string) => void;
}

/** The field of the rung that is open; it has the focus, so that the loop runs by keys alone. */
function Entry({ step, jobId, onKeep }: EntryProps) {
  return (
    <>
      <p className="text-mute mt-2 mb-1">{step.test === BASE.test ? "Once it is quiet:" : `${testOf(step.test).setUp.do} Read once it is quiet.`}</p>
      <ReadingField
        step={step}
        draft={`${jobId}.drain.${stepKey(step)}`}
        label={`${stepTitle(step)}, in mA`}
        unit="mA"
        button="Keep"
        first
        onKeep={(value) => onKeep(step, value)}
      />
    </>
  );
}

/** What was pulled goes back before anything else is pulled. */
function PutBack({ what, onBack }: { what: string; onBack: () => void }) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => button.current?.focus(), []);
  return (
    <button ref={button} type="button" className="btn mt-1 flex min-h-11 items-center gap-2" onClick={onBack}>
      <Check size={18} aria-hidden="true" /> {what} back in
    </button>
  );
}

/** The connectors behind a fuse are known to nobody but who looks: each is called what it leads to. */
function NewConnector({
  jobId,
  found,
  onKeep,
  sheet,
}: {
  jobId: number;
  found: Pull | undefined;
  onKeep: EntryProps["onKeep"];
  sheet: JobFile["job"]["sheet"];
}) {
  const [name, setName] = useDraft(`${jobId}.drain.connector`);
  const [step, setStep] = useState<Step>();
  const [error, setError] = useState<string>();
  const begin = (event: React.FormEvent): void => {
    event.preventDefault();
    const parted: Step = { test: "drain.connectorParted", at: name.trim() };
    const problem = stepProblem(parted, sheet);
    setError(problem ? `Say what it leads to in ${NAME_RULE}.` : undefined);
    if (!problem) setStep(parted);
  };
  return (
    <section className="border-hair border-t py-2">
      <h3 className="m-0 text-base">{found ? "Behind it, connector by connector" : "Connector by connector"}</h3>
      {step ? (
        <Entry
          step={step}
          jobId={jobId}
          onKeep={(of, value) => {
            onKeep(of, value);
            setName("");
            setStep(undefined);
          }}
        />
      ) : (
        <form onSubmit={begin} className="mt-1 flex flex-wrap items-end gap-2" noValidate>
          <label className="flex flex-col">
            <span className="text-mute">What it leads to</span>
            <input
              className="field max-w-56"
              value={name}
              onChange={(event) => setName(event.target.value)}
              autoComplete="off"
              aria-invalid={error ? true : undefined}
              aria-describedby={error ? "connector-says" : undefined}
            />
          </label>
          <button type="submit" className="btn">
            Part it
          </button>
          <div id="connector-says" role="alert" className="w-full">
            {error ? <p className="rule-left m-0">{error}</p> : null}
          </div>
        </form>
      )}
    </section>
  );
}
