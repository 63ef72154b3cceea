import type { TestId } from "../../procedure/catalogue";
import { testOf } from "../../procedure/catalogue";
import { type Move, movesTo, perishes, type State, timeOf } from "../../procedure/moves";
import type { Step } from "../../procedure/step";
import { type Look, visitOf } from "../population/look";
import type { Posterior } from "../posterior/posterior";
import { type Askable, candidates } from "./candidates";
import { MONEY_A_BIT, type Prices } from "./prices";
import { type Turn, Weighing } from "./weighing";

/** State of the job as planning needs it. */
export interface Bench extends Askable {
  /** How the machine stands now. */
  state: State;
  prices: Prices;
  ohmsResolution: number;
  /** The school's rest, h. */
  restHours: number;
  /** What the owner says. */
  complaint: readonly string[];
  /** Charging volts were seen to rise under way: whatever else, the generator gives. */
  rises: boolean;
  /** Hands-on minutes that the search has taken so far, since the last repair where there was one. */
  spent: number;
}

/**
 * Why a reading is due whatever it is worth: it was read before and everything hangs on it; all volts seem off alike, and another meter
 * tells; the battery is drained past empty, and charged before anything else is judged; the battery would be bought, and is given this
 * chance first; the machine would be handed back, and its owner complains of it, or it was not seen to do this yet; the unit would be
 * bought, and its generator was not seen to give anything yet, or on some of its pairs only; the loads would be searched for a draw, and
 * the unit was not parted from it yet; a stator or rotor would be bought, and its other pairs were not compared yet, or no winding was
 * measured; a part that would be bought may have taken its partner with it.
 */
export type DueFor = "again" | "second-meter" | "drained" | "recharged" | "complained" | "unseen" | "fed" | "drawn" | "compared" | "unmeasured" | "partner";

/** A reading worth taking, and what it is worth. */
export interface Suggestion {
  step: Step;
  look: Look;
  /** Minutes at the point. */
  minutes: number;
  /** What must be done with the machine first, from where the suggestion before this one leaves it. */
  moves: Move[];
  /** Hands-on and clock minutes of the moves. */
  hands: number;
  clock: number;
  /** Which stay of the plan it belongs to, 0 the first; readings of one stay are taken without moving the machine on. */
  stay: number;
  /** Bits about what must be mended. */
  gainBits: number;
  /** What it is worth in money: what deciding after it saves on average, and its bits. */
  gain: number;
  /** Whether it is worth its minutes, alone or with the others of its stay. */
  pays: boolean;
  /** The two sets it tells apart best. */
  splits: readonly [string, string] | undefined;
  /** The outcome that would turn the verdict, if one is likely enough. */
  turns: Turn | undefined;
  /** Why it is due whatever it is worth; undefined where it is worth its minutes. */
  due?: DueFor;
}

/**
 * Points of one visit tell partly the same; so do the visits of one stay. Many points that all tell whether a unit leaks are worth no
 * more than a few times what the visit tells by whether any of them is remarkable.
 */
const SHARED = { points: 0.7, most: 2.5, visits: 0.75 } as const;
/**
 * A reading is asked for while it is worth this share of its labour: what is learnt beside it, and by those after it, pays the rest. Of
 * a machine whose sheet leaves open how it is made a reading tells less than is hoped, and has to pay nearly all of it by itself.
 */
const WORTHWHILE = { whole: 0.78, open: 0.95 } as const;
/**
 * What so many minutes of readings did not settle, the next will hardly settle either, whatever the model hopes for: from here what a
 * reading has to be worth grows, to twice as much after so many minutes more. Nobody loses patience while nothing leads: all of that
 * holds once one set has odds of `full`, and none of it below `none`.
 */
const PATIENCE = { from: 8, twice: 8.5, none: 0.2, full: 0.7 } as const;
/** A point of a visit is counted with it from this share of the best one's worth. */
const TELLING = 0.4;
/** Moves count so many times over: what was parted has to be joined again, and every start is one more. */
const MOVING = 2;
/** A start counts for so many minutes more than its own: fumes, noise, heat, and somebody at the throttle. */
const STARTING = 1.5;
/** A minute on the clock against one of hands: the bay is taken, the mechanic is not. What takes the night, or a day, stands aside for it: so many minutes count at most. */
const WAITING = { share: 0.05, most: 120 } as const;
/**
 * What is lost with rest, or with the first run, counts for so many minutes (after a run, for so many times what it would tell at most); so does a plug that is parted before charging volts were
 * read: whoever begins there has to join it again, and often need not have come. So do windings run hot before their cold ohms were
 * read, where those pay and nobody complains of a warm machine: they are cold again tomorrow.
 */
