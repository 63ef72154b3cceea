/**
 * The day's plan: which machine the hands turn to next, so that none are idle while others charge and rest. Machines are chains of work and
 * waits (a job shop with time lags; Pinedo, Scheduling, ch. 7); an order of machines is played through minute by minute, and better orders
 * are looked for by moving one machine at a time.
 */

/** Something a machine needs next: hands on it, or time. */
export type Task =
  | { kind: "hands"; minutes: number; title: string; losesRest?: true }
  | { kind: "wait"; minutes: number; what: "charge" | "rest" | "part"; title: string };

/** A machine on the rail as the plan sees it. */
export interface DayJob {
  id: number;
  name: string;
  /** What is still to be done, in its order; it begins with hands. */
  tasks: readonly Task[];
  /** Not before this, ms: it charges, rests or waits for a part until then. */
  readyAt: number;
  /** It is on a charger until then. */
  onCharger?: true;
  /** Set by hand: begins then, ms. */
  pinnedAt?: number;
}

/** What the workshop has for it. */
interface Bay {
  mechanics: number;
  chargers: number;
}

/** One stretch of the plan. */
export interface Planned {
  jobId: number;
  title: string;
  from: number;
  to: number;
  /** Whose hands, counted from 0; undefined where it waits. */
  mechanic: number | undefined;
  what: Task["kind"] | "charge" | "rest" | "part";
  /** Why now; of hands only. */
  why?: string;
}

export interface DayPlan {
  stretches: Planned[];
  /** Minutes in which somebody's hands have nothing to do before the last work of the day. */
  idle: number;
  /** Machines of which nothing fits into what is left of the day. */
  tomorrow: number[];
}

const MINUTE = 60_000;
/** Orders that are tried: enough for forty machines, and done in a blink. */
const TRIES = 260;
/**
 * What counts: a minute of idle hands, of work left over, of a wait not begun by the evening, of a wait times the share of the day that
 * passes before it begins, of a machine's finish; and a machine that is not finished.
 */
const WEIGHTS = { idle: 4, left: 1, unwaited: 0.3, late: 0.15, finish: 0.03, unfinished: 15 } as const;

/**
 * Plans the rest of a day.
 * @param jobs the machines that are to be worked on today, in the order they came in
 * @param now ms
 * @param ends when the hands go home, ms
 */
export function planDay(jobs: readonly DayJob[], bay: Bay, now: number, ends: number): DayPlan {
  const chains = jobs.map((job) => chainOf(job, now));
  let order = chains.map((_, k) => k).sort((a, b) => (chains[b] as Chain).tail - (chains[a] as Chain).tail);
  let best = played(chains, order, bay, now, ends);
  const firstCome = played(
    chains,
    chains.map((_, k) => k),
    bay,
    now,
    ends,
  );
  if (firstCome.cost < best.cost) [order, best] = [chains.map((_, k) => k), firstCome];
  let seed = 1;
  const chance = (below: number): number => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((seed / 2 ** 32) * below);
  };
  for (let k = 0; k < TRIES && order.length > 1; k++) {
    const tried = [...order];
    const [moved] = tried.splice(chance(tried.length), 1);
    tried.splice(chance(tried.length + 1), 0, moved as number);
    const found = played(chains, tried, bay, now, ends);
    if (found.cost <= best.cost) [order, best] = [tried, found];
  }
  return told(best, chains, jobs, now);
}

/** A machine's tasks with what follows each. */
interface Chain {
  job: DayJob;
  /** Minutes of hands, then of the wait that follows it, task by task. */
  steps: { title: string; hands: number; wait: number; charges: boolean; waits: readonly Extract<Task, { kind: "wait" }>[]; losesRest: boolean }[];
  ready: number;
  /** Minutes of waits and work after its first work: the longer, the sooner it had better begin. */
  tail: number;
}

function chainOf(job: DayJob, now: number): Chain {
  const steps: Chain["steps"] = [];
  for (const task of job.tasks) {
    const last = steps.at(-1);
    if (task.kind === "hands") steps.push({ title: task.title, hands: task.minutes, wait: 0, charges: false, waits: [], losesRest: task.losesRest === true });
    else if (last) {
      last.wait += task.minutes;
      last.charges ||= task.what === "charge";
      last.waits = [...last.waits, task];
    }
  }
  const after = steps.reduce((sum, { hands, wait }, k) => sum + wait + (k > 0 ? hands : 0), 0);
  return { job, steps, ready: Math.max(now, job.readyAt, job.pinnedAt ?? 0), tail: after };
}

