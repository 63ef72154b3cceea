import { DEFECTS } from "../../machine/defects";
import { faultOf } from "../../machine/faults";
import { PART_NAMES } from "../../machine/part";
import type { Sheet } from "../../machine/sheet";
import { testOf } from "../../procedure/catalogue";
import { diodeEnds, stepTitle } from "../../procedure/step";
import { formatQuantity, type Unit } from "../../units";
import type { Advice } from "../advice";
import type { Suggestion } from "../planning/rank";
import { type Remedy, remediesOf } from "../population/hypotheses";
import { offScale, wordsOf } from "../population/predict";
import { PARTED_OHMS } from "../population/rates";

/** Odds in the words a mechanic uses: "9 in 10, nearly sure". */
export function oddsWords(odds: number): string {
  if (odds >= 0.985) return "99 in 100, as good as sure";
  if (odds >= 0.93) return "19 in 20, nearly sure";
  if (odds >= 0.85) return "9 in 10, likely";
  const tenths = Math.round(odds * 10);
  if (tenths >= 6) return `${tenths} in 10, probable`;
  if (tenths >= 3) return `${tenths} in 10, open`;
  if (odds >= 0.15) return `${tenths} in 10, unlikely`;
  if (odds >= 0.05) return `${Math.max(1, Math.round(odds * 20))} in 20, unlikely`;
  return odds >= 0.01 ? "1 in 50, hardly" : "next to none";
}

function remedyName(remedy: Remedy): string {
  return remedy === "charge" ? "Battery, only flat" : PART_NAMES[remedy];
}

/** A set in words: "Stator and regulator/rectifier", "Nothing failed", "Only flat: charge it". */
export function setName(set: string): string {
  if (set === "") return "Nothing failed";
  if (set === "charge") return "Battery, only flat: charge it";
  return remediesOf(set)
    .map((one, i) => (i === 0 ? remedyName(one) : remedyName(one).toLowerCase()))
    .join(" and ");
}

const short = (set: string): string => (set === "" ? "a sound machine" : set === "charge" ? "a battery that is only flat" : setName(set).toLowerCase());

/** Why a reading is worth taking, in one sentence. */
export function reasonFor({ splits, minutes, accessMinutes, look }: Suggestion): string {
  const head = splits ? `Splits ${short(splits[0])} from ${short(splits[1])}` : "Makes what is known firmer";
  const time = `${minutes} min${accessMinutes > 0 ? ` and ${accessMinutes} to get there` : ""}`;
  const before = look.charged ? "; after a full charge" : look.hot ? "; with the engine hot" : "";
  const open = accessMinutes === 0 && testOf(look.step.test).accessMinutes > 0 ? "; it is open there already" : "";
  return `${head}; ${time}${before}${open}.`;
}

/** The outcome that would turn the verdict: "Diode 1 to B+ at the open line would turn it to regulator/rectifier." */
export function turnWords({ turns, step }: Suggestion): string | undefined {
  if (!turns) return undefined;
  const { unit } = testOf(step.test);
  const value =
    turns.word >= 0 ? wordsOf(step.test)[turns.word] : turns.open ? "the open line" : `about ${formatQuantity(rounded(offScale(step.test, turns.at)), unit)}`;
  return `${stepTitle(step)} at ${value} would turn it to ${short(turns.to)}.`;
}

function rounded(value: number): number {
  const digits = Math.max(0, 1 - Math.floor(Math.log10(Math.max(1e-3, Math.abs(value)))));
  return Number(value.toFixed(Math.min(3, digits)));
}

/** Where the likeliest fault sits, no finer than the readings know. */
export function whereWords(advice: Advice, sheet: Pick<Sheet, "winding">): string | undefined {
  const { places, along, fault } = advice;
  const [first, second] = places;
  if (!fault || !first) return undefined;
  const name = placeName(first.what);
  if (first.odds < NAMED && second) return `${name} or ${placeName(second.what)} (${oddsWords(first.odds).split(",")[0]} the first)`;
  if (fault !== "stator.winding-grounded" || !along) return name;
  if (along.spread > COARSE) return `${name}; how far in cannot be said with this meter`;
  const end = sheet.winding === "delta" ? "from its own end" : "from the lead";
  return `${name}, ${shareWords(along.at)} ${end}, give or take ${Math.max(1, Math.round(along.spread * 10))} tenths`;
}

