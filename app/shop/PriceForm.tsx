import { Form } from "react-router";
import type { Prices } from "../../core/diagnosis/planning/prices";
import { PART_NAMES, PARTS } from "../../core/machine/part";
import { errorProps, Field } from "../ui/forms";
import type { Refusal } from "./refusal";

/** What the shop charges: the odds are weighed in money, so that a cheap repair is tried before a dear one. */
export function PriceForm({ prices, actionData }: { prices: Prices; actionData: Refusal | undefined }) {
  const mine = actionData?.intent === "prices" ? actionData : undefined;
  const field = (name: string, value: number, label: string) => (
    <Field label={label} id={`price-${name}`} error={mine?.errors[name]}>
      <input
        name={name}
        inputMode="decimal"
        className="field num"
        defaultValue={mine?.typed[name] ?? value}
        {...errorProps(`price-${name}`, mine?.errors[name])}
      />
    </Field>
  );
  return (
    <details open={mine !== undefined} className="border-hair border-b pb-2">
      <summary className="min-h-10 cursor-pointer">
        <h2 className="m-0 inline">Prices</h2>{" "}
        <span className="text-mute">an hour of labour {prices.labourPerHour}; what parts cost, and how long they take to change</span>
      </summary>
      <Form method="post" className="mt-2 flex flex-col gap-3" preventScrollReset>
        <div className="max-w-48">{field("labourPerHour", prices.labourPerHour, "Labour, an hour")}</div>
        {PARTS.map((part) => (
          <fieldset key={part} className="m-0 grid grid-cols-[9rem_1fr_1fr] items-end gap-3 border-0 p-0">
            <legend className="sr-only">{PART_NAMES[part]}</legend>
            <span className="pb-3 font-medium" aria-hidden="true">
              {PART_NAMES[part]}
            </span>
            {field(`${part}.money`, prices.parts[part].money, "Price")}
            {field(`${part}.minutes`, prices.parts[part].minutes, "Minutes")}
          </fieldset>
        ))}
        <button type="submit" name="intent" value="prices" className="btn self-start">
          Keep these prices
        </button>
      </Form>
    </details>
  );
}
