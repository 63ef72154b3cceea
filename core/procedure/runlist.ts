import { hasCapacitor } from "../machine/capacitor";
import type { Sheet } from "../machine/sheet";
import { CATALOGUE, GROUPS, type GroupId, type Test, type TestId, testOf } from "./catalogue";
import type { Judged, JudgedReading } from "./judge";
import { beginningOf, movesTo, timeOf, worked } from "./moves";
import type { School } from "./schools";
import { answers, type Step, stepKey, stepsOf } from "./step";

/** A skipped step, with the mechanic's reason. */
export interface Skip {
  id: string;
  step: string;
  reason: string;
}

/** One line of the run list: a step, its latest reading if it has one, or why it was skipped. */
export interface Line {
  key: string;
  step: Step;
  done?: JudgedReading;
  skipped?: string;
}

export interface Stage {
  group: GroupId;
  title: string;
  lines: Line[];
  /** Minutes of hands on the machine that what is still open takes, from where the stages before leave it. */
  minutesLeft: number;
  /** Tests of the stage that nothing has asked for, but that can be taken. */
  more: Step[];
}

/** When a test that is not part of every job is worth taking: what earlier judgements ask for it. */
const ASKED_BY: { test: TestId; by: TestId; judged: readonly Judged[] }[] = [
  { test: "inspect.ground", by: "inspect.terminals", judged: ["low"] },
  { test: "battery.load", by: "battery.rest", judged: ["low"] },
  { test: "battery.load", by: "battery.crank", judged: ["low"] },
  { test: "battery.cell", by: "battery.load", judged: ["low"] },
  { test: "battery.postDrop", by: "battery.crank", judged: ["low"] },
  { test: "starter.cableDrop", by: "battery.crank", judged: ["low"] },
  { test: "inspect.fluid", by: "charge.volts", judged: ["high"] },
  { test: "stator.acVoltsAtUnit", by: "charge.volts", judged: ["low"] },
  { test: "fuse.continuity", by: "regulator.feed", judged: ["low"] },
  { test: "drain.unitUnplugged", by: "drain.current", judged: ["high"] },
  { test: "drain.fusePulled", by: "drain.current", judged: ["high"] },
];

/** The readings of the diagnosis itself: those taken after the repair belong to the proof. */
export function beforeRepair(judged: readonly JudgedReading[]): JudgedReading[] {
  return judged.filter((judgedReading) => !judgedReading.reading.afterRepair);
}

/**
 * The run list: stages in the school's order, in each the steps every job takes, those that earlier readings ask for,
 * and those already answered in any other way.
 */
export function runList(sheet: Sheet, school: School, judged: readonly JudgedReading[], skips: readonly Skip[]): Stage[] {
  const readings = beforeRepair(judged);
  const reasons = new Map(skips.map((skip) => [skip.step, skip.reason]));
  let { state } = worked(
    readings.map(({ reading }) => reading),
    school.restHours,
    beginningOf(sheet),
  );
  const stages = school.order.map((group) => {
    const tests = orderWithin(group, school);
    const lines: Line[] = [];
    const more: Step[] = [];
    for (const test of tests) {
      const mine = readings.filter((reading) => reading.reading.test === test.id);
      const listed = !test.onlyWhenAsked || mine.length > 0 || isAsked(test.id as TestId, readings);
      const answered = new Set<JudgedReading>();
      const steps = stepsOf(test, sheet);
      for (const step of steps) {
        const done = mine.findLast((judgedReading) => answers(judgedReading.reading, step));
        const key = stepKey(step);
        const skipped = done ? undefined : reasons.get(key);
        if (done) answered.add(done);
        if (done || skipped || (listed && !isExtra(test, step))) lines.push({ key, step, ...(done ? { done } : {}), ...(skipped ? { skipped } : {}) });
        else more.push(step);
      }
      for (const judgedReading of mine) {
        if (!answered.has(judgedReading) && !steps.some((step) => answers(judgedReading.reading, step))) {
          lines.push({ key: stepKey(judgedReading.reading), step: judgedReading.reading, done: judgedReading });
        }
      }
    }
    let minutesLeft = 0;
    for (const { step, done, skipped } of lines) {
      if (done || skipped) continue;
      const then = movesTo(step, {}, state, school.restHours);
      minutesLeft += timeOf(then.moves).hands + testOf(step.test).minutes;
      state = then.state;
    }
    return { group, title: GROUPS[group], lines, minutesLeft, more };
  });
  // Of a part by itself most stages have nothing at all, and a machine without a battery has none to prove.
  return sheet.loose || hasCapacitor(sheet) ? stages.filter(({ lines, more }) => lines.length + more.length > 0) : stages;
}

/** True for a run that a job takes only when it is asked for. */
function isExtra({ runs }: Test, step: Step): boolean {
  return runs?.some(({ loads, onlyWhenAsked }) => onlyWhenAsked && loads === step.loads) === true;
}

/** A stage's tests in the school's order: ohms or AC first on the stator. */
function orderWithin(group: GroupId, school: School): Test[] {
  const tests: Test[] = CATALOGUE.filter((test) => test.group === group);
  if (group !== "stator" || school.statorFirst === "ohms") return tests;
  const first = (test: Test) => (test.unit === "V AC" ? 0 : 1);
  return [...tests].sort((a, b) => first(a) - first(b));
}

function isAsked(test: TestId, judged: readonly JudgedReading[]): boolean {
  return ASKED_BY.some(
    (ask) => ask.test === test && judged.some((judgedReading) => judgedReading.reading.test === ask.by && ask.judged.includes(judgedReading.judged)),
  );
}

/** The next step nobody has answered or skipped, in the list's order; undefined when the list is done. */
export function nextStep(stages: readonly Stage[]): Step | undefined {
  return stages.flatMap((stage) => stage.lines).find((line) => !line.done && !line.skipped)?.step;
}

/**
 * The readings that prove a repair: charging volts again at every run, a fresh drain reading where the drain was the
 * fault, and the failed tests of the part itself.
 */
export function proofSteps(sheet: Sheet, judged: readonly JudgedReading[], fault: string | undefined): Step[] {
  const steps = stepsOf(testOf("charge.volts"), sheet).filter(({ loads }) => loads !== "off");
  if (fault === "battery.capacitor-dry") steps.push(...stepsOf(testOf("charge.ripple"), sheet));
  else if (fault?.startsWith("battery.") || fault?.startsWith("starter.")) steps.unshift({ test: "battery.rest" }, { test: "battery.crank" });
  if (fault === "loads.parasitic" || fault === "regulator.diode-leaky") steps.push({ test: "drain.current" });
  if (fault?.startsWith("stator.") || fault?.startsWith("rotor.")) {
    steps.push(...stepsOf(testOf("stator.acVolts"), sheet).filter((step) => step.rpm !== "idle"));
  }
  if (fault?.startsWith("wiring.")) {
    const bad = beforeRepair(judged).filter((judgedReading) =>
      ["charge.positiveDrop", "charge.groundDrop", "regulator.feed", "regulator.ground"].includes(judgedReading.reading.test),
    );
    steps.push(...bad.filter((judgedReading) => judgedReading.judged !== "in").flatMap((judgedReading) => stepsOf(testOf(judgedReading.reading.test), sheet)));
  }
  return steps;
}
