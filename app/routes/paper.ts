import { storeContext } from "../context";
import { jobIdOf } from "../params.server";
import type { Route } from "./+types/paper";

/** Papers of a job or a machine as PDF; what makes them is loaded when the first is asked for. */
export async function loader({ context, params, request }: Route.LoaderArgs): Promise<Response> {
  const store = context.get(storeContext);
  const { pathname } = new URL(request.url);
  const { labelOf, logOf, reportOf } = await import("../../papers/gather");
  const now = new Date();
  const id = jobIdOf(params.id);
  const [name, bytes] =
    params.tag !== undefined
      ? [`log-${params.tag}`, await logOf(store, params.tag, now)]
      : pathname.endsWith("/label.pdf")
        ? [`part-label-${id}`, id === undefined ? undefined : await labelOf(store, id)]
        : [`work-report-${id}`, id === undefined ? undefined : await reportOf(store, id, now)];
  if (!bytes) throw new Response(params.tag !== undefined ? "There is no such machine on the books." : `There is no job ${params.id}.`, { status: 404 });
  return new Response(Uint8Array.from(bytes), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="uvrel-${name.replace(/[^\w-]+/g, "-")}.pdf"`,
      "Cache-Control": "no-store",
    },
  });
}
