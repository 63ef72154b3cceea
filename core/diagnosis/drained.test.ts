import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Sheet } from "../machine/sheet";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { type Advice, advise } from "./advice";
import type { Suggestion } from "./planning/plan";
import { reasonFor } from "./words/words";

type Written = Omit<Reading, "id">;
const rest = (value: number, charged = false): Written => ({ test: "battery.rest", value, charged });
const crank = (value: number, charged = false): Written => ({ test: "battery.crank", value, charged });
const oddsOf = ({ parts }: Advice, part: string): number => parts.find(({ what }) => what === part)?.odds ?? 0;
const asked = ({ next }: Advice): unknown[] => next.slice(0, 2).map(({ step, look }) => [step.test, look.charged]);

const UNLISTED = unlistedSheet("three-phase", 12);
const MACHINES: [string, Sheet][] = [
  ["with a sheet", sheetOf("corvane-linnet-125")],
  ["without a sheet", UNLISTED],
];

describe.each(MACHINES)("a battery that came in drained, %s", (_, sheet) => {
  const advised = (...readings: Written[]): Advice => advise(populationOf(sheet), jobFacts(readings));

  test.each([10.9, 10.6, 9.4, 8, 5.5, 3])("%d V is charged before anything else is judged, and nothing is bought for it", (volts) => {
    const advice = advised(rest(volts));
    expect(asked(advice)).toEqual([
      ["battery.rest", true],
      ["battery.crank", true],
    ]);
    expect(advice.next[0]?.moves.map(({ id }) => id)).toEqual(["charge", "rest"]);
    expect(reasonFor(advice.next[0] as Suggestion, advice)).toMatch(
      /^A battery this low .* charge it before anything else is judged; .*after a full charge\.$/,
    );
    expect(advice.status).not.toBe("found");
    expect([...advice.doubts, ...advice.spent]).toEqual([]);
    // A machine with nothing the matter does not let its battery go so far.
    expect(oddsOf(advice, "battery") + oddsOf(advice, "charge")).toBeGreaterThan(0.1);
    // What is asked for after that is asked of a charged machine.
    const after = advice.next.slice(2).filter(({ step }) => ["battery.settled", "battery.load", "charge.volts"].includes(step.test));
    for (const { look } of after) expect(look.charged).toBe(true);
  });

  test("what it showed before tells nothing once it has been charged, but that something drained it", () => {
    const since = [rest(12.7, true), crank(10.6, true)];
    const [drained, never] = [advised(rest(8.9), crank(3.1), { test: "battery.firstPull", value: 2.4 }, ...since), advised(...since)];
    const oddsIn = ({ sets }: Advice, set: string): number => sets.find(({ what }) => what === set)?.odds ?? 0;
    expect(oddsIn(drained, "")).toBeLessThan(0.3 * oddsIn(never, ""));
    for (const { what, odds } of never.sets.filter(({ what, odds }) => what !== "" && odds > 0.05))
      expect(oddsIn(drained, what) / oddsIn(drained, "charge")).toBeCloseTo(odds / oddsIn(never, "charge"), 1);
  });

  test("what was read before the charge is not asked for again, and what follows it was read of a charged battery", () => {
    // Rest volts that go with nothing else: once the battery is charged nobody can read them again.
    const after = advised(rest(14.9), crank(10.4), rest(12.7, true), crank(10.5, true));
    expect(after.doubts.map(({ reading }) => reading)).not.toContain(0);
    const fed = (charged: boolean): Advice => advised(rest(11.8), rest(12.7, true), { test: "regulator.feed", value: 12.4, charged });
    expect(fed(false).sets).toEqual(fed(true).sets);
    const logged = (charged: boolean): Advice => advised(rest(11.8), rest(12.7, true), { test: "battery.firstPull", value: 9.8, charged });
    expect(logged(false).sets).toEqual(logged(true).sets);
  });

  test("one that is as low after a full charge has a dead cell, and a partly dead one is thought of", () => {
    for (const volts of [10.7, 11.5]) {
      const advice = advised(rest(9.2), rest(volts, true));
      expect(oddsOf(advice, "battery")).toBeGreaterThan(volts < 11 ? 0.75 : 0.6);
      expect(advice.faults[0]?.what).toBe("battery.shorted-cell");
    }
  });

  test("who skips the charge is asked for the rest of the plan", () => {
    const advice = advise(populationOf(sheet), jobFacts([rest(9)], { skipped: ["battery.rest", "battery.crank"] }));
    expect(advice.next.length).toBeGreaterThan(0);
    for (const { step } of advice.next) expect(["battery.rest", "battery.crank"]).not.toContain(step.test);
  });
});

test("a loose battery that is drained is charged, and not cranked", () => {
  const advice = advise(populationOf({ ...UNLISTED, loose: "battery" }), jobFacts([rest(4)]));
  expect(asked(advice)).toEqual([["battery.rest", true]]);
  expect(advice.decision.set).not.toBe("");
});

test("six volts are half as much: what is drained on twelve is a full battery there", () => {
  const six = populationOf(sheetOf("corvane-merle-250"));
  expect(asked(advise(six, jobFacts([rest(6.3)])))).not.toContainEqual(["battery.rest", true]);
  expect(asked(advise(six, jobFacts([rest(5.2)])))[0]).toEqual(["battery.rest", true]);
});

describe("a lithium battery that came in on its cliff, where volts tell no charge any more", () => {
  const advised = (...readings: Written[]): Advice => advise(populationOf(sheetOf("brannoch-fell-850")), jobFacts(readings));

  test.each([12.2, 11.55, 10.9])("%d V is charged before anything else is judged", (volts) => {
    expect(asked(advised(rest(volts)))).toEqual([
      ["battery.rest", true],
      ["battery.crank", true],
    ]);
  });

  test("a machine that does not charge it afterwards is no machine that was only flat", () => {
    const running = (test: "charge.volts" | "charge.outputVolts", value: number): Written => ({ test, rpm: 5000, loads: "normal", charged: true, value });
    const advice = advised(rest(11.55), rest(13.4, true), crank(11.85, true), running("charge.volts", 13.41), running("charge.outputVolts", 13.45));
    expect(oddsOf(advice, "charge")).toBeLessThan(0.15);
    expect(advice.parts.find(({ what }) => what !== "charge")?.what).toBe("regulator");
  });
});
