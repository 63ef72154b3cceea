import { format } from "date-fns";
import { data, Form, Link, redirect } from "react-router";
import { costOf } from "../../core/diagnosis/planning/prices";
import { PART_NAMES, PARTS, type Part } from "../../core/machine/part";
import { isTestId, testOf } from "../../core/procedure/catalogue";
import { testTitle } from "../../core/procedure/step";
import { addressOf, questionOf } from "../../store/question";
import { personContext, storeContext } from "../context";
import { formOf, sendOnce } from "../forms.server";
import { stretchOf } from "../params.server";
import { FailuresChart, MonthsChart, ReliabilityChart } from "../records/charts";
import { ENDING_NAMES, QuestionForm } from "../records/QuestionForm";
import { errorProps } from "../ui/forms";
import { TopBar } from "../ui/TopBar";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/records";

/** Jobs on one page. */
const PER_PAGE = 50;
/** Longest name of a view. */
const LONGEST = 60;
/** Most views of a shop. */
const MOST_VIEWS = 40;

export function loader({ context, request }: Route.LoaderArgs) {
  const { records, prices } = context.get(storeContext);
  const { searchParams } = new URL(request.url);
  const { question, typed, errors } = questionOf(searchParams);
  const common = { typed, errors, views: records.views() };
  if (searchParams.get("show") === "counts") {
    const { jobs, right, wrong } = records.firstRight(question);
    const list = prices.get();
    const cost = (part: string): number => (PARTS.includes(part as Part) ? costOf(part as Part, list) : 0);
    return {
      ...common,
      counts: {
        failures: records.failures(question, "model").slice(0, 60),
        reliability: records.reliability(question),
        months: records.byMonth(question),
        minutes: records.minutesByTest(),
        first: { jobs, right, wrong: wrong.map(({ part, times }) => ({ part, times, money: Math.round(times * cost(part)) })) },
      },
    };
  }
  const page = stretchOf(request);
  const { lines, found } = records.look(question, PER_PAGE, (page - 1) * PER_PAGE);
  return { ...common, list: { lines, found, page, pages: Math.max(1, Math.ceil(found / PER_PAGE)) } };
}

