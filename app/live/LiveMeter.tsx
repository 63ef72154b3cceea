import { lightFormat } from "date-fns";
import { Radio, TriangleAlert } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import type { Sheet } from "../../core/machine/sheet";
import type { DipCurve, Wanted } from "../../core/meter/handsFree";
import type { Meter } from "../../core/meter/meter";
import { LIVE_DIALS, type LiveDial } from "../../core/meter/settle";
import { testOf } from "../../core/procedure/catalogue";
import { isReadIn, JACK_IDS, JACKS, type Jack, jackFor, wrongJackWords } from "../../core/procedure/jacks";
import { probesAt, type Reading, type Step, stepKey, stepTitle } from "../../core/procedure/step";
import { envelopeOf } from "../../core/trace/envelope";
import { formatQuantity, inUnit, type Unit } from "../../core/units";
import type { Instrument } from "../../store/instruments";
import type { NewTrace } from "../../store/traces";
import type { KeptEntry } from "../bench/EntryForm";
import { checkTyped } from "../bench/lowest";
import { newId } from "../jobs/entry";
import { KeptTraceFigure } from "../traces/KeptTraceFigure";
import { beep } from "../ui/beep";
import { readDevice, writeDevice } from "../ui/device";
import { heardFor } from "./heardFor";
import { InstrumentSelect } from "./InstrumentSelect";
import { useLive } from "./useLive";

/** What a live meter tells of a reading beside its figure: how far a dip's first pull went below the rest of it, and which meter it is. */
type LiveKept = Pick<KeptEntry, "swing" | "leadOhms" | "ohmsResolution" | "secondMeter">;

/** A meter that speaks, and whether the step at hand can be read on it. */
export type Heard = "on-this-step" | "on-others" | undefined;

interface LiveMeterProps {
  instruments: readonly Instrument[];
  step: Step;
  sheet: Sheet;
  meter: Meter;
  /** The reading before this one: whether the probes have to move. */
  before: Reading | undefined;
  /** @param curve of a dip, as it was caught */
  onKeep: (value: number | string, more: LiveKept, curve: NewTrace | undefined) => void;
  /** It is wanted on the second meter. */
  second: boolean;
  /** On a phone what is heard takes the place of the keys, until somebody wants to type. */
  folds: boolean;
  onType: () => void;
  /** Told whether a meter is heard, and whether this step can be read on it. */
  onHeard: (heard: Heard) => void;
}

/** What is remembered on the device: which meter is listened to, and how. */
const REMEMBERED = {
  instrument: "uvrel.live.instrument",
  free: "uvrel.live.free",
  voice: "uvrel.live.voice",
  follow: "uvrel.live.follow",
  moved: "uvrel.live.moved",
} as const;

const SAYS = {
  lifted: "Probes are off.",
  tips: "Tips together: good. Now set them on the points.",
  live: "Live: good. Now set the probes on the points.",
  unproved: "It stands, but leads that are off show as little. Are the probes on the points?",
  cranks: "Crank now, for as long as the step says.",
  moving: "Not standing still yet.",
  waiting: "Waiting for it to change; lifted and set again it is kept as it is.",
  elsewhere: "Still the reading before: lift the probes, then set them on the points that are lit.",
  dipping: "It dips: the lowest is kept.",
  kept: "Kept.",
} as const;

/** Said of tips that may as well be on the points of a part that is shorted. */
const TIPS_OR_SHORT = "Tips together: good, set them on the points. On them already? Leads alone show as little.";

/** A low tone for what is kept. */
const KEPT_TONE = { hertz: 1320, seconds: 0.12, loudness: 0.15 } as const;

/** Width of a dip's picture: its lettering stays readable on a phone. */
const DIP_WIDTH = 360;

/** What stands and was not kept yet. */
interface Stood {
  value: number | "OL";
  pull?: number | undefined;
  curve?: DipCurve | undefined;
}

const dialOf = (step: Step): LiveDial | undefined => LIVE_DIALS.find((dial) => dial === testOf(step.test).dial);

