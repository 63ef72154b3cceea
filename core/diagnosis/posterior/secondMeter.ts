import { type Column, SPREAD_COUNT } from "../population/column";
import { SPREAD_IDS, type Spread } from "../population/nuisance";

/** What a meter has off at all of its readings. */
const OF_A_METER: readonly Spread[] = ["volts", "ac", "lead"];
const PLACES = OF_A_METER.map((spread) => SPREAD_IDS.indexOf(spread));

const columns = new WeakMap<Column, Column>();

/** A look's predictions for a reading on another meter than all else: what the first one has off moves nothing of it. */
export function onSecondMeter(column: Column): Column {
  const known = columns.get(column);
  if (known) return known;
  const moved = column.moved.filter((spread) => !PLACES.includes(spread));
  const second = { ...column, moved, slopes: without(column.slopes), held: column.held && { ...column.held, slopes: without(column.held.slopes) } };
  columns.set(column, second);
  return second;
}

/** What the second meter has off itself, as a standard deviation on the look's scale: as much as the first, in the mean over the population's cells. */
export function secondMeterNoise({ slopes }: Column): number {
  const cells = slopes.length / SPREAD_COUNT;
  let sum = 0;
  for (let cell = 0; cell < cells; cell++) for (const place of PLACES) sum += (slopes[cell * SPREAD_COUNT + place] as number) ** 2;
  return cells === 0 ? 0 : Math.sqrt(sum / cells);
}

function without(slopes: Float64Array): Float64Array {
  return slopes.map((slope, k) => (PLACES.includes(k % SPREAD_COUNT) ? 0 : slope));
}
