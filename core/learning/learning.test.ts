import { describe, expect, test } from "@jest/globals";
import { Chance } from "../../bench/diagnosis/chance";
import { demoSheet } from "../../demo/sheets";
import type { Sheet } from "../machine/sheet";
import { proposalsFor, type SoundFigure, toleranceOf, withProposals } from "./figures";
import { biasesToSay, biasWords, type MeterFigure, meterBiases } from "./meters";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const chance = new Chance(14);
const volts = (mean: number, spread: number, count: number, machines: number): SoundFigure[] =>
  Array.from({ length: count }, (_, k) => ({
    test: "charge.volts",
    at: null,
    rpm: 5000,
    loads: "normal",
    value: mean + chance.normal(spread),
    machine: `m${k % machines}`,
  }));

describe("figures of sound machines", () => {
  test("a band that all of them lie well within is drawn tighter, and where from is said", () => {
    const [proposal, ...others] = proposalsFor(sheet, volts(14.2, 0.05, 30, 6));
    expect(others).toEqual([]);
    expect(proposal).toMatchObject({ way: "tighter", figures: 30, machines: 6, outside: 0 });
    expect(proposal?.low).toBeGreaterThan(13.9);
    expect(proposal?.high).toBeLessThan(14.5);
    const learned = withProposals(sheet, proposal ? [proposal] : []);
    expect(learned.bands.find(({ test: id }) => id === "charge.volts")).toMatchObject({ low: proposal?.low, high: proposal?.high, page: "read on 6 machines" });
    expect(learned.bands).toHaveLength(sheet.bands.length);
  });

  test("a model that charges lower than printed moves its band; a single misread moves nothing", () => {
    const low = volts(13.7, 0.04, 20, 4);
    const [proposal] = proposalsFor(sheet, [...low, { ...(low[0] as SoundFigure), value: 1.37 }]);
    expect(proposal).toMatchObject({ way: "moved", figures: 20 });
    expect(proposal?.outside).toBeGreaterThan(10);
  });

  test("few figures, or of one machine alone, say nothing; nor does a band that fits", () => {
    expect(proposalsFor(sheet, volts(14.2, 0.05, 7, 3))).toEqual([]);
    expect(proposalsFor(sheet, volts(14.2, 0.05, 40, 1))).toEqual([]);
    expect(proposalsFor(sheet, volts(14.35, 0.23, 400, 20))).toEqual([]);
  });

  test("figures under all loads are none of a band that does not name them", () => {
    expect(
      proposalsFor(
        sheet,
        volts(14.2, 0.05, 30, 6).map((figure) => ({ ...figure, loads: "all" })),
      ),
    ).toEqual([]);
  });

  test("tolerance limits hold what they promise: nineteen of twenty machines, nine times in ten", () => {
    let held = 0;
    for (let k = 0; k < 400; k++) {
      const { low, high } = toleranceOf(Array.from({ length: 12 }, () => chance.normal(1)));
      const inside = Array.from({ length: 400 }, () => chance.normal(1)).filter((value) => value >= low && value <= high).length / 400;
      if (inside >= 0.945) held++;
    }
    expect(held / 400).toBeGreaterThan(0.84);
  });
});

describe("meters against each other", () => {
  const read = (meter: string, bias: number, jobs: number, from: number): MeterFigure[] =>
    Array.from({ length: jobs }, (_, k) => ({
      meter,
      of: "ferrel charge.volts 5000",
      dial: "V",
      job: from + k,
      value: 14.2 * (1 + bias) * (1 + chance.normal(0.004)),
    }));

  test("a meter that reads a percent low is named, on its dial alone", () => {
    const figures = [...read("Meter 2", 0, 30, 0), ...read("Meter 5", -0.011, 20, 100)];
    const [found] = biasesToSay(meterBiases(figures));
    expect(found).toMatchObject({ meter: expect.stringMatching(/^Meter/), dial: "V" });
    const five = biasesToSay(meterBiases(figures)).find(({ meter }) => meter === "Meter 5");
    expect(five && biasWords(five)).toMatch(/^Meter 5 reads about (0\.[89]|1\.\d) % low on volts DC: 20 readings of 20 jobs/);
  });

  test("meters that agree, one meter alone, and a few jobs say nothing", () => {
    expect(biasesToSay(meterBiases([...read("Meter 2", 0, 30, 0), ...read("Meter 5", 0.001, 30, 100)]))).toEqual([]);
    expect(meterBiases(read("Meter 2", 0.02, 30, 0))).toEqual([]);
    expect(biasesToSay(meterBiases([...read("Meter 2", 0, 30, 0), ...read("Meter 5", -0.03, 3, 100)]).filter(({ meter }) => meter === "Meter 5"))).toEqual([]);
  });

  test("many figures of one job count as one", () => {
    const many = Array.from({ length: 50 }, () => ({ ...(read("Meter 5", -0.03, 1, 100)[0] as MeterFigure) }));
    expect(meterBiases([...read("Meter 2", 0, 30, 0), ...many]).find(({ meter }) => meter === "Meter 5")).toMatchObject({ figures: 50, jobs: 1 });
  });
});
