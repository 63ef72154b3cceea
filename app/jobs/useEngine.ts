import { type Remote, wrap } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Advice, JobFacts } from "../../core/diagnosis/advice";
import type { Atlas } from "../../core/diagnosis/population/charts";
import { DEGREES } from "../../core/diagnosis/population/population";
import type { Push } from "../../core/diagnosis/posterior/push";
import type { Reading } from "../../core/procedure/step";
import type { JobFile } from "../../store/jobs";
import type { EngineWorker } from "../../workers/engine";
import { factsOf, type ShopKnows } from "./facts";
import { type JobView, viewOf } from "./view";

type Stage = { at: "drawing"; done: number; of: number } | { at: "making" } | { at: "ready" } | { at: "failed"; why: string };

/** The engine as a screen sees it. */
export interface Engine {
  stage: Stage;
  /** The latest advice; undefined until the engine is ready. */
  advice: Advice | undefined;
  /** The readings the advice was made from, in the order its numbers name. */
  weighed: readonly Reading[];
  /** What each reading does by itself, by its id. */
  pushes: ReadonlyMap<string, Push>;
  /** Ids of readings that are crossed out to see what if. */
  crossed: ReadonlySet<string>;
  cross: (id: string) => void;
  /** The advice once these readings are in, if it comes soon enough. */
  after: (view: JobView) => Promise<Advice | undefined>;
}

/** How often the drawing of charts is asked after, ms; and how long the bench waits for the next advice before it goes by the list. */
const ASK_EVERY = 350;
const PATIENCE = 600;
/** Pushes are worked out when the hand rests, ms. */
const REST = 400;

/** @param kept the advice that the server kept with the job, of these readings */
/** Runs the engine of one job in a thread of its own: charts from the server, everything after that here, line or no line. */
export function useEngine(file: JobFile, view: JobView, knows: ShopKnows, kept: Advice | undefined): Engine {
  const { job, repairs } = file;
  const remote = useRef<Remote<EngineWorker>>(undefined);
  const [stage, setStage] = useState<Stage>({ at: "drawing", done: 0, of: 0 });
  // What the server kept with the job stands from the first paint; the page's own engine goes on from there.
  const [answer, setAnswer] = useState(() => (kept ? { advice: kept, weighed: factsOf(file, viewOf(file), knows).readings } : undefined));
  const [pushes, setPushes] = useState<ReadonlyMap<string, Push>>(new Map());
  const [crossed, setCrossed] = useState<ReadonlySet<string>>(new Set());
  const told = useCallback((of: JobView): JobFacts => factsOf({ job, repairs }, of, knows, crossed), [job, repairs, knows, crossed]);
  const facts = useMemo(() => told(view), [told, view]);
  const latest = useRef(facts);
  latest.current = facts;

  // A job's own copy of the sheet never changes: whatever else the page loads anew, the engine goes on.
  const sheet = useRef(job.sheet);
  const celsius = DEGREES * Math.round(job.ambientC / DEGREES);
  useEffect(() => {
    const worker = new Worker(new URL("../../workers/engine.ts", import.meta.url), { type: "module" });
    const engine = wrap<EngineWorker>(worker);
    let gone = false;
    const fail = (error: unknown): void => {
      if (!gone) setStage({ at: "failed", why: whyOf(error) });
    };
    worker.addEventListener("error", (event) => fail(event.message || "its thread could not be started"));
    const begin = async (): Promise<void> => {
      const atlases = await chartsOf(job.id, () => gone, setStage);
      if (!atlases || gone) return;
      setStage({ at: "making" });
      const first = latest.current;
      const advice = await engine.open(sheet.current, atlases, celsius, first);
      if (gone) return;
      remote.current = engine;
      setAnswer({ advice, weighed: first.readings });
      setStage({ at: "ready" });
    };
    begin().catch(fail);
    return () => {
      gone = true;
      remote.current = undefined;
      worker.terminate();
    };
  }, [job.id, celsius]);

  const ready = stage.at === "ready";
  useEffect(() => {
    if (!ready || !remote.current) return;
    let stale = false;
    const engine = remote.current;
    const fail = (error: unknown): void => {
      if (!stale) setStage({ at: "failed", why: whyOf(error) });
    };
    engine.advise(facts).then((advice) => {
      if (advice && !stale) setAnswer({ advice, weighed: facts.readings });
    }, fail);
    const rest = setTimeout(() => {
      engine.pushes(facts).then((its) => {
        if (!stale) setPushes(new Map(Object.entries(its).map(([index, push]) => [facts.readings[Number(index)]?.id ?? "", push])));
      }, fail);
    }, REST);
    return () => {
      stale = true;
      clearTimeout(rest);
    };
  }, [ready, facts]);

  return {
    stage,
    advice: stage.at === "failed" ? undefined : answer?.advice,
    weighed: answer?.weighed ?? [],
    pushes,
    crossed,
    cross: (id) => setCrossed(toggled(crossed, id)),
    after: async (then) => {
      if (!ready || !remote.current) return undefined;
      return await Promise.race([remote.current.advise(told(then)), new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), PATIENCE))]);
    },
  };
}

const whyOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

function toggled(set: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** Fetches a job's charts, asking again while they are being drawn, or while the line is down. */
async function chartsOf(jobId: number, gone: () => boolean, tell: (stage: Stage) => void): Promise<Atlas[] | undefined> {
  while (!gone()) {
    const response = await fetch(`/jobs/${jobId}/atlas`).catch(() => undefined);
    if (response?.status === 200) return (await response.json()) as Atlas[];
    if (response?.status === 202) tell({ at: "drawing", ...((await response.json()) as { done: number; of: number }) });
    else if (response) throw new Error((((await response.json().catch(() => ({}))) as { why?: string }).why ?? "the server gave no charts").slice(0, 200));
    await new Promise((resolve) => setTimeout(resolve, response ? ASK_EVERY : 5 * ASK_EVERY));
  }
  return undefined;
}
