import { offScale, wordsOf } from "../population/gauges";
import type { Posterior } from "./posterior";

/** A set of parts and what a machine with it would show for each reading taken. */
export interface Suspect {
  set: string;
  odds: number;
  /** By reading, in the order taken; readings that the engine does not weigh are left out. */
  shows: Shown[];
}

export interface Shown {
  /** Index of the reading. */
  reading: number;
  /** A figure as the meter would show it at the speed that was read at, the open line or a word. */
  expected: number | string;
  /** Between which figures nine in ten such machines would read; undefined for words and open lines. */
  range: readonly [number, number] | undefined;
  /** The reading does not go with this set. */
  misfit: boolean;
}

/** A figure further off than so many standard deviations does not fit, nor a word less likely than this. */
const MISFIT = { spreads: 2.6, word: 0.08 } as const;
const NINE_IN_TEN = 1.64;

/**
 * What each of some sets would show, by the candidate of it that all readings together fit best: every reading is predicted from
 * all others (leave-one-out), so that no reading explains itself.
 * @param indexOf the set of each particle
 */
export function suspectsOf(posterior: Posterior, indexOf: Int32Array, sets: readonly { index: number; set: string; odds: number }[]): Suspect[] {
  return sets.map(({ index, set, odds }) => {
    let best = -1;
    for (let i = 0; i < indexOf.length; i++) {
      if (indexOf[i] === index && (best < 0 || (posterior.weights[i] as number) > (posterior.weights[best] as number))) best = i;
    }
    return { set, odds, shows: best < 0 ? [] : posterior.observations.map((_, j) => shownOn(posterior, best, j)) };
  });
}

/** Four figures: no meter shows more, and sixty readings of three suspects go out with every page. */
const asWritten = (value: number): number => Number(value.toPrecision(4));

function shownOn(posterior: Posterior, particle: number, observation: number): Shown {
  const read = posterior.observations[observation] as Posterior["observations"][number];
  const { test } = read.look.step;
  const expected = posterior.expected(particle, observation);
  const base = { reading: read.reading, range: undefined };
  if (expected.kind === "word") return { ...base, expected: wordsOf(test)[expected.word] ?? "", misfit: expected.odds < MISFIT.word };
  if (expected.kind === "open") return { ...base, expected: "OL", misfit: !read.open };
  const at = (spreads: number): number => asWritten(offScale(test, expected.at + spreads * expected.spread) / read.factor);
  return {
    reading: read.reading,
    expected: at(0),
    range: [at(-NINE_IN_TEN), at(NINE_IN_TEN)],
    misfit: read.open || Math.abs(expected.off) > MISFIT.spreads * expected.spread,
  };
}
