import { useEffect, useMemo, useState } from "react";
import { useFetcher } from "react-router";
import { testOf } from "../../core/procedure/catalogue";
import { isTaken, stepTitle } from "../../core/procedure/step";
import type { TraceFigure, TracePhase } from "../../core/trace/read";
import { formatQuantity } from "../../core/units";
import { typedNumber } from "../../formats/typed";
import type { Instrument } from "../../store/instruments";
import type { JobFile } from "../../store/jobs";
import { type KeptTrace, MOST_DRAWN } from "../../store/traces";
import { newId, readingOf } from "../jobs/entry";
import { Refused, Waiting } from "../jobs/NotKept";
import { ofMachine } from "../jobs/ofMachine";
import { useOutbox } from "../jobs/useOutbox";
import { TopBar } from "../ui/TopBar";
import { takeOver } from "./handedOver";
import { KeptTraceFigure } from "./KeptTraceFigure";
import { PHASE_NAMES } from "./phaseNames";
import { RecordLive } from "./RecordLive";
import { TraceChart } from "./TraceChart";
import { Phases, swingWords, TraceFacts, TraceHead, TraceNews } from "./TraceParts";
import { useTrace } from "./useTrace";

interface TraceScreenProps {
  file: JobFile;
  kept: KeptTrace[];
  /** The shop's meters that speak. */
  instruments: Instrument[];
}

