import { data, Form, Link, redirect } from "react-router";
import { type Proposal, proposalsFor } from "../../core/learning/figures";
import { biasesToSay, biasWords, meterBiases } from "../../core/learning/meters";
import { ageOf, learnedCounts } from "../../core/learning/priors";
import { FAULTS } from "../../core/machine/faults";
import { PART_NAMES } from "../../core/machine/part";
import { isTestId, testOf } from "../../core/procedure/catalogue";
import { stepTitle } from "../../core/procedure/step";
import { formatQuantity } from "../../core/units";
import { LEARNING, LEARNING_IDS, type Switches } from "../../store/lessons";
import { storeContext } from "../context";
import { formOf, sendOnce } from "../forms.server";
import { TopBar } from "../ui/TopBar";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/learned";

/**
 * Models shown, models whose figures are looked at, the latest figures that a draft rests on, sound jobs that meters are compared over: as
 * many as a page can look through at once. Fewer jobs than this propose nothing.
 */
const MOST = { models: 40, drafts: 12, figures: 1500, jobs: 800 } as const;
const LEAST_JOBS = 4;

export function loader({ context }: Route.LoaderArgs) {
  const { lessons, sheets } = context.get(storeContext);
  const switches = lessons.switches();
  const models = new Map<string, { sheetId: string; model: string; repairs: { fault: string; times: number }[] }>();
  for (const { sheetId, model, fault, times } of lessons.byModel(MOST.models)) {
    const entry = models.get(sheetId) ?? { sheetId, model, repairs: [] };
    models.set(sheetId, entry);
    const known = FAULTS.find(({ id }) => id === fault);
    entry.repairs.push({
      fault: known ? `${PART_NAMES[known.part].toLowerCase()}: ${known.title.charAt(0).toLowerCase()}${known.title.slice(1)}` : fault,
      times,
    });
  }
  const leanings = [...models.values()].map((entry) => {
    const sheet = sheets.find(entry.sheetId);
    const all = sheet ? lessons.of(sheet.family) : [];
    const counts = sheet
      ? learnedCounts(all, { sheetId: sheet.id, family: sheet.family, kind: sheet.kind ?? "", usedFor: "", age: ageOf(null) }, new Date().getUTCFullYear())
      : {};
    return { ...entry, counted: Object.values(counts).reduce((sum, count) => sum + count, 0) };
  });
  const figures = switches.figures
    ? lessons.soundModels(LEAST_JOBS, MOST.drafts).flatMap((id) => {
        const sheet = sheets.find(id);
        if (!sheet) return [];
        const proposals = proposalsFor(sheet, lessons.soundFigures(id, MOST.figures));
        return proposals.length === 0 ? [] : [{ sheetId: id, model: `${sheet.maker} ${sheet.model}`, says: proposals.flatMap(proposalWords) }];
      })
    : [];
  const meters = switches.meters ? biasesToSay(meterBiases(lessons.meterFigures(MOST.jobs))).map(biasWords) : [];
  return { switches, count: lessons.count(), leanings, figures, meters };
}

/** A proposal beside what is printed: "Charging volts, 5,000 rpm: printed 13.80 to 14.90 V, read 14.02 to 14.41 V (tighter; …)". */
function proposalWords({ band, low, high, way, figures, machines, outside }: Proposal): string[] {
  const { test } = band;
  if (!isTestId(test)) return [];
  const say = (limit: number | undefined): string => (limit === undefined ? "…" : formatQuantity(limit, testOf(test).unit));
  const beyond = outside === 0 ? "none" : outside;
  return [
    `${stepTitle({ ...band, test })}: printed ${say(band.low)} to ${say(band.high)}, read ${say(low)} to ${say(high)} (${way}; ${figures} figures of ${machines} machines, ${beyond} outside what is printed)`,
  ];
}

export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const leadsTo = await sendOnce(store, form, new Date().toISOString(), () => {
    store.lessons.change(Object.fromEntries(LEARNING_IDS.map((id) => [id, form.get(id) === "on"])) as Switches);
    return "/learned";
  });
  return leadsTo ? redirect(leadsTo) : data({ errors: {} }, { status: 422 });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function Learned({ loaderData }: Route.ComponentProps) {
  const { switches, count, leanings, figures, meters } = loaderData;
  return (
    <>
      <title>What the shop has learned · Uvrel</title>
      <TopBar back={{ to: "/settings", label: "Shop" }} />
      <main className="mx-auto max-w-[1000px] px-4 py-4 md:px-6">
        <h1 className="mt-0">What the shop has learned</h1>
        <NotSent />
        <Form method="post" className="border-hair border-y py-3">
          <FormId />
          {LEARNING_IDS.map((id) => (
            <label key={id} className="flex min-h-11 items-center gap-3">
              <input type="checkbox" name={id} defaultChecked={switches[id]} className="size-5" /> {LEARNING[id]}
            </label>
          ))}
          <button type="submit" className="btn mt-2">
            Keep
          </button>
        </Form>
        <section className="mt-6">
          <h2 className="m-0">From repairs</h2>
          <p className="text-mute m-0">
            {count.repairs === 0
              ? "No repair has been proven yet. Each that is counts for the next machine like it."
              : `${count.repairs} proven repairs of ${count.models} models. A model's own count in full, less as years go by; those of other models lend 25 at most. The engine sets them against its own rates, which weigh like 60 repairs.${switches.repairs ? "" : " Switched off: nothing of it is used."}`}
          </p>
          {leanings.map(({ sheetId, model, repairs, counted }) => (
            <div key={sheetId} className="border-hair grid gap-x-6 border-t py-2 sm:grid-cols-[13rem_1fr_auto]">
              <Link to={`/machines/${sheetId}`} className="font-medium">
                {model}
              </Link>
              <span>{repairs.map(({ fault, times }) => `${fault} (${times})`).join("; ")}</span>
              <span className="text-mute">
                weighs like <span className="num">{counted}</span>
              </span>
            </div>
          ))}
        </section>
        <section className="mt-6">
          <h2 className="m-0">From sound machines</h2>
          <p className="text-mute m-0">
            {!switches.figures
              ? "Switched off."
              : figures.length === 0
                ? "No sheet's figures stand out from what sound machines read: that takes eight figures of two machines at least."
                : "Limits that nearly all sound machines lie in, beside those that are printed. Nothing changes by itself: look at the draft, and keep it or not."}
          </p>
          {figures.map(({ sheetId, model, says }) => (
            <div key={sheetId} className="border-hair border-t py-2">
              <p className="m-0 flex flex-wrap justify-between gap-x-6">
                <Link to={`/machines/${sheetId}`} className="font-medium">
                  {model}
                </Link>
                <Link to={`/machines/${sheetId}/edit?learned`} className="text-petrol">
                  See the draft
                </Link>
              </p>
              {says.map((sentence) => (
                <p key={sentence} className="m-0">
                  {sentence}
                </p>
              ))}
            </div>
          ))}
        </section>
        <section className="mt-6">
          <h2 className="m-0">Meters against each other</h2>
          {meters.length === 0 ? (
            <p className="text-mute m-0">
              {switches.meters ? "No meter stands out: that takes eight jobs of the same models read with another." : "Switched off."}
            </p>
          ) : (
            meters.map((says) => (
              <p key={says} className="rule-left my-2">
                {says} Hold both to one battery, then set the lead zero or have it checked.
              </p>
            ))
          )}
        </section>
      </main>
    </>
  );
}
