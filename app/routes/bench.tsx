import { data, redirect, type ShouldRevalidateFunctionArgs } from "react-router";
import { stepFromKey } from "../../core/procedure/step";
import { Bench } from "../bench/Bench";
import { extrasOf } from "../bench/extras";
import { checkTyped } from "../bench/lowest";
import { officeContext, personContext } from "../context";
import { formOf, written } from "../forms.server";
import { newId } from "../jobs/entry";
import { adviceOf, jobFileOf, shopKnows } from "../jobs/file.server";
import { keepEntry } from "../jobs/keep.server";
import type { Route } from "./+types/bench";

/** The job's file, and whether a phone asks: by its own word, so that the first paint is the right one. */
export function loader({ context, params, request }: Route.LoaderArgs) {
  const { store, file } = jobFileOf(context, params.id);
  // Whoever opens a job will want its odds: the charts are begun at once, and nobody waits for them here.
  context.get(officeContext).ask(file.job.sheet);
  const knows = shopKnows(store, file);
  return {
    file,
    knows,
    instruments: store.instruments.list(),
    kept: adviceOf(context, file, knows),
    phone: /\bMobi/.test(request.headers.get("User-Agent") ?? ""),
  };
}

/** Going from step to step needs nothing new from the server, and must work with the line down. */
export function shouldRevalidate({ currentUrl, nextUrl, formMethod, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs) {
  return currentUrl.pathname === nextUrl.pathname && !formMethod ? false : defaultShouldRevalidate;
}

/** The plain form's way in, for a page whose script has not arrived: one reading, then on to the next step. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const form = await formOf(request);
  const typed = String(form.get("value") ?? "");
  const step = stepFromKey(String(form.get("step") ?? ""));
  if (!step) return data({ error: "The step is not one of this machine's tests.", typed }, { status: 422 });
  const checked = checkTyped(typed, step);
  if (!checked.ok) return data({ error: checked.error, typed }, { status: 422 });
  const extras = extrasOf(form, step);
  if (typeof extras === "string") return data({ error: extras, typed }, { status: 422 });
  const now = new Date();
  const reading = { ...step, ...extras, id: newId(), value: checked.value, takenAt: now.toISOString() };
  const answer = await written(keepEntry(store, file.job.id, { kind: "reading", reading }, now, context.get(personContext)?.name));
  return answer.kept ? redirect(`/jobs/${file.job.id}`) : data({ error: answer.error, typed }, { status: 422 });
}

export default function BenchRoute({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <Bench
      file={loaderData.file}
      instruments={loaderData.instruments}
      knows={loaderData.knows}
      kept={loaderData.kept}
      phone={loaderData.phone}
      refusal={actionData}
    />
  );
}
