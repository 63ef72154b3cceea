import { format } from "date-fns";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { Instrument } from "../../store/instruments";
import type { ListedTrace } from "../../store/traces";
import { TopBar } from "../ui/TopBar";
import { handOver } from "./handedOver";
import { PHASE_NAMES } from "./phaseNames";
import { RecordLive } from "./RecordLive";
import { TraceChart } from "./TraceChart";
import { Phases, swingWords, TraceFacts, TraceHead, TraceNews } from "./TraceParts";
import { useTrace } from "./useTrace";

/** An open job that a log may belong to. */
interface OpenJob {
  id: number;
  name: string;
}

interface ShopTracesScreenProps {
  traces: ListedTrace[];
  openJobs: OpenJob[];
  /** The shop's meters that speak. */
  instruments: Instrument[];
}

const VOLTS = [12, 6] as const;

/** A log looked at by itself, before anybody knows whose it is, and the traces kept last with any job. */
export function ShopTracesScreen({ traces, openJobs, instruments }: ShopTracesScreenProps) {
  const [log, setLog] = useState<File>();
  const [systemVolts, setSystemVolts] = useState<(typeof VOLTS)[number]>(12);
  const [jobId, setJobId] = useState("");
  const navigate = useNavigate();
  const trace = useTrace();
  const { opened, phases, figures } = trace;
  const read = (chosen: File): void => {
    setLog(chosen);
    trace.open(chosen, systemVolts);
  };
  return (
    <>
      <title>Traces · Uvrel</title>
      <TopBar />
      <main className="mx-auto max-w-[1240px] px-4 py-5 md:px-6">
        <TraceHead onLog={read} />
        <RecordLive instruments={instruments} onLog={read} />
        <TraceNews trace={trace} />
        {opened && log ? (
          <>
            <TraceFacts opened={opened} byColumn={trace.byColumn}>
              <label className="flex items-center gap-2">
                of a machine of
                <select
                  className="border-hair bg-sheet min-h-9 border px-2"
                  value={systemVolts}
                  onChange={(event) => {
                    const volts = VOLTS.find((each) => String(each) === event.target.value) ?? 12;
                    setSystemVolts(volts);
                    trace.open(log, volts);
                  }}
                >
                  {VOLTS.map((volts) => (
                    <option key={volts} value={volts}>
                      {volts} V
                    </option>
                  ))}
                </select>
              </label>
            </TraceFacts>
            <TraceChart seconds={opened.seconds} phases={phases} look={trace.look} beside={undefined} name={trace.name} />
            <div className="mt-4 grid gap-x-12 gap-y-4 md:grid-cols-[1fr_1.35fr]">
              <Phases phases={phases} seconds={opened.seconds} onMove={trace.move} notes={opened.reading.notes} />
              <section aria-label="Figures">
                <h2 className="mt-0">What it shows</h2>
                {figures.length === 0 ? <p className="text-mute">No figure can be lifted from it.</p> : null}
                <ul className="m-0 list-none p-0">
                  {figures.map((figure) => (
                    <li key={`${figure.test} ${figure.at}`} className="border-hair flex min-h-9 flex-wrap items-center gap-x-3 border-t py-1">
                      <span className="flex-1">
                        {stepTitle({ test: figure.test })}
                        {figure.plateau === undefined ? "" : `, ${PHASE_NAMES[figure.phase]}`}
                      </span>
                      {figure.swing === undefined ? null : <span className="text-mute">{swingWords(figure, figure.swing)}</span>}
                      <span className="num text-lg">{formatQuantity(figure.value, testOf(figure.test).unit)}</span>
                      <span className="text-mute num w-20 text-right">{figure.at.toFixed(1)} s</span>
                    </li>
                  ))}
                </ul>
                {openJobs.length === 0 ? (
                  <p className="text-mute">
                    Nothing of it is kept: no machine is on the rail. <Link to="/jobs/new">Take one in</Link>, and read the log there.
                  </p>
                ) : (
                  <div className="mt-3 flex flex-wrap items-end gap-3">
                    <label className="flex min-w-0 flex-col">
                      <span className="text-mute">Nothing of it is kept yet. It is of</span>
                      <select className="field" value={jobId} onChange={(event) => setJobId(event.target.value)}>
                        <option value="">choose a machine</option>
                        {openJobs.map(({ id, name }) => (
                          <option key={id} value={id}>
                            {name}
                          </option>
                        ))}
                      </select>
                    </label>
                    <button
                      type="button"
                      className="btn btn-main"
                      disabled={jobId === ""}
                      onClick={() => {
                        handOver(log);
                        void navigate(`/jobs/${jobId}/traces`);
                      }}
                    >
                      Read it there
                    </button>
                  </div>
                )}
              </section>
            </div>
          </>
        ) : null}
        <section aria-label="Kept traces" className="mt-6">
          <h2>Kept last</h2>
          {traces.length === 0 ? <p className="text-mute">No trace is kept with any job yet. What is lifted from one into a job brings it along.</p> : null}
          <ul className="m-0 list-none p-0">
            {traces.map(({ id, name, seconds, rate, afterRepair, keptAt, jobId: of, unitTag, nickname }) => (
              <li key={id} className="border-hair flex min-h-11 flex-wrap items-center gap-x-4 border-t py-1">
                <Link to={`/jobs/${of}/traces`}>{name}</Link>
                <span>{`${unitTag ?? ""} “${nickname}”`.trim()}</span>
                <span className="text-mute">
                  {afterRepair ? "after the repair, " : ""}
                  {seconds.toFixed(0)} s at {rate} a second, {format(keptAt, "d MMM yyyy")}
                </span>
              </li>
            ))}
          </ul>
        </section>
      </main>
    </>
  );
}
