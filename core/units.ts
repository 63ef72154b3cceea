/**
 * Quantities as a mechanic meets them: a number with a unit, the open line, or a word from a list.
 * Every other module of the core speaks in these.
 */

/** What a meter shows when no current can flow between its probes. */
export const OPEN_LINE = "OL" as const;

/** The units a test can be read in. `choice` is a word picked from the test's own list. */
export type Unit = "V" | "V AC" | "Ω" | "mΩ" | "A" | "mA" | "%" | "choice";

/** A reading's value: a number in the test's unit, the open line, or a chosen word. */
export type ReadingValue = number | string;

/** True when the value is the open line. */
export function isOpen(value: ReadingValue): value is typeof OPEN_LINE {
  return value === OPEN_LINE;
}

/** True when the value is a number (neither open line nor word). */
export function isNumber(value: ReadingValue): value is number {
  return typeof value === "number";
}

/**
 * Rounds a value to the meter's resolution (the last digit it can show).
 * @param value in any unit
 * @param resolution the size of the last digit, same unit, greater than 0
 */
export function roundTo(value: number, resolution: number): number {
  const digits = Math.max(0, Math.ceil(-Math.log10(resolution) - 1e-9));
  return Number((Math.round(value / resolution) * resolution).toFixed(Math.min(digits, 12)));
}

/** Digits behind the point that are worth printing for a value in a unit; AC, milliamps and percent drop an empty one. */
function printed(value: number, unit: Unit): string {
  const size = Math.abs(value);
  if (unit === "V") return value.toFixed(size >= 100 ? 1 : 2);
  if (unit === "Ω") return value.toFixed(size >= 20 ? 0 : 2);
  if (unit === "mΩ") return String(roundTo(value, size >= 20 ? 0.1 : 0.01));
  if (unit === "A") return value.toFixed(1);
  // Ripple is worth its hundredths.
  if (unit === "V AC" && size < 2) return String(roundTo(value, 0.01));
  return String(roundTo(value, size >= 1000 ? 1 : 0.1));
}

/**
 * Prints a value the way a meter would, without its unit: "12.72", "0.41", "1.2k", "OL", "green".
 * Thousands and millions of ohms are printed with k and M.
 */
export function formatValue(value: ReadingValue, unit: Unit): string {
  if (!isNumber(value)) return value;
  if (unit === "Ω" && Math.abs(value) >= 1e6) return `${trim(value / 1e6)}M`;
  if (unit === "Ω" && Math.abs(value) >= 1e3) return `${trim(value / 1e3)}k`;
  return printed(value, unit);
}

/** Prints a value with its unit: "12.72 V", "OL", "green". */
export function formatQuantity(value: ReadingValue, unit: Unit): string {
  return isNumber(value) ? `${formatValue(value, unit)} ${unit}` : value;
}

function trim(value: number): string {
  return String(Number(value.toPrecision(3)));
}

/** What came of reading a typed entry: a value in the unit asked for, or a sentence on what is allowed. */
type Entry = { ok: true; value: ReadingValue } | { ok: false; error: string };

const UNIT_WORDS: Record<string, { unit: Exclude<Unit, "choice">; factor: number }> = {
  v: { unit: "V", factor: 1 },
  volt: { unit: "V", factor: 1 },
  volts: { unit: "V", factor: 1 },
  vdc: { unit: "V", factor: 1 },
  mv: { unit: "V", factor: 0.001 },
  vac: { unit: "V AC", factor: 1 },
  mvac: { unit: "V AC", factor: 0.001 },
  ω: { unit: "Ω", factor: 1 },
  ohm: { unit: "Ω", factor: 1 },
  ohms: { unit: "Ω", factor: 1 },
  r: { unit: "Ω", factor: 1 },
  k: { unit: "Ω", factor: 1e3 },
  kω: { unit: "Ω", factor: 1e3 },
  kohm: { unit: "Ω", factor: 1e3 },
  mω: { unit: "mΩ", factor: 1 },
  mohm: { unit: "mΩ", factor: 1 },
  meg: { unit: "Ω", factor: 1e6 },
  a: { unit: "A", factor: 1 },
  amp: { unit: "A", factor: 1 },
  amps: { unit: "A", factor: 1 },
  ma: { unit: "mA", factor: 1 },
  ua: { unit: "mA", factor: 0.001 },
  µa: { unit: "mA", factor: 0.001 },
  "%": { unit: "%", factor: 1 },
};

