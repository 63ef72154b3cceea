import type { RouterContextProvider } from "react-router";
import type { Advice } from "../../core/diagnosis/advice";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { officeContext, storeContext } from "../context";
import { jobIdOf } from "../params.server";
import { factsOf, type ShopKnows } from "./facts";
import { viewOf } from "./view";

/** What the shop adds to a job's engine: its prices and its own confirmed repairs of the model. */
export function shopKnows(store: Store, file: JobFile): ShopKnows {
  return { prices: store.prices.get(), tools: store.workshop.shop().tools, confirmed: store.jobs.confirmed(file.job.sheet.id) };
}

/** The advice last kept with a job, if nothing has changed since; otherwise it is worked out for the next page that asks. */
export function adviceOf(context: Readonly<RouterContextProvider>, file: JobFile, knows: ShopKnows): Advice | undefined {
  const facts = factsOf(file, viewOf(file), knows);
  const kept = context.get(storeContext).advices.find(file.job.id, facts);
  if (!kept) context.get(officeContext).advise(file.job.id, file.job, facts);
  return kept;
}

/** The job an address names, or the page that says there is none. */
export function jobFileOf(context: Readonly<RouterContextProvider>, id: string | undefined): { store: Store; file: JobFile } {
  const store = context.get(storeContext);
  const number = jobIdOf(id);
  const file = number === undefined ? undefined : store.jobs.file(number);
  if (!file) throw new Response(`There is no job ${id}. The rail has every open job.`, { status: 404 });
  return { store, file };
}