export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const query = String(form.get("query") ?? "").slice(0, 2000);
  const name = String(form.get("name") ?? "").trim();
  let error: string | undefined;
  const leadsTo = await sendOnce(store, form, new Date().toISOString(), () => {
    if (form.get("intent") === "drop") store.records.dropView(Number(form.get("view")) || 0);
    else if (name === "") error = "Give the question a name.";
    else if (name.length > LONGEST) error = `May hold ${LONGEST} characters at most.`;
    else if (store.records.views().length >= MOST_VIEWS) error = `A shop keeps ${MOST_VIEWS} questions at most. Drop one first.`;
    else store.records.keepView(name, query, new Date().toISOString(), context.get(personContext)?.name);
    return error === undefined ? `/records${query}` : undefined;
  });
  return leadsTo ? redirect(leadsTo) : data({ errors: { name: error ?? "" }, typed: { name } }, { status: 422 });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function Records({ loaderData, actionData }: Route.ComponentProps) {
  const { typed, errors, views } = loaderData;
  const counting = "counts" in loaderData;
  const here = addressOf(typed, counting ? { show: "counts" } : {});
  const sides = [
    ["Jobs", addressOf(typed), !counting],
    ["Counts", addressOf(typed, { show: "counts" }), counting],
  ] as const;
  return (
    <>
      <title>Records · Uvrel</title>
      <TopBar />
      <main className="mx-auto max-w-[1240px] px-4 py-4 md:px-6">
        <div className="flex flex-wrap items-baseline gap-x-6">
          <h1 className="m-0">Records</h1>
          <nav aria-label="Sides of the records" className="flex gap-1">
            {sides.map(([label, to, current]) => (
              <Link
                key={label}
                to={`/records${to}`}
                aria-current={current ? "page" : undefined}
                className="aria-[current=page]:border-ink flex min-h-11 items-center border-b-2 border-transparent px-2 no-underline aria-[current=page]:font-semibold"
              >
                {label}
              </Link>
            ))}
          </nav>
        </div>
        {views.length > 0 ? (
          <ul aria-label="Questions kept" className="m-0 flex list-none flex-wrap gap-x-5 p-0">
            {views.map((view) => (
              <li key={view.id} className="flex items-center gap-2">
                <Link to={`/records${view.query}`} className="text-petrol flex min-h-11 items-center">
                  {view.name}
                </Link>
                <Form method="post">
                  <FormId />
                  <input type="hidden" name="view" value={view.id} />
                  <input type="hidden" name="query" value={here} />
                  <button type="submit" name="intent" value="drop" className="text-mute min-h-11" aria-label={`Drop the question ${view.name}`}>
                    drop
                  </button>
                </Form>
              </li>
            ))}
          </ul>
        ) : null}
        <QuestionForm typed={typed} errors={errors} show={counting ? "counts" : "jobs"} />
        {"counts" in loaderData ? <Counts {...loaderData.counts} /> : <Lines {...loaderData.list} typed={typed} />}
        <NotSent />
        {Object.keys(typed).length > 0 ? (
          <Form method="post" className="mt-6 flex flex-wrap items-end gap-3">
            <FormId />
            <input type="hidden" name="query" value={here} />
            <label className="flex flex-col">
              <span className="text-mute">Ask this again under the name</span>
              <input
                name="name"
                className="field"
                maxLength={LONGEST}
                defaultValue={actionData?.typed?.name ?? ""}
                {...errorProps("name", actionData?.errors?.name)}
              />
            </label>
            <button type="submit" name="intent" value="keep" className="btn">
              Keep the question
            </button>
            {actionData?.errors?.name ? (
              <p id="name-error" role="alert" className="rule-left m-0">
                {actionData.errors.name}
              </p>
            ) : null}
          </Form>
        ) : null}
      </main>
    </>
  );
}

type Loaded = Route.ComponentProps["loaderData"];
type Listed = NonNullable<Extract<Loaded, { list: unknown }>["list"]>;
type CountsOf = NonNullable<Extract<Loaded, { counts: unknown }>["counts"]>;

const partName = (part: string): string => PART_NAMES[part as Part] ?? part;

/** The jobs that were found, as a table that a narrow screen reads as lines. */
function Lines({ lines, found, page, pages, typed }: Listed & { typed: Record<string, string> }) {
  const asked = Object.keys(typed).length > 0;
  const rest = addressOf(typed).replace(/^\?/, "&");
  return (
    <section aria-label="Jobs found" className="mt-4">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <p className="m-0" role="status">
          {found === 0
            ? asked
              ? "No job fits. Fewer words, or a wider span of days, find more."
              : "No job yet. Every job that is taken in is found here."
            : `${found.toLocaleString("en")} ${found === 1 ? "job" : "jobs"}${asked ? " fit" : ""}`}
        </p>
        {found > 0 ? (
          <p className="text-mute m-0">
            Out as{" "}
            {(["csv", "ndjson", "parquet"] as const).map((form) => (
              <a key={form} href={`/export/readings.${form}${addressOf(typed)}`} download className="text-petrol mr-3 inline-flex min-h-11 items-center">
                {form === "csv" ? "CSV" : form === "ndjson" ? "NDJSON" : "Parquet"}
              </a>
            ))}
            <Link to={`/records/out${addressOf(typed)}`} className="text-petrol inline-flex min-h-11 items-center">
              more, and in
            </Link>
          </p>
        ) : null}
      </div>
      <ul className="m-0 list-none p-0">
        {lines.map((line) => (
          <li key={line.jobId} className="border-hair grid gap-x-5 border-t py-2 md:grid-cols-[7rem_14rem_1fr_13rem_11rem] md:items-baseline">
            <Link to={line.closedAt ? `/jobs/${line.jobId}/report` : `/jobs/${line.jobId}`} className="num" suppressHydrationWarning>
              {format(line.openedAt, "d MMM yyyy")}
            </Link>
            <span className="truncate">
              {line.unitTag ? <Link to={`/units/${encodeURIComponent(line.unitTag)}`}>{line.unitTag}</Link> : "no tag"} “{line.nickname}”
            </span>
            <span className="truncate">
              <span className="text-mute">{line.model}</span> {line.words ? `“${line.words}”` : ""}
            </span>
            <span>
              {line.partLast ? partName(line.partLast) : ""}
              {line.partSaid && line.partLast && line.partSaid !== line.partLast ? (
                <span className="text-mute"> (first named: {partName(line.partSaid)})</span>
              ) : null}
            </span>
            <span className="text-mute">{line.ending ? ENDING_NAMES[line.ending as keyof typeof ENDING_NAMES] : ENDING_NAMES.open}</span>
          </li>
        ))}
      </ul>
      {pages > 1 ? (
        <nav aria-label="Pages of the records" className="border-hair flex items-center gap-4 border-t pt-3">
          {page > 1 ? <Link to={`/records?stretch=${page - 1}${rest}`}>Later</Link> : null}
          <span className="text-mute">
            page {page} of {pages.toLocaleString("en")}
          </span>
          {page < pages ? <Link to={`/records?stretch=${page + 1}${rest}`}>Earlier</Link> : null}
        </nav>
      ) : null}
    </section>
  );
}

