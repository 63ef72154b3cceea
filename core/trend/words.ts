import { testOf } from "../procedure/catalogue";
import { type Step, stepTitle } from "../procedure/step";
import { formatQuantity, type Unit } from "../units";
import type { Warning } from "./warning";

/** Odds as a mechanic says them, without a judgement: "7 in 10". */
export function tenths(odds: number): string {
  if (odds >= 0.985) return "99 in 100";
  if (odds >= 0.93) return "19 in 20";
  return `${Math.max(1, Math.round(odds * 10))} in 10`;
}

const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });

/** A month by its name and year. */
const monthName = (date: Date): string => MONTH.format(date);

/** A figure that changed by an amount, with as many places as it takes to see it. */
function amount(by: number, unit: Unit): string {
  const size = Math.abs(by);
  const places = size >= 10 ? 0 : size >= 1 ? 1 : 2;
  return `${size.toFixed(places)} ${unit}`;
}

/**
 * What a figure does and where that leads: "Crank dip falls 0.31 V a year at 20 °C: below 9.6 V by January 2027, 7 in 10".
 * @param warmthTells whether the air's warmth moves it, so that it had to be referred to 20 °C
 */
export function warningWords(step: Step, { course, by, from, side, limit, already, month, odds }: Warning, warmthTells: boolean): string {
  const { unit } = testOf(step.test);
  const goes =
    course === "slope"
      ? `${by < 0 ? "falls" : "climbs"} ${amount(by, unit)} a year${warmthTells ? " at 20 °C" : ""}`
      : `${by < 0 ? "fell" : "climbed"} by ${amount(by, unit)} about ${monthName(from)}`;
  const beyond = `${side === "low" ? "below" : "above"} ${formatQuantity(limit, unit)}`;
  return `${stepTitle(step)} ${goes}: ${already ? `${beyond} by now` : `${beyond} by ${monthName(month)}`}, ${tenths(odds)}.`;
}
