import type { RefObject } from "react";
import { Link } from "react-router";
import { isWeighed } from "../../core/diagnosis/population/look";
import { holdMisses } from "../../core/machine/crank";
import { familyOf } from "../../core/machine/families/registry";
import { bandFor } from "../../core/procedure/bands";
import { testOf } from "../../core/procedure/catalogue";
import { type CautionId, toBeSeen } from "../../core/procedure/cautions";
import { type JudgedReading, judgedWords, judgeOne } from "../../core/procedure/judge";
import { oddityOf } from "../../core/procedure/oddities";
import { answers, type Reading, type Step, stepTitle } from "../../core/procedure/step";
import { cautionsOf } from "../../core/procedure/stepCautions";
import type { ToolId } from "../../core/procedure/tools";
import { formatQuantity, isNumber } from "../../core/units";
import type { JobView } from "../jobs/view";
import { Ruler } from "../ruler/Ruler";
import type { SmallPrint } from "./extras";
import { checkTyped } from "./lowest";
import type { Preparation } from "./preparation";
import { Cautions, SetUp } from "./SetUp";
import { WireNames } from "./WireNames";

interface ProbeCardProps {
  view: JobView;
  step: Step;
  text: string;
  /** What the shop has beside a multimeter. */
  tools: readonly ToolId[];
  smallPrint: SmallPrint;
  preparation: Preparation;
  /** Says that the step's cautions have been read; undefined for a job that is closed. */
  onSeen: ((ids: CautionId[]) => void) | undefined;
  swapped: boolean;
  why: boolean;
  /** Said while the next advice is waited for. */
  late: React.ReactNode;
  lastKept: { judgedReading: JudgedReading; link: string } | undefined;
  entry: React.ReactNode;
  actions: React.ReactNode;
  titleRef: RefObject<HTMLHeadingElement | null>;
}

/** One thing to do now: the test, how the machine stands, where the probes go, and what is shown. */
export function ProbeCard({
  view,
  step,
  text,
  tools,
  smallPrint,
  preparation,
  onSeen,
  swapped,
  why,
  late,
  lastKept,
  entry,
  actions,
  titleRef,
}: ProbeCardProps) {
  const { sheet } = view.context;
  const test = testOf(step.test);
  const { naming } = familyOf(sheet.family);
  const done = view.judged.findLast((judgedReading) => view.isNow(judgedReading.reading) && answers(judgedReading.reading, step));
  const before = view.judged.at(-1)?.reading;
  const cautions = [...new Set([...preparation.cautions, ...cautionsOf(step, sheet)])];
  const toSee = onSeen ? toBeSeen(cautions, view.seen) : [];
  const odd = (reading: Reading): string | undefined =>
    oddityOf(
      reading,
      view.current.filter(({ id }) => id !== reading.id),
      tools,
      sheet,
    );
  // While its own step still stands open, it is said beside what was kept there.
  const oddLast = lastKept && lastKept.judgedReading.reading.id !== done?.reading.id ? odd(lastKept.judgedReading.reading) : undefined;
  return (
    <section aria-label="Probe card" className="flex flex-col gap-3">
      {lastKept ? (
        <p className={`text-mute m-0 -mb-1 text-[0.95rem] ${oddLast ? "" : "hidden md:block"}`} aria-live="polite">
          Kept {stepTitle(lastKept.judgedReading.reading)}:{" "}
          <span className="num text-ink">{formatQuantity(lastKept.judgedReading.value, testOf(lastKept.judgedReading.reading.test).unit)}</span>,{" "}
          {judgedWords(lastKept.judgedReading)}.{" "}
          <Link to={lastKept.link} preventScrollReset className="text-petrol underline">
            Back one
          </Link>
          <span className="key">b</span>
          {oddLast ? <span className="text-copper block">{oddLast}</span> : null}
        </p>
      ) : null}
      {late}
      <div>
        <h1 ref={titleRef} tabIndex={-1} className="m-0 outline-none">
          {stepTitle(step)}
        </h1>
        <p className="text-mute m-0 mt-1 max-md:hidden">
          {test.tells} {minutesWords(test.minutes)}
          {isWeighed(step.test, sheet) ? null : " It is judged and noted; the odds do not weigh it."}
        </p>
      </div>
      {/* On a phone the cautions come first: below the set-up the keys would hide them. */}
      <div className="flex flex-col gap-3 max-md:flex-col-reverse">
        <SetUp step={step} sheet={sheet} swapped={swapped} first={preparation.first} />
        <Cautions ids={cautions} before={before ? cautionsOf(before, sheet) : []} toSee={toSee.length} onSeen={() => onSeen?.(toSee)} />
      </div>
      {done ? <DoneReading judgedReading={done} view={view} odd={odd(done.reading)} /> : null}
      {entry}
      {test.unit === "choice" ? null : <LiveRuler {...{ view, step, text, smallPrint, done }} />}
      {test.hint ? (
        <p className="text-mute m-0">
          {test.hint}
          {test.keepLowest ? ` A slow meter’s hold misses about ${holdMisses(sheet).toFixed(1)} V of the first pull.` : ""}
        </p>
      ) : null}
      {naming && step.test === "stator.resistance" ? <WireNames sheet={sheet} naming={naming} /> : null}
      {why ? <Why view={view} step={step} /> : null}
      {actions}
    </section>
  );
}