const LOST = { rest: 40, run: 12, over: 2, unproven: 25, cold: 20 } as const;
/** While the engine runs where the mechanic stands a reading has to be worth only this share of its minutes: whoever comes back for it starts once more. */
const RUNNING_ON = 0.5;
/** Coming back to a stay costs so many minutes, which count over; what tells less than this share of what another stay tells a minute is dwarfed by it. */
const COMING_BACK = { minutes: 4, dwarfed: 0.4 } as const;
/** What splits the sets is worked out for the best few, which are shown. */
const SHOWN = 8;
/** Stays that are laid out ahead, and readings of the stays after the first. */
const AHEAD = { stays: 3, readings: 3 } as const;

interface Weighed {
  look: Look;
  bits: number;
  gain: number;
  turns: Turn | undefined;
}

/** The points of one test in one state of the machine. */
interface Visit {
  looks: Weighed[];
  gain: number;
  minutes: number;
}

/** The readings that can be taken without moving the machine on: one engine, key, set of parted plugs, heat and charge. */
interface Stay {
  visits: Visit[];
}

const standOf = ({ step, hot, charged }: Look): string => {
  const { setUp } = testOf(step.test);
  return [
    setUp.engine === "running" ? "running" : "stopped",
    setUp.key === "on" || setUp.engine === "cranking",
    [...setUp.unplug].sort().join(),
    hot,
    charged,
  ].join("|");
};

/**
 * The plan: where to stand, what to read there in which order, and where to go after that. Stays are ranked, not readings: what
 * the readings of a stay are worth together against the moves to get there and their own minutes.
 * @param setOf index of each particle's set among `sets`
 */
export function plan(posterior: Posterior, sets: readonly string[], setOf: Int32Array, bench: Bench): Suggestion[] {
  const weighing = new Weighing(posterior, sets, setOf, bench);
  const unremarkable = new Map<string, Float64Array>();
  const weighed = candidates(posterior.population, bench).map((look): Weighed => {
    const { bits, worth, turns } = weighing.value(look);
    weighing.narrow(unremarkable, look);
    return { look, bits, gain: worth + MONEY_A_BIT * bits, turns };
  });
  const stays = staysOf(weighed, (visit) => weighing.together(unremarkable.get(visit)));
  const suggestions = laidOut(stays, bench, labourOf(bench, Math.max(...weighing.odds.values()), posterior.population.builds.length > 1));
  for (const suggestion of suggestions.slice(0, SHOWN)) suggestion.splits = weighing.splits(suggestion.look);
  return suggestions;
}

/** @param together what a visit is worth if all that is told of it is whether any of its points is remarkable */
function staysOf(weighed: readonly Weighed[], together: (visit: string) => number): Stay[] {
  const visits = new Map<string, Weighed[]>();
  for (const candidate of weighed) {
    const name = visitOf(candidate.look);
    visits.set(name, [...(visits.get(name) ?? []), candidate]);
  }
  const stays = new Map<string, Stay>();
  for (const [name, looks] of visits) {
    looks.sort((a, b) => b.gain - a.gain);
    const [first] = looks as [Weighed];
    const points = SHARED.points * looks.reduce((sum, { gain }) => sum + gain, 0);
    const joint = looks.length > 1 ? Math.max(together(name), first.gain) : first.gain;
    const gain = Math.max(joint, Math.min(points, SHARED.most * joint));
    // Points that tell next to nothing beside the best of their visit are read only by who wants to; the best takes its minutes even where it tells nothing.
    const telling = Math.max(1, looks.filter((look) => look.gain > TELLING * first.gain).length);
    const minutes = telling * testOf(first.look.step.test).minutes;
    const stand = standOf(first.look);
    const stay = stays.get(stand) ?? { visits: [] };
    stays.set(stand, stay);
    stay.visits.push({ looks, gain, minutes });
  }
  return [...stays.values()];
}

/** A stay as it would be worked from a state: its visits in order, what it is worth a minute, and whether it pays. */
interface Worked {
  /** With the minutes that each takes for itself. */
  visits: { visit: Visit; own: number; pays: boolean }[];
  rate: number;
  pays: boolean;
  /** The machine stands so already. */
  here: boolean;
}

/** Minutes that moves count for, in hands. */
export const weightOf = (moves: readonly Move[]): number => {
  const { hands, clock } = timeOf(moves);
  const starts = moves.filter(({ id }) => id === "start").length;
  return MOVING * hands + STARTING * starts + WAITING.share * Math.min(WAITING.most, Math.max(0, clock - hands));
};

