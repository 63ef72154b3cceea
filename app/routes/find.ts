import type { Find } from "../../store/finds";
import type { Store } from "../../store/store";
import { storeContext } from "../context";
import type { Found } from "../ui/found";
import type { Route } from "./+types/find";

/** Longer than this nobody types to find something. */
const LONGEST = 80;

const KINDS = ["machine", "sheet", "job"] as const;

/** What a few letters find, each with the page that it leads to. */
export function loader({ context, request }: Route.LoaderArgs): Response {
  const store = context.get(storeContext);
  const { searchParams } = new URL(request.url);
  const typed = (searchParams.get("q") ?? "").slice(0, LONGEST);
  const kind = KINDS.find((kind) => kind === searchParams.get("kind"));
  const found = store.finds.look(typed, kind).map((find): Found => ({ ...find, to: pageOf(find, store) }));
  return Response.json(found, { headers: { "Cache-Control": "no-store" } });
}

/** A machine's page is its log; a closed job's is its report. */
function pageOf({ kind, ref }: Find, store: Store): string {
  if (kind === "sheet") return `/machines/${encodeURIComponent(ref)}`;
  if (kind === "machine") return `/units/${encodeURIComponent(ref)}`;
  const id = Number(ref);
  return store.jobs.find(id)?.closedAt ? `/jobs/${id}/report` : `/jobs/${id}`;
}
