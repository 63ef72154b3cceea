import { useState } from "react";
import { Form } from "react-router";
import { RATING_IDS, RATINGS } from "../../core/battery/ratings";
import { testOf } from "../../core/procedure/catalogue";
import { isReadIn } from "../../core/procedure/jacks";
import { swings } from "../../core/procedure/judge";
import { type Step, stepKey } from "../../core/procedure/step";
import { OPEN_LINE } from "../../core/units";
import { Countdown } from "./Countdown";
import { extrasOf, type SmallPrint } from "./extras";
import { checkTyped } from "./lowest";
import { Pad } from "./Pad";
import type { Preparation } from "./preparation";

/** What the form, or a live meter, hands up once an entry has passed its checks. */
export interface KeptEntry extends SmallPrint {
  value: number | string;
  /** Of a meter with leads, or a last digit, of its own, Ω. */
  leadOhms?: number;
  ohmsResolution?: number;
  supersedesWhy: "mistyped" | "taken-again";
}

interface EntryFormProps {
  step: Step;
  text: string;
  setText: (text: string) => void;
  /** True when the step has a reading already, which this one will take the place of. */
  replaces: boolean;
  narrow: boolean;
  /** A live meter is heard in the place of the field and its keys. */
  folded: boolean;
  /** Hours of rest the school asks for, as the first guess. */
  restHours: number;
  /** Amps of a load test by the battery's label, as the first guess; undefined where there is no battery. */
  loadAmps: number | undefined;
  /** How the machine is to stand for this reading: ticked beforehand. */
  preparation: Preparation;
  /** The shop has a second meter: a reading may be of that. */
  twoMeters: boolean;
  refusal: string | undefined;
  onKeep: (entry: KeptEntry) => void;
  onSkip: () => void;
  /** Told of the small print as it is typed, so that the ruler shows what will be kept. */
  onSmallPrint: (print: SmallPrint) => void;
  inputRef: React.RefObject<HTMLInputElement | null>;
}

/** The entry: a big field, the open line, Keep; large keys below it on a phone. */
export function EntryForm({
  step,
  text,
  setText,
  replaces,
  narrow,
  folded,
  restHours,
  loadAmps,
  preparation,
  twoMeters,
  refusal,
  onKeep,
  onSkip,
  onSmallPrint,
  inputRef,
}: EntryFormProps) {
  const test = testOf(step.test);
  const [error, setError] = useState<string>();
  const [asked, setAsked] = useState<{ text: string; question: string }>();
  const type = (next: string): void => {
    setText(next);
    setError(undefined);
    setAsked(undefined);
  };
  const keep = (typed: string, form: FormData): void => {
    const checked = checkTyped(typed, step);
    if (!checked.ok) return setError(checked.error);
    const extras = extrasOf(form, step);
    if (typeof extras === "string") return setError(extras);
    if (checked.question && asked?.text !== typed) return setAsked({ text: typed, question: checked.question });
    setError(undefined);
    setAsked(undefined);
    onKeep({ value: checked.value, ...extras, supersedesWhy: form.get("supersedesWhy") === "taken-again" ? "taken-again" : "mistyped" });
  };
  const submit = (event: React.FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const submitter = (event.nativeEvent as SubmitEvent).submitter;
    const word = submitter instanceof HTMLButtonElement && submitter.name === "value" ? submitter.value : undefined;
    keep(word ?? text, new FormData(event.currentTarget));
  };
  const printed = (event: React.FormEvent<HTMLFormElement>): void => {
    const extras = extrasOf(new FormData(event.currentTarget), step);
    onSmallPrint(typeof extras === "string" ? {} : extras);
  };
  const problem = error ?? refusal;
  const isTyped = test.unit !== "choice" && !folded;
  return (
    <Form method="post" onSubmit={submit} onChange={printed} id="entry" key={stepKey(step)} noValidate>
      <input type="hidden" name="step" value={stepKey(step)} />
      {test.unit === "choice" ? <Choices words={test.choices ?? []} /> : null}
      <div className={!isTyped ? "" : "bg-paper max-md:border-ink z-10 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:border-t-2"}>
        {isTyped ? <Figure {...{ test, text, narrow, inputRef, bad: problem !== undefined }} onType={type} /> : null}
        <div id="entry-says" role="alert" className={problem || asked ? "rule-left my-1 md:mt-2" : ""}>
          {problem ? <p className="m-0">{problem}</p> : null}
          {asked ? <Question question={asked.question} onAgain={() => type("")} /> : null}
        </div>
        {narrow && isTyped ? (
          <Pad
            onType={(digit) => type(digit === "-" ? toggleSign(text) : text + digit)}
            onErase={() => type(text.slice(0, -1))}
            open={test.openAllowed}
            onSkip={onSkip}
            extra={test.keepLowest ? "next" : test.unit === "V" || test.unit === "A" ? "−" : undefined}
          />
        ) : null}
      </div>
      <Extras {...{ step, restHours, loadAmps, preparation, twoMeters, replaces }} />
    </Form>
  );
}

