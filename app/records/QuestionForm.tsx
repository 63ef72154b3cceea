import { Form } from "react-router";
import { KIND_IDS, KINDS } from "../../core/machine/kind";
import { PART_NAMES, PARTS } from "../../core/machine/part";
import { CATALOGUE } from "../../core/procedure/catalogue";
import { testTitle } from "../../core/procedure/step";
import { Choice, errorProps, Field } from "../ui/forms";

export const ENDING_NAMES = {
  open: "still open",
  proven: "repaired and proven",
  healthy: "nothing failed",
  "plain-cause": "plain cause",
  unproven: "closed without proof",
} as const;

interface QuestionFormProps {
  typed: Readonly<Record<string, string>>;
  errors: Readonly<Record<string, string>>;
  /** Which of the two sides of the records is asked. */
  show: string;
}

/** What the records are asked: words first, the rest folded away until somebody wants it. */
export function QuestionForm({ typed, errors, show }: QuestionFormProps) {
  const narrowed = Object.keys(typed).some((name) => name !== "words");
  const pick = (id: string, label: string, unset: string, options: readonly (readonly [string, string])[]) => (
    <Choice {...{ id, label, unset, options }} error={errors[id]} chosen={typed[id]} />
  );
  const write = (name: string, label: string, more: { type?: string; inputMode?: "decimal" } = {}) => (
    <Field label={label} id={name} error={errors[name]}>
      <input name={name} className="field" defaultValue={typed[name] ?? ""} autoComplete="off" {...more} {...errorProps(name, errors[name])} />
    </Field>
  );
  return (
    <Form method="get" role="search" key={JSON.stringify(typed)}>
      {show === "counts" ? <input type="hidden" name="show" value="counts" /> : null}
      <div className="flex items-end gap-3">
        <div className="flex-1">{write("words", "Words: the owner's, a tag, a model, what was done or noted", { type: "search" })}</div>
        <button type="submit" className="btn btn-main">
          Look
        </button>
      </div>
      <details open={narrowed} className="mt-2">
        <summary className="text-petrol min-h-11 cursor-pointer py-2">Narrow it</summary>
        <div className="grid grid-cols-2 gap-3 md:grid-cols-4">
          {write("unitTag", "Machine's tag")}
          {pick(
            "kind",
            "Kind of machine",
            "Any",
            KIND_IDS.map((id) => [id, KINDS[id]]),
          )}
          {pick(
            "part",
            "Part mended last",
            "Any or none",
            [...PARTS, "none" as const].map((id) => [id, PART_NAMES[id]]),
          )}
          {pick("ending", "How it ended", "Any way", Object.entries(ENDING_NAMES))}
          {write("from", "Came in from", { type: "date" })}
          {write("to", "To", { type: "date" })}
          {pick(
            "test",
            "With a reading of",
            "Any test",
            CATALOGUE.map((test) => [test.id, testTitle(test)]),
          )}
          <div className="grid grid-cols-2 gap-3">
            {write("least", "Least", { inputMode: "decimal" })}
            {write("most", "Most", { inputMode: "decimal" })}
          </div>
        </div>
      </details>
    </Form>
  );
}
