import { z } from "zod";
import { type Advice, advise } from "../core/diagnosis/advice";
import { ASSUMED_PRICES } from "../core/diagnosis/planning/prices";
import { type History, NO_HISTORY } from "../core/diagnosis/population/hypotheses";
import type { Population } from "../core/diagnosis/population/population";
import { headline, reasonFor, whereWords } from "../core/diagnosis/words/words";
import { FAULTS, type FaultId } from "../core/machine/faults";
import { PARTS, type Part } from "../core/machine/part";
import { problemsOf, type Sheet } from "../core/machine/sheet";
import { schoolOf } from "../core/procedure/schools";
import { type Reading, stepKey } from "../core/procedure/step";
import { type Case, readCase, readReading, readStep } from "../formats/case";
import type { Populations } from "../store/populations";

/** Repairs that a shop has proven on machines like the one that is opened, by fault: they lean the odds as the shop's own records do. */
const confirmedSchema = z.partialRecord(z.enum(FAULTS.map(({ id }) => id) as [FaultId, ...FaultId[]]), z.number().min(0).max(1_000_000));

/**
 * The dialogue: one JSON document a line. `{"open": case}` opens a case (`"confirmed"` beside it, what the shop has proven), `{"reading": …}` gives a reading, `{"skip": step}`
 * declines one, `{"repaired": [parts]}` says what was mended; each is answered with the standing and what to read next, and
 * with the verdict once no reading is worth its minutes. Anything can play the machine.
 */
const messageSchema = z.union([
  z.strictObject({ open: z.unknown(), confirmed: confirmedSchema.optional() }),
  z.strictObject({ reading: z.unknown() }),
  z.strictObject({ skip: z.unknown() }),
  z.strictObject({ repaired: z.array(z.enum(PARTS, { error: `must be of ${PARTS.join(", ")}` })) }),
]);

/** A dialogue's state: one open case at a time. */
export class Consultation {
  readonly #findSheet: (id: string) => Sheet | undefined;
  readonly #populations: Pick<Populations, "of">;
  #history: History = NO_HISTORY;
  #case: Case | undefined;
  #population: Population | undefined;
  #readings: Reading[] = [];
  #mended: Part[] = [];
  #skipped: string[] = [];

  constructor(findSheet: (id: string) => Sheet | undefined, populations: Pick<Populations, "of">) {
    this.#findSheet = findSheet;
    this.#populations = populations;
  }

  /** Answers one line; a line that is refused changes nothing. */
  answer(line: string): Record<string, unknown> {
    let data: unknown;
    try {
      data = JSON.parse(line);
    } catch {
      return { error: [{ field: "line", error: "is not JSON" }] };
    }
    const parsed = messageSchema.safeParse(data, { reportInput: true });
    if (!parsed.success)
      return { error: problemsOf(parsed.error).map(({ error }) => ({ field: "line", error: `${error}; give open, reading, skip or repaired` })) };
    const message = parsed.data;
    if ("open" in message) return this.#open(message.open, message.confirmed);
    if (!this.#case || !this.#population) return { error: [{ field: "open", error: "open a case first" }] };
    if ("repaired" in message) {
      this.#mended = [...new Set([...this.#mended, ...message.repaired])];
      return this.#standing();
    }
    if ("skip" in message) {
      const declined = readStep(message.skip, this.#case.sheet);
      if (!declined.ok) return { error: declined.problems };
      this.#skipped.push(stepKey(declined.step));
      return this.#standing();
    }
    const read = readReading(message.reading, this.#case.sheet, String(this.#readings.length));
    if (!read.ok) return { error: read.problems };
    this.#readings.push({ ...read.reading, ...(this.#mended.length > 0 ? { afterRepair: true, mended: this.#mended } : {}) });
    return this.#standing();
  }

  #open(document: unknown, confirmed: History["confirmed"] = {}): Record<string, unknown> {
    const read = readCase(JSON.stringify(document ?? null), this.#findSheet);
    if (!read.ok) return { error: read.problems };
    const { sheet, ambientC, complaint, batteryAgeYears } = read.case;
    this.#case = read.case;
    this.#population = this.#populations.of(sheet, ambientC);
    this.#history = { complaint, batteryAgeYears, confirmed };
    this.#readings = [...read.case.readings];
    this.#mended = [];
    this.#skipped = [];
    return this.#standing();
  }

  #standing(): Record<string, unknown> {
    const { meter, sheet, tools, school } = this.#case as Case;
    const advice = advise(this.#population as Population, {
      readings: this.#readings,
      meter,
      prices: ASSUMED_PRICES,
      history: this.#history,
      mended: this.#mended,
      skipped: this.#skipped,
      tools,
      restHours: schoolOf(school ?? "").restHours,
    });
    return { ...summary(advice, sheet), ...(advice.settled ? { verdict: verdict(advice, sheet) } : {}) };
  }
}

function summary(advice: Advice, sheet: Sheet): Record<string, unknown> {
  return {
    standing: { says: headline(advice), sets: advice.sets.slice(0, 6).map(({ what, odds }) => ({ set: what, odds: rounded(odds) })) },
    doubts: advice.doubts.map(doubted),
    spent: advice.spent.map(doubted),
    next: advice.next.slice(0, 3).map((suggestion) => ({
      test: suggestion.step.test,
      ...(suggestion.step.at ? { at: suggestion.step.at } : {}),
      ...(suggestion.step.rpm === undefined ? {} : { rpm: suggestion.step.rpm === "idle" ? "idle" : suggestion.step.rpm }),
      ...(suggestion.step.loads ? { loads: suggestion.step.loads } : {}),
      ...(suggestion.look.charged ? { charged: true } : {}),
      ...(suggestion.look.hot ? { hot: true } : {}),
      why: reasonFor(suggestion, advice),
      minutes: suggestion.minutes + suggestion.hands,
      gainBits: rounded(suggestion.gainBits),
    })),
    machine: sheet.id,
  };
}

function verdict(advice: Advice, sheet: Sheet): Record<string, unknown> {
  const where = whereWords(advice, sheet);
  const { status, decision, fault, later } = advice;
  return { status, set: decision.set, odds: rounded(decision.odds), fault, ...(later.length > 0 ? { later } : {}), ...(where ? { where } : {}) };
}

const doubted = ({ reading, odds }: Advice["doubts"][number]): { reading: number; odds: number } => ({ reading, odds: rounded(odds) });

const rounded = (value: number): number => Number(value.toFixed(3));
