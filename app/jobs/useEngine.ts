import { type Remote, wrap } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Advice, JobFacts } from "../../core/diagnosis/advice";
import type { Prices } from "../../core/diagnosis/planning/prices";
import type { Atlas } from "../../core/diagnosis/population/charts";
import type { History } from "../../core/diagnosis/population/hypotheses";
import { DEGREES } from "../../core/diagnosis/population/population";
import type { Push } from "../../core/diagnosis/posterior/push";
import type { Reading } from "../../core/procedure/step";
import type { JobFile } from "../../store/jobs";
import type { EngineWorker } from "../../workers/engine";
import { mendedBy } from "./mended";
import type { JobView } from "./view";

/** What the shop adds to a job: its prices, and the repairs of this model that it has confirmed. */
export interface ShopKnows {
  prices: Prices;
  confirmed: History["confirmed"];
}

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

/** Runs the engine of one job in a thread of its own: charts from the server, everything after that here, line or no line. */
export function useEngine(file: JobFile, view: JobView, knows: ShopKnows): Engine {
  const { job, repairs } = file;
  const remote = useRef<Remote<EngineWorker>>(undefined);
  const [stage, setStage] = useState<Stage>({ at: "drawing", done: 0, of: 0 });
  const [answer, setAnswer] = useState<{ advice: Advice; weighed: readonly Reading[] }>();
  const [pushes, setPushes] = useState<ReadonlyMap<string, Push>>(new Map());
  const [crossed, setCrossed] = useState<ReadonlySet<string>>(new Set());
  const mended = useMemo(() => mendedBy(repairs), [repairs]);
  const { prices, confirmed } = knows;

  const factsOf = useCallback(
    (its: JobView): JobFacts => ({
      readings: its.judged.map(({ reading }) => reading).filter(({ id }) => !crossed.has(id)),
      meter: its.context.meter,
      prices,
      history: { complaint: job.complaint, batteryAgeYears: job.batteryAgeYears, confirmed },
      mended,
      skipped: its.stages.flatMap(({ lines }) => lines.flatMap(({ key, skipped }) => (skipped ? [key] : []))),
    }),
    [crossed, prices, confirmed, job.complaint, job.batteryAgeYears, mended],
  );
  const facts = useMemo(() => factsOf(view), [factsOf, view]);
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
      const atlas = await chartsOf(job.id, () => gone, setStage);
      if (!atlas || gone) return;
      setStage({ at: "making" });
      const first = latest.current;
      const advice = await engine.open(sheet.current, atlas, celsius, first);
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
    after: async (its) => {
      if (!ready || !remote.current) return undefined;
      return await Promise.race([remote.current.advise(factsOf(its)), new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), PATIENCE))]);
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
async function chartsOf(jobId: number, gone: () => boolean, tell: (stage: Stage) => void): Promise<Atlas | undefined> {
  while (!gone()) {
    const response = await fetch(`/jobs/${jobId}/atlas`).catch(() => undefined);
    if (response?.status === 200) return (await response.json()) as Atlas;
    if (response?.status === 202) tell({ at: "drawing", ...((await response.json()) as { done: number; of: number }) });
    else if (response) throw new Error((((await response.json().catch(() => ({}))) as { why?: string }).why ?? "the server gave no charts").slice(0, 200));
    await new Promise((resolve) => setTimeout(resolve, response ? ASK_EVERY : 5 * ASK_EVERY));
  }
  return undefined;
}
