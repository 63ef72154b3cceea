import { accessOf, PLACES, type PlaceId } from "../../machine/access";
import { endsOf, leadsOf } from "../../machine/families/family";
import { familyOf, type Named, partNamesOf } from "../../machine/families/registry";
import { faultOf } from "../../machine/faults";
import type { Loose } from "../../machine/loose";
import type { Part } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import { testOf } from "../../procedure/catalogue";
import type { Move } from "../../procedure/moves";
import { diodeEnds, type Step, stepTitle, testTitle } from "../../procedure/step";
import { formatQuantity, type Unit } from "../../units";
import type { Advice } from "../advice";
import { BEYOND_THE_BENCH, looseVerdict } from "../loose";
import type { DueFor, Suggestion } from "../planning/plan";
import { PARTED_OHMS } from "../population/parted";
import { isWhole, type Remedy, remediesOf, setOf } from "../remedies";

/** Odds in the words a mechanic uses: "9 in 10, nearly sure". */
export function oddsWords(odds: number): string {
  if (odds >= 0.985) return "99 in 100, as good as sure";
  if (odds >= 0.93) return "19 in 20, nearly sure";
  if (odds >= LIKELY) return "9 in 10, likely";
  const tenths = Math.round(odds * 10);
  if (tenths >= 6) return `${tenths} in 10, probable`;
  if (tenths >= 3) return `${tenths} in 10, open`;
  if (odds >= 0.15) return `${tenths} in 10, unlikely`;
  if (odds >= 0.05) return `1 in ${odds >= 0.075 ? 10 : 20}, unlikely`;
  return odds >= 0.01 ? "1 in 50, hardly" : "next to none";
}

function remedyName(remedy: Remedy, names: Record<Part, string>): string {
  return remedy === "charge" ? "Battery, only flat" : names[remedy];
}

/** A set in words: "Stator and regulator/rectifier", "Nothing failed", "Only flat: charge it". */
export function setName(set: string, of: Named): string {
  if (set === "") return "Nothing failed";
  if (set === "charge") return "Battery, only flat: charge it";
  const names = partNamesOf(of);
  return remediesOf(set)
    .map((remedy, i) => (i === 0 ? remedyName(remedy, names) : lowerFirst(remedyName(remedy, names))))
    .join(" and ");
}

/** What a set is mended on: it says what its parts are called, and whether only one of them is here. */
type Mended = Pick<Advice, "family" | "battery" | "loose">;

const short = (set: string, of: Mended): string =>
  set === "" ? (of.loose ? "a good one" : "a sound machine") : set === "charge" ? "a battery that is only flat" : setName(set, of).toLowerCase();

/** What a reading tells apart; of two sets of which one is part of the other, whether the rest has failed as well. */
function splitWords([first, other]: NonNullable<Suggestion["splits"]>, of: Mended): string {
  const [few, many] = [remediesOf(first), remediesOf(other)].sort((a, b) => a.length - b.length) as [Remedy[], Remedy[]];
  const more = many.filter((remedy) => !few.includes(remedy));
  if (few.length === 0 || more.length === many.length || few.length + more.length > many.length) return `Splits ${short(first, of)} from ${short(other, of)}`;
  const alone = short(setOf(few), of);
  return `Splits ${alone} alone from ${alone} with ${short(setOf(more), of)}`;
}

/** Why a machine with nothing mended is not handed back before a step. */
function unseenWords({ test, rpm, loads }: Step): string {
  if (testOf(test).dial === "eyes") return "Nothing is handed back as sound whose plug and posts nobody looked at";
  if (test === "battery.crank" || (test === "charge.volts" && rpm !== "idle" && loads === "normal"))
    return "Nothing is handed back as sound that was not seen to crank and to charge";
  return "Nothing is handed back that may well have a fault which one run can still show";
}

/** Why windings that are wound alike are all read before one is bought. */
function comparedWords({ test }: Step): string {
  const alike =
    test === "stator.resistance" ? "ohms are judged by those of the others" : "one that is low is the stator, all of them low alike rather the rotor";
  return `Before anything is bought the pairs are compared: ${alike}`;
}

