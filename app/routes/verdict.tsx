import { useEffect, useMemo, useRef, useState } from "react";
import { data, Form, Link, redirect, useActionData } from "react-router";
import { z } from "zod";
import type { Advice } from "../../core/diagnosis/advice";
import { looseVerdict } from "../../core/diagnosis/loose";
import { remediesOf } from "../../core/diagnosis/remedies";
import { marksOf, wiringBreaks } from "../../core/diagnosis/words/marks";
import { foundWords } from "../../core/diagnosis/words/words";
import { FAULTS, type FaultId } from "../../core/machine/faults";
import type { Loose } from "../../core/machine/loose";
import { PARTS } from "../../core/machine/part";
import { REPAIRS } from "../../core/machine/repairs/repairs";
import type { Sheet } from "../../core/machine/sheet";
import { PRECEDENCE } from "../../core/procedure/cautions";
import { type Controls, controlsOf } from "../../core/procedure/controls";
import { isBad, judgedWords } from "../../core/procedure/judge";
import { beforeRepair, proofSteps } from "../../core/procedure/runlist";
import { answers, stepKey, stepTitle } from "../../core/procedure/step";
import type { JobFile } from "../../store/jobs";
import type { Store } from "../../store/store";
import { EngineVerdict } from "../bench/EngineVerdict";
import { EngineProgress } from "../bench/OddsPanel";
import { OtherSchools } from "../bench/OtherSchools";
import { ProofRow } from "../bench/ProofRow";
import { Cautions } from "../bench/SetUp";
import { personContext } from "../context";
import { formOf, sendOnce } from "../forms.server";
import { foreseeBehind, noteClosing, noteStatement } from "../jobs/closing.server";
import { endingsOf } from "../jobs/endings";
import { adviceOf, jobFileOf, shopKnows } from "../jobs/file.server";
import { Refused, Waiting } from "../jobs/NotKept";
import { ofMachine } from "../jobs/ofMachine";
import { repairedName } from "../jobs/repaired";
import { useEngine } from "../jobs/useEngine";
import { useOutbox } from "../jobs/useOutbox";
import { type JobView, viewOf } from "../jobs/view";
import { Loom } from "../loom/Loom";
import { LOOSE_ZONES } from "../loom/layout";
import { tagsOf } from "../loom/tags";
import { errorProps, Field } from "../ui/forms";
import { useKeys } from "../ui/keys";
import { TopBar } from "../ui/TopBar";
import { useFastLinks } from "../ui/useFastLinks";
import { FormId, NotSent, needsNews, sentOrKept } from "../unsent";
import type { Route } from "./+types/verdict";

/** Machines that a loose part can be put with from a list. */
const OFFERED = 300;

export function loader({ context, params }: Route.LoaderArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const knows = shopKnows(store, file);
  const units = file.job.sheet.loose ? store.workshop.units(OFFERED).map(({ tag, nickname }) => ({ tag, nickname })) : [];
  return { file, knows, kept: adviceOf(context, file, knows), units };
}

const repairSchema = z.object({
  part: z.enum([...PARTS, "none"], { error: "Pick the part that was mended." }),
  fault: z.string().optional(),
  found: z.string().max(500).optional(),
  done: z.string().trim().min(1, "Say in a few words what was done.").max(500, "May hold 500 characters at most."),
});

const closeSchema = z.object({
  ending: z.enum(["proven", "healthy", "plain-cause", "unproven"], { error: "Pick how the job ends." }),
  note: z.string().trim().max(500, "May hold 500 characters at most."),
});

export async function action({ request, params, context }: Route.ActionArgs) {
  const { store, file } = jobFileOf(context, params.id);
  const posted = await formOf(request);
  const form = Object.fromEntries(posted);
  const now = new Date().toISOString();
  let errors: Record<string, string> = {};
  // What another hand did while this form was on its way counts: the job is looked at where it is written.
  const by = context.get(personContext)?.name;
  const leadsTo = await sendOnce(store, posted, now, () => {
    const done = change(store, store.jobs.file(file.job.id) ?? file, form, now, by);
    if (typeof done === "string") return done;
    errors = done;
    return undefined;
  });
  if (leadsTo && form.intent === "close") foreseeBehind(store, file.job.id, new Date(now));
  return leadsTo ? redirect(leadsTo) : refuse(errors, form);
}

