import { data, redirect } from "react-router";
import { storeContext } from "../context";
import { formOf } from "../forms.server";
import { sheetIdOf } from "../params.server";
import { readSheetForm } from "../sheets/read.server";
import { SheetForm } from "../sheets/SheetForm";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/machine-edit";

export function loader({ context, params }: Route.LoaderArgs) {
  const id = sheetIdOf(params.id);
  const sheet = id && context.get(storeContext).sheets.find(id);
  if (!sheet) throw new Response(`There is no sheet “${params.id}” on the shelf.`, { status: 404 });
  return { sheet };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const submission = readSheetForm(await formOf(request));
  if (submission.status !== "success") return data(submission.reply(), { status: submission.status === "error" ? 422 : 200 });
  const sheet = submission.value;
  if (sheet.id !== params.id) {
    return data(
      submission.reply({
        fieldErrors: { id: [`The short name stays ${params.id}: jobs and case files refer to it. Write a new sheet for another name.`] },
      }),
      { status: 422 },
    );
  }
  const store = context.get(storeContext);
  store.action(() => store.sheets.change(sheet, new Date().toISOString()));
  return redirect(`/machines/${sheet.id}`);
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function MachineEdit({ loaderData, actionData }: Route.ComponentProps) {
  const { sheet } = loaderData;
  return (
    <>
      <title>{`Change ${sheet.maker} ${sheet.model} · Uvrel`}</title>
      <TopBar back={{ to: `/machines/${sheet.id}`, label: "Sheet" }} />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <h1 className="mt-0">
          Change {sheet.maker} {sheet.model}
        </h1>
        <p className="text-mute">Jobs already open keep the sheet they began with.</p>
        <NotSent />
        <SheetForm draft={sheet} lastResult={actionData && "status" in actionData ? actionData : undefined} submit="Keep the sheet" />
      </main>
    </>
  );
}