/** Moves that one reading needs for itself, however the machine stands: a place opened, a crank, another dial. */
const OWN: readonly Move["id"][] = ["open", "crank", "dial"];

/** A minute of hands, in money: what it costs, and what a reading has to be worth to be asked for. */
interface Labour {
  cost: number;
  due: number;
}

/**
 * What a minute of hands costs, and what a reading has to be worth for it, both in money.
 * @param leading the odds of the likeliest set @param open whether the sheet leaves open how the machine is made
 */
export function labourOf({ prices, spent }: Bench, leading: number, open: boolean): Labour {
  const lost = Math.min(1, Math.max(0, (leading - PATIENCE.none) / (PATIENCE.full - PATIENCE.none)));
  const cost = (prices.labourPerHour / 60) * (1 + (lost * Math.max(0, spent - PATIENCE.from)) / PATIENCE.twice);
  return { cost, due: (open ? WORTHWHILE.open : WORTHWHILE.whole) * cost };
}

function work(stay: Stay, from: State, bench: Bench, labour: Labour, lost: number): Worked {
  const priced = stay.visits.map((visit) => {
    const { moves } = movesOf((visit.looks[0] as Weighed).look, from, bench);
    const own = moves.filter(({ id }) => OWN.includes(id));
    const cranks = testOf((visit.looks[0] as Weighed).look.step.test).setUp.engine === "cranking" ? visit.looks.length - 1 : 0;
    return { visit, own: weightOf(own) / MOVING + visit.minutes + cranks, way: moves.filter(({ id }) => !OWN.includes(id)) };
  });
  const way = Math.min(...priced.map((visit) => weightOf(visit.way)));
  const base = way + lost;
  const here = base === 0;
  const due = labour.due * (here && from.engine === "running" ? RUNNING_ON : 1);
  priced.sort((a, b) => b.visit.gain / b.own - a.visit.gain / a.own);
  let [gain, minutes, rate, pays] = [0, base, 0, false];
  priced.forEach(({ visit, own }, k) => {
    gain += SHARED.visits ** k * visit.gain;
    minutes += own;
    rate = Math.max(rate, gain / minutes);
    // To pay, it has to be worth its real minutes; moves counted over only decide between stays.
    pays ||= gain > due * (minutes - base + way / MOVING);
  });
  const visits = priced.map(({ visit, own }) => ({ visit, own, pays: visit.gain > due * own }));
  // What only a rested battery shows is read before anything else of the stay: hands that wander turn keys.
  visits.sort((a, b) => Number(isOfRest(b)) - Number(isOfRest(a)));
  return { visits, rate, pays, here };
}

/**
 * Whether something that pays is left to read where the machine stands: nobody walks away from that, to come back for it. What takes
 * longer than coming back would waits where another stay tells far more a minute: after that it is often not wanted any more.
 * @param elsewhere the best rate of the other stays that pay
 */
const holds = ({ here, visits }: Worked, elsewhere: number): boolean =>
  here && visits.some(({ visit, own, pays }) => pays && (own <= COMING_BACK.minutes || visit.gain / own >= COMING_BACK.dwarfed * elsewhere));

const isOfRest = ({ visit, pays }: Worked["visits"][number]): boolean => pays && perishes((visit.looks[0] as Weighed).look.step.test) === "rest";

const movesOf = (look: Look, from: State, { restHours }: Bench) => movesTo(look.step, { hot: look.hot, charged: look.charged }, from, restHours);

/** Whether a visit puts ohms to a winding as it lies, or to its way to the case: what heat changes. */
function isColdWinding({ looks }: Visit): boolean {
  const { step, hot } = (looks[0] as Weighed).look;
  const { group, unit } = testOf(step.test);
  return !hot && group === "stator" && unit === "Ω";
}

/**
 * What is lost on the way to a stay: readings not yet taken that only the present state allows, min. A battery that has not been
 * proved makes every later figure doubtful, so while its rest volts are worth reading nothing else is turned to.
 */
