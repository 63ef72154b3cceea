import type { FaultId } from "../machine/faults";

/** How often each fault was mended and proven on machines like one that comes in, for the engine's priors. */

/** Proven repairs of one kind, of one year. */
export interface Lesson {
  sheetId: string;
  family: string;
  /** Kind of machine; empty where it is not known. */
  kind: string;
  /** What the machine is used for; empty where nobody wrote it down. */
  usedFor: string;
  /** How old its battery was. */
  age: Age | "";
  year: number;
  fault: FaultId;
  times: number;
}

/** Batteries by their age: under two years, under five, older. */
type Age = "new" | "middle" | "old";

export function ageOf(years: number | null): Age | "" {
  if (years === null) return "";
  return years < 2 ? "new" : years < 5 ? "middle" : "old";
}

/** The machine that comes in. */
export type Likeness = Pick<Lesson, "sheetId" | "family" | "kind" | "usedFor" | "age">;

/** What an older year's repair still counts for: half after some four years, because models and makers' parts change. */
const FADES = 0.84;

/**
 * At most so many repairs are lent by machines that are less like this one. A model with ten of its own leans on them; one with a
 * thousand goes by itself.
 */
const LENT = 25;

/** From the widest circle to the narrowest: what a lesson shares with the machine. */
const CIRCLES: readonly ((lesson: Lesson, machine: Likeness) => boolean)[] = [
  (lesson, machine) => lesson.family === machine.family,
  (lesson, machine) => lesson.family === machine.family && machine.kind !== "" && lesson.kind === machine.kind,
  (lesson, machine) =>
    lesson.family === machine.family && machine.kind !== "" && lesson.kind === machine.kind && machine.usedFor !== "" && lesson.usedFor === machine.usedFor,
  (lesson, machine) => lesson.sheetId === machine.sheetId,
  (lesson, machine) => lesson.sheetId === machine.sheetId && machine.age !== "" && lesson.age === machine.age,
];

/**
 * Counts of proven repairs by fault for a machine: its own circle's, and what wider circles lend. A chain of Dirichlet priors, each
 * circle's mean the prior of the next narrower one (Gelman et al., Bayesian Data Analysis, ch. 5), its concentration the repairs lent.
 * @param lessons of the machine's family at least
 * @param year the present one
 * @returns counts, fractions among them; the engine adds them to its own rates as repairs seen
 */
export function learnedCounts(lessons: readonly Lesson[], machine: Likeness, year: number): Partial<Record<FaultId, number>> {
  // A narrow circle that holds nothing says nothing, and hands on what it was lent.
  const circles = CIRCLES.map((belongs) => lessons.filter((lesson) => belongs(lesson, machine))).filter((inside) => inside.length > 0);
  let counts = new Map<FaultId, number>();
  // What lies in a narrower circle as well is counted there alone.
  for (const [k, inside] of circles.entries())
    counts = added(
      capped(counts, LENT),
      inside.filter((lesson) => !circles[k + 1]?.includes(lesson)),
      year,
    );
  // Where no repair is of the same model, all of it is lent.
  if (!lessons.some(({ sheetId }) => sheetId === machine.sheetId)) counts = capped(counts, LENT);
  // Halves of a repair are close enough, and leave what was worked out before standing.
  return Object.fromEntries([...counts].map(([fault, count]) => [fault, Math.round(2 * count) / 2] as const).filter(([, count]) => count > 0));
}

function added(lent: ReadonlyMap<FaultId, number>, lessons: readonly Lesson[], year: number): Map<FaultId, number> {
  const counts = new Map(lent);
  for (const lesson of lessons) counts.set(lesson.fault, (counts.get(lesson.fault) ?? 0) + lesson.times * FADES ** Math.max(0, year - lesson.year));
  return counts;
}

/** The same shares, with no more in all than may be lent. */
function capped(counts: ReadonlyMap<FaultId, number>, most: number): Map<FaultId, number> {
  const total = [...counts.values()].reduce((sum, count) => sum + count, 0);
  const share = total > most ? most / total : 1;
  return new Map([...counts].map(([fault, count]) => [fault, count * share]));
}
