import type { Sheet } from "../../machine/sheet";
import type { Build } from "./builds";
import type { Column, ColumnSource } from "./column";
import { type History, type Hypothesis, priorsOf } from "./hypotheses";
import type { Cell, Lineup, Particle } from "./lineup";
import type { Look } from "./look";
import { noticedIn, type Showing, showingsOf } from "./noticed";

/** The machines that might be on the lift before the first reading, and what any look would show on them. */
export class Population implements Lineup {
  readonly sheet: Sheet;
  readonly builds: readonly Build[];
  readonly hypotheses: readonly Hypothesis[];
  readonly particles: readonly Particle[];
  readonly cells: readonly Cell[];
  readonly #source: ColumnSource;
  #showings: readonly Showing[] | undefined;

  constructor({ sheet, builds, hypotheses, particles, cells }: Lineup, source: ColumnSource) {
    this.sheet = sheet;
    this.builds = builds;
    this.hypotheses = hypotheses;
    this.particles = particles;
    this.cells = cells;
    this.#source = source;
  }

  /** Prior probability of every hypothesis for a machine with a past. */
  priors(history: History): Float64Array {
    return priorsOf(this.sheet, history);
  }

  /** What each particle shows its owner. */
  get showings(): readonly Showing[] {
    this.#showings ??= showingsOf(this);
    return this.#showings;
  }

  /** Share of its hypothesis that each particle stands for among the machines that are brought in: {@link noticedIn}. */
  shares(readings: readonly { look: Look; at: number }[]): Float64Array {
    return noticedIn(this, readings).map((noticed, i) => noticed * (this.particles[i] as Particle).share);
  }

  /** True when it can be said what a look shows. */
  knows(look: Look): boolean {
    return this.#source.column(look) !== undefined;
  }

  /** What a look shows on every particle. @throws when the predictions at hand do not reach to it */
  column(look: Look): Column {
    const column = this.#source.column(look);
    if (!column) throw new Error(`nothing is predicted for ${look.key}`);
    return column;
  }
}
