import { cpus } from "node:os";
import { curveSpeeds, outputCurve } from "../core/budget/output";
import { conditionOf, stateOf } from "../core/machine/condition";
import { DEMO_SHEETS } from "../demo/sheets";
import { type Compared, compareAll } from "./circuit/compare";
import { tryRandom } from "./circuit/random";
import { compareResting } from "./circuit/resting";
import { writeBlock } from "./document";

/** Measures the circuit core by itself and beside ngspice, prints two tables and writes them to docs/benchmarks.md. `alone` leaves ngspice out. */

type Row = [what: string, value: string, must: string, holds: boolean];

const COMBINATIONS = 10_000;
const SEED = 20_261_123;
/** A leg that nothing drives shows a few hundredths of a volt; a share of that says nothing. */
const DEAD_LEG_VOLTS = 0.01;
const MACHINE = `${cpus().length} cores, Node ${process.version}, ${new Date().toISOString().slice(0, 10)}`;

const tell = (line: string): void => void process.stdout.write(`${line}\n`);
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] as number;

/** Prints a table and puts it, with a line on how it came about, between its marks in the document. */
function publish(mark: string, rows: readonly Row[], how: string): void {
  const lines = rows.map(([what, value, must, holds]) => `| ${what} | ${value} | ${must} | ${holds ? "holds" : "falls short"} |`);
  const table = ["| measured | value | must hold | |", "|---|---|---|---|", ...lines].join("\n");
  tell(table);
  writeBlock(mark, `${table}\n\n${how}`);
  if (rows.some((row) => !row[3])) process.exitCode = 1;
}

/** The core by itself: the output curve's time, and many random machines, faults and set-ups. */
function alone(): void {
  const curves: number[] = [];
  for (const sheet of [...DEMO_SHEETS, ...DEMO_SHEETS]) {
    const state = stateOf(sheet, conditionOf([]), true);
    const from = performance.now();
    outputCurve(state, curveSpeeds(state, 5));
    curves.push(performance.now() - from);
  }
  const curve = median(curves.slice(DEMO_SHEETS.length));
  const random = tryRandom(COMBINATIONS, SEED);
  for (const line of [...random.notNumbers, ...random.unexplained, ...random.overBalance].slice(0, 20)) tell(line);
  publish(
    "circuit-alone",
    [
      ["Output curve of five points, warm, median machine", `${curve.toFixed(1)} ms`, "≤ 60 ms", curve <= 60],
      [
        `${random.count} random combinations (${random.running} of them running): numbers that are none`,
        String(random.notNumbers.length),
        "0",
        random.notNumbers.length === 0,
      ],
      ["the same: failures without a stated reason", String(random.unexplained.length), "0", random.unexplained.length === 0],
      ["the same: did not settle, or melted a fuse, and said so", String(random.stated), "stated", true],
      ["the same: worst energy imbalance", `${(100 * random.worstBalance).toFixed(2)} %`, "≤ 2 %", random.overBalance.length === 0],
      ["the same: time", `${random.seconds.toFixed(0)} s`, "≤ 240 s", random.seconds <= 240],
    ],
    `Seed ${SEED}, ${MACHINE}.`,
  );
}

/** How far ours lie from theirs, by a share or an absolute that is allowed as well: those beyond, and the worst in words. */
function worst(
  compared: readonly Compared[],
  pick: (compared: Compared) => [number, number],
  share: number,
  absolute: number,
): { over: Compared[]; text: string } {
  let most = 0;
  let name = "";
  const over: Compared[] = [];
  for (const row of compared) {
    const [ours, theirs] = pick(row);
    const off = Math.abs(ours - theirs);
    const used = Math.min(off / (share * Math.abs(theirs)), absolute > 0 ? off / absolute : Number.POSITIVE_INFINITY);
    if (used > 1) over.push(row);
    if (used >= most) {
      most = used;
      name = `${row.name} at ${row.rpm} rpm, ${row.from}: ${ours.toFixed(3)} against ${theirs.toFixed(3)}`;
    }
  }
  return { over, text: `${over.length} of ${compared.length} beyond; worst ${name}` };
}

/** The core beside ngspice: readings at rest, then every case running. */
function besideNgspice(): void {
  const rest = compareResting();
  for (const restCompared of rest)
    tell(`${restCompared.from.padEnd(8)}${restCompared.name}: ${restCompared.ours.toFixed(5)} / ${restCompared.theirs.toFixed(5)} V`);
  // At 1 mA an ohm is a millivolt: below a hundredth of a volt the share is what counts.
  const restOver = rest.filter(({ ours, theirs }) => Math.abs(ours - theirs) > (theirs < 0.01 ? 0.01 * Math.abs(theirs) : Math.max(0.002, 0.01 * theirs)));
  const { results, gaveUp } = compareAll(tell);
  const volts = worst(results, (compared) => compared.volts, 0.01, 0);
  const legs = results.flatMap((result) => [result, { ...result, leg: result.pair }]);
  const rms = worst(legs, (compared) => compared.leg, 0.01, DEAD_LEG_VOLTS);
  const amps = worst(results, (compared) => compared.amps, 0.01, 0.1);
  const ripple = worst(results, (compared) => compared.ripple, 0.03, 0.015);
  for (const compared of new Set([...volts.over, ...rms.over, ...amps.over, ...ripple.over])) tell(JSON.stringify(compared));
  const faster = results.map((result) => result.faster);
  const hand = results.filter((result) => result.from === "hand").length;
  publish(
    "circuit",
    [
      ["Battery volts against ngspice", volts.text, "≤ 1 %", volts.over.length === 0],
      ["Leg and pair rms", rms.text, "≤ 1 % (a dead leg: 10 mV)", rms.over.length === 0],
      ["Mean current into the battery", amps.text, "≤ 1 % or 0.1 A", amps.over.length === 0],
      ["Ripple at the battery", ripple.text, "≤ 3 % or 15 mV", ripple.over.length === 0],
      ["Ohms and diode readings", `${restOver.length} of ${rest.length} beyond`, "≤ 2 mV or 1 %", restOver.length === 0],
      ["Netlists that ngspice gave up on", gaveUp.length === 0 ? "none" : gaveUp.join(", "), "none", gaveUp.length === 0],
      ["Times faster than ngspice's own analysis, median", median(faster).toFixed(0), "≥ 25", median(faster) >= 25],
      ["the same, slowest case", Math.min(...faster).toFixed(0), "≥ 10", Math.min(...faster) >= 10],
    ],
    `${hand} runs of hand-written netlists (\`bench/oracle/\`) and ${results.length - hand} of netlists the program wrote, ngspice and program one after the other on ${MACHINE}.`,
  );
}

alone();
if (process.argv[2] !== "alone") besideNgspice();
