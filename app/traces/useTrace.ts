import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { Envelope } from "../../core/trace/envelope";
import type { TraceFigure, TracePhase } from "../../core/trace/read";
import type { Opened, TraceWorker } from "../../workers/trace";

type Good = Extract<Opened, { ok: true }>;

/** A trace that is being looked at. */
export interface OpenTrace {
  /** What the file is called. */
  name: string;
  opened: Good | undefined;
  error: string | undefined;
  /** Samples read so far, while it is being read. */
  reading: number | undefined;
  phases: TracePhase[];
  figures: TraceFigure[];
  /** @param systemVolts of the machine it is of */
  open: (file: File, systemVolts: 6 | 12) => void;
  byColumn: (column: string) => void;
  look: (from: number, to: number, points: number) => Promise<Envelope>;
  /** Moves the boundaries of the phases; the figures follow. */
  move: (phases: TracePhase[]) => void;
}

/** A logged file in a thread of its own: read with progress, looked at in stretches, its phases moved by hand. */
export function useTrace(): OpenTrace {
  const remote = useRef<Remote<TraceWorker>>(undefined);
  const volts = useRef<6 | 12>(12);
  const [name, setName] = useState("");
  const [opened, setOpened] = useState<Good>();
  const [error, setError] = useState<string>();
  const [reading, setReading] = useState<number>();
  const [phases, setPhases] = useState<TracePhase[]>([]);
  const [figures, setFigures] = useState<TraceFigure[]>([]);
  useEffect(() => {
    const worker = new Worker(new URL("../../workers/trace.ts", import.meta.url), { type: "module" });
    worker.addEventListener("error", (event) =>
      setError(`The trace cannot be read: ${event.message || "what reads it could not be fetched, reload the page once the line is back"}.`),
    );
    remote.current = wrap<TraceWorker>(worker);
    return () => worker.terminate();
  }, []);
  const take = async (work: (trace: Remote<TraceWorker>, progress: (samples: number) => void) => Promise<Opened>): Promise<void> => {
    if (!remote.current) return;
    setReading(0);
    setError(undefined);
    setOpened(undefined);
    try {
      // How far it is comes by a channel of its own and may arrive after the outcome, when nothing is being read any more.
      const outcome = await work(
        remote.current,
        proxy((samples: number) => setReading((now) => (now === undefined ? now : samples))),
      );
      if (!outcome.ok) return setError(outcome.error);
      setOpened(outcome);
      setPhases(outcome.reading.phases);
      setFigures(outcome.reading.figures);
    } catch (problem) {
      setError(`The trace cannot be read: ${problem instanceof Error ? problem.message : String(problem)}.`);
    } finally {
      setReading(undefined);
    }
  };
  return {
    name,
    opened,
    error,
    reading,
    phases,
    figures,
    open: (file, systemVolts) => {
      setName(file.name);
      volts.current = systemVolts;
      void take((trace, progress) => trace.open(file, systemVolts, undefined, progress));
    },
    byColumn: (column) => void take((trace, progress) => trace.again(volts.current, column, progress)),
    look: async (from, to, points) => (await remote.current?.look(from, to, points)) ?? { seconds: [], lowest: [], highest: [] },
    move: (moved) => {
      setPhases(moved);
      void remote.current?.figures(moved).then(setFigures);
    },
  };
}
