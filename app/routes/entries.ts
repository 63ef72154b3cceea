import { storeContext } from "../context";
import { adviceOf, jobFileOf, shopKnows } from "../jobs/file.server";
import { keepEntry } from "../jobs/keep.server";
import { jobIdOf } from "../params.server";
import type { Route } from "./+types/entries";

/** The door through which the bench's entries come, one at a time, as JSON. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const body: unknown = await request.json().catch(() => undefined);
  const answer = keepEntry(context.get(storeContext), jobIdOf(params.id) ?? Number.NaN, body, new Date());
  if (answer.kept) {
    const { store, file } = jobFileOf(context, params.id);
    adviceOf(context, file, shopKnows(store, file));
  }
  return Response.json(answer, { status: answer.kept ? 200 : 422 });
}
