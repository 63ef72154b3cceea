import { gzipSync } from "node:zlib";
import type { OutputPoint } from "../core/budget/output";
import { sheetCurve } from "../core/budget/sheetCurve";
import { type Advice, advise, type JobFacts } from "../core/diagnosis/advice";
import { looksOf } from "../core/diagnosis/planning/candidates";
import { type Chart, type ChartTask, drawChart } from "../core/diagnosis/population/charts";
import type { Look } from "../core/diagnosis/population/look";
import { packColumns } from "../core/diagnosis/population/pack";
import { pushesByReading } from "../core/diagnosis/posterior/push";
import type { Part } from "../core/machine/part";
import type { Sheet } from "../core/machine/sheet";
import { dataFolder } from "../store/folder";
import { Populations } from "../store/populations";

/** A server thread's work: some charts of one machine, drawn from its circuit. */
export function draw({ sheet, tasks }: { sheet: Sheet; tasks: ChartTask[] }): [string, Chart][] {
  return tasks.map((task) => [task.key, drawChart(sheet, task)]);
}

/** A server thread's work: what a sheet's machine gives over its speeds. */
export function curve({ sheet }: { sheet: Sheet }): OutputPoint[] {
  return sheetCurve(sheet);
}

const populations = new Populations(dataFolder());

/** A server thread's work: the advice to a job, its machine's population made once and remembered; a verdict comes with what each reading says by itself. */
export function advice({ sheet, ambientC, facts }: { sheet: Sheet; ambientC: number; facts: JobFacts }): Advice {
  const population = populations.of(sheet, ambientC);
  const said = advise(population, facts);
  return said.settled ? { ...said, pushes: pushesByReading(population, facts) } : said;
}

/** A server thread's work: what a machine with some parts mended would show at every look that can be wanted, or at some others; packed and compressed. */
export function predictions({ sheet, ambientC, of }: { sheet: Sheet; ambientC: number; of: { mended: Part[] } | { looks: Look[] } }): Uint8Array {
  return gzipSync(packColumns(populations.of(sheet, ambientC), "looks" in of ? of.looks : looksOf(sheet, of.mended)));
}
