import { Link, type ShouldRevalidateFunctionArgs } from "react-router";
import { storeContext } from "../context";
import { sheetIdOf } from "../params.server";
import { RigScreen } from "../rig/RigScreen";
import { TopBar } from "../ui/TopBar";
import type { Route } from "./+types/rig";

/** Sheets that the list of machines offers; the others are reached from their own page. */
const OFFERED = 300;

export function loader({ context, request }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  const sheets = store.sheets.names(OFFERED);
  const named = new URL(request.url).searchParams.get("sheet");
  const id = named === null ? sheets[0]?.ref : sheetIdOf(named);
  const sheet = id === undefined ? undefined : store.sheets.find(id);
  if (named !== null && !sheet) throw new Response(`There is no sheet “${named}” on the shelf.`, { status: 404 });
  const { id: _, ...meter } = store.workshop.meter();
  const offered = sheets.map(({ ref, name }) => ({ id: ref, name }));
  // One that was found by name stands among them, however long the shelf.
  if (sheet && !offered.some((choice) => choice.id === sheet.id)) offered.unshift({ id: sheet.id, name: `${sheet.maker} ${sheet.model}` });
  return { sheet: sheet ?? null, sheets: offered, meter, instruments: store.instruments.list().filter(({ language }) => language === "scpi") };
}

/** Only another machine needs the server; everything else happens in the page. */
export function shouldRevalidate({ currentUrl, nextUrl }: ShouldRevalidateFunctionArgs) {
  return currentUrl.searchParams.get("sheet") !== nextUrl.searchParams.get("sheet");
}

export default function Rig({ loaderData }: Route.ComponentProps) {
  const { sheet, sheets, meter, instruments } = loaderData;
  if (sheet) return <RigScreen key={sheet.id} {...{ sheet, sheets, meter, instruments }} />;
  return (
    <>
      <title>Rig · Uvrel</title>
      <TopBar />
      <main className="mx-auto max-w-xl px-4 py-10">
        <h1>No machine to run yet</h1>
        <p>
          The rig runs the machines on the shelf. <Link to="/machines/new">Add a sheet</Link>, and it stands here.
        </p>
      </main>
    </>
  );
}
