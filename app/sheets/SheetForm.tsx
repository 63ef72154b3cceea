import { type FieldMetadata, getFieldsetProps, getFormProps, getInputProps, getSelectProps, type SubmissionResult, useForm } from "@conform-to/react";
import type { ReactNode } from "react";
import { Form } from "react-router";
import { CHEMISTRIES } from "../../core/battery/charge";
import { PLACE_IDS, PLACES, type PlaceId } from "../../core/machine/access";
import { FAMILY_IDS, familyOf } from "../../core/machine/families/registry";
import { ISOLATOR_WORDS, ISOLATORS, type Isolator } from "../../core/machine/isolator";
import { KIND_IDS, KINDS, type Kind } from "../../core/machine/kind";
import type { Sheet } from "../../core/machine/sheet";
import { WIRE_COLOURS } from "../../core/machine/wire";
import { CATALOGUE, type Test } from "../../core/procedure/catalogue";
import { testTitle } from "../../core/procedure/step";

/** What the form starts from: a sheet, or the bare bones of a new one. */
type SheetDraft = Partial<Sheet>;

interface SheetFormProps {
  draft: SheetDraft;
  lastResult: SubmissionResult | null | undefined;
  submit: string;
  /** Which version of the sheet it starts from. */
  changedAt?: string | undefined;
  /** What there is to say beside the errors of the whole form. */
  children?: ReactNode;
}

