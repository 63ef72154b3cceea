import { storeContext } from "../context";
import { keepEntry } from "../jobs/keep.server";
import type { Route } from "./+types/entries";

/** The door through which the bench's entries come, one at a time, as JSON. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const body: unknown = await request.json().catch(() => undefined);
  const answer = keepEntry(context.get(storeContext), Number(params.id), body, new Date());
  return Response.json(answer, { status: answer.kept ? 200 : 422 });
}