/** A place is named by itself from these odds; beyond this spread its distance along the winding is not. */
const NAMED = 0.85;
const COARSE = 0.22;

function placeName(at: string): string {
  if (at.includes(">")) {
    const { red, black } = diodeEnds(at);
    return black === "B+" ? `diode of leg ${red}, upper half` : `diode of leg ${black}, lower half`;
  }
  if (at.includes("-")) return `legs ${at.replace("-", " and ")}`;
  return /^\d$/.test(at) ? `leg ${at}` : `fuse ${at}`;
}

function shareWords(share: number): string {
  if (share < 0.12) return "right at the terminal";
  if (share < 0.29) return "about a quarter in";
  if (share < 0.42) return "about a third in";
  if (share < 0.58) return "about half way in";
  return share < 0.75 ? "about two thirds in" : "near the far end";
}

/** The verdict with its fault and place, as a record keeps it: "Stator (19 in 20, nearly sure). Winding touches the core: leg 2." */
export function foundWords(advice: Advice, sheet: Pick<Sheet, "winding">): string {
  return [headline(advice), faultWords(advice, sheet)].filter(Boolean).join(" ");
}

/** The likeliest fault, where it sits and how bad it is: "Ground touch: leg 2, about a third in, about 0.1 Ω." */
export function faultWords(advice: Advice, sheet: Pick<Sheet, "winding">): string {
  if (!advice.fault) return "";
  const more = [whereWords(advice, sheet), sizeWords(advice)].filter(Boolean).join(", ");
  return `${faultOf(advice.fault).title}${more ? `: ${more}` : ""}.`;
}

/** Severities told in ohms or amps mean something at the meter; the others are shares of no measured thing. */
const MEASURED: readonly Unit[] = ["Ω", "mA", "A"];

/** How bad the likeliest fault is, as a range no finer than the readings know: "about 0.12 Ω", "0.1 to 0.4 Ω". */
export function sizeWords(advice: Advice): string | undefined {
  const { fault, severity } = advice;
  const unit = fault && MEASURED.find((one) => one === DEFECTS[fault].severity.unit);
  if (!unit || !severity || severity.low <= 0) return undefined;
  if (severity.at >= PARTED_OHMS && unit === "Ω") return severity.low >= PARTED_OHMS ? "parted" : undefined;
  const [low, at, high] = [severity.low, severity.at, severity.high].map((value) => formatQuantity(rounded(value), unit));
  if (severity.high < 1.5 * severity.low) return `about ${at}`;
  return severity.high < 30 * severity.low ? `${low} to ${high}` : undefined;
}

/** Below these odds the likeliest of many is no leaning. */
const LEANING = 0.3;

/** The verdict in one sentence. */
export function headline({ status, decision, otherwise, settled, sets, repaired }: Advice): string {
  const likely = oddsWords(decision.odds);
  if (status === "contradiction") return "The readings disagree: take the doubted ones again.";
  if (status === "healthy") return repaired ? `Cured: nothing is left to mend (${likely}).` : `Nothing failed (${likely}).`;
  if (status === "found") return `${setName(decision.set)} (${likely}).`;
  if (!settled && repaired && sets[0]?.what === "") return `Likely cured (${oddsWords(sets[0].odds)}): prove it.`;
  if (!settled) {
    const [first] = sets;
    if (!first || first.odds < LEANING) return "Nothing stands out yet.";
    return `Leaning to ${short(first.what)} (${oddsWords(first.odds)}).`;
  }
  if (decision.set === "") {
    const open = otherwise ? `, or ${short(otherwise.set)}` : "";
    return `${repaired ? "Likely cured" : "Probably nothing failed"} (${likely})${open}. More testing costs more than it saves.`;
  }
  return otherwise
    ? `${setName(decision.set)} or ${short(otherwise.set)}: do the first first. More testing costs more than it saves.`
    : `${setName(decision.set)} (${likely}); the rest is spread over ${sets.length - 1} others. More testing costs more than it saves.`;
}
