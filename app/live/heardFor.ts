import { isReadIn, type Jack, jackFor } from "../../core/procedure/jacks";
import type { Test } from "../../core/procedure/test";
import type { Instrument } from "../../store/instruments";

/** A meter whose lead nobody told of reads all that is no clamp's. */
const reads = (test: Pick<Test, "dial" | "unit">, jack: Jack | null): boolean => (jack ? isReadIn(jack, test) : jackFor(test) !== "clamp");

/**
 * Which instrument a step is heard from: the chosen one, or where that is not set up for it another that is. The second meter is never
 * taken for the first; what is wanted on it is heard from it, where it speaks.
 */
export function heardFor(test: Pick<Test, "dial" | "unit">, chosen: Instrument, instruments: readonly Instrument[], second: boolean): Instrument {
  const other = second ? instruments.find(({ jack, secondMeter }) => secondMeter && reads(test, jack)) : undefined;
  if (other) return other;
  if (reads(test, chosen.jack)) return chosen;
  return instruments.find(({ jack, secondMeter }) => jack && !secondMeter && isReadIn(jack, test)) ?? chosen;
}
