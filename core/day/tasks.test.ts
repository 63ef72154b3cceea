import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../demo/sheets";
import { jobFacts } from "../../tests/support/facts";
import { populationOf } from "../../tests/support/population";
import { advise } from "../diagnosis/advice";
import { ASSUMED_PRICES } from "../diagnosis/planning/prices";
import type { Sheet } from "../machine/sheet";
import { ASSUMED_METER } from "../meter/meter";
import type { Reading } from "../procedure/step";
import { type Standing, tasksOf } from "./tasks";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const reading = (test: Reading["test"], value: Reading["value"], more: Partial<Reading> = {}): Reading => ({
  test,
  id: `${test} ${more.at ?? ""} ${more.loads ?? ""}`,
  value,
  ...more,
});

function standingAfter(readings: Reading[], restVolts: number | undefined, repaired = false): Standing {
  const advice = advise(populationOf(sheet), jobFacts(readings, { meter: ASSUMED_METER, tools: ["test-lamp"], restHours: 2 }));
  return { sheet, advice, restVolts, restHours: 2, repaired };
}

describe("what a job still needs", () => {
  test("of a machine that nobody has worked out yet, a look", () => {
    expect(tasksOf({ sheet, advice: undefined, restVolts: undefined, restHours: 2, repaired: false }, ASSUMED_PRICES)).toEqual([
      { kind: "hands", minutes: 15, title: "Look at it" },
    ]);
  });

  test("a machine just wheeled in is read first, and what its rest would be lost by is said", () => {
    const [first] = tasksOf(standingAfter([], undefined), ASSUMED_PRICES);
    expect(first).toMatchObject({ kind: "hands" });
    expect(first?.minutes).toBeGreaterThan(1);
  });

  test("a flat battery goes on the charger, charges by its own hours, then rests", () => {
    const flat = standingAfter(
      [reading("battery.rest", 11.4, { restHours: 12 }), reading("battery.settled", 10.9), reading("charge.volts", 14.3, { rpm: 5000, loads: "normal" })],
      11.4,
    );
    const tasks = tasksOf(flat, ASSUMED_PRICES);
    const at = tasks.findIndex((task) => task.kind === "wait" && task.what === "charge");
    expect(at).toBeGreaterThan(0);
    expect(tasks[at - 1]).toMatchObject({ kind: "hands", title: expect.stringMatching(/^On the charger, \d\.\d A/) });
    expect(tasks[at]?.minutes).toBeGreaterThan(240);
    expect(tasks[at + 1]).toMatchObject({ kind: "wait", what: "rest", minutes: 120 });
  });

  test("what is found is mended, by the shop's own minutes, and proven", () => {
    const grounded = standingAfter(
      [
        reading("battery.rest", 12.8, { restHours: 12 }),
        reading("charge.volts", 12.4, { rpm: 5000, loads: "normal" }),
        ...["1", "2", "3"].map((at) => reading("stator.toGround", 0.4, { at })),
      ],
      12.8,
    );
    const last = tasksOf(grounded, ASSUMED_PRICES).at(-1);
    expect(last).toMatchObject({ kind: "hands", title: expect.stringMatching(/mend: .*stator/i) });
    expect(last?.minutes).toBeGreaterThanOrEqual(ASSUMED_PRICES.parts.stator.minutes);
  });

  test("readings that follow each other without a wait are one visit", () => {
    const tasks = tasksOf(standingAfter([], undefined), ASSUMED_PRICES);
    tasks.slice(1).forEach((task, k) => {
      if (task.kind === "hands" && !/mend|close|charger/i.test(task.title)) expect(tasks[k]?.kind).toBe("wait");
    });
  });
});
