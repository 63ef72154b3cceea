import type { Advice } from "../diagnosis/advice";
import type { Prices } from "../diagnosis/planning/prices";
import { remediesOf } from "../diagnosis/remedies";
import { partNamesOf } from "../machine/families/registry";
import type { Sheet } from "../machine/sheet";
import { perishes } from "../procedure/moves";
import { stepTitle } from "../procedure/step";
import { chargePlan } from "../procedure/waits";
import type { Task } from "./plan";

/** What of a job the day's plan is made from. */
export interface Standing {
  sheet: Sheet;
  advice: Advice | undefined;
  restVolts: number | undefined;
  restHours: number;
  repaired: boolean;
}

/** Minutes until it is known what a machine needs, where nothing is worked out yet. */
const UNKNOWN_MINUTES = 15;
/** Proof readings after a repair, and a charger put on. */
const PROOF_MINUTES = 8;
const CHARGER_MINUTES = 5;

/**
 * What a machine still needs, as hands and waits in their order: the stays of its plan, then the repair that is decided, then its proof.
 * A charge is laid out by the battery's own hours, the rest after it by the school's.
 */
export function tasksOf(standing: Standing, prices: Prices): Task[] {
  const { sheet, advice, repaired } = standing;
  if (!advice) return [{ kind: "hands", minutes: UNKNOWN_MINUTES, title: "Look at it" }];
  const tasks = together(readingTasks(advice, standing));
  const remedies = remediesOf(advice.decision.set);
  const parts = remedies.filter((remedy) => remedy !== "charge");
  if (remedies.includes("charge")) tasks.push(...chargeTasks(standing));
  if (parts.length > 0)
    tasks.push({
      kind: "hands",
      minutes: Math.round(parts.reduce((sum, part) => sum + prices.parts[part].minutes, 0)) + PROOF_MINUTES,
      title: `${advice.settled ? "Mend" : "Likely mend"}: ${parts.map((part) => partNamesOf(sheet)[part].toLowerCase()).join(", ")}`,
    });
  else if (repaired || advice.settled) tasks.push({ kind: "hands", minutes: PROOF_MINUTES, title: repaired ? "Prove and close" : "Close it" });
  return tasks;
}

/** The readings that are worth their minutes, a task a stay, with the charge or rest that they ask for. */
function readingTasks(advice: Advice, standing: Standing): Task[] {
  const tasks: Task[] = [];
  const wanted = advice.settled ? [] : advice.next.filter(({ pays }) => pays);
  for (const stay of new Set(wanted.map((suggestion) => suggestion.stay))) {
    const readings = wanted.filter((suggestion) => suggestion.stay === stay);
    const moves = readings.flatMap((reading) => reading.moves);
    const asks = (id: "charge" | "rest"): boolean => moves.some((move) => move.id === id);
    if (asks("charge")) tasks.push(...chargeTasks(standing));
    else if (asks("rest")) tasks.push(...restTasks(tasks.length === 0, standing.restHours));
    const hands = moves.reduce((sum, move) => sum + (move.id === "charge" || move.id === "rest" ? 0 : move.hands + move.clock), 0);
    const [first] = readings;
    const others = readings.length - 1;
    const losesRest = readings.some(({ step }) => perishes(step.test) === "rest") && !asks("charge") && !asks("rest");
    tasks.push({
      kind: "hands",
      minutes: Math.max(1, Math.round(hands + readings.reduce((sum, { minutes }) => sum + minutes, 0))),
      title: `${first ? stepTitle(first.step) : "Readings"}${others > 0 ? ` and ${others} more` : ""}`,
      ...(losesRest ? { losesRest: true as const } : {}),
    });
  }
  return tasks;
}

function chargeTasks({ sheet, restVolts, restHours }: Standing): Task[] {
  const { slowAmps } = chargePlan(sheet, restVolts, restHours, 1);
  const { hours } = chargePlan(sheet, restVolts, restHours, slowAmps);
  return [
    { kind: "hands", minutes: CHARGER_MINUTES, title: `On the charger, ${slowAmps.toFixed(1)} A` },
    { kind: "wait", minutes: Math.round(hours * 60), what: "charge", title: "Charging" },
    { kind: "wait", minutes: restHours * 60, what: "rest", title: "Resting" },
  ];
}

/** A rest goes by after whatever hands did before it; a machine that begins with one is left alone at once. */
function restTasks(first: boolean, restHours: number): Task[] {
  const leave: Task[] = first ? [{ kind: "hands", minutes: 1, title: "Leave it to rest" }] : [];
  return [...leave, { kind: "wait", minutes: restHours * 60, what: "rest", title: "Resting" }];
}

/** Stays of readings that follow each other without a wait are one visit to the machine. */
function together(tasks: readonly Task[]): Task[] {
  const visits: Task[] = [];
  for (const task of tasks) {
    const last = visits.at(-1);
    if (task.kind === "hands" && last?.kind === "hands")
      visits[visits.length - 1] = { ...last, minutes: last.minutes + task.minutes, title: `${last.title.replace(/, and on$/, "")}, and on` };
    else visits.push(task);
  }
  return visits;
}
