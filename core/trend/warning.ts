import { type Change, levelAt, likeliest, oddsBelow } from "./change";
import { type TestLog, yearsOf } from "./log";

/** What a figure's course means for the months to come: beyond its limit when, and how likely. */
export interface Warning {
  /** Which limit, and which way the figure goes to it. */
  side: "low" | "high";
  limit: number;
  /** Whether the figure is thought to be beyond it as it is. */
  already: boolean;
  /** Odds that the true figure will be beyond it by then. */
  odds: number;
  /** First month by whose middle that is more likely than not, or the worst of the year. */
  month: Date;
  /** Odds that the figure has moved at all. */
  moved: number;
  /** The slope in units a year, or the shift in units, and since when. */
  course: "slope" | "shift";
  by: number;
  from: Date;
}

/** How far ahead is looked, months. */
const AHEAD = 12;
/** A warning takes odds that the figure moves at all, and odds that it crosses its limit within the year. */
const WARNS = { moved: 0.75, beyond: 0.5 } as const;

/** What a temperature does to the figure: how much higher it reads in a month of the year than at 20 °C. @param month 0 for January */
type Seasonal = (month: number) => number;

/**
 * Whether a figure will pass its limit within a year, at the temperatures of the months to come.
 * @param now ms; the latest figure may be older
 * @returns undefined where it stays, or is likelier than not to
 */
export function warningOf(log: Pick<TestLog, "change" | "low" | "high">, now: number, seasonal: Seasonal): Warning | undefined {
  const { change, low, high } = log;
  if (!change) return undefined;
  const moved = 1 - change.odds.steady;
  if (moved < WARNS.moved) return undefined;
  const course = change.odds.slope >= change.odds.shift ? "slope" : "shift";
  const { by, from } = likeliest(change, course);
  const [side, limit] = by < 0 ? (["low", low] as const) : (["high", high] as const);
  if (limit === undefined) return undefined;
  const months = monthsAhead(now).map((month) => ({ month, odds: oddsBeyond(change, side, limit - seasonal(month.getUTCMonth()), month) }));
  const crossing = months.find(({ odds }) => odds >= WARNS.beyond);
  if (!crossing) return undefined;
  const worst = months.reduce((most, month) => (month.odds > most.odds ? month : most));
  // The first month that is likelier than not is named, unless a later one is by far surer.
  const named = worst.odds - crossing.odds > 0.25 ? worst : crossing;
  const already = oddsBeyond(change, side, limit - seasonal(new Date(now).getUTCMonth()), new Date(now)) >= WARNS.beyond;
  return { side, limit, already, odds: named.odds, month: named.month, moved, course, by, from: dateOf(from.years) };
}

/** The middle of each month to come. */
function monthsAhead(now: number): Date[] {
  const begin = new Date(now);
  return Array.from({ length: AHEAD }, (_, k) => new Date(Date.UTC(begin.getUTCFullYear(), begin.getUTCMonth() + k + 1, 15)));
}

function oddsBeyond(change: Change, side: Warning["side"], limit: number, month: Date): number {
  const below = oddsBelow(change, limit, yearsOf(month));
  return side === "low" ? below : 1 - below;
}

/** A moment of the courses' scale as a date. */
function dateOf(years: number): Date {
  return new Date(Date.UTC(2000, 0, 1) + years * 365.25 * 86_400_000);
}

/** Where the figure is thought to go, month by month, with its spread: for drawing. @param months how many, from the first figure's on */
export function courseOf(change: Change, until: number): { at: Date; mean: number; deviation: number }[] {
  const [first] = change.observations;
  const from = first?.years ?? yearsOf(until);
  const to = yearsOf(until);
  const points = 24;
  return Array.from({ length: points + 1 }, (_, k) => {
    const years = from + ((to - from) * k) / points;
    return { at: dateOf(years), ...levelAt(change, years) };
  });
}

/**
 * Air temperature a month, °C, from what the shop's jobs say; a month without jobs lies between its neighbours.
 * @param known mean by month, 0 for January; undefined without jobs
 */
export function airByMonth(known: readonly (number | undefined)[]): number[] {
  if (known.every((celsius) => celsius === undefined)) return Array.from({ length: 12 }, () => 20);
  return Array.from({ length: 12 }, (_, month) => {
    const found = known[month];
    if (found !== undefined) return found;
    const near = (way: 1 | -1): { celsius: number; away: number } => {
      for (let away = 1; away < 12; away++) {
        const celsius = known[(month + way * away + 24) % 12];
        if (celsius !== undefined) return { celsius, away };
      }
      throw new RangeError("no month is known");
    };
    const [before, after] = [near(-1), near(1)];
    return (before.celsius * after.away + after.celsius * before.away) / (before.away + after.away);
  });
}
