import { hasCapacitor } from "../machine/capacitor";
import { type FaultId, faultOf } from "../machine/faults";
import type { Loose } from "../machine/loose";
import { PARTS, type Part } from "../machine/part";
import { fromNearestWire } from "../machine/places";
import { ASSUMED_METER, type Meter } from "../meter/meter";
import type { TestId } from "../procedure/catalogue";
import { beginningOf, type State, worked } from "../procedure/moves";
import { schoolOf } from "../procedure/schools";
import { type Reading, type Step, stepFromKey, stepKey } from "../procedure/step";
import { type ToolId, USUAL_TOOLS } from "../procedure/tools";
import { isNumber } from "../units";
import { decide, named, plattCalibrated, surestFirst } from "./decision";
import {
  beforeBattery,
  beforeHandedBack,
  beforeLoads,
  beforePartner,
  beforeUnit,
  beforeWindings,
  chartLeft,
  hangsOn,
  isSince,
  onAnotherMeter,
  onceMore,
  proofLeft,
  refill,
} from "./planning/asked";
import { type Bench, isSpoilt, movedTo, plan, type Suggestion } from "./planning/plan";
import { ASSUMED_PRICES, billOf, type Prices } from "./planning/prices";
import type { Build } from "./population/builds";
import { type History, NO_HISTORY } from "./population/hypotheses";
import { isOfBattery, lookOf, lookOfReading, sinceCharge } from "./population/look";
import type { Population } from "./population/population";
import { priorsOfDrained } from "./posterior/drained";
import { type Observation, observedIn, Posterior } from "./posterior/posterior";
import type { Push } from "./posterior/push";
import { type Suspect, suspectsOf } from "./posterior/suspects";
import { isWhole, type Remedy, remediesOf, remedyOf, setOf } from "./remedies";

import { whatOf } from "./whatFailed";

/** All that the engine is told of a job. */
export interface JobFacts {
  /** In the order taken; readings that were superseded are left out. */
  readings: readonly Reading[];
  meter: Meter;
  prices: Prices;
  /** What was known before the first reading. */
  history: History;
  /** Parts mended so far, in order. */
  mended: readonly Part[];
  /** Short names of steps the mechanic will not take. */
  skipped: readonly string[];
  /** What the shop has beside a multimeter. */
  tools: readonly ToolId[];
  /** How long the school rests a battery, h. */
  restHours: number;
}

/** A job of a usual shop of which nothing is known yet. */
export const NOTHING_READ: JobFacts = {
  readings: [],
  meter: ASSUMED_METER,
  prices: ASSUMED_PRICES,
  history: NO_HISTORY,
  mended: [],
  skipped: [],
  tools: USUAL_TOOLS,
  restHours: schoolOf("").restHours,
};

interface Odds<T> {
  what: T;
  odds: number;
}

/** A part by itself, whatever else may have failed beside it: its odds, and its likeliest fault and place. */
export interface PartStanding {
  part: Part;
  odds: number;
  fault: FaultId;
  /** Places of that fault, likeliest first; empty where it has none. */
  places: Odds<string>[];
}

/** A reading that does not go with the others. */
interface Doubt {
  reading: number;
  /** Probability that it was misread. */
  odds: number;
}

type AdviceStatus = "found" | "narrowed" | "healthy" | "contradiction" | "not-enough";

