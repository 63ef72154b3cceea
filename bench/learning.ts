import { availableParallelism } from "node:os";
import { join } from "node:path";
import { type Lesson, learnedCounts } from "../core/learning/priors";
import type { FaultId } from "../core/machine/faults";
import { THREE_PHASE_SHEETS } from "../demo/sheets";
import { Chance } from "./diagnosis/chance";
import type { SheetData } from "./diagnosis/kinds";
import { type Played, play, Talker } from "./diagnosis/player";
import { type Seen, wideMachine } from "./diagnosis/wide";
import { Machine } from "./diagnosis/world";
import { writeBlock } from "./document";

/**
 * What learning from a shop's own proven repairs is worth: a shop whose models each fail in a way of their own, and one whose machines fail
 * as machines do. Each proves 500 jobs; then the same fresh machines are worked on with those repairs counted and without.
 * With sheets readings leave little to lean; without one what a shop has seen of such machines tells more. Both are measured.
 * Usage: node build/tools/learning.js [machines a shop] [seed] [sheet|nosheet] [both|own|ordinary]
 * One shop alone is worked on exactly as it is beside the other: the two can be measured in two sittings.
 */
const cases = Number(process.argv[2] ?? 120);
const seed = Number(process.argv[3] ?? 810_000);
const blind = process.argv[4] === "nosheet";
const shops = process.argv[5] ?? "both";
/** From this many machines a shop the result is written into the document. */
const DOCUMENTED = 60;
const LEARNED = 500;
const YEAR = 2026;
/** A machine whose own way of failing it is comes in so many times as often: one in a hundred of the world's, a third of such a shop's. */
const OFTEN = 40;

const SHEETS = THREE_PHASE_SHEETS.slice(0, 4);
/** What each model, or each kind of machine without a sheet, fails of in the one shop. */
const OWN_WAYS: readonly (readonly string[])[] = [["dead"], ["pin burnt", "cable broken"], ["turns shorted"], ["draw"]];
const KINDS_OF_WAYS = ["motorcycle", "atv", "outboard", "scooter"];

/** What a workshop that finds this world's faults writes down for them, in the program's own terms. */
const WRITTEN_DOWN: Record<string, FaultId> = {
  aged: "battery.sulphated",
  "dead cell": "battery.shorted-cell",
  joint: "battery.open-joint",
  "weak magnets": "rotor.weak",
  "winding open": "stator.winding-open",
  "turns shorted": "stator.turns-shorted",
  "touches case": "stator.winding-grounded",
  "opens hot": "stator.joint-opens-hot",
  bridged: "stator.windings-bridged",
  "wrong stator": "stator.wrong-fit",
  "diode open": "regulator.diode-open",
  "diode shorted": "regulator.diode-shorted",
  "two diodes open": "regulator.diode-open",
  "half dead": "regulator.half-open",
  "leg of unit dead": "regulator.leg-open",
  "dead when hot": "regulator.fails-hot",
  "output broken inside": "regulator.output-open",
  "inner ground": "regulator.ground-open",
  leaks: "regulator.diode-leaky",
  dead: "regulator.no-output",
  "set high": "regulator.set-high",
  "set low": "regulator.set-low",
  runaway: "regulator.never-regulates",
  "pin burnt": "wiring.leg-burnt",
  "cable broken": "wiring.cable-broken",
  "feed cut": "wiring.feed-open",
  fuse: "wiring.fuse-open",
  "output wire": "wiring.output-resistance",
  "ground wire": "wiring.ground-resistance",
  post: "wiring.terminals",
  starter: "starter.draws-too-much",
  "starter cable": "starter.cable",
  draw: "loads.parasitic",
  "too many loads": "loads.too-much",
};

interface Case {
  sheet: SheetData;
  seen: Seen | undefined;
  likeness: Pick<Lesson, "sheetId" | "family" | "kind">;
  /** Which of the shop's ways of failing its like has. */
  way: number;
  seed: number;
}

/** The machine of a number: of one of four models, or one that nobody has a sheet for, known by what eyes see. */
function caseOf(k: number, from: number): Case {
  if (!blind) {
    const way = k % SHEETS.length;
    const sheet = SHEETS[way] as (typeof SHEETS)[number];
    return { sheet: sheet as SheetData, seen: undefined, likeness: { sheetId: sheet.id, family: sheet.family, kind: sheet.kind ?? "" }, way, seed: from + k };
  }
  const { sheet, seen } = wideMachine(from + k);
  const likeness = { sheetId: `unlisted-${seen.family}-12v-${seen.kind}`, family: seen.family, kind: seen.kind };
  return { sheet, seen, likeness, way: KINDS_OF_WAYS.indexOf(seen.kind), seed: from + k };
}

