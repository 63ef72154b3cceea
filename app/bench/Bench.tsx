import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import type { Advice } from "../../core/diagnosis/advice";
import type { Suggestion } from "../../core/diagnosis/planning/plan";
import { marksOf, wiringBreaks } from "../../core/diagnosis/words/marks";
import { headline, waitWords } from "../../core/diagnosis/words/words";
import { hasCapacitor } from "../../core/machine/capacitor";
import type { Part } from "../../core/machine/part";
import type { Sheet } from "../../core/machine/sheet";
import { pileAmpsOf } from "../../core/machine/state";
import { type TestId, testOf } from "../../core/procedure/catalogue";
import { complaintWords } from "../../core/procedure/complaints";
import { controlsOf } from "../../core/procedure/controls";
import { stepProblem } from "../../core/procedure/entry";
import { beforeRepair } from "../../core/procedure/runlist";
import { answers, diodeEnds, isTaken, type Step, stepFromKey, stepKey, stepTitle } from "../../core/procedure/step";
import type { Wait } from "../../core/procedure/waits";
import { isNumber, OPEN_LINE } from "../../core/units";
import type { Instrument } from "../../store/instruments";
import type { JobFile } from "../../store/jobs";
import { type JobEntry, newId, readingOf } from "../jobs/entry";
import type { ShopKnows } from "../jobs/facts";
import { Refused, Waiting } from "../jobs/NotKept";
import { ofMachine } from "../jobs/ofMachine";
import { useEngine } from "../jobs/useEngine";
import { useOutbox } from "../jobs/useOutbox";
import { viewOf } from "../jobs/view";
import { FetchedLiveMeter } from "../live/FetchedLiveMeter";
import type { Heard } from "../live/LiveMeter";
import { Loom } from "../loom/Loom";
import { LOOSE_ZONES, layOut, ZONES, zonesOf } from "../loom/layout";
import { tagsOf } from "../loom/tags";
import { useKeys } from "../ui/keys";
import { Panel } from "../ui/Panel";
import { TopBar } from "../ui/TopBar";
import { takeFocus } from "../ui/takeFocus";
import { useDraft } from "../ui/useDraft";
import { useFastLinks } from "../ui/useFastLinks";
import { Actions } from "./Actions";
import { ClosedBar, RepairedBar } from "./Bars";
import { ControlsStrip } from "./ControlsStrip";
import { EntryForm, type KeptEntry } from "./EntryForm";
import type { SmallPrint } from "./extras";
import { LayReady } from "./LayReady";
import { LeadZeroPanel } from "./LeadZeroPanel";
import { shownNext } from "./OddsPanel";
import { PhoneBar } from "./PhoneBar";
import { PlanPanel } from "./PlanPanel";
import { ProbeCard } from "./ProbeCard";
import { type LookState, preparationOf, stateIn, stateMark } from "./preparation";
import { RunList } from "./RunList";
import { SkipPanel } from "./SkipPanel";
import { StandingPanel } from "./StandingPanel";
import { SuspectsPanel } from "./SuspectsPanel";
import { SwapLoop } from "./SwapLoop";
import { ToLoop } from "./ToLoop";
import { Late, useGoOn } from "./useGoOn";
import { useHeldStill } from "./useHeldStill";
import { useNarrow } from "./useNarrow";
import { useOrder } from "./useOrder";
import { restVoltsOf, WaitPanel } from "./WaitPanel";
import { WaitStrip } from "./WaitStrip";

interface BenchProps {
  file: JobFile;
  knows: ShopKnows;
  /** The shop's meters that speak. */
  instruments: readonly Instrument[];
  /** The advice that stands kept with the job. */
  kept: Advice | undefined;
  /** The server's guess that a phone asked. */
  phone: boolean;
  /** Why the server would not keep what was posted, and what was typed. */
  refusal: { error: string; typed: string } | undefined;
}

/** Which tests speak of a part, for the way from a part to its tests: the first that the machine has. */
const FIRST_TEST: Record<Part, readonly TestId[]> = {
  battery: ["battery.rest"],
  rotor: ["rotor.pull", "field.resistance", "generator.motoring"],
  stator: ["stator.resistance", "generator.field"],
  regulator: ["regulator.diode", "field.fullField", "generator.output"],
  wiring: ["regulator.feed"],
  loads: ["drain.current"],
  starter: ["battery.crank"],
  drive: ["inspect.belt"],
};

