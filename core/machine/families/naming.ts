/** Which of a machine's wires is which, from the ohms between every two of them. */

/** What came of it: the family's own names in the order of the wires, or what to read again. */
type Named = { names: readonly string[] } | { again: string };

/** How a family's wires are told apart. */
export interface Naming {
  wires: number;
  /** @param ohms by pair of wires, "0-1" first; infinite where the line is open */
  tell: (ohms: Readonly<Record<string, number>>) => Named;
}

/** Every two of some wires, by their numbers: "0-1", "0-2", … */
export function everyTwo(wires: number): string[] {
  return Array.from({ length: wires }, (_, a) => Array.from({ length: wires - a - 1 }, (__, k) => `${a}-${a + k + 1}`)).flat();
}

const between = (ohms: Readonly<Record<string, number>>, a: number, b: number): number => ohms[`${Math.min(a, b)}-${Math.max(a, b)}`] ?? Number.NaN;

/** The whole winding reads the sum of its parts to within this share, and this many ohms of leads and contact. */
const ADDS_UP = { share: 0.12, ohms: 0.15 } as const;
/** Halves of one winding nearer to each other than this are not told apart by ohms. */
const ALIKE_OHMS = 0.1;

/**
 * Three wires of one winding with a tap: the highest of three readings is from end to end, so the wire that it leaves out is the common;
 * of the ends the one with less to the common is the main.
 */
export function nameTapped(ohms: Readonly<Record<string, number>>): Named {
  const pairs = [
    [0, 1, 2],
    [0, 2, 1],
    [1, 2, 0],
  ] as const;
  if (pairs.some(([a, b]) => !Number.isFinite(between(ohms, a, b))))
    return { again: "One pair is open: a wire of the winding is broken, or the clip slipped. Read it again." };
  const [a, b, common] = [...pairs].sort((pair, other) => between(ohms, other[0], other[1]) - between(ohms, pair[0], pair[1]))[0] ?? pairs[0];
  const [whole, toA, toB] = [between(ohms, a, b), between(ohms, a, common), between(ohms, b, common)];
  if (Math.abs(whole - toA - toB) > ADDS_UP.share * whole + ADDS_UP.ohms)
    return { again: "The two lower readings do not add up to the highest: this is no winding with a common wire, or a clip slipped." };
  if (Math.abs(toA - toB) < ALIKE_OHMS)
    return { again: "Both ends read alike to the common wire: take them by their AC volts, or take the lead zero and read again to a hundredth." };
  const names: string[] = [];
  names[common] = "C";
  names[toA < toB ? a : b] = "M";
  names[toA < toB ? b : a] = "A";
  return { names };
}

/** Four wires of two windings: the two pairs that conduct belong together; the one with less copper in it charges. */
export function namePairs(ohms: Readonly<Record<string, number>>): Named {
  const joined = everyTwo(4).filter((pair) => Number.isFinite(ohms[pair]));
  const [less = "", other = ""] = [...joined].sort((p, q) => (ohms[p] ?? 0) - (ohms[q] ?? 0));
  const wires = new Set([less, other].flatMap((pair) => pair.split("-")));
  if (joined.length < 2) return { again: "Fewer than two pairs conduct: a winding is open, or a clip slipped. Read the open ones again." };
  if (joined.length > 2 || wires.size < 4)
    return { again: "More than two pairs conduct: on this machine the windings are joined inside, or they touch each other." };
  const names: string[] = [];
  less.split("-").forEach((wire, i) => {
    names[Number(wire)] = ["1", "2"][i] as string;
  });
  other.split("-").forEach((wire, i) => {
    names[Number(wire)] = ["3", "4"][i] as string;
  });
  return { names };
}
