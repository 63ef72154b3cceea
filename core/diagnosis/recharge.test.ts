import { expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf } from "../../tests/support/population";
import { unlistedSheet } from "../machine/unlisted";
import type { Reading } from "../procedure/step";
import { type Advice, advise } from "./advice";
import type { Suggestion } from "./planning/plan";
import { reasonFor } from "./words/words";

const SHUNT = { family: "three-phase-shunt" };

type Written = Omit<Reading, "id">;
const DIODES: Written[] = ["1>B+", "2>B+", "3>B+", "B->1", "B->2", "B->3"].map((at) => ({ test: "regulator.diode", at, value: 0.53 }));
/** A machine without a sheet that cranks low on a half-full battery, and is right in all else. */
const CLEAR: Written[] = ["1", "2", "3"].map((at) => ({ test: "stator.toGround", at, value: "OL" }));
const LOW_CRANK: Written[] = [
  ...CLEAR,
  { test: "battery.rest", value: 12.38 },
  { test: "battery.crank", value: 7.9 },
  { test: "starter.cableDrop", value: 0.14 },
  { test: "battery.postDrop", value: 0.07 },
  { test: "charge.volts", rpm: 5000, loads: "off", value: 14.26 },
  { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.29 },
  ...DIODES,
  { test: "regulator.diode", at: "B->B+", value: 0.98 },
  { test: "drain.current", value: 0.2 },
  { test: "inspect.connector", at: "stator", value: "clean" },
  { test: "inspect.connector", at: "output", value: "clean" },
  { test: "inspect.terminals", value: "tight" },
];
const advised = (...more: Written[]): Advice => advise(populationOf(unlistedSheet("three-phase", 12)), jobFacts([...LOW_CRANK, ...more]));
const asked = ({ next }: Advice): unknown[] => next.map(({ step, look }) => [step.test, look.charged]);

test("a battery that is likely worn, and not surely, is charged and cranked again before it is bought, and the page says why", () => {
  const advice = advised();
  expect(advice.decision.set).toBe("battery");
  expect(advice.settled).toBe(false);
  expect(asked(advice)).toEqual([
    ["battery.rest", true],
    ["battery.crank", true],
  ]);
  expect(advice.next[0]?.moves.map(({ id }) => id)).toContain("charge");
  expect(reasonFor(advice.next[0] as Suggestion, SHUNT)).toMatch(
    /^Before the battery is bought: one that was only flat looks like a worn one;.*after a full charge/,
  );
});

test("charged and read once, it is not asked for again: what it showed counts", () => {
  const [worn, flat] = [8.1, 10.9].map((value) =>
    advised({ test: "battery.rest", charged: true, value: 12.7 }, { test: "battery.crank", charged: true, value }),
  ) as [Advice, Advice];
  for (const advice of [worn, flat]) expect(asked(advice)).not.toContainEqual(["battery.crank", true]);
  const battery = ({ parts }: Advice): number => parts.find(({ what }) => what === "battery")?.odds ?? 0;
  expect(battery(worn)).toBeGreaterThan(battery(flat) + 0.2);
});
