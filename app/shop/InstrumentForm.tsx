import { Form } from "react-router";
import { type Instrument, LANGUAGES } from "../../store/instruments";
import { errorProps, Field } from "../ui/forms";
import type { Refusal } from "./refusal";

/** The shop's instruments that speak over the network, and one more. */
export function Instruments({ instruments, actionData }: { instruments: readonly Instrument[]; actionData: Refusal | undefined }) {
  return (
    <>
      <h2 className="mt-6">Meters that speak</h2>
      <p className="text-mute mt-0">
        A meter on the workshop's network is read live on the bench. A stand-in plays one: <code>npx uvrel meter --sheet ostrel-burro-520</code>.
      </p>
      {instruments.map((instrument) => (
        <InstrumentForm key={instrument.id} intent={`instrument-${instrument.id}`} title={instrument.name} instrument={instrument} actionData={actionData} />
      ))}
      <InstrumentForm
        intent="instrument-new"
        title="Another one"
        instrument={{ name: "", language: "scpi", host: "127.0.0.1", port: 5025 }}
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

function InstrumentForm({ intent, title, instrument, actionData }: InstrumentFormProps) {
  const mine = actionData?.intent === intent ? actionData : undefined;
  const id = (name: string) => `${intent}-${name}`;
  return (
    <details open={mine !== undefined} className="border-hair border-t py-2">
      <summary className="flex min-h-10 cursor-pointer flex-wrap items-center gap-x-4">
        <span className="font-medium">{title}</span>
        <span className={instrument.name ? "text-mute" : "text-petrol"}>{instrument.name ? `${instrument.host}:${instrument.port}` : "add one"}</span>
      </summary>
      <Form method="post" className="mt-2 grid grid-cols-2 gap-3" preventScrollReset>
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
