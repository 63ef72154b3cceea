import { format } from "date-fns";
import { useEffect } from "react";
import { data, Form, Link, redirect, useRevalidator, useSubmit } from "react-router";
import { lasting } from "../../core/day/plan";
import { typedNumber } from "../../formats/typed";
import { baySchema } from "../../store/day";
import type { Store } from "../../store/store";
import { personContext, storeContext } from "../context";
import { BesideThePlan } from "../day/BesideThePlan";
import { at } from "../day/clock";
import { DayLine } from "../day/DayLine";
import { type Day, dayOf } from "../day/day.server";
import { dueOf, useReminders } from "../day/useReminders";
import { formOf, sendOnce } from "../forms.server";
import { useTagsToCome } from "../jobs/useTagsToCome";
import { errorProps, Field } from "../ui/forms";
import { TopBar } from "../ui/TopBar";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/day";

/** How often the line of the day moves on, ms. */
const MOVES_ON = 60_000;

export function loader({ context }: Route.LoaderArgs) {
  return dayOf(context.get(storeContext), new Date());
}

export async function action({ request, context }: Route.ActionArgs) {
  const store = context.get(storeContext);
  const form = await formOf(request);
  const now = new Date();
  let errors: Record<string, string> = {};
  const leadsTo = await sendOnce(store, form, now.toISOString(), () => {
    errors = form.get("intent") === "bay" ? changeBay(store, form) : change(store, form, now, context.get(personContext)?.name);
    return Object.keys(errors).length === 0 ? "/day" : undefined;
  });
  const typed = Object.fromEntries([...form].map(([name, value]) => [name, String(value)]));
  return leadsTo ? redirect(leadsTo) : data({ errors, typed }, { status: 422 });
}