/** Repairs, closes or opens a job as a form says. @returns the page it leads to, or what is wrong by field; then nothing was written */
function change(store: Store, file: JobFile, form: Record<string, FormDataEntryValue>, now: string, by: string | undefined): string | Record<string, string> {
  const { id, closedAt } = file.job;
  if (form.intent === "reopen") {
    store.jobs.reopen(id, now, by);
    return `/jobs/${id}/verdict`;
  }
  if (closedAt) return { form: "This job is closed. Open it again before you change it." };
  if (form.intent === "repair") {
    const parsed = repairSchema.safeParse(form);
    if (!parsed.success) return messages(parsed.error);
    // What the screen held responsible, as long as it is a fault of the part that was mended.
    const { fault: named, found, ...repair } = parsed.data;
    const known = FAULTS.find((fault) => fault.id === named && fault.part === repair.part);
    noteStatement(store, file, now);
    store.jobs.repair(id, { ...repair, fault: known?.id ?? null, found: found || null }, now, by);
    return `/jobs/${id}/verdict`;
  }
  if (form.intent === "join") {
    const tag = String(form.unit ?? "");
    if (!file.job.sheet.loose) return { form: "Only a part that came in by itself can be put with a machine." };
    if (!store.workshop.unit(tag)) return { unit: tag ? `There is no machine ${tag}.` : "Pick the machine it belongs to." };
    store.jobs.join(id, tag);
    return `/jobs/${id}/verdict`;
  }
  if (form.intent !== "close") return { form: "That is nothing that can be done here: repair, close or open again." };
  const parsed = closeSchema.safeParse(form);
  if (!parsed.success) return messages(parsed.error);
  const wrong = endingProblem(parsed.data.ending, viewOf(file), file);
  if (wrong) return { ending: wrong };
  store.jobs.close(id, parsed.data.ending, parsed.data.note || null, now, by);
  noteClosing(store, id);
  return `/jobs/${id}/report`;
}

export function clientAction({ serverAction, request }: Route.ClientActionArgs) {
  return sentOrKept(serverAction, request);
}

export const shouldRevalidate = needsNews;

function refuse(errors: Record<string, string>, form: Record<string, FormDataEntryValue>) {
  const typed = Object.fromEntries(Object.entries(form).map(([key, value]) => [key, String(value)]));
  return data({ errors, typed }, { status: 422 });
}

function messages(error: z.ZodError): Record<string, string> {
  return Object.fromEntries(error.issues.map((issue) => [String(issue.path[0]), issue.message]));
}

/** A repair counts as proven only when the charging run was read again and nothing in it is wrong. */
function endingProblem(ending: string, view: JobView, file: JobFile): string | undefined {
  if (ending === "plain-cause" && !controlsIn(view, file)?.passed)
    return "A plain cause ends a job that named one, once its three control readings are in their bands.";
  if (ending !== "proven") return undefined;
  if (file.repairs.length === 0) return "Record the repair first; then take the proof readings.";
  const proof = view.judged.filter((judgedReading) => judgedReading.reading.afterRepair && view.isNow(judgedReading.reading));
  if (!proof.some((judgedReading) => judgedReading.reading.test === "charge.volts" && judgedReading.reading.rpm !== "idle"))
    return "Read the charging volts again at the sheet's rpm before the job is closed as proven.";
  const bad = proof.find((judgedReading) => isBad(judgedReading.judged));
  return bad ? `${stepTitle(bad.reading)} is still ${judgedWords(bad)}. Go on with the search, or close the job without proof and say why.` : undefined;
}

function controlsIn(view: JobView, { job, repairs }: JobFile): Controls | undefined {
  const now = view.judged.filter(({ reading }) => view.isNow(reading));
  return repairs.length > 0 ? undefined : controlsOf(job.sheet, job.complaint, now);
}

/** What a shop may renew as a set. */
const SET: readonly string[] = ["stator", "regulator"];

