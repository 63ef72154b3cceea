import { X } from "lucide-react";
import { DEFECTS, type SetFault } from "../../core/machine/defects";
import { partNamesOf } from "../../core/machine/families/registry";
import { FAULTS, type FaultId, faultOf } from "../../core/machine/faults";
import { PARTS } from "../../core/machine/part";
import { placesOf, unfitReason } from "../../core/machine/places";
import type { Sheet } from "../../core/machine/sheet";

interface FaultPanelProps {
  sheet: Sheet;
  faults: readonly SetFault[];
  onChange: (faults: SetFault[]) => void;
}

const MOST = 6;

/** What ails the machine: faults picked by part, each with its place and figures. */
export function FaultPanel({ sheet, faults, onChange }: FaultPanelProps) {
  const change = (i: number, over: Partial<SetFault>): void => onChange(faults.map((fault, k) => (k === i ? { ...fault, ...over } : fault)));
  const add = (fault: FaultId): void => {
    const { severity, along } = DEFECTS[fault];
    const [at] = placesOf(fault, sheet);
    onChange([...faults, { fault, ...(at ? { at } : {}), severity: severity.typical, ...(along ? { along: 0.3 } : {}) }]);
  };
  const names = partNamesOf(sheet);
  return (
    <section aria-label="Faults">
      <h2 className="mt-0">What ails it</h2>
      {faults.length === 0 ? <p className="text-mute m-0">Nothing: a sound machine.</p> : null}
      <ul className="m-0 list-none p-0">
        {faults.map((fault, i) => (
          // Faults have no name of their own, and two of one kind may stand in the list.
          // biome-ignore lint/suspicious/noArrayIndexKey: see above
          <li key={`${fault.fault}${i}`} className="border-hair border-b py-2">
            <OneFault sheet={sheet} set={fault} onChange={(over) => change(i, over)} onRemove={() => onChange(faults.filter((_, k) => k !== i))} />
          </li>
        ))}
      </ul>
      {faults.length < MOST ? (
        <label className="mt-2 flex flex-col gap-1">
          <span className="sr-only">Add a fault</span>
          <select
            className="border-ink bg-sheet min-h-11 w-full border px-2"
            value=""
            onChange={(event) => event.target.value && add(event.target.value as FaultId)}
          >
            <option value="">Add a fault…</option>
            {PARTS.map((part) => ({ part, fitting: FAULTS.filter((fault) => fault.part === part && !unfitReason(fault.id, sheet)) })).map(
              ({ part, fitting }) =>
                fitting.length > 0 ? (
                  <optgroup key={part} label={names[part]}>
                    {fitting.map((fault) => (
                      <option key={fault.id} value={fault.id}>
                        {fault.title}
                      </option>
                    ))}
                  </optgroup>
                ) : null,
            )}
          </select>
        </label>
      ) : null}
    </section>
  );
}

function OneFault({ sheet, set, onChange, onRemove }: { sheet: Sheet; set: SetFault; onChange: (over: Partial<SetFault>) => void; onRemove: () => void }) {
  const { title, part } = faultOf(set.fault);
  const { severity, along } = DEFECTS[set.fault];
  const places = placesOf(set.fault, sheet);
  const fixed = severity.low === severity.high;
  return (
    <fieldset className="m-0 border-0 p-0">
      <legend className="sr-only">{title}</legend>
      <div className="flex items-start justify-between gap-2">
        <span>
          <span className="text-mute">{partNamesOf(sheet)[part]}: </span>
          <span className="font-medium">{title}</span>
        </span>
        <button type="button" className="-mt-1 flex size-9 shrink-0 items-center justify-center" onClick={onRemove} aria-label={`Mend: ${title}`}>
          <X size={18} aria-hidden="true" />
        </button>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1">
        {places.length > 0 ? (
          <label className="text-mute flex items-center gap-2">
            at
            <select
              aria-label={`Where: ${title}`}
              className="border-hair bg-sheet num min-h-9 border px-1"
              value={set.at ?? places[0]}
              onChange={(event) => onChange({ at: event.target.value })}
            >
              {places.map((place) => (
                <option key={place}>{place}</option>
              ))}
            </select>
          </label>
        ) : null}
        {along ? (
          <label className="text-mute flex min-w-40 flex-1 items-center gap-2">
            <span className="whitespace-nowrap">along</span>
            <input
              type="range"
              className="min-w-0 flex-1"
              min="0"
              max="1"
              step="0.05"
              value={set.along ?? 0.3}
              onChange={(event) => onChange({ along: Number(event.target.value) })}
            />
            <span className="num">{Math.round(100 * (set.along ?? 0.3))} %</span>
          </label>
        ) : null}
        {fixed ? null : (
          <label className="text-mute flex w-full items-center gap-2">
            <span className="min-w-0 flex-1 leading-tight">{severity.what}</span>
            <input
              type="number"
              className="border-hair bg-sheet num min-h-9 w-24 border px-2"
              min={severity.low}
              max={severity.high}
              step="any"
              defaultValue={set.severity ?? severity.typical}
              onChange={(event) => takeFigure(event.target, severity, (value) => onChange({ severity: value }))}
            />
            <span>{severity.unit === "share" ? "of 1" : severity.unit}</span>
          </label>
        )}
      </div>
    </fieldset>
  );
}

/** Takes a figure over when it lies within its reach; otherwise the field says what is allowed, and keeps what was typed. */
function takeFigure(field: HTMLInputElement, reach: { low: number; high: number }, onChange: (value: number) => void): void {
  const value = field.valueAsNumber;
  const good = value >= reach.low && value <= reach.high;
  field.setCustomValidity(good ? "" : `Must be ${reach.low} to ${reach.high}.`);
  field.ariaInvalid = good ? null : "true";
  if (good) onChange(value);
  else field.reportValidity();
}
