import { type JudgedReading, type JudgingContext, judgeAll, judgedWords } from "../../core/procedure/judge";
import { SCHOOLS } from "../../core/procedure/schools";
import { stepTitle } from "../../core/procedure/step";

/** Which readings another school judges otherwise; the job itself keeps the school it was judged by. */
export function OtherSchools({ judged, context }: { judged: readonly JudgedReading[]; context: JudgingContext }) {
  if (judged.length === 0) return null;
  const others = SCHOOLS.filter(({ id }) => id !== context.school.id).map((school) => {
    const otherwise = judgeAll(
      judged.map(({ reading }) => reading),
      { ...context, school },
    );
    return {
      school,
      changed: judged.flatMap((judgedReading, i) =>
        (otherwise[i] as JudgedReading).judged === judgedReading.judged ? [] : [{ judgedReading, other: otherwise[i] as JudgedReading }],
      ),
    };
  });
  return (
    <details className="mt-4">
      <summary className="text-mute min-h-9 cursor-pointer">Judged by another school</summary>
      {others.map(({ school, changed }) => (
        <section key={school.id} className="border-hair border-t py-2">
          <h3 className="m-0 text-base">{school.title}</h3>
          {changed.length === 0 ? <p className="text-mute m-0">Judges every reading alike.</p> : null}
          <ul className="m-0 list-none p-0">
            {changed.map(({ judgedReading, other }) => (
              <li key={judgedReading.reading.id}>
                {stepTitle(judgedReading.reading)}: <strong>{judgedWords(other)}</strong> instead of {judgedWords(judgedReading)}
                <span className="text-mute"> ({other.band?.says ?? "no limit"})</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </details>
  );
}
