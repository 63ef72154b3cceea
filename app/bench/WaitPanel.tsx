import { lightFormat } from "date-fns";
import { useState } from "react";
import { hasCapacitor } from "../../core/machine/capacitor";
import type { Sheet } from "../../core/machine/sheet";
import { chargePlan, type Wait } from "../../core/procedure/waits";
import { isNumber } from "../../core/units";
import { typedNumber } from "../../formats/typed";
import type { JobView } from "../jobs/view";
import { FigureInSentence } from "../ui/FigureInSentence";
import { Panel } from "../ui/Panel";
import { Cautions } from "./SetUp";

interface WaitPanelProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  sheet: Sheet;
  restVolts: number | undefined;
  restHours: number;
  onWait: (begun: Omit<Wait, "beganAt">) => void;
}

/** The latest rest volts of the machine as it stands now. */
export function restVoltsOf(view: JobView): number | undefined {
  const value = view.judged.findLast(({ reading }) => reading.test === "battery.rest" && view.isNow(reading))?.value;
  return value !== undefined && isNumber(value) ? value : undefined;
}

const inHours = (hours: number): string => new Date(Date.now() + hours * 3_600_000).toISOString();

/** Sends a machine into a wait: onto the charger, to rest, or until a part is there. The rail then says until when. */
export function WaitPanel({ open, onOpenChange, ...props }: WaitPanelProps) {
  return (
    <Panel open={open} onOpenChange={onOpenChange} title="Let it wait">
      {hasCapacitor(props.sheet) ? null : (
        <>
          <Charge {...props} />
          <Rest {...props} />
        </>
      )}
      <Part {...props} />
    </Panel>
  );
}

type FormProps = Omit<WaitPanelProps, "open" | "onOpenChange">;

function Charge({ sheet, restVolts, restHours, onWait }: FormProps) {
  const slow = chargePlan(sheet, restVolts, restHours, 1).slowAmps;
  const [text, setText] = useState(slow.toFixed(1));
  const amps = typedNumber(text);
  const known = amps !== undefined && amps >= 0.1 && amps <= 100;
  const plan = chargePlan(sheet, restVolts, restHours, known ? amps : slow);
  const says = `${plan.charge === undefined ? "Nothing is known of its charge, so it is taken for empty: full" : plan.charge >= 0.97 ? "It is as good as full" : `About ${Math.round(plan.charge * 100)} % charged: full`} after about ${hoursWords(plan.hours)}, and rested enough to be judged ${hoursWords(restHours)} later.`;
  return (
    <section>
      <h2 className="m-0 text-base">On the charger</h2>
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          if (known) onWait({ what: "charge", until: inHours(plan.hours), note: `${text.trim()} A` });
        }}
      >
        <FigureInSentence before="Charger gives" after="A" text={text} onText={setText} good={known} says="charge-says" />
        <p id="charge-says" className="m-0 mt-1" role="status">
          {known ? says : "Amps must be a number from 0.1 to 100."}
          {known && amps > plan.fastAmps ? " That charger is too large for it." : ""}
        </p>
        <p className="text-mute m-0 mt-1">
          It bears {plan.slowAmps.toFixed(1)} A, {plan.fastAmps.toFixed(1)} A for an hour at most, and {plan.volts.toFixed(1)} V; its label goes first.
        </p>
        <Cautions ids={["hydrogen", "no-sparks", ...(sheet.battery.chemistry === "lithium-iron" ? (["lithium"] as const) : [])]} />
        <button type="submit" className="btn btn-main mt-2">
          It is on the charger
        </button>
      </form>
    </section>
  );
}

function hoursWords(hours: number): string {
  return hours < 1.5 ? `${Math.round(hours * 60)} minutes` : `${Math.round(hours * 2) / 2} hours`;
}

function Rest({ restHours, onWait }: FormProps) {
  const [text, setText] = useState(String(restHours));
  const hours = typedNumber(text);
  const known = hours !== undefined && hours >= 0.1 && hours <= 100;
  return (
    <form
      className="border-hair mt-5 border-t pt-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (known) onWait({ what: "rest", until: inHours(hours) });
      }}
    >
      <h2 className="m-0 text-base">Resting</h2>
      <FigureInSentence before="for" after="hours, charger off, key out" text={text} onText={setText} good={known} says="rest-says" />
      <p id="rest-says" className="m-0" role="status">
        {known ? "" : "Hours must be a number from 0.1 to 100."}
      </p>
      <button type="submit" className="btn mt-2">
        It rests
      </button>
    </form>
  );
}

function Part({ onWait }: FormProps) {
  const [part, setPart] = useState("");
  const [day, setDay] = useState("");
  const [error, setError] = useState<string>();
  return (
    <form
      className="border-hair mt-5 border-t pt-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        const name = part.trim();
        if (name === "" || name.length > 200) return setError("Say which part, in 200 characters at most.");
        onWait({ what: "part", note: name, ...(day ? { until: new Date(`${day}T08:00`).toISOString() } : {}) });
      }}
    >
      <h2 className="m-0 text-base">Waiting for a part</h2>
      <label className="mt-1 flex flex-col">
        <span className="text-mute">Which</span>
        <input
          className="field"
          value={part}
          onChange={(event) => {
            setPart(event.target.value);
            setError(undefined);
          }}
          aria-invalid={error ? true : undefined}
          aria-describedby="part-says"
        />
      </label>
      <div id="part-says" role="alert">
        {error ? <p className="rule-left m-0">{error}</p> : null}
      </div>
      <label className="mt-1 flex flex-col">
        <span className="text-mute">Due, if it is known</span>
        <input className="field" type="date" min={lightFormat(Date.now(), "yyyy-MM-dd")} value={day} onChange={(event) => setDay(event.target.value)} />
      </label>
      <button type="submit" className="btn mt-2">
        It is on order
      </button>
    </form>
  );
}
