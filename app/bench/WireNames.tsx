import { useState } from "react";
import { everyTwo, type Naming } from "../../core/machine/families/naming";
import { familyOf } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import { isNumber, isOpen, parseEntry } from "../../core/units";

const ORDINALS = ["first", "second", "third", "fourth"] as const;

/** Tells which of a machine's wires is which, where their colours do not: ohms between every two, by the colours they have now. */
export function WireNames({ sheet, naming }: { sheet: Sheet; naming: Naming }) {
  const [colours, setColours] = useState<readonly string[]>([]);
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const called = (wire: number): string => colours[wire]?.trim() || `the ${ORDINALS[wire]}`;
  const pairs = everyTwo(naming.wires);
  const ohms = Object.fromEntries(pairs.map((pair) => [pair, ohmsOf(typed[pair] ?? "")]));
  const wrong = pairs.filter((pair) => (typed[pair] ?? "").trim() !== "" && ohms[pair] === undefined);
  const whole = pairs.every((pair) => ohms[pair] !== undefined);
  const told = whole ? naming.tell(ohms as Record<string, number>) : undefined;
  return (
    <details className="border-hair mt-4 border px-3 py-2">
      <summary className="min-h-9 cursor-pointer font-medium">Which wire is which?</summary>
      <p className="text-mute mt-1 mb-2">All unplugged. Call each wire by the colour it has now, then read ohms between every two; OL is the open line.</p>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {ORDINALS.slice(0, naming.wires).map((ordinal, i) => (
          <label key={ordinal} className="flex flex-col">
            <span className="text-[0.95rem]">Colour of the {ordinal}</span>
            <input
              className="field"
              value={colours[i] ?? ""}
              onChange={(event) => setColours(ORDINALS.map((_, k) => (k === i ? event.target.value : (colours[k] ?? ""))))}
            />
          </label>
        ))}
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-3">
        {pairs.map((pair) => {
          const [a = 0, b = 0] = pair.split("-").map(Number);
          return (
            <label key={pair} className="flex flex-col">
              <span className="text-[0.95rem]">
                {called(a)} to {called(b)}, Ω
              </span>
              <input
                className="field num"
                inputMode="decimal"
                aria-invalid={wrong.includes(pair) || undefined}
                value={typed[pair] ?? ""}
                onChange={(event) => setTyped({ ...typed, [pair]: event.target.value })}
              />
            </label>
          );
        })}
      </div>
      <div aria-live="polite" className="mt-2">
        {wrong.length > 0 ? <p className="rule-left m-0">Ohms are a number, 0 or more, or OL for the open line.</p> : null}
        {told && "again" in told ? <p className="rule-left m-0">{told.again}</p> : null}
        {told && "names" in told ? (
          <ul className="m-0 list-none p-0">
            {told.names.map((name, wire) => (
              <li key={name}>
                <strong className="num">{name}</strong> is {called(wire)}: {familyOf(sheet.family).terminals.find(({ id }) => id === name)?.role}.
              </li>
            ))}
          </ul>
        ) : null}
      </div>
    </details>
  );
}

/** Typed ohms; infinite for the open line, undefined for what is neither. */
function ohmsOf(text: string): number | undefined {
  if (text.trim() === "") return undefined;
  const entry = parseEntry(text, "Ω");
  if (!entry.ok) return undefined;
  if (isOpen(entry.value)) return Number.POSITIVE_INFINITY;
  return isNumber(entry.value) && entry.value >= 0 ? entry.value : undefined;
}
