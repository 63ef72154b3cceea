import { parseSchoolName, SCHOOL_ROWS } from "../../core/procedure/schoolRows";

/** What practitioners disagree about, row by row: as the school has it, or the shop's own answer. */
export function SchoolRows({ school, errors, typed }: { school: string; errors: Record<string, string>; typed: Record<string, string> }) {
  const { choices } = parseSchoolName(school);
  const own = Object.keys(choices).length;
  const wrong = SCHOOL_ROWS.some(({ id }) => errors[`row.${id}`]);
  return (
    <details className="border-hair border-2 p-3" open={wrong}>
      <summary className="min-h-9 cursor-pointer font-medium">
        Answer single questions otherwise{own > 0 ? <span className="text-mute">, {own} answered</span> : null}
      </summary>
      <div className="mt-2 flex flex-col gap-3">
        {SCHOOL_ROWS.map(({ id, question, why, options }) => (
          <div key={id}>
            <label htmlFor={`row.${id}`} className="font-medium">
              {question}
            </label>
            <select
              id={`row.${id}`}
              name={`row.${id}`}
              className="field mt-1"
              defaultValue={typed[`row.${id}`] ?? choices[id] ?? ""}
              aria-describedby={`row.${id}.why`}
              aria-invalid={errors[`row.${id}`] ? true : undefined}
            >
              <option value="">As the school has it</option>
              {options.map((option) => (
                <option key={option.id} value={option.id}>
                  {option.label}
                </option>
              ))}
            </select>
            <p id={`row.${id}.why`} className="text-mute m-0 text-[0.95rem]">
              {errors[`row.${id}`] ?? why}
            </p>
          </div>
        ))}
      </div>
    </details>
  );
}
