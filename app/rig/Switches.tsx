import { familyOf } from "../../core/machine/families/registry";
import type { Sheet } from "../../core/machine/sheet";
import type { Connector, Loads } from "../../core/machine/standing";
import type { RigSetup } from "../../core/rig/setup";

interface SwitchesProps {
  sheet: Sheet;
  setup: RigSetup;
  onChange: (over: Partial<RigSetup>) => void;
  onEngine: (to: RigSetup["engine"]) => void;
  onPart: (connector: Connector) => void;
}

const ENGINES: readonly (readonly [RigSetup["engine"], string])[] = [
  ["off", "Stop"],
  ["cranking", "Crank"],
  ["running", "Run"],
];
const LOADS: readonly (readonly [Loads, string])[] = [
  ["off", "off"],
  ["normal", "ridden"],
  ["all", "all"],
];

/** Key, engine, loads, and what is parted. */
export function Switches({ sheet, setup, onChange, onEngine, onPart }: SwitchesProps) {
  const plugs: readonly (readonly [Connector, string])[] = [
    ["stator", sheet.statorConnector.name],
    ["unit", "unit's leg plug"],
    ["output", "unit's output plug"],
    ["negative", "negative cable"],
  ];
  const pull = (id: string): void => onChange({ pulled: setup.pulled.includes(id) ? setup.pulled.filter((fuse) => fuse !== id) : [...setup.pulled, id] });
  return (
    <div className="flex min-w-0 flex-col gap-3">
      <Stops name="Engine" options={ENGINES} value={setup.engine} onPick={onEngine} hotkey="e" />
      <Stops name="Loads" options={LOADS} value={setup.loads} onPick={(loads) => onChange({ loads })} hotkey="l" />
      <label className="flex min-h-9 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={setup.key === "on"}
          onChange={(event) => onChange({ key: event.target.checked ? "on" : "out", ...(event.target.checked ? {} : { engine: "off" as const }) })}
        />
        Key on<span className="key">k</span>
      </label>
      {familyOf(sheet.family).field ? (
        <label className="flex min-h-10 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={setup.field === "full"}
            onChange={(event) => onChange({ field: event.target.checked ? "full" : "regulated" })}
          />
          Field fed in full
        </label>
      ) : null}
      <fieldset className="m-0 border-0 p-0">
        <legend className="text-mute p-0">Parted</legend>
        {plugs.map(([connector, label]) => (
          <label key={connector} className="flex min-h-9 items-center gap-2 leading-tight">
            <input type="checkbox" className="size-5 shrink-0" checked={setup.unplug.includes(connector)} onChange={() => onPart(connector)} />
            {label}
          </label>
        ))}
        {sheet.fuses.map((fuse) => (
          <label key={fuse.id} className="flex min-h-9 items-center gap-2 leading-tight">
            <input type="checkbox" className="size-5 shrink-0" checked={setup.pulled.includes(fuse.id)} onChange={() => pull(fuse.id)} />
            fuse {fuse.id}, {fuse.amps} A
          </label>
        ))}
      </fieldset>
    </div>
  );
}

interface StopsProps<T extends string> {
  name: string;
  options: readonly (readonly [T, string])[];
  value: T;
  onPick: (value: T) => void;
  hotkey: string;
}

/** A switch with a few stops. */
function Stops<T extends string>({ name, options, value, onPick, hotkey }: StopsProps<T>) {
  return (
    <fieldset className="m-0 border-0 p-0">
      <legend className="text-mute p-0">
        {name}
        <span className="key">{hotkey}</span>
      </legend>
      <div className="border-ink mt-1 grid auto-cols-fr grid-flow-col border">
        {options.map(([option, label]) => (
          <label
            key={option}
            className={`relative flex min-h-10 cursor-pointer items-center justify-center px-1 text-center leading-tight ${option === value ? "bg-ink text-paper" : ""}`}
          >
            <input
              type="radio"
              name={name}
              className="absolute inset-0 opacity-0"
              checked={option === value}
              onChange={() => onPick(option)}
              aria-label={`${name}: ${label}`}
            />
            <span aria-hidden="true">{label}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