/** What the records come to. */
function Counts({ failures, reliability, months, minutes, first }: CountsOf) {
  if (months.length === 0) return <p className="rule-left mt-5 text-lg">Nothing to count yet. Counts come with the first job that fits.</p>;
  return (
    <div className="mt-5 grid gap-x-12 gap-y-8 lg:grid-cols-2">
      <section>
        <h2 className="mt-0">What fails on what, by proven repairs</h2>
        {failures.length > 0 ? <FailuresChart failures={failures} /> : <p className="text-mute m-0">No repair has been proven among these.</p>}
      </section>
      <section>
        <h2 className="mt-0">Jobs by month</h2>
        <MonthsChart months={months} />
        <h2>The first part mended</h2>
        {first.jobs === 0 ? (
          <p className="text-mute m-0">No repair has been proven among these.</p>
        ) : (
          <p className="m-0 text-lg">
            was the right one in <span className="num">{first.right}</span> of <span className="num">{first.jobs}</span> proven repairs.
          </p>
        )}
        {first.wrong.map(({ part, times, money }) => (
          <p key={part} className="m-0">
            {partName(part)} mended for nothing <span className="num">{times}</span> {times === 1 ? "time" : "times"}: <span className="num">{money}</span> at
            today's prices.
          </p>
        ))}
      </section>
      <section>
        <h2 className="mt-0">Odds stated, against what turned out</h2>
        {reliability.length > 0 ? (
          <>
            <ReliabilityChart steps={reliability} />
            <p className="text-mute m-0">
              Each point stands for jobs in which a part was named with such odds before the first repair; beside it how many. On the dashed line they were
              earned exactly, above it the odds were too timid, below too bold.
            </p>
          </>
        ) : (
          <p className="text-mute m-0">
            None yet. The part that stands first when the first repair is recorded is kept with the job; once repairs are proven, they are set against each
            other here.
          </p>
        )}
      </section>
      <section>
        <h2 className="mt-0">Minutes by test, over all closed jobs</h2>
        {minutes.length === 0 ? <p className="text-mute m-0">No closed job with readings yet.</p> : null}
        <table className="w-full border-collapse">
          <tbody>
            {minutes.slice(0, 14).map(({ test, times, minutes: all }) => (
              <tr key={test} className="border-hair border-t">
                <td className="py-1 pr-4">{isTestId(test) ? testTitle(testOf(test)) : test}</td>
                <td className="num py-1 pr-4 text-right whitespace-nowrap">{(all / times).toFixed(1)} min</td>
                <td className="text-mute num py-1 text-right whitespace-nowrap">{times.toLocaleString("en")} ×</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}