export default function Verdict({ loaderData }: Route.ComponentProps) {
  const { file, knows, kept, units } = loaderData;
  const { job, repairs } = file;
  const outbox = useOutbox(job);
  const fastLinks = useFastLinks();
  const view = useMemo(() => viewOf(file, outbox.sent), [file, outbox.sent]);
  const engine = useEngine(file, view, knows, { kept, waiting: outbox.waiting });
  const { advice } = engine;
  const { loose } = job.sheet;
  const faultId = advice?.fault;
  const follows = faultId && REPAIRS[faultId];
  const part = advice && (advice.sure[0]?.part ?? remediesOf(advice.decision.set).find((remedy) => remedy !== "charge"));
  const repairedFault = repairs.at(-1)?.fault ?? faultId;
  const controls = controlsIn(view, file);
  const steps = proofSteps(job.sheet, view.judged, repairedFault);
  useKeys({ l: () => document.querySelector<HTMLAnchorElement>("a[data-bench]")?.click() });
  return (
    <>
      <title>{`Verdict, ${job.nickname} · Uvrel`}</title>
      <TopBar back={{ to: `/jobs/${job.id}`, label: "Bench" }} tag={`${job.unitTag ?? ""} “${job.nickname}”, ${ofMachine(job.sheet)}`.trim()}>
        <Waiting sent={outbox.sent} />
        <Link to={`/jobs/${job.id}/report`} className="flex min-h-11 items-center">
          Report
        </Link>
      </TopBar>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: it listens for the links inside, which answer keys by themselves */}
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: see above */}
      <div className="bg-sheet border-hair hidden h-[250px] border-b px-2 md:block" onClick={fastLinks}>
        <Loom
          sheet={job.sheet}
          marks={advice ? marksOf(advice, engine.weighed.length) : {}}
          broken={advice && wiringBreaks(advice)}
          tags={tagsOf(beforeRepair(view.judged), job.sheet)}
          stepLink={(step) => `/jobs/${job.id}?step=${encodeURIComponent(stepKey(step))}`}
          {...(loose ? { zones: LOOSE_ZONES[loose] } : {})}
        />
      </div>
      <main className="mx-auto grid max-w-[1240px] gap-x-12 px-4 py-5 md:grid-cols-2 md:px-6">
        <div>
          <Refused sent={outbox.sent} drop={outbox.drop} />
          <EngineProgress engine={engine} />
          {advice ? <EngineVerdict engine={engine} advice={advice} view={view} jobId={job.id} /> : <h1 className="m-0 mb-3 text-3xl">No verdict yet</h1>}
          <OtherSchools judged={beforeRepair(view.judged)} context={view.context} />
          <p>
            <Link to={`/jobs/${job.id}`} data-bench="" className="text-petrol">
              Back to the bench
            </Link>
          </p>
        </div>
        <div>
          {loose ? (
            <JoinForm units={units} tag={job.unitTag} closed={job.closedAt !== null} />
          ) : (
            <>
              {follows ? (
                <section>
                  <h2 className="mt-0">Before anything is ordered</h2>
                  <p className="mt-1">{follows.beforeOrdering}</p>
                  {follows.partner ? (
                    <p>
                      <strong>Partner part, {repairedName(job.sheet, follows.partner.part).toLowerCase()}:</strong> {follows.partner.why}
                      {view.context.school.partner === "set" && SET.includes(follows.partner.part) ? " This shop renews both together." : ""}
                    </p>
                  ) : null}
                  <h2>Repair</h2>
                  <ol className="mt-1 list-decimal pl-5">
                    {follows.repair.map((line) => (
                      <li key={line} className="py-0.5">
                        {line}
                      </li>
                    ))}
                  </ol>
                  <Cautions ids={follows.cautions as Parameters<typeof Cautions>[0]["ids"]} />
                </section>
              ) : null}
              <section className="mt-5">
                <h2>Repairs done</h2>
                {repairs.length === 0 ? <p className="text-mute mt-1">None recorded yet.</p> : null}
                <ul className="m-0 list-none p-0">
                  {repairs.map((repair) => (
                    <li key={repair.id} className="border-hair border-t py-1.5">
                      <strong>{repairedName(job.sheet, repair.part)}:</strong> {repair.done}
                    </li>
                  ))}
                </ul>
                {job.closedAt ? null : (
                  <RepairForm key={repairs.length} sheet={job.sheet} part={part} fault={faultId} found={advice ? foundWords(advice, job.sheet) : ""} />
                )}
              </section>
              <section className="mt-6">
                <h2>Proof: the same readings again</h2>
                {repairs.length === 0 ? (
                  <p className="text-mute mt-1">After the repair, its readings are taken here and stand beside the ones before.</p>
                ) : (
                  <ul className="m-0 list-none p-0">
                    {steps.map((step) => (
                      <ProofRow
                        key={stepKey(step)}
                        step={step}
                        jobId={job.id}
                        context={view.context}
                        before={view.judged.findLast((judgedReading) => !judgedReading.reading.afterRepair && answers(judgedReading.reading, step))}
                        after={view.judged.findLast(
                          (judgedReading) => judgedReading.reading.afterRepair && view.isNow(judgedReading.reading) && answers(judgedReading.reading, step),
                        )}
                        repairs={repairs.length}
                        closed={job.closedAt !== null}
                        add={outbox.add}
                      />
                    ))}
                  </ul>
                )}
              </section>
            </>
          )}
          <CloseForm
            closed={job.closedAt !== null}
            suggestion={controls?.passed ? "plain-cause" : advice ? endingFor(advice, repairs.length) : "unproven"}
            controls={controls}
            loose={loose}
            waiting={outbox.waiting}
          />
          <p className="text-mute text-[0.95rem]">{PRECEDENCE}</p>
        </div>
      </main>
    </>
  );
}

