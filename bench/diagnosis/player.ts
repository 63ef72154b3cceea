import { type ChildProcessWithoutNullStreams, spawn } from "node:child_process";
import { createInterface, type Interface } from "node:readline";
import type { Asked, Label, SheetData } from "./kinds";
import { Stopwatch } from "./stopwatch";
import type { Seen } from "./wide";
import { Machine } from "./world";

/** One case played through the dialogue, and how it went. */
export interface Played {
  seed: number;
  sheet: string;
  truth: Label[];
  causes: string[];
  said: Label[];
  /** Odds stated for the first verdict, and whether it was right. */
  odds: number;
  firstRight: boolean;
  /** Whether the set that led after a few readings was the right one; undefined where there were fewer. */
  earlyRight?: boolean | undefined;
  readings: number;
  /** Minutes as the program counts them, and hands-on minutes before the first repair by the benchmark's own stopwatch. */
  minutes: number;
  hands: Pick<Stopwatch, "minutes" | "starts" | "plugMoves" | "restAfterRun" | "foreignTools" | "calmStart">;
  /** The owner told something that points at one thing: the first step need not be a calm one. */
  told: boolean;
  misreads: number;
  /** Readings doubted at the end, of them truly misread. */
  doubted: number;
  doubtedRightly: number;
  /** Milliseconds of each answer but the opening ones. */
  answers: number[];
  repairs: number;
}

interface Answer {
  next: (Asked & { minutes: number })[];
  standing: { sets: { set: string; odds: number }[] };
  doubts: { reading: number; odds: number }[];
  verdict?: { set: string; odds: number; status: string };
  error?: unknown;
}

const MOST_READINGS = 60;
const MOST_REPAIRS = 3;
/** So many readings are few. */
const FEW = 6;

/** A program spoken to in JSON lines. */
export class Talker {
  readonly #child: ChildProcessWithoutNullStreams;
  readonly #lines: Interface;
  readonly #waiting: ((line: string) => void)[] = [];

  constructor(command: string, args: readonly string[]) {
    this.#child = spawn(command, [...args], { stdio: ["pipe", "pipe", "inherit"] }) as unknown as ChildProcessWithoutNullStreams;
    this.#lines = createInterface({ input: this.#child.stdout });
    this.#lines.on("line", (line) => this.#waiting.shift()?.(line));
  }

  say(message: unknown): Promise<Answer> {
    return new Promise((resolve, reject) => {
      this.#waiting.push((line) => {
        const answer = JSON.parse(line) as Answer;
        if (answer.error && !(message as { reading?: unknown }).reading)
          reject(new Error(`${JSON.stringify(message)} was refused: ${JSON.stringify(answer.error)}`));
        else resolve(answer);
      });
      this.#child.stdin.write(`${JSON.stringify(message)}\n`);
    });
  }

  end(): void {
    this.#child.stdin.end();
  }
}

/**
 * Plays one machine: answers what is asked, mends what is named, and reads on until nothing more is asked for.
 * @param seen what is told of the machine where the program is not given its sheet
 * @param confirmed repairs that the shop has proven on machines like it, by the program's own faults
 */
export async function play(
  talker: Pick<Talker, "say">,
  sheet: SheetData,
  seed: number,
  seen?: Pick<Seen, "family" | "kind"> & { systemVolts: number },
  machine = new Machine(sheet, seed),
  confirmed?: Readonly<Record<string, number>>,
): Promise<Played> {
  const stopwatch = new Stopwatch();
  const answers: number[] = [];
  const timed = async (message: unknown): Promise<Answer> => {
    const from = performance.now();
    const answer = await talker.say(message);
    answers.push(performance.now() - from);
    return answer;
  };
  const opening = {
    uvrelCase: 1,
    machine: seen ?? { sheet: sheet.id },
    ambientC: machine.ambientC,
    complaint: machine.complaint,
    batteryAgeYears: machine.ageYears,
    meter: machine.meter,
    readings: [],
  };
  let answer = await talker.say({ open: opening, ...(confirmed ? { confirmed } : {}) });
  let readings = 0;
  let minutes = 0;
  let charged = false;
  const said = new Set<string>();
  let first: { set: string; odds: number } | undefined;
  let repairs = 0;
  let early: string | undefined;
  const repeated = new Set<number>();
  const wrong = new Set<number>();
  const given: (Asked & { value: number | string })[] = [];
  const give = async (asked: Asked, spent: number): Promise<void> => {
    if (asked.charged && !charged) {
      machine.charge();
      charged = true;
    }
    readings++;
    minutes += spent;
    if (repairs === 0) stopwatch.read(asked);
    const lead = /^(stator\.(resistance|toGround)|regulator\.ground|field\.resistance(AtUnit)?|generator\.(field|armature|atUnit)|fuse\.continuity)$/.test(
      asked.test,
    );
    // What no meter can show is refused at the entry, and the mechanic looks again.
    for (let look = 0; look < 5; look++) {
      const value = machine.take(asked);
      const said = await timed({ reading: { ...asked, value, ...(lead ? { raw: true } : {}) } });
      if (said.error) continue;
      if (machine.wrong.has(machine.taken - 1)) wrong.add(given.length);
      given.push({ ...asked, value });
      answer = said;
      if (given.length === FEW && repairs === 0) early = said.standing.sets[0]?.set;
      return;
    }
    const { hot: _hot, charged: _charged, ...step } = asked;
    answer = await timed({ skip: step });
  };
  const strip = ({ test, at, rpm, loads, hot, charged: full }: Asked): Asked => ({
    test,
    ...(at ? { at } : {}),
    ...(rpm === undefined ? {} : { rpm }),
    ...(loads ? { loads } : {}),
    ...(hot ? { hot } : {}),
    ...(full ? { charged: full } : {}),
  });
  while (readings < MOST_READINGS) {
    // A doubted reading is taken once more, as the program asks.
    const doubt = answer.doubts.find(({ reading }) => !repeated.has(reading) && given[reading]);
    if (doubt && repairs === 0) {
      repeated.add(doubt.reading);
      const { value: _, ...again } = given[doubt.reading] as Asked & { value: number | string };
      repeated.add(given.length);
      await give(again, 1);
      continue;
    }
    const next = answer.next[0];
    if (answer.verdict) {
      const { set, odds } = answer.verdict;
      first ??= { set, odds };
      const parts = set === "" ? [] : set.split("+").filter((part) => !said.has(part));
      if (set === "charge") said.add("charge");
      const bought = parts.filter((part) => part !== "charge");
      if (bought.length === 0 || repairs >= MOST_REPAIRS) break;
      for (const part of bought) {
        said.add(part);
        machine.mend(part);
      }
      repairs++;
      answer = await timed({ repaired: bought });
      continue;
    }
    if (!next) break;
    await give(strip(next), next.minutes);
  }
  const truth = machine.parts;
  const sameSet = (set: string): boolean => set === [...truth].sort().join("+");
  if (said.size > 1) said.delete("charge");
  return {
    seed,
    sheet: sheet.id,
    truth,
    causes: machine.hidden.map(({ name }) => name),
    said: [...said] as Label[],
    odds: first?.odds ?? 0,
    firstRight: first ? sameSet(first.set) : false,
    earlyRight: early === undefined ? undefined : sameSet(early),
    readings,
    minutes,
    hands: stopwatch,
    told: machine.complaint.length > 0,
    misreads: machine.misreads,
    doubted: answer.doubts.length,
    doubtedRightly: answer.doubts.filter(({ reading }) => wrong.has(reading)).length,
    answers,
    repairs,
  };
}