/** How the job stands, what to read next, and what to do when nothing more is worth reading. */
export interface Advice {
  /** The machine's family: it says what its parts are called. */
  family: string;
  /** Where a capacitor stands in its battery's place. */
  battery?: { chemistry: "capacitor" };
  /** Only this part of it is here. */
  loose?: Loose;
  status: AdviceStatus;
  /** What the readings say must still be mended, likeliest first. */
  sets: Odds<string>[];
  parts: Odds<Remedy>[];
  /** Parts that have as good as surely failed, whatever is still open beside them; and those that may have. */
  sure: PartStanding[];
  open: PartStanding[];
  faults: Odds<FaultId>[];
  /** The likeliest fault behind the decided set. */
  fault: FaultId | undefined;
  /** Places of that fault, likeliest first; empty where it has none. */
  places: Odds<string>[];
  /** How far along its winding, 0 to 1, with its standard deviation; of a touch only. */
  along: { at: number; spread: number } | undefined;
  /** How bad it is, in the unit of its defect: the middle and the middle four fifths of what fits. */
  severity: { at: number; low: number; high: number; unit: string } | undefined;
  /** True once something has been mended: what is said then is what is left. */
  repaired: boolean;
  /** The set to mend now with its expected loss, and the odds that it is all that failed. */
  decision: { set: string; odds: number; loss: number; bill: { money: number; minutes: number } };
  /** What is likely to have failed beside the set to mend now, and is judged once that is mended: not sure enough to be bought with it. */
  later: Part[];
  /** The second-best where more testing is not worth it. */
  otherwise: { set: string; odds: number } | undefined;
  /** True when no reading is worth its minutes any more. */
  settled: boolean;
  /** The repair would be the cure by the odds, and is not by the volts read since. */
  disproven: boolean;
  next: Suggestion[];
  /** Readings that do not go with the others and can be taken again as the machine stands. */
  doubts: Doubt[];
  /** Such readings that can not: taken again they would be no repeat, as a battery that has run since shows something else. */
  spent: Doubt[];
  /** Readings of one visit that are likely off together: one bad contact, the wrong side of the plug, the wrong dial. */
  together: { readings: number[]; odds: number }[];
  /** What the likeliest sets would show for every reading taken. */
  suspects: Suspect[];
  /** What each reading says by itself, by its place in the list; of a verdict that the server gave. */
  pushes?: Readonly<Record<number, Push>>;
}

/** Volts under way since a repair that lie this far off what the mended machine would show, on 12 V, do not prove it. */
const FAR_VOLTS = 1.25;
/** Odds at which the search ends, and at which a set counts as found. */
const ENOUGH = { stop: 0.96, found: 0.9, likely: 0.5 } as const;
/** Odds of a part by itself from which it is sure, and from which it is open. */
const PART = { sure: 0.9, open: 0.1 } as const;
/** Sets whose readings are laid out beside those taken: so many, and from these odds. */
const SUSPECTED = { most: 3, least: 0.05 } as const;
/** From here a reading is better taken again. */
const DOUBTFUL = 0.5;
/** A doubt's reading is a contradiction while the odds it hides are this far from settled. */
const OPEN_DOUBT = 0.3;
/** Two readings of one look that are both believed less than this contradict each other. */
const CLASH = 0.3;
/** Readings of the plan that are handed on, and those after what is due before all else. */
const MOST_NEXT = 12;
const MOST_AFTER = 5;
/** Share of all misread chances that could lie behind everything read so far. */
const ALL_WRONG = 0.03;

