import { useMemo, useState } from "react";
import { data, Form, redirect, useNavigation, useSearchParams } from "react-router";
import { FAMILIES } from "../../core/machine/families/all";
import { KIND_IDS, KINDS } from "../../core/machine/kind";
import { LOOSE, LOOSE_IDS } from "../../core/machine/loose";
import { WIRE_COLOURS } from "../../core/machine/wire";
import { CAUTIONS, PRECEDENCE } from "../../core/procedure/cautions";
import { COMPLAINTS, PLAIN_CAUSES, triage } from "../../core/procedure/complaints";
import { personContext, storeContext } from "../context";
import { formOf, sendOnce } from "../forms.server";
import { takeIn } from "../jobs/intake.server";
import { WhatIsIt } from "../jobs/WhatIsIt";
import { Choice, errorProps, Field } from "../ui/forms";
import type { Found } from "../ui/found";
import { TopBar } from "../ui/TopBar";
import { useFound } from "../ui/useFound";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/intake";

/** Machines and sheets that come with the page; of more, those are fetched that what is typed finds. */
const OFFERED = 200;

const kindOf = (kind: string | null): string => KIND_IDS.flatMap((id) => (id === kind ? [KINDS[id]] : []))[0] ?? "Kind not given";

export function loader({ context, request }: Route.LoaderArgs) {
  const store = context.get(storeContext);
  // A machine that another page sends here is offered, however many there are.
  const asked = store.workshop.unit(new URL(request.url).searchParams.get("machine")?.replace(/^unit:/, "") ?? "");
  const units = store.workshop.units(OFFERED);
  if (asked && !units.some(({ tag }) => tag === asked.tag)) units.unshift({ ...asked, model: store.sheets.find(asked.sheetId)?.model ?? asked.sheetId });
  const sheets = store.sheets.offered(OFFERED).map(({ id, name, kind }) => ({ id, name, kind: kindOf(kind) }));
  return { units, sheets, whole: store.sheets.count() <= OFFERED };
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await formOf(request);
  const store = context.get(storeContext);
  const now = new Date();
  // Refused, nothing was done: the same form may be sent again.
  let errors: Record<string, string> | undefined;
  const leadsTo = await sendOnce(store, form, now.toISOString(), () => {
    const result = takeIn(store, form, now, context.get(personContext)?.name);
    if (result.ok) return form.get("end") === "yes" ? `/jobs/${result.jobId}/report` : `/jobs/${result.jobId}`;
    errors = result.errors;
    return undefined;
  });
  return leadsTo ? redirect(leadsTo) : data({ errors: errors ?? {} }, { status: 422 });
}

export function clientAction({ serverAction }: Route.ClientActionArgs) {
  return sentOrKept(serverAction);
}

export const shouldRevalidate = needsNews;

interface Offered {
  value: string;
  name: string;
  detail: string;
}

