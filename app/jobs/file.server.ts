import type { RouterContextProvider } from "react-router";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { storeContext } from "../context";
import { jobIdOf } from "../params.server";
import type { ShopKnows } from "./useEngine";

/** What the shop adds to a job's engine: its prices and its own confirmed repairs of the model. */
export function shopKnows(store: Store, file: JobFile): ShopKnows {
  return { prices: store.prices.get(), confirmed: store.jobs.confirmed(file.job.sheet.id) };
}

/** The job an address names, or the page that says there is none. */
export function jobFileOf(context: Readonly<RouterContextProvider>, id: string | undefined): { store: Store; file: JobFile } {
  const store = context.get(storeContext);
  const number = jobIdOf(id);
  const file = number === undefined ? undefined : store.jobs.file(number);
  if (!file) throw new Response(`There is no job ${id}. The rail has every open job.`, { status: 404 });
  return { store, file };
}