/** The live meter beside the entry: what it shows now, large; once it stands it is kept, and the next step comes up, without a key. */
export function LiveMeter({ instruments, step, sheet, meter, before, onKeep, second, folds, onType, onHeard }: LiveMeterProps) {
  const [chosen, setChosen] = useState<number>();
  const [free, setFree] = useState(true);
  const [voice, setVoice] = useState(false);
  const [follow, setFollow] = useState(false);
  const [refused, setRefused] = useState<string>();
  const [handsSay, setHandsSay] = useState<string>();
  /** Where the lead of an instrument was said to have been moved to. */
  const [moved, setMoved] = useState<{ instrument: number; jack: Jack }>();
  useEffect(() => {
    const kept = Number(readDevice(REMEMBERED.instrument));
    if (instruments.some(({ id }) => id === kept)) setChosen(kept);
    setFree(readDevice(REMEMBERED.free) !== "no");
    setVoice(readDevice(REMEMBERED.voice) === "yes");
    setFollow(readDevice(REMEMBERED.follow) === "yes");
    // A lead that was left in a jack for amps is still there after a reload.
    const [instrument, jack] = (readDevice(REMEMBERED.moved) ?? "").split(" ");
    const known = JACK_IDS.find((id) => id === jack);
    if (known) setMoved({ instrument: Number(instrument), jack: known });
  }, [instruments]);
  const test = testOf(step.test);
  const key = stepKey(step);
  const dial = dialOf(step);
  const own = instruments.find(({ id }) => id === chosen);
  const heard = own && dial ? heardFor(test, own, instruments, second) : own;
  // The first meter's figure would prove nothing of the first meter.
  const otherWanted = second && dial !== undefined && heard?.secondMeter === false;
  const jack = heard && moved?.instrument === heard.id ? moved.jack : heard?.jack;
  const wrongJack = dial && jack && !isReadIn(jack, test) ? wrongJackWords(jack, test) : undefined;
  const leadOhms = heard?.leadOhms ?? meter.leadOhms;
  const ohmsResolution = heard?.ohmsResolution ?? meter.ohmsResolution;
  const wanted: Wanted | undefined =
    heard === undefined || dial === undefined || wrongJack || otherWanted
      ? undefined
      : {
          dial,
          openAllowed: test.openAllowed,
          openWhenSound: test.openWhenSound,
          keepLowest: test.keepLowest === true,
          zeroAllowed: test.plausible[0] <= 0,
          drop: test.alongConductor ? (test.setUp.engine === "cranking" ? "cranking" : "running") : undefined,
          leadOhms,
          ohmsResolution,
          probesWere: before === undefined ? "nowhere" : arePlaced(before, step, sheet) ? "here" : "elsewhere",
        };
  const [stands, setStands] = useState<Stood>();
  /** The curve of the dip that was kept last, until something else is. */
  const [caught, setCaught] = useState<NewTrace>();
  const live = useLive(heard?.id, wanted, key, test.unit, (value, pull, curve) => {
    if (free) return keep({ value, pull, curve });
    // Until it is pressed, one that is set again takes its place.
    setStands({ value, pull, curve });
    return false;
  });
  /** Keeps a figure, or says why it cannot be kept. @param sure of one that such a machine hardly shows: pressed */
  const keep = ({ value, pull, curve }: Stood, sure = false): boolean => {
    setStands(undefined);
    const checked = checkTyped(String(value), step);
    if (!checked.ok) {
      setRefused(checked.error);
      return false;
    }
    if (checked.question && !sure) {
      setStands({ value, pull, curve });
      setRefused(`${checked.question} Press Keep, or set the probes again.`);
      return false;
    }
    beep(KEPT_TONE);
    say(voice, `${value === "OL" ? "open line" : formatQuantity(checked.value, test.unit)}, kept`);
    const trace = curve && traceOf(curve);
    setCaught(trace);
    const more = {
      ...(pull === undefined ? {} : { swing: pull }),
      ...(test.unit === "Ω" && heard?.leadOhms != null ? { leadOhms } : {}),
      ...(test.unit === "Ω" && heard?.ohmsResolution != null ? { ohmsResolution } : {}),
      ...(heard?.secondMeter ? { secondMeter: true } : {}),
    };
    onKeep(checked.value, more, trace);
    return true;
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: said once a step
  useEffect(() => {
    setRefused(undefined);
    setStands(undefined);
    if (chosen !== undefined) say(voice, stepTitle(step));
  }, [key, chosen, voice]);
  // Whoever holds the probes is told to lift them; a stand-in's hands do, where they were lifted before anybody listened.
  const toLift = live.says === "elsewhere" || live.says === "waiting";
  useStandIn(follow && !wrongJack && !otherWanted ? heard?.id : undefined, key, toLift, setHandsSay);
  useAwake(chosen !== undefined);
  const listens = heard !== undefined && dial !== undefined && live.lost === undefined && !otherWanted;
  const speaks = listens ? "on-this-step" : heard ? "on-others" : undefined;
  // biome-ignore lint/correctness/useExhaustiveDependencies: told when it changes, whoever listens
  useEffect(() => {
    onHeard(speaks);
    return () => onHeard(undefined);
  }, [speaks]);
  if (instruments.length === 0) return null;
  const remember = (name: keyof typeof REMEMBERED, text: string): void => void writeDevice(REMEMBERED[name], text);
  const offered = stands?.value ?? live.offer;
  const wrongUnit =
    live.figure && inUnit(live.figure.value, live.figure.unit, test.unit) === undefined
      ? `The meter shows ${live.figure.unit}, this step is read in ${test.unit}: turn its dial. Nothing was kept.`
      : undefined;
  const says =
    handsSay ??
    wrongUnit ??
    refused ??
    (stands ? "It stands." : live.says === "tips" && live.offer !== undefined ? TIPS_OR_SHORT : live.says ? SAYS[live.says] : "");
  return (
    <section aria-label="Live meter" className={chosen === undefined ? "" : "border-ink border-2 px-3 py-2"}>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Radio size={18} aria-hidden="true" />
        <InstrumentSelect
          label="Meter"
          shown
          instruments={instruments}
          value={chosen}
          unset="typed by hand"
          onChange={(id) => {
            remember("instrument", id === undefined ? "" : String(id));
            setChosen(id);
          }}
        />
        {chosen === undefined ? null : (
          <>
            <Tick label="kept once it stands" on={free} onChange={(on) => [setFree(on), remember("free", on ? "yes" : "no")]} />
            <Tick label="spoken" on={voice} onChange={(on) => [setVoice(on), remember("voice", on ? "yes" : "no")]} />
            {heard?.language === "scpi" ? (
              <Tick label="a stand-in’s hands follow" on={follow} onChange={(on) => [setFollow(on), remember("follow", on ? "yes" : "no")]} />
            ) : null}
          </>
        )}
      </div>
      {heard === undefined ? null : dial === undefined ? (
        <p className="text-mute m-0">This step is read by eyes or by a tester: type it.</p>
      ) : (
        <div className={folds ? "bg-paper border-ink fixed inset-x-0 bottom-0 z-10 border-t-2 px-4 py-2" : ""}>
          {otherWanted ? (
            <p className="m-0">This one is wanted on the second meter, which is none of those that speak: type what it shows.</p>
          ) : wrongJack ? (
            <WrongJack
              says={wrongJack}
              to={jackFor(test)}
              onMoved={() => [setMoved({ instrument: heard.id, jack: jackFor(test) }), remember("moved", `${heard.id} ${jackFor(test)}`)]}
            />
          ) : (
            <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
              <span className="num text-[2.6rem] leading-tight" data-live="">
                {live.figure ? shownAs(live.figure, test.unit) : "– – –"}
              </span>
              <span role="status">
                {live.lost ? <strong className="text-copper font-semibold">{live.lost} Type the figure meanwhile; it is called again by itself.</strong> : says}
              </span>
              {offered === undefined || live.lost ? null : (
                <button type="button" className="btn min-h-10" onClick={() => keep(stands ?? { value: offered }, true)}>
                  Keep {offered === "OL" ? "the open line" : formatQuantity(offered, test.unit)}
                </button>
              )}
            </div>
          )}
          {folds ? (
            <button type="button" className="min-h-11 underline" onClick={onType}>
              Type the figure instead
            </button>
          ) : null}
        </div>
      )}
      {heard && heard !== own ? (
        <p className="m-0 text-[0.95rem]">
          Heard for this step: <strong className="font-semibold">{heard.name}</strong>.
        </p>
      ) : null}
      {chosen !== undefined && dial !== undefined && !wrongJack && !otherWanted && test.openAllowed && (dial === "Ω" || dial === "diode") ? (
        <p className="text-mute m-0 text-[0.95rem]">For an open line touch the tips together first, then hold them on the points.</p>
      ) : chosen !== undefined && dial !== undefined && test.alongConductor && test.setUp.engine === "running" ? (
        <p className="text-mute m-0 text-[0.95rem]">
          Touch {dial === "V AC" ? "two legs" : "both posts of the battery"} first, so that the leads are seen to be live, then hold the probes on the points.
        </p>
      ) : null}
      {caught ? (
        <figure className="m-0 mt-2 max-w-[27rem]">
          <KeptTraceFigure trace={caught} width={DIP_WIDTH} />
          <figcaption className="text-mute text-[0.95rem]">As it was caught: kept with the job’s traces.</figcaption>
        </figure>
      ) : null}
    </section>
  );
}

/** Steps that are kept of a dip at most. */
const DIP_STEPS = 600;

/** A dip as a trace that a job keeps. */
function traceOf({ seconds, volts, from, to }: DipCurve): NewTrace {
  const lasted = seconds.at(-1) ?? 0;
  const heard = { seconds: Float64Array.from(seconds), volts: Float64Array.from(volts) };
  return {
    id: newId(),
    name: `Crank at ${lightFormat(Date.now(), "HH:mm:ss")}, caught live`,
    seconds: lasted,
    rate: Math.round(seconds.length / Math.max(1e-3, lasted)),
    phases: [{ phase: "crank", from, to, volts: Math.min(...volts) }],
    drawn: envelopeOf(heard, 0, lasted, DIP_STEPS),
  };
}

/** Beside the step it can hurt at: where the red lead has to be before the probes touch anything. */
function WrongJack({ says, to, onMoved }: { says: string; to: Jack; onMoved: () => void }) {
  return (
    <div className="rule-left">
      <p role="status" className="m-0">
        <TriangleAlert size={16} aria-hidden="true" className="text-copper mr-1 inline align-[-2px]" />
        {says}
      </p>
      <button type="button" className="btn mt-2 min-h-10" onClick={onMoved}>
        {to === "clamp" ? "It is a clamp" : `It is in the ${JACKS[to]} now`}
      </button>
    </div>
  );
}

/** A figure as the step reads it, or, of a wrong dial, as the meter gave it. */
function shownAs({ value, unit }: { value: number | "OL"; unit: string }, wanted: Unit): string {
  const figure = value === "OL" ? value : inUnit(value, unit, wanted);
  return figure === undefined ? `${value} ${unit}` : formatQuantity(figure, wanted);
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-9 items-center gap-2">
      <input type="checkbox" className="size-5" checked={on} onChange={(event) => onChange(event.target.checked)} /> {label}
    </label>
  );
}

