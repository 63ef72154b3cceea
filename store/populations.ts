import { chartSheetsOf } from "../core/diagnosis/population/builds";
import { chartedPopulation } from "../core/diagnosis/population/charted";
import { type Atlas, drawChart, tasksOf } from "../core/diagnosis/population/charts";
import { roundedC } from "../core/diagnosis/population/column";
import type { Population } from "../core/diagnosis/population/population";
import type { Sheet } from "../core/machine/sheet";
import { atlasKey } from "./atlases";
import { libraryAtlas } from "./library";

/** Most populations that are remembered; one takes a hundred megabytes and more once its repairs have been looked at. */
const MOST = 6;
/** Most atlases that are remembered. */
const MOST_ATLASES = 40;

/** Populations by machine and temperature: charts out of the workshop's database where it has them, drawn here where not. */
export class Populations {
  readonly #folder: string;
  readonly #atlases = new Map<string, Atlas>();
  readonly #known = new Map<string, Population>();

  constructor(folder: string) {
    this.#folder = folder;
  }

  of(sheet: Sheet, ambientC: number): Population {
    const celsius = roundedC(ambientC);
    const machine = atlasKey(sheet);
    const key = `${celsius} ${machine}`;
    const population =
      this.#known.get(key) ??
      chartedPopulation(
        sheet,
        chartSheetsOf(sheet).map((chart) => this.#atlas(chart, atlasKey(chart))),
        celsius,
      );
    // What was asked for last is forgotten last.
    this.#known.delete(key);
    this.#known.set(key, population);
    const [oldest] = this.#known.keys();
    if (this.#known.size > MOST && oldest !== undefined) this.#known.delete(oldest);
    return population;
  }

  #atlas(sheet: Sheet, key: string): Atlas {
    let atlas = this.#atlases.get(key);
    if (!atlas) {
      atlas = libraryAtlas(this.#folder, key) ?? Object.fromEntries(tasksOf(sheet).map((task) => [task.key, drawChart(sheet, task)]));
      if (this.#atlases.size >= MOST_ATLASES) this.#atlases.clear();
      this.#atlases.set(key, atlas);
    }
    return atlas;
  }
}
