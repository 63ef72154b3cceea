import { TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { LOOSE } from "../../core/machine/loose";
import { type Point, pointName } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { wakingWords } from "../../core/machine/waking";
import { wireName } from "../../core/machine/wire";
import { type Dial, testOf } from "../../core/procedure/catalogue";
import { CAUTIONS, type CautionId } from "../../core/procedure/cautions";
import { looseSetUp } from "../../core/procedure/loose";
import { probesAt, type Step } from "../../core/procedure/step";

const DIAL_WORDS: Record<Dial, string> = {
  "V DC": "Volts DC",
  "V AC": "Volts AC",
  Ω: "Ohms, lowest range",
  diode: "Diode",
  "A DC": "Amps DC, highest range and jack first",
  eyes: "None: look and feel",
  tester: "Battery tester",
};

interface SetUpProps {
  step: Step;
  sheet: Sheet;
  swapped: boolean;
  /** What has to be done to the machine before the step itself. */
  first: readonly string[];
}

/** Engine, dial and probes of a step, each line starting with its verb. */
export function SetUp({ step, sheet, swapped, first }: SetUpProps) {
  const test = testOf(step.test);
  const probes = probesAt(step, sheet);
  const rpm =
    step.rpm === "idle" ? ` Let it idle, about ${sheet.idleRpm.toLocaleString("en")} rpm.` : step.rpm ? ` Hold ${step.rpm.toLocaleString("en")} rpm.` : "";
  const loads =
    step.loads === "all" ? " Turn on high beam and every load." : step.loads === "normal" ? " Lights on as ridden." : step.loads === "off" ? " Loads off." : "";
  const { loose } = sheet;
  const doing = loose ? looseSetUp(test.id, loose) : test.setUp.do.replace("{connector}", `${sheet.statorConnector.name} (${sheet.statorConnector.place})`);
  const wakes = test.setUp.engine === "running" && test.group !== "stator" ? wakingWords(sheet) : undefined;
  const waking = wakes ? ` ${wakes}` : "";
  const [red, black] = swapped ? [probes?.black, probes?.red] : [probes?.red, probes?.black];
  return (
    <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[1.08rem]">
      {first.length > 0 ? (
        <Row name="First">
          <strong className="font-semibold">{first.join(" ")}</strong>
        </Row>
      ) : null}
      <Row name={loose ? LOOSE[loose] : "Engine"}>{`${doing}${waking}${rpm}${loads}`}</Row>
      <Row name="Dial">{DIAL_WORDS[test.dial]}</Row>
      {red && black ? (
        <Row name="Probes">
          <span className="flex flex-wrap gap-x-6">
            <ProbeWord sign="+" colour="red" point={red} sheet={sheet} />
            <ProbeWord sign="−" colour="black" point={black} sheet={sheet} />
          </span>
        </Row>
      ) : null}
    </dl>
  );
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-mute pt-0.5 text-[0.95rem]">{name}</dt>
      <dd className="m-0">{children}</dd>
    </>
  );
}

function ProbeWord({ sign, colour, point, sheet }: { sign: string; colour: "red" | "black"; point: Point; sheet: Sheet }) {
  const leg = sheet.legs.find((leg) => point.endsWith(`eg:${leg.id}`));
  return (
    <span className="inline-flex items-center gap-2">
      <span
        className={`num inline-flex size-5 items-center justify-center rounded-full border-2 text-xs ${colour === "red" ? "border-(--wire-red)" : "border-ink"}`}
        aria-hidden="true"
      >
        {sign}
      </span>
      {`${colour === "red" ? "Red" : "Black"} on ${pointName(point, sheet)}${leg ? `, ${wireName(leg.wire)}` : ""}`}
    </span>
  );
}

interface CautionsProps {
  ids: readonly CautionId[];
  before?: readonly CautionId[];
  /** How many of them injure and have not been said to have been read in this job. */
  toSee?: number;
  onSeen?: () => void;
}

/** The cautions of a step, beside it. @param before those that stood at the reading before: nobody reads them twice, so they are folded */
export function Cautions({ ids, before = [], toSee = 0, onSeen }: CautionsProps) {
  const fresh = ids.filter((id) => !before.includes(id));
  const known = ids.filter((id) => before.includes(id));
  if (ids.length === 0) return null;
  return (
    <div className="rule-left text-[0.98rem] leading-snug max-md:text-[0.9rem]">
      <CautionLines ids={fresh} />
      {known.length > 0 ? (
        <details>
          <summary className="text-mute min-h-7 cursor-pointer">
            {fresh.length > 0 ? "And as before" : "Cautions as before"}: {known.length}
          </summary>
          <CautionLines ids={known} />
        </details>
      ) : null}
      {toSee > 0 ? (
        <button type="button" data-seen="" className="btn mt-1 min-h-10" onClick={onSeen}>
          {toSee === 1 ? "I have read this" : "I have read these"}
          <span className="key">u</span>
        </button>
      ) : null}
    </div>
  );
}

function CautionLines({ ids }: { ids: readonly CautionId[] }) {
  return (
    <ul className="m-0 list-none p-0">
      {ids.map((id) => (
        <li key={id} className="inline">
          <TriangleAlert size={15} className="text-copper mr-1 inline align-[-2px]" aria-hidden="true" />
          {CAUTIONS[id]}{" "}
        </li>
      ))}
    </ul>
  );
}