interface FigureProps {
  test: ReturnType<typeof testOf>;
  text: string;
  narrow: boolean;
  bad: boolean;
  onType: (text: string) => void;
  inputRef: React.RefObject<HTMLInputElement | null>;
}

/** The big field itself, with the open line and Keep beside it on a wide screen. */
function Figure({ test, text, narrow, bad, onType, inputRef }: FigureProps) {
  return (
    <div className="bg-sheet border-ink flex h-[66px] items-stretch md:h-[72px] md:border-2">
      <label className="flex min-w-0 flex-1 items-center">
        <span className="sr-only">What the meter shows, in {test.unit}</span>
        <input
          ref={inputRef}
          data-entry=""
          name="value"
          value={text}
          onChange={(event) => onType(event.target.value)}
          inputMode={narrow ? "none" : "text"}
          autoComplete="off"
          aria-invalid={bad ? true : undefined}
          aria-describedby="entry-says"
          className="num h-full w-full min-w-0 bg-transparent px-4 text-[2.4rem] outline-none md:text-[2.7rem]"
        />
        <span className="text-mute shrink-0 pr-4 text-2xl" aria-hidden="true">
          {test.unit}
        </span>
      </label>
      {/* Keep stands first: Enter in the field presses the first button of the form, whatever is drawn where. */}
      <button type="submit" className="order-last bg-ink text-paper hidden w-32 text-lg font-medium md:block">
        Keep<span className="key">↵</span>
      </button>
      {test.openAllowed ? (
        <button type="submit" name="value" value={OPEN_LINE} className="border-ink hidden w-36 border-l-2 text-lg font-medium md:block">
          Open line<span className="key">o</span>
        </button>
      ) : null}
    </div>
  );
}

/** An unlikely figure is kept after one question. */
function Question({ question, onAgain }: { question: string; onAgain: () => void }) {
  return (
    <p className="m-0 flex flex-wrap items-center gap-3">
      {question}
      <button type="submit" className="btn min-h-10">
        Keep it<span className="key">↵</span>
      </button>
      <button type="button" className="min-h-10 underline" onClick={onAgain}>
        Type again
      </button>
    </p>
  );
}

function toggleSign(text: string): string {
  return text.startsWith("-") ? text.slice(1) : `-${text}`;
}

function Choices({ words }: { words: readonly string[] }) {
  return (
    <div className="grid gap-2 sm:grid-cols-3">
      {words.map((word, i) => (
        <button key={word} type="submit" name="value" value={word} className="btn min-h-16 text-lg">
          {word}
          <span className="key">{i + 1}</span>
        </button>
      ))}
    </div>
  );
}

