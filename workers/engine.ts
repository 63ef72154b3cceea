import { expose } from "comlink";
import { type Advice, advise, type JobFacts } from "../core/diagnosis/advice";
import { type Lineup, lineUp } from "../core/diagnosis/population/lineup";
import { lookOfReading } from "../core/diagnosis/population/look";
import { PackedColumns } from "../core/diagnosis/population/pack";
import { Population } from "../core/diagnosis/population/population";
import { type Push, pushesByReading } from "../core/diagnosis/posterior/push";
import type { Sheet } from "../core/machine/sheet";

/** How often a server that is drawing, or cannot be reached, is asked again, ms; and how long an advice waits for what an odd reading would show. */
const AGAIN = { drawing: 300, unreachable: 3000 } as const;
const PATIENCE = 400;

/** The engine's own thread on the page: what a job's machine would show comes from the server, packed, and is asked again at every reading, line or no line. */
class EngineWorker {
  #jobId = 0;
  #lineup: Lineup | undefined;
  #columns: PackedColumns | undefined;
  readonly #states = new Set<string>();

  /** Fetches what the machine shows as it came in, asking again while its charts are drawn or the line is down. @throws when there will be none */
  async open(jobId: number, sheet: Sheet): Promise<void> {
    this.#jobId = jobId;
    this.#lineup = lineUp(sheet);
    this.#columns = new PackedColumns(this.#lineup);
    for (;;) {
      const status = await this.#fetch("mended=").catch(() => undefined);
      if (status === 200) break;
      if (status !== undefined && status !== 202 && status < 502) throw new Error(`the server gave no predictions (${status})`);
      await new Promise((resolve) => setTimeout(resolve, status === 202 ? AGAIN.drawing : AGAIN.unreachable));
    }
    this.#states.add("");
  }

  async advise(facts: JobFacts): Promise<Advice> {
    return advise(await this.#reaching(facts), facts);
  }

  /** Each reading's push by itself, by the reading's place in the list. */
  async pushes(facts: JobFacts): Promise<Record<number, Push>> {
    return pushesByReading(await this.#reaching(facts), facts);
  }

  /** The population, once it reaches to all that some facts speak of; with the line down, as far as it does. */
  async #reaching({ readings, mended }: JobFacts): Promise<Population> {
    const [lineup, columns] = [this.#lineup, this.#columns];
    if (!lineup || !columns) throw new Error("the engine was asked before it was opened");
    const looks = readings.flatMap((reading) => lookOfReading(reading, lineup.sheet)?.look ?? []);
    for (const parts of [mended, ...looks.map((look) => look.mended)]) {
      const state = parts.join("+");
      if (!this.#states.has(state) && (await this.#fetch(`mended=${state}`).catch(() => undefined)) === 200) this.#states.add(state);
    }
    // A reading in a way of its own (another speed, another rest) is weighed as the nearest usual one until the server has it.
    if (looks.some((look) => !columns.has(look))) await this.#fetch("odd", AbortSignal.timeout(PATIENCE)).catch(() => undefined);
    return new Population(lineup, columns);
  }

  async #fetch(query: string, signal?: AbortSignal): Promise<number> {
    const response = await fetch(`/jobs/${this.#jobId}/predictions?${query}`, signal ? { signal } : {});
    if (response.status === 200) {
      // Unpacked only once it is all here: a line lost half-way then fails this request and nothing else.
      const packed = await response.blob();
      const bytes = await new Response(packed.stream().pipeThrough(new DecompressionStream("gzip"))).arrayBuffer();
      this.#columns?.add(new Uint8Array(bytes));
    }
    return response.status;
  }
}

export type { EngineWorker };

expose(new EngineWorker());
