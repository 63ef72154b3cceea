import { useMemo } from "react";
import { Link } from "react-router";
import { judgedWords } from "../../core/procedure/judge";
import { runWords, type Step, stepKey } from "../../core/procedure/step";
import { cautionsOf } from "../../core/procedure/stepCautions";
import { type SweepLine, type SweepPoint, sweepOf } from "../../core/procedure/sweep";
import { formatQuantity } from "../../core/units";
import type { JobFile } from "../../store/jobs";
import { ReadingField } from "../bench/ReadingField";
import { Cautions } from "../bench/SetUp";
import { readingOf } from "../jobs/entry";
import { Refused, Waiting } from "../jobs/NotKept";
import { ofMachine } from "../jobs/ofMachine";
import { useOutbox } from "../jobs/useOutbox";
import { type JobView, viewOf } from "../jobs/view";
import { TopBar } from "../ui/TopBar";
import { SpeedForm } from "./SpeedForm";
import { SweepChart } from "./SweepChart";

interface SweepProps {
  file: JobFile;
  /** Where a sound machine of this sheet feeds each load from, rpm; undefined where it never does. */
  sound: Record<SweepLine["loads"], number | undefined>;
}

const LOADS = { off: "Loads off", normal: "As ridden", all: "All loads on" } as const;

/** Charging volts at as many speeds as the mechanic cares for, drawn as a curve: where it begins to charge, and whether it stands still. */
export function Sweep({ file, sound }: SweepProps) {
  const { job, repairs } = file;
  const outbox = useOutbox(job);
  const view = useMemo(() => viewOf(file, outbox.sent), [file, outbox.sent]);
  const { sheet, meter } = view.context;
  const now = view.judged.filter(({ reading }) => view.isNow(reading));
  const sweep = sweepOf(sheet, now);
  const keep = (step: Step, value: number | string, swing = 0): void => {
    const reading = readingOf(step, value, { repairs: repairs.length, leadOhms: meter.leadOhms });
    const earlier = now.findLast((judgedReading) => stepKey(judgedReading.reading) === stepKey(step))?.reading;
    outbox.add({
      kind: "reading",
      reading: { ...reading, ...(swing > 0 ? { swing } : {}), ...(earlier ? { supersedes: earlier.id, supersedesWhy: "taken-again" as const } : {}) },
    });
  };
  const [next = { test: "charge.volts", rpm: "idle", loads: "normal" } as const] = sweep.next;
  const open = job.closedAt === null;
  const name = `${job.unitTag ?? ""} “${job.nickname}”`.trim();
  return (
    <>
      <title>{`Speed by speed, ${job.nickname} · Uvrel`}</title>
      <TopBar back={{ to: `/jobs/${job.id}`, label: "Bench" }} tag={`${name}, ${ofMachine(sheet)}`}>
        <Waiting sent={outbox.sent} />
      </TopBar>
      <main className="mx-auto grid max-w-[1240px] gap-x-12 px-4 py-5 md:grid-cols-[1fr_1.25fr] md:px-6">
        <div>
          <h1 className="mt-0 mb-3 text-3xl">Charging, speed by speed</h1>
          <Refused sent={outbox.sent} drop={outbox.drop} />
          <p className="mt-0">
            Meter on the battery's posts, everything plugged in. Hold each speed for ten seconds and watch: one figure where it stands still, the lowest and the
            highest where it does not.
          </p>
          <Cautions ids={cautionsOf(next, sheet)} />
          {open ? <SpeedForm key={stepKey(next)} next={next} idleRpm={sheet.idleRpm} draft={`${job.id}.sweep`} onKeep={keep} /> : null}
          {open ? <Others view={view} jobId={job.id} onKeep={keep} /> : null}
        </div>
        <section aria-label="Curve">
          {sweep.lines.length === 0 ? (
            <p className="text-mute mt-0">Nothing is read yet. Each speed becomes a point of a curve, beside its band.</p>
          ) : (
            <>
              <SweepChart lines={sweep.lines} rest={restOf(now)} />
              {sweep.lines.map((line) => (
                <LineTold key={line.loads} line={line} sound={sound[line.loads]} />
              ))}
            </>
          )}
          {sweep.lost ? (
            <p className="m-0 mt-2">
              At <span className="num">{sweep.lost.rpm}</span> rpm the unit's output stands <span className="num">{formatQuantity(sweep.lost.volts, "V")}</span>{" "}
              above the battery: the wire between loses that.
            </p>
          ) : null}
          {sweep.fell === undefined ? null : (
            <p className="m-0 mt-2">
              Stopped, the volts fell by <span className="num">{formatQuantity(sweep.fell, "V")}</span>.
            </p>
          )}
          <p>
            <Link to={`/jobs/${job.id}`} className="btn inline-flex items-center" data-bench="">
              Back to the bench
            </Link>
          </p>
        </section>
      </main>
    </>
  );
}

