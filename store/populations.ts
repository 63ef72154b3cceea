import { chartSheetsOf } from "../core/diagnosis/population/builds";
import { chartedPopulation } from "../core/diagnosis/population/charted";
import { type Atlas, drawChart, tasksOf } from "../core/diagnosis/population/charts";
import { roundedC } from "../core/diagnosis/population/column";
import type { Population } from "../core/diagnosis/population/population";
import type { Sheet } from "../core/machine/sheet";
import { atlasKey } from "./atlases";
import { libraryAtlas } from "./library";

/** Most populations that are remembered; one takes some sixty megabytes once its repairs have been looked at. */
const MOST = 10;

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
    let population = this.#known.get(key);
    if (!population) {
      if (this.#known.size >= MOST) this.#known.clear();
      population = chartedPopulation(
        sheet,
        chartSheetsOf(sheet).map((chart) => this.#atlas(chart, atlasKey(chart))),
        celsius,
      );
      this.#known.set(key, population);
    }
    return population;
  }

  #atlas(sheet: Sheet, key: string): Atlas {
    let atlas = this.#atlases.get(key);
    if (!atlas) {
      atlas = libraryAtlas(this.#folder, key) ?? Object.fromEntries(tasksOf(sheet).map((task) => [task.key, drawChart(sheet, task)]));
      this.#atlases.set(key, atlas);
    }
    return atlas;
  }
}
