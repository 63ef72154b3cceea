import type { RouterContextProvider } from "react-router";
import type { Advice, JobFacts } from "../../core/diagnosis/advice";
import { ageOf, type Lesson, type Likeness, learnedCounts } from "../../core/learning/priors";
import type { JobFile } from "../../store/jobs";
import type { Job } from "../../store/rows";
import type { Store } from "../../store/store";
import { officeContext, storeContext } from "../context";
import { jobIdOf } from "../params.server";
import { factsOf, foundOf, type ShopKnows } from "./facts";
import { countedOf } from "./view";

/** What the shop adds to the engine of its jobs: its prices, its tools, and its own confirmed repairs of a model; each is looked up once for many jobs. */
export function shopKnowing(store: Store): (file: JobFile) => ShopKnows {
  const [prices, { tools }, learns] = [store.prices.get(), store.workshop.shop(), store.lessons.switches().repairs];
  const known = new Map<string, Lesson[]>();
  const lessonsOf = (family: string): Lesson[] => {
    const lessons = known.get(family) ?? store.lessons.of(family);
    known.set(family, lessons);
    return lessons;
  };
  return ({ job }) => ({ prices, tools, confirmed: learns ? learnedCounts(lessonsOf(job.sheet.family), likenessOf(job, store), yearOf(job)) : {} });
}

/** What a job's machine has in common with others. */
function likenessOf({ sheet, unitTag, batteryAgeYears }: Job, store: Store): Likeness {
  const usedFor = (unitTag && store.workshop.unit(unitTag)?.usedFor) || "";
  return { sheetId: sheet.id, family: sheet.family, kind: sheet.kind ?? "", usedFor, age: ageOf(batteryAgeYears) };
}

/** Repairs fade by the year in which a job was opened, so that what was said of it then is said of it still. */
const yearOf = ({ openedAt }: Job): number => new Date(openedAt).getUTCFullYear();

/** The same for one job. */
export function shopKnows(store: Store, file: JobFile): ShopKnows {
  return shopKnowing(store)(file);
}

/** What an advice is asked about: the job as it is, or as it was found before the first repair. */
export function factsIn(file: JobFile, knows: ShopKnows, asFound: boolean): JobFacts {
  const of = asFound ? foundOf(file) : file;
  return factsOf(of, countedOf(of), knows);
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
