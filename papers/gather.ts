import { factsIn, shopKnows } from "../app/jobs/file.server";
import { ofMachine } from "../app/jobs/ofMachine";
import { loggedTests } from "../app/units/log.server";
import type { Store } from "../store/store";
import { machinePaper } from "./machinePaper";
import { partLabel } from "./partLabel";
import { workReport } from "./workReport";

/** Papers by what they are of, made from what is kept; undefined where there is no such job or machine. */

/** The work report of a job. What was found is what was kept with it: a paper waits for no engine. */
export async function reportOf(store: Store, jobId: number, now: Date): Promise<Uint8Array | undefined> {
  const file = store.jobs.file(jobId);
  if (!file) return undefined;
  const { unitTag, sheet } = file.job;
  return workReport({
    shop: store.workshop.shop().name,
    file,
    advice: store.advices.find(jobId, factsIn(file, shopKnows(store, file), true)),
    prices: store.prices.get(),
    traces: store.traces.of(jobId),
    foreseen: unitTag && !sheet.loose ? loggedTests(store, unitTag, now.getTime()).flatMap(({ says }) => says ?? []) : [],
  });
}

/** The label for the part that a job waits for. */
export async function labelOf(store: Store, jobId: number): Promise<Uint8Array | undefined> {
  const file = store.jobs.file(jobId);
  return file && partLabel(file, store.workshop.shop().name);
}

/** The log of a machine. */
export async function logOf(store: Store, tag: string, now: Date): Promise<Uint8Array | undefined> {
  const unit = store.workshop.unit(tag);
  if (!unit) return undefined;
  const sheet = store.sheets.find(unit.sheetId);
  return machinePaper({
    shop: store.workshop.shop().name,
    unit,
    machine: sheet ? ofMachine(sheet) : unit.sheetId,
    tests: loggedTests(store, tag, now.getTime()),
  });
}