/** What is said of a reading that is due whatever it is worth. */
const DUE_WORDS: Record<DueFor, (suggestion: Suggestion, of: Mended) => string> = {
  again: () => "Everything hangs on this reading: take it once more",
  "second-meter": () => "All volts read so far seem off alike: the second meter tells whether it is the first one or the machine",
  drained: () => "A battery this low is drained past empty or has a dead cell, and hides what is behind it: charge it before anything else is judged",
  recharged: () => "Before the battery is bought: one that was only flat looks like a worn one",
  complained: () => "Nothing is handed back as sound before what its owner says of it was looked for",
  unseen: ({ look }) => unseenWords(look.step),
  fed: (_, of) => `Before the ${unitOf(of)} is bought: one that gets nothing from its generator makes nothing of it`,
  drawn: (_, of) => `Before the loads are searched: a draw that goes with the ${unitOf(of)} is its own`,
  compared: ({ look }) => comparedWords(look.step),
  unmeasured: () => "Nothing of a generator is bought whose AC nobody read: what has been read speaks of it by leaving the rest out",
  partner: ({ look }, of) => partnerWords(look.step, of),
};

const unitOf = (of: Mended): string => lowerFirst(partNamesOf(of).regulator);

/** Why the partner of a part is read before that is bought. */
function partnerWords({ test }: Step, of: Mended): string {
  const [unit, stator] = [unitOf(of), lowerFirst(partNamesOf(of).stator)];
  const [bought, taken] = test === "regulator.diode" ? [stator, unit] : [unit, stator];
  return `Before the ${bought} is bought: what burns it often takes the ${taken} with it`;
}

/** Why a reading is worth taking, in one sentence. */
export function reasonFor(suggestion: Suggestion, of: Mended): string {
  const { due, splits, minutes, hands, clock, look } = suggestion;
  const head = due ? DUE_WORDS[due](suggestion, of) : splits ? splitWords(splits, of) : "Makes what is known firmer";
  const waits = clock - hands >= 1 ? `, ${waitWords(clock - hands)} of waiting` : "";
  const time = `${formatNumber(minutes)} min${hands >= 0.5 ? ` and ${Math.round(hands)} to get there` : ""}${waits}`;
  const before = look.charged ? "; after a full charge" : look.hot ? "; with the engine hot" : "";
  return `${head}; ${time}${before}.`;
}

const formatNumber = (value: number): string => String(Number(value.toFixed(1)));

/** The outcome that would turn the verdict: "Diode 1 to B+ at the open line would turn it to regulator/rectifier." */
export function turnWords({ turns, step }: Suggestion, of: Mended): string | undefined {
  if (!turns) return undefined;
  const { unit } = testOf(step.test);
  const value =
    turns.word >= 0 ? testOf(step.test).choices?.[turns.word] : turns.open ? "the open line" : `about ${formatQuantity(turningFigure(step, turns.at), unit)}`;
  return `${stepTitle(step)} at ${value} would turn it to ${short(turns.to, of)}.`;
}

/** The figure at which a verdict turns; no volts but a generator's own are below nothing, though the spread of what is expected may reach there. */
function turningFigure({ test }: Step, figure: number): number {
  return rounded(testOf(test).unit === "V" && test !== "generator.output" ? Math.max(0, figure) : figure);
}

function rounded(value: number): number {
  const digits = Math.max(0, 1 - Math.floor(Math.log10(Math.max(1e-3, Math.abs(value)))));
  return Number(value.toFixed(Math.min(3, digits)));
}

/** What to do with the machine before the next reading, in the order in which hands do it; empty where it stands so already. */
export function moveWords(moves: readonly Move[], sheet: Pick<Sheet, "statorConnector" | "access">): string[] {
  const plug: Record<string, string> = { stator: sheet.statorConnector.name, unit: "the unit's plug on the legs", output: "the unit's output plug" };
  return moves.flatMap(({ id, what, clock }): string[] => {
    switch (id) {
      case "open":
        return [opening(what as PlaceId, sheet)];
      case "part":
        return [`Part ${plug[what ?? ""] ?? "the plug"}.`];
      case "join":
        return [`Join ${plug[what ?? ""] ?? "the plug"} again.`];
      case "start":
        return ["Start the engine and let it settle."];
      case "stop":
        return ["Stop the engine, key out."];
      case "warm":
        return ["Run it ten minutes, until everything is hot."];
      case "crank":
        return ["Disable starting by the maker's method before you crank; undo it afterwards."];
      case "ammeter-in":
        return ["Take the negative cable off, ammeter in series."];
      case "ammeter-out":
        return ["Take the ammeter out, negative cable back on."];
      case "rest":
        return [`Let the battery rest ${waitWords(clock)}.`];
      case "charge":
        return [`Charge the battery fully, about ${waitWords(clock)}.`];
      default:
        return [];
    }
  });
}

