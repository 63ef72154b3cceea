import { Form } from "react-router";
import { errorProps, Field } from "../ui/forms";
import type { Refusal } from "./refusal";

interface MeterFormProps {
  intent: string;
  title: string;
  meter: { name: string; leadOhms: number; ohmsResolution: number; trueRms: boolean; diodeMaxVolts: number };
  actionData: Refusal | undefined;
}

const METER_FIELDS = [
  { name: "leadOhms", label: "Lead zero, Ω" },
  { name: "ohmsResolution", label: "Last digit on ohms, Ω" },
  { name: "diodeMaxVolts", label: "Diode dial's limit, V" },
] as const;

/** One of the shop's meters, or a new one. */
export function MeterForm({ intent, title, meter, actionData }: MeterFormProps) {
  const mine = actionData?.intent === intent ? actionData : undefined;
  const id = (name: string) => `${intent}-${name}`;
  return (
    <details open={mine !== undefined} className="border-hair border-t py-2">
      <summary className="flex min-h-10 cursor-pointer flex-wrap items-center gap-x-4">
        <span className="font-medium">{title}</span>
        {meter.name ? (
          <span className="text-mute">
            lead zero {meter.leadOhms} Ω, last digit {meter.ohmsResolution} Ω, {meter.trueRms ? "true rms" : "average responding"}
          </span>
        ) : (
          <span className="text-petrol">add one</span>
        )}
      </summary>
      <Form method="post" className="mt-2 grid grid-cols-2 gap-3" preventScrollReset>
        <Field label="Name" id={id("name")} error={mine?.errors.name}>
          <input name="name" className="field" defaultValue={mine?.typed.name ?? meter.name} {...errorProps(id("name"), mine?.errors.name)} />
        </Field>
        {METER_FIELDS.map(({ name, label }) => (
          <Field key={name} label={label} id={id(name)} error={mine?.errors[name]}>
            <input
              name={name}
              inputMode="decimal"
              className="field num"
              defaultValue={mine?.typed[name] ?? meter[name]}
              {...errorProps(id(name), mine?.errors[name])}
            />
          </Field>
        ))}
        <label className="col-span-2 flex min-h-11 items-center gap-3">
          <input type="checkbox" name="trueRms" value="yes" defaultChecked={mine ? mine.typed.trueRms === "yes" : meter.trueRms} className="size-5" /> True rms
          (otherwise it averages, and chopped AC reads off)
        </label>
        <button type="submit" name="intent" value={intent} className="btn justify-self-start">
          Keep this meter
        </button>
      </Form>
    </details>
  );
}
