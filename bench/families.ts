import { availableParallelism } from "node:os";
import { join } from "node:path";
import { OTHER_SHEETS } from "../demo/otherSheets";
import type { SheetData } from "./diagnosis/kinds";
import { type Played, play, Talker } from "./diagnosis/player";
import { calibration, handsOf, rate } from "./diagnosis/report";
import { machineOf, OTHER_FAMILIES, wideOther } from "./diagnosis/wideOthers";
import { writeBlock } from "./document";

/**
 * The engine against hidden faults of the families that are not three-phase on magnets, in the same independent world: on machines
 * whose sheets it has, and on machines from wide ranges of which it knows what eyes see.
 * Usage: node build/tools/families.js [machines a family and way] [seed] [families, by commas] [misses]
 */
const count = Number(process.argv[2] ?? 300);
const seed = Number(process.argv[3] ?? 80_000);
const families = process.argv[4] ? process.argv[4].split(",").filter((id) => OTHER_FAMILIES.includes(id)) : OTHER_FAMILIES;
const misses = process.argv[5] === "misses";
/** From this many machines the result is written into the document. */
const DOCUMENTED = 30;

interface Job {
  family: string;
  blind: boolean;
  n: number;
}

const jobs: Job[] = families.flatMap((family) => [false, true].flatMap((blind) => Array.from({ length: count }, (_, n): Job => ({ family, blind, n }))));
const results = new Map<string, Played[]>();
const keyOf = ({ family, blind }: Pick<Job, "family" | "blind">): string => `${family} ${blind}`;
const workers = Math.min(availableParallelism(), 4);
await Promise.all(
  Array.from({ length: workers }, async (_, w) => {
    const talker = new Talker(process.execPath, [join(import.meta.dirname, "uvrel.js"), "consult"]);
    for (const job of jobs.filter((_one, k) => Math.floor((k * workers) / jobs.length) === w)) {
      // Other machines in each family, so that no draw of faults is counted seven times.
      const from = seed + 1000 * OTHER_FAMILIES.indexOf(job.family) + job.n;
      const own = OTHER_SHEETS.find(({ family }) => family === job.family) as SheetData;
      const { sheet, told } = job.blind ? wideOther(job.family, from) : { sheet: own, told: undefined };
      const played = await play(talker, sheet, from, told, machineOf(sheet, from));
      results.set(keyOf(job), [...(results.get(keyOf(job)) ?? []), played]);
      const right = [...played.said].sort().join() === [...played.truth].sort().join();
      if (misses && !right)
        process.stdout.write(
          `${keyOf(job)} ${from}: ${played.causes.join(" and ") || "sound"}, said ${played.said.join("+") || "nothing"} at ${played.odds.toFixed(2)}, ${played.readings} readings\n`,
        );
    }
    talker.end();
  }),
);

const BOUNDS = { exact: { with: 0.85, without: 0.75 }, starts: 1.9, plugMoves: 4.2 } as const;
const rows = families.flatMap((family) =>
  [false, true].map((blind) => {
    const played = results.get(keyOf({ family, blind })) ?? [];
    const { exact, wrong, doubles, readings } = rate(played);
    const hands = handsOf(played);
    const bound = BOUNDS.exact[blind ? "without" : "with"];
    const holds =
      exact >= bound && hands.starts <= BOUNDS.starts && hands.plugMoves <= BOUNDS.plugMoves && hands.restAfterRun === 0 && hands.foreignTools === 0;
    return {
      holds,
      text: `| ${family} | ${blind ? "without" : "with"} | ${exact.toFixed(3)} (≥ ${bound}) | ${wrong.toFixed(3)} | ${doubles.toFixed(2)} | ${calibration(played).error.toFixed(3)} | ${readings.toFixed(1)} | ${hands.starts.toFixed(2)} | ${hands.plugMoves.toFixed(2)} | ${hands.calm.toFixed(2)} | ${hands.restAfterRun} | ${hands.foreignTools} | ${holds ? "holds" : "**falls short**"} |`,
    };
  }),
);
const table = [
  "| family | sheet | exact | any wrong part | doubles | calibration error | readings | starts (≤ 1.9) | plug moves (≤ 4.2) | calm start | rest after a run | foreign tools | |",
  "|---|---|---|---|---|---|---|---|---|---|---|---|---|",
  ...rows.map(({ text }) => text),
].join("\n");
process.stdout.write(`${table}\n`);
if (count >= DOCUMENTED && families.length === OTHER_FAMILIES.length)
  writeBlock("families", `${table}\n\n${count} machines a row, seeds from ${seed} on, those of each family a thousand further.`);
process.exitCode = rows.every(({ holds }) => holds) ? 0 : 1;
