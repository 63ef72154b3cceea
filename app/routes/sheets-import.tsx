import { setImmediate } from "node:timers/promises";
import { data, Form, redirect, useNavigation } from "react-router";
import type { Sheet } from "../../core/machine/sheet";
import { type RowProblem, readSheets } from "../../formats/sheetTable";
import type { Store } from "../../store/store";
import { storeContext } from "../context";
import { formOf, textOf, written } from "../forms.server";
import { differencesOf } from "../sheets/differences";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/sheets-import";

/** Rows of problems that are shown: more are counted. */
const SHOWN = 60;

interface Preview {
  fresh: string[];
  /** Sheets that stand on the shelf otherwise, and in how many figures. */
  changed: { name: string; figures: number }[];
  same: number;
  problems: RowProblem[];
}

const nameOf = ({ maker, model }: Sheet): string => `${maker} ${model}`;

/** What a table would do to the shelf. */
async function previewOf(store: Store, text: string): Promise<Preview> {
  const { sheets, problems } = await readSheets(text, setImmediate);
  const preview: Preview = { fresh: [], changed: [], same: 0, problems };
  for (const sheet of sheets) {
    const stands = store.sheets.find(sheet.id);
    const figures = stands ? differencesOf(stands, sheet).length : 0;
    if (!stands) preview.fresh.push(nameOf(sheet));
    else if (figures > 0) preview.changed.push({ name: nameOf(sheet), figures });
    else preview.same++;
  }
  return preview;
}

export function loader() {
  return null;
}

/** Looks a table through; what can be kept is kept only once somebody has seen what that is, all of it or nothing. */
export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const text = await textOf(form, "table");
  const refuse = (error: string, typed = "") => data({ error, text: typed, preview: undefined }, { status: 422 });
  if (text === undefined) return refuse("The file is larger than 2 MB: send it in parts.");
  if (text.trim() === "") return refuse("It is empty: choose a file or paste it.");
  if (form.get("intent") !== "keep") return data({ error: undefined, text, preview: await previewOf(store, text) });
  const { sheets } = await readSheets(text, setImmediate);
  if (sheets.length === 0) return refuse("None of its sheets can be kept.", text);
  const now = new Date().toISOString();
  await written(
    store.patiently(() => {
      for (const sheet of sheets) if (!store.sheets.change(sheet, now)) store.sheets.add(sheet, now);
    }),
  );
  return redirect("/machines");
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function SheetsImport({ actionData }: Route.ComponentProps) {
  const answer = actionData && "text" in actionData ? actionData : undefined;
  const { preview } = answer ?? {};
  const busy = useNavigation().state !== "idle";
  return (
    <>
      <title>Sheets from a file · Uvrel</title>
      <TopBar back={{ to: "/machines", label: "Sheets" }} />
      <main className="mx-auto max-w-3xl px-5 py-6">
        <h1 className="mt-0">Sheets from a file</h1>
        <p>
          One row a band, as{" "}
          <a href="/machines.csv" className="text-petrol underline">
            the shelf as a table
          </a>{" "}
          has it: commas or semicolons, decimal point or comma, UTF-8; or a{" "}
          <a href="/machines.json" className="text-petrol underline">
            list of JSON documents
          </a>
          . Nothing is kept before you have seen what it would be. Jobs keep the sheet that they began with.
        </p>
        <NotSent />
        {answer?.error ? (
          <p role="alert" className="rule-left">
            {answer.error}
          </p>
        ) : null}
        {preview ? <WhatItWouldDo preview={preview} text={answer?.text ?? ""} busy={busy} /> : null}
        <Form method="post" encType="multipart/form-data" className="mt-5 flex flex-col gap-4">
          <label className="flex flex-col gap-1 font-medium">
            Table (.csv) or documents (.json)
            <input type="file" name="file" accept=".csv,.json,text/csv,application/json" className="field py-2" />
          </label>
          <label className="flex flex-col gap-1 font-medium">
            or paste it
            <textarea name="table" rows={6} defaultValue={answer?.text} key={answer?.text} className="field py-2 font-mono text-sm" />
          </label>
          <button type="submit" name="intent" value="look" className={`btn self-start ${preview ? "" : "btn-main"}`} disabled={busy}>
            Look it through
          </button>
        </Form>
      </main>
    </>
  );
}

function WhatItWouldDo({ preview: { fresh, changed, same, problems }, text, busy }: { preview: Preview; text: string; busy: boolean }) {
  const count = fresh.length + changed.length;
  return (
    <section aria-label="What it would do" className="border-ink border-t-2 pt-3">
      <h2 className="m-0">What it would do</h2>
      <dl className="m-0 mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        <dt className="text-mute">New</dt>
        <dd className="m-0">{fresh.join(", ") || "none"}</dd>
        <dt className="text-mute">Changed</dt>
        <dd className="m-0">{changed.map(({ name, figures }) => `${name} (${figures} ${figures === 1 ? "figure" : "figures"})`).join(", ") || "none"}</dd>
        <dt className="text-mute">As they stand</dt>
        <dd className="num m-0">{same}</dd>
      </dl>
      {problems.length > 0 ? (
        <div role="alert" className="rule-left my-3">
          <p className="m-0 font-medium">Sheets with these rows are left out:</p>
          <ul className="m-0 list-none p-0">
            {problems.slice(0, SHOWN).map(({ row, column, error }) => (
              <li key={`${row} ${column} ${error}`}>
                Row <span className="num">{row}</span>, {column}: {error}
              </li>
            ))}
          </ul>
          {problems.length > SHOWN ? <p className="m-0">and {problems.length - SHOWN} more</p> : null}
        </div>
      ) : null}
      {count > 0 ? (
        <Form method="post" className="mt-3">
          <input type="hidden" name="table" value={text} />
          <button type="submit" name="intent" value="keep" className="btn btn-main" disabled={busy}>
            Put {count} on the shelf
          </button>
        </Form>
      ) : (
        <p className="text-mute">Nothing would change.</p>
      )}
    </section>
  );
}