/** How to get at a place: what comes off and with which tools, where the sheet says. */
function opening(place: PlaceId, sheet: Pick<Sheet, "access">): string {
  const { steps, tools } = accessOf(sheet, place) ?? {};
  const how = [steps?.replace(/\.$/, ""), tools ? `tools: ${tools}` : ""].filter(Boolean).join("; ");
  return `Get to ${PLACES[place].title}${how ? `: ${how}` : ""}.`;
}

/** Minutes on the clock in words: "20 min", "4 h". */
export function waitWords(minutes: number): string {
  return minutes < 90 ? `${Math.round(minutes)} min` : `${Math.round(minutes / 60)} h`;
}

/** How the machine stands for a reading: "Engine off, key out", "Engine running, C2 parted". */
export function standWords({ look }: { look: Pick<Suggestion["look"], "step" | "hot" | "charged"> }, sheet: Pick<Sheet, "statorConnector" | "loose">): string {
  if (sheet.loose) return look.charged ? "On the bench, charged" : "On the bench";
  const { setUp } = testOf(look.step.test);
  const engine =
    setUp.engine === "running"
      ? "Engine running"
      : setUp.engine === "cranking"
        ? "Engine cranked, not started"
        : `Engine off, key ${setUp.key === "on" ? "on" : "out"}`;
  const names: Record<string, string> = { stator: sheet.statorConnector.name, unit: "unit's legs", output: "unit's output", negative: "negative cable" };
  const parted = setUp.unplug.map((connector) => names[connector]).join(" and ");
  return [
    engine,
    parted ? `${parted} ${setUp.unplug.includes("negative") && setUp.unplug.length === 1 ? "off" : "parted"}` : "",
    look.hot ? "hot" : "",
    look.charged ? "charged" : "",
  ]
    .filter(Boolean)
    .join(", ");
}

/** Where the likeliest fault sits, no finer than the readings know. */
export function whereWords(advice: Pick<Advice, "places" | "along" | "fault">, sheet: Pick<Sheet, "family" | "legs">): string | undefined {
  const { places, along, fault } = advice;
  const [first, second] = places;
  if (!fault || !first) return undefined;
  const name = placeName(first.what, sheet);
  if (first.odds < NAMED && second) {
    if (first.odds + second.odds >= NAMED) return `${name} or ${placeName(second.what, sheet)} (${oddsWords(first.odds).split(",")[0]} the first)`;
    const shared = places.slice(0, 3);
    if (shared.reduce((sum, { odds }) => sum + odds, 0) < NAMED) return "these readings do not tell where";
    return `${shared.map(({ what }) => placeName(what, sheet)).join(", ")}: not told apart`;
  }
  if (fault !== "stator.winding-grounded" || !along) return name;
  if (along.spread > COARSE) return `${name}; how far in cannot be said with this meter`;
  const tenths = Math.round(along.spread * 10);
  return `${name}, ${shareWords(along.at)} from the lead, give or take ${tenths > 1 ? `${tenths} tenths` : "a tenth"}`;
}

/** A place is named by itself, and two or three are named together, from these odds; beyond this spread its distance along the winding is not. */
const NAMED = 0.85;
const COARSE = 0.22;

function placeName(at: string, sheet: Pick<Sheet, "family" | "legs">): string {
  const wire = familyOf(sheet.family).ownNames ? "leg" : "wire";
  if (at.includes(">")) {
    const { half, lead } = endsOf(at);
    return `diode of ${wire} ${lead}, ${half} half`;
  }
  if (at.includes("-")) return `${wire}s ${at.replace("-", " and ")}`;
  if (at === "upper" || at === "lower") return `the ${at} half`;
  return leadsOf(sheet).includes(at) ? `${wire} ${at}` : `fuse ${at}`;
}

function shareWords(share: number): string {
  if (share < 0.12) return "right at the terminal";
  if (share < 0.29) return "about a quarter in";
  if (share < 0.42) return "about a third in";
  if (share < 0.58) return "about half way in";
  return share < 0.75 ? "about two thirds in" : "near the far end";
}

/** What is said of a doubtful reading, one of so many: by itself it goes with no machine. */
export function misfitWords(count: number): string {
  return count > 1 ? "does not go with the others" : "is not what such a machine shows";
}

