import { groupAlike, leadsOf } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import type { FaultId } from "../../machine/faults";
import type { Part } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import { type TestId, testOf } from "../../procedure/catalogue";
import { isTaken, type Reading, type Step, stepKey } from "../../procedure/step";
import { modelVariance, noiseOf, offScale } from "../population/gauges";
import { type Look, lookOf, mindsCharge, visitOf } from "../population/look";
import type { Population } from "../population/population";
import type { Observation, Posterior } from "../posterior/posterior";
import { isWhole, remediesOf, setOf } from "../remedies";
import { candidates } from "./candidates";
import { type Bench, inOrder, type Suggestion, weightOf } from "./plan";
import { lossOf, type Prices } from "./prices";

/** What is asked for beside what ranks by its worth: one reading once more, a charge before a battery, a loose part's chart, a repair's proof. */

/**
 * The reading on which everything hangs: one that was taken once and that all that speaks against the decision holds for a misread, if
 * what a wrong decision loses is worth the minutes of taking it again.
 */
export function hangsOn(
  {
    posterior,
    sets,
    indexOf,
    searching,
    decided,
  }: { posterior: Posterior; sets: readonly string[]; indexOf: Int32Array; searching: readonly number[]; decided: number },
  prices: Prices,
  bench: Bench,
  isGone: (doubt: { reading: number; odds: number }) => boolean,
): Suggestion | undefined {
  const rival = searching.reduce((most, odds, s) => (s !== decided && odds > ((searching[most] as number) ?? -1) ? s : most), -1);
  const loss = rival < 0 ? 0 : lossOf(sets[decided] as string, sets[rival] as string, prices);
  let [best, most]: [Suggestion | undefined, number] = [undefined, 0];
  posterior.observations.forEach(({ look, reading, word }, j) => {
    if (word >= 0 || look.mended.join() !== bench.mended.join() || isGone({ reading, odds: 0 })) return;
    if (posterior.observations.filter((other) => isSame(other.look, look)).length > 1) return;
    const [suggestion] = inOrder([look], bench) as [Suggestion];
    // For one reading no engine is started again: what runs there tells in one go.
    if (suggestion.moves.some(({ id }) => id === "start")) return;
    const gain = loss * posterior.misreadAmong(j, (i) => indexOf[i] !== decided);
    const worth = gain - ((suggestion.minutes + weightOf(suggestion.moves)) * prices.labourPerHour) / 60;
    if (worth > most) [best, most] = [{ ...suggestion, gain, due: "again" }, worth];
  });
  return best;
}

/** The first of some readings that cannot be believed, asked for once more unless one was already: what a meter slipped on is not searched for in the machine. */
export function onceMore([first, ...more]: readonly Observation[], { observations }: Posterior, bench: Bench): Suggestion | undefined {
  const isTwice = ({ look }: Observation): boolean => observations.filter((other) => isSame(other.look, look)).length > 1;
  if (!first || [first, ...more].some(isTwice)) return undefined;
  const [once] = inOrder([first.look], bench) as [Suggestion];
  return { ...once, due: "again" };
}

/** The meter is doubted from these odds of all volts off, or where it seems to read them so many standard deviations too high or low. */
const METER_OFF = { odds: 0.5, gain: 2.5 } as const;

/**
 * Where all volts are likely off alike, the one of them that is taken soonest, for the shop's second meter. Nothing where the shop has
 * none, or where one was read twice already.
 */
export function onAnotherMeter(posterior: Posterior, bench: Bench, isGone: (doubt: { reading: number; odds: number }) => boolean): Suggestion | undefined {
  const { observations } = posterior;
  const meter = posterior.visits.at(-1);
  if (!bench.tools.includes("second-meter") || !meter) return undefined;
  if (meter.spoilt < METER_OFF.odds && Math.abs(posterior.meterGain()) < METER_OFF.gain) return undefined;
  const volts = meter.members.map((j) => observations[j] as Observation);
  if (volts.some(({ look }) => observations.filter((other) => isSame(other.look, look)).length > 1)) return undefined;
  const left = volts.filter(({ look, reading }) => look.mended.join() === bench.mended.join() && !isGone({ reading, odds: 0 }));
  const labour = ({ minutes, moves }: Suggestion): number => minutes + weightOf(moves);
  const [soonest] = left.flatMap(({ look }) => inOrder([look], bench)).sort((a, b) => labour(a) - labour(b));
  return soonest && { ...soonest, due: "second-meter" };
}