function changeBay(store: Store, form: FormData): Record<string, string> {
  const parsed = baySchema.safeParse({
    mechanics: typedNumber(form.get("mechanics")),
    chargers: typedNumber(form.get("chargers")),
    begins: form.get("begins"),
    ends: form.get("ends"),
  });
  if (!parsed.success) return Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message]));
  if (parsed.data.ends <= parsed.data.begins) return { ends: "Must be later than the beginning." };
  store.days.changeBay(parsed.data);
  return {};
}

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** Sets a machine for a time, leaves it out of the day, or lets the plan choose again. */
function change(store: Store, form: FormData, now: Date, by: string | undefined): Record<string, string> {
  const job = store.jobs.find(Number(form.get("job")) || 0);
  const day = String(form.get("day"));
  if (!job || !DAY.test(day)) return { plan: "There is no such machine on the rail." };
  if (job.closedAt) return { plan: `${job.nickname} was closed meanwhile: there is nothing left to plan for it.` };
  const mark = (beginsAt: string | null): void => store.days.mark(day, { jobId: job.id, beginsAt }, now.toISOString(), by);
  if (form.get("intent") === "free") store.days.unmark(day, job.id);
  else if (form.get("intent") === "drop") mark(null);
  else {
    const clock = String(form.get("time") ?? "");
    if (!/^([01]\d|2[0-3]):[0-5]\d$/.test(clock)) return { [`time-${job.id}`]: "Must be a time, as 14:30." };
    mark(new Date(at(new Date(`${day}T00:00:00`), clock)).toISOString());
  }
  return {};
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

export default function DayPage({ loaderData: day, actionData }: Route.ComponentProps) {
  const { plan, machines, isToday, bay, coming } = day;
  const submit = useSubmit();
  const { revalidate } = useRevalidator();
  useTagsToCome(day.toCome);
  useEffect(() => {
    const timer = setInterval(() => void revalidate(), MOVES_ON);
    return () => clearInterval(timer);
  }, [revalidate]);
  const said = useReminders(
    machines.flatMap(({ id, name, wait }) => dueOf(id, name, wait)),
    () => void revalidate(),
  );
  const work = plan.stretches.filter(({ mechanic }) => mechanic !== undefined);
  const errors: Record<string, string> = actionData && "errors" in actionData ? actionData.errors : {};
  const typed: Record<string, string> = actionData && "typed" in actionData ? actionData.typed : {};
  return (
    <>
      <title>The day · Uvrel</title>
      <TopBar />
      <main className="mx-auto max-w-[1240px] px-4 py-4 md:px-6">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <h1 className="m-0" suppressHydrationWarning>
            {isToday ? "Today" : "Tomorrow"}, {format(at(new Date(`${day.day}T00:00:00`), "12:00"), "EEEE d MMMM")}
          </h1>
          <BayForm bay={bay} errors={errors} typed={typed} />
        </div>
        {said.map((sentence) => (
          <p key={sentence} role="status" className="rule-left my-2 text-lg">
            {sentence}
          </p>
        ))}
        {errors.plan ? (
          <p role="alert" className="rule-left my-2">
            {errors.plan}
          </p>
        ) : null}
        <NotSent />
        <Overnight day={day} />
        <TurnTo day={day} />
        {plan.stretches.length > 0 || day.done.length > 0 ? (
          <section aria-label="The line of the day" className="mt-5 hidden md:block">
            <DayLine
              day={day}
              onSet={(jobId, beginsAt) =>
                void submit(
                  { intent: "set", job: String(jobId), day: format(beginsAt, "yyyy-MM-dd"), time: format(beginsAt, "HH:mm") },
                  { method: "post", preventScrollReset: true },
                )
              }
            />
            <p className="text-mute mt-1 mb-0 text-[0.95rem]">
              Filled: done. Framed: hands. Hatched: charging, resting, waiting. Drag a machine's first work to set it for a time; the rest is planned round it.
              {plan.idle >= 10 ? ` Hands free in between: ${lasting(plan.idle)}.` : ""}
            </p>
          </section>
        ) : null}
        <section className="mt-6">
          <h2 className="m-0">In this order</h2>
          {work.length === 0 ? (
            <p className="text-mute m-0">
              {machines.length === 0 ? "The rail is empty: nothing to plan." : "Nothing that hands could do in what is left of the day."}
            </p>
          ) : null}
          <ol className="m-0 list-none p-0">
            {work.map((stretch) => {
              const machine = machines.find(({ id }) => id === stretch.jobId);
              const first = work.find(({ jobId }) => jobId === stretch.jobId) === stretch;
              if (!machine) return null;
              return (
                <li
                  key={`${stretch.jobId} ${stretch.from}`}
                  className="border-hair grid gap-x-5 gap-y-1 border-t py-2 md:grid-cols-[7.5rem_10rem_1fr_auto] md:items-center"
                >
                  <span className="num" suppressHydrationWarning>
                    {format(stretch.from, "HH:mm")}–{format(stretch.to, "HH:mm")}
                  </span>
                  <Link to={machine.repaired ? `/jobs/${machine.id}/verdict` : `/jobs/${machine.id}`} className="font-semibold">
                    {machine.name}
                    {bay.mechanics > 1 ? <span className="text-mute font-normal"> ({(stretch.mechanic ?? 0) + 1})</span> : null}
                  </Link>
                  <span>
                    {stretch.title}
                    {stretch.why ? <span className="text-mute">: {stretch.why}</span> : null}
                  </span>
                  {first ? <SetForm day={day.day} machine={machine} from={stretch.from} error={errors[`time-${machine.id}`]} /> : <span />}
                </li>
              );
            })}
          </ol>
        </section>
        <BesideThePlan day={day} />
        {coming.length > 0 ? (
          <section className="mt-8">
            <h2 className="m-0">Ask in before it fails</h2>
            {coming.map(({ tag, nickname, foreseen }) => (
              <p key={tag} className="border-hair m-0 border-t py-2">
                <Link to={`/units/${encodeURIComponent(tag)}`} className="font-semibold">
                  {tag} “{nickname}”
                </Link>{" "}
                {foreseen[0]?.says}
              </p>
            ))}
          </section>
        ) : null}
      </main>
    </>
  );
}

/** What could charge through the night, said in the evening. */
function Overnight({ day: { overnight, machines } }: { day: Day }) {
  return overnight.map(({ jobId, hands, charge }) => (
    <p key={jobId} className="rule-left mt-3 mb-0 text-lg">
      Before you go: <Link to={`/jobs/${jobId}`}>{machines.find(({ id }) => id === jobId)?.name}</Link> could charge through the night. It takes{" "}
      {lasting(hands)} of hands, then {lasting(charge)} by itself.
    </p>
  ));
}

/** What the hands turn to now, one line a mechanic. */
function TurnTo({ day: { plan, machines, bay, isToday } }: { day: Day }) {
  const next = Array.from({ length: bay.mechanics }, (_, hand) => plan.stretches.find(({ mechanic }) => mechanic === hand)).filter(
    (planned) => planned !== undefined,
  );
  if (next.length === 0) return null;
  return (
    <section aria-label="Turn to" className="border-ink mt-4 border-y-2 py-3">
      {next.map((stretch) => {
        const machine = machines.find(({ id }) => id === stretch.jobId);
        if (!machine) return null;
        return (
          <p key={stretch.mechanic} className="m-0 text-xl">
            <span suppressHydrationWarning>{isToday && stretch.from - Date.now() < 120_000 ? "Now" : format(stretch.from, "HH:mm")}</span>:{" "}
            <Link to={machine.repaired ? `/jobs/${machine.id}/verdict` : `/jobs/${machine.id}`} className="font-semibold">
              {machine.name}
            </Link>
            , {stretch.title.charAt(0).toLowerCase() + stretch.title.slice(1)}.{" "}
            <span className="text-mute text-lg">{stretch.why ? `${stretch.why.charAt(0).toUpperCase()}${stretch.why.slice(1)}.` : ""}</span>
          </p>
        );
      })}
    </section>
  );
}

type Machine = Day["machines"][number];

/** Sets a machine for a time, or leaves it out of the day. */
function SetForm({ day, machine, from, error }: { day: string; machine: Machine; from: number; error: string | undefined }) {
  return (
    <details open={error !== undefined}>
      <summary className="text-petrol min-h-11 cursor-pointer py-2">{machine.pinned ? "set by hand" : "move it"}</summary>
      <Form method="post" className="flex flex-wrap items-center gap-2" preventScrollReset>
        <FormId />
        <input type="hidden" name="job" value={machine.id} />
        <input type="hidden" name="day" value={day} />
        <label className="sr-only" htmlFor={`time-${machine.id}`}>
          {machine.name} begins at
        </label>
        <input
          type="time"
          name="time"
          className="field num min-h-11 w-36"
          defaultValue={format(machine.pinned ? new Date(machine.pinned) : from, "HH:mm")}
          key={`${from} ${machine.pinned}`}
          suppressHydrationWarning
          {...errorProps(`time-${machine.id}`, error)}
        />
        <button type="submit" name="intent" value="set" className="text-petrol min-h-11 underline">
          set
        </button>
        {machine.pinned ? (
          <button type="submit" name="intent" value="free" className="text-petrol min-h-11 underline">
            let the plan choose
          </button>
        ) : null}
        <button type="submit" name="intent" value="drop" className="text-mute min-h-11 underline">
          not today
        </button>
        {error ? (
          <p id={`time-${machine.id}-error`} role="alert" className="rule-left m-0 w-full">
            {error}
          </p>
        ) : null}
      </Form>
    </details>
  );
}

function BayForm({ bay, errors, typed }: { bay: Day["bay"]; errors: Record<string, string>; typed: Record<string, string> }) {
  const wrong = ["mechanics", "chargers", "begins", "ends"].some((name) => errors[name]);
  const field = (name: keyof typeof bay, label: string, more: { type?: string; inputMode?: "numeric" }) => (
    <Field label={label} id={name} error={errors[name]}>
      <input name={name} className="field num" defaultValue={typed[name] ?? String(bay[name])} {...more} {...errorProps(name, errors[name])} />
    </Field>
  );
  const count = (many: number, word: string): string => `${many} ${word}${many === 1 ? "" : "s"}`;
  return (
    <details open={wrong}>
      <summary className="text-petrol min-h-11 cursor-pointer py-2">
        {count(bay.mechanics, "mechanic")}, {count(bay.chargers, "charger")}, {bay.begins} to {bay.ends}
      </summary>
      <Form method="post" className="grid grid-cols-2 gap-3 sm:grid-cols-4" noValidate>
        <FormId />
        {field("mechanics", "Mechanics", { inputMode: "numeric" })}
        {field("chargers", "Chargers", { inputMode: "numeric" })}
        {field("begins", "From", { type: "time" })}
        {field("ends", "To", { type: "time" })}
        <button type="submit" name="intent" value="bay" className="btn col-span-2 justify-self-start">
          Plan with these
        </button>
      </Form>
    </details>
  );
}
