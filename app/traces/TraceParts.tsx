import type { ReactNode } from "react";
import { testOf } from "../../core/procedure/catalogue";
import type { TraceFigure, TracePhase } from "../../core/trace/read";
import { formatQuantity } from "../../core/units";
import { PHASE_NAMES } from "./phaseNames";
import type { OpenTrace } from "./useTrace";

/** What is said of a figure that swings: of a crank's lowest, what the engine turned at after it. */
export function swingWords({ test, value }: TraceFigure, swing: number): string {
  const said = (volts: number): string => formatQuantity(volts, testOf(test).unit);
  return test === "battery.crank" ? `${said(value + swing)} once it turned` : `swings by ${said(swing)}`;
}

/** What the page is for, and where a log is chosen. */
export function TraceHead({ onLog }: { onLog: (log: File) => void }) {
  return (
    <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-3">
      <div>
        <h1 className="m-0 text-3xl">Volts over time</h1>
        <p className="text-mute m-0">A log of any meter: a column of times, one of volts at the battery. Rest, crank and plateaus are found in it.</p>
      </div>
      <label className="flex flex-col">
        <span className="text-mute">Log (.csv, .txt)</span>
        <input
          type="file"
          accept=".csv,.txt,.tsv,.log,text/*"
          className="field py-2"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            if (chosen) onLog(chosen);
          }}
        />
      </label>
    </div>
  );
}

/** What went wrong with a log or with what was sent of it, how far it is read, and what was done. */
export function TraceNews({ trace: { name, reading, error }, refusal, done }: { trace: OpenTrace; refusal?: string | undefined; done?: string }) {
  return (
    <>
      <div role="alert">
        {error ? <p className="rule-left">{error}</p> : null}
        {refusal ? <p className="rule-left">{refusal}</p> : null}
      </div>
      <p className="m-0" role="status">
        {reading !== undefined ? `Reading ${name}: ${reading.toLocaleString("en")} samples so far.` : done}
      </p>
    </>
  );
}

interface TraceFactsProps extends Pick<OpenTrace, "byColumn"> {
  opened: NonNullable<OpenTrace["opened"]>;
  /** What else can be chosen of it. */
  children?: ReactNode;
}

/** How a log was understood, and from which of its columns the volts come. */
export function TraceFacts({ opened, byColumn, children }: TraceFactsProps) {
  return (
    <p className="text-mute my-2 flex flex-wrap items-center gap-x-5">
      <span>
        {opened.reading.samples.toLocaleString("en")} samples, {opened.reading.ratePerSecond} a second, {opened.seconds.toFixed(0)} s; times from{" "}
        {opened.timeColumn}
        {opened.understood.length > 0 ? `; ${opened.understood.join("; ")}` : ""}
      </span>
      {opened.columns.length > 1 ? (
        <label className="flex items-center gap-2">
          volts from
          <select className="border-hair bg-sheet min-h-9 border px-2" value={opened.column} onChange={(event) => byColumn(event.target.value)}>
            {opened.columns.map((column) => (
              <option key={column}>{column}</option>
            ))}
          </select>
        </label>
      ) : (
        <span>volts from {opened.column}</span>
      )}
      {children}
    </p>
  );
}

interface PhasesProps {
  phases: readonly TracePhase[];
  seconds: number;
  onMove: (phases: TracePhase[]) => void;
  notes: readonly string[];
}

/** The phases in their order; where one begins the one before it ends, and a hand may move that. */
export function Phases({ phases, seconds, onMove, notes }: PhasesProps) {
  const move = (k: number, from: number): void =>
    onMove(phases.map((phase, j) => (j === k ? { ...phase, from } : j === k - 1 ? { ...phase, to: from } : phase)));
  return (
    <section aria-label="Phases">
      <h2 className="mt-0">Its phases</h2>
      <ol className="m-0 list-none p-0">
        {phases.map(({ phase, from, to, volts }, k) => {
          const [least, most] = [phases[k - 1]?.from ?? 0, to];
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: phases keep their order, and a boundary that is typed must not lose its field
            <li key={k} className="border-hair grid grid-cols-[1fr_6.5rem_5rem] items-center gap-x-3 border-t py-1">
              <span>{PHASE_NAMES[phase]}</span>
              {k === 0 ? (
                <span className="num text-mute">{from.toFixed(1)} s</span>
              ) : (
                <label className="flex items-center gap-1">
                  <span className="sr-only">
                    {PHASE_NAMES[phase]} begins, {least.toFixed(1)} to {Math.min(most, seconds).toFixed(1)} s
                  </span>
                  <input
                    type="number"
                    step="0.1"
                    min={least}
                    max={most}
                    className="border-hair bg-sheet num min-h-9 w-20 border px-2"
                    defaultValue={from.toFixed(1)}
                    onChange={({ target }) => {
                      const good = target.valueAsNumber > least && target.valueAsNumber < most;
                      target.ariaInvalid = good ? null : "true";
                      target.setCustomValidity(good ? "" : `Must lie between ${least.toFixed(1)} and ${most.toFixed(1)} s.`);
                      if (good) move(k, target.valueAsNumber);
                      else target.reportValidity();
                    }}
                  />
                  s
                </label>
              )}
              <span className="num text-right">{volts === undefined ? "" : formatQuantity(volts, "V")}</span>
            </li>
          );
        })}
      </ol>
      {notes.map((note) => (
        <p key={note} className="text-mute m-0 mt-1">
          {note.charAt(0).toUpperCase()}
          {note.slice(1)}.
        </p>
      ))}
    </section>
  );
}
