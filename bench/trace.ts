import { readTrace } from "../core/trace/read";
import { writeBlock } from "./document";
import { type Made, traceOf } from "./trace/generator";

/**
 * Traces from an own generator, read by the recogniser: how many of the phases are found within 0.3 s, and how many of the figures come
 * within what their logger can show. Usage: node build/tools/trace.js [traces] [seed] [misses]
 */
const count = Number(process.argv[2] ?? 400);
const seed = Number(process.argv[3] ?? 31_000);
const misses = process.argv[4] === "misses";
const WITHIN = { seconds: 0.3, volts: 0.03, handheld: 0.1 } as const;
const BOUND = 0.97;

const tally = { phases: 0, right: 0, figures: 0, close: 0 };
const by = new Map<string, { figures: number; close: number; phases: number; right: number }>();
let slowest = 0;

for (let k = 0; k < count; k++) {
  const made = traceOf(seed + k);
  const from = performance.now();
  const read = readTrace(made, made.systemVolts);
  slowest = Math.max(slowest, performance.now() - from);
  const wrong: string[] = [];
  const phases = made.phases.filter((phase) => {
    const found = read.phases.find(
      (other) => other.phase === phase.phase && Math.abs(other.from - phase.from) <= WITHIN.seconds && Math.abs(other.to - phase.to) <= WITHIN.seconds,
    );
    if (!found) wrong.push(`${phase.phase} ${phase.from.toFixed(1)}–${phase.to.toFixed(1)}`);
    return found;
  }).length;
  const most = made.rate <= 10 ? WITHIN.handheld : WITHIN.volts;
  const close = made.figures.filter((figure) => {
    const found = read.figures.filter(({ test, at }) => test === figure.test && at >= figure.from - 0.4 && at <= figure.to + 0.4).at(-1);
    const good = found !== undefined && Math.abs(found.value - figure.value) <= most + 1e-9;
    if (!good) wrong.push(`${figure.test} ${figure.value.toFixed(3)} as ${found?.value ?? "nothing"}`);
    return good;
  }).length;
  add(tally, made, phases, close);
  for (const name of [...made.disturbances, "any"]) {
    const row = by.get(name) ?? { figures: 0, close: 0, phases: 0, right: 0 };
    by.set(name, row);
    add(row, made, phases, close);
  }
  if (misses && wrong.length > 0)
    process.stdout.write(
      `${seed + k} (${made.disturbances.join(", ")}; ${made.rate}/s): ${wrong.join("; ")}\n   found ${read.phases.map(({ phase, from, to, volts }) => `${phase} ${from.toFixed(1)}–${to.toFixed(1)} ${volts?.toFixed(2)}`).join(", ")}\n`,
    );
}

function add(into: typeof tally, made: Made, phases: number, close: number): void {
  into.phases += made.phases.length;
  into.right += phases;
  into.figures += made.figures.length;
  into.close += close;
}

const share = (a: number, b: number): string => (b === 0 ? "–" : (a / b).toFixed(3));
const text = [
  `${count} traces from seed ${seed}: ${tally.phases} phases, ${tally.figures} figures. A phase is right with its name and both ends within ${WITHIN.seconds} s; a figure within ${WITHIN.volts} V, of a 10 Hz handheld within ${WITHIN.handheld} V. The slowest was read in ${slowest.toFixed(0)} ms.`,
  "",
  "| disturbance | phases right | figures close |",
  "|---|---|---|",
  ...[...by]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .filter(([name]) => name !== "any")
    .map(([name, row]) => `| ${name} | ${share(row.right, row.phases)} | ${share(row.close, row.figures)} |`),
  `| **all** (≥ ${BOUND}) | ${share(tally.right, tally.phases)} | ${share(tally.close, tally.figures)} |`,
].join("\n");
process.stdout.write(`${text}\n`);
if (count >= 200 && !misses) writeBlock("traces", text);
