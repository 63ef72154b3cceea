import { expose } from "comlink";
import { type Advice, advise, type JobFacts } from "../core/diagnosis/advice";
import type { Atlas } from "../core/diagnosis/population/charts";
import { Population } from "../core/diagnosis/population/population";
import { observe } from "../core/diagnosis/posterior/posterior";
import { type Push, pushesOf } from "../core/diagnosis/posterior/push";
import type { Sheet } from "../core/machine/sheet";

/** The engine's own thread on the page: one machine's population, asked again at every reading, line or no line. */
class EngineWorker {
  #population: Population | undefined;

  /** Makes the population from the machine's charts and works out what the first advice needs. */
  open(sheet: Sheet, atlases: readonly Atlas[], celsius: number, facts: JobFacts): Advice {
    this.#population = new Population(sheet, atlases, celsius);
    return advise(this.#population, facts);
  }

  advise(facts: JobFacts): Advice | undefined {
    return this.#population && advise(this.#population, facts);
  }

  /** Each reading's push by itself, by the reading's place in the list. */
  pushes(facts: JobFacts): Record<number, Push> {
    if (!this.#population) return {};
    const observations = observe(facts.readings, this.#population, facts.meter);
    const pushes = pushesOf(this.#population, this.#population.priors(facts.history), observations);
    return Object.fromEntries(observations.map((one, k) => [one.reading, pushes[k] as Push]));
  }
}

export type { EngineWorker };

expose(new EngineWorker());