/** The same reading of the same machine, whatever its battery holds by now: taken once more it is not asked for a third time. */
const isSame = (look: Look, other: Look): boolean =>
  stepKey(look.step) === stepKey(other.step) && look.hot === other.hot && look.mended.join() === other.mended.join();

/** Odds from which a battery has failed whatever a charge would show, unless it cranked its engine at so many volts, on 12 V. */
const SURE = 0.97;
const CRANKS_WELL = 9.8;

/**
 * Before a battery is bought it is charged and cranked again, unless it is sure that it has failed: one that was only flat looks like a
 * worn one, and so does one behind a starter that nobody knows. One that cranked well is never sure: what speaks against it speaks of
 * its charge as well. Nothing where that was read, or skipped, already.
 */
export function beforeBattery(
  sets: readonly string[],
  odds: readonly number[],
  decided: number,
  { population, observations }: Posterior,
  bench: Bench,
): Suggestion[] {
  if (!remediesOf(sets[decided] as string).includes("battery")) return [];
  const battery = sets.reduce((sum, set, s) => sum + (remediesOf(set).includes("battery") ? (odds[s] as number) : 0), 0);
  const cranksWell = observations.some(
    ({ look: { step }, at }) => step.test === "battery.crank" && offScale("battery.crank", at) >= CRANKS_WELL * (population.sheet.systemVolts / 12),
  );
  if (battery >= SURE && !cranksWell) return [];
  return afterCharge(bench.charged ? ["battery.crank"] : ["battery.rest", "battery.crank"], population, bench).map((suggestion) => ({
    ...suggestion,
    due: "recharged",
  }));
}

/** Odds from which a unit has failed whatever its generator gives. */
const SURE_UNIT = 0.96;

/**
 * Before a unit is bought its generator's AC is read, unless the volts were seen to rise or nothing else is left that could have failed:
 * a unit that is given nothing makes nothing of it. Nothing where AC was read, or skipped, already, and for machines that have none.
 */
export function beforeUnit(sets: readonly string[], odds: readonly number[], decided: number, population: Population, bench: Bench): Suggestion[] {
  const has = (set: string): boolean => remediesOf(set).includes("regulator");
  if (!has(sets[decided] as string) || bench.rises || bench.tests.has("stator.acVolts")) return [];
  const unit = sets.reduce((sum, set, s) => sum + (has(set) ? (odds[s] as number) : 0), 0);
  if (unit >= SURE_UNIT) return [];
  const { testRpm } = population.sheet;
  const looks = candidates(population, bench).filter(({ step, hot }) => step.test === "stator.acVolts" && step.rpm === testRpm && !hot);
  return inOrder(looks.slice(0, 1), bench).map((suggestion) => ({ ...suggestion, due: "fed" }));
}

/** Odds from which a draw is the loads' own whatever the unit does. */
const SURE_DRAW = 0.96;

/**
 * Before the loads are searched for what draws, the unit is unplugged with the meter still in: a draw that goes with it was the unit's.
 * Nothing where that was read, or skipped, where no draw was read, and for machines whose unit no current can go back through.
 * @param fault the likeliest behind the decided set: loads that are only too many for the generator draw nothing at rest
 */
export function beforeLoads(odds: number, fault: FaultId | undefined, population: Population, bench: Bench): Suggestion[] {
  if (fault !== "loads.parasitic" || odds >= SURE_DRAW || !bench.tests.has("drain.current")) return [];
  const looks = candidates(population, bench).filter(({ step }) => step.test === "drain.unitUnplugged");
  return inOrder(looks, bench).map((suggestion) => ({ ...suggestion, due: "drawn" }));
}