/** The sheet as a form: every field of the schema, lists that grow, errors beside the field they belong to. */
export function SheetForm({ draft, lastResult, submit, changedAt, children }: SheetFormProps) {
  const [form, fields] = useForm<Sheet>({
    lastResult: lastResult ?? null,
    defaultValue: draft,
    shouldRevalidate: "onInput",
    shouldValidate: "onSubmit",
  });
  const legs = fields.legs.getFieldList();
  const bands = fields.bands.getFieldList();
  const fuses = fields.fuses.getFieldList();
  const battery = fields.battery.getFieldset();
  const plug = fields.statorConnector.getFieldset();
  const output = fields.outputWire.getFieldset();
  const ground = fields.groundWire.getFieldset();
  const loads = fields.loadAmps.getFieldset();
  const wakes = fields.wakes.getFieldset();
  const access = fields.access.getFieldList();
  return (
    <Form method="post" {...getFormProps(form)} className="flex flex-col gap-8">
      {changedAt ? <input type="hidden" name="changedAt" value={changedAt} /> : null}
      {form.errors ? (
        <p role="alert" className="rule-left m-0">
          {form.errors.join(" ")}
        </p>
      ) : null}
      {children}
      <Group title="The model">
        <Text field={fields.id} label="Short name (for case files)" />
        <Text field={fields.maker} label="Maker" />
        <Text field={fields.model} label="Model" />
        <Text field={fields.years} label="Years" />
        <Pick field={fields.kind} label="Kind" options={KIND_IDS} words={(id) => KINDS[id as Kind]} />
        <Pick field={fields.family} label="Family" options={FAMILY_IDS} words={(id) => familyOf(id).title} />
        <Pick field={fields.winding} label="Winding" options={["wye", "delta", "unknown"]} />
        <Text field={fields.polePairs} label="Pole pairs" numeric />
        <Pick field={fields.systemVolts} label="System volts" options={["12", "6"]} />
        <Pick field={fields.earth} label="Earth" options={["negative", "positive"]} />
        <Pick field={fields.sense} label="Regulator senses at" options={["output", "battery", "unknown"]} />
        <Pick field={fields.unitGround} label="Unit grounded by" options={["wire", "case"]} />
        <Pick field={fields.drive} label="Generator turned by" options={["belt", "engine"]} optional />
        <Text field={fields.tach} label="Tachometer counts wire" />
        <Pick field={fields.isolator} label="Between two batteries" options={ISOLATORS} words={(id) => ISOLATOR_WORDS[id as Isolator]} optional />
      </Group>
      <Group title="Stator plug and the wires out of the engine">
        <Text field={plug.name} label="Plug" />
        <Text field={plug.place} label="Where it sits" />
        {legs.map((leg, i) => {
          const own = leg.getFieldset();
          const wire = own.wire.getFieldset();
          return (
            <fieldset
              key={leg.key}
              className="border-hair col-span-full grid grid-cols-2 items-end gap-3 border-t pt-2 sm:grid-cols-[1fr_1fr_1fr_1fr_auto]"
              {...getFieldsetProps(leg)}
            >
              <legend className="sr-only">Leg {i + 1}</legend>
              <Text field={own.id} label={`Leg ${i + 1}, name`} />
              <Text field={own.pin} label="Pin" />
              <Pick field={wire.base} label="Wire" options={WIRE_COLOURS} />
              <Pick field={wire.tracer} label="Tracer" options={WIRE_COLOURS} optional />
              <button type="submit" className="btn" {...form.remove.getButtonProps({ name: fields.legs.name, index: i })}>
                Remove
              </button>
            </fieldset>
          );
        })}
        <button type="submit" className="btn col-span-full justify-self-start" {...form.insert.getButtonProps({ name: fields.legs.name })}>
          Add a wire
        </button>
        <Pick field={output.base} label="Output wire" options={WIRE_COLOURS} />
        <Pick field={output.tracer} label="Its tracer" options={WIRE_COLOURS} optional />
        <Pick field={ground.base} label="Ground wire" options={WIRE_COLOURS} />
        <Pick field={ground.tracer} label="Its tracer" options={WIRE_COLOURS} optional />
      </Group>
      <Group title="Battery, speeds and currents">
        <Pick field={battery.chemistry} label="Battery" options={CHEMISTRIES} />
        <Text field={battery.ah} label="Ah" numeric />
        <Text field={battery.cca} label="Cranking amps" numeric />
        <Text field={battery.microfarads} label="Microfarads, of a capacitor" numeric />
        <Text field={fields.idleRpm} label="Idle rpm" numeric />
        <Text field={fields.testRpm} label="Test rpm" numeric />
        <Text field={wakes.aboveRpm} label="Wakes above, rpm" numeric />
        <Text field={wakes.afterSeconds} label="Wakes after, s" numeric />
        <Text field={fields.ratedAmps} label="Rated output, A" numeric />
        <Text field={loads.normal} label="Loads as ridden, A" numeric />
        <Text field={loads.all} label="All loads, A" numeric />
      </Group>
      <Group title="Fuses, the charge line's first">
        {fuses.map((fuse, i) => {
          const own = fuse.getFieldset();
          return (
            <fieldset key={fuse.key} className="col-span-full grid grid-cols-[6rem_6rem_1fr_auto] items-end gap-3">
              <legend className="sr-only">Fuse {i + 1}</legend>
              <Text field={own.id} label="Fuse" />
              <Text field={own.amps} label="A" numeric />
              <Text field={own.feeds} label="Feeds" />
              <button type="submit" className="btn" {...form.remove.getButtonProps({ name: fields.fuses.name, index: i })}>
                Remove
              </button>
            </fieldset>
          );
        })}
        <button type="submit" className="btn justify-self-start" {...form.insert.getButtonProps({ name: fields.fuses.name })}>
          Add a fuse
        </button>
      </Group>
      <Group title="Bands the sheet prints">
        {bands.map((band, i) => {
          const own = band.getFieldset();
          return (
            <fieldset
              key={band.key}
              className="border-hair col-span-full grid grid-cols-2 items-end gap-3 border-t pt-2 md:grid-cols-[2fr_1fr_1fr_1fr_1fr_1fr_1fr_auto]"
            >
              <legend className="sr-only">Band {i + 1}</legend>
              <Pick
                field={own.test}
                label="Test"
                options={CATALOGUE.filter((test) => test.unit !== "choice").map((test) => test.id)}
                words={(id) => bandTitle(id)}
              />
              <Text field={own.at} label="Point" />
              <Text field={own.low} label="From" numeric />
              <Text field={own.high} label="To" numeric />
              <Text field={own.rpm} label="At rpm" numeric />
              <Pick field={own.loads} label="Loads" options={["off", "normal", "all"]} optional />
              <Text field={own.page} label="Page" />
              <button type="submit" className="btn" {...form.remove.getButtonProps({ name: fields.bands.name, index: i })}>
                Remove
              </button>
            </fieldset>
          );
        })}
        <button type="submit" className="btn justify-self-start" {...form.insert.getButtonProps({ name: fields.bands.name })}>
          Add a band
        </button>
      </Group>
      <Group title="Ways in: what comes off, with which tools, in how many minutes">
        {access.map((way, i) => {
          const own = way.getFieldset();
          return (
            <fieldset
              key={way.key}
              className="col-span-full grid grid-cols-2 items-end gap-3 md:grid-cols-[11rem_6rem_1fr_1fr_auto]"
              {...getFieldsetProps(way)}
            >
              <legend className="sr-only">Way {i + 1}</legend>
              <Pick field={own.place} label="To" options={PLACE_IDS} words={(id) => PLACES[id as PlaceId].title.replace("the ", "")} />
              <Text field={own.minutes} label="Minutes" numeric />
              <Text field={own.steps} label="What comes off" />
              <Text field={own.tools} label="Tools" />
              <button type="submit" className="btn" {...form.remove.getButtonProps({ name: fields.access.name, index: i })}>
                Remove
              </button>
            </fieldset>
          );
        })}
        <button type="submit" className="btn col-span-full justify-self-start" {...form.insert.getButtonProps({ name: fields.access.name })}>
          Add a way in
        </button>
      </Group>
      <Group title="Where it comes from">
        <Text field={fields.source} label="Source" wide />
      </Group>
      <button type="submit" className="btn btn-main self-start">
        {submit}
      </button>
    </Form>
  );
}

