import { beyondBounds } from "../../formats/bounds";
import { whyNotWritten } from "../../store/trouble";
import { personContext, storeContext } from "../context";
import type { EntryAnswer } from "../jobs/entry";
import { adviceOf, jobFileOf, shopKnows } from "../jobs/file.server";
import { keepEntry } from "../jobs/keep.server";
import { jobIdOf } from "../params.server";
import type { Route } from "./+types/entries";

/** Values that an entry may hold: a kept trace has the most of all. */
const MOST_VALUES = 20_000;

/** A body as JSON; nothing where it is none, or beyond all bounds. */
function read(text: string): unknown {
  if (beyondBounds(text, MOST_VALUES)) return undefined;
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/** The door through which the bench's entries come, one at a time, as JSON. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const body = read(await request.text());
  const answer = await keepEntry(context.get(storeContext), jobIdOf(params.id) ?? Number.NaN, body, new Date(), context.get(personContext)?.name).catch(
    (error: unknown): EntryAnswer => {
      const why = whyNotWritten(error);
      if (why === undefined) throw error;
      return { kept: false, field: "database", error: why, later: true };
    },
  );
  if (answer.kept) {
    const { store, file } = jobFileOf(context, params.id);
    adviceOf(context, file, shopKnows(store, file));
  }
  return Response.json(answer, { status: answer.kept ? 200 : answer.field === "database" ? 503 : 422 });
}
