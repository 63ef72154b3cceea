import { useId, useLayoutEffect, useRef, useState } from "react";
import type { Step } from "../../core/procedure/step";
import { takeFocus } from "../ui/takeFocus";
import { useDraft } from "../ui/useDraft";
import { useListening } from "../ui/useListening";
import { checkTyped } from "./lowest";

interface ReadingFieldProps {
  step: Step;
  /** Under which name what is being typed survives a reload. */
  draft: string;
  label: string;
  /** The unit beside the field, where the label is not seen. */
  unit?: string;
  button: string;
  /** The one field of the page: it has the focus, and its button stands out. */
  first?: boolean;
  onKeep: (value: number | string) => void;
}

/** A field for one reading away from the bench's own entry: refused with what is allowed, an unlikely figure asked about once. */
export function ReadingField({ step, draft, label, unit, button, first = false, onKeep }: ReadingFieldProps) {
  const [text, setText] = useDraft(draft);
  const [error, setError] = useState<string>();
  const [asked, setAsked] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const says = useId();
  const listening = useListening();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the focus moves with what is asked for
  useLayoutEffect(() => {
    if (first) takeFocus(input.current);
  }, [first, draft]);
  const submit = (event: React.FormEvent): void => {
    event.preventDefault();
    const checked = checkTyped(text, step);
    if (!checked.ok) return setError(checked.error);
    if (checked.question && asked !== text) {
      setAsked(text);
      return setError(`${checked.question} Press ${button} once more, or type again.`);
    }
    setText("");
    setError(undefined);
    setAsked(undefined);
    onKeep(checked.value);
  };
  return (
    <>
      <form onSubmit={submit} className="mt-1 flex items-stretch gap-2" noValidate>
        <input
          ref={input}
          aria-label={label}
          className={`field num max-w-48 ${first ? "text-2xl" : "text-xl"}`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setError(undefined);
          }}
          readOnly={!listening}
          inputMode="decimal"
          autoComplete="off"
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? says : undefined}
        />
        {unit ? <span className="text-mute self-center text-lg">{unit}</span> : null}
        <button type="submit" disabled={!listening} className={first ? "btn btn-main min-w-28" : "btn"}>
          {button}
        </button>
      </form>
      <div id={says} role="alert">
        {error ? <p className="rule-left m-0 mt-1">{error}</p> : null}
      </div>
    </>
  );
}
