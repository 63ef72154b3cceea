import { data, redirect } from "react-router";
import { FAMILY_IDS } from "../../core/machine/families/registry";
import { unlistedSheet } from "../../core/machine/unlisted";
import { storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { readSheetForm } from "../sheets/read.server";
import { SheetForm } from "../sheets/SheetForm";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/machine-new";

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
function draft() {
  const { id: _id, maker: _maker, model: _model, ...rest } = unlistedSheet(FAMILY_IDS[0], 12);
  return rest;
}

export default function MachineNew({ actionData }: Route.ComponentProps) {
  return (
    <>
      <title>Write a sheet · Uvrel</title>
      <TopBar back={{ to: "/machines", label: "Sheets" }} />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <h1 className="mt-0">Write a sheet</h1>
        <p className="text-mute">Leave out what the maker leaves out: a school fills the missing bands, and says so.</p>
        <NotSent />
        <SheetForm draft={draft()} lastResult={actionData && "status" in actionData ? actionData : undefined} submit="Put it on the shelf" />
      </main>
    </>
  );
}
