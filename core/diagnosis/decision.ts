import { costOf, lossOf, NEEDLESS, type Prices } from "./planning/prices";
import { isWhole, type Remedy, remediesOf, setOf } from "./remedies";

/** A set is decided on from this share of the likeliest one's odds. */
const PLAUSIBLE = 0.75;
/**
 * A part is named from these odds of its own: nobody buys what has more likely not failed. Where the sheet leaves open how the machine
 * is made, of verdicts less sure than this two in three were wrong.
 */
const NAMED = { whole: 0.45, open: 0.6 } as const;
/**
 * The line between stated log odds and those that verdicts turned out to have, fitted on machines of the benchmark (350 with a sheet from
 * seeds 20000, 690000 and 700000; 240 without from seeds 798500, 798600, 803000, 804000 and 806000, by likelihood; the benchmark measures
 * on others); it holds in full from one stated probability, and not at all below another.
 */
const WORTH = { whole: { shift: 0.31, slope: 0.8 }, open: { shift: 0.61, slope: 0.71 }, from: 0.35, full: 0.5 } as const;

/**
 * Odds of a verdict after which nothing more is worth reading, by what such verdicts were worth: its log odds on a straight line
 * (Platt's logistic calibration), the other sets sharing the rest. What hardly anything speaks for stays as it is.
 * @param open whether the machine's sheet leaves open how it is made
 */
export function plattCalibrated(odds: readonly number[], decided: number, open: boolean): number[] {
  const before = odds[decided] as number;
  if (before <= WORTH.from || before >= 1) return [...odds];
  const { shift, slope } = open ? WORTH.open : WORTH.whole;
  const logistic = 1 / (1 + Math.exp(-(shift + slope * Math.log(before / (1 - before)))));
  const share = Math.min(1, (before - WORTH.from) / (WORTH.full - WORTH.from));
  const after = share * logistic + (1 - share) * before;
  return odds.map((stated, s) => (s === decided ? after : (stated * (1 - after)) / (1 - before)));
}

/** What could be mended, and how likely each of it is what is needed. */
interface Choice {
  sets: readonly string[];
  odds: readonly number[];
  prices: Prices;
  /** Whether the machine has had a repair already. */
  repaired: boolean;
  /** Whether the machine's sheet leaves open how it is made. */
  open: boolean;
}

/** A set of {@link Choice}, and what doing it loses on average. */
interface Decision {
  index: number;
  loss: number;
}

const expectedLoss = ({ sets, odds, prices, repaired }: Choice, done: string): number =>
  sets.reduce((sum, needed, s) => sum + (odds[s] as number) * lossOf(done, needed, prices, repaired), 0);

/**
 * The set that costs least on average, were it done now, among those that are likely: nobody mends what hardly failed because it is
 * cheap. A sound machine and one that is only flat are one thing to whoever buys parts: neither needs any.
 */
export function decide(choice: Choice): Decision {
  const { sets, odds } = choice;
  const sound = sets.reduce((sum, set, s) => sum + (isWhole(set) ? (odds[s] as number) : 0), 0);
  const likely = sets.map((set, s) => (isWhole(set) ? sound : (odds[s] as number)));
  const least = PLAUSIBLE * Math.max(...likely);
  const leastWhole = PLAUSIBLE * Math.max(...odds.filter((_, s) => isWhole(sets[s] as string)), 0);
  let [index, loss] = [0, Number.POSITIVE_INFINITY];
  sets.forEach((done, d) => {
    if ((likely[d] as number) < least || (isWhole(done) && (odds[d] as number) < leastWhole)) return;
    const expected = expectedLoss(choice, done);
    if (expected < loss - 1e-9) [index, loss] = [d, expected];
  });
  return { index, loss };
}

/**
 * The decision as it is told once the search is over: a part of it that has more likely not failed is not named, however cheap it would
 * be; what stays of it is, and where nothing stays, no part.
 */
export function named(choice: Choice, decided: Decision): Decision {
  const { sets, odds, open } = choice;
  const least = open ? NAMED.open : NAMED.whole;
  const set = sets[decided.index] as string;
  if (isWhole(set)) return decided;
  const parts = remediesOf(set);
  const likely = parts.filter((part) => oddsOfPart(part, choice) >= least);
  if (likely.length === parts.length) return decided;
  const left = likely.length > 0 ? sets.indexOf(setOf(likely)) : -1;
  const [soundest] = [...sets.keys()].filter((s) => isWhole(sets[s] as string)).sort((a, b) => (odds[b] as number) - (odds[a] as number));
  const index = left >= 0 ? left : soundest;
  return index === undefined ? decided : { index, loss: expectedLoss(choice, sets[index] as string) };
}

const oddsOfPart = (part: Remedy, { sets, odds }: Choice): number =>
  sets.reduce((sum, set, s) => sum + (remediesOf(set).includes(part) ? (odds[s] as number) : 0), 0);

/** Getting at the machine once more after the first repair, minutes. */
const SECOND_VISIT_MINUTES = 20;

/**
 * Of several parts the surest by itself, with those for which a second visit loses more than the odds that they are bought for nothing:
 * once it is mended, the machine itself says whether the others have failed as well.
 * @param choice with odds as verdicts turn out to have them
 */
export function surestFirst(choice: Choice, decided: Decision): Decision {
  const { sets, prices } = choice;
  const remedies = remediesOf(sets[decided.index] as string);
  if (remedies.length < 2) return decided;
  const surest = remedies.filter((remedy) => remedy !== "charge").sort((a, b) => oddsOfPart(b, choice) - oddsOfPart(a, choice))[0];
  const now = remedies.filter((remedy) => {
    const odds = oddsOfPart(remedy, choice);
    return (
      remedy === surest || remedy === "charge" || (1 - odds) * NEEDLESS * costOf(remedy, prices) <= (odds * SECOND_VISIT_MINUTES * prices.labourPerHour) / 60
    );
  });
  const index = sets.indexOf(setOf(now));
  return index < 0 ? decided : { index, loss: expectedLoss(choice, sets[index] as string) };
}
