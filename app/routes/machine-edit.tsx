import { useEffect, useRef } from "react";
import { data, redirect } from "react-router";
import { proposalsFor, withProposals } from "../../core/learning/figures";
import { storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { sheetIdOf } from "../params.server";
import { type Difference, differencesOf } from "../sheets/differences";
import { readSheetForm } from "../sheets/read.server";
import { SheetForm } from "../sheets/SheetForm";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/machine-edit";

/** A sheet as it stands, or, asked for as learned, with the limits that the shop's own sound machines propose: a draft until it is kept. */
export function loader({ context, params, request }: Route.LoaderArgs) {
  const { sheets, lessons } = context.get(storeContext);
  const id = sheetIdOf(params.id);
  const sheet = id && sheets.find(id);
  if (!sheet) throw new Response(`There is no sheet “${params.id}” on the shelf.`, { status: 404 });
  const learned = new URL(request.url).searchParams.has("learned") && lessons.switches().figures;
  const proposals = learned ? proposalsFor(sheet, lessons.soundFigures(sheet.id, MOST_FIGURES)) : [];
  return { sheet: withProposals(sheet, proposals), changedAt: sheets.changedAt(sheet.id), learned: proposals.length };
}

/** Figures of sound machines that proposals rest on, the latest. */
const MOST_FIGURES = 1500;

/** What another hand kept while the form was open. */
interface Meanwhile {
  changedAt: string;
  differences: Difference[];
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const form = await formOf(request);
  const submission = readSheetForm(form);
  if (submission.status !== "success") return data(submission.reply(), { status: submission.status === "error" ? 422 : 200 });
  const sheet = submission.value;
  if (sheet.id !== params.id) {
    return data(
      submission.reply({
        fieldErrors: { id: [`The short name stays ${params.id}: jobs and case files refer to it. Write a new sheet for another name.`] },
      }),
      { status: 422 },
    );
  }
  const store = context.get(storeContext);
  const now = new Date().toISOString();
  const meanwhile = await written(
    store.patiently((): Meanwhile | undefined => {
      const [stands, changedAt] = [store.sheets.find(sheet.id), store.sheets.changedAt(sheet.id)];
      if (!stands || !changedAt) throw new Response(`There is no sheet “${sheet.id}” on the shelf.`, { status: 404 });
      const differences = differencesOf(stands, sheet);
      if (changedAt !== form.get("changedAt") && differences.length > 0) return { changedAt, differences };
      store.sheets.change(sheet, now);
      return undefined;
    }),
  );
  if (!meanwhile) return redirect(`/machines/${sheet.id}`);
  const says =
    "This sheet was changed on another screen while you wrote. Nothing of yours is kept yet: look through what differs, and keep yours or open the sheet anew.";
  return data({ ...submission.reply({ formErrors: [says] }), meanwhile }, { status: 409 });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function MachineEdit({ loaderData, actionData }: Route.ComponentProps) {
  const { sheet } = loaderData;
  const meanwhile: Meanwhile | undefined = actionData && "meanwhile" in actionData ? (actionData.meanwhile as Meanwhile) : undefined;
  return (
    <>
      <title>{`Change ${sheet.maker} ${sheet.model} · Uvrel`}</title>
      <TopBar back={{ to: `/machines/${sheet.id}`, label: "Sheet" }} />
      <main className="mx-auto max-w-5xl px-4 py-5 md:px-6">
        <h1 className="mt-0">
          Change {sheet.maker} {sheet.model}
        </h1>
        <p className="text-mute">Jobs already open keep the sheet they began with.</p>
        {loaderData.learned > 0 ? (
          <p className="rule-left">
            {loaderData.learned} {loaderData.learned === 1 ? "band stands" : "bands stand"} here as the shop's own sound machines propose. Nothing is changed
            until you keep the sheet.
          </p>
        ) : null}
        <NotSent />
        <SheetForm
          draft={sheet}
          lastResult={actionData && "status" in actionData ? actionData : undefined}
          submit={meanwhile ? "Keep mine all the same" : "Keep the sheet"}
          changedAt={meanwhile?.changedAt ?? loaderData.changedAt}
        >
          {meanwhile ? <Differences key={meanwhile.changedAt} differences={meanwhile.differences} /> : null}
        </SheetForm>
      </main>
    </>
  );
}

function Differences({ differences }: Pick<Meanwhile, "differences">) {
  const place = useRef<HTMLElement>(null);
  // The button that was pressed stands far below.
  useEffect(() => place.current?.scrollIntoView({ block: "center" }), []);
  return (
    <section aria-labelledby="differs" ref={place}>
      <h2 id="differs" className="m-0">
        What differs
      </h2>
      <table className="w-full max-w-2xl text-left">
        <thead>
          <tr className="text-mute">
            <th className="pr-4 font-normal">Field</th>
            <th className="pr-4 font-normal">On the shelf now</th>
            <th className="font-normal">You typed</th>
          </tr>
        </thead>
        <tbody>
          {differences.map(({ field, stands, typed }) => (
            <tr key={field} className="border-hair border-t">
              <td className="pr-4">{field}</td>
              <td className="num pr-4">{stands}</td>
              <td className="num">{typed}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
