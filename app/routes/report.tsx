import { Printer } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import { marksOf, wiringBreaks } from "../../core/diagnosis/words/marks";
import { testOf } from "../../core/procedure/catalogue";
import { PRECEDENCE } from "../../core/procedure/cautions";
import { isBad, type JudgedReading, judgedWords } from "../../core/procedure/judge";
import { beforeRepair } from "../../core/procedure/runlist";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import type { JobFile } from "../../store/jobs";
import { RuledOut } from "../bench/EngineVerdict";
import { EngineProgress } from "../bench/OddsPanel";
import { endingsOf, isSound } from "../jobs/endings";
import { foundOf } from "../jobs/facts";
import { adviceOf, jobFileOf, shopKnows } from "../jobs/file.server";
import { ofMachine } from "../jobs/ofMachine";
import { repairedName } from "../jobs/repaired";
import { useEngine } from "../jobs/useEngine";
import { viewOf } from "../jobs/view";
import { Loom } from "../loom/Loom";
import { LOOSE_ZONES } from "../loom/layout";
import { tagsOf } from "../loom/tags";
import { BatteryMethods } from "../report/BatteryMethods";
import { DiodeChart } from "../report/DiodeChart";
import { by, capital, cautionsThatApplied, complaintsOf, foundLines, moment, skipTitle } from "../report/words";
import { ReadingRuler } from "../ruler/ReadingRuler";
import { KeptTraceFigure } from "../traces/KeptTraceFigure";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/report";

export function loader({ context, params }: Route.LoaderArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const knows = shopKnows(store, file);
  const { id } = file.job;
  return {
    file,
    shop: store.workshop.shop().name,
    knows,
    kept: adviceOf(context, file, knows, true),
    endings: store.jobs.endings(id),
    traces: store.traces.of(id),
  };
}

export default function Report({ loaderData }: Route.ComponentProps) {
  const { file, shop, knows, kept, endings, traces } = loaderData;
  const { job, repairs, skips } = file;
  const view = viewOf(file);
  const { context } = view;
  // What was found is what the readings before any repair say; what the repair did is told by those after it.
  const asFound = useMemo(() => foundOf(file), [file]);
  const found = useMemo(() => viewOf(asFound), [asFound]);
  const engine = useEngine(asFound, found, knows, { kept, asFound: true });
  const { advice } = engine;
  const takers = new Map(file.history.map((reading) => [reading.id, reading.by]));
  const called = endingsOf(job.sheet);
  const plain = job.ending === "plain-cause";
  const [headline = "No verdict yet", ...then] = foundLines(file, advice);
  const recorded = repairs.some(({ found: said }) => said !== null);
  const facts = [
    [job.sheet.loose ? "Part" : "Machine", `${capital(ofMachine(job.sheet))}${job.unitTag ? `, ${job.unitTag} “${job.nickname}”` : `, “${job.nickname}”`}`],
    ["In", `${moment(job.openedAt)}${by(job.openedBy)}`],
    ["Out", job.closedAt ? `${moment(job.closedAt)}${by(job.closedBy)}` : "still open"],
    ["Battery age", job.batteryAgeYears === null ? "not known" : `${job.batteryAgeYears} years`],
    ["Meter", `${job.meter.name}, lead zero ${context.meter.leadOhms} Ω, ${job.meter.trueRms ? "true rms" : "average responding"}`],
    ["Air", `${job.ambientC} °C`],
  ];
  return (
    <>
      <title>{`Work report ${job.id} · Uvrel`}</title>
      <TopBar back={{ to: job.closedAt ? "/" : `/jobs/${job.id}/verdict`, label: job.closedAt ? "Rail" : "Verdict" }}>
        <button type="button" className="btn min-h-10" onClick={() => window.print()}>
          <Printer size={17} aria-hidden="true" /> Print
        </button>
        {isSound(job) ? (
          <Link to={`/machines/new?from=${job.id}`} className="flex min-h-11 items-center">
            Draft a sheet
          </Link>
        ) : null}
        <a href={`/jobs/${job.id}/report.pdf`} className="flex min-h-11 items-center">
          PDF
        </a>
        <a href={`/jobs/${job.id}/case.json`} download className="flex min-h-11 items-center">
          Case file
        </a>
      </TopBar>
      <main className="bg-sheet mx-auto my-0 max-w-[900px] px-6 py-6 md:my-6 md:px-10 print:my-0 print:max-w-none print:p-0">
        <header className="border-ink mb-4 flex items-baseline justify-between gap-4 border-b-2 pb-2">
          <p className="m-0 text-lg font-semibold">{shop}</p>
          <p className="text-mute m-0">
            Work report <span className="num">{job.id}</span>
          </p>
        </header>
        <section>
          <h2 className="m-0">The owner's words</h2>
          <p className="mt-1 mb-3 text-xl">{job.words ? `“${job.words}”` : "None taken down."}</p>
          <p className="text-mute m-0">{complaintsOf(job)}</p>
        </section>
        <section className="mt-5">
          <h1 className="m-0">{headline}</h1>
          {job.ending ? (
            <p className="m-0 mt-1 text-lg">
              {called[job.ending]}
              {job.closingNote ? `: ${job.closingNote}` : ""}
            </p>
          ) : null}
          {endings.map(({ ending, note, closedAt, closedBy, reopenedAt, reopenedBy }) => (
            <p key={reopenedAt} className="text-mute m-0 mt-1">
              Closed {moment(closedAt)}
              {by(closedBy)} as “{called[ending]}”{note ? `: ${note}` : ""}; opened again {moment(reopenedAt)}
              {by(reopenedBy)}.
            </p>
          ))}
          {then.map((sentence) => (
            <p key={sentence} className="m-0 mt-1">
              Then: {sentence}
            </p>
          ))}
          {plain || recorded ? null : (
            <div className="print:hidden">
              <EngineProgress engine={engine} />
            </div>
          )}
        </section>
        {repairs.length > 0 ? (
          <section className="mt-5">
            <h2 className="m-0">Work done</h2>
            {repairs.map((repair) => (
              <p key={repair.id} className="m-0 mt-1">
                <strong>{repairedName(job.sheet, repair.part)}:</strong> {repair.done}
                <span className="text-mute">{by(repair.by)}</span>
              </p>
            ))}
          </section>
        ) : null}
        <section className={`mt-5 hidden md:block print:block ${job.sheet.loose ? "mx-auto max-w-[320px]" : ""}`}>
          <Loom
            sheet={job.sheet}
            marks={advice ? marksOf(advice, engine.weighed.length) : {}}
            broken={advice && wiringBreaks(advice)}
            tags={tagsOf(beforeRepair(view.judged), job.sheet)}
            {...(job.sheet.loose ? { zones: LOOSE_ZONES[job.sheet.loose] } : {})}
          />
        </section>
        <dl className="border-hair mt-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-1 border-t pt-3 sm:grid-cols-[auto_1fr_auto_1fr]">
          {facts.map(([name, fact]) => (
            <div key={name} className="contents">
              <dt className="text-mute">{name}</dt>
              {/* Dates are told in the shop's own time, which the reader's device may not share. */}
              <dd className="m-0" suppressHydrationWarning>
                {fact}
              </dd>
            </div>
          ))}
        </dl>
        <Readings title="Readings" judged={view.judged.filter((judgedReading) => !judgedReading.reading.afterRepair)} takers={takers} />
        <Readings title="After the repair" judged={view.judged.filter((judgedReading) => judgedReading.reading.afterRepair)} takers={takers} />
        {traces.length > 0 ? (
          <section className="mt-5">
            <h2 className="m-0">Volts over time</h2>
            {traces.map((trace) => (
              <div key={trace.id} className="mt-1">
                <p className="text-mute m-0">
                  {trace.name}
                  {trace.afterRepair ? ", after the repair" : ""}
                </p>
                <KeptTraceFigure trace={trace} />
              </div>
            ))}
          </section>
        ) : null}
        <BatteryMethods sheet={job.sheet} judged={view.judged} />
        <DiodeChart sheet={job.sheet} judged={view.judged} />
        {advice && !job.sheet.loose ? (
          <section className="mt-5">
            <h2 className="m-0">Ruled out</h2>
            <RuledOut engine={engine} advice={advice} view={found} />
          </section>
        ) : null}
        {skips.length > 0 ? (
          <section className="mt-5">
            <h2 className="m-0">Not taken</h2>
            {skips.map((skip) => (
              <p key={skip.id} className="m-0 mt-1">
                {skipTitle(skip.step)}: {skip.reason}
              </p>
            ))}
          </section>
        ) : null}
        <CautionsThatApplied file={file} />
        <p className="border-hair text-mute mt-6 mb-0 border-t pt-3 text-[0.95rem]">{PRECEDENCE}</p>
      </main>
    </>
  );
}

