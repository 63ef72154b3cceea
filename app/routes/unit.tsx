import { format } from "date-fns";
import { Link, useSearchParams } from "react-router";
import type { Named } from "../../core/machine/families/registry";
import { testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { tenths } from "../../core/trend/words";
import { formatQuantity } from "../../core/units";
import { storeContext } from "../context";
import { endingsOf } from "../jobs/endings";
import { ofMachine } from "../jobs/ofMachine";
import { TopBar } from "../ui/TopBar";
import { type LoggedTest, loggedTests } from "../units/log.server";
import { TrendChart } from "../units/TrendChart";
import { TrendStrip } from "../units/TrendStrip";
import type { Route } from "./+types/unit";

/** Jobs of a machine that are listed with it. */
const LISTED = 40;

export function loader({ context, params }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  const unit = store.workshop.unit(params.tag);
  if (!unit) throw new Response(`There is no machine ${params.tag.slice(0, 40)} on the books. The finder looks for tags and names.`, { status: 404 });
  const now = Date.now();
  const sheet = store.sheets.find(unit.sheetId);
  const jobs = store.jobs.ofUnit(unit.tag, LISTED).flatMap((id) => {
    const job = store.jobs.find(id);
    return job ? [{ id, openedAt: job.openedAt, closedAt: job.closedAt, ending: job.ending, words: job.words, use: job.use }] : [];
  });
  return {
    unit,
    machine: sheet ? ofMachine(sheet) : unit.sheetId,
    named: { family: sheet?.family ?? "", ...(sheet ? { battery: sheet.battery } : {}) },
    jobs,
    tests: loggedTests(store, unit.tag, now),
    now,
  };
}

export default function UnitLog({ loaderData }: Route.ComponentProps) {
  const { unit, machine, named, jobs, tests, now } = loaderData;
  const [search] = useSearchParams();
  const open = jobs.find(({ closedAt }) => closedAt === null);
  const warned = tests.filter(({ says }) => says);
  const chosen = tests.find(({ key }) => key === search.get("test")) ?? warned[0] ?? tests[0];
  return (
    <>
      <title>{`${unit.tag} ${unit.nickname} · Uvrel`}</title>
      <TopBar back={{ to: "/records", label: "Records" }} tag={`${unit.tag} “${unit.nickname}”`}>
        {tests.length > 0 ? (
          <a href={`/units/${encodeURIComponent(unit.tag)}/log.pdf`} className="flex min-h-11 items-center">
            PDF
          </a>
        ) : null}
        {open ? (
          <Link to={`/jobs/${open.id}`} className="btn btn-main">
            On the bench
          </Link>
        ) : (
          <Link to={`/jobs/new?machine=${encodeURIComponent(`unit:${unit.tag}`)}`} className="btn btn-main">
            Take it in
          </Link>
        )}
      </TopBar>
      <main className="px-4 py-4 md:px-6">
        <h1 className="m-0">
          {unit.nickname}, <span className="font-normal">{machine}</span>
        </h1>
        <p className="text-mute m-0">
          <Link to={`/machines/${unit.sheetId}`}>Its sheet</Link>
          {unit.usedFor ? ` · ${unit.usedFor}` : ""}
          {jobs.length > 0 ? ` · in the shop ${jobs.length} ${jobs.length === 1 ? "time" : "times"}` : ""}
        </p>
        <Coming warned={warned} none={tests.every(({ log }) => !log.change)} jobs={jobs.length} />
        {chosen ? (
          <div className="mt-5 grid gap-x-10 gap-y-6 lg:grid-cols-[22rem_1fr]">
            <nav aria-label="Tests over the years" className="order-2 lg:order-1">
              <ul className="m-0 list-none p-0">
                {tests.map((test, k) => (
                  <li key={test.key} className="border-hair border-b">
                    <Link
                      to={`?test=${encodeURIComponent(test.key)}`}
                      preventScrollReset
                      aria-current={test.key === chosen.key ? "true" : undefined}
                      className="aria-[current=true]:border-ink block border-l-4 border-transparent px-2 py-2 no-underline"
                    >
                      <span className="flex justify-between gap-3">
                        <span className={test.warning ? "font-semibold" : ""}>{stepTitle(test.log.step)}</span>
                        <span className="num whitespace-nowrap">{latest(test)}</span>
                      </span>
                      <TrendStrip test={test} id={`strip-${k}`} />
                    </Link>
                  </li>
                ))}
              </ul>
            </nav>
            <Chosen test={chosen} now={now} named={named} />
          </div>
        ) : null}
        <section className="mt-8 max-w-4xl">
          <h2>In the shop</h2>
          {jobs.length === 0 ? <p className="text-mute m-0">Never yet.</p> : null}
          <ul className="m-0 list-none p-0">
            {jobs.map((job) => (
              <li key={job.id} className="border-hair flex flex-wrap items-baseline gap-x-5 border-t py-2">
                <Link to={job.closedAt ? `/jobs/${job.id}/report` : `/jobs/${job.id}`} className="num" suppressHydrationWarning>
                  {format(job.openedAt, "d MMM yyyy")}
                </Link>
                <span className="min-w-0 flex-1 truncate">{job.words ? `“${job.words}”` : "No words taken down"}</span>
                {job.use ? (
                  <span className="num text-mute">
                    {job.use.count} {job.use.unit}
                  </span>
                ) : null}
                <span>{job.ending ? endingsOf({})[job.ending] : "Still open"}</span>
              </li>
            ))}
          </ul>
        </section>
      </main>
    </>
  );
}

function latest({ log }: LoggedTest): string {
  const point = log.points.at(-1);
  return point ? formatQuantity(Number(point.value.toPrecision(4)), testOf(log.step.test).unit) : "";
}

/** What the log foresees, or why it foresees nothing. */
function Coming({ warned, none, jobs }: { warned: readonly LoggedTest[]; none: boolean; jobs: number }) {
  if (warned.length === 0)
    return (
      <p className="text-mute mt-3 mb-0">
        {jobs === 0
          ? "This machine has never been in. Its first job begins its log."
          : none
            ? "Nothing was read three times yet since its last repair: that is what it takes to see a figure move."
            : "Nothing in its log moves towards its limit."}
      </p>
    );
  return (
    <section aria-label="What is coming" className="mt-4">
      {warned.map(({ key, says, warning }) => (
        <p key={key} className="rule-left my-2 text-lg">
          {says} <span className="text-mute">That it moves at all: {tenths(warning?.moved ?? 0)}.</span>
        </p>
      ))}
    </section>
  );
}

/** One test, drawn large, with every figure it is drawn from. */
function Chosen({ test, now, named }: { test: LoggedTest; now: number; named: Named }) {
  const { log, sisters } = test;
  const { unit } = testOf(log.step.test);
  const say = (value: number): string => formatQuantity(Number(value.toPrecision(4)), unit);
  const corrected = log.points.some(({ read, value }) => Math.abs(read - value) > 1e-9);
  return (
    <section aria-label={stepTitle(log.step)} className="order-1 min-w-0 lg:order-2">
      <h2 className="mt-0">{stepTitle(log.step)}</h2>
      <TrendChart test={test} now={now} named={named} />
      {test.coldest ? (
        <p className="text-mute m-0">
          Drawn at 20 °C. In the air of {test.coldest.month} it reads {say(Math.abs(test.coldest.by))} {test.coldest.by < 0 ? "lower" : "higher"}, and that
          counts for its limit.
        </p>
      ) : null}
      {sisters.length > 0 ? (
        <p className="text-mute m-0">Sister machines read last: {sisters.map(({ tag, value }) => `${tag} ${say(value)}`).join(", ")}</p>
      ) : null}
      <div className="mt-2 overflow-x-auto">
        <table className="w-full border-collapse">
          <thead>
            <tr className="text-mute text-left">
              <th className="py-1 pr-4 font-normal">Day</th>
              <th className="py-1 pr-4 text-right font-normal">Read</th>
              {corrected ? <th className="py-1 pr-4 text-right font-normal">At 20 °C</th> : null}
              <th className="py-1 pr-4 text-right font-normal">Air</th>
              <th className="py-1 font-normal">Then</th>
            </tr>
          </thead>
          <tbody>
            {log.points.toReversed().map((point) => (
              <tr key={`${point.jobId} ${point.afterRepair}`} className="border-hair border-t">
                <td className="py-1 pr-4 whitespace-nowrap" suppressHydrationWarning>
                  <Link to={`/jobs/${point.jobId}/report`}>{format(point.at, "d MMM yyyy")}</Link>
                </td>
                <td className="num py-1 pr-4 text-right whitespace-nowrap">{say(point.read)}</td>
                {corrected ? <td className="num py-1 pr-4 text-right whitespace-nowrap">{say(point.value)}</td> : null}
                <td className="num py-1 pr-4 text-right whitespace-nowrap">{point.ambientC} °C</td>
                <td className="py-1">
                  {point.says}
                  {point.afterRepair ? ", after the repair" : ""}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