/** Whether the probes and the dial are already where a step wants them: one reading follows another on the same points. */
function arePlaced(before: Reading, step: Step, sheet: Sheet): boolean {
  const [was, is] = [probesAt(before, sheet), probesAt(step, sheet)];
  return testOf(before.test).dial === testOf(step.test).dial && was !== undefined && was.red === is?.red && was.black === is.black;
}

/** Speaks where the browser can. */
function say(on: boolean, words: string): void {
  if (!on || typeof speechSynthesis === "undefined") return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

/** How long after a stand-in did not answer, or the page still asks for its probes to be lifted, its hands are sent again, ms. */
const HANDS_AGAIN = 2000;
/** What the server says where a stand-in did not do as it was told (HTTP: bad gateway). */
const STAND_IN_SILENT = 502;

/**
 * Moves the hands of a stand-in to each step that comes up, so that a whole job can be seen to run by itself; one that does not answer is
 * asked again. @param toLift the page waits for the probes to be lifted
 */
function useStandIn(instrument: number | undefined, step: string, toLift: boolean, onProblem: (says: string | undefined) => void): void {
  const told = useRef(onProblem);
  told.current = onProblem;
  const [lifted, setLifted] = useState(0);
  useEffect(() => {
    if (!toLift) return;
    const again = setInterval(() => setLifted((times) => times + 1), HANDS_AGAIN);
    return () => clearInterval(again);
  }, [toLift]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: sent once more each time they are to be lifted
  useEffect(() => {
    if (instrument === undefined) return;
    const stop = new AbortController();
    let later: ReturnType<typeof setTimeout> | undefined;
    told.current(undefined);
    const send = async (): Promise<void> => {
      const body = new FormData();
      body.set("step", step);
      const response = await fetch(`/instruments/${instrument}/live`, { method: "POST", body, signal: stop.signal }).catch(() => undefined);
      if (stop.signal.aborted) return;
      const problem = response?.ok === false ? await response.text().catch(() => undefined) : undefined;
      if (stop.signal.aborted) return;
      told.current(problem);
      if (!response || response.status === STAND_IN_SILENT) later = setTimeout(() => void send(), HANDS_AGAIN);
    };
    void send();
    return () => {
      stop.abort();
      clearTimeout(later);
    };
  }, [instrument, step, lifted]);
}

/** Keeps the screen awake while a meter is listened to, where the browser can. */
function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return;
    let gone = false;
    let lock: WakeLockSentinel | undefined;
    void navigator.wakeLock
      .request("screen")
      .then((held) => {
        if (gone) void held.release();
        else lock = held;
      })
      .catch(() => undefined);
    return () => {
      gone = true;
      void lock?.release();
    };
  }, [on]);
}