/** A logged trace read into a job: its phases found and moved, its figures lifted as readings with their place in it. */
export function TraceScreen({ file, kept, instruments }: TraceScreenProps) {
  const { job, repairs } = file;
  const { sheet } = job;
  const outbox = useOutbox(job);
  const trace = useTrace();
  const { opened, phases } = trace;
  // A machine without a battery rests at nothing, and is not cranked: such figures are none of it.
  const figures = trace.figures.filter(({ test }) => isTaken(testOf(test), sheet));
  const sending = useFetcher<{ error?: string }>();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [rpms, setRpms] = useState<Readonly<Record<string, string>>>({});
  const [besideId, setBesideId] = useState("");
  const [done, setDone] = useState("");
  const open = job.closedAt === null;
  const lifted = figures.map((figure) => ({ figure, key: `${figure.test} ${figure.at}`, rpm: rpmOf(figure, rpms, sheet) }));
  const wrong = lifted.find(({ key, rpm }) => !left.has(key) && rpm === undefined);
  const chosen = lifted.filter(({ key }) => !left.has(key));
  const beside = useMemo(() => {
    const other = kept.find(({ id }) => id === besideId);
    const crankOf = (all: readonly Pick<TracePhase, "phase" | "from">[]): number => all.find(({ phase }) => phase === "crank")?.from ?? 0;
    return other ? { name: other.name, drawn: other.drawn, shift: crankOf(phases) - crankOf(other.phases) } : undefined;
  }, [kept, besideId, phases]);

  const read = (log: File): void => {
    setDone("");
    setLeft(new Set());
    trace.open(log, sheet.systemVolts);
  };

  // A log that was looked at before its machine was known is read into this one.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as the page opens
  useEffect(() => {
    const log = takeOver();
    if (log) read(log);
  }, []);

  const keep = async (): Promise<void> => {
    if (!opened) return;
    for (const { figure, rpm } of chosen) {
      const runs = testOf(figure.test).runs !== undefined;
      const step = {
        test: figure.test,
        ...(runs && rpm !== undefined && rpm !== null ? { rpm, loads: figure.phase === "loads" ? ("all" as const) : ("normal" as const) } : {}),
      };
      const reading = readingOf(step, figure.value, { repairs: repairs.length, leadOhms: job.meter.leadOhms });
      const { swing } = figure;
      outbox.add({
        kind: "reading",
        reading: { ...reading, ...(swing === undefined ? {} : { swing }), note: `from the trace ${trace.name} at ${figure.at.toFixed(1)} s`.slice(0, 500) },
      });
    }
    const drawn = await trace.look(0, opened.seconds, MOST_DRAWN / 2);
    const { ratePerSecond: rate } = opened.reading;
    const body = { id: newId(), name: trace.name.slice(0, 120) || "trace", seconds: opened.seconds, rate, phases, drawn };
    await sending.submit({ trace: JSON.stringify(body) }, { method: "post" });
    setDone(`${chosen.length} ${chosen.length === 1 ? "reading" : "readings"} of ${trace.name} put into the job.`);
  };
  return (
    <>
      <title>{`Trace, ${job.nickname} · Uvrel`}</title>
      <TopBar back={{ to: `/jobs/${job.id}`, label: "Bench" }} tag={`${job.unitTag ?? ""} “${job.nickname}”, ${ofMachine(sheet)}`.trim()}>
        <Waiting sent={outbox.sent} />
      </TopBar>
      <main className="mx-auto max-w-[1240px] px-4 py-5 md:px-6">
        <TraceHead onLog={read} />
        {open ? <RecordLive instruments={instruments} onLog={read} /> : null}
        <Refused sent={outbox.sent} drop={outbox.drop} />
        <TraceNews trace={trace} refusal={sending.data?.error} done={done} />
        {opened ? (
          <>
            <TraceFacts opened={opened} byColumn={trace.byColumn}>
              {kept.length > 0 ? (
                <label className="flex items-center gap-2">
                  beside it
                  <select className="border-hair bg-sheet min-h-9 border px-2" value={besideId} onChange={(event) => setBesideId(event.target.value)}>
                    <option value="">nothing</option>
                    {kept.map(({ id, name, afterRepair }) => (
                      <option key={id} value={id}>
                        {name}
                        {afterRepair ? ", after the repair" : ""}
                      </option>
                    ))}
                  </select>
                </label>
              ) : null}
            </TraceFacts>
            <TraceChart seconds={opened.seconds} phases={phases} look={trace.look} beside={beside} name={trace.name} />
            <div className="mt-4 grid gap-x-12 gap-y-4 md:grid-cols-[1fr_1.35fr]">
              <Phases phases={phases} seconds={opened.seconds} onMove={trace.move} notes={opened.reading.notes} />
              <section aria-label="Figures">
                <h2 className="mt-0">What it shows</h2>
                {figures.length === 0 ? <p className="text-mute">No figure can be lifted from it.</p> : null}
                <ul className="m-0 list-none p-0">
                  {lifted.map(({ figure, key, rpm }) => (
                    <li key={key} className="border-hair flex min-h-11 flex-wrap items-center gap-x-3 border-t py-1">
                      <label className="flex flex-1 items-center gap-3">
                        <input
                          type="checkbox"
                          className="size-5 shrink-0"
                          checked={!left.has(key)}
                          onChange={(event) => setLeft((was) => new Set(event.target.checked ? [...was].filter((other) => other !== key) : [...was, key]))}
                        />
                        {stepTitle({ test: figure.test })}
                        {figure.plateau === undefined ? "" : `, ${PHASE_NAMES[figure.phase]}`}
                      </label>
                      {testOf(figure.test).runs ? (
                        <label className="text-mute flex items-center gap-1">
                          at
                          <input
                            className="border-hair bg-sheet num min-h-9 w-20 border px-2"
                            value={rpms[key] ?? (figure.phase === "idle" ? "idle" : String(sheet.testRpm))}
                            onChange={(event) => setRpms({ ...rpms, [key]: event.target.value })}
                            aria-label={`Rpm of ${stepTitle({ test: figure.test })} at ${figure.at.toFixed(0)} s`}
                            aria-invalid={rpm === undefined ? true : undefined}
                          />
                          rpm
                        </label>
                      ) : null}
                      {figure.swing === undefined ? null : <span className="text-mute">{swingWords(figure, figure.swing)}</span>}
                      <span className="num text-lg">{formatQuantity(figure.value, testOf(figure.test).unit)}</span>
                      <span className="text-mute num w-20 text-right">{figure.at.toFixed(1)} s</span>
                    </li>
                  ))}
                </ul>
                <div role="alert">{wrong ? <p className="rule-left m-0">Rpm must be a whole number from 100 to 20,000, or “idle”.</p> : null}</div>
                {open ? (
                  <button
                    type="button"
                    className="btn btn-main mt-3"
                    disabled={chosen.length === 0 || wrong !== undefined || sending.state !== "idle" || done !== ""}
                    onClick={() => void keep()}
                  >
                    Put {chosen.length} into the job, with the trace
                  </button>
                ) : (
                  <p className="text-mute">This job is closed: its traces can be looked at.</p>
                )}
              </section>
            </div>
          </>
        ) : null}
        <section aria-label="Kept traces" className="mt-6">
          <h2>Kept with this job</h2>
          {kept.length === 0 ? <p className="text-mute">No trace is kept yet. What is lifted from one brings it along.</p> : null}
          {kept.map((keptTrace) => (
            <div key={keptTrace.id} className="border-hair border-t py-2">
              <p className="m-0">
                <strong className="font-semibold">{keptTrace.name}</strong>
                <span className="text-mute">
                  {keptTrace.afterRepair ? ", after the repair" : ""}, {keptTrace.seconds.toFixed(0)} s at {keptTrace.rate} a second
                </span>
              </p>
              <KeptTraceFigure trace={keptTrace} />
            </div>
          ))}
        </section>
      </main>
    </>
  );
}

/** The speed of a figure's plateau: typed, or as the machine's sheet has it; null for figures that have none, undefined for what is no speed. */
function rpmOf(figure: TraceFigure, typed: Readonly<Record<string, string>>, { testRpm }: { testRpm: number }): number | "idle" | null | undefined {
  if (!testOf(figure.test).runs) return null;
  const text = (typed[`${figure.test} ${figure.at}`] ?? (figure.phase === "idle" ? "idle" : String(testRpm))).trim();
  if (text === "idle") return "idle";
  const rpm = typedNumber(text);
  return rpm !== undefined && Number.isInteger(rpm) && rpm >= 100 && rpm <= 20_000 ? rpm : undefined;
}