function bandTitle(id: string): string {
  const test = (CATALOGUE as readonly Test[]).find((row) => row.id === id);
  return test ? `${testTitle(test)}, ${test.unit}` : id;
}

function Group({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section>
      <h2 className="m-0 mb-2">{title}</h2>
      <div className="grid grid-cols-2 gap-3 md:grid-cols-4">{children}</div>
    </section>
  );
}

function Text({ field, label, numeric = false, wide = false }: { field: unknown; label: string; numeric?: boolean; wide?: boolean }) {
  const input = field as FieldMetadata<string>;
  const { key, ...props } = getInputProps(input, { type: "text" });
  return (
    <div className={`flex flex-col gap-0.5 ${wide ? "col-span-full" : ""}`}>
      <label htmlFor={input.id} className="text-mute text-[0.95rem]">
        {label}
      </label>
      <input key={key} {...props} inputMode={numeric ? "decimal" : "text"} className={`field ${numeric ? "num" : ""}`} />
      <Errors field={input} />
    </div>
  );
}

interface PickProps {
  field: unknown;
  label: string;
  options: readonly string[];
  words?: (option: string) => string;
  optional?: boolean;
}

function Pick({ field, label, options, words = (option) => option, optional = false }: PickProps) {
  const input = field as FieldMetadata<string>;
  const { key, ...props } = getSelectProps(input);
  return (
    <div className="flex min-w-0 flex-col gap-0.5">
      <label htmlFor={input.id} className="text-mute text-[0.95rem]">
        {label}
      </label>
      <select key={key} {...props} className="field">
        {optional || !input.initialValue ? <option value="">{optional ? "none" : "pick one"}</option> : null}
        {options.map((option) => (
          <option key={option} value={option}>
            {words(option)}
          </option>
        ))}
      </select>
      <Errors field={input} />
    </div>
  );
}

function Errors({ field }: { field: FieldMetadata<string> }) {
  if (!field.errors) return null;
  return (
    <p id={field.errorId} role="alert" className="rule-left m-0 text-[0.95rem]">
      {field.errors.join(" ")}
    </p>
  );
}