/** Odds from which a stator or a rotor has failed whatever its other pairs show. */
const SURE_WINDING = 0.96;
/** Readings by which windings are told apart: each is judged by the others of its kind. */
const COMPARED: readonly TestId[] = ["stator.acVolts", "stator.acVoltsAtUnit", "stator.resistance"];

/**
 * Before a stator or a rotor is bought its generator's AC is read: volts at the battery and what the unit's ways show speak of windings
 * by leaving the rest out. Nothing where a winding was measured in any way, touches the case, or where AC was skipped, and for
 * generators with a field, whose own readings tell.
 */
function unmeasured({ population, observations }: Posterior, bench: Bench): Suggestion[] {
  const { sheet } = population;
  const isMeasured = observations.some(({ look: { step }, open }) => COMPARED.includes(step.test) || (step.test === "stator.toGround" && !open));
  if (isMeasured || familyOf(sheet.family).field) return [];
  const looks = candidates(population, bench).filter(({ step, hot }) => step.test === "stator.acVolts" && step.rpm === sheet.testRpm && !hot);
  return inOrder(looks.slice(0, 1), bench).map((suggestion) => ({ ...suggestion, due: "unmeasured" }));
}

/**
 * Before a stator or a rotor is bought the windings are compared: of readings that were begun on one pair those that are wound alike are
 * read as well. One low is the stator, all of them alike rather the rotor. Nothing where that was read, or skipped, or where the engine
 * would have to be started again for it. Where none was begun the first is: {@link unmeasured}. Before a unit alone is bought as much is
 * read where the probes are at it already: a pair that lies low speaks of a winding that the unit's fault hides, and that a new unit hides again.
 */
export function beforeWindings(sets: readonly string[], odds: readonly number[], decided: number, posterior: Posterior, bench: Bench): Suggestion[] {
  const due = remediesOf(sets[decided] as string);
  const isOfWindings = due.includes("stator") || due.includes("rotor");
  if ((!isOfWindings && !due.includes("regulator")) || (odds[decided] as number) >= SURE_WINDING) return [];
  const { sheet } = posterior.population;
  const groups = familyOf(sheet.family).agree(leadsOf(sheet));
  /** Readings of one test on pairs that are wound alike have one name, others none. */
  const comparisonOf = ({ step: { test, at } }: Look): string | undefined => {
    const group = groupAlike(groups, at);
    return group < 0 || !COMPARED.includes(test) ? undefined : `${test} ${group}`;
  };
  // Begun at several speeds, one of them is read to its end: where most was read, and of as much the faster.
  const begun = new Map<string, { visit: string; read: number }>();
  const read = posterior.observations.filter(({ look }) => look.mended.join() === bench.mended.join()).map(({ look }) => look);
  for (const look of read) {
    const comparison = comparisonOf(look);
    if (comparison === undefined) continue;
    const visit = visitOf(look);
    const most = begun.get(comparison)?.read ?? 0;
    const count = read.filter((other) => visitOf(other) === visit && comparisonOf(other) === comparison).length;
    if (count > most || (count === most && look.step.rpm === sheet.testRpm)) begun.set(comparison, { visit, read: count });
  }
  const isHere = ({ step }: Look): boolean => bench.state.engine === "running" || testOf(step.test).setUp.engine !== "running";
  const looks = candidates(posterior.population, bench).filter((look) => {
    const comparison = comparisonOf(look);
    return comparison !== undefined && begun.get(comparison)?.visit === visitOf(look) && isHere(look);
  });
  if (looks.length === 0) return isOfWindings ? unmeasured(posterior, bench) : [];
  const isAtHand = (look: Look): boolean => inOrder([look], bench).every(({ moves }) => moves.every(({ id }) => id === "dial"));
  return inOrder(isOfWindings ? looks : looks.filter(isAtHand), bench).map((suggestion) => ({ ...suggestion, due: "compared" }));
}

