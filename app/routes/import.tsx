import { data, Form, redirect } from "react-router";
import { isUnlisted } from "../../core/machine/unlisted";
import { testOf } from "../../core/procedure/catalogue";
import { schoolOf } from "../../core/procedure/schools";
import { readCase } from "../../formats/case";
import { personContext, storeContext } from "../context";
import { formOf, sendOnce, textOf } from "../forms.server";
import { newId } from "../jobs/entry";
import { TopBar } from "../ui/TopBar";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/import";

export function loader() {
  return null;
}

/** Opens a job from a case file; a broken one is refused whole, each wrong field named. */
export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const text = await textOf(form, "pasted");
  const refuse = (problems: { field: string; error: string }[]) => data({ problems, pasted: String(form.get("pasted") ?? "") }, { status: 422 });
  if (text === undefined) return refuse([{ field: "file", error: "is larger than 2 MB; a case file never is" }]);
  if (text.trim() === "") return refuse([{ field: "file", error: "is empty: choose a case file or paste one" }]);
  const read = readCase(text, (id) => store.sheets.find(id));
  if (!read.ok) return refuse(read.problems);
  const { readings, sheet, school, ...rest } = read.case;
  const now = new Date().toISOString();
  const by = context.get(personContext)?.name;
  const leadsTo = await sendOnce(store, form, now, () => {
    const id = store.jobs.open(
      {
        ...rest,
        sheet,
        unitTag: null,
        nickname: isUnlisted(sheet) ? "From a case file" : sheet.model,
        by,
        school: schoolOf(school ?? store.workshop.shop().school).id,
      },
      now,
    );
    for (const reading of readings) {
      const raw = reading.raw === true && testOf(reading.test).leadZero === true;
      store.jobs.readings.keep(id, { ...reading, id: newId(), by, raw, takenAt: reading.takenAt ?? now });
    }
    return `/jobs/${id}`;
  });
  return redirect(leadsTo ?? "/");
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function Import({ actionData }: Route.ComponentProps) {
  return (
    <>
      <title>Open a case file · Uvrel</title>
      <TopBar back={{ to: "/", label: "Rail" }} />
      <main className="mx-auto max-w-2xl px-5 py-6">
        <h1 className="mt-0">Open a case file</h1>
        <p>A case file holds a machine, a meter and its readings. It opens as a new job; nothing that is on the rail changes.</p>
        {actionData && "problems" in actionData ? (
          <div role="alert" className="rule-left my-4">
            <p className="m-0 font-medium">Nothing was opened. Put these right and try again:</p>
            <ul className="m-0 list-none p-0">
              {actionData.problems.map((problem) => (
                <li key={`${problem.field} ${problem.error}`}>
                  <span className="num text-sm">{problem.field}</span> {problem.error}
                </li>
              ))}
            </ul>
          </div>
        ) : null}
        <Form method="post" encType="multipart/form-data" className="flex flex-col gap-4">
          <FormId />
          <NotSent />
          <label className="flex flex-col gap-1 font-medium">
            Case file (.json)
            <input type="file" name="file" accept=".json,application/json" className="field py-2" />
          </label>
          <label className="flex flex-col gap-1 font-medium">
            or paste it
            <textarea
              name="pasted"
              rows={8}
              defaultValue={actionData && "pasted" in actionData ? actionData.pasted : undefined}
              className="field py-2 font-mono text-sm"
            />
          </label>
          <button type="submit" className="btn btn-main self-start">
            Open as a job
          </button>
        </Form>
      </main>
    </>
  );
}
