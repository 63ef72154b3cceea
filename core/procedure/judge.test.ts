import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { ac, charging, context, crank, diodes, pairs, reading, rest, toCase } from "../../tests/support/readings";
import { newMilliohms } from "../battery/model";
import { imbalanceOf, isBad, type Judged, type JudgedReading, judgeAll, judgedWords, judgeOne, ohmsAt20 } from "./judge";

const judgedOf = (readings: Parameters<typeof judgeAll>[0], around = context()): Judged[] =>
  judgeAll(readings, around).map((judgedReading) => judgedReading.judged);

/** A machine whose battery says 150 A on its label. */
const rated = { ...context(), sheet: { ...context().sheet, battery: { chemistry: "agm" as const, ah: 12, cca: 150 } } };

describe("corrections come before the judgement and are said", () => {
  test("lead zero is taken off raw ohms only", () => {
    const raw = judgeOne(reading("stator.resistance", 0.5, { at: "1-2", raw: true }), context());
    expect(raw.value).toBeCloseTo(0.3, 9);
    expect(raw.corrections).toEqual(["0.2 Ω of leads taken off"]);
    expect(raw.judged).toBe("in");
    const clean = judgeOne(reading("stator.resistance", 0.5, { at: "1-2" }), context());
    expect(clean.value).toBe(0.5);
    expect(clean.judged).toBe("high");
  });

  test("the lead zero of the reading's own time goes before the meter's", () => {
    expect(judgeOne(reading("regulator.ground", 0.4, { raw: true, leadOhms: 0.35 }), context()).value).toBeCloseTo(0.05, 9);
  });

  test("a reading below the lead zero asks for the zero again", () => {
    const below = judgeOne(reading("regulator.ground", 0.1, { raw: true }), context());
    expect(below.value).toBe(0);
    expect(below.corrections[0]).toMatch(/take the lead zero again/);
  });

  test("a cold or hot winding is referred to 20 °C by copper's coefficient", () => {
    const cold = judgeOne(reading("stator.resistance", 0.3, { at: "1-2" }), context(undefined, undefined, { ambientC: -5 }));
    expect(cold.value).toBeCloseTo(0.3 / (1 - 25 * 0.00393), 4);
    expect(cold.corrections).toEqual(["taken at -5 °C, referred to 20 °C"]);
    const hot = judgeOne(reading("stator.resistance", 0.45, { at: "1-2", hot: true }), context());
    expect(hot.value).toBeCloseTo(0.358, 3);
    expect(hot.judged).toBe("in");
    expect(judgeOne(reading("stator.resistance", 0.3, { at: "1-2" }), context(undefined, undefined, { ambientC: 17 })).corrections).toEqual([]);
  });

  test.each([
    ["battery.crankingAmps", 90, undefined, "60 % of the battery's rating", "low"],
    ["battery.crankingAmps", 90, "din", "100 % of the battery's rating", "in"],
    ["battery.crankingAmps", 130, undefined, "87 % of the battery's rating", "in"],
  ] as const)("%s %f in %s comes to %s", (test, value, rating, said, judged) => {
    const judgedReading = judgeOne(reading(test, value, rating ? { rating } : {}), rated);
    expect(judgedReading.corrections).toEqual([said]);
    expect(judgedReading.judged).toBe(judged);
  });

  test("milliohms are held against what such a battery has when new, and against nothing where nobody has read its label", () => {
    const fresh = newMilliohms(rated.sheet.battery.chemistry, rated.sheet.battery.ah as number, 12);
    expect(judgeOne(reading("battery.innerOhms", 1.2 * fresh), rated)).toMatchObject({ judged: "in", corrections: ["83 % of the battery's rating"] });
    expect(judgeOne(reading("battery.innerOhms", 2 * fresh), rated).judged).toBe("high");
    const { ah: _ah, cca: _cca, ...unread } = rated.sheet.battery;
    const blank = { ...rated, sheet: { ...rated.sheet, battery: unread } };
    for (const test of ["battery.innerOhms", "battery.crankingAmps", "starter.amps"] as const)
      expect(judgeOne(reading(test, 20), blank)).toMatchObject({ judged: "info", corrections: [], band: undefined });
  });

  test("a starter is to take no more than three fifths of the label's amps", () => {
    expect(judgeOne(reading("starter.amps", 80), rated).judged).toBe("in");
    expect(judgeOne(reading("starter.amps", 100), rated).judged).toBe("high");
  });

  test("volts at the diode dial's own limit are the open line", () => {
    const judgedReading = judgeOne(reading("regulator.diode", 2.55, { at: "B+>1" }), context());
    expect(judgedReading.value).toBe("OL");
    expect(judgedReading.judged).toBe("in");
    expect(judgedReading.corrections[0]).toMatch(/taken as open/);
  });

  test("copper's rule turns back on itself", () => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 5, noNaN: true }), fc.integer({ min: -30, max: 150 }), (ohms, celsius) => {
        const back = ohmsAt20(ohms, celsius) * (1 + 0.00393 * (celsius - 20));
        expect(back).toBeCloseTo(ohms, 9);
      }),
    );
  });
});

