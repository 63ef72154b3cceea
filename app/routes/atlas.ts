import { officeContext } from "../context";
import { jobFileOf } from "../jobs/file.server";
import type { Route } from "./+types/atlas";

/** A job's charts: the whole atlas once drawn, and how far the drawing is before. The job's own copy of the sheet is drawn. */
export function loader({ context, params }: Route.LoaderArgs): Response {
  const { file } = jobFileOf(context, params.id);
  const drawing = context.get(officeContext).ask(file.job.sheet);
  if (drawing.state === "ready") return new Response(drawing.body, { headers: { "Content-Type": "application/json", "Cache-Control": "private, no-cache" } });
  return Response.json(drawing, { status: drawing.state === "failed" ? 500 : 202 });
}
