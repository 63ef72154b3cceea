import { storeContext } from "../context";
import { ofMachine } from "../jobs/ofMachine";
import { ShopTracesScreen } from "../traces/ShopTracesScreen";
import type { Route } from "./+types/shop-traces";

/** Traces and open jobs that are listed: what anybody looks through. */
const LISTED = { traces: 30, jobs: 200 } as const;

export function loader({ context }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  const openJobs = store.jobs
    .listOpen(LISTED.jobs, 0)
    .map(({ id, unitTag, nickname, sheet }) => ({ id, name: `${unitTag ?? ""} “${nickname}”, ${ofMachine(sheet)}`.trim() }));
  return { traces: store.traces.latest(LISTED.traces), openJobs, instruments: store.instruments.list() };
}

export default function ShopTraces({ loaderData }: Route.ComponentProps) {
  return <ShopTracesScreen {...loaderData} />;
}
