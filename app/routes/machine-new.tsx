import { format } from "date-fns";
import { data, redirect } from "react-router";
import { FAMILY_IDS } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import { unlistedSheet } from "../../core/machine/unlisted";
import { drawnSheet } from "../../core/procedure/drawnSheet";
import type { JobFile } from "../../store/jobs";
import { storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { isSound } from "../jobs/endings";
import { jobFileOf } from "../jobs/file.server";
import { viewOf } from "../jobs/view";
import { readSheetForm } from "../sheets/read.server";
import { SheetForm } from "../sheets/SheetForm";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/machine-new";

/**
 * A new sheet may begin as a copy of another, all but its short name, so that one of two sisters is written once; or from the readings of
 * a machine that a job has left sound.
 */
export function loader({ context, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const [id, from] = [searchParams.get("like"), searchParams.get("from")];
  if (from !== null) return { like: drawnFrom(jobFileOf(context, from).file), from };
  return { like: id === null ? undefined : context.get(storeContext).sheets.find(id), from: undefined };
}

/** @throws a Response (404) for a job that has not left its machine sound */
function drawnFrom(file: JobFile): Sheet {
  const { job } = file;
  if (!isSound(job))
    throw new Response("A sheet is drawn from a machine that a job has left sound: proven after its repair, or with nothing failed.", { status: 404 });
  const view = viewOf(file);
  const name = [job.unitTag, `“${job.nickname}”`, format(job.closedAt ?? job.openedAt, "d MMM yyyy")].filter(Boolean).join(", ");
  return drawnSheet(
    job.sheet,
    view.judged.filter(({ reading }) => view.isNow(reading)),
    name,
  );
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
  const { like, from } = loaderData;
  return (
    <>
      <title>Write a sheet · Uvrel</title>
      <TopBar back={{ to: "/machines", label: "Sheets" }} />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <h1 className="mt-0">Write a sheet</h1>
        {like ? (
          <p className="rule-left">
            {from
              ? `Begun from job ${from}: its readings, with the room that sisters need. Give it a short name of its own, and look each band over.`
              : `Begun as a copy of ${like.maker} ${like.model}: give it a short name of its own, and change what differs.`}
          </p>
        ) : null}
        <p className="text-mute">Leave out what the maker leaves out: a school fills the missing bands, and says so.</p>
        <NotSent />
        <SheetForm draft={draft(like)} lastResult={actionData && "status" in actionData ? actionData : undefined} submit="Put it on the shelf" />
      </main>
    </>
  );
}
