import { officeContext, storeContext } from "../context";
import type { AdviceAnswer } from "../jobs/advised";
import { factsIn, jobFileOf, shopKnows } from "../jobs/file.server";
import { inTime } from "../patience.server";
import type { Route } from "./+types/advice";

/**
 * The advice to a job as it stands here, worked out if it is not kept yet; `?found` asks of the job as it was found. While the
 * machine's charts are being drawn the answer is how far they are.
 */
export async function loader({ context, params, request }: Route.LoaderArgs): Promise<Response> {
  const { store, file } = jobFileOf(context, params.id);
  const office = context.get(officeContext);
  const facts = factsIn(file, shopKnows(store, file), new URL(request.url).searchParams.has("found"));
  const answer = (body: AdviceAnswer, status: number): Response => Response.json(body, { status, headers: { "Cache-Control": "no-store" } });
  const weighed = facts.readings.map(({ id }) => id);
  const kept = context.get(storeContext).advices.find(file.job.id, facts);
  if (kept) return answer({ state: "advised", advice: kept, weighed }, 200);
  const drawing = office.ask(file.job.sheet);
  if (drawing.state === "failed") return answer(drawing, 500);
  const asked = office.advise(file.job.id, file.job, facts);
  if (drawing.state === "drawing") return answer(drawing, 202);
  const advice = await inTime(asked);
  return advice ? answer({ state: "advised", advice, weighed }, 200) : answer({ state: "drawing", done: 0, of: 0 }, 202);
}