/** How a job most likely ends. */
function endingFor(advice: Advice, repairs: number): string {
  if (advice.loose) return looseVerdict(advice).says === "good" ? "healthy" : "unproven";
  return advice.status === "healthy" && repairs === 0 ? "healthy" : "proven";
}

/** A part that came in by itself, hung on the machine it turned out to be of. */
function JoinForm({ units, tag, closed }: { units: { tag: string; nickname: string }[]; tag: string | null; closed: boolean }) {
  const { errors, typed } = useRefusal();
  const mine = typed.intent === "join";
  return (
    <section>
      <h2 className="mt-0">Whose it is</h2>
      {tag ? (
        <p className="mt-1">{`Of ${tag}. Its readings stand with that machine.`}</p>
      ) : (
        <p className="text-mute mt-1">Nobody’s yet: it came in by itself.</p>
      )}
      {closed ? null : (
        <Form method="post" className="mt-2 flex flex-wrap items-end gap-3" preventScrollReset>
          <FormId />
          <NotSent of="join" />
          <Field label="Machine it belongs to" id="unit" error={mine ? errors.unit : undefined}>
            <select name="unit" className="field" defaultValue={typed.unit ?? tag ?? ""} {...errorProps("unit", mine ? errors.unit : undefined)}>
              <option value="">Pick a machine</option>
              {units.map((unit) => (
                <option key={unit.tag} value={unit.tag}>
                  {unit.tag} “{unit.nickname}”
                </option>
              ))}
            </select>
          </Field>
          <button type="submit" name="intent" value="join" className="btn">
            Put it with that machine
          </button>
        </Form>
      )}
    </section>
  );
}

function useRefusal() {
  return useActionData<typeof action>() ?? { errors: {} as Record<string, string>, typed: {} as Record<string, string> };
}

function RepairForm({ sheet, part, fault, found }: { sheet: Sheet; part: string | undefined; fault: FaultId | undefined; found: string }) {
  const { errors, typed } = useRefusal();
  const mine = typed.intent === "repair";
  // What the hand picked stays, whatever the odds say a moment later.
  const [picked, setPicked] = useState<string>();
  return (
    <Form method="post" className="mt-2 flex flex-col gap-3" preventScrollReset>
      <FormId />
      <NotSent of="repair" />
      <Field label="Part" id="part" error={mine ? errors.part : undefined}>
        <select
          name="part"
          className="field"
          value={picked ?? typed.part ?? part ?? ""}
          onChange={(event) => setPicked(event.target.value)}
          {...errorProps("part", mine ? errors.part : undefined)}
        >
          <option value="">Pick a part</option>
          {[...PARTS, "none" as const].map((part) => (
            <option key={part} value={part}>
              {repairedName(sheet, part)}
            </option>
          ))}
        </select>
      </Field>
      <Field label="What was done" id="done" error={mine ? errors.done : undefined}>
        <textarea name="done" rows={2} className="field py-2" defaultValue={mine ? typed.done : ""} {...errorProps("done", mine ? errors.done : undefined)} />
      </Field>
      <input type="hidden" name="fault" value={fault ?? ""} />
      <input type="hidden" name="found" value={found} />
      <button type="submit" name="intent" value="repair" className="btn self-start">
        Record the repair
      </button>
    </Form>
  );
}