/** What stood beside the readings that were taken, each once. */
function CautionsThatApplied({ file }: { file: JobFile }) {
  const cautions = cautionsThatApplied(file);
  if (cautions.length === 0) return null;
  return (
    <section className="mt-5">
      <h2 className="m-0">Cautions that applied</h2>
      <ul className="m-0 list-disc pl-5 text-[0.95rem]">
        {cautions.map(({ says, read }) => (
          <li key={says} suppressHydrationWarning>
            {says}
            <span className="text-mute">{read}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface ReadingsProps {
  title: string;
  judged: readonly JudgedReading[];
  /** Who took a reading, by its id, where people sign in. */
  takers: ReadonlyMap<string, string | undefined>;
}

function Readings({ title, judged, takers }: ReadingsProps) {
  if (judged.length === 0) return null;
  return (
    <section className="mt-5 [break-inside:auto]">
      <h2 className="m-0 mb-1">{title}</h2>
      <table className="w-full border-collapse text-[0.98rem]">
        <thead className="sr-only">
          <tr>
            <th>Test</th>
            <th>Reading</th>
            <th>Against its band</th>
            <th>Where the band comes from</th>
          </tr>
        </thead>
        <tbody>
          {judged.map((judgedReading) => {
            const test = testOf(judgedReading.reading.test);
            return (
              <tr key={judgedReading.reading.id} className="border-hair border-t align-middle">
                <td className="py-1 pr-3">
                  {stepTitle(judgedReading.reading)}
                  <span className="text-mute">{by(takers.get(judgedReading.reading.id) ?? null)}</span>
                </td>
                <td className="num py-1 pr-3 text-right whitespace-nowrap">{formatQuantity(judgedReading.value, test.unit)}</td>
                <td className={`py-1 pr-3 whitespace-nowrap ${isBad(judgedReading.judged) ? "font-semibold" : ""}`}>{judgedWords(judgedReading)}</td>
                <td className="w-[34%] py-1">
                  <ReadingRuler judgedReading={judgedReading} />
                  <span className="text-mute text-[0.85rem]">{[judgedReading.band?.says, ...judgedReading.corrections].filter(Boolean).join("; ")}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