/** Machines as they come to a shop, drawn from the world and kept as often as the shop has such. */
function comingTo(ownWays: boolean, from: number, count: number): Case[] {
  const chance = new Chance(from);
  const found: Case[] = [];
  for (let k = 0; found.length < count; k++) {
    const coming = caseOf(k, from);
    const { hidden } = new Machine(coming.sheet, coming.seed);
    const own = hidden.length === 1 && (OWN_WAYS[coming.way] ?? []).includes(hidden[0]?.name ?? "");
    if (!ownWays || own || chance.yes(1 / OFTEN)) found.push(coming);
  }
  return found;
}

/** The lessons of a shop's first jobs: single faults, written down as they proved. */
function lessonsOf(jobs: readonly Case[]): Lesson[] {
  return jobs.flatMap(({ sheet, likeness, seed: number }) => {
    const { hidden } = new Machine(sheet, number);
    const fault = hidden.length === 1 ? WRITTEN_DOWN[hidden[0]?.name ?? ""] : undefined;
    return fault ? [{ ...likeness, usedFor: "", age: "" as const, year: YEAR, fault, times: 1 }] : [];
  });
}

async function worked(machines: readonly Case[], lessons: readonly Lesson[] | undefined): Promise<Played[]> {
  const workers = Math.min(availableParallelism(), 4);
  const played: Played[] = [];
  const inOrder = machines
    .map((machine) => ({ ...machine, ambientC: new Machine(machine.sheet, machine.seed).ambientC }))
    .sort((a, b) => a.likeness.sheetId.localeCompare(b.likeness.sheetId) || a.ambientC - b.ambientC);
  await Promise.all(
    Array.from({ length: workers }, async (_, w) => {
      const talker = new Talker(process.execPath, [join(import.meta.dirname, "uvrel.js"), "consult"]);
      for (const { sheet, seen, likeness, seed: number } of inOrder.filter((_, k) => Math.floor((k * workers) / inOrder.length) === w)) {
        const counts = lessons && learnedCounts(lessons, { ...likeness, usedFor: "", age: "" }, YEAR);
        played.push(await play(talker, sheet, number, seen, undefined, counts as Record<string, number> | undefined));
        if (played.length % 20 === 0) process.stderr.write(`${played.length} of ${machines.length}\n`);
      }
      talker.end();
    }),
  );
  return played;
}

const rows: string[] = [];
let holds = true;
for (const [name, ownWays] of [
  ["a shop whose models fail in their own ways", true],
  ["a shop whose machines fail as machines do", false],
] as const) {
  if (shops === (ownWays ? "ordinary" : "own")) continue;
  const lessons = lessonsOf(comingTo(ownWays, seed, LEARNED));
  const fresh = comingTo(ownWays, seed + 500_000, cases);
  const [without, having] = [await worked(fresh, undefined), await worked(fresh, lessons)];
  const right = (played: readonly Played[]): number => played.filter(({ firstRight }) => firstRight).length / played.length;
  const mean = (played: readonly Played[], of: (played: Played) => number): string =>
    (played.reduce((sum, played) => sum + of(played), 0) / played.length).toFixed(1);
  const [before, after] = [right(without), right(having)];
  const early = (played: readonly Played[]): number => {
    const asked = played.filter(({ earlyRight }) => earlyRight !== undefined);
    return asked.filter(({ earlyRight }) => earlyRight).length / asked.length;
  };
  const [guessed, guess] = [early(without), early(having)];
  // As good as before within one machine of the many is not lower.
  const good = ownWays ? after > before : after >= before - 1 / cases;
  holds &&= good;
  const row = `| ${name} | ${before.toFixed(3)} → ${after.toFixed(3)} | ${ownWays ? "higher" : "not lower"} | ${good ? "holds" : "**falls short**"} | ${guessed.toFixed(3)} → ${guess.toFixed(3)} | ${mean(without, ({ readings }) => readings)} → ${mean(having, ({ readings }) => readings)} | ${mean(without, ({ hands }) => hands.minutes)} → ${mean(having, ({ hands }) => hands.minutes)} |`;
  process.stderr.write(`${row}\n`);
  rows.push(row);
}
const text = [
  `${LEARNED} proven jobs a shop, then ${cases} fresh machines ${blind ? "from wide ranges that nobody has a sheet for" : "of four models"}, each worked on twice by the engine's own advice.`,
  "",
  "| | right first time, without → with what was learned | must be | | what led after six readings was right | readings | hands, min |",
  "|---|---|---|---|---|---|---|",
  ...rows,
].join("\n");
process.stdout.write(`${text}\n`);
if (cases >= DOCUMENTED && !blind && shops === "both") writeBlock("learning", text);
process.exitCode = holds ? 0 : 1;
