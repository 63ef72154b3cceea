import { describe, expect, test } from "@jest/globals";
import { context, reading } from "../../tests/support/readings";
import { judgeAll } from "./judge";
import { batteryMethods } from "./methods";

const around = { ...context(), sheet: { ...context().sheet, battery: { chemistry: "agm" as const, ah: 12, cca: 150 } } };
const proved = (readings: Parameters<typeof judgeAll>[0]) => batteryMethods(judgeAll(readings, around), around.sheet);

describe("a battery proved in several ways", () => {
  test("one way is no comparison, and rest volts are no proof", () => {
    expect(proved([reading("battery.load", 10.1)])).toBeUndefined();
    expect(proved([reading("battery.rest", 12.8), reading("battery.load", 10.1)])).toBeUndefined();
  });

  test("figures of every kind stand beside each other, each as a share of the label's", () => {
    const told = proved([reading("battery.load", 10.1), reading("battery.crankingAmps", 81, { rating: "din" }), reading("battery.innerOhms", 16)]);
    expect(told?.agree).toBe(true);
    expect(told?.methods.map(({ shows }) => shows)).toEqual(["10.10 V", "81.0 A, 90 % of the label's", expect.stringMatching(/^16 mΩ, 9\d % of the label's$/)]);
  });

  test("the latest of each counts, and what disagrees is said", () => {
    const told = proved([reading("battery.conductance", 95), reading("battery.conductance", 40), reading("battery.load", 10.1)]);
    expect(told).toMatchObject({
      agree: false,
      methods: [
        { id: "battery.load", good: true },
        { id: "battery.conductance", shows: "40 %", good: false },
      ],
    });
  });
});
