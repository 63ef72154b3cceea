import { format } from "date-fns";
import { Plus } from "lucide-react";
import { useEffect, useState } from "react";
import { Form, Link } from "react-router";
import { familyOf } from "../../core/machine/families/registry";
import { KINDS } from "../../core/machine/kind";
import { storeContext } from "../context";
import { MiniLoom } from "../loom/MiniLoom";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/machines";

/** Sheets on one page of the shelf. */
const A_PAGE = 40;
/** Longer than this nobody types to find a sheet. */
const LONGEST = 80;

/** A page of the shelf, or what a few letters find on it. */
export function loader({ context, request }: Route.LoaderArgs) {
  const { sheets, finds } = context.get(storeContext);
  const { searchParams } = new URL(request.url);
  const typed = (searchParams.get("q") ?? "").trim().slice(0, LONGEST);
  const count = sheets.count();
  const pages = Math.max(1, Math.ceil(count / A_PAGE));
  const page = Math.min(pages, Math.max(1, Math.trunc(Number(searchParams.get("page"))) || 1));
  const found = typed === "" ? sheets.list(A_PAGE, (page - 1) * A_PAGE) : sheets.some(finds.look(typed, "sheet").map(({ ref }) => ref));
  return { sheets: found, typed, count, page, pages };
}

export default function Machines({ loaderData }: Route.ComponentProps) {
  const { sheets, typed, count, page, pages } = loaderData;
  const [text, setText] = useState(typed);
  // Back on the whole shelf nothing is looked for; what is being typed meanwhile is the hand's own.
  useEffect(() => {
    if (typed === "") setText("");
  }, [typed]);
  return (
    <>
      <title>Sheets · Uvrel</title>
      <TopBar />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <div className="mb-4 flex flex-wrap items-center justify-between gap-3">
          <h1 className="m-0">Sheets</h1>
          <div className="flex flex-wrap items-center gap-4">
            <a href="/machines.csv" download className="text-petrol flex min-h-11 items-center">
              As a table
            </a>
            <a href="/machines.json" download className="text-petrol flex min-h-11 items-center">
              As documents
            </a>
            <Link to="/machines/import" className="text-petrol flex min-h-11 items-center">
              From a file
            </Link>
            <Link to="/machines/new" className="btn">
              <Plus size={18} aria-hidden="true" /> Write a sheet
            </Link>
          </div>
        </div>
        {count > 0 ? (
          <Form method="get" role="search" className="mb-4 flex items-end gap-3">
            <label className="flex flex-1 flex-col">
              <span className="text-mute">By maker, model, year or kind, a few letters of it</span>
              <input type="search" name="q" className="field" value={text} onChange={(event) => setText(event.target.value)} autoComplete="off" />
            </label>
            <button type="submit" className="btn">
              Look
            </button>
          </Form>
        ) : null}
        {typed !== "" ? (
          <p className="text-mute" role="status">
            {sheets.length === 0 ? `Nothing on the shelf is called anything like “${typed}”. ` : ""}
            <Link to="/machines">All {count} sheets</Link>
          </p>
        ) : null}
        {count === 0 ? (
          <p className="rule-left text-lg">No sheet on the shelf yet. Write one, or take in a machine without: a school fills the bands.</p>
        ) : null}
        <ul className="m-0 list-none p-0">
          {sheets.map(({ sheet, changedAt, units }) => (
            <li key={sheet.id} className="border-hair grid items-center gap-x-6 border-t py-3 sm:grid-cols-[9rem_1fr_auto]">
              <div className="w-36">
                <MiniLoom sheet={sheet} marks={{}} id={`sheet-${sheet.id}`} />
              </div>
              <div>
                <Link to={`/machines/${sheet.id}`} className="text-xl font-semibold">
                  {sheet.maker} {sheet.model}
                </Link>
                <p className="text-mute m-0">
                  {sheet.kind ? KINDS[sheet.kind] : "Kind not given"}, {sheet.years ?? "years not given"}. {familyOf(sheet.family).title}
                  {familyOf(sheet.family).joins.length > 0 ? `, ${sheet.winding}` : ""}.
                </p>
              </div>
              <p className="text-mute m-0 text-right">
                <span className="num text-ink">{sheet.bands.length}</span> bands, <span className="num text-ink">{units}</span> on the books
                <br />
                changed {format(changedAt, "d MMM yyyy")}
              </p>
            </li>
          ))}
        </ul>
        {pages > 1 && typed === "" ? (
          <nav aria-label="Pages of the shelf" className="border-hair flex items-center gap-4 border-t pt-3">
            {page > 1 ? <Link to={`/machines?page=${page - 1}`}>Before</Link> : null}
            <span className="text-mute">
              page {page} of {pages}, {count} sheets
            </span>
            {page < pages ? <Link to={`/machines?page=${page + 1}`}>After</Link> : null}
          </nav>
        ) : null}
      </main>
    </>
  );
}
