import { data, Form, Link, redirect, useNavigation } from "react-router";
import { z } from "zod";
import { PARTS } from "../../core/machine/part";
import { GROUPS } from "../../core/procedure/catalogue";
import { parseSchoolName, SCHOOL_ROWS, schoolName } from "../../core/procedure/schoolRows";
import { SCHOOLS } from "../../core/procedure/schools";
import { TOOL_IDS, TOOLS } from "../../core/procedure/tools";
import { typedNumber } from "../../formats/typed";
import { backupsIn, ruleSchema } from "../../store/backups";
import { dataFolder } from "../../store/folder";
import { instrumentSchema } from "../../store/instruments";
import { DatabaseProblem } from "../../store/migrate";
import { pricesSchema } from "../../store/prices";
import { toolsSchema } from "../../store/shop";
import type { Store } from "../../store/store";
import { backupMissed } from "../backupWatch.server";
import { housekeepingContext, personContext, storeContext } from "../context";
import { formOf, written } from "../forms.server";
import { Backups } from "../shop/Backups";
import { Instruments } from "../shop/InstrumentForm";
import { MeterForm } from "../shop/MeterForm";
import { PriceForm } from "../shop/PriceForm";
import type { Refusal } from "../shop/refusal";
import { SchoolRows } from "../shop/SchoolRows";
import { errorProps, Field } from "../ui/forms";
import { TopBar } from "../ui/TopBar";
import { NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/settings";

export function loader({ context }: Route.LoaderArgs) {
  const { workshop, prices, backupRule } = context.get(storeContext);
  return {
    shop: workshop.shop(),
    meters: workshop.meters(),
    instruments: context.get(storeContext).instruments.list(),
    prices: prices.get(),
    backups: backupsIn(dataFolder()),
    rule: backupRule.get(),
    backupMissed: backupMissed(context),
    person: context.get(personContext)?.name,
  };
}

const name = z.string().trim().min(1, "Give it a name.").max(60, "May hold 60 characters at most.");
const between = (low: number, high: number, unit: string) =>
  z
    .number({ error: `Must be a number from ${low} to ${high} ${unit}.` })
    .min(low, `Must be ${low} ${unit} or more.`)
    .max(high, `Must be ${high} ${unit} or less.`);

const shopSchema = z.object({
  name,
  school: z.enum(SCHOOLS.map((school) => school.id) as [string, ...string[]], { error: "Pick a school." }),
  meterId: z.number({ error: "Pick a meter." }).int("Pick a meter."),
  tools: toolsSchema,
});

const meterSchema = z.object({
  name,
  leadOhms: between(0, 5, "Ω"),
  ohmsResolution: between(0.0001, 10, "Ω"),
  diodeMaxVolts: between(1, 20, "V"),
  trueRms: z.boolean(),
});

export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const intent = String(form.get("intent"));
  const refuse = (errors: Record<string, string>) =>
    data({ intent, errors, typed: Object.fromEntries([...form].map(([key, value]) => [key, String(value)])) }, { status: 422 });
  if (intent === "shop") {
    const parsed = shopSchema.safeParse({ ...Object.fromEntries(form), meterId: Number(form.get("meterId")), tools: form.getAll("tools") });
    if (!parsed.success) return refuse(messages(parsed.error));
    const rows = Object.fromEntries(SCHOOL_ROWS.map(({ id }) => [id, String(form.get(`row.${id}`) ?? "")]));
    const unknown = SCHOOL_ROWS.filter(({ id, options }) => rows[id] && !options.some((option) => option.id === rows[id]));
    if (unknown.length > 0)
      return refuse(Object.fromEntries(unknown.map(({ id, options }) => [`row.${id}`, `Pick one of: ${options.map(({ label }) => label).join("; ")}.`])));
    const shop = { ...parsed.data, school: schoolName(parsed.data.school, rows) };
    const known = await written(
      store.patiently((): boolean => {
        const has = store.workshop.meters().some(({ id }) => id === parsed.data.meterId);
        if (has) store.workshop.changeShop(shop);
        return has;
      }),
    );
    return known ? redirect("/settings") : refuse({ meterId: "There is no such meter." });
  }
  if (intent === "prices") {
    const parsed = pricesSchema.safeParse({
      labourPerHour: typedNumber(form.get("labourPerHour")),
      parts: Object.fromEntries(
        PARTS.map((part) => [part, { money: typedNumber(form.get(`${part}.money`)), minutes: typedNumber(form.get(`${part}.minutes`)) }]),
      ),
    });
    if (!parsed.success)
      return refuse(
        Object.fromEntries(parsed.error.issues.map((issue) => [issue.path.filter((step) => step !== "parts").join("."), `${capital(issue.message)}.`])),
      );
    await written(store.patiently(() => store.prices.change(parsed.data)));
    return redirect("/settings");
  }
  if (intent === "backup-rule") {
    const parsed = ruleSchema.safeParse({
      days: typedNumber(form.get("days")),
      weeks: typedNumber(form.get("weeks")),
      months: typedNumber(form.get("months")),
    });
    if (!parsed.success) return refuse(messages(parsed.error));
    await written(store.patiently(() => store.backupRule.change(parsed.data)));
    return redirect("/settings");
  }
  if (intent === "backup-now") {
    try {
      await context.get(housekeepingContext).backUp(new Date(), true);
    } catch (error) {
      if (!(error instanceof DatabaseProblem)) throw error;
      return refuse({ backup: error.message });
    }
    return redirect("/settings");
  }
  const instrument = /^instrument-(new|\d{1,9})(-gone)?$/.exec(intent);
  if (instrument) return (await keepInstrument(store, instrument[1] ?? "", instrument[2] !== undefined, form)) ?? redirect("/settings");
  const meter = /^meter-(new|\d{1,9})$/.exec(intent)?.[1];
  if (meter === undefined) return refuse({ form: "That is nothing that can be done here." });
  const parsed = meterSchema.safeParse({
    name: form.get("name"),
    leadOhms: typedNumber(form.get("leadOhms")),
    ohmsResolution: typedNumber(form.get("ohmsResolution")),
    diodeMaxVolts: typedNumber(form.get("diodeMaxVolts")),
    trueRms: form.get("trueRms") === "yes",
  });
  if (!parsed.success) return refuse(messages(parsed.error));
  const problem = await written(
    store.patiently((): string | undefined => {
      if (meter !== "new" && !store.workshop.meters().some(({ id }) => String(id) === meter)) return "There is no such meter.";
      const others = store.workshop.meters().filter(({ id }) => String(id) !== meter);
      if (others.some(({ name: taken }) => taken === parsed.data.name)) return "Another meter has this name.";
      if (meter === "new") store.workshop.addMeter(parsed.data);
      else store.workshop.changeMeter({ id: Number(meter), ...parsed.data });
      return undefined;
    }),
  );
  return problem ? refuse({ name: problem }) : redirect("/settings");
}