function minutesWords(minutes: number): string {
  if (minutes < 0.4) return "A few seconds.";
  if (minutes < 1) return "Half a minute.";
  return minutes === 1 ? "One minute." : `${minutes} minutes.`;
}

/** The ruler of the step: fellow legs as thin notches, the kept reading, and what is being typed judged as it stands. */
function LiveRuler({
  view,
  step,
  text,
  smallPrint,
  done,
}: Pick<ProbeCardProps, "view" | "step" | "text" | "smallPrint"> & { done: JudgedReading | undefined }) {
  const test = testOf(step.test);
  const typed = text.trim() === "" ? undefined : checkTyped(text, step);
  const live = typed?.ok
    ? judgeOne({ ...step, ...smallPrint, id: "live", value: typed.value, raw: test.leadZero === true }, view.context, restVolts(view))
    : undefined;
  const band = live?.band ?? done?.band ?? bandFor(step, view.context.sheet, view.context.school, restVolts(view), view.context.ambientC);
  const fellows = view.judged.filter(
    (judgedReading) =>
      view.isNow(judgedReading.reading) &&
      judgedReading.reading.test === step.test &&
      judgedReading.reading.at !== step.at &&
      judgedReading.reading.rpm === step.rpm &&
      test.points !== "diode" &&
      test.points !== "place" &&
      test.points !== "fuse",
  );
  const now = live ?? done;
  const notches = [
    ...fellows.map((fellow) => ({ value: fellow.value, judged: fellow.judged, label: fellow.reading.at })),
    ...(now ? [{ value: now.value, judged: now.judged, now: true, label: step.at && test.points !== "diode" ? step.at : undefined }] : []),
  ];
  const says = [band?.says ?? "no band: noted only", ...(now?.corrections ?? [])].join("; ");
  const result = now ? `${formatQuantity(now.value, test.unit)}: ${judgedWords(now)}` : "nothing read yet";
  return (
    <figure className="m-0">
      <Ruler band={band} notches={notches} unit={test.unit} openAllowed={test.openAllowed} title={`${result}. ${says}`} />
      <figcaption className="flex flex-wrap justify-between gap-x-4">
        <span className="text-mute">{says}</span>
        <strong className="font-semibold" aria-live="polite">
          {now ? judgedWords(now) : ""}
        </strong>
      </figcaption>
    </figure>
  );
}

function restVolts(view: JobView): number | undefined {
  const value = view.judged.findLast((judgedReading) => judgedReading.reading.test === "battery.rest" && !judgedReading.reading.afterRepair)?.value;
  return value !== undefined && isNumber(value) ? value : undefined;
}

/** What stands kept for this step, and what stood there before. */
function DoneReading({ judgedReading, view, odd }: { judgedReading: JudgedReading; view: JobView; odd: string | undefined }) {
  const test = testOf(judgedReading.reading.test);
  const trail: string[] = [];
  let earlier = view.history.find((line) => line.id === judgedReading.reading.id);
  while (earlier?.supersedes) {
    const why = earlier.supersedesWhy === "mistyped" ? "mistyped" : "before it was taken again";
    earlier = view.history.find((line) => line.id === earlier?.supersedes);
    if (earlier) trail.push(`${formatQuantity(earlier.value, test.unit)} (${why})`);
  }
  const shown =
    judgedReading.reading.raw && judgedReading.value !== judgedReading.reading.value
      ? `, the meter showed ${formatQuantity(judgedReading.reading.value, test.unit)}`
      : "";
  return (
    <p className="border-hair m-0 border-y py-2">
      <span className="num mr-1.5 text-xl">{formatQuantity(judgedReading.value, test.unit)}</span> kept{shown}.
      {trail.length > 0 ? <span className="text-mute"> Earlier: {trail.join(", ")}.</span> : null}
      {odd ? <span className="text-copper block">{odd}</span> : null}
    </p>
  );
}

function Why({ view, step }: { view: JobView; step: Step }) {
  const test = testOf(step.test);
  const band = bandFor(step, view.context.sheet, view.context.school, restVolts(view), view.context.ambientC);
  const { school } = view.context;
  return (
    <div className="border-hair border-t pt-2">
      <h2 className="m-0 mb-1">Why this step</h2>
      <p className="m-0">
        {test.tells} {band ? `The band comes from: ${band.says}.` : "Neither sheet nor school has a band for it, so it is noted only."} The {school.title}{" "}
        school works {school.order.slice(1).join(", ")}; “{school.saying}”
      </p>
    </div>
  );
}