/** The engine's answer to a job. */
export function advise(population: Population, facts: JobFacts): Advice {
  const { observations, drained } = observedIn(facts.readings, population, facts.meter);
  const known = population.priors(facts.history);
  const priors = drained ? priorsOfDrained(known, population.hypotheses) : known;
  const posterior = new Posterior(population, priors, observations);
  const { sets, indexOf } = remaining(population, facts.mended);
  const searching = searchedOdds(posterior, priors, indexOf, sets.length);
  const open = population.builds.length > 1;
  const isMended = facts.mended.length > 0;
  const choice = { sets, odds: searching, prices: facts.prices, repaired: isMended, open };
  const cheapest = decide(choice);
  const standing = benchOf(facts, population);
  const first = posterior.drained && !isMended ? refill(population, standing) : [];
  const bench = first.reduce((from, { look }) => movedTo(look, from), standing);
  const ranked = plan(posterior, sets, indexOf, bench);
  const doubts = [...posterior.misread].flatMap((off, j) =>
    off > DOUBTFUL ? [{ reading: (observations[j] as (typeof observations)[number]).reading, odds: off }] : [],
  );
  const isGone = ({ reading }: Doubt): boolean => {
    const step = facts.readings[reading] as Reading;
    // What a battery showed before its charge it shows no more.
    return (isOfBattery(step.test) && !step.charged && bench.charged) || isSpoilt({ step, charged: step.charged === true }, bench.state);
  };
  const ahead = first.length > 0 ? first : proofLeft(facts, bench, population.sheet);
  const reached = ahead.length === 0 && ((searching[cheapest.index] as number) >= ENOUGH.stop || !ranked[0]?.pays);
  const disproving = (index: number): Observation[] => (sets[index] === "" ? farFromCured(facts, posterior, (i) => indexOf[i] === index) : []);
  const wanted =
    onAnotherMeter(posterior, bench, isGone) ??
    (isMended && ahead.length === 0 ? onceMore(disproving(cheapest.index), posterior, bench) : undefined) ??
    (reached ? hangsOn({ posterior, sets, indexOf, searching, decided: cheapest.index }, facts.prices, bench, isGone) : undefined);
  // Whoever skips it has no such meter at hand, or cannot get there again: it is not asked for over and over.
  const again = wanted && facts.skipped.includes(stepKey(wanted.step)) ? undefined : wanted;
  const led = sets[cheapest.index] as string;
  const found = whatOf(posterior, indexOf, cheapest.index, remediesOf(led), facts.mended);
  const told = named(choice, cheapest);
  const soundBy = (odds: readonly number[]): number => sets.reduce((sum, set, s) => (isWhole(set) ? sum + (odds[s] as number) : sum), 0);
  const last =
    reached && !again
      ? [
          ...beforeBattery(sets, searching, cheapest.index, posterior, bench),
          ...beforeLoads(searching[cheapest.index] as number, found.fault, population, bench),
          ...beforeWindings(sets, searching, cheapest.index, posterior, bench),
          ...beforeUnit(sets, searching, cheapest.index, population, bench),
          ...beforePartner({ sets, odds: searching, decided: cheapest.index, indexOf }, posterior, bench),
          ...beforeHandedBack(sets[told.index] as string, soundBy(searching), population, bench),
        ]
      : [];
  const chart = reached && !again && last.length === 0 ? chartLeft(led, found.places, population, bench) : [];
  const settled = reached && disproving(cheapest.index).length === 0 && !again && last.length === 0 && chart.length === 0;
  const judged = settled ? told : cheapest;
  const odds = settled ? plattCalibrated(searching, judged.index, open) : searching;
  const decision = settled ? surestFirst({ ...choice, odds }, judged) : judged;
  const disproven = disproving(decision.index).length > 0;
  const set = sets[decision.index] as string;
  const mends = remediesOf(set).filter((remedy) => remedy !== "charge");
  const later = mends.length === 0 ? [] : remediesOf(led).filter((remedy): remedy is Part => remedy !== "charge" && !mends.includes(remedy));
  const order = Array.from(odds.keys()).sort((a, b) => (odds[b] as number) - (odds[a] as number));
  const other = order.find((s) => s !== decision.index);
  const believed = odds[decision.index] as number;
  const parts = partsOf(sets, odds, posterior.population);
  const standings = standingsOf(posterior, parts, facts.mended);
  const sure = standings.filter((standing) => standing.odds >= PART.sure);
  const likeliest = order.filter((s) => (odds[s] as number) >= SUSPECTED.least).slice(0, SUSPECTED.most);
  const what = decision.index === cheapest.index ? found : whatOf(posterior, indexOf, judged.index, remediesOf(set), facts.mended);
  return {
    status: statusOf(
      {
        set,
        odds: believed,
        sound: soundBy(odds),
        first: parts.find(({ what }) => what !== "charge")?.odds ?? 0,
        settled,
        sure: sure.length > 0,
        doubts: doubts.filter(({ reading }) => !isRetaken(reading, posterior)),
        disproven,
      },
      posterior,
      facts.mended,
    ),
    sets: order.filter((s) => (odds[s] as number) > 0.002).map((s) => ({ what: sets[s] as string, odds: odds[s] as number })),
    parts,
    sure,
    open: standings.filter((standing) => standing.odds < PART.sure && standing.odds >= PART.open),
    suspects: suspectsOf(
      posterior,
      indexOf,
      likeliest.map((index) => ({ index, set: sets[index] as string, odds: odds[index] as number })),
    ),
    ...what,
    decision: {
      set,
      odds: believed,
      loss: decision.loss,
      bill: billOf(set, facts.prices, what.fault),
    },
    later,
    otherwise: other !== undefined && (odds[other] as number) > 0.1 ? { set: sets[other] as string, odds: odds[other] as number } : undefined,
    settled,
    disproven,
    family: population.sheet.family,
    ...(hasCapacitor(population.sheet) ? { battery: { chemistry: "capacitor" as const } } : {}),
    ...(population.sheet.loose ? { loose: population.sheet.loose } : {}),
    repaired: isMended,
    next: nextOf(ranked, { ahead, again, last, chart }),
    doubts: doubts.filter((doubt) => !isGone(doubt)),
    spent: doubts.filter(isGone),
    together: posterior.visits.flatMap(({ members, spoilt }) =>
      spoilt > DOUBTFUL ? [{ readings: members.map((j) => (observations[j] as (typeof observations)[number]).reading), odds: spoilt }] : [],
    ),
  };
}