/**
 * What takes the other with it, the readings by which that shows with the plugs parted and the engine at rest, and the share of such
 * faults which the proof of the mended machine would not show: a unit has volts to spare, a stator that failed is seen there more often.
 */
const PARTNERS: readonly { bought: Part; partner: Part; tests: readonly TestId[]; unproven: number }[] = [
  { bought: "stator", partner: "regulator", tests: ["regulator.diode"], unproven: 0.65 },
  { bought: "regulator", partner: "stator", tests: ["stator.toGround", "stator.resistance"], unproven: 0.45 },
];
/** A figure so many standard deviations from what a machine shows whose partner is whole gives the partner away. */
const GIVEN_AWAY = 3;

/**
 * The share of some machines of which one of some looks would show that their partner failed: the open line where others have a figure,
 * or the reverse, or a figure far from theirs.
 * @param isPartnerWhole by particle: whether it is one of those with which they are compared
 */
function shareShown(
  looks: readonly Look[],
  { population, weights }: Posterior,
  isAmong: (i: number) => boolean,
  isPartnerWhole: (i: number) => boolean,
  ohmsResolution: number,
): number {
  const of = (is: (i: number) => boolean): number[] => Array.from(weights.keys()).filter((i) => (weights[i] as number) > 0 && is(i));
  const [among, whole] = [of(isAmong), of(isPartnerWhole)];
  const massOf = (members: readonly number[], share: (i: number) => number = () => 1): number =>
    members.reduce((sum, i) => sum + (weights[i] as number) * share(i), 0);
  const shown = new Set<number>();
  for (const look of looks) {
    const { open, at } = population.column(look);
    const conducts = (i: number): number => 1 - (open[i] as number);
    const figured = massOf(whole, conducts);
    const usual = massOf(whole, (i) => conducts(i) * (at[i] as number)) / figured;
    const variance = massOf(whole, (i) => conducts(i) * ((at[i] as number) - usual) ** 2) / figured;
    const far = GIVEN_AWAY * Math.sqrt(variance + modelVariance(look.step, "no") + noiseOf(look.step.test, usual, ohmsResolution) ** 2);
    const mostOpen = figured < massOf(whole) / 2;
    for (const i of among) if (conducts(i) < 0.5 !== mostOpen || (!mostOpen && Math.abs((at[i] as number) - usual) > far)) shown.add(i);
  }
  return massOf(among) > 0 ? massOf([...shown]) / massOf(among) : 0;
}

/**
 * A stator that burned may have taken its unit with it, and the reverse: before the one is bought the other is read where no engine has
 * to be started for it and what is lost by leaving it in is worth the minutes. A machine that is mended by half charges all the same as
 * long as its unit has volts to spare, and comes back. Nothing where both are to be bought, or that was read, or skipped.
 */
export function beforePartner(
  { sets, odds, decided, indexOf }: { sets: readonly string[]; odds: readonly number[]; decided: number; indexOf: Int32Array },
  posterior: Posterior,
  bench: Bench,
): Suggestion[] {
  const { population } = posterior;
  const due = remediesOf(sets[decided] as string);
  const ways = familyOf(population.sheet.family).ways(leadsOf(population.sheet));
  const [wire] = leadsOf(population.sheet);
  // The way a diode lets current through shows it open and shorted alike; of windings that hang together one wire shows a touch.
  const isTelling = ({ test, at = "" }: Step): boolean =>
    test === "regulator.diode" ? ways.includes(at) : test !== "stator.toGround" || (at === wire && !bench.tests.has(test));
  return PARTNERS.flatMap(({ bought, partner, tests, unproven }) => {
    if (!due.includes(bought) || due.includes(partner)) return [];
    const both = setOf([...due, partner]);
    const hasBoth = sets.map((set) => [...due, partner].every((remedy) => remediesOf(set).includes(remedy)));
    const beside = odds.reduce((sum, share, s) => (hasBoth[s] ? sum + share : sum), 0);
    // What the proof leaves unseen is worth reading as far as these readings show it: all of them, or those of one test where more would not pay.
    const most = unproven * beside * lossOf(sets[decided] as string, both, bench.prices);
    const readable = candidates(population, bench).filter(({ step, hot }) => tests.includes(step.test) && !hot && isTelling(step));
    let best: { asked: readonly Suggestion[]; worth: number } = { asked: [], worth: 0 };
    for (const some of [tests, ...(tests.length > 1 ? tests.map((test) => [test]) : [])]) {
      const asked = inOrder(
        readable.filter(({ step }) => some.includes(step.test)),
        bench,
      );
      const minutes = asked.reduce((sum, suggestion) => sum + suggestion.minutes + suggestion.hands, 0);
      const cost = (minutes * bench.prices.labourPerHour) / 60;
      if (most - cost <= best.worth) continue;
      const shown = shareShown(
        asked.map(({ look }) => look),
        posterior,
        (i) => hasBoth[indexOf[i] as number] === true,
        (i) => indexOf[i] === decided,
        bench.ohmsResolution,
      );
      if (most * shown - cost > best.worth) best = { asked, worth: most * shown - cost };
    }
    return best.asked.map((suggestion): Suggestion => ({ ...suggestion, due: "partner" }));
  });
}

