import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../../tests/support/facts";
import { populationOf } from "../../../tests/support/population";
import { unlistedSheet } from "../../machine/unlisted";
import { type Reading, stepKey } from "../../procedure/step";
import { type Advice, advise } from "../advice";

/** A mower that nobody has figures for, as a real bench has it: sound, its normal volts misread once, its AC once by a slipped point. */
const volts = (value: number, loads: "off" | "normal" | "all" = "normal", more: Partial<Reading> = {}): Omit<Reading, "id"> => ({
  test: "charge.volts",
  rpm: 3600,
  loads,
  value,
  ...more,
});
const under = (test: Reading["test"], value: number, at?: string): Omit<Reading, "id"> => ({ test, rpm: 3600, loads: "normal", value, ...(at ? { at } : {}) });
const MOWER: Omit<Reading, "id">[] = [
  { test: "battery.rest", value: 12.66 },
  { test: "battery.crank", value: 11.26 },
  { test: "starter.cableDrop", value: 0.25 },
  volts(13.92, "off"),
  volts(12.88),
  { test: "charge.volts", rpm: "idle", loads: "normal", value: 12.59 },
  under("stator.legDrop", 0.15, "1"),
  under("stator.legDrop", 0.15, "2"),
  under("charge.groundDrop", 0.03),
  under("charge.positiveDrop", 0.07),
  volts(13.84, "all"),
  under("charge.outputVolts", 13.99),
  { test: "stator.toGround", at: "2", value: "OL" },
  { test: "stator.resistance", at: "1-2", value: 0.5, raw: true, leadOhms: 0.3 },
  { test: "regulator.diode", at: "B->2", value: 0.51 },
  { test: "regulator.diode", at: "B->1", value: 0.469 },
  { test: "regulator.diode", at: "B->B+", value: "OL" },
  { test: "stator.acVolts", at: "1-2", rpm: 3600, value: 253 },
  { test: "stator.acVolts", at: "1-2", rpm: 3600, value: 25.5 },
  volts(13.93, "normal", { hot: true }),
  { test: "drain.current", value: 6.5 },
  { test: "drain.unitUnplugged", value: 6.6 },
  { test: "battery.settled", value: 12.56 },
  { test: "battery.postDrop", value: 0.08 },
  { test: "stator.acVoltsAtUnit", at: "1-2", rpm: 3600, value: 25 },
  { test: "battery.rest", value: 12.73, charged: true },
  volts(13.97, "off", { charged: true }),
  volts(13.88, "normal", { charged: true, hot: true }),
  volts(13.88, "normal", { charged: true }),
];
const population = populationOf(unlistedSheet("single-phase-two-wire", 12, "mower"));
const adviceOn = (readings: Omit<Reading, "id">[]): Advice => advise(population, jobFacts(readings));
const oddsOf = (advice: Advice, set: string): number => advice.sets.find(({ what }) => what === set)?.odds ?? 0;

describe("one figure typed wrongly among many that agree", () => {
  const often = [...MOWER, ...[13.89, 13.88, 13.86, 13.93].map((value) => volts(value))];

  test.each([1.39, 60, 138.8])("%f for 13.9 is doubted and moves nothing, though others were misread before", (typed) => {
    const [before, after] = [adviceOn(often), adviceOn([...often, volts(typed)])];
    expect(after.doubts.concat(after.spent).map(({ reading }) => reading)).toContain(often.length);
    for (const { what } of before.sets.slice(0, 4)) expect(Math.abs(oddsOf(after, what) - oddsOf(before, what))).toBeLessThan(0.1);
    expect(after.decision.set).toBe(before.decision.set);
  });

  test("what was read again and is believed now is no contradiction any more", () => {
    expect(adviceOn([...often, volts(1.39)]).status).not.toBe("contradiction");
  });
});

test("of pairs that disagree the higher is believed: bad contacts and slow throttles show less than there is, and little shows more", () => {
  const alternating = [22, 23, 61].map((value, i): Omit<Reading, "id"> => ({ test: "stator.acVolts", at: ["1-2", "2-3", "3-1"][i], rpm: 5000, value }));
  const readings: Omit<Reading, "id">[] = [
    { test: "battery.rest", value: 12.4 },
    { test: "battery.crank", value: 10.2 },
    ...([12.3, 12.6] as const).map((value, i): Omit<Reading, "id"> => ({ test: "charge.volts", rpm: 5000, loads: i === 0 ? "normal" : "off", value })),
    ...alternating,
  ];
  const { parts } = advise(populationOf(unlistedSheet("three-phase", 12)), jobFacts(readings));
  expect(parts.find(({ what }) => what === "stator")?.odds).toBeGreaterThan(0.75);
});

test("what was read before the charge and after it is not asked for a third time", () => {
  for (let more = 0; more < 3; more++) {
    const advice = adviceOn([...MOWER, ...Array.from({ length: more }, () => volts(13.88))]);
    expect(advice.next.filter(({ due, step }) => due === "again" && stepKey(step) === "charge.volts~~3600~normal")).toEqual([]);
  }
});
