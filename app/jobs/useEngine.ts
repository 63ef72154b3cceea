import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Advice, JobFacts } from "../../core/diagnosis/advice";
import type { Push } from "../../core/diagnosis/posterior/push";
import type { Reading } from "../../core/procedure/step";
import type { JobFile } from "../../store/jobs";
import { askForAdvice } from "./advised";
import { factsOf, type ShopKnows } from "./facts";
import type { OwnEngine } from "./ownEngine";
import { countedOf, type JobView } from "./view";

type Stage = { at: "drawing"; done: number; of: number } | { at: "making" } | { at: "ready" } | { at: "failed"; why: string };

/** The engine as a screen sees it. */
export interface Engine {
  stage: Stage;
  /** The latest advice; undefined until there is one. */
  advice: Advice | undefined;
  /** It is of all that stands now, not of what stood before the last entry. */
  isOfNow: boolean;
  /** The readings the advice was made from, in the order its numbers name. */
  weighed: readonly Reading[];
  /** What each reading does by itself, by its id; undefined until it is known. */
  pushes: ReadonlyMap<string, Push> | undefined;
  /** Ids of readings that are crossed out to see what if. */
  crossed: ReadonlySet<string>;
  cross: (id: string) => void;
  /** The advice once these readings are in; undefined when it cannot be had. */
  after: (view: JobView) => Promise<Advice | undefined>;
}

/** What was said, and of which facts. */
interface Answer {
  advice: Advice;
  facts: JobFacts;
}

/** Without an engine of its own a page whose entries have not gone out for so long has nobody to ask, ms. */
const UNSENT = 3000;
/** Pushes are worked out when the hand rests, ms. */
const REST = 400;

interface Asking {
  /** The advice that the server kept with the job, of these readings. */
  kept: Advice | undefined;
  /** Entries that the server has not got yet: until then it cannot be asked. */
  waiting?: number;
  /** The job is looked at as it was found, before its repairs: the server is asked of that, and nothing is left to work out here. */
  asFound?: boolean;
}

/**
 * The odds of one job. What the server kept with it stands from the first paint; what it has not worked out yet it is asked for. The
 * page's own engine is fetched once the page stands, and answers from then on, line or no line.
 */