function restOf(judged: JobView["judged"]): number | undefined {
  const value = judged.findLast(({ reading }) => reading.test === "battery.rest")?.value;
  return typeof value === "number" ? value : undefined;
}

/** Ripple at the speed, and what it falls to once stopped: read without moving the probes. */
function Others({ view, jobId, onKeep }: { view: JobView; jobId: number; onKeep: (step: Step, value: number | string) => void }) {
  const { sheet } = view.context;
  const others: [string, Step, string][] = [
    ["Ripple, dial on volts AC", { test: "charge.ripple", rpm: sheet.testRpm, loads: "normal" }, "V AC"],
    ["At the unit's output", { test: "charge.outputVolts", rpm: sheet.testRpm, loads: "normal" }, "V"],
    ["Just stopped, within ten seconds", { test: "battery.recovery" }, "V"],
  ];
  return (
    <details className="mt-4">
      <summary className="text-mute min-h-9 cursor-pointer font-semibold">Ripple, output, just stopped</summary>
      {others.map(([label, step, unit]) => (
        <div key={step.test} className="mt-2">
          <p className="text-mute m-0">
            {label}
            {step.rpm === undefined ? "" : `, ${sheet.testRpm.toLocaleString("en")} rpm`}
          </p>
          <ReadingField
            step={step}
            draft={`${jobId}.sweep.${stepKey(step)}`}
            label={`${label}, in ${unit}`}
            unit={unit}
            button="Keep"
            onKeep={(value) => onKeep(step, value)}
          />
        </div>
      ))}
    </details>
  );
}

function breakEvenWords({ breakEven, points }: SweepLine): string {
  const [slowest, fastest] = [points[0], points.at(-1)] as [SweepPoint, SweepPoint];
  if (breakEven === undefined) return "one more speed tells from where it charges";
  if (breakEven === "below") return `charges from below ${slowest.rpm} rpm`;
  if (breakEven === "above") return `does not charge up to ${fastest.rpm} rpm`;
  return `charges from about ${Math.round(breakEven / 50) * 50} rpm`;
}

/** One line of the curve in words: each speed, what it came to, and from where it charges. */
function LineTold({ line, sound }: { line: SweepLine; sound: number | undefined }) {
  return (
    <section aria-label={LOADS[line.loads]} className="border-hair border-t py-2">
      <p className="m-0">
        <strong className="font-semibold">{LOADS[line.loads]}</strong>: {breakEvenWords(line)}
        <span className="text-mute">
          {" "}
          (below {line.paysBelow.toFixed(1)} V a full battery pays
          {sound === undefined ? "" : `; a sound machine feeds them from ${Math.round(sound / 50) * 50} rpm`}).
        </span>
      </p>
      <ul className="m-0 list-none p-0">
        {line.points.map(({ rpm, volts, reading }) => (
          <li key={rpm} className="flex flex-wrap justify-between gap-x-4">
            <span>{runWords({ ...reading.reading, loads: undefined })}</span>
            <span>
              <span className="num">{formatQuantity(volts, "V")}</span>
              {reading.reading.swing ? <span className="text-mute">, swings by {formatQuantity(reading.reading.swing, "V")}</span> : null},{" "}
              {judgedWords(reading)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