/** What is left to mend on every particle once some parts have been: the distinct sets, and which each particle has. */
function remaining(population: Population, mended: readonly Part[]): { sets: string[]; indexOf: Int32Array } {
  const sets: string[] = [];
  const byHypothesis = population.hypotheses.map(({ set }) => {
    const left = setOf(remediesOf(set).filter((remedy) => (remedy === "charge" ? mended.length === 0 : !mended.includes(remedy))));
    let index = sets.indexOf(left);
    if (index < 0) index = sets.push(left) - 1;
    return index;
  });
  return { sets, indexOf: Int32Array.from(population.particles, ({ hypothesis }) => byHypothesis[hypothesis] as number) };
}

/** Odds of every set by what was read. All of that could still be one misread, or of another machine: that chance is never taken out of the odds. */
function searchedOdds({ population, weights, observations }: Posterior, priors: Float64Array, indexOf: Int32Array, count: number): number[] {
  const shares = population.shares([]);
  const before = population.particles.map(({ hypothesis }, i) => (priors[hypothesis] as number) * (shares[i] as number));
  const all = before.reduce((sum, weight) => sum + weight, 0);
  const prior = sumBy(before, indexOf, count).map((weight) => weight / all);
  const doubt = observations.length === 0 ? 0 : ALL_WRONG / observations.length;
  return sumBy(weights, indexOf, count).map((weight, s) => (1 - doubt) * weight + doubt * (prior[s] as number));
}

/** What is asked for whatever it is worth: before all else, of a reading that everything hangs on, before a verdict, and to fill a chart. */
interface Due {
  ahead: readonly Suggestion[];
  again: Suggestion | undefined;
  last: Suggestion[];
  chart: Suggestion[];
}

/** What to read next: what is due, or else what the plan ranks first; beside the first two the plan goes on after them. */
function nextOf(ranked: readonly Suggestion[], { ahead, again, last, chart }: Due): Suggestion[] {
  const followedBy = (due: readonly Suggestion[], plan: readonly Suggestion[]): Suggestion[] => [
    ...due,
    ...plan.map((suggestion) => ({ ...suggestion, stay: suggestion.stay + due.length })),
  ];
  if (ahead.length > 0) {
    const others = ranked.filter(({ look }) => !ahead.some((suggestion) => suggestion.look.key === look.key));
    return followedBy(ahead, others.slice(0, MOST_AFTER));
  }
  if (again) return followedBy([again], ranked.slice(0, MOST_NEXT - 1));
  if (last.length > 0) return last;
  return chart.length > 0 ? chart : ranked.slice(0, MOST_NEXT);
}

function sumBy(weights: ArrayLike<number>, indexOf: Int32Array, count: number): number[] {
  const sums = new Array<number>(count).fill(0);
  for (let i = 0; i < weights.length; i++) {
    const at = indexOf[i] as number;
    sums[at] = (sums[at] as number) + (weights[i] as number);
  }
  return sums;
}

/** Odds of each part that the machine has: where no box regulates, none is listed. */
function partsOf(sets: readonly string[], odds: readonly number[], { hypotheses }: Population): Odds<Remedy>[] {
  const has = new Set(hypotheses.flatMap(({ set }) => remediesOf(set)));
  return [...PARTS, "charge" as const]
    .filter((what) => has.has(what))
    .map((what) => ({ what, odds: sets.reduce((sum, set, s) => sum + (remediesOf(set).includes(what) ? (odds[s] as number) : 0), 0) }))
    .sort((a, b) => b.odds - a.odds);
}

