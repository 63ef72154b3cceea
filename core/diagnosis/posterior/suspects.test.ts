import { expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { ASSUMED_METER } from "../../meter/meter";
import type { Reading } from "../../procedure/step";
import { advise } from "../advice";

const population = populationOf(sheetOf("corvane-ferrel-650"));
const adviceOn = (readings: Reading[]) => advise(population, jobFacts(readings, { meter: { ...ASSUMED_METER, leadOhms: 0 }, tools: [] }));
const TOUCHING: Reading[] = [
  { id: "1", test: "charge.volts", rpm: 5000, loads: "all", value: 12.2 },
  { id: "2", test: "stator.toGround", at: "1", value: 0.5 },
  { id: "3", test: "stator.toGround", at: "2", value: 0.7 },
  { id: "4", test: "inspect.terminals", value: "tight" },
];

test("each suspect shows something for every reading, figures with a range about them", () => {
  const { suspects } = adviceOn(TOUCHING);
  expect(suspects.length).toBeGreaterThan(0);
  for (const { shows } of suspects) {
    expect(shows.map(({ reading }) => reading)).toEqual([0, 1, 2, 3]);
    for (const { expected, range } of shows) {
      if (typeof expected !== "number") continue;
      expect(range?.[0]).toBeLessThanOrEqual(expected);
      expect(range?.[1]).toBeGreaterThanOrEqual(expected);
    }
    expect(shows[3]?.expected).toBe("tight");
  }
});

test("what fits the likeliest set is no misfit, and a figure that nothing explains is one everywhere", () => {
  expect(adviceOn(TOUCHING).suspects[0]?.shows.filter(({ misfit }) => misfit)).toEqual([]);
  const odd: Reading[] = [...TOUCHING, { id: "5", test: "battery.rest", value: 3.1 }];
  for (const { shows } of adviceOn(odd).suspects) expect(shows.find(({ reading }) => reading === 4)?.misfit).toBe(true);
});

test("a figure read at a speed of one's own is foreseen at that speed", () => {
  const at = (rpm: number, value: number): Reading => ({ id: "1", test: "stator.acVolts", at: "1-2", rpm, value });
  const [slow, full] = [at(4000, 48), at(5000, 60)].map((reading) => adviceOn([reading]).suspects[0]?.shows[0]);
  expect(Number(slow?.expected) / Number(full?.expected)).toBeCloseTo(0.8, 2);
  expect(Number(slow?.range?.[1]) / Number(full?.range?.[1])).toBeCloseTo(0.8, 2);
});
