import { DrainLoop } from "../drain/DrainLoop";
import { jobFileOf } from "../jobs/file.server";
import type { Route } from "./+types/drain";

export function loader({ context, params }: Route.LoaderArgs) {
  const { file } = jobFileOf(context, params.id);
  if (file.job.sheet.loose) throw new Response("A part that came in by itself drains nothing: this job has no machine to search.", { status: 404 });
  return { file };
}

export default function Drain({ loaderData }: Route.ComponentProps) {
  return <DrainLoop file={loaderData.file} />;
}
