import { describe, expect, test } from "@jest/globals";
import { oddityOf } from "./oddities";
import type { Reading } from "./step";
import { USUAL_TOOLS } from "./tools";

const FLOODED = { battery: { chemistry: "flooded" }, systemVolts: 12 } as const;
const RUN: Reading = { id: "run", test: "charge.volts", rpm: 5000, loads: "normal", value: 14.2 };
const odd = (reading: Omit<Reading, "id">, before: Reading[] = []): string => oddityOf({ id: "r", ...reading }, before, USUAL_TOOLS, FLOODED) ?? "";

test("rest volts without rest are said to be no rest volts; with some hours they are", () => {
  expect(odd({ test: "battery.rest", value: 12.9, restHours: 0 })).toMatch(/^Rest volts.* after no rest at all/);
  expect(odd({ test: "battery.rest", value: 12.9, restHours: 0.1 })).toMatch(/hardly any rest/);
  expect(odd({ test: "battery.rest", value: 12.9, restHours: 6 })).toBe("");
  expect(odd({ test: "battery.rest", value: 12.9 })).toBe("");
});

test("a hot winding on an engine that has not run is said to be odd; after a run, or while it runs, it is not", () => {
  const hot: Omit<Reading, "id"> = { test: "stator.resistance", at: "1-2", value: 0.5, hot: true };
  expect(odd(hot)).toMatch(/engine has not run in this job/);
  expect(odd(hot, [RUN])).toBe("");
  expect(odd({ ...RUN, hot: true })).toBe("");
});

test("a tool that the shop lacks is named, and the reading counts", () => {
  expect(odd({ test: "battery.load", value: 9.8 })).toBe("The shop's settings name no load tester; the reading counts all the same.");
  expect(oddityOf({ id: "r", test: "battery.load", value: 9.8 }, [], ["load-tester"], FLOODED)).toBeUndefined();
});

test("volts that no battery has by itself are asked about: a charger may be on", () => {
  expect(odd({ test: "battery.rest", value: 14.1 })).toMatch(/^No battery of this kind shows 14.1.* is a charger or jump pack on still/);
  expect(odd({ test: "battery.settled", value: 13.2 })).toMatch(/charger/);
  expect(odd({ test: "battery.rest", value: 13.1 })).toBe("");
  expect(odd({ test: "battery.settled", value: 12.6 })).toBe("");
  const lithium = { battery: { chemistry: "lithium-iron" }, systemVolts: 12 } as const;
  expect(oddityOf({ id: "r", test: "battery.rest", value: 13.6 }, [], USUAL_TOOLS, lithium)).toBeUndefined();
  const six = { battery: { chemistry: "flooded" }, systemVolts: 6 } as const;
  expect(oddityOf({ id: "r", test: "battery.rest", value: 7.1 }, [], USUAL_TOOLS, six)).toMatch(/charger/);
});

test("volts of a battery of the other system are asked about by its cells; a flat one of this system is not", () => {
  const six = (value: number): string =>
    oddityOf({ id: "r", test: "battery.rest", value }, [], USUAL_TOOLS, { battery: { chemistry: "flooded" }, systemVolts: 6 }) ?? "";
  expect(six(12.4)).toMatch(/^12.4.* is a 12 V battery, and this job is for a 6 V machine: count the cells, six are 12 V/);
  expect([six(5.2), six(6.3), six(9)].filter((told) => told.includes("count the cells"))).toEqual([]);
  expect(odd({ test: "battery.rest", value: 6.3 })).toMatch(/three are 6 V/);
  expect([odd({ test: "battery.rest", value: 8.4 }), odd({ test: "battery.rest", value: 4.1 })]).toEqual(["", ""]);
  // Under the starter a 12 V battery may well show as little.
  expect(odd({ test: "battery.crank", value: 6.3 })).toBe("");
});

describe("cells that do not add up", () => {
  const cells = (volts: readonly number[]) => volts.map((value, k): Reading => ({ id: `${k}`, test: "battery.cell", at: `${k + 1}`, value }));
  const rest: Reading = { id: "rest", test: "battery.rest", value: 12.7 };

  test("to what the battery showed at rest are named at the last of them", () => {
    const [last, ...before] = cells([2.1, 2.1, 1.2, 2.1, 2.1, 2.1]).reverse() as [Reading, ...Reading[]];
    expect(odd(last, [rest, ...before])).toBe(
      "The cells add up to 11.70 V, the whole battery showed 12.70 V: one of them was mistyped, or read between other cells.",
    );
    expect(odd(last, before)).toBe("");
    expect(odd(last, [{ ...rest, value: 11.7 }, ...before])).toBe("");
  });
});
