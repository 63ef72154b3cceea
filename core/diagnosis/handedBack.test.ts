import { describe, expect, test } from "@jest/globals";
import { jobFacts } from "../../tests/support/facts";
import { populationOf, sheetOf } from "../../tests/support/population";
import { ASSUMED_METER } from "../meter/meter";
import type { Reading } from "../procedure/step";
import { stepKey } from "../procedure/step";
import { advise } from "./advice";
import { headline, reasonFor } from "./words/words";

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

describe("a machine whose volts stay low after its repair", () => {
  const burro = sheetOf("ostrel-burro-520");
  const found: Omit<Reading, "id">[] = [
    { test: "battery.rest", value: 12.79 },
    { test: "battery.crank", value: 10.59 },
    { test: "charge.volts", rpm: "idle", loads: "normal", value: 12.67 },
    { test: "charge.volts", rpm: 5000, loads: "normal", value: 13.89 },
    { test: "charge.volts", rpm: 5000, loads: "all", value: 12.65 },
    ...["1-2", "2-3", "3-1"].map((at): Omit<Reading, "id"> => ({ test: "stator.resistance", at, value: 0.35 })),
    ...[0.19, 0.33, 0.33].map((value, k): Omit<Reading, "id"> => ({ test: "stator.toGround", at: String(k + 1), value })),
  ];
  const since = (rpm: number | "idle", loads: "normal" | "all", value: number): Omit<Reading, "id"> => ({
    test: "charge.volts",
    rpm,
    loads,
    value,
    afterRepair: true,
    mended: ["stator"],
  });
  const mended = (...proof: Omit<Reading, "id">[]) =>
    advise(populationOf(burro), jobFacts([...found, ...proof], { mended: ["stator"], meter: { ...ASSUMED_METER, leadOhms: 0.15, ohmsResolution: 0.01 } }));

  test("is never called cured, whatever spoke for the part before", () => {
    for (const proof of [
      [since(5000, "normal", 12.3)],
      [since(5000, "normal", 12.3), since(5000, "all", 12.1)],
      [since(5000, "normal", 12.3), since(5000, "all", 12.1), since("idle", "normal", 12.2)],
    ]) {
      const advice = mended(...proof);
      expect(advice.settled && advice.decision.set === "").toBe(false);
      expect(headline(advice)).not.toMatch(/cured/i);
    }
    const unproven = { ...mended(), status: "contradiction" as const, sure: [] };
    expect(headline({ ...unproven, disproven: true })).toMatch(/^Not proven: .* Is every plug joined again\?/);
    expect(headline(unproven)).toMatch(/^The readings disagree/);
  });

  test("and one that charges is not held up, a figure that was misread and taken again beside it", () => {
    const proof = [since("idle", "normal", 13.4), since(5000, "normal", 14.3), since(5000, "all", 14.2)];
    expect(mended(...proof).status).not.toBe("contradiction");
    // One of three may have been misread; one of one is taken once more.
    expect(mended(since(5000, "normal", 11.1), ...proof).status).not.toBe("contradiction");
  });
});

describe("a machine whose unit let the volts climb", () => {
  const mended = { afterRepair: true, mended: ["regulator" as const] };
  const MENDED: Omit<Reading, "id">[] = [
    { test: "battery.crank", value: 12.5, ...mended },
    { test: "charge.volts", rpm: "idle", loads: "normal", value: 14.4, ...mended },
    { test: "charge.volts", rpm: 5000, loads: "all", value: 14.4, ...mended },
  ];
  const overcharged = (...volts: [all: number, normal: number, off: number]): Omit<Reading, "id">[] => [
    { test: "battery.rest", value: 13.6 },
    { test: "battery.crank", value: 12.5 },
    ...(["all", "normal", "off"] as const).map((loads, k): Omit<Reading, "id"> => ({ test: "charge.volts", rpm: 5000, loads, value: volts[k] as number })),
  ];

  test.each([
    [16.3, 16.7, 16.9],
    [15.6, 15.8, 15.9],
  ])("buys no battery for how far they climbed: %d V and more, and the battery cranks as before", (...volts) => {
    const before = advise(populationOf(sheet), jobFacts(overcharged(...volts)));
    expect(before.sets[0]?.what).toBe("regulator");
    const { sets } = advise(populationOf(sheet), jobFacts([...overcharged(...volts), ...MENDED], { mended: ["regulator"] }));
    expect(sets[0]).toMatchObject({ what: "" });
    expect(sets[0]?.odds).toBeGreaterThan(0.8);
  });
});