/**
 * A battery that came in drained is charged before anything else is asked for: it holds no volts by which anything could be judged, and
 * whether it is any good shows once it is full.
 */
export function refill(population: Population, bench: Bench): Suggestion[] {
  return afterCharge(["battery.rest", "battery.crank"], population, bench).map((suggestion) => ({ ...suggestion, due: "drained" }));
}

/** What a machine is seen to do before it is handed back with nothing mended: it cranks, and its volts rise under way. */
const SEEN: readonly TestId[] = ["battery.crank", "charge.volts"];
/** What eyes and fingers find in a minute is looked at as well: posts, and the plug of the generator. */
const LOOKED_AT: readonly Pick<Step, "test" | "at">[] = [{ test: "inspect.terminals" }, { test: "inspect.connector", at: "stator" }];
/** What is read in one run where the machine may well have failed: volts by speed and load, and what both ways to the battery keep for themselves. */
const UNDER_WAY: readonly { test: TestId; rpm?: "idle"; loads?: Step["loads"] }[] = [
  { test: "charge.volts", loads: "normal" },
  { test: "charge.volts", loads: "all" },
  { test: "charge.positiveDrop", loads: "normal" },
  { test: "charge.groundDrop", loads: "normal" },
  { test: "charge.volts", rpm: "idle", loads: "normal" },
];
/** Odds of needing no part below which a machine may well have failed. */
const SOUND = 0.6;
/** What an owner says that one reading looks for: warm machines are read warm, flat nights for a draw, boiled batteries where volts are highest. */
const COMPLAINED: Readonly<Record<string, { test: TestId; loads?: Step["loads"]; hot: boolean }>> = {
  "when-warm": { test: "charge.volts", loads: "normal", hot: true },
  "flat-overnight": { test: "drain.current", hot: false },
  "boiled-battery": { test: "charge.volts", loads: "off", hot: false },
  "lamps-burn-out": { test: "charge.volts", loads: "off", hot: false },
};

/** True for a look at what an owner complains of. */
function isComplained({ step: { test, rpm, loads }, hot }: Look, complaint: readonly string[], testRpm: number): boolean {
  return complaint.some((id) => {
    const wanted = COMPLAINED[id];
    return wanted !== undefined && wanted.test === test && wanted.loads === loads && wanted.hot === hot && (rpm === undefined || rpm === testRpm);
  });
}

/**
 * Nothing is called sound, or only flat, that was not seen to crank and to charge, nor looked at, nor read as its owner complains of it;
 * and while it may well have failed, not before one run has shown all that a run shows. Nothing where that was read, or skipped.
 * @param sound odds that no part has to be bought
 */
