import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import type { Reading } from "../procedure/step";
import { stepKey } from "../procedure/step";
import { advise } from "./advice";
import { reasonFor } from "./words/words";

/** Flat on the battery's own word: low, and full again once charged, its volts steady with the key on. */
const FLAT: Omit<Reading, "id">[] = [
  { test: "battery.rest", value: 11.35 },
  { test: "battery.settled", value: 11.31 },
  { test: "battery.rest", value: 13.31, charged: true },
  { test: "battery.settled", value: 13.31, charged: true },
];
const CRANKED: Omit<Reading, "id"> = { test: "battery.crank", value: 11.2, charged: true };
const CHARGED: Omit<Reading, "id"> = { test: "charge.volts", rpm: 5000, loads: "normal", value: 14.3 };

const sheet = sheetOf("brannoch-fell-850");
const adviceOn = (readings: Omit<Reading, "id">[], skipped: string[] = []) => advise(populationOf(sheet), jobFacts(readings, { skipped }));

describe("a machine that would be handed back with nothing mended", () => {
  test("is cranked and run first, whatever the battery says of itself", () => {
    const advice = adviceOn(FLAT);
    expect(advice.sets[0]?.what).toBe("charge");
    expect(advice.settled).toBe(false);
    expect(advice.next.map(({ step }) => stepKey(step))).toEqual(["battery.crank", "charge.volts~~5000~normal"]);
    for (const one of advice.next) {
      expect(one.unseen).toBe(true);
      expect(reasonFor(one, advice)).toMatch(/^Nothing is handed back as sound that was not seen to crank and to charge; .* after a full charge\.$/);
    }
  });

  test("is asked no more for what was seen, nor for what was skipped", () => {
    expect(adviceOn([...FLAT, CRANKED]).next.map(({ step }) => stepKey(step))).toContain("charge.volts~~5000~normal");
    expect(adviceOn([...FLAT, CRANKED]).next.some(({ step, unseen }) => unseen && step.test === "battery.crank")).toBe(false);
    expect(adviceOn([...FLAT, CRANKED, CHARGED]).next.some(({ unseen }) => unseen)).toBe(false);
    const skipped = ["battery.crank", "charge.volts~~5000~normal"];
    expect(adviceOn(FLAT, skipped).next.some(({ unseen }) => unseen)).toBe(false);
  });
});
