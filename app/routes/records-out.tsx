import { data, Form, Link, useNavigation, useSearchParams } from "react-router";
import type { RowProblem } from "../../formats/tableIn";
import { readTable } from "../../formats/tableIn";
import { type Column, TABLE_FORMAT_NAMES, TABLE_FORMATS, TABLE_NAMES, TABLES } from "../../formats/tables";
import { dataFolder } from "../../store/folder";
import { bring } from "../../store/importing";
import { laidBy, layBy, takeUp } from "../../store/incoming";
import { addressOf, questionOf } from "../../store/question";
import { storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/records-out";

/** Rows of problems that are shown: more are counted. */
const SHOWN = 60;

/** What a table would do, or did. */
interface Looked {
  title: string;
  fresh: number;
  changed: number;
  known: number;
  problems: RowProblem[];
  more: number;
}

/** What the action answers. */
interface Answer {
  status?: "error";
  error?: string;
  kept?: Pick<Looked, "title" | "fresh" | "changed" | "known">;
  looked?: Looked;
  /** The name of the table that was laid by; empty where nothing would change. */
  table?: string;
}

export function loader({ request }: Route.LoaderArgs) {
  const { typed, errors } = questionOf(new URL(request.url).searchParams);
  return { narrow: addressOf(Object.keys(errors).length > 0 ? {} : typed) };
}

/** Looks a table through and lays it by; what it would do is done once somebody has seen it, all of it or nothing. */
export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const folder = dataFolder();
  const answer = (says: Answer, status = 200) => data(says, { status });
  const refuse = (error: string) => answer({ status: "error", error }, 422);
  const now = new Date();
  if (form.get("intent") === "keep") {
    const name = String(form.get("table") ?? "");
    const bytes = laidBy(folder, name);
    if (!bytes) return refuse("The table waits no longer: choose it once more.");
    const read = await readTable(bytes);
    if (!read.name) return refuse("The table cannot be read any more: choose it once more.");
    const table = read.name;
    // What others did meanwhile counts: it is looked through again where it is written.
    const kept = await written(
      store.patiently(() => {
        const brought = bring(store, table, read.rows, now.toISOString());
        brought.keep();
        return brought;
      }),
    );
    takeUp(folder, name);
    return answer({ kept: { title: TABLES[table].title, fresh: kept.fresh, changed: kept.changed, known: kept.known } });
  }
  const file = form.get("file");
  if (!(file instanceof File) || file.size === 0) return refuse("Choose a file: CSV, NDJSON or Parquet, as Uvrel writes it.");
  const bytes = new Uint8Array(await file.arrayBuffer());
  const read = await readTable(bytes);
  if (!read.name) return refuse(read.problems.map(({ row, column, error }) => `${file.name}, row ${row}: the ${column} ${error}.`).join(" "));
  const brought = bring(store, read.name, read.rows, now.toISOString());
  const problems = [...read.problems, ...brought.problems].sort((a, b) => a.row - b.row);
  const looked: Looked = {
    title: TABLES[read.name].title,
    fresh: brought.fresh,
    changed: brought.changed,
    known: brought.known,
    problems: problems.slice(0, SHOWN),
    more: Math.max(0, problems.length - SHOWN),
  };
  return answer({ looked, table: brought.fresh + brought.changed > 0 ? layBy(folder, bytes, now.getTime()) : "" });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function InAndOut({ loaderData, actionData }: Route.ComponentProps) {
  const { narrow } = loaderData;
  const [search] = useSearchParams();
  const busy = useNavigation().state !== "idle";
  const answer: Answer = actionData && "unsent" in actionData ? {} : (actionData ?? {});
  return (
    <>
      <title>In and out · Uvrel</title>
      <TopBar back={{ to: `/records${narrow}`, label: "Records" }} />
      <main className="mx-auto grid max-w-[1240px] grid-cols-1 gap-x-12 gap-y-8 px-4 py-4 md:px-6 lg:grid-cols-2">
        <section>
          <h1 className="mt-0">Out</h1>
          <p className="text-mute m-0">
            {narrow === "" ? "Everything there is." : "Only the jobs that the question finds, and what hangs on them; machines and sheets whole."} Open formats,
            each row whole; every table can be brought into another Uvrel, where what is there already is left as it is.
          </p>
          <table className="mt-3 w-full border-collapse">
            <tbody>
              {TABLE_NAMES.map((name) => (
                <tr key={name} className="border-hair border-t">
                  <th scope="row" className="py-1 pr-4 text-left font-medium">
                    {TABLES[name].title}
                  </th>
                  {TABLE_FORMAT_NAMES.map((format) => (
                    <td key={format} className="py-1 pr-4">
                      <a href={`/export/${name}.${format}${narrow}`} download className="text-petrol inline-flex min-h-11 items-center">
                        {TABLE_FORMATS[format].title}
                      </a>
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          {narrow === "" ? null : (
            <p>
              <Link to="/records/out">Everything instead</Link>
            </p>
          )}
        </section>
        <section>
          <h1 className="mt-0">In</h1>
          <p className="text-mute m-0">
            Sheets first, then machines, jobs, repairs, readings: each names what it hangs on. Nothing is kept before you have seen what it would be. More than
            6 MB goes in by uvrel import. Single jobs come in as <Link to="/jobs/import">case files</Link>.
          </p>
          <NotSent />
          {answer.error ? (
            <p role="alert" className="rule-left">
              {answer.error}
            </p>
          ) : null}
          {answer.kept ? (
            <p role="status" className="rule-left">
              {answer.kept.title}: {answer.kept.fresh} new, {answer.kept.changed} changed, {answer.kept.known} were here already.
            </p>
          ) : null}
          {answer.looked ? <WhatItWouldDo looked={answer.looked} table={answer.table ?? ""} busy={busy} /> : null}
          <Form method="post" encType="multipart/form-data" className="mt-4 flex flex-col gap-4">
            <label className="flex flex-col gap-1 font-medium">
              Table (.csv, .ndjson, .parquet)
              <input type="file" name="file" accept=".csv,.ndjson,.parquet" className="field py-2" />
            </label>
            <button type="submit" name="intent" value="look" className="btn btn-main self-start" disabled={busy}>
              Look it through
            </button>
          </Form>
        </section>
        <section className="lg:col-span-2">
          <h2>What the columns are</h2>
          {TABLE_NAMES.map((name) => (
            <details key={name} open={search.get("columns") === name}>
              <summary className="min-h-11 cursor-pointer py-2 font-medium">{TABLES[name].title}</summary>
              <Columns columns={TABLES[name].columns} />
            </details>
          ))}
        </section>
      </main>
    </>
  );
}

const KIND_WORDS = { text: "text", number: "number", whole: "whole number", flag: "1 or 0", json: "JSON" } as const;

function Columns({ columns }: { columns: readonly Column[] }) {
  return (
    <table className="w-full border-collapse">
      <tbody>
        {columns.map(({ name, kind, tells, needed, told }) => (
          <tr key={name} className="border-hair border-t">
            <th scope="row" className="num py-1 pr-4 text-left font-normal whitespace-nowrap">
              {name}
            </th>
            <td className="text-mute py-1 pr-4 whitespace-nowrap">{KIND_WORDS[kind]}</td>
            <td className="py-1">
              {tells}
              {needed ? <span className="text-mute">; must stand</span> : null}
              {told ? <span className="text-mute">; told, not read back</span> : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function WhatItWouldDo({ looked, table, busy }: { looked: Looked; table: string; busy: boolean }) {
  return (
    <section aria-label="What it would do" className="border-ink mt-4 border-t-2 pt-3">
      <p className="m-0 text-lg">
        {looked.title}: <span className="num">{looked.fresh}</span> new, <span className="num">{looked.changed}</span> changed,{" "}
        <span className="num">{looked.known}</span> here already.
      </p>
      {looked.problems.length > 0 ? (
        <div role="alert" className="rule-left my-3">
          <p className="m-0 font-medium">These rows are left out:</p>
          <ul className="m-0 list-none p-0">
            {looked.problems.map(({ row, column, error }) => (
              <li key={`${row} ${column} ${error}`}>
                Row <span className="num">{row}</span>, {column}: {error}
              </li>
            ))}
          </ul>
          {looked.more > 0 ? <p className="m-0">and {looked.more} more</p> : null}
        </div>
      ) : null}
      {table === "" ? (
        <p className="text-mute">Nothing would change.</p>
      ) : (
        <Form method="post" className="mt-3">
          <input type="hidden" name="table" value={table} />
          <button type="submit" name="intent" value="keep" className="btn btn-main" disabled={busy}>
            Bring {looked.fresh + looked.changed} in
          </button>
        </Form>
      )}
    </section>
  );
}
