import { Chance } from "./chance";
import type { Label } from "./kinds";
import type { Played } from "./player";

/** Prices of this world's workshop: part and labour for a change, in money; an hour is sixty. */
const PRICE: Record<Label, number> = { battery: 95, rotor: 380, stator: 340, regulator: 155, wiring: 45, loads: 60, starter: 170, drive: 45, charge: 10 };
const COMEBACK = 85;
const A_MINUTE = 1;
const MAJOR: readonly Label[] = ["rotor", "stator", "starter"];

interface Rates {
  exact: number;
  singles: number;
  doubles: number;
  none: number;
  flat: number;
  wrong: number;
  wrongMajor: number;
  readings: number;
  minutes: number;
}

const same = (a: readonly string[], b: readonly string[]): boolean => [...a].sort().join() === [...b].sort().join();
const wrongOf = ({ said, truth }: Played): Label[] => said.filter((part) => part !== "charge" && !truth.includes(part));

/** Shares and means over played cases. */
export function rate(played: readonly Played[]): Rates {
  const share = (list: readonly Played[], is: (played: Played) => boolean): number => list.filter(is).length / Math.max(1, list.length);
  const right = ({ said, truth }: Played): boolean => same(said, truth);
  const of = (parts: number) => played.filter((played) => played.truth.length === parts && played.truth[0] !== "charge");
  return {
    exact: share(played, right),
    singles: share(of(1), right),
    doubles: share(of(2), right),
    none: share(of(0), right),
    flat: share(
      played.filter((played) => played.truth[0] === "charge"),
      right,
    ),
    wrong: share(played, (played) => wrongOf(played).length > 0),
    wrongMajor: share(played, (played) => wrongOf(played).some((part) => MAJOR.includes(part))),
    readings: mean(played.map((played) => played.readings)),
    minutes: mean(played.map((played) => played.minutes)),
  };
}

const mean = (list: readonly number[]): number => list.reduce((sum, value) => sum + value, 0) / Math.max(1, list.length);

/** Money a case costs beyond what its true repair costs: minutes of testing, parts changed for nothing, faults sent home. */
export function costOf(played: readonly Played[]): number {
  return mean(
    played.map((played) => {
      const missed = played.truth.filter((part) => !played.said.includes(part));
      return played.minutes * A_MINUTE + wrongOf(played).reduce((sum, part) => sum + PRICE[part], 0) + missed.length * COMEBACK;
    }),
  );
}

export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}

/** What the readings before the repair asked of hands, on average; a calm start is counted where no complaint tells where to go. */
export function handsOf(played: readonly Played[]): {
  minutes: number;
  starts: number;
  plugMoves: number;
  restAfterRun: number;
  foreignTools: number;
  calm: number;
} {
  const each = (what: "minutes" | "starts" | "plugMoves" | "restAfterRun" | "foreignTools"): number => mean(played.map(({ hands }) => hands[what]));
  const untold = played.filter(({ told }) => !told);
  return {
    minutes: each("minutes"),
    starts: each("starts"),
    plugMoves: each("plugMoves"),
    restAfterRun: each("restAfterRun"),
    foreignTools: each("foreignTools"),
    calm: mean(untold.map(({ hands }) => (hands.calmStart ? 1 : 0))),
  };
}

const EDGES = [0, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 0.97, 1.0001] as const;

/** So often the verdicts are drawn again to see what error luck alone makes. */
const DRAWS = 2000;

/**
 * Stated odds of the first verdicts against how often they were right: the expected calibration error over bins, and, for its measure, the
 * error that as many verdicts show whose odds are true: on average, and in 95 of 100 draws (a parametric bootstrap).
 */
export function calibration(played: readonly Played[]): {
  rows: { from: number; to: number; count: number; said: number; right: number }[];
  error: number;
  luck: { mean: number; most: number };
  sure: number;
} {
  const { rows, error } = binned(played);
  const chance = new Chance(played.length);
  const lucky = Array.from({ length: played.length > 0 ? DRAWS : 0 }, () => binned(played.map(({ odds }) => ({ odds, firstRight: chance.yes(odds) }))).error);
  const sure = played.filter(({ odds }) => odds >= 0.97);
  return { rows, error, luck: { mean: mean(lucky), most: percentile(lucky, 0.95) }, sure: mean(sure.map(({ firstRight }) => (firstRight ? 1 : 0))) };
}

