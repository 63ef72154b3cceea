import { Form } from "react-router";
import { JACK_IDS, JACKS } from "../../core/procedure/jacks";
import { type Instrument, LANGUAGES } from "../../store/instruments";
import { errorProps, Field } from "../ui/forms";
import type { Refusal } from "./refusal";

/** The shop's instruments that speak over the network, and one more. */
export function Instruments({ instruments, actionData }: { instruments: readonly Instrument[]; actionData: Refusal | undefined }) {
  return (
    <>
      <h2 className="mt-6">Meters that speak</h2>
      <p className="text-mute mt-0">
        A meter on the workshop's network is read live on the bench; of several, each step is heard from the one whose lead sits right for it. A stand-in plays
        one: <code>npx uvrel meter --sheet ostrel-burro-520</code>.
      </p>
      {instruments.map((instrument) => (
        <InstrumentForm key={instrument.id} intent={`instrument-${instrument.id}`} title={instrument.name} instrument={instrument} actionData={actionData} />
      ))}
      <InstrumentForm
        // Once one was added the form is empty and closed again.
        key={`new, after ${instruments.length}`}
        intent="instrument-new"
        title="Another one"
        instrument={{ name: "", language: "scpi", host: "127.0.0.1", port: 5025, jack: null, leadOhms: null, ohmsResolution: null, secondMeter: false }}
        actionData={actionData}
      />
    </>
  );
}

interface InstrumentFormProps {
  intent: string;
  title: string;
  instrument: Omit<Instrument, "id">;
  actionData: Refusal | undefined;
}

const OWN_FIGURES = [
  { name: "leadOhms", label: "Lead zero, Ω" },
  { name: "ohmsResolution", label: "Last digit on ohms, Ω" },
] as const;

/** An instrument in a line: where it is called, where its lead sits, what it is. */
function told({ host, port, jack, secondMeter }: Omit<Instrument, "id">): string {
  return [`${host}:${port}`, ...(jack ? [JACKS[jack]] : []), ...(secondMeter ? ["second meter"] : [])].join(", ");
}

function InstrumentForm({ intent, title, instrument, actionData }: InstrumentFormProps) {
  const mine = actionData?.intent === intent ? actionData : undefined;
  const id = (name: string) => `${intent}-${name}`;
  return (
    <details open={mine !== undefined} className="border-hair border-t py-2">
      <summary className="flex min-h-10 cursor-pointer flex-wrap items-center gap-x-4">
        <span className="font-medium">{title}</span>
        <span className={instrument.name ? "text-mute" : "text-petrol"}>{instrument.name ? told(instrument) : "add one"}</span>
      </summary>
      <Form method="post" className="mt-2 grid gap-3 sm:grid-cols-2" preventScrollReset>
        <Field label="Name" id={id("name")} error={mine?.errors.name}>
          <input name="name" className="field" defaultValue={mine?.typed.name ?? instrument.name} {...errorProps(id("name"), mine?.errors.name)} />
        </Field>
        <Field label="Speaks" id={id("language")} error={mine?.errors.language}>
          <select
            name="language"
            className="field"
            defaultValue={mine?.typed.language ?? instrument.language}
            {...errorProps(id("language"), mine?.errors.language)}
          >
            {Object.entries(LANGUAGES).map(([language, says]) => (
              <option key={language} value={language}>
                {says}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Address" id={id("host")} error={mine?.errors.host}>
          <input name="host" className="field" defaultValue={mine?.typed.host ?? instrument.host} {...errorProps(id("host"), mine?.errors.host)} />
        </Field>
        <Field label="Port" id={id("port")} error={mine?.errors.port}>
          <input
            name="port"
            inputMode="numeric"
            className="field num"
            defaultValue={mine?.typed.port ?? String(instrument.port)}
            {...errorProps(id("port"), mine?.errors.port)}
          />
        </Field>
        <Field label="Its red lead" id={id("jack")} error={mine?.errors.jack}>
          <select name="jack" className="field" defaultValue={mine?.typed.jack ?? instrument.jack ?? ""} {...errorProps(id("jack"), mine?.errors.jack)}>
            <option value="">moved by hand as the dial is turned</option>
            {JACK_IDS.map((jack) => (
              <option key={jack} value={jack}>
                {JACKS[jack]}
              </option>
            ))}
          </select>
        </Field>
        {OWN_FIGURES.map(({ name, label }) => (
          <Field key={name} label={label} id={id(name)} error={mine?.errors[name]}>
            <input
              name={name}
              inputMode="decimal"
              placeholder="as the job's meter"
              className="field num"
              defaultValue={mine?.typed[name] ?? instrument[name] ?? ""}
              {...errorProps(id(name), mine?.errors[name])}
            />
          </Field>
        ))}
        <label className="flex min-h-11 items-center gap-3 sm:col-span-2">
          <input
            type="checkbox"
            name="secondMeter"
            value="yes"
            defaultChecked={mine ? mine.typed.secondMeter === "yes" : instrument.secondMeter}
            className="size-5"
          />{" "}
          It is the second meter: what it reads proves the first one
        </label>
        <button type="submit" name="intent" value={intent} className="btn justify-self-start">
          Keep this one
        </button>
        {instrument.name ? (
          <button type="submit" name="intent" value={`${intent}-gone`} className="min-h-10 justify-self-start underline">
            Take it off
          </button>
        ) : null}
      </Form>
    </details>
  );
}
