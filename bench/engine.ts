import { availableParallelism, cpus } from "node:os";
import { join } from "node:path";
import { Piscina } from "piscina";
import { advise } from "../core/diagnosis/advice";
import { plan } from "../core/diagnosis/planning/plan";
import { buildsOf, chartSheetsOf } from "../core/diagnosis/population/builds";
import { chartedPopulation } from "../core/diagnosis/population/charted";
import { type Atlas, type Chart, tasksOf } from "../core/diagnosis/population/charts";
import { NO_HISTORY } from "../core/diagnosis/population/hypotheses";
import { observe, Posterior } from "../core/diagnosis/posterior/posterior";
import { conditionOf } from "../core/machine/condition";
import { ASSUMED_METER } from "../core/meter/meter";
import type { TestId } from "../core/procedure/catalogue";
import { simulateStep } from "../core/procedure/simulate";
import type { Reading } from "../core/procedure/step";
import { DEMO_SHEETS } from "../demo/sheets";
import { benchOf } from "../tests/support/bench";
import { jobFacts } from "../tests/support/facts";
import { writeBlock } from "./document";

/** Times the engine's parts on every demo machine, prints a table and writes it to docs/benchmarks.md. */

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;
/** Readings that a job has when its engine is timed: about as many as it ends with. */
const READINGS = 16;
const ROUNDS = 25;
const BATCH = 4;

const pool = new Piscina({ filename: join(import.meta.dirname, "charts.js"), maxThreads: Math.min(4, availableParallelism()) });
const draw = async (sheet: (typeof DEMO_SHEETS)[number]): Promise<Atlas> => {
  const tasks = tasksOf(sheet);
  const batches = Array.from({ length: Math.ceil(tasks.length / BATCH) }, (_, k) => tasks.slice(k * BATCH, (k + 1) * BATCH));
  const drawn = await Promise.all(batches.map((some) => pool.run({ sheet, tasks: some }, { name: "draw" }) as Promise<[string, Chart][]>));
  return Object.fromEntries(drawn.flat());
};

await draw(DEMO_SHEETS[0] as (typeof DEMO_SHEETS)[number]);
/** Milliseconds: a machine's charts drawn, the same with its population and first advice, updates, plans. */
const timed = () => ({ drawing: [] as number[], opening: [] as number[], updates: [] as number[], plans: [] as number[] });
const times = { whole: timed(), open: timed() };
for (const sheet of DEMO_SHEETS) {
  const { drawing, opening, updates, plans } = times[buildsOf(sheet).length > 1 ? "open" : "whole"];
  let from = performance.now();
  // Of a sheet that leaves open how the machine is made, the charts of every way.
  const atlases: Atlas[] = [];
  for (const chartSheet of chartSheetsOf(sheet)) atlases.push(await draw(chartSheet));
  drawing.push(performance.now() - from);
  const population = chartedPopulation(sheet, atlases, 20);
  const facts = jobFacts();
  let advice = advise(population, facts);
  opening.push(performance.now() - from);
  const condition = conditionOf([{ fault: "regulator.diode-open", at: "B->2" }], { charge: 0.6 });
  const readings: Reading[] = [];
  while (readings.length < READINGS) {
    const next = advice.next.find(({ look }) => !look.hot && !look.charged);
    if (!next) break;
    readings.push({ ...next.step, id: String(readings.length), value: simulateStep(sheet, condition, next.step, ASSUMED_METER).value, raw: true });
    advice = advise(population, { ...facts, readings });
  }
  const priors = population.priors(NO_HISTORY);
  const sets = [...new Set(population.hypotheses.map(({ set }) => set))];
  const setOf = Int32Array.from(population.particles, ({ hypothesis }) => sets.indexOf(population.hypotheses[hypothesis]?.set ?? ""));
  const bench = benchOf({ tests: new Set(readings.map(({ test }) => test as TestId)) });
  for (let round = 0; round < ROUNDS; round++) {
    from = performance.now();
    const posterior = new Posterior(population, priors, observe(readings, population, ASSUMED_METER));
    const between = performance.now();
    plan(posterior, sets, setOf, bench);
    updates.push(between - from);
    plans.push(performance.now() - between);
  }
}
await pool.destroy();
const seconds = (ms: readonly number[]): number => Math.max(...ms) / 1000;
const rows = Object.entries(times).flatMap(([how, { drawing, opening, updates, plans }]): [string, string, string, boolean][] => {
  const of = how === "whole" ? "a sheet that says it all" : "one that leaves open how it is made";
  return [
    [`Charts of ${of}, drawn in threads, worst`, `${seconds(drawing).toFixed(2)} s`, "", true],
    ["the same and the population with its first advice, worst", `${seconds(opening).toFixed(2)} s`, "≤ 4 s", seconds(opening) <= 4],
    [`Update at ${READINGS} readings, median`, `${median(updates).toFixed(1)} ms`, "≤ 40 ms", median(updates) <= 40],
    [`Planning at ${READINGS} readings, median`, `${median(plans).toFixed(1)} ms`, "≤ 10 ms", median(plans) <= 10],
  ];
});
const table = [
  "| measured | value | must hold | |",
  "|---|---|---|---|",
  ...rows.map(([what, value, must, holds]) => `| ${what} | ${value} | ${must} | ${must ? (holds ? "holds" : "**falls short**") : ""} |`),
].join("\n");
process.stdout.write(`${table}\n`);
const how = `${cpus().length} cores, Node ${process.version}, ${new Date().toISOString().slice(0, 10)}.`;
writeBlock("engine", `${table}\n\n${how}`);
process.exitCode = rows.every(([, , , holds]) => holds) ? 0 : 1;