/** The small print of a reading: the real rpm, hours of rest, heat, a full charge before it, and why an earlier one is replaced. */
function Extras({
  step,
  restHours,
  loadAmps,
  preparation,
  twoMeters,
  replaces,
}: Pick<EntryFormProps, "step" | "restHours" | "loadAmps" | "preparation" | "twoMeters" | "replaces">) {
  const { charged, hot, secondMeter } = preparation;
  const test = testOf(step.test);
  const small = "border-hair bg-sheet num min-h-9 w-20 border px-2";
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 empty:hidden">
      {typeof step.rpm === "number" ? (
        <label className="text-mute flex items-center gap-2">
          read at <input name="rpm" defaultValue={step.rpm} inputMode="numeric" className={small} /> rpm
        </label>
      ) : null}
      {step.test === "battery.rest" ? (
        <label className="text-mute flex items-center gap-2">
          rested <input name="restHours" defaultValue={restHours} inputMode="decimal" className={small} /> hours
        </label>
      ) : null}
      {swings(step.test) ? (
        <label className="text-mute flex items-center gap-2">
          {test.unit === "Ω" ? "wiggled, it moves by" : "swings by"} <input name="swing" inputMode="decimal" className={small} /> {test.unit}
        </label>
      ) : null}
      {(test.group === "stator" && test.unit === "Ω") || step.test === "charge.volts" ? (
        <label className="text-mute flex min-h-9 items-center gap-2">
          <input key={`${hot}`} type="checkbox" name="hot" defaultChecked={hot} className="size-5" /> {test.unit === "Ω" ? "winding hot" : "everything hot"}
        </label>
      ) : null}
      {(test.group === "battery" && test.unit !== "choice") || (step.test === "charge.volts" && loadAmps !== undefined) ? (
        <label className="text-mute flex min-h-9 items-center gap-2">
          <input key={`${charged}`} type="checkbox" name="charged" defaultChecked={charged} className="size-5" /> after a full charge
        </label>
      ) : null}
      {step.test === "battery.load" ? (
        <>
          <Countdown />
          <label className="text-mute flex items-center gap-2">
            loaded with <input name="amps" defaultValue={loadAmps} inputMode="decimal" className={small} /> A
          </label>
        </>
      ) : null}
      {step.test === "battery.crankingAmps" ? (
        <span className="text-mute flex min-h-9 items-center gap-2">
          amps of
          <select name="rating" aria-label="Standard of the cranking amps" defaultValue="sae" className="border-hair bg-sheet min-h-9 border px-2">
            {RATING_IDS.map((standard) => (
              <option key={standard} value={standard}>
                {RATINGS[standard]}
              </option>
            ))}
          </select>
        </span>
      ) : null}
      {test.touches ? (
        <label className="text-mute flex min-h-9 items-center gap-2">
          <input type="checkbox" name="touched" value={test.touches === "lug" ? "post" : "lug"} className="size-5" />
          {test.touches === "lug" ? "on the post itself, not the cable's lug" : "clamped on the cable's lug, not the post"}
        </label>
      ) : null}
      {twoMeters && isReadIn("volts", test) ? (
        <label className="text-mute flex min-h-9 items-center gap-2">
          <input key={`${secondMeter}`} type="checkbox" name="secondMeter" defaultChecked={secondMeter} className="size-5" /> on the second meter
        </label>
      ) : null}
      {replaces ? (
        <fieldset className="text-mute m-0 flex gap-4 border-0 p-0">
          <legend className="sr-only">Why the kept reading is replaced</legend>
          <label className="flex min-h-9 items-center gap-2">
            <input type="radio" name="supersedesWhy" value="mistyped" defaultChecked className="size-5" /> it was mistyped
          </label>
          <label className="flex min-h-9 items-center gap-2">
            <input type="radio" name="supersedesWhy" value="taken-again" className="size-5" /> taken again
          </label>
        </fieldset>
      ) : null}
    </div>
  );
}