/** What may lie behind readings that are off together, by what they share: "The three to B+ may share one bad contact: clean it and read one again." */
export function togetherWords(steps: readonly Pick<Step, "test" | "at">[]): string {
  const [first] = steps;
  if (!first) return "";
  if (steps.some(({ test }) => test !== first.test))
    return "All volts read so far seem off alike: prove the meter on a second one, or on a battery whose volts are known.";
  const count = ["", "", "two", "three", "four", "five", "six"][steps.length] ?? String(steps.length);
  const rail = ["B+", "B-"].find((pole) => steps.every(({ at }) => at?.includes(">") && Object.values(diodeEnds(at)).includes(pole)));
  if (rail) return `The ${count} to ${rail.replace("-", "−")} may share one bad contact: clean it and read one again.`;
  const name = lowerFirst(testTitle(testOf(first.test)));
  if (first.test === "stator.toGround") return `The ${count} legs to the case may share one bad contact at the case: clean it and read one again.`;
  if (testOf(first.test).points === "none") return `The ${count} of ${name} do not go with the rest: check dial and leads, then read one again.`;
  return `The ${count} of ${name} may all be off: check the dial, the side of the plug and the probe they share, then read one again.`;
}

/** The verdict with its fault and place, as a record keeps it: "Stator (19 in 20, nearly sure). Winding touches the core: leg 2." */
export function foundWords(advice: Advice, sheet: Pick<Sheet, "family" | "winding" | "legs">): string {
  return [headline(advice), faultWords(advice, sheet)].filter(Boolean).join(" ");
}

/** The likeliest fault, where it sits and how bad it is: "Ground touch: leg 2, about a third in, about 0.1 Ω." */
export function faultWords(advice: Advice, sheet: Pick<Sheet, "family" | "winding" | "legs">): string {
  if (!advice.fault) return "";
  const more = [whereWords(advice, sheet), sizeWords(advice)].filter(Boolean).join(", ");
  return `${faultOf(advice.fault).title}${more ? `: ${more}` : ""}.`;
}

/** Severities told in ohms or amps mean something at the meter; the others are shares of no measured thing. */
const MEASURED: readonly Unit[] = ["Ω", "mA", "A"];

/** How bad the likeliest fault is, as a range no finer than the readings know: "about 0.12 Ω", "0.1 to 0.4 Ω". */
export function sizeWords(advice: Advice): string | undefined {
  const { severity } = advice;
  const unit = MEASURED.find((measured) => measured === severity?.unit);
  if (!unit || !severity || severity.low <= 0) return undefined;
  if (severity.at >= PARTED_OHMS && unit === "Ω") return severity.low >= PARTED_OHMS ? "parted" : undefined;
  const [low, at, high] = [severity.low, severity.at, severity.high].map((value) => formatQuantity(rounded(value), unit));
  if (severity.high < 1.5 * severity.low) return `about ${at}`;
  return severity.high < 30 * severity.low ? `${low} to ${high}` : undefined;
}

/** Odds that are called likely. */
const LIKELY = 0.85;
/** Below these odds the likeliest of many is no leaning. */
const LEANING = 0.3;

/** Odds as a share in words, without the judgement: "3 in 10". */
const shareOf = (odds: number): string => oddsWords(odds).split(",")[0] ?? "";

const lowerFirst = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** What is sure by itself, and what may have gone with it: "Stator: as good as sure. Regulator/rectifier may have failed as well (3 in 10): diode, 4 min, would tell." */
function surely(advice: Advice): string {
  const { open, settled, next, later } = advice;
  const sure = advice.sure.filter(({ part }) => !later.includes(part));
  const called = partNamesOf(advice);
  const names = sure.map(({ part }, i) => (i === 0 ? called[part] : lowerFirst(called[part]))).join(" and ");
  const least = Math.min(...sure.map(({ odds }) => odds));
  const first = `${names}: ${oddsWords(least).split(", ")[1] ?? oddsWords(least)}.`;
  if (later.length > 0) return `${first} ${laterWords(advice)}`;
  const [beside] = open;
  if (!beside) return first;
  const more = `${called[beside.part]} may have failed as well (${shareOf(beside.odds)})`;
  const telling = next.find(({ splits, pays }) => pays && splits?.filter((set) => remediesOf(set).includes(beside.part)).length === 1);
  if (settled || !telling) return `${first} ${more}.`;
  const visit = next.filter(({ step, stay }) => step.test === telling.step.test && stay === telling.stay);
  const minutes = Math.max(1, Math.round(visit.reduce((sum, suggestion) => sum + suggestion.minutes + suggestion.hands, 0)));
  return `${first} ${more}: ${lowerFirst(testTitle(testOf(telling.step.test)))}, ${minutes} min, would tell.`;
}