/** Hands that are still worth it in the evening for a charge that goes by overnight, min; a shorter charge is no reason to stay. */
const EVENING = { hands: 30, charge: 180 } as const;

/**
 * Machines that could charge through the night, the longest charge first: as many as there are chargers, with the minutes of hands that
 * it takes before. A day lost at the charger is saved by half an hour in the evening.
 */
export function overnight(jobs: readonly DayJob[], { chargers }: Pick<Bay, "chargers">, now: number): { jobId: number; hands: number; charge: number }[] {
  const inUse = jobs.filter(({ onCharger, readyAt }) => onCharger && readyAt > now).length;
  return jobs
    .flatMap(({ id, tasks, readyAt }) => {
      const at = tasks.findIndex((task) => task.kind === "wait");
      const wait = tasks[at];
      const hands = tasks.slice(0, Math.max(0, at)).reduce((sum, { minutes }) => sum + minutes, 0);
      const can = wait?.kind === "wait" && wait.what === "charge" && wait.minutes >= EVENING.charge && hands <= EVENING.hands && readyAt <= now;
      return can ? [{ jobId: id, hands, charge: wait.minutes }] : [];
    })
    .sort((a, b) => b.charge - a.charge)
    .slice(0, Math.max(0, chargers - inUse));
}

interface Stretch {
  chain: number;
  step: number;
  from: number;
  to: number;
  mechanic: number;
}

interface Played {
  stretches: Stretch[];
  cost: number;
  idle: number;
}

/** Plays an order through: whoever is free takes the first machine of the order that is ready. */
function played(chains: readonly Chain[], order: readonly number[], bay: Bay, now: number, ends: number): Played {
  const free = Array.from({ length: bay.mechanics }, () => now);
  // When each charger is free: those in use until their machine is done.
  const chargers = Array.from({ length: bay.chargers }, () => now);
  for (const { job } of chains)
    if (job.onCharger) {
      const k = chargers.findIndex((until) => until <= now);
      if (k >= 0) chargers[k] = Math.max(now, job.readyAt);
    }
  const at = chains.map(() => 0);
  const ready = chains.map((chain) => chain.ready);
  const stretches: Stretch[] = [];
  for (;;) {
    const mechanic = free.indexOf(Math.min(...free));
    const time = free[mechanic] as number;
    if (time >= ends) break;
    let [chosen, next] = [-1, Number.POSITIVE_INFINITY];
    for (const k of order) {
      const step = chains[k]?.steps[at[k] as number];
      if (!step) continue;
      let from = Math.max(time, ready[k] as number);
      const length = step.hands * MINUTE;
      // It goes on a charger when the hands leave it: one must be free then.
      if (step.charges && chargers.length > 0) from = Math.max(from, Math.min(...chargers) - length);
      if (from + length > ends || (step.charges && chargers.length === 0)) continue;
      if (from <= time && !keepsFrom(chains, at, k, time, length, free, mechanic)) {
        chosen = k;
        break;
      }
      next = Math.min(next, from <= time ? time + MINUTE : from);
    }
    if (chosen < 0) {
      if (next === Number.POSITIVE_INFINITY) free[mechanic] = ends;
      else free[mechanic] = next;
      if (free.every((until) => until >= ends)) break;
      continue;
    }
    const step = chains[chosen]?.steps[at[chosen] as number] as Chain["steps"][number];
    const to = time + step.hands * MINUTE;
    stretches.push({ chain: chosen, step: at[chosen] as number, from: time, to, mechanic });
    free[mechanic] = to;
    ready[chosen] = to + step.wait * MINUTE;
    if (step.charges) {
      // The charger is its own from the moment it is left until its last charge is over.
      const last = step.waits.findLastIndex(({ what }) => what === "charge");
      const taken = step.waits.slice(0, last + 1).reduce((sum, wait) => sum + wait.minutes, 0);
      chargers[chargers.indexOf(Math.min(...chargers))] = to + taken * MINUTE;
    }
    at[chosen] = (at[chosen] as number) + 1;
  }
  return { stretches, ...costOf(chains, at, ready, stretches, bay, now, ends) };
}

/** Whether this work would keep hands from a machine that is set for a time meanwhile, with nobody else free then. */
function keepsFrom(
  chains: readonly Chain[],
  at: readonly number[],
  k: number,
  time: number,
  length: number,
  free: readonly number[],
  mechanic: number,
): boolean {
  return chains.some(({ job }, other) => {
    if (other === k || job.pinnedAt === undefined || at[other] !== 0) return false;
    const pinned = Math.max(job.pinnedAt, job.readyAt);
    return pinned >= time && pinned < time + length && !free.some((until, hand) => hand !== mechanic && until <= pinned);
  });
}