export default function Intake({ loaderData, actionData }: Route.ComponentProps) {
  const { units, sheets, whole } = loaderData;
  const errors: Record<string, string> = actionData?.errors ?? {};
  const [search, setSearch] = useState("");
  const [params] = useSearchParams();
  const [machine, setMachine] = useState(params.get("machine") ?? "");
  const [complaints, setComplaints] = useState<string[]>([]);
  const [causes, setCauses] = useState<string[]>([]);
  const busy = useNavigation().state !== "idle";
  const { found } = useFound(whole ? "" : search.trim().toLowerCase());
  // What was found and picked stays picked, whatever is typed after it.
  const [picked, setPicked] = useState<Offered>();
  const choices = useMemo(() => {
    const offered = choicesOf(units, sheets);
    return picked && !offered.some(({ value }) => value === picked.value) ? [picked, ...offered] : offered;
  }, [units, sheets, picked]);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = choices.filter((choice) => words.every((word) => `${choice.name} ${choice.detail}`.toLowerCase().includes(word)) || choice.value === machine);
  const shown = [...(found ?? []).flatMap((family) => (fits.some(({ value }) => value === choiceValue(family)) ? [] : choiceOf(family))), ...fits];
  // A search that finds nothing leaves the machines without a sheet in reach.
  const listed = shown.length > 0 ? shown : choices.filter(({ value }) => value.startsWith("family:"));
  const counter = triage(complaints, causes);
  return (
    <>
      <title>Take in a machine · Uvrel</title>
      <TopBar back={{ to: "/", label: "Rail" }} />
      <main>
        <Form method="post" className="grid gap-x-10 px-4 py-4 md:grid-cols-2 md:px-6" noValidate>
          <FormId />
          <div className="md:col-span-2">
            <NotSent />
          </div>
          <section aria-label="Machine">
            <h1 className="mt-0 mb-3">Take in a machine</h1>
            <Field label="Find it by tag, name, maker or model" id="search">
              <input id="search" type="search" className="field" value={search} onChange={(event) => setSearch(event.target.value)} autoComplete="off" />
            </Field>
            <fieldset className="m-0 mt-3 border-0 p-0" aria-describedby={errors.machine ? "machine-error" : undefined}>
              <legend className="text-mute mb-1">Machine</legend>
              {errors.machine ? (
                <p id="machine-error" role="alert" className="rule-left my-2">
                  {errors.machine}
                </p>
              ) : null}
              <div className="border-hair max-h-[22rem] overflow-y-auto border-y md:max-h-[26rem]">
                {shown.length === 0 ? (
                  <p className="text-mute px-3">Nothing on the books matches. A machine without a sheet stands below: a school fills its bands.</p>
                ) : null}
                {listed.map((choice) => (
                  <label
                    key={choice.value}
                    className="border-hair has-checked:bg-ink has-checked:text-paper flex min-h-11 cursor-pointer items-center gap-3 border-b px-3 py-1.5 last:border-b-0"
                  >
                    <input
                      type="radio"
                      name="machine"
                      value={choice.value}
                      checked={machine === choice.value}
                      onChange={() => {
                        setMachine(choice.value);
                        setPicked(choice);
                      }}
                      className="size-5 shrink-0"
                    />
                    <span className="font-medium">{choice.name}</span>
                    <span className="ml-auto text-right text-[0.95rem]">{choice.detail}</span>
                  </label>
                ))}
              </div>
            </fieldset>
            <WhatIsIt machine={machine} onPick={setMachine} />
            {machine === "" ? null : (
              <div className="mt-3">
                <Choice
                  label="What came in"
                  id="loose"
                  error={errors.loose}
                  hint="A part by itself is tested on the bench, and nothing else is asked for"
                  unset="The whole machine"
                  options={LOOSE_IDS.map((id) => [id, `Only its ${LOOSE[id].toLowerCase()}`])}
                />
              </div>
            )}
            {machine !== "" && !machine.startsWith("unit:") ? (
              <div className="mt-3 grid grid-cols-2 gap-3">
                <Field
                  label="Tag to hang on it"
                  id="newTag"
                  error={errors.newTag}
                  hint={machine.startsWith("sheet:") ? "Kept with the machine" : "Stands in this job only"}
                >
                  <input name="newTag" className="field" {...errorProps("newTag", errors.newTag)} />
                </Field>
                {machine.startsWith("family:") ? (
                  <>
                    <Choice
                      label="What kind of machine"
                      id="kind"
                      error={errors.kind}
                      hint="Sets what such machines usually have"
                      unset="Leave it open"
                      options={KIND_IDS.map((id) => [id, KINDS[id]])}
                    />
                    <Choice
                      label={`${wiresOf(machine)} out of the engine`}
                      id="legs"
                      error={errors.legs}
                      hint="Their colour, as the probes will find them"
                      unset="Not seen yet"
                      options={WIRE_COLOURS.map((colour) => [colour, colour])}
                    />
                    <Choice
                      label="Joined to the engine"
                      id="earth"
                      error={errors.earth}
                      hint="Which post of the battery"
                      unset="Not looked yet"
                      options={[
                        ["negative", "its minus post"],
                        ["positive", "its plus post"],
                      ]}
                    />
                    <Choice
                      label="Battery or capacitor"
                      id="stores"
                      error={errors.stores}
                      hint="Some kick-started machines run on a capacitor"
                      unset="A battery"
                      options={[["capacitor", "A capacitor"]]}
                    />
                    <Choice
                      label="The unit is grounded"
                      id="unitGround"
                      error={errors.unitGround}
                      hint="Where the black probe goes for diodes"
                      unset="Not seen yet"
                      options={[
                        ["wire", "by a wire of its own"],
                        ["case", "through its bare case"],
                      ]}
                    />
                  </>
                ) : null}
                <Field label="Nickname" id="nickname" error={errors.nickname}>
                  <input name="nickname" className="field" {...errorProps("nickname", errors.nickname)} />
                </Field>
              </div>
            ) : null}
          </section>
          <section aria-label="Complaint" className="mt-6 flex flex-col gap-4 md:mt-0">
            <Chips
              legend="What the owner says"
              name="complaint"
              options={COMPLAINTS.map(({ id, label }) => ({ id, label }))}
              chosen={complaints}
              onChange={setComplaints}
            />
            <Field label="In the owner's words" id="words" error={errors.words}>
              <textarea name="words" rows={2} className="field py-2" {...errorProps("words", errors.words)} />
            </Field>
            <div className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
              <Field label="Battery age, years" id="batteryAgeYears" error={errors.batteryAgeYears} hint="Empty: not known">
                <input name="batteryAgeYears" inputMode="decimal" className="field num" {...errorProps("batteryAgeYears", errors.batteryAgeYears)} />
              </Field>
              <Field label="Air here, °C" id="ambientC" error={errors.ambientC}>
                <input name="ambientC" inputMode="decimal" defaultValue="20" className="field num" {...errorProps("ambientC", errors.ambientC)} />
              </Field>
              <Field label="Counter stands at" id="useCount" error={errors.useCount} hint="Empty: none">
                <input name="useCount" inputMode="decimal" className="field num" {...errorProps("useCount", errors.useCount)} />
              </Field>
              <Field label="Counted in" id="useUnit" error={errors.useUnit}>
                <select name="useUnit" className="field" defaultValue="h" {...errorProps("useUnit", errors.useUnit)}>
                  <option value="h">hours</option>
                  <option value="km">kilometres</option>
                </select>
              </Field>
            </div>
            <Chips
              legend="Plain causes first"
              name="cause"
              options={PLAIN_CAUSES.map(({ id, question }) => ({ id, label: question }))}
              chosen={causes}
              onChange={setCauses}
            />
            <div className={counter.kind === "plain" ? "rule-left" : "text-mute"} aria-live="polite">
              <p className="m-0">{counter.says}</p>
              {counter.kind === "plain"
                ? counter.advice.map((sentence) => (
                    <p key={sentence} className="m-0 mt-1">
                      {sentence}
                    </p>
                  ))
                : null}
              {counter.kind === "plain" ? (
                <p className="text-mute m-0 mt-1">
                  Three readings on the bench prove it: rest volts, crank dip, charging volts with all loads. {CAUTIONS.hydrogen} {CAUTIONS.acid}
                </p>
              ) : null}
            </div>
            <div className="flex flex-wrap gap-3">
              <button type="submit" className="btn btn-main" disabled={busy}>
                Start on the bench
              </button>
              {counter.kind === "plain" ? (
                <button type="submit" name="end" value="yes" className="btn" disabled={busy}>
                  End it here: plain cause
                </button>
              ) : null}
            </div>
            <p className="text-mute m-0 text-[0.95rem]">{PRECEDENCE}</p>
          </section>
        </Form>
      </main>
    </>
  );
}

