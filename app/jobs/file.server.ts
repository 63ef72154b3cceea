import type { RouterContextProvider } from "react-router";
import type { Advice, JobFacts } from "../../core/diagnosis/advice";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { officeContext, storeContext } from "../context";
import { jobIdOf } from "../params.server";
import { factsOf, foundOf, type ShopKnows } from "./facts";
import { viewOf } from "./view";

/** What the shop adds to a job's engine: its prices and its own confirmed repairs of the model. */
export function shopKnows(store: Store, file: JobFile): ShopKnows {
  return { prices: store.prices.get(), tools: store.workshop.shop().tools, confirmed: store.jobs.confirmed(file.job.sheet.id) };
}

/** What an advice is asked about: the job as it is, or as it was found before the first repair. */
export function factsIn(file: JobFile, knows: ShopKnows, asFound: boolean): JobFacts {
  const of = asFound ? foundOf(file) : file;
  return factsOf(of, viewOf(of), knows);
}

/** The advice kept with a job, if nothing has changed since; otherwise it is worked out for the next page that asks. */
export function adviceOf(context: Readonly<RouterContextProvider>, file: JobFile, knows: ShopKnows, asFound = false): Advice | undefined {
  const facts = factsIn(file, knows, asFound);
  const kept = context.get(storeContext).advices.find(file.job.id, facts);
  if (!kept) void context.get(officeContext).advise(file.job.id, file.job, facts);
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