function lostBy(stay: Stay, stays: readonly Stay[], from: State, bench: Bench, labour: Labour): number {
  const first = (stay.visits[0] as Visit).looks[0] as Weighed;
  const { state, moves } = movesOf(first.look, from, bench);
  const has = (stay: Stay, test: TestId): boolean => stay.visits.some(({ looks }) => (looks[0] as Weighed).look.step.test === test);
  // What is parted already is not parted for this: whoever stands there reads on.
  const parts = moves.some(({ id }) => id === "part" || id === "ammeter-in");
  let lost = parts && !bench.tests.has("charge.volts") && stays.some((other) => has(other, "charge.volts")) ? LOST.unproven : 0;
  // It charges, and goes flat all the same: the draw is read with everything joined, before any plug is parted.
  if (parts && bench.carries && !has(stay, "drain.current") && stays.some((other) => has(other, "drain.current"))) lost += LOST.unproven;
  const heats = moves.some(({ id }) => id === "warm") && !bench.complaint.includes("when-warm");
  if (heats && stays.some(({ visits }) => visits.some((visit) => isColdWinding(visit) && visit.gain > labour.due * visit.minutes))) lost += LOST.cold;
  for (const { visits } of stays) {
    for (const visit of visits) {
      const { look } = visit.looks[0] as Weighed;
      const how = perishes(look.step.test);
      if (!how || look.charged !== from.charged || stay.visits.includes(visit)) continue;
      const loses = how === "rest" ? from.rested : !from.run && state.run;
      // What a run spoils is worth little more than it tells; without rest volts every later figure is doubtful.
      if (loses && visit.gain > labour.due * visit.minutes) lost += how === "rest" ? LOST.rest : Math.min(LOST.run, (LOST.over * visit.gain) / labour.cost);
    }
  }
  return lost;
}

/** Lays the best stay out, then the best from where that leaves the machine, and so on. */
function laidOut(stays: readonly Stay[], bench: Bench, labour: Labour): Suggestion[] {
  const suggestions: Suggestion[] = [];
  let { state } = bench;
  let left = stays.filter(({ visits }) => visits.length > 0);
  for (let n = 0; left.length > 0; n++) {
    const ranked = left
      // A battery that has just been charged by the engine is not asked for its rest volts: they would be no such thing.
      .filter((stay) => stay.visits.some(({ looks }) => !isSpoilt((looks[0] as Weighed).look, state)))
      .map((stay) => {
        const fresh = { visits: stay.visits.filter(({ looks }) => !isSpoilt((looks[0] as Weighed).look, state)) };
        return { stay, worked: work(fresh, state, bench, labour, lostBy(fresh, left, state, bench, labour)) };
      })
      .sort((a, b) => Number(b.worked.pays) - Number(a.worked.pays) || b.worked.rate - a.worked.rate);
    const present = ranked.findIndex(({ worked }) => worked.here);
    const elsewhere = ranked.find(({ worked }, k) => worked.pays && k !== present)?.worked.rate ?? 0;
    const best = ranked[present]?.worked.pays && holds((ranked[present] as (typeof ranked)[number]).worked, elsewhere) ? ranked[present] : ranked[0];
    if (!best) break;
    let taken = 0;
    for (const { visit, pays } of best.worked.visits) {
      for (const { look, bits, gain, turns } of visit.looks) {
        if (n > 0 && taken >= AHEAD.readings) break;
        const { moves, state: then } = movesOf(look, state, bench);
        const { hands, clock } = timeOf(moves);
        const { minutes } = testOf(look.step.test);
        suggestions.push({
          step: look.step,
          look,
          minutes,
          moves,
          hands,
          clock,
          stay: n,
          gainBits: bits,
          gain,
          pays: best.worked.pays && (pays || taken === 0),
          splits: undefined,
          turns,
        });
        state = then;
        taken++;
      }
    }
    left = left.filter((stay) => stay !== best.stay);
    if (n + 1 >= AHEAD.stays) break;
  }
  return suggestions;
}

/** The bench as the moves to a look leave it. */
export function movedTo(look: Look, bench: Bench): Bench {
  const { state } = movesOf(look, bench.state, bench);
  return { ...bench, state, charged: bench.charged || look.charged };
}

/** Some looks laid out as one stand after another, in the order given: what a proof asks for whatever it may tell. */
export function inOrder(looks: readonly Look[], bench: Bench): Suggestion[] {
  let { state } = bench;
  let stay = -1;
  return looks.map((look): Suggestion => {
    const { moves, state: then } = movesOf(look, state, bench);
    const { hands, clock } = timeOf(moves);
    if (stay < 0 || moves.some(({ id }) => !OWN.includes(id))) stay++;
    state = then;
    const { minutes } = testOf(look.step.test);
    return { step: look.step, look, minutes, moves, hands, clock, stay, gainBits: 0, gain: 0, pays: true, splits: undefined, turns: undefined };
  });
}

/** True for a look that the machine's present state no longer allows. */
export function isSpoilt({ step, charged }: Pick<Look, "step" | "charged">, state: State): boolean {
  const how = perishes(step.test as TestId);
  if (charged && !state.charged) return false;
  return how === "rest" && !state.rested && (state.run || !state.charged);
}
