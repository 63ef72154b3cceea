import type { FaultId } from "../../machine/faults";
import { PARTS, type Part } from "../../machine/part";
import type { Advice } from "../advice";
import { remediesOf } from "../remedies";

/** How a part stands after the readings so far. */
export type Mark = "unseen" | "cleared" | "suspect" | "condemned" | "contradicting";

/** Odds below which a part is cleared, and from which it is condemned rather than suspected. */
const CLEARED = 0.02;
const CONDEMNED = 0.9;
/** Below this a part that is not cleared draws no eye to itself. */
const SUSPECT = 0.1;

/** How each part stands by the engine, in the marks of the loom. @param readings how many were weighed */
export function marksOf(advice: Advice, readings: number): Record<Part, Mark> {
  const decided = remediesOf(advice.decision.set);
  return Object.fromEntries(
    PARTS.map((part): [Part, Mark] => {
      const odds = oddsOf(advice, part);
      // What the machine does not have is neither cleared nor suspected.
      if (readings === 0 || !isListed(advice, part)) return [part, "unseen"];
      if (odds >= CONDEMNED && decided.includes(part)) return [part, advice.status === "contradiction" ? "contradicting" : "condemned"];
      if (odds >= SUSPECT) return [part, "suspect"];
      return [part, odds < CLEARED ? "cleared" : "unseen"];
    }),
  ) as Record<Part, Mark>;
}

/** Where wiring has failed: its fault, and the leg or the fuse where that is known. */
export interface WiringBreak {
  fault: FaultId;
  at?: string | undefined;
}

/** Share of the wiring's odds from which its fault is told apart from its others, and odds from which its place is known. */
const TOLD = 0.8;

/** Where condemned wiring has failed, as far as the readings tell; nothing where it is not condemned, or could have failed in several ways. */
export function wiringBreaks({ sure, faults, decision, status }: Advice): WiringBreak[] {
  const wiring = sure.find(({ part }) => part === "wiring");
  if (!wiring || status === "contradiction" || !remediesOf(decision.set).includes("wiring")) return [];
  const odds = faults.find(({ what }) => what === wiring.fault)?.odds ?? 0;
  if (odds < TOLD * wiring.odds) return [];
  const [first] = wiring.places;
  return [{ fault: wiring.fault, at: first && first.odds >= TOLD ? first.what : undefined }];
}

/** Whether the machine has a part at all. */
export const isListed = (advice: Advice, part: Part): boolean => advice.parts.some(({ what }) => what === part);

/** Odds that a part must be mended; a battery that is only flat is not. */
export function oddsOf(advice: Advice, part: Part): number {
  return advice.parts.find(({ what }) => what === part)?.odds ?? 0;
}
