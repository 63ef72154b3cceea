import type { ReactNode } from "react";

/** A labelled field with its error beside it; the error names what is allowed, and what was typed stays. */
export function Field({ label, error, id, children, hint }: { label: string; error?: string | undefined; id: string; children: ReactNode; hint?: string }) {
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="font-medium">
        {label}
      </label>
      {children}
      {hint ? <span className="text-mute text-[0.95rem]">{hint}</span> : null}
      {error ? (
        <p id={`${id}-error`} role="alert" className="rule-left m-0">
          {error}
        </p>
      ) : null}
    </div>
  );
}

/** The attributes that tie a field to its error. */
export function errorProps(id: string, error: string | undefined): { id: string; "aria-invalid"?: true; "aria-describedby"?: string } {
  return error ? { id, "aria-invalid": true, "aria-describedby": `${id}-error` } : { id };
}

interface ChoiceProps {
  label: string;
  id: string;
  error?: string | undefined;
  hint?: string;
  /** What it says while nothing is chosen. */
  unset: string;
  /** What is chosen at first; nothing where none is named. */
  chosen?: string | undefined;
  /** Values with their words. */
  options: readonly (readonly [string, string])[];
}

/** A labelled list to choose from. */
export function Choice({ label, id, error, hint, unset, chosen = "", options }: ChoiceProps) {
  return (
    <Field label={label} id={id} error={error} {...(hint ? { hint } : {})}>
      <select name={id} className="field" defaultValue={chosen} {...errorProps(id, error)}>
        <option value="">{unset}</option>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}