/** How many wires come out of the engine of a machine without a sheet: "Three wires". */
function wiresOf(machine: string): string {
  const [id = ""] = machine.replace("family:", "").split("/");
  const count = FAMILIES.find((family) => family.id === id)?.terminals.length ?? 0;
  return `${["The", "One", "Two", "Three", "Four", "Five"][count]} wires`;
}

const choiceValue = ({ kind, ref }: Found): string => `${kind === "machine" ? "unit" : kind}:${ref}`;

/** Something that was found on a long shelf, as a choice; a job is none. */
function choiceOf(found: Found): Offered[] {
  if (found.kind === "job") return [];
  return [{ value: choiceValue(found), name: found.kind === "sheet" ? `A ${found.title}` : found.title, detail: found.more.trim() || "on the books" }];
}

function choicesOf(units: Route.ComponentProps["loaderData"]["units"], sheets: Route.ComponentProps["loaderData"]["sheets"]): Offered[] {
  return [
    ...units.map((unit) => ({ value: `unit:${unit.tag}`, name: `${unit.tag} “${unit.nickname}”`, detail: unit.model })),
    ...sheets.map((sheet) => ({ value: `sheet:${sheet.id}`, name: `A ${sheet.name}`, detail: `${sheet.kind}, not on the books yet` })),
    // Who has no sheet sees wires and a unit; where the readings tell which kind of unit it is, that comes first.
    ...[...FAMILIES]
      .sort((a, b) => b.mayBe.length - a.mayBe.length)
      .flatMap(({ id, title }) => [12, 6].map((volts) => ({ value: `family:${id}/${volts}`, name: `${volts} V, no sheet`, detail: title }))),
  ];
}

interface ChipsProps {
  legend: string;
  name: string;
  options: readonly { id: string; label: string }[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}

function Chips({ legend, name, options, chosen, onChange }: ChipsProps) {
  return (
    <fieldset className="m-0 border-0 p-0">
      <legend className="mb-1 font-medium">{legend}</legend>
      <div className="flex flex-wrap gap-2">
        {options.map(({ id, label }) => (
          <label
            key={id}
            className="border-ink has-checked:bg-ink has-checked:text-paper has-focus-visible:outline-petrol flex min-h-11 cursor-pointer items-center border px-3 has-focus-visible:outline-3"
          >
            <input
              type="checkbox"
              name={name}
              value={id}
              checked={chosen.includes(id)}
              onChange={(event) => onChange(event.target.checked ? [...chosen, id] : chosen.filter((other) => other !== id))}
              className="sr-only"
            />
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