/** Strip widths up to this many units are lettered as drawn; wider folded ones are enlarged to stay readable on a phone. */
const PHONE_UNITS = 440;

/** Time after which the step that a bench opened with stays, ms: whoever read it has gone to the machine with it. */
const SETTLES = 5_000;

/** The bench: loom on top, run list, the one test to do now, and the standing. */
export function Bench({ file, knows, instruments, kept, phone, refusal }: BenchProps) {
  const { job } = file;
  const outbox = useOutbox(job);
  const view = useMemo(() => viewOf(file, outbox.sent), [file, outbox.sent]);
  const engine = useEngine(file, view, knows, { kept, waiting: outbox.waiting });
  const [byOdds, setByOdds] = useOrder();
  const { pathname, search } = useLocation();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const narrow = useNarrow(phone);
  const fastLinks = useFastLinks();
  const lines = view.stages.flatMap((stage) => stage.lines);
  const named = stepFromKey(params.get("step") ?? "");
  const asked = named && !stepProblem(named, job.sheet) ? named : undefined;
  // The odds say what comes first, with the page or soon after it; they move nothing once a hand has chosen or typed, or may hold the probes.
  const [opening, setOpening] = useState(() => firstOf(kept));
  const arrived = firstOf(engine.advice);
  const advisedFirst = byOdds && file.job.closedAt === null ? opening : undefined;
  const state = asked ? stateIn(params.get("state")) : advisedFirst?.look;
  const step = asked ?? advisedFirst?.step ?? view.next ?? lines.at(-1)?.step ?? { test: "battery.rest" };
  const key = stepKey(step);
  const [text, setText] = useDraft(`${job.id}.${key}`);
  const untouched = asked === undefined && text === "";
  const [swapped, setSwapped] = useState(false);
  const [smallPrint, setSmallPrint] = useState<SmallPrint>();
  const [panel, setPanel] = useState<"skip" | "lead-zero" | "list" | "standing" | "suspects" | "wait">();
  const [why, setWhy] = useState(false);
  const [lastId, setLastId] = useState<string>();
  const [heard, setHeard] = useState<Heard>();
  const [shownAt] = useState(() => performance.now());
  // Who works by a live meter is told each step anew.
  useEffect(() => {
    if (!opening && arrived && untouched && (heard || performance.now() - shownAt < SETTLES)) setOpening(arrived);
  }, [opening, arrived, untouched, heard, shownAt]);
  const [typing, setTyping] = useState(false);
  // What a phone's live meter shows stands where the keys would be: nobody types while it is heard, unless he wants to.
  const folded = narrow && heard === "on-this-step" && !typing && text === "";
  const inputRef = useRef<HTMLInputElement>(null);
  const listRef = useRef<HTMLDivElement>(null);
  const titleRef = useRef<HTMLHeadingElement>(null);
  const columnRef = useHeldStill(key, narrow);
  const test = testOf(step.test);
  const earlier = view.judged.findLast((judgedReading) => view.isNow(judgedReading.reading) && answers(judgedReading.reading, step))?.reading;
  // What the odds ask to be read once more stands beside the first reading: the two are weighed against each other.
  const [first] = engine.advice?.next ?? [];
  const replaced = (first?.due === "again" || first?.due === "second-meter") && stepKey(first.step) === key ? undefined : earlier;
  const advised = byOdds && !job.closedAt && engine.advice && !engine.advice.settled ? shownNext(engine.advice) : [];
  const ofNow = view.judged.flatMap(({ reading }) => (view.isNow(reading) ? [reading] : []));
  const preparation = preparationOf(key, state, advised, ofNow);
  const stepLink = (to: Step, as?: LookState): string => `/jobs/${job.id}?step=${encodeURIComponent(stepKey(to))}${as ? `&state=${stateMark(as)}` : ""}`;
  const verdict = `/jobs/${job.id}/verdict`;
  const go = (to: Step | undefined, as?: LookState): void => void navigate(to ? stepLink(to, as) : verdict, { preventScrollReset: true });

  const goOn = useGoOn(engine, key, text, go);
  const { late } = goOn;

  // The key is what changes when another step is taken up: the probes go back to their usual way round. The field has the focus before
  // the next key can be pressed, so that it takes none back from where that key put it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: reset on a new step
  useLayoutEffect(() => {
    setSwapped(false);
    setTyping(false);
    setSmallPrint(undefined);
    setWhy(false);
    if (!window.matchMedia("(max-width: 767px)").matches && document.activeElement !== titleRef.current) takeFocus(inputRef.current, { preventScroll: true });
  }, [key]);

  // The list scrolls on its own; the active line is brought into its view, below the plan that lies over its upper part.
  // biome-ignore lint/correctness/useExhaustiveDependencies: when another step is active, or another plan takes up the room
  useEffect(() => {
    const list = listRef.current;
    const line = list?.querySelector<HTMLElement>("[aria-current]");
    const covered = list?.querySelector<HTMLElement>("[aria-label='Plan']")?.offsetHeight ?? 0;
    if (list && line) list.scrollTop = Math.max(0, line.offsetTop - (covered + list.clientHeight) / 2);
  }, [key, engine.advice]);

  /** Writes an entry down and goes on to the step that is open next, the ones that this entry asks for included. */
  const write = (entry: JobEntry): void => {
    outbox.add(entry);
    const thenView = viewOf(file, [...outbox.sent, outbox.waits(entry)]);
    const then = thenView.stages.flatMap((stage) => stage.lines);
    const at = then.findIndex((line) => line.key === key);
    const open = (line: (typeof then)[number]): boolean => !line.done && !line.skipped && line.key !== key;
    const listed = (then.slice(at + 1).find(open) ?? then.find(open))?.step;
    if (!byOdds || !engine.advice) return go(listed);
    goOn.byOdds(thenView, listed);
  };

  const keep = ({ value, supersedesWhy, ...extras }: KeptEntry): void => {
    const turned = swapped && isNumber(value) && test.unit === "V" && test.points !== "diode" ? -value : value;
    const reading = readingOf(step, turned, { repairs: file.repairs.length, leadOhms: view.context.meter.leadOhms });
    // A reading in another state of the machine stands beside the earlier one, not in its place.
    const inPlace =
      replaced &&
      !replaced.hot === !extras.hot &&
      !replaced.charged === !extras.charged &&
      replaced.touched === extras.touched &&
      !replaced.secondMeter === !extras.secondMeter;
    setText("");
    setLastId(reading.id);
    write({ kind: "reading", reading: { ...reading, ...extras, ...(inPlace ? { supersedes: replaced.id, supersedesWhy } : {}) } });
  };

  const skip = (reason: string): void => {
    setPanel(undefined);
    write({ kind: "skip", skip: { id: newId(), step: key, reason } });
  };

  const wait = (begun: Omit<Wait, "beganAt">): void => {
    setPanel(undefined);
    outbox.add({ kind: "wait", id: newId(), wait: begun, takenAt: new Date().toISOString() });
  };

  const swap = (): void => {
    if (test.points === "diode" && step.at) {
      const { red, black } = diodeEnds(step.at);
      go({ ...step, at: `${black}>${red}` });
    } else setSwapped(!swapped);
  };

  const back = (): void => {
    const at = lines.findIndex((line) => line.key === key);
    const before = at > 0 ? lines[at - 1] : lines.findLast((line) => line.done);
    if (before) go(before.step);
  };

  const submit = (): void => document.querySelector<HTMLFormElement>("#entry")?.requestSubmit();
  useKeys({
    o: () => (test.openAllowed ? document.querySelector<HTMLButtonElement>(`#entry button[value=${OPEN_LINE}]`)?.click() : undefined),
    z: () => setPanel("lead-zero"),
    b: back,
    n: () => setPanel("skip"),
    s: swap,
    w: () => setWhy(!why),
    l: () => (narrow ? setPanel("list") : document.querySelector<HTMLAnchorElement>("nav[aria-label='Run list'] [aria-current]")?.focus()),
    a: () => (late ? go(late.listed) : document.querySelector<HTMLAnchorElement>("a[data-advised]")?.click()),
    t: () => {
      const others = [...document.querySelectorAll<HTMLAnchorElement>("a[data-alternative]")];
      (others[(others.findIndex((link) => link.getAttribute("href") === `${pathname}${search}`) + 1) % Math.max(1, others.length)] ?? null)?.click();
    },
    f: () => setByOdds(!byOdds),
    x: () => setPanel("suspects"),
    u: () => document.querySelector<HTMLButtonElement>("[aria-label='Probe card'] button[data-seen]")?.click(),
    e: () => setPanel("wait"),
    v: () => void navigate(verdict),
    "*": (event) => {
      if (event.key === "Enter") {
        if (event.target !== document.body) return;
        event.preventDefault();
        submit();
      } else if (test.unit === "choice") {
        const chosen = document.querySelectorAll<HTMLButtonElement>("#entry button[name=value]")[Number(event.key) - 1];
        if (!chosen) return;
        // The next step's field may have the focus before the key is done: it would be typed there.
        event.preventDefault();
        chosen.click();
      } else if (/^[\d.,\-−]$/.test(event.key) && event.target !== inputRef.current) {
        event.preventDefault();
        setText(text + event.key);
        inputRef.current?.focus();
      }
    },
  });

  const lastKept = view.judged.find((judgedReading) => judgedReading.reading.id === lastId);
  const { loose } = job.sheet;
  const zones = loose ? LOOSE_ZONES[loose] : narrow ? zonesOf(step) : ZONES;
  const lettering = narrow ? Math.min(1.5, Math.max(1, layOut(zones).width / PHONE_UNITS)) : 1;
  const tagName = `${job.unitTag ?? ""} “${job.nickname}”`.trim();
  const fullTag = narrow ? tagName : `${tagName}, ${ofMachine(job.sheet)}`;
  const suspects = engine.advice ? headline(engine.advice) : "Standing";
  const left = lines.filter((line) => !line.done && !line.skipped).length;
  // A plan of before the last entry is none any more once that is said.
  const plan =
    engine.advice && !job.closedAt && !late ? (
      <PlanPanel advice={engine.advice} sheet={job.sheet} active={key} busy={!engine.isOfNow} stepLink={stepLink} verdict={verdict} />
    ) : null;
  const controls = job.closedAt || file.repairs.length > 0 ? undefined : controlsOf(job.sheet, job.complaint, view.judged);
  // Beside the step on a wide screen, in a panel on the phone.
  const standingPanel = <StandingPanel engine={engine} view={view} jobId={job.id} stepLink={stepLink} onSuspects={() => setPanel("suspects")} />;
  const openSteps = (
    <>
      {view.current.length === 0 && !job.closedAt ? <LayReady sheet={job.sheet} tools={knows.tools} /> : null}
      <RunList
        stages={view.stages}
        active={key}
        school={view.context.school.title}
        byOdds={byOdds}
        onOrder={() => setByOdds(!byOdds)}
        sheet={job.sheet}
        plan={narrow ? null : plan}
        stepLink={stepLink}
      />
    </>
  );

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it listens for the links inside, which answer keys by themselves
    // biome-ignore lint/a11y/useKeyWithClickEvents: see above
    <div className="flex min-h-dvh flex-col max-md:[overflow-anchor:none] md:h-dvh" onClick={fastLinks}>
      <title>{`${tagName} · Uvrel`}</title>
      <TopBar back={{ to: "/", label: "Rail" }} tag={fullTag} words={[job.words, complaintWords(job.complaint).join(", ")].filter(Boolean).join(" ")}>
        <Waiting sent={outbox.sent} />
        <button type="button" className="min-h-11 whitespace-nowrap" onClick={() => setPanel("lead-zero")}>
          <span className="text-mute">
            <span className="hidden md:inline">{job.meter.name}, lead zero </span>
            <span className="md:hidden">Zero </span>
          </span>
          <span className="num">{view.context.meter.leadOhms} Ω</span>
        </button>
        <span className="hidden whitespace-nowrap sm:inline">
          <span className="num">{view.minutes}</span> <span className="text-mute">min of work</span>
          {view.waiting > 0 ? (
            <span className="text-mute">
              , <span className="num">{waitWords(view.waiting)}</span> of waiting
            </span>
          ) : null}
        </span>
      </TopBar>
      <div className="bg-sheet border-hair h-[226px] shrink-0 border-b md:h-[262px] md:px-2">
        <Loom
          sheet={job.sheet}
          marks={engine.advice ? marksOf(engine.advice, engine.weighed.length) : {}}
          broken={engine.advice && wiringBreaks(engine.advice)}
          tags={tagsOf(beforeRepair(view.judged), job.sheet)}
          step={step}
          display={text}
          swapped={swapped}
          zones={zones}
          lettering={lettering}
          stepLink={stepLink}
          partLink={(part) =>
            `/jobs/${job.id}?step=${encodeURIComponent(
              firstStep(
                part,
                lines.map((line) => line.step),
                job.sheet,
              ),
            )}`
          }
        />
      </div>
      {view.wait && !job.closedAt ? (
        <WaitStrip jobId={job.id} wait={view.wait} restHours={view.context.school.restHours} stepLink={stepLink} onWait={wait} />
      ) : null}
      {job.closedAt ? <ClosedBar id={job.id} /> : file.repairs.length > 0 ? <RepairedBar part={file.repairs.at(-1)?.part ?? ""} sheet={job.sheet} /> : null}
      <main className="grid min-h-0 flex-1 md:grid-cols-[17rem_1fr_20rem] xl:grid-cols-[18.5rem_1fr_21.5rem]">
        <div ref={listRef} className="border-hair relative hidden overflow-y-auto border-r px-5 py-3 md:block" tabIndex={-1}>
          {openSteps}
        </div>
        <div ref={columnRef} className="min-h-0 overflow-y-auto px-4 py-3 pb-80 md:px-6 md:pb-4">
          <Refused sent={outbox.sent} drop={outbox.drop} />
          {controls ? <ControlsStrip controls={controls} jobId={job.id} stepLink={stepLink} /> : null}
          {narrow ? plan : null}
          <ProbeCard
            view={view}
            step={step}
            text={text}
            tools={knows.tools}
            smallPrint={smallPrint ?? { hot: preparation.hot, charged: preparation.charged }}
            preparation={preparation}
            onSeen={job.closedAt ? undefined : (cautions) => outbox.add({ kind: "caution", id: newId(), cautions, takenAt: new Date().toISOString() })}
            swapped={swapped}
            why={why}
            titleRef={titleRef}
            late={late ? <Late listed={late.listed} onGo={() => go(late.listed)} /> : null}
            lastKept={lastKept ? { judgedReading: lastKept, link: stepLink(lastKept.reading) } : undefined}
            entry={
              job.closedAt ? null : (
                <>
                  <FetchedLiveMeter
                    instruments={instruments}
                    step={step}
                    sheet={job.sheet}
                    meter={view.context.meter}
                    before={view.current.at(-1)}
                    second={preparation.secondMeter}
                    folds={folded}
                    onType={() => setTyping(true)}
                    onHeard={setHeard}
                    onKeep={(value, more, curve) => {
                      if (curve) {
                        const { id, ...trace } = curve;
                        outbox.add({ kind: "trace", id, trace, repairs: file.repairs.length, takenAt: new Date().toISOString() });
                      }
                      keep({
                        value,
                        ...more,
                        supersedesWhy: "taken-again",
                        ...(step.test === "battery.rest" ? { restHours: view.context.school.restHours } : {}),
                        ...(preparation.charged && test.group === "battery" ? { charged: true } : {}),
                        ...(preparation.hot ? { hot: true } : {}),
                        ...(curve ? { note: `from the trace ${curve.name}` } : {}),
                      });
                    }}
                  />
                  <EntryForm
                    key={key}
                    step={step}
                    text={text}
                    setText={setText}
                    replaces={replaced !== undefined}
                    narrow={narrow}
                    folded={folded}
                    restHours={view.context.school.restHours}
                    loadAmps={hasCapacitor(job.sheet) ? undefined : Math.round(pileAmpsOf(job.sheet))}
                    preparation={preparation}
                    twoMeters={knows.tools.includes("second-meter")}
                    refusal={refusal && refusal.typed === text ? refusal.error : undefined}
                    onKeep={keep}
                    onSkip={() => setPanel("skip")}
                    onSmallPrint={setSmallPrint}
                    inputRef={inputRef}
                  />
                </>
              )
            }
            actions={
              <>
                {test.group === "drain" && !loose ? (
                  <ToLoop to={`/jobs/${job.id}/drain`} says="Search the drain as one loop, meter in series throughout" />
                ) : null}
                {step.test === "swap.unit" && !job.closedAt ? (
                  <SwapLoop context={view.context} jobId={job.id} onKeep={(value, note) => keep({ value, note, supersedesWhy: "taken-again" })} />
                ) : null}
                {(test.group === "battery" && test.unit === "V") || test.group === "charge" ? (
                  <ToLoop to={`/jobs/${job.id}/traces`} says="Read a logged trace instead" />
                ) : null}
                {test.group === "charge" ? <ToLoop to={`/jobs/${job.id}/sweep`} says="Walk through the speeds, drawn as a curve" /> : null}
                <Actions
                  onSkip={() => setPanel("skip")}
                  onWait={() => setPanel("wait")}
                  onSwap={swap}
                  onBack={back}
                  onWhy={() => setWhy(!why)}
                  canSwap={test.red !== undefined || test.points === "diode"}
                  closed={job.closedAt !== null}
                />
              </>
            }
          />
          <PhoneBar left={left} suspects={suspects} onList={() => setPanel("list")} onStanding={() => setPanel("standing")} />
        </div>
        <div className="border-hair hidden overflow-y-auto border-l px-5 py-3 md:block" tabIndex={-1}>
          {standingPanel}
        </div>
      </main>
      <SkipPanel open={panel === "skip"} onOpenChange={(open) => setPanel(open ? "skip" : undefined)} title={stepTitle(step)} onSkip={skip} />
      <LeadZeroPanel
        open={panel === "lead-zero"}
        onOpenChange={(open) => setPanel(open ? "lead-zero" : undefined)}
        leadOhms={view.context.meter.leadOhms}
        onKeep={(leadOhms) => {
          outbox.add({ kind: "lead-zero", id: newId(), leadOhms, takenAt: new Date().toISOString() });
          setPanel(undefined);
        }}
      />
      <WaitPanel
        open={panel === "wait"}
        onOpenChange={(open) => setPanel(open ? "wait" : undefined)}
        sheet={view.context.sheet}
        restVolts={restVoltsOf(view)}
        restHours={view.context.school.restHours}
        onWait={wait}
      />
      <Panel open={panel === "suspects"} onOpenChange={() => setPanel(undefined)} title="What each suspect would show">
        {engine.advice ? <SuspectsPanel advice={engine.advice} weighed={engine.weighed} /> : <p className="m-0">The odds are still being worked out.</p>}
      </Panel>
      <Panel open={panel === "list" || panel === "standing"} onOpenChange={() => setPanel(undefined)} title={panel === "standing" ? "Standing" : "Run list"}>
        {/* A tap on a step closes the sheet that lay over the bench. */}
        <div onClickCapture={(event) => (event.target instanceof Element && event.target.closest("a") ? setPanel(undefined) : undefined)}>
          {panel === "standing" ? standingPanel : openSteps}
        </div>
      </Panel>
    </div>
  );
}

/** The first step of an advice that still asks for one. */
function firstOf(advice: Advice | undefined): Suggestion | undefined {
  return advice && !advice.settled ? advice.next[0] : undefined;
}

/** The first step of a part's tests that the machine has: one still open where there is one. */
function firstStep(part: Part, steps: readonly Step[], sheet: Sheet): string {
  const tests = FIRST_TEST[part].filter((test) => isTaken(testOf(test), sheet));
  const listed = steps.find((step) => tests[0] === step.test);
  return listed ? stepKey(listed) : (tests[0] ?? "battery.rest");
}
