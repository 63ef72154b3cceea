import { data, redirect } from "react-router";
import { FAMILY_IDS } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import { unlistedSheet } from "../../core/machine/unlisted";
import { storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { readSheetForm } from "../sheets/read.server";
import { SheetForm } from "../sheets/SheetForm";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/machine-new";

/** A new sheet may begin as a copy of another: all but its short name, so that one of two sisters is written once. */
export function loader({ context, request }: Route.LoaderArgs) {
  const id = new URL(request.url).searchParams.get("like");
  return { like: id === null ? undefined : context.get(storeContext).sheets.find(id) };
}

export async function action({ request, context }: Route.ActionArgs) {
  const submission = readSheetForm(await formOf(request));
  if (submission.status !== "success") return data(submission.reply(), { status: submission.status === "error" ? 422 : 200 });
  const sheet = submission.value;
  const store = context.get(storeContext);
  const added = await written(store.patiently(() => store.sheets.add(sheet, new Date().toISOString())));
  if (!added)
    return data(submission.reply({ fieldErrors: { id: [`There is a sheet named ${sheet.id} already. Type another short name.`] } }), {
      status: 422,
    });
  return redirect(`/machines/${sheet.id}`);
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

/** A new sheet starts with what most machines share; the names and bands are the mechanic's to fill in. */
function draft(like: Sheet | undefined) {
  const { id: _id, maker, model, ...rest } = like ?? unlistedSheet(FAMILY_IDS[0], 12);
  return like ? { ...rest, maker, model } : rest;
}

export default function MachineNew({ loaderData, actionData }: Route.ComponentProps) {
  const { like } = loaderData;
  return (
    <>
      <title>Write a sheet · Uvrel</title>
      <TopBar back={{ to: "/machines", label: "Sheets" }} />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <h1 className="mt-0">Write a sheet</h1>
        {like ? (
          <p className="rule-left">{`Begun as a copy of ${like.maker} ${like.model}: give it a short name of its own, and change what differs.`}</p>
        ) : null}
        <p className="text-mute">Leave out what the maker leaves out: a school fills the missing bands, and says so.</p>
        <NotSent />
        <SheetForm draft={draft(like)} lastResult={actionData && "status" in actionData ? actionData : undefined} submit="Put it on the shelf" />
      </main>
    </>
  );
}
