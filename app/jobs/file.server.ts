import type { RouterContextProvider } from "react-router";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { storeContext } from "../context";

/** The job an address names, or the page that says there is none. */
export function jobFileOf(context: Readonly<RouterContextProvider>, id: string | undefined): { store: Store; file: JobFile } {
  const store = context.get(storeContext);
  const number = /^\d{1,15}$/.test(id ?? "") ? Number(id) : Number.NaN;
  const file = Number.isNaN(number) ? undefined : store.jobs.file(number);
  if (!file) throw new Response(`There is no job ${id}. The rail has every open job.`, { status: 404 });
  return { store, file };
}