/** Each part's own odds with its likeliest fault, likeliest part first. */
function standingsOf(posterior: Posterior, parts: readonly Odds<Remedy>[], mended: readonly Part[]): PartStanding[] {
  const byFault = new Map<FaultId, { weight: number; places: Map<string, number> }>();
  const { particles, builds } = posterior.population;
  particles.forEach(({ candidate, build }, i) => {
    const weight = posterior.weights[i] as number;
    if (weight === 0) return;
    for (const set of candidate.faults) {
      const { fault } = set;
      if (mended.includes(faultOf(fault).part)) continue;
      const { at } = fromNearestWire(set, (builds[build] as Build).sheet);
      const known = byFault.get(fault) ?? { weight: 0, places: new Map<string, number>() };
      known.weight += weight;
      if (at) known.places.set(at, (known.places.get(at) ?? 0) + weight);
      byFault.set(fault, known);
    }
  });
  return parts.flatMap(({ what, odds }): PartStanding[] => {
    if (what === "charge" || odds < PART.open) return [];
    const [first] = [...byFault].filter(([fault]) => remedyOf(fault) === what).sort((a, b) => b[1].weight - a[1].weight);
    if (!first) return [];
    const [fault, { places }] = first;
    const total = [...places.values()].reduce((sum, weight) => sum + weight, 0) || 1;
    return [{ part: what, odds, fault, places: [...places].map(([at, weight]) => ({ what: at, odds: weight / total })).sort((a, b) => b.odds - a.odds) }];
  });
}

/** Below these odds no part leads. */
const LEADING = 0.3;
/** With the control readings right and no part leading, a machine is called healthy from these odds, and from so many times the likeliest part's. */
const SOUND = { least: 0.4, ahead: 1.5 } as const;
/** Tests of which a machine called healthy has one reading each: the battery under load, the volts at speed, and with all loads on. */
const CONTROLS: readonly (readonly { test: TestId; loads?: Step["loads"] }[])[] = [
  [{ test: "battery.crank" }, { test: "battery.load" }],
  [
    { test: "charge.volts", loads: "normal" },
    { test: "charge.volts", loads: "off" },
  ],
  [{ test: "charge.volts", loads: "all" }],
];

interface Standing {
  /** The set decided on with its odds, and the odds that no part has to be bought. */
  set: string;
  odds: number;
  sound: number;
  /** Odds of the likeliest part by itself. */
  first: number;
  settled: boolean;
  /** One part at least is sure by itself: then neither doubt nor lack of readings is what has to be said. */
  sure: boolean;
  doubts: readonly Doubt[];
  disproven: boolean;
}

/**
 * Volts read under way since a repair that lie far off those of the machine so mended, where most do: whatever the odds say, it was not
 * seen to charge. A plug that nobody joined again looks like that, and so does a unit that died since.
 * @param isCured whether a particle is one that the repair has cured
 */
function farFromCured({ readings, mended }: JobFacts, posterior: Posterior, isCured: (particle: number) => boolean): Observation[] {
  if (mended.length === 0) return [];
  const { population, weights, observations } = posterior;
  const cured = weights.reduce((sum, weight, i) => (isCured(i) ? sum + weight : sum), 0);
  const far = (FAR_VOLTS * population.sheet.systemVolts) / 12;
  const proof = observations.filter(({ look, reading }) => {
    const taken = readings[reading] as Reading;
    return look.step.test === "charge.volts" && look.step.rpm !== "idle" && isSince(taken, mended) && isNumber(taken.value);
  });
  const off = proof.filter(({ look, reading }) => {
    const { at } = population.column(look);
    const expected = weights.reduce((sum, weight, i) => (isCured(i) ? sum + weight * (at[i] as number) : sum), 0) / cured;
    return Math.abs(((readings[reading] as Reading).value as number) - expected) > far;
  });
  return off.length > proof.length / 2 ? off : [];
}