const UNIT_NAMES: Record<Unit, string> = {
  V: "volts DC (V)",
  "V AC": "volts AC (V)",
  Ω: "ohms (Ω)",
  mΩ: "milliohms (mΩ)",
  A: "amps (A)",
  mA: "milliamps (mA)",
  "%": "percent (%)",
  choice: "one of the words",
};

/**
 * Reads what was typed into a value of the unit asked for.
 * Accepts a decimal comma, a leading sign, a unit behind the number (with mV, kΩ, MΩ, µA converted; a
 * plain "V" is taken for either kind of volts), and "OL" in any case for the open line.
 * @param text as typed
 * @param unit the unit of the test
 * @param choices the words allowed when the unit is `choice`
 */
export function parseEntry(text: string, unit: Unit, choices: readonly string[] = []): Entry {
  const typed = text.trim();
  if (typed === "") return no("Nothing was typed. Type what the meter shows, or OL for the open line.");
  if (unit === "choice") {
    const word = choices.find((choice) => choice === typed.toLowerCase());
    return word === undefined ? no(`“${typed}” is not on the list. Allowed: ${choices.join(", ")}.`) : { ok: true, value: word };
  }
  if (/^(ol|o\.l\.?|open( line)?|∞)$/i.test(typed)) return { ok: true, value: OPEN_LINE };
  const match = /^([+\-−]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)(e[+-]?\d+)?\s*([a-zµωΩ%]*(?:\s*(?:ac|dc))?)$/iu.exec(typed);
  if (!match) return no(`“${typed}” is not a number. Type digits such as 12.6 (a comma works too), or OL for the open line.`);
  const [, sign, digits = "", exponent = "", suffix = ""] = match;
  const size = Number(digits.replace(",", ".") + exponent);
  if (!Number.isFinite(size)) return no(`“${typed}” is too large to be a reading.`);
  const factor = suffixFactor(suffix, unit);
  if (typeof factor === "string") return no(`“${typed}” is ${factor}; this test is read in ${UNIT_NAMES[unit]}. Check the dial.`);
  const value = size * factor;
  return { ok: true, value: sign === "-" || sign === "−" ? -value : Number(value.toPrecision(12)) };
}

/**
 * A figure as an instrument gave it, in a test's unit: a clamp's amps are a draw's milliamps, a logger's millivolts are volts.
 * @returns undefined where the two measure different things, volts DC and volts AC among them
 */
export function inUnit(value: number | typeof OPEN_LINE, given: string, unit: Unit): number | typeof OPEN_LINE | undefined {
  if (/ac$/i.test(given) !== (unit === "V AC")) return undefined;
  const entry = parseEntry(`${value === OPEN_LINE ? 1 : value} ${given.replace(/\s*DC$/i, "")}`, unit);
  return entry.ok && isNumber(entry.value) ? (value === OPEN_LINE ? OPEN_LINE : entry.value) : undefined;
}

/** The factor a typed unit brings, or in words what other quantity it stands for. */
function suffixFactor(suffix: string, unit: Unit): number | string {
  const plain = suffix.replace(/\s+/g, "");
  if (plain === "") return 1;
  if (/^M(Ω|ω|ohm|ohms)?$/.test(plain)) return unit === "Ω" ? 1e6 : "in megohms";
  const word = UNIT_WORDS[plain.toLowerCase()];
  if (!word) return `in “${plain}”`;
  if (word.unit === unit) return word.factor;
  const anyVolts = (word.unit === "V" || word.unit === "V AC") && (unit === "V" || unit === "V AC");
  const saidOutright = /ac|dc/i.test(plain);
  if (anyVolts && !saidOutright) return word.factor;
  const thousandth = `${word.unit} ${unit}`;
  if (thousandth === "A mA" || thousandth === "Ω mΩ") return 1000 * word.factor;
  if (thousandth === "mA A" || thousandth === "mΩ Ω") return 0.001 * word.factor;
  return `in ${UNIT_NAMES[word.unit]}`;
}

function no(error: string): Entry {
  return { ok: false, error };
}
