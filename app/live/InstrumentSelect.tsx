import type { Instrument } from "../../store/instruments";

interface InstrumentSelectProps {
  instruments: readonly Instrument[];
  value: number | undefined;
  onChange: (id: number | undefined) => void;
  /** What is offered beside the instruments: none of them. */
  unset?: string;
  /** What the choice is called. */
  label: string;
  /** The label is seen, not only read out. */
  shown?: boolean;
  disabled?: boolean;
}

/** A choice among the shop's meters that speak. */
export function InstrumentSelect({ instruments, value, onChange, unset, label, shown = false, disabled = false }: InstrumentSelectProps) {
  return (
    <label className="flex items-center gap-2">
      <span className={shown ? "text-mute" : "sr-only"}>{label}</span>
      <select
        className="border-hair bg-sheet min-h-9 border px-2"
        value={value ?? ""}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value === "" ? undefined : Number(event.target.value))}
      >
        {unset === undefined ? null : <option value="">{unset}</option>}
        {instruments.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
