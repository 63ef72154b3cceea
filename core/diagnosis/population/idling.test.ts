import { describe, expect, test } from "@jest/globals";
import { Chance } from "../../../bench/diagnosis/chance";
import { atlasOf, populationOf } from "../../../tests/support/population";
import type { Kind } from "../../machine/kind";
import { unlistedSheet } from "../../machine/unlisted";
import { chartSheetsOf } from "./builds";
import { SPREAD_COUNT } from "./column";
import { lookOf } from "./look";
import { type Offsets, SPREAD_IDS, type Spread } from "./nuisance";
import type { Population } from "./population";
import { predict } from "./predict";
import { Subject, surroundingsOf } from "./subject";

const spreadOf = (figures: readonly number[]): number => {
  const mean = figures.reduce((sum, figure) => sum + figure, 0) / figures.length;
  return Math.sqrt(figures.reduce((sum, figure) => sum + (figure - mean) ** 2, 0) / figures.length);
};

const IDLE = lookOf({ test: "charge.volts", rpm: "idle", loads: "normal" }, { charged: true, hot: false });
const DRAWS = 300;

/** What the middle machine of a cell is foreseen to scatter by at idle, and what it scatters by when all that is open of it is drawn, V. */
function scatters(population: Population, cell: number): { foreseen: number; drawn: number } {
  const { build: at, middle } = population.cells[cell] as Population["cells"][number];
  const { candidate } = population.particles[middle] as Population["particles"][number];
  const build = population.builds[at] as Population["builds"][number];
  const { moved, slopes } = population.column(IDLE);
  const foreseen = Math.hypot(...Array.from(moved, (s) => slopes[cell * SPREAD_COUNT + s] as number));
  const atlas = atlasOf(chartSheetsOf(population.sheet)[build.chart] as Population["sheet"]);
  const subject = new Subject(surroundingsOf(build, atlas, 20), candidate, { warm: false, running: true, charged: true, mended: [] });
  const chance = new Chance(7);
  const figures = Array.from({ length: DRAWS }, () => {
    const z: Offsets = {};
    for (const s of moved) {
      const spread = SPREAD_IDS[s] as Spread;
      const step = chance.normal(build.spreads[spread]);
      for (const [along, share] of Object.entries(build.along[spread] ?? { [spread]: 1 }) as [Spread, number][]) z[along] = (z[along] ?? 0) + step * share;
    }
    const seen = predict(subject, IDLE, z);
    return "words" in seen ? Number.NaN : seen.at;
  });
  return { foreseen, drawn: spreadOf(figures) };
}

describe("what a sound machine that nobody has a sheet of is foreseen to scatter by at idle is about what it does scatter by", () => {
  // An outboard idles so slowly that most give nothing yet.
  test.each<[Kind, [least: number, most: number]]>([
    ["motorcycle", [0.5, 1]],
    ["snowmobile", [0.5, 1]],
    ["outboard", [0.2, 0.6]],
  ])("%s", (kind, [least, most]) => {
    const population = populationOf(unlistedSheet("three-phase", 12, kind));
    const sound = population.hypotheses.findIndex(({ faults }) => faults.length === 0);
    const cells = population.cells.flatMap(({ hypothesis }, c) => (hypothesis === sound ? [c] : []));
    expect(cells.length).toBeGreaterThan(3);
    for (const { foreseen, drawn } of cells.map((cell) => scatters(population, cell))) {
      expect(drawn).toBeGreaterThan(least);
      expect(drawn).toBeLessThan(most);
      // What slopes do not foresee is by where the unit would hold it: they may lie lower, but never at several volts for one.
      expect(foreseen).toBeLessThan(1.6 * drawn + 0.3);
      expect(foreseen).toBeGreaterThan(0.3 * drawn);
    }
  });
});