describe("against the band", () => {
  test.each<[number, Judged]>([
    [13.79, "low"],
    [13.8, "in"],
    [14.9, "in"],
    [14.91, "high"],
  ])("charging volts of %s are %s by the sheet's 13.8 to 14.9", (volts, judged) => {
    expect(judgedOf([reading("charge.volts", volts, { rpm: 5000, loads: "normal" })])).toEqual([judged]);
  });

  test("at idle nobody is condemned for not charging yet, but the ceiling holds", () => {
    expect(judgedOf([reading("charge.volts", 12.4, { rpm: "idle" }), reading("charge.volts", 15.4, { rpm: "idle" })])).toEqual(["in", "high"]);
  });

  test("a leg to the case must be open: a touch, a leak, or clean", () => {
    const judged = judgeAll(toCase([0.4, 47_000, "OL"]), context());
    expect(judged.map((judgedReading) => judgedReading.judged)).toEqual(["shorted", "low", "in"]);
    expect(judged.map(judgedWords)).toEqual(["path to case", "leaks to case", "in band"]);
    expect(judgedOf([reading("stator.toGround", 5e6, { at: "1" })])).toEqual(["in"]);
  });

  test("a pair that reads the open line is open", () => {
    expect(judgedOf([reading("stator.resistance", "OL", { at: "1-2" })])).toEqual(["open"]);
  });

  test("a sound unit passes all fourteen diode readings", () => {
    expect(judgeAll(diodes(), context()).every((judgedReading) => judgedReading.judged === "in")).toBe(true);
  });

  test.each<[string, number | string, Judged, string]>([
    ["1>B+", "OL", "open", "open line"],
    ["1>B+", 0.01, "shorted", "shorted"],
    ["1>B+", 0.31, "low", "low"],
    ["1>B+", 0.75, "high", "high"],
    ["B+>1", 0.02, "shorted", "shorted"],
    ["B+>1", 1.02, "low", "leaks"],
    ["B+>1", "OL", "in", "blocks"],
    ["2>B-", "OL", "in", "blocks"],
    ["B->2", 0.5, "in", "in band"],
    ["B->B+", 0.9, "in", "in band"],
    ["B+>B-", "OL", "in", "blocks"],
  ])("diode %s at %s is %s (%s)", (at, value, judged, words) => {
    const judgedReading = judgeOne(reading("regulator.diode", value, { at }), context());
    expect(judgedReading.judged).toBe(judged);
    expect(judgedWords(judgedReading)).toBe(words);
  });

  test("words are judged by the list of good ones", () => {
    const judged = judgeAll([reading("inspect.terminals", "tight"), reading("inspect.connector", "melted", { at: "stator" })], context());
    expect(judged.map(judgedWords)).toEqual(["good", "not good"]);
    expect(judged.map((judgedReading) => isBad(judgedReading.judged))).toEqual([false, true]);
  });
});

describe("balance of the legs", () => {
  test("one low pair among ohms in band is unequal", () => {
    expect(judgedOf(pairs("stator.resistance", [0.3, 0.31, 0.24]))).toEqual(["in", "in", "unequal"]);
  });

  test("AC is compared with the best pair, since it only fails downward", () => {
    expect(judgedOf(ac([66, 54, 53]))).toEqual(["in", "unequal", "unequal"]);
    expect(judgedOf(ac([60, 59, 61]))).toEqual(["in", "in", "in"]);
  });

  test("a coarse meter does not make legs unequal by its last digit", () => {
    const coarse = context("ostrel-burro-520", "harbour", { meter: { name: "coarse", leadOhms: 0, ohmsResolution: 0.1, trueRms: false, diodeMaxVolts: 2.5 } });
    expect(judgedOf(pairs("stator.resistance", [0.2, 0.2, 0.25]), coarse)).toEqual(["in", "in", "in"]);
  });

  test("nothing is unequal until every pair is in", () => {
    expect(judgedOf(ac([66, 54]))).toEqual(["in", "in"]);
  });

  test("imbalance is the spread over the mean, whatever the order", () => {
    expect(imbalanceOf([58, 57, 61])).toBeCloseTo(4 / (176 / 3), 9);
    expect(imbalanceOf([0, 0, 0])).toBe(0);
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.1, max: 100, noNaN: true }), { minLength: 2, maxLength: 6 }), (values) => {
        expect(imbalanceOf([...values].reverse())).toBeCloseTo(imbalanceOf(values), 9);
        expect(imbalanceOf(values)).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});

