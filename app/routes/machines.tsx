import { format } from "date-fns";
import { Plus } from "lucide-react";
import { Link } from "react-router";
import { familyOf } from "../../core/machine/families/registry";
import { KINDS } from "../../core/machine/kind";
import { storeContext } from "../context";
import { MiniLoom } from "../loom/MiniLoom";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/machines";

export function loader({ context }: Route.LoaderArgs) {
  return { sheets: context.get(storeContext).sheets.list() };
}

export default function Machines({ loaderData }: Route.ComponentProps) {
  const { sheets } = loaderData;
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
            <Link to="/machines/import" className="text-petrol flex min-h-11 items-center">
              From a table
            </Link>
            <Link to="/machines/new" className="btn">
              <Plus size={18} aria-hidden="true" /> Write a sheet
            </Link>
          </div>
        </div>
        {sheets.length === 0 ? (
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
      </main>
    </>
  );
}