function binned(played: readonly Pick<Played, "odds" | "firstRight">[]): Pick<ReturnType<typeof calibration>, "rows" | "error"> {
  const rows = EDGES.slice(1).map((to, k) => {
    const from = EDGES[k] as number;
    const stated = played.filter(({ odds }) => odds >= from && odds < to);
    return { from, to, count: stated.length, said: mean(stated.map(({ odds }) => odds)), right: mean(stated.map(({ firstRight }) => (firstRight ? 1 : 0))) };
  });
  return { rows, error: rows.reduce((sum, { count, said, right }) => sum + (count / Math.max(1, played.length)) * Math.abs(said - right), 0) };
}

const three = (value: number): string => value.toFixed(3);

/** All that was measured, in words and tables. */
export function report(
  results: readonly Played[],
  baselines: readonly { order: string; played: readonly Played[] }[],
  { cases, seed }: { cases: number; seed: number },
): string {
  const lines: string[] = [`${cases} machines, seeds ${seed} to ${seed + cases - 1}`, ""];
  lines.push(
    "| | exact | singles | doubles | none | only flat | wrong part | wrong major | readings | starts | plug moves | hands-on min | cost |",
    "|---|---|---|---|---|---|---|---|---|---|---|---|---|",
  );
  const row = (name: string, played: readonly Played[]): string => {
    const r = rate(played);
    const hands = handsOf(played);
    return `| ${name} | ${[r.exact, r.singles, r.doubles, r.none, r.flat, r.wrong, r.wrongMajor].map(three).join(" | ")} | ${r.readings.toFixed(1)} | ${hands.starts.toFixed(2)} | ${hands.plugMoves.toFixed(2)} | ${hands.minutes.toFixed(1)} | ${costOf(played).toFixed(1)} |`;
  };
  for (const { order, played } of baselines) lines.push(row(`flowchart, ${order}`, played));
  lines.push(row("engine", results), "");
  const { rows, error, luck, sure } = calibration(results);
  lines.push("| stated | cases | mean stated | right |", "|---|---|---|---|");
  for (const { from, to, count, said, right } of rows)
    lines.push(`| ${from.toFixed(2)}–${Math.min(1, to).toFixed(2)} | ${count} | ${three(said)} | ${three(right)} |`);
  lines.push(
    "",
    `calibration error ${three(error)} (verdicts whose odds are true, as many: ${three(luck.mean)}, at most ${three(luck.most)} in 95 of 100 draws); right when 0.97 and more is stated: ${three(sure)}`,
  );
  const misreads = results.reduce((sum, result) => sum + result.misreads, 0);
  const doubted = results.reduce((sum, result) => sum + result.doubted, 0);
  const rightly = results.reduce((sum, result) => sum + result.doubtedRightly, 0);
  lines.push(
    `misreads: ${misreads}, doubted ${doubted}, of them rightly ${rightly} (found ${three(rightly / Math.max(1, misreads))}, precision ${three(rightly / Math.max(1, doubted))})`,
  );
  const answers = results.flatMap((result) => result.answers);
  lines.push(`answers: median ${percentile(answers, 0.5).toFixed(1)} ms, 95th ${percentile(answers, 0.95).toFixed(1)} ms`, "");
  const causes = new Map<string, { right: number; count: number; said: Map<string, number> }>();
  for (const result of results) {
    const name = result.causes.length === 2 ? "two faults" : (result.causes[0] ?? "sound");
    const known = causes.get(name) ?? { right: 0, count: 0, said: new Map() };
    known.count++;
    if (same(result.said, result.truth)) known.right++;
    else known.said.set(result.said.join("+") || "none", (known.said.get(result.said.join("+") || "none") ?? 0) + 1);
    causes.set(name, known);
  }
  lines.push("| cause | cases | right | taken for |", "|---|---|---|---|");
  for (const [name, { right, count, said }] of [...causes].sort((a, b) => a[1].right / a[1].count - b[1].right / b[1].count)) {
    const taken = [...said].sort((a, b) => b[1] - a[1]).slice(0, 4);
    lines.push(`| ${name} | ${count} | ${three(right / count)} | ${taken.map(([what, times]) => `${what} ${times}`).join(", ")} |`);
  }
  return `${lines.join("\n")}\n\n`;
}