export function useEngine(file: JobFile, view: JobView, knows: ShopKnows, { kept, waiting = 0, asFound = false }: Asking): Engine {
  const { job, repairs } = file;
  const [drawn, setDrawn] = useState<{ done: number; of: number }>();
  const [failed, setFailed] = useState<string>();
  const [answer, setAnswer] = useState<Answer | undefined>(() => (kept ? { advice: kept, facts: factsOf(file, countedOf(file), knows) } : undefined));
  const [own, setOwn] = useState<OwnEngine>();
  const [pushes, setPushes] = useState(() => pushesIn(answer));
  const [crossed, setCrossed] = useState<ReadonlySet<string>>(new Set());
  const told = useCallback((of: JobView): JobFacts => factsOf({ job, repairs }, of, knows, crossed), [job, repairs, knows, crossed]);
  const facts = useMemo(() => told(view), [told, view]);
  const name = nameOf(facts);
  const heard = answer && nameOf(answer.facts) === name;
  const latest = useRef({ facts, answered: name });
  latest.current = { facts, answered: answer ? nameOf(answer.facts) : "" };
  const listeners = useRef(new Set<Listener>());
  const hear = useCallback((said: Answer): void => {
    setFailed(undefined);
    setAnswer(said);
    if (said.advice.pushes) setPushes(pushesIn(said));
    for (const listener of listeners.current) listener(said);
  }, []);
  const giveUp = useCallback((why?: string): void => {
    if (why !== undefined) setFailed(why);
    for (const listener of listeners.current) listener(undefined);
    listeners.current.clear();
  }, []);

  const subject = useRef(job);
  useEffect(() => {
    if (asFound) return;
    let gone = false;
    // The page stands first; what only the next reading needs comes when the browser has nothing else to do.
    const later = window.requestIdleCallback ?? ((begin: () => void) => window.setTimeout(begin, 200));
    const cancel = window.cancelIdleCallback ?? window.clearTimeout;
    const handle = later(() => {
      const opened = import("./ownEngine").then(({ ownEngine }) => ownEngine(job.id, subject.current));
      opened.then(
        (engine) => (gone ? undefined : setOwn(engine)),
        (error: unknown) => (gone ? undefined : giveUp(whyOf(error))),
      );
    });
    return () => {
      gone = true;
      cancel(handle);
    };
  }, [job.id, asFound, giveUp]);

  // The page's own engine works out what nobody has said yet.
  useEffect(() => {
    if (!own) return;
    let stale = false;
    if (nameOf(facts) !== latest.current.answered) {
      own.engine.advise(facts).then(
        (advice) => (stale ? undefined : hear({ advice, facts })),
        (error: unknown) => (stale ? undefined : giveUp(whyOf(error))),
      );
    }
    const rest = setTimeout(() => {
      own.engine.pushes(facts).then(
        (byPlace) => (stale ? undefined : setPushes(byId(byPlace, facts))),
        () => undefined,
      );
    }, REST);
    return () => {
      stale = true;
      clearTimeout(rest);
    };
  }, [own, facts, hear, giveUp]);

  // Until it is there, the server is asked: it has the machine's figures at hand.
  const ask = !own && !heard && waiting === 0 && crossed.size === 0;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the name stands for the facts; which object they are does not matter
  useEffect(() => {
    if (!ask) return;
    const asked = latest.current.facts;
    const leaving = new AbortController();
    askForAdvice(job.id, asFound, leaving.signal, (done, of) => setDrawn({ done, of })).then(
      (said) => {
        if (said && said.weighed.join() === asked.readings.map(({ id }) => id).join()) hear({ advice: said.advice, facts: asked });
      },
      (error: unknown) => (leaving.signal.aborted ? undefined : giveUp(whyOf(error))),
    );
    return () => leaving.abort();
  }, [ask, name, job.id, asFound, hear, giveUp]);

  // With the line down before the page's own engine was there, nobody can be asked.
  const unsent = !own && waiting > 0;
  const alone = useRef(false);
  useEffect(() => {
    alone.current = false;
    if (!unsent) return;
    const later = setTimeout(() => {
      alone.current = true;
      giveUp();
    }, UNSENT);
    return () => clearTimeout(later);
  }, [unsent, giveUp]);

  return {
    stage: answer
      ? { at: "ready" }
      : failed !== undefined
        ? { at: "failed", why: failed }
        : drawn && drawn.done < drawn.of
          ? { at: "drawing", ...drawn }
          : { at: "making" },
    advice: answer?.advice,
    isOfNow: heard === true,
    weighed: answer?.facts.readings ?? [],
    pushes,
    crossed,
    cross: (id) => setCrossed(toggled(crossed, id)),
    after: (then) => {
      const wanted = told(then);
      if (alone.current) return Promise.resolve(undefined);
      return own ? own.engine.advise(wanted).catch(() => undefined) : heardOf(nameOf(wanted), listeners.current);
    },
  };
}

/** Pushes by the readings' ids instead of their places. */
function byId(pushes: Readonly<Record<number, Push>>, { readings }: JobFacts): ReadonlyMap<string, Push> {
  return new Map(Object.entries(pushes).map(([place, push]) => [readings[Number(place)]?.id ?? "", push]));
}

/** What came with an answer; undefined where nothing did. */
function pushesIn(answer: Answer | undefined): ReadonlyMap<string, Push> | undefined {
  return answer?.advice.pushes && byId(answer.advice.pushes, answer.facts);
}

/** What makes facts others: readings, repairs and skips; two objects that agree in these get the same advice. */
function nameOf({ readings, mended, skipped }: JobFacts): string {
  return [readings.map(({ id }) => id).join(), mended.join(), skipped.join()].join("|");
}

/** Hears each answer, and once that there will be none. */
type Listener = (answer: Answer | undefined) => void;

/** The next answer to some facts; undefined once there will be none. */
function heardOf(name: string, listeners: Set<Listener>): Promise<Advice | undefined> {
  return new Promise((resolve) => {
    const listener: Listener = (answer) => {
      if (answer && nameOf(answer.facts) !== name) return;
      listeners.delete(listener);
      resolve(answer?.advice);
    };
    listeners.add(listener);
  });
}

const whyOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}
