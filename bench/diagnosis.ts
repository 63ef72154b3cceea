import { availableParallelism } from "node:os";
import { join } from "node:path";
import { THREE_PHASE_SHEETS } from "../demo/sheets";
import { chanceOf, type Limits, ORDERS, Remembered, someLimits, work } from "./diagnosis/flowcharts";
import type { SheetData } from "./diagnosis/kinds";
import { type Played, play, Talker } from "./diagnosis/player";
import { calibration, costOf, handsOf, percentile, rate, report } from "./diagnosis/report";
import { type Seen, wideMachine } from "./diagnosis/wide";
import { Machine } from "./diagnosis/world";
import { writeBlock } from "./document";

/**
 * The engine against hidden faults of an independent world, through the command line's dialogue: on machines whose sheets it has, or
 * on machines from wide ranges of which it knows what eyes see.
 * Usage: node build/tools/diagnosis.js [cases] [seed] [sheet|nosheet]
 */
/** From this many machines the result is written into the document. */
const DOCUMENTED = 60;
const cases = Number(process.argv[2] ?? 2000);
const seed = Number(process.argv[3] ?? 60_000);
const blind = process.argv[4] === "nosheet";
const machineOf = (n: number, from: number): { sheet: SheetData; seen: Seen | undefined } =>
  blind ? wideMachine(from + n) : { sheet: THREE_PHASE_SHEETS[n % THREE_PHASE_SHEETS.length] as SheetData, seen: undefined };

/** Charts are tuned on machines of their own; on which the engine's odds were set right stands in `core/diagnosis/decision.ts`. */
const TUNING = { rounds: 80, machines: 250, from: 9_000_000 } as const;

/** Tunes a chart's limits on machines that no result is measured on. */
function tuned(order: (typeof ORDERS)[number], machines: readonly Remembered[]): Limits {
  let best: { limits: Limits; exact: number } | undefined;
  const chance = chanceOf(77);
  for (let round = 0; round < TUNING.rounds; round++) {
    const limits = someLimits(chance);
    const exact = machines.filter((machine) => {
      const { parts } = work(machine, machine.machine.sheet, order, limits);
      return [...parts].sort().join() === [...machine.machine.parts].sort().join();
    }).length;
    if (!best || exact > best.exact) best = { limits, exact };
  }
  return (best as { limits: Limits }).limits;
}

const training = Array.from({ length: TUNING.machines }, (_, n) => new Remembered(new Machine(machineOf(n, TUNING.from).sheet, TUNING.from + n)));
const measured = Array.from({ length: cases }, (_, n) => new Remembered(new Machine(machineOf(n, seed).sheet, seed + n)));
const baselines = ORDERS.map((order) => {
  const limits = tuned(order, training);
  const played = measured.map((job, n): Played => {
    const { parts, readings, minutes, hands } = work(job, job.machine.sheet, order, limits);
    return {
      seed: seed + n,
      sheet: job.machine.sheet.id,
      truth: job.machine.parts,
      causes: job.machine.hidden.map(({ name }) => name),
      said: parts,
      odds: 0,
      firstRight: false,
      readings,
      minutes,
      hands,
      told: job.machine.complaint.length > 0,
      misreads: job.machine.misreads,
      doubted: 0,
      doubtedRightly: 0,
      answers: [],
      repairs: 0,
    };
  });
  return { order, played };
});
process.stderr.write(`flowcharts tuned and measured: ${(performance.now() / 1000).toFixed(0)} s\n`);

const workers = Math.min(availableParallelism(), 4);
const began = performance.now();
const results: Played[] = [];
const inOrder = measured
  .map(({ machine }, n) => ({ n, name: machineOf(n, seed).seen?.kind ?? machine.sheet.id, ambientC: machine.ambientC }))
  .sort((a, b) => a.name.localeCompare(b.name) || a.ambientC - b.ambientC);
await Promise.all(
  Array.from({ length: workers }, async (_, w) => {
    const talker = new Talker(process.execPath, [join(import.meta.dirname, "uvrel.js"), "consult"]);
    // An engine knows a machine at one temperature: each speaker goes through its share machine by machine, from cold to warm.
    const mine = inOrder.filter((_, k) => Math.floor((k * workers) / inOrder.length) === w);
    for (const { n } of mine) {
      const { sheet, seen } = machineOf(n, seed);
      results.push(await play(talker, sheet, seed + n, seen));
      if (results.length % 50 === 0) process.stderr.write(`${results.length} of ${cases}, ${((performance.now() - began) / 1000).toFixed(0)} s\n`);
    }
    talker.end();
  }),
);
const text = report(results, baselines, { cases, seed });
process.stdout.write(text);
const best = baselines
  .map(({ played }) => ({ exact: rate(played).exact, cost: costOf(played), hands: handsOf(played).minutes }))
  .sort((a, b) => b.exact - a.exact)[0] as { exact: number; cost: number; hands: number };
const mine = rate(results);
const hands = handsOf(results);
const { error, sure } = calibration(results);
const answers = results.flatMap((result) => result.answers);
/** How many of the machines that failed of one cause alone came out right; undefined where none did. */
const share = (cause: string): number | undefined => {
  const such = results.filter(({ causes }) => causes.length === 1 && causes[0] === cause);
  return such.length > 0 ? rate(such).exact : undefined;
};
const BOUNDS: [string, number | undefined, "≥" | "≤", number][] = [
  ["exact part set", mine.exact, "≥", blind ? 0.87 : 0.9],
  ["any wrong part", mine.wrong, "≤", 0.06],
  ...(blind ? [] : ([["doubles", mine.doubles, "≥", 0.82]] as [string, number, "≥", number][])),
  ["calibration error", error, "≤", blind ? 0.05 : 0.03],
  ["right when it says 0.97 and more", sure, "≥", 0.96],
  ["starter", share("starter"), "≥", 0.75],
  ["too many loads", share("too many loads"), "≥", 0.75],
  ["engine starts before the repair", hands.starts, "≤", 1.9],
  ["plugs parted and joined before the repair", hands.plugMoves, "≤", 4.2],
  ["a calm first step, where no complaint tells", hands.calm, "≥", 0.95],
  ["rest volts asked for after a run", hands.restAfterRun, "≤", 0],
  ["tools not owned asked for", hands.foreignTools, "≤", 0],
  ["hands-on minutes before the repair against the best flowchart", hands.minutes / best.hands, "≤", 1.15],
  ["cost against the best flowchart", costOf(results) / best.cost, "≤", 0.45],
  ["mean readings", mine.readings, "≤", 18],
  ["median answer, ms", percentile(answers, 0.5), "≤", blind ? 150 : 50],
];
const rows = BOUNDS.map(([what, value, sign, bound]) => ({
  what,
  value,
  must: `${sign} ${bound}`,
  holds: value === undefined || (sign === "≥" ? value >= bound : value <= bound),
}));
const table = [
  "| measured | value | must hold | |",
  "|---|---|---|---|",
  ...rows.map(({ what, value, must, holds }) =>
    value === undefined ? `| ${what} | none drawn | ${must} | |` : `| ${what} | ${value.toFixed(3)} | ${must} | ${holds ? "holds" : "**falls short**"} |`,
  ),
].join("\n");
process.stdout.write(`${table}\n`);
// A short look is not what the document holds.
if (cases >= DOCUMENTED) writeBlock(blind ? "diagnosis-nosheet" : "diagnosis", `${table}\n\n${text.trimEnd()}`);
process.exitCode = rows.every(({ holds }) => holds) ? 0 : 1;
