import type { Loose } from "../machine/loose";
import type { Advice } from "./advice";
import type { Suggestion } from "./planning/plan";

/** What is said of a part that came in without its machine: good, bad, or what would settle it. */
interface LooseVerdict {
  says: "good" | "bad" | "open";
  /** Odds that it is bad. */
  bad: number;
  /** The battery among them that is likely only flat. */
  flat: boolean;
  /** The reading that would settle it; undefined once a bench can tell no more. */
  settle: Suggestion | undefined;
}

/** Odds from which a part is called bad, or good. */
const SURE = 0.85;

/** Judges a loose part by the odds of what it may have. */
export function looseVerdict({ sets, next, settled }: Pick<Advice, "sets" | "next" | "settled">): LooseVerdict {
  const oddsOf = (set: string): number => sets.find(({ what }) => what === set)?.odds ?? 0;
  const [sound, charge] = [oddsOf(""), oddsOf("charge")];
  const bad = Math.max(0, 1 - sound - charge);
  const flat = next[0]?.due === "drained" || (charge > sound && charge > bad);
  const settle = settled ? undefined : next[0];
  if (bad >= SURE) return { says: "bad", bad, flat, settle: undefined };
  // A flat one says nothing of itself until it is charged.
  if (flat) return { says: "open", bad, flat, settle: next.find(({ look }) => look.charged) ?? settle };
  // Once nothing more is to be read, what was found is all that a bench can find.
  if (sound >= SURE || (!settle && sound > bad)) return { says: "good", bad, flat, settle: undefined };
  return { says: "open", bad, flat, settle };
}

/** What no bench shows of a part, and what on a running machine does. */
export const BEYOND_THE_BENCH: Record<Loose, string> = {
  battery: "",
  stator: "It was read cold and at rest: AC volts under way are its proof.",
  regulator: "Its diodes are all that a bench tells: whether it holds the volts, charging volts on a running machine show.",
  generator: "It was tested at rest: what it gives under way, charging volts on the machine show.",
};