export function beforeHandedBack(decided: string, sound: number, population: Population, bench: Bench): Suggestion[] {
  if (!isWhole(decided) || bench.mended.length > 0) return [];
  const { testRpm } = population.sheet;
  const isWanted = ({ test, at, rpm, loads }: Step): boolean =>
    LOOKED_AT.some((look) => look.test === test && look.at === at) ||
    (SEEN.includes(test) && !bench.tests.has(test) && (rpm === undefined || (rpm === testRpm && loads === "normal"))) ||
    (sound < SOUND && UNDER_WAY.some((step) => step.test === test && (step.rpm ?? testRpm) === rpm && step.loads === loads));
  const isOwed = (look: Look): boolean => isComplained(look, bench.complaint, testRpm);
  const looks = candidates(population, bench).filter(
    (look) => ((isWanted(look.step) && !look.hot) || isOwed(look)) && look.charged === (bench.charged && mindsCharge(look.step.test)),
  );
  // An engine that runs is read before it is stopped, one that stands is looked at before it is started.
  const runs = ({ step }: Look): number => (testOf(step.test).setUp.engine === "running" ? 1 : 0);
  looks.sort((a, b) => (bench.state.engine === "running" ? runs(b) - runs(a) : runs(a) - runs(b)) || Number(a.hot) - Number(b.hot));
  return inOrder(looks, bench).map((suggestion) => ({ ...suggestion, due: isOwed(suggestion.look) ? "complained" : "unseen" }));
}

/** Tests of the battery after a full charge; without those that were read then, or skipped, or that a battery by itself does not have. */
function afterCharge(tests: readonly TestId[], population: Population, bench: Bench): Suggestion[] {
  const looks = candidates(population, { ...bench, charged: true }).filter(({ step, charged }) => charged && tests.includes(step.test));
  return inOrder(
    looks.sort((a, b) => tests.indexOf(a.step.test) - tests.indexOf(b.step.test)),
    bench,
  );
}

/** Odds from which the place of a loose part's fault is known. */
const PLACED = 0.85;

/**
 * What a part by itself is still read for once it is judged: whoever hands it back as good has read all of its points, and of a bad one
 * it is said where. A point takes seconds there.
 */
export function chartLeft(decided: string, places: readonly { odds: number }[], population: Population, bench: Bench): Suggestion[] {
  if (!population.sheet.loose) return [];
  const [first] = places;
  if (decided !== "" && (!first || first.odds >= PLACED)) return [];
  return inOrder(
    candidates(population, bench).filter(({ step, charged }) => testOf(step.test).points !== "none" && charged === bench.charged),
    bench,
  );
}

/** Readings that prove a repair, each at the machine's own speeds, in the order in which hands reach them: crank, then run. */
const PROOF: readonly { test: TestId; rpm?: "idle" | "test"; loads?: Step["loads"] }[] = [
  { test: "battery.crank" },
  { test: "charge.volts", rpm: "idle", loads: "normal" },
  { test: "charge.volts", rpm: "test", loads: "all" },
];

/** The proof readings still owed after a repair, as suggestions. */
export function proofLeft({ readings, mended }: { readings: readonly Reading[]; mended: readonly Part[] }, bench: Bench, sheet: Sheet): Suggestion[] {
  if (mended.length === 0) return [];
  const taken = readings.filter((reading) => isSince(reading, mended)).length;
  const proof = PROOF.filter(({ test }) => isTaken(testOf(test), sheet));
  const { testRpm } = sheet;
  if (taken >= proof.length) return [];
  const looks = proof.map(({ test, rpm, loads }) =>
    lookOf({ test, ...(rpm ? { rpm: rpm === "idle" ? "idle" : testRpm } : {}), ...(loads ? { loads } : {}) }, { mended }),
  );
  return inOrder(looks.filter(({ key }) => !bench.done.has(key)).slice(0, proof.length - taken), bench);
}

/** True for a reading of the machine as it stands now: taken with the same parts mended. */
export function isSince(reading: Reading, mended: readonly Part[]): boolean {
  return (reading.mended ?? []).join() === mended.join() && (reading.mended !== undefined || !reading.afterRepair);
}
