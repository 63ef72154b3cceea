import { type Chart, type ChartTask, drawChart } from "../core/diagnosis/population/charts";
import type { Sheet } from "../core/machine/sheet";

/** A server thread's work: some charts of one machine, drawn from its circuit. */
export function draw({ sheet, tasks }: { sheet: Sheet; tasks: ChartTask[] }): [string, Chart][] {
  return tasks.map((task) => [task.key, drawChart(sheet, task)]);
}
