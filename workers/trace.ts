import { expose } from "comlink";
import { type Bins, binsOf, type Trace } from "../core/trace/bins";
import { type Envelope, envelopeOf } from "../core/trace/envelope";
import { figuresOf, readTrace, type TraceFigure, type TracePhase, type TraceReading } from "../core/trace/read";
import { type LoggedTrace, readTraceText } from "../formats/traceTable";

/** A log that is larger is no log of one machine, and more than a page can hold. */
const MOST_BYTES = 400_000_000;

/** What a file came to: how it was understood, and what it tells. */
export type Opened =
  | { ok: true; columns: string[]; column: string; timeColumn: string; understood: string[]; seconds: number; reading: TraceReading }
  | { ok: false; error: string };

/** The trace's own thread: reads the file, finds its phases, and cuts out what is looked at. */
class TraceWorker {
  #file: Blob | undefined;
  #trace: Trace | undefined;
  #bins: Bins | undefined;

  /** @param column name of the column of volts; found by itself where left out */
  async open(file: Blob, systemVolts: 6 | 12, column: string | undefined, progress: (samples: number) => void): Promise<Opened> {
    if (file.size > MOST_BYTES) return { ok: false, error: "The file is larger than 400 MB: cut the log into parts." };
    this.#file = file;
    const read = readTraceText(await file.text(), column, progress);
    if (!read.ok) return read;
    const { columns, timeColumn, notes, seconds, volts }: LoggedTrace = read.trace;
    this.#trace = { seconds, volts };
    this.#bins = binsOf(this.#trace, systemVolts);
    const reading = readTrace(this.#trace, systemVolts);
    return { ok: true, columns, column: read.trace.column, timeColumn, understood: notes, seconds: (seconds.at(-1) ?? 0) - (seconds[0] ?? 0), reading };
  }

  /** The same file by another of its columns. */
  again(systemVolts: 6 | 12, column: string, progress: (samples: number) => void): Promise<Opened> {
    return this.open(this.#file ?? new Blob(), systemVolts, column, progress);
  }

  look(from: number, to: number, points: number): Envelope {
    return this.#trace ? envelopeOf(this.#trace, from, to, points) : { seconds: [], lowest: [], highest: [] };
  }

  /** Figures of phases that a hand has moved. */
  figures(phases: TracePhase[]): TraceFigure[] {
    return this.#trace && this.#bins ? figuresOf(this.#trace, phases, this.#bins) : [];
  }
}

export type { TraceWorker };

expose(new TraceWorker());
