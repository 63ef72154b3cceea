import { useState } from "react";
import { EARTHED_LOOKS, type EarthedLook, GENERATOR_LOOKS, type GeneratorLook, UNIT_LOOKS, type UnitLook } from "../../core/machine/families/looks";
import { familiesSeen, type Seen, tellingNext } from "../../core/machine/families/seen";
import { unlistedSheet } from "../../core/machine/unlisted";
import { MiniLoom } from "../loom/MiniLoom";

const VOLTS = [12, 6] as const;

/** Asks what eyes see of a machine without a sheet, and shows the charging systems that it may have, each as a small loom to pick. */
export function WhatIsIt({ machine, onPick }: { machine: string; onPick: (machine: string) => void }) {
  const [seen, setSeen] = useState<Seen>({});
  const [volts, setVolts] = useState<(typeof VOLTS)[number]>(12);
  const left = familiesSeen(seen);
  const next = tellingNext(left);
  return (
    <details className="border-hair mt-3 border px-3 py-2">
      <summary className="min-h-9 cursor-pointer font-medium">No sheet: what is it?</summary>
      <div className="mt-2 grid gap-3 sm:grid-cols-2">
        <Look
          label="Wires out of the engine"
          options={[1, 2, 3, 4, 5].map((count) => [String(count), String(count)])}
          onChange={(wires) => setSeen({ ...seen, wires: wires ? Number(wires) : undefined })}
        />
        <Look
          label="They end in"
          options={Object.entries(UNIT_LOOKS)}
          onChange={(unit) => setSeen({ ...seen, unit: (unit || undefined) as UnitLook | undefined })}
        />
        <Look
          label="The generator"
          options={Object.entries(GENERATOR_LOOKS)}
          onChange={(generator) => setSeen({ ...seen, generator: (generator || undefined) as GeneratorLook | undefined })}
        />
        <Look
          label="Ohms to clean engine metal, unplugged"
          options={Object.entries(EARTHED_LOOKS)}
          onChange={(earthed) => setSeen({ ...seen, earthed: (earthed || undefined) as EarthedLook | undefined })}
        />
      </div>
      <fieldset className="m-0 mt-3 flex gap-4 border-0 p-0">
        <legend className="sr-only">System volts</legend>
        {VOLTS.map((choice) => (
          <label key={choice} className="flex min-h-9 cursor-pointer items-center gap-2">
            <input type="radio" checked={volts === choice} onChange={() => setVolts(choice)} className="size-5" />
            {choice} V
          </label>
        ))}
      </fieldset>
      <p className="text-mute mt-2 mb-1" aria-live="polite">
        {left.length === 0
          ? "Nothing that Uvrel knows looks so: take one answer back."
          : left.length === 1
            ? "That leaves one."
            : `That leaves ${left.length}. ${next}`}
      </p>
      <ul className="m-0 list-none p-0">
        {left.map(({ id, title, blurb }) => {
          const value = `family:${id}/${volts}`;
          return (
            <li key={id} className="border-hair border-t py-2">
              <button
                type="button"
                className="aria-pressed:bg-ink aria-pressed:text-paper grid w-full grid-cols-[8.5rem_1fr] items-center gap-3 p-1 text-left"
                aria-pressed={machine === value}
                onClick={() => onPick(value)}
              >
                <span className="bg-sheet block">
                  <MiniLoom sheet={unlistedSheet(id, volts)} marks={{}} id={`seen-${id}`} />
                </span>
                <span>
                  <span className="font-medium">{title}</span>
                  <span className="block text-[0.95rem] leading-snug opacity-80">{blurb}</span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}

interface LookProps {
  label: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}

/** One question of what is seen; left open until somebody has looked. */
function Look({ label, options, onChange }: LookProps) {
  return (
    <label className="flex flex-col gap-1">
      <span>{label}</span>
      <select className="field" defaultValue="" onChange={(event) => onChange(event.target.value)}>
        <option value="">Not looked yet</option>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