function statusOf({ set, odds, sound, first, settled, sure, doubts, disproven }: Standing, posterior: Posterior, mended: readonly Part[]): AdviceStatus {
  // Parts first: one was found, whatever is still open beside it.
  if (disproven) return "contradiction";
  if (sure) return set === "" ? "narrowed" : "found";
  if (Math.max(odds, first, sound) < 1 - OPEN_DOUBT && (doubts.length > 1 || clashes(posterior))) return "contradiction";
  const whole = isWhole(set);
  if (set === "" && odds >= ENOUGH.found) return "healthy";
  if (whole && sound >= SOUND.least && sound > SOUND.ahead * first && first < LEADING && isControlled(posterior, mended)) return "healthy";
  if (odds >= ENOUGH.found) return "found";
  return odds >= ENOUGH.likely || settled ? "narrowed" : "not-enough";
}

/** True when the control readings of the machine as it stands are all there, and none of them is doubted. */
function isControlled({ observations, misread }: Posterior, mended: readonly Part[]): boolean {
  const believed = observations.filter(({ look }, j) => look.mended.join() === mended.join() && (misread[j] as number) < DOUBTFUL);
  return CONTROLS.every((ways) =>
    ways.some((way) => believed.some(({ look: { step } }) => step.test === way.test && (!way.loads || step.loads === way.loads) && step.rpm !== "idle")),
  );
}

/** True for a doubted reading that was taken again and is believed now: what was wrong the first time stands in nobody's way. */
function isRetaken(reading: number, { observations, misread }: Posterior): boolean {
  const first = observations.find((observation) => observation.reading === reading);
  return observations.some((observation, j) => observation !== first && observation.look.key === first?.look.key && (misread[j] as number) < DOUBTFUL);
}

/** True when one look was read more than once and its readings do not believe each other. */
function clashes({ observations, misread }: Posterior): boolean {
  const byLook = new Map<string, number>();
  for (const [j, { look }] of observations.entries()) byLook.set(look.key, (byLook.get(look.key) ?? 0) + ((misread[j] as number) > CLASH ? 1 : 0));
  return [...byLook.values()].some((count) => count > 1);
}

/** What has been done on the bench, for the ranking. */
function benchOf(facts: JobFacts, population: Population): Bench {
  const { readings, mended } = facts;
  const now = sinceCharge(readings).filter((reading) => isSince(reading, mended));
  const charged = now.some((reading) => reading.charged);
  const done = new Set<string>();
  for (const reading of now) {
    const taken = lookOfReading(reading, population.sheet);
    if (!taken) continue;
    const { step, hot } = taken.look;
    for (const full of reading.charged ? [true, false] : [false]) done.add(lookOf(step, { hot, charged: full, mended }).key);
  }
  for (const key of facts.skipped) {
    const step: Step | undefined = stepFromKey(key);
    if (!step) continue;
    for (const full of [false, true]) for (const hot of [false, true]) done.add(lookOf(step, { hot, charged: full, mended }).key);
  }
  return {
    done,
    tests: new Set(readings.map(({ test }) => test as TestId)),
    charged,
    ...underWay(now, population.sheet),
    mended,
    prices: facts.prices,
    complaint: facts.history.complaint,
    ohmsResolution: facts.meter.ohmsResolution,
    tools: facts.tools,
    restHours: facts.restHours,
    spent: worked(now, facts.restHours, beginningOf(population.sheet)).hands,
    state: stateAfter(facts, now, beginningOf(population.sheet)),
  };
}

/** Volts under way from which a machine carries its loads, and those above which its unit holds nothing, on 12 V. */
const CARRIES = [13.4, 15.2] as const;

/** Whether charging volts were read at speed, all of them right; and whether one of them was seen to rise at all. */
function underWay(now: readonly Reading[], { systemVolts }: Population["sheet"]): Pick<Bench, "carries" | "rises"> {
  const volts = now.flatMap(({ test, rpm, value }) => (test === "charge.volts" && rpm !== "idle" && isNumber(value) ? [value / (systemVolts / 12)] : []));
  return { carries: volts.length > 0 && volts.every((at) => at >= CARRIES[0] && at <= CARRIES[1]), rises: volts.some((at) => at >= CARRIES[0]) };
}

/** How the machine stands: as the readings since the last repair left it. What was opened before it is open still. */
function stateAfter({ readings, restHours }: JobFacts, now: readonly Reading[], from: State): State {
  return { ...worked(now, restHours, from).state, open: worked(readings, restHours, from).state.open };
}