/** What is judged only once the rest is mended: "Mend that first: the machine then says by itself whether the battery (7 in 10) has failed as well." */
function laterWords(advice: Pick<Advice, "later" | "parts" | "family" | "battery">): string {
  const called = partNamesOf(advice);
  const others = advice.later.map((part) => `the ${lowerFirst(called[part])} (${shareOf(advice.parts.find(({ what }) => what === part)?.odds ?? 0)})`);
  return `Mend that first: the machine then says by itself whether ${others.join(" and ")} ${others.length > 1 ? "have" : "has"} failed as well.`;
}

/** What is said of a machine whose control readings are right: that nothing failed where that is likely, that nothing was found where it is less. */
function soundly({ sets, decision }: Advice): string {
  const sound = sets.reduce((sum, { what, odds }) => sum + (isWhole(what) ? odds : 0), 0);
  const flat = decision.set === "charge" ? ": the battery was only flat" : "";
  return `${sound >= LIKELY ? "Nothing failed" : "Nothing wrong found"}${flat} (${oddsWords(sound)}).`;
}

/** What is said of a part without its machine: "Good (9 in 10, likely). …", "Bad (…)", or what would settle it. */
function loosely(advice: Advice, loose: Loose): string {
  const { says, bad, flat, settle } = looseVerdict(advice);
  const beyond = BEYOND_THE_BENCH[loose];
  if (says === "bad") return `Bad (${oddsWords(bad)}).`;
  if (flat) return `Flat, and so not to be judged yet: charge it fully, let it rest, then read it again.`;
  if (says === "good") return `Good${beyond ? " as far as a bench tells" : ""}${beyond ? `. ${beyond}` : ` (${oddsWords(1 - bad)}).`}`;
  const leans = bad >= LEANING ? `Not settled: bad at ${shareOf(bad)}.` : "Not settled.";
  if (settle?.look.charged) return `${leans} Charge it fully, let it rest and read it again: that would settle it.`;
  return settle ? `${leans} ${stepTitle(settle.step)} would settle it.` : `${leans} A bench tells no more. ${beyond}`.trim();
}

/** The verdict in one sentence: what is sure first, whatever is still open beside it. */
export function headline(advice: Advice): string {
  if (advice.loose) return loosely(advice, advice.loose);
  const { status, decision, otherwise, settled, sets, repaired, sure, fault, disproven } = advice;
  if (sure.some(({ part }) => !advice.later.includes(part)) && !(repaired && decision.set === "")) return surely(advice);
  const likely = oddsWords(decision.odds);
  if (fault === "battery.charger-on" && decision.set === "charge" && decision.odds >= LIKELY / 2)
    return `A charger or jump pack seems to be on still (${likely}): take it off, let the battery rest, and take its readings again.`;
  if (disproven) return "Not proven: these are not the volts of a sound machine. Is every plug joined again? Take them once more.";
  if (status === "contradiction") return "The readings disagree: take the doubted ones again.";
  if (status === "healthy") return repaired ? `Cured: nothing is left to mend (${likely}).` : soundly(advice);
  if (status === "found") return `${setName(decision.set, advice)} (${likely}).`;
  if (!settled && repaired && sets[0]?.what === "") return `Likely cured (${oddsWords(sets[0].odds)}): prove it.`;
  if (!settled) {
    const [first] = sets;
    if (!first || first.odds < LEANING) return "Nothing stands out yet.";
    return `Leaning to ${short(first.what, advice)} (${oddsWords(first.odds)}).`;
  }
  if (advice.later.length > 0) {
    const odds = Math.min(...advice.parts.filter(({ what }) => remediesOf(decision.set).includes(what)).map((part) => part.odds));
    return `${setName(decision.set, advice)} (${oddsWords(odds)}). ${laterWords(advice)}`;
  }
  const [first, second] = sets.filter(({ what }) => what !== "" && what !== "charge");
  if (isWhole(decision.set) && first && first.odds > decision.odds)
    return `Not sure enough to buy a part: ${[first, second].flatMap((standing) => (standing ? [`${short(standing.what, advice)} (${oddsWords(standing.odds)})`] : [])).join(" or ")}. Telling them apart costs more than it saves.`;
  if (decision.set === "") {
    const open = otherwise ? `, or ${short(otherwise.set, advice)}` : "";
    return `${repaired ? "Likely cured" : "Probably nothing failed"} (${likely})${open}. More testing costs more than it saves.`;
  }
  return otherwise
    ? `${setName(decision.set, advice)} or ${short(otherwise.set, advice)}: do the first first. More testing costs more than it saves.`
    : `${setName(decision.set, advice)} (${likely}); the rest is spread over ${sets.length - 1} others. More testing costs more than it saves.`;
}