describe("the rise over this machine's own rest volts", () => {
  const parade = context("tidewright-sound-40", "parade", { sheet: { ...context("tidewright-sound-40").sheet, bands: [] } });

  test("judges charging volts where the school says so and the sheet is silent", () => {
    const [, , fast, loaded] = judgeAll([rest(12.4), ...charging(12.6, 13.1, 12.5)], parade);
    expect(fast?.band).toMatchObject({ kind: "between", low: 13.4, high: 14.9 });
    expect(fast?.judged).toBe("low");
    // With everything on half a volt over rest is enough.
    expect(loaded?.band).toMatchObject({ kind: "between", low: 12.9, high: 14.9 });
    expect(loaded?.judged).toBe("low");
    expect(
      judgeAll([rest(12.4), ...charging(12.6, 13.5, 13)], parade)
        .map(({ judged }) => judged)
        .slice(2),
    ).toEqual(["in", "in"]);
  });

  test("falls back on limits until the rest volts are read", () => {
    expect(judgeAll(charging(12.6, 13.1, 13), parade)[1]?.band).toMatchObject({ low: 13, high: 15.5 });
  });
});

test("judging the same readings in another order gives the same judgement of each", () => {
  const readings = [
    rest(12.8),
    crank(10.4),
    ...charging(12.4, 12.3, 12),
    ...pairs("stator.resistance", [0.3, 0.31, 0.24]),
    ...ac([66, 54, 53]),
    ...diodes({ "1>B+": "OL" }),
  ];
  const straight = new Map(judgeAll(readings, context()).map((judgedReading) => [judgedReading.reading.id, judgedReading.judged]));
  fc.assert(
    fc.property(fc.shuffledSubarray(readings, { minLength: readings.length }), (shuffled) => {
      for (const judgedReading of judgeAll(shuffled, context())) expect(judgedReading.judged).toBe(straight.get(judgedReading.reading.id));
    }),
    { numRuns: 30 },
  );
});

describe("what a figure does while it is read", () => {
  const charging = { id: "c", test: "charge.volts", rpm: 5000, loads: "normal", value: 14.2 } as const;

  test("a crank whose first pull was caught is judged by what it turned at, as a meter's hold would have it", () => {
    const crank = { id: "k", test: "battery.crank", value: 8.9 } as const;
    expect(judgedOf([crank])).toEqual(["low"]);
    const [caught] = judgeAll([{ ...crank, swing: 1.6 }], context());
    expect([caught?.judged, caught?.value]).toEqual(["in", 10.5]);
    expect(caught?.corrections).toEqual(["the first pull went to 8.90 V; judged by what it turned at"]);
  });

  test("charging volts in their band that swing at one speed are pulsing; the last digits of a display are not", () => {
    expect(judgedOf([{ ...charging, swing: 0.1 }])).toEqual(["in"]);
    const [pulsing] = judgeAll([{ ...charging, swing: 0.9 }], context());
    expect([pulsing?.judged, judgedWords(pulsing as JudgedReading)]).toEqual(["pulsing", "pulsing"]);
    expect(pulsing?.corrections.join()).toContain("swings by 0.90 V: a loose contact, or a unit or cut-out that chatters");
    // What is out of its band is called by that first.
    expect(judgedOf([{ ...charging, value: 12, swing: 0.9 }])).toEqual(["low"]);
  });

  test("ohms that move while the lead is wiggled are the lead's; a last digit or two is the meter's", () => {
    const ohms = { id: "o", test: "stator.resistance", at: "1-2", value: 0.35 } as const;
    expect(judgedOf([{ ...ohms, swing: 0.05 }])).toEqual(["in"]);
    const [moves] = judgeAll([{ ...ohms, swing: 0.3 }], context());
    expect([moves?.judged, judgedWords(moves as JudgedReading), moves?.corrections.join()]).toEqual([
      "pulsing",
      "unsteady",
      "swings by 0.30 Ω: lead or plug, not the winding: part it at the next joint and read there",
    ]);
    expect(judgedOf([{ id: "d", test: "battery.rest", value: 12.7, swing: 3 }])).toEqual(["in"]);
  });

  test("rest volts taken too early say what they may still fall by; after a night nothing is said", () => {
    const early = judgeAll([{ id: "r", test: "battery.rest", value: 12.9, restHours: 0.5 }], context())[0];
    expect(early?.corrections.join()).toMatch(/^rested 0.5 h: if it was charged or ridden before, it falls by another 0\.\d\d V$/);
    expect(judgeAll([{ id: "r", test: "battery.rest", value: 12.9, restHours: 14 }], context())[0]?.corrections).toEqual([]);
  });
});

describe("cell by cell", () => {
  const cells = (volts: readonly number[]) => volts.map((value, k) => ({ id: `${k}`, test: "battery.cell" as const, at: `${k + 1}`, value }));

  test("the odd cell of a whole set is found, also where each is in its band", () => {
    expect(judgedOf(cells([2.12, 2.12, 2.06, 2.11, 2.12, 2.12]))).toEqual(["in", "in", "unequal", "in", "in", "in"]);
    expect(judgedOf(cells([2.12, 2.12, 0.1, 2.11, 2.12, 2.12]))[2]).toBe("low");
  });

  test("nothing is said of a set that is not whole", () => {
    expect(judgedOf(cells([2.12, 2.06, 2.12]))).toEqual(["in", "in", "in"]);
  });
});
