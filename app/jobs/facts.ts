import type { JobFacts } from "../../core/diagnosis/advice";
import type { Prices } from "../../core/diagnosis/planning/prices";
import type { History } from "../../core/diagnosis/population/hypotheses";
import type { Reading } from "../../core/procedure/step";
import type { ToolId } from "../../core/procedure/tools";
import type { JobFile } from "../../store/jobs";
import { mendedBy } from "./mended";
import type { Counted } from "./view";

/** What the shop adds to a job: its prices and tools, and the repairs of this model that it has confirmed. */
export interface ShopKnows {
  prices: Prices;
  tools: readonly ToolId[];
  confirmed: History["confirmed"];
}

/** What the engine is told of a job, the same on the page and on the server. @param crossed ids of readings that are left out to see what if */
export function factsOf(
  { job, repairs }: Pick<JobFile, "job" | "repairs">,
  { current, context, skips }: Counted,
  knows: ShopKnows,
  crossed: ReadonlySet<string> = new Set(),
): JobFacts {
  return {
    // Who took a reading is nothing to the engine.
    readings: current.filter(({ id }) => !crossed.has(id)).map(({ by: _by, ...reading }: Reading & { by?: string }) => reading),
    meter: context.meter,
    prices: knows.prices,
    tools: knows.tools,
    restHours: context.school.restHours,
    history: { complaint: job.complaint, batteryAgeYears: job.batteryAgeYears, confirmed: knows.confirmed },
    mended: mendedBy(repairs),
    skipped: [...new Set(skips.map(({ step }) => step))].sort(),
  };
}

/** A job as it was found: the readings before any repair. */
export function foundOf(file: JobFile): JobFile {
  return { ...file, repairs: [], history: file.history.filter(({ afterRepair }) => !afterRepair) };
}