function costOf(
  chains: readonly Chain[],
  at: readonly number[],
  ready: readonly number[],
  stretches: readonly Stretch[],
  bay: Bay,
  now: number,
  ends: number,
): { cost: number; idle: number } {
  let [left, unwaited, finish, unfinished, late] = [0, 0, 0, 0, 0];
  for (const { chain, step, to } of stretches) late += ((chains[chain]?.steps[step]?.wait ?? 0) * (to - now)) / Math.max(1, ends - now);
  chains.forEach(({ steps }, k) => {
    for (const step of steps.slice(at[k])) {
      left += step.hands;
      unwaited += step.wait;
    }
    if ((at[k] as number) < steps.length) unfinished++;
    finish += (Math.min(ends, ready[k] as number) - now) / MINUTE;
  });
  const work = stretches.reduce((sum, { from, to }) => sum + (to - from), 0) / MINUTE;
  const last = left > 0 ? ends : Math.max(now, ...stretches.map(({ to }) => to));
  const idle = Math.max(0, (bay.mechanics * (last - now)) / MINUTE - work);
  const cost =
    WEIGHTS.idle * idle + WEIGHTS.left * left + WEIGHTS.unwaited * unwaited + WEIGHTS.late * late + WEIGHTS.finish * finish + WEIGHTS.unfinished * unfinished;
  return { cost, idle };
}

/** A played order as it is told: waits between the work, and why each machine is next. */
function told({ stretches, idle }: Played, chains: readonly Chain[], jobs: readonly DayJob[], now: number): DayPlan {
  const planned: Planned[] = [];
  const chargersWanted = chains.some(({ steps }) => steps.some(({ charges }) => charges));
  stretches.forEach((stretch, k) => {
    const { chain: index, step: number, from, to, mechanic } = stretch;
    const owner = chains[index] as Chain;
    const { job } = owner;
    const step = owner.steps[number] as Chain["steps"][number];
    const begun = new Set(stretches.slice(0, k).map(({ chain }) => chain));
    const longest = chains.every((_, other) => other >= index || begun.has(other));
    planned.push({ jobId: job.id, title: step.title, from, to, mechanic, what: "hands", why: whyNow(owner, number, longest, chargersWanted, now) });
    let begins = to;
    for (const wait of step.waits) {
      const until = begins + wait.minutes * MINUTE;
      planned.push({ jobId: job.id, title: wait.title, from: begins, to: until, mechanic: undefined, what: wait.what });
      begins = until;
    }
  });
  const worked = new Set(planned.map(({ jobId }) => jobId));
  return { stretches: planned.sort((a, b) => a.from - b.from), idle, tomorrow: jobs.filter(({ id }) => !worked.has(id)).map(({ id }) => id) };
}

/** Hours and minutes as they are said: "40 min", "5 h". */
export function lasting(minutes: number): string {
  return minutes < 100 ? `${Math.round(minutes)} min` : `${Math.round(minutes / 30) / 2} h`;
}

function whyNow({ job, steps }: Chain, number: number, waitedLongest: boolean, chargersWanted: boolean, now: number): string {
  const step = steps[number] as Chain["steps"][number];
  const reasons: string[] = [];
  if (number === 0 && job.pinnedAt !== undefined) reasons.push("you set it for then");
  if (number === 0 && job.onCharger && chargersWanted) reasons.push("it frees the charger");
  else if (number === 0 && job.readyAt > now) reasons.push(job.onCharger ? "it is charged by then" : "its wait is over by then");
  const [longest] = [...step.waits].sort((a, b) => b.minutes - a.minutes);
  if (longest && step.wait >= LONG_WAIT) reasons.push(`it then ${WAITING[longest.what]} ${lasting(longest.minutes)} by itself`);
  else {
    // What follows without a pause may lead to a long wait: the sooner it begins, the better.
    const later = steps.slice(number + 1).find(({ wait }) => wait >= LONG_WAIT);
    const [wait] = later ? [...later.waits].sort((a, b) => b.minutes - a.minutes) : [];
    if (wait) reasons.push(`once that is done it ${WAITING[wait.what]} ${lasting(wait.minutes)} by itself`);
  }
  if (step.losesRest) reasons.push("it is rested now, and starting it would lose that");
  if (reasons.length === 0)
    reasons.push(number > 0 ? "it goes on where it was left" : waitedLongest ? "it has been here the longest" : "hands are free for it");
  return reasons.join(", and ");
}

/** A wait shorter than this is no reason to begin with it, min. */
const LONG_WAIT = 20;

const WAITING = { charge: "charges", rest: "rests", part: "waits" } as const;