/** Keeps, changes or takes off an instrument. @returns what is wrong with it, by field; nothing where it was done */
async function keepInstrument(store: Store, which: string, gone: boolean, form: FormData) {
  const intent = `instrument-${which}`;
  const refuse = (errors: Record<string, string>) =>
    data({ intent, errors, typed: Object.fromEntries([...form].map(([key, value]) => [key, String(value)])) }, { status: 422 });
  if (gone) {
    await written(store.patiently(() => store.instruments.remove(Number(which))));
    return undefined;
  }
  const parsed = instrumentSchema.safeParse({
    ...Object.fromEntries(form),
    port: typedNumber(form.get("port")),
    jack: form.get("jack") || null,
    leadOhms: typedNumber(form.get("leadOhms")) ?? null,
    ohmsResolution: typedNumber(form.get("ohmsResolution")) ?? null,
    secondMeter: form.get("secondMeter") === "yes",
  });
  if (!parsed.success) return refuse(messages(parsed.error));
  const problem = await written(
    store.patiently((): string | undefined => {
      const others = store.instruments.list().filter(({ id }) => String(id) !== which);
      if (others.some(({ name: taken }) => taken === parsed.data.name)) return "Another one has this name.";
      if (which === "new") return store.instruments.add(parsed.data) ? undefined : "There are as many as a bench can hold.";
      if (!store.instruments.find(Number(which))) return "There is no such instrument any more.";
      store.instruments.change({ id: Number(which), ...parsed.data });
      return undefined;
    }),
  );
  return problem ? refuse({ name: problem }) : undefined;
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

/** What was refused of one of the page's forms. @param form how its intents begin */
function answerOf(answer: object | undefined, form: string): Refusal | undefined {
  return answer && "intent" in answer && (answer as Refusal).intent.startsWith(form) ? (answer as Refusal) : undefined;
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function messages(error: z.ZodError): Record<string, string> {
  return Object.fromEntries(error.issues.map((issue) => [String(issue.path[0]), issue.message]));
}

export default function Settings({ loaderData, actionData: answer }: Route.ComponentProps) {
  const { shop, meters, instruments, prices, backups, backupMissed, rule, person } = loaderData;
  const ofBackups = answerOf(answer, "backup");
  const actionData = answer && "intent" in answer ? answer : undefined;
  const errors: Record<string, string> = actionData?.intent === "shop" ? actionData.errors : {};
  const busy = useNavigation().state !== "idle";
  return (
    <>
      <title>Shop · Uvrel</title>
      <TopBar />
      <main className="mx-auto grid max-w-6xl gap-x-14 gap-y-8 px-4 py-5 md:grid-cols-2 md:px-6">
        <div className="md:col-span-2 empty:hidden">
          <NotSent />
        </div>
        <Form method="post" className="flex flex-col gap-4">
          <h1 className="m-0">Shop</h1>
          <Field label="Name, as it stands on reports" id="shop-name" error={errors.name}>
            <input name="name" className="field" defaultValue={shop.name} {...errorProps("shop-name", errors.name)} />
          </Field>
          <fieldset className="m-0 border-0 p-0">
            <legend className="mb-1 font-medium">School: fills what a sheet leaves out, and sets the order of work</legend>
            {SCHOOLS.map((school) => (
              <label key={school.id} className="border-hair has-checked:border-ink has-checked:bg-sheet mb-2 flex cursor-pointer gap-3 border-2 p-3">
                <input
                  type="radio"
                  name="school"
                  value={school.id}
                  defaultChecked={parseSchoolName(shop.school).preset === school.id}
                  className="mt-1 size-5 shrink-0"
                />
                <span>
                  <span className="font-semibold">{school.title}</span> <span className="text-mute">“{school.saying}”</span>
                  <br />
                  {school.bands
                    .filter((band) => ["battery.crank", "charge.volts", "regulator.diode"].includes(band.test) && !band.chemistry)
                    .map((band) => band.says)
                    .join("; ")}
                  . Rest {school.restHours} h; {school.statorFirst === "ohms" ? "ohms before AC" : "AC before ohms"};{" "}
                  {school.chargingBy === "rise" ? "charging judged by the rise over rest volts" : "charging judged by limits"}.
                  <br />
                  <span className="text-mute">{school.order.map((group) => GROUPS[group]).join(" → ")}</span>
                </span>
              </label>
            ))}
          </fieldset>
          <SchoolRows school={shop.school} errors={errors} typed={actionData?.intent === "shop" ? actionData.typed : {}} />
          <Field label="Meter in use" id="meterId" error={errors.meterId}>
            <select name="meterId" className="field" defaultValue={shop.meterId} {...errorProps("meterId", errors.meterId)}>
              {meters.map((meter) => (
                <option key={meter.id} value={meter.id}>
                  {meter.name}
                </option>
              ))}
            </select>
          </Field>
          <fieldset className="m-0 border-0 p-0">
            <legend className="mb-1 font-medium">Tools here, beside a multimeter: nothing else is asked for</legend>
            <div className="grid gap-x-4 sm:grid-cols-2">
              {TOOL_IDS.map((id) => (
                <label key={id} className="flex min-h-11 items-center gap-3">
                  <input type="checkbox" name="tools" value={id} defaultChecked={shop.tools.includes(id)} className="size-5" /> {TOOLS[id]}
                </label>
              ))}
            </div>
          </fieldset>
          <p className="text-mute m-0">Open jobs keep the school and the meter they began with.</p>
          <button type="submit" name="intent" value="shop" className="btn btn-main self-start" disabled={busy}>
            Keep
          </button>
        </Form>
        <section>
          {person ? (
            <Form method="post" action="/sign-out" className="mb-4 flex items-center gap-4">
              <span>
                Signed in as <strong>{person}</strong>
              </span>
              <button type="submit" className="btn">
                Sign out
              </button>
            </Form>
          ) : null}
          <p className="m-0 mb-2">
            <Link to="/learned" className="text-petrol flex min-h-11 items-center">
              What the shop has learned from its own work
            </Link>
          </p>
          <PriceForm prices={prices} actionData={actionData} />
          <h2 className="mt-6">Meters</h2>
          {meters.map((meter) => (
            <MeterForm key={meter.id} intent={`meter-${meter.id}`} title={meter.name} meter={meter} actionData={actionData} />
          ))}
          <MeterForm
            intent="meter-new"
            title="Another meter"
            meter={{ name: "", leadOhms: 0.2, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 }}
            actionData={actionData}
          />
          <Instruments instruments={instruments} actionData={actionData} />
          <Backups missed={backupMissed} backups={backups} rule={rule} errors={ofBackups?.errors} typed={ofBackups?.typed ?? {}} busy={busy} />
        </section>
      </main>
    </>
  );
}
