import type { Sheet } from "../machine/sheet";
import { formatQuantity } from "../units";
import { testOf } from "./catalogue";
import { PLAIN_CAUSES, triage } from "./complaints";
import { isBad, type JudgedReading } from "./judge";
import { answers, isTaken, type Step, stepTitle } from "./step";

/** One control reading: the step, and what it came to. */
interface Control {
  step: Step;
  reading: JudgedReading | undefined;
  /** What is ruled out once it is in its band. */
  rulesOut: string;
}

/** A plain cause on its way to be the end of the job. */
export interface Controls {
  /** The causes named, each as it was asked: "Key or lights left on?" */
  causes: string[];
  controls: Control[];
  /** All three are in their bands: nothing failed, the cause explains it. */
  passed: boolean;
  /** Its battery stands low, as after such a cause it must: it is charged and rested before anything is read of it. */
  charge: boolean;
  /** One is out of its band, a charge behind it where one was due: the cause explains less than the machine shows. */
  failed: Control | undefined;
  /** What the readings so far rule out, for the note that ends the job. */
  says: string;
}

/**
 * The three readings that turn a plain cause from a guess into an end: full at rest, holding under the starter, charging with all it
 * has to feed; without a battery the last alone. Undefined for a job that named no plain cause, or whose complaint speaks of more, and for a part by itself.
 * @param complaint what was said and which causes were named, by id
 * @param judged readings of the machine as it stands now
 */
export function controlsOf(sheet: Sheet, complaint: readonly string[], judged: readonly JudgedReading[]): Controls | undefined {
  if (sheet.loose || triage(complaint, complaint).kind !== "plain") return undefined;
  const steps: [Step, string][] = [
    [{ test: "battery.rest" }, "a battery that holds no charge"],
    [{ test: "battery.crank" }, "battery and starter under load"],
    [{ test: "charge.volts", rpm: sheet.testRpm, loads: "all" }, "rotor, stator, regulator and their wiring"],
  ];
  const taken = steps.filter(([{ test }]) => isTaken(testOf(test), sheet));
  const controls = taken.map(([step, rulesOut]): Control => ({ step, reading: judged.findLast(({ reading }) => answers(reading, step)), rulesOut }));
  const bad = controls.filter(({ reading }) => reading && isBad(reading.judged));
  const isFlat = ({ step, reading }: Control): boolean => step.test === "battery.rest" && !reading?.reading.charged;
  const good = controls.filter(({ reading }) => reading && !isBad(reading.judged));
  const figures = good.map(({ step, reading }) => `${stepTitle(step).toLowerCase()} ${formatQuantity(reading?.value ?? "", testOf(step.test).unit)}`);
  return {
    causes: PLAIN_CAUSES.filter(({ id }) => complaint.includes(id)).map(({ question }) => question),
    controls,
    passed: good.length === controls.length,
    charge: bad.some(isFlat),
    failed: bad.find((control) => !isFlat(control)),
    says: good.length === 0 ? "" : `Read: ${figures.join("; ")}. Ruled out: ${good.map(({ rulesOut }) => rulesOut).join("; ")}.`,
  };
}
