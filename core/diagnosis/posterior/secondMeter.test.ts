import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf, sheetOf } from "../../../tests/support/population";
import { ASSUMED_METER } from "../../meter/meter";
import { type Reading, stepKey } from "../../procedure/step";
import { advise } from "../advice";
import { NO_HISTORY } from "../population/hypotheses";
import { reasonFor, togetherWords } from "../words/words";
import { observe, Posterior } from "./posterior";

const population = populationOf(sheetOf("ostrel-burro-520"));

/** A sound machine's volts on a meter that shows so much too little, V; below nought too much. */
const volts = (off: number): Reading[] => [
  { id: "1", test: "battery.rest", value: 12.7 - off, restHours: 12 },
  { id: "2", test: "battery.settled", value: 12.65 - off },
  { id: "3", test: "battery.crank", value: 10.9 - off },
  { id: "4", test: "charge.volts", rpm: 5000, loads: "normal", value: 14.2 - off },
  { id: "5", test: "charge.volts", rpm: "idle", loads: "normal", value: 13.6 - off },
];
const AGAIN: Reading = { id: "6", test: "charge.volts", rpm: 5000, loads: "normal", value: 14.2, secondMeter: true };
const weighed = (readings: readonly Reading[]) => new Posterior(population, population.priors(NO_HISTORY), observe(readings, population, ASSUMED_METER));
const advised = (readings: readonly Reading[], tools: readonly "second-meter"[]) => advise(population, jobFacts(readings, { tools }));

describe("volts that are all off alike", () => {
  test("are read once on the second meter, where the shop has one, and why is said", () => {
    const [first] = advised(volts(-0.9), ["second-meter"]).next;
    expect(first).toMatchObject({ due: "second-meter", step: { test: "charge.volts" } });
    expect(first && reasonFor(first, { family: population.sheet.family })).toMatch(/^All volts read so far seem off alike: the second meter tells/);
    expect(togetherWords([{ test: "battery.rest" }, { test: "charge.volts" }])).toMatch(/prove the meter on a second one/);
  });

  test.each<[string, readonly Reading[], readonly "second-meter"[]]>([
    ["in a shop that has none", volts(-0.9), []],
    ["of a meter that is right", volts(0), ["second-meter"]],
    ["once it was read", [...volts(-0.9), AGAIN], ["second-meter"]],
    ["once it was read twice on the first", [...volts(-0.9), { ...AGAIN, value: 15.1, secondMeter: false }], ["second-meter"]],
  ])("are not %s", (_where, readings, tools) => {
    expect(advised(readings, tools).next.map(({ due }) => due)).not.toContain("second-meter");
  });

  test("are not asked for over and over of whoever skips it", () => {
    const [first] = advised(volts(-1.5), ["second-meter"]).next;
    const skipped = first ? [stepKey(first.step)] : [];
    const { next } = advise(population, jobFacts(volts(-1.5), { tools: ["second-meter"], skipped }));
    expect([first?.due, next.some(({ due }) => due === "second-meter")]).toEqual(["second-meter", false]);
  });

  test("are the meter's, once the second one shows what a sound machine shows", () => {
    const read = [...volts(-1.5), AGAIN];
    const { visits, misread } = weighed(read);
    expect(visits.at(-1)?.spoilt).toBeGreaterThan(0.9);
    // The reading on the other meter is none of those that are off, and is believed.
    expect(visits.at(-1)?.members).toEqual([0, 1, 2, 3, 4]);
    expect(misread[5]).toBeLessThan(0.1);
    const sound = (readings: readonly Reading[]): number => advised(readings, []).sets.find(({ what }) => what === "")?.odds ?? 0;
    expect(sound(read)).toBeGreaterThan(sound(volts(-1.5)) + 0.1);
    // On one and the same meter such a figure would be one more that does not go with the rest.
    expect(weighed([...volts(-1.5), { ...AGAIN, secondMeter: false }]).misread[5]).toBeGreaterThan(2 * (misread[5] as number));
  });
});

test("two figures of one meter share its error, those of two do not", () => {
  const pair = (secondMeter: boolean) =>
    weighed([
      { id: "1", test: "stator.acVolts", at: "1-2", rpm: 5000, value: 62 },
      { id: "2", test: "stator.acVolts", at: "2-3", rpm: 5000, value: 60, secondMeter },
    ]);
  const spread = (posterior: Posterior): number => {
    const expected = posterior.expected(posterior.weights.indexOf(Math.max(...posterior.weights)), 1);
    return expected.kind === "figure" ? expected.spread : Number.NaN;
  };
  expect(spread(pair(true))).toBeGreaterThan(spread(pair(false)));
});

test("a reading's own last digit counts in place of the job's meter's", () => {
  const ohms = (ohmsResolution?: number): number | undefined =>
    observe([{ id: "1", test: "stator.resistance", at: "1-2", value: 0.4, ohmsResolution }], population, ASSUMED_METER)[0]?.noise;
  expect(ohms(0.01)).toBeLessThan(ohms() as number);
  expect(ohms(0.1)).toBe(ohms());
});