/** Opening a closed job again: asked for once more, because its ending goes into the record of former ones. */
function ReopenForm() {
  const [asked, setAsked] = useState(false);
  if (!asked) {
    return (
      <button type="button" className="btn mt-6" onClick={() => setAsked(true)}>
        Open this job again
      </button>
    );
  }
  return (
    <Form method="post" className="border-ink mt-6 flex flex-wrap items-center gap-3 border-t-2 pt-4" onSubmit={() => setAsked(false)}>
      <FormId />
      <p className="m-0 w-full">Its ending stays in the record, with date and note, and is shown on the report. Readings can be added again.</p>
      <NotSent of="reopen" />
      <button type="submit" name="intent" value="reopen" className="btn">
        Yes, open it
      </button>
      <button type="button" className="min-h-11 underline" onClick={() => setAsked(false)}>
        Leave it closed
      </button>
    </Form>
  );
}

interface CloseFormProps {
  closed: boolean;
  suggestion: string;
  waiting: number;
  loose: Loose | undefined;
  controls: Controls | undefined;
}

/** Closing a job. What is still on its way to the store belongs to the job, so a close asked for early is held until it is there. */
function CloseForm({ closed, suggestion, waiting, loose, controls }: CloseFormProps) {
  const called = endingsOf({ loose });
  const { errors, typed } = useRefusal();
  const form = useRef<HTMLFormElement>(null);
  const [held, setHeld] = useState(false);
  useEffect(() => {
    if (!held || waiting > 0) return;
    setHeld(false);
    form.current?.requestSubmit();
  }, [held, waiting]);
  if (closed) return <ReopenForm />;
  const mine = typed.intent === "close";
  const endings = [...(loose ? [] : ["proven" as const]), "healthy" as const, ...(controls ? ["plain-cause" as const] : []), "unproven" as const];
  // What the controls ruled out is the note for next time, unless a hand writes another.
  const note = controls?.passed ? `${controls.causes.join(" ")} Yes. ${controls.says}` : "";
  return (
    <section className="border-ink mt-6 border-t-2 pt-4">
      <h2 className="m-0">Close the job</h2>
      <Form
        method="post"
        className="mt-2 flex flex-col gap-3"
        preventScrollReset
        ref={form}
        onSubmit={(event) => {
          if (waiting === 0) return;
          event.preventDefault();
          setHeld(true);
        }}
      >
        <input type="hidden" name="intent" value="close" />
        <FormId />
        <NotSent of="close" />
        {errors.form ? (
          <p role="alert" className="rule-left m-0">
            {errors.form}
          </p>
        ) : null}
        {/* Above the fields: what is struck in the note's field is answered where the eye is. */}
        {held ? (
          <p role="status" className="rule-left m-0">
            It closes by itself once {waiting === 1 ? "the last reading is" : `${waiting} readings are`} sent.
          </p>
        ) : null}
        <Field label="How it ends" id="ending" error={mine ? errors.ending : undefined}>
          <select
            name="ending"
            className="field"
            key={suggestion}
            defaultValue={typed.ending ?? suggestion}
            {...errorProps("ending", mine ? errors.ending : undefined)}
          >
            {endings.map((ending) => (
              <option key={ending} value={ending}>
                {called[ending]}
              </option>
            ))}
          </select>
        </Field>
        <Field label="Note for next time" id="note" error={mine ? errors.note : undefined}>
          {note ? (
            <textarea
              name="note"
              rows={4}
              className="field py-2"
              defaultValue={mine ? typed.note : note}
              {...errorProps("note", mine ? errors.note : undefined)}
            />
          ) : (
            <input name="note" className="field" defaultValue={mine ? typed.note : ""} {...errorProps("note", mine ? errors.note : undefined)} />
          )}
        </Field>
        <button type="submit" className="btn btn-main self-start">
          Close the job
        </button>
      </Form>
    </section>
  );
}
