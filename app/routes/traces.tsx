import { data } from "react-router";
import { newTraceSchema } from "../../store/traces";
import { personContext } from "../context";
import { formOf, written } from "../forms.server";
import { jobFileOf } from "../jobs/file.server";
import { TraceScreen } from "../traces/TraceScreen";
import type { Route } from "./+types/traces";

export function loader({ context, params }: Route.LoaderArgs) {
  const { store, file } = jobFileOf(context, params.id);
  return { file, kept: store.traces.of(file.job.id), instruments: store.instruments.list() };
}

/** Keeps what is drawn of a trace with its job; the log itself stays where it was. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const refuse = (error: string) => data({ error }, { status: 422 });
  if (file.job.closedAt) return refuse("This job is closed. Open it again before a trace is kept with it.");
  let posted: unknown;
  try {
    posted = JSON.parse(String((await formOf(request)).get("trace") ?? ""));
  } catch {
    return refuse("That is no trace. Nothing was kept.");
  }
  const parsed = newTraceSchema.safeParse(posted);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return refuse(`${issue?.path.join(".") ?? "trace"} ${issue?.message ?? "cannot be read"}. Nothing was kept.`);
  }
  const now = new Date().toISOString();
  await written(store.patiently(() => store.traces.keep(file.job.id, parsed.data, file.repairs.length > 0, now, context.get(personContext)?.name)));
  return { error: undefined };
}

export default function Traces({ loaderData }: Route.ComponentProps) {
  return <TraceScreen {...loaderData} />;
}
