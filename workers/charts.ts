import { type Advice, advise, type JobFacts } from "../core/diagnosis/advice";
import { type Chart, type ChartTask, drawChart } from "../core/diagnosis/population/charts";
import type { Sheet } from "../core/machine/sheet";
import { dataFolder } from "../store/folder";
import { Populations } from "../store/populations";

/** A server thread's work: some charts of one machine, drawn from its circuit. */
export function draw({ sheet, tasks }: { sheet: Sheet; tasks: ChartTask[] }): [string, Chart][] {
  return tasks.map((task) => [task.key, drawChart(sheet, task)]);
}

const populations = new Populations(dataFolder());

/** A server thread's work: the advice to a job, its machine's population made once and remembered. */
export function advice({ sheet, ambientC, facts }: { sheet: Sheet; ambientC: number; facts: JobFacts }): Advice {
  return advise(populations.of(sheet, ambientC), facts);
}
