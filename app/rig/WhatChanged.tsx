import { useState } from "react";
import { testOf } from "../../core/procedure/catalogue";
import { stepKey, stepTitle } from "../../core/procedure/step";
import type { Change } from "../../core/rig/changed";
import { formatQuantity } from "../../core/units";

interface WhatChangedProps {
  faults: number;
  compare: (progress: (done: number, of: number) => void) => Promise<Change[]>;
}

const SHOWN = 14;

/** Every test of the catalogue on this machine beside a sound one: what reads differently, most striking first. */
export function WhatChanged({ faults, compare }: WhatChangedProps) {
  const [state, setState] = useState<{ done: number; of: number } | Change[] | { failed: string }>();
  const [all, setAll] = useState(false);
  const start = (): void => {
    setState({ done: 0, of: 1 });
    // How far it is comes by a channel of its own and may arrive after the result, which it must not take away.
    compare((done, of) => setState((now) => (now && "done" in now ? { done, of } : now)))
      .then(setState)
      .catch((error: unknown) => setState({ failed: error instanceof Error ? error.message : String(error) }));
  };
  if (!state || "failed" in state) {
    return (
      <section aria-label="What changed">
        {state ? <p className="rule-left m-0">The comparison stopped: {state.failed}</p> : null}
        <button type="button" className="btn min-h-11" disabled={faults === 0} onClick={start}>
          What would a mechanic find?
        </button>
        {faults === 0 ? <span className="text-mute ml-3">A sound machine reads as a sound machine.</span> : null}
      </section>
    );
  }
  if (!Array.isArray(state)) {
    return (
      <section aria-label="What changed">
        <label className="flex items-center gap-3">
          Taking every test on both machines
          <progress value={state.done} max={state.of} className="flex-1" />
        </label>
      </section>
    );
  }
  return (
    <section aria-label="What changed">
      <h2 className="mt-0">What a mechanic would find, most striking first</h2>
      {state.length === 0 ? <p className="m-0">Nothing: every test reads as on a sound machine. That is worth knowing.</p> : null}
      <table className="w-full">
        <tbody>
          {state.slice(0, all ? undefined : SHOWN).map(({ step, sound, ailing }) => (
            <tr key={stepKey(step)} className="border-hair border-t">
              <th className="py-1 text-left font-normal">{stepTitle(step)}</th>
              <td className="num text-copper py-1 pl-3 text-right whitespace-nowrap">{formatQuantity(ailing, testOf(step.test).unit)}</td>
              <td className="num text-mute py-1 pl-3 text-right whitespace-nowrap">sound {formatQuantity(sound, testOf(step.test).unit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {state.length > SHOWN && !all ? (
        <button type="button" className="text-petrol min-h-11" onClick={() => setAll(true)}>
          {state.length - SHOWN} more
        </button>
      ) : null}
    </section>
  );
}
