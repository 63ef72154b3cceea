import { breakEvenRpm } from "../../core/budget/output";
import { sheetCurve } from "../../core/budget/sheetCurve";
import { healthyState } from "../../core/machine/state";
import { jobFileOf } from "../jobs/file.server";
import { Sweep } from "../sweep/Sweep";
import type { Route } from "./+types/sweep";

/** The job, and where a sound machine of its sheet feeds its loads from. */
export function loader({ context, params }: Route.LoaderArgs) {
  const { file } = jobFileOf(context, params.id);
  const { sheet } = file.job;
  if (sheet.loose) throw new Response("A part that came in by itself has no engine to run: this job has no speeds to walk through.", { status: 404 });
  const curve = sheetCurve(sheet);
  const { loadAmps } = healthyState(sheet);
  return { file, sound: { normal: breakEvenRpm(curve, loadAmps.normal), all: breakEvenRpm(curve, loadAmps.all), off: breakEvenRpm(curve, loadAmps.off) } };
}

export default function SweepRoute({ loaderData }: Route.ComponentProps) {
  return <Sweep {...loaderData} />;
}
