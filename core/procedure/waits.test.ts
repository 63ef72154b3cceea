import { describe, expect, test } from "@jest/globals";
import { unlistedSheet } from "../machine/unlisted";
import { chargePlan, isOver, waitOf } from "./waits";

const sheet = { ...unlistedSheet("three-phase-shunt", 12), battery: { chemistry: "flooded" as const, ah: 14 } };

describe("a charge on the clock", () => {
  test("takes what is missing over what the charger gives, its tail, and then the school's rest", () => {
    // 12.24 V: half full. 7 Ah over 1.4 A at 85 % and a full tail of two hours.
    const plan = chargePlan(sheet, 12.24, 2, 1.4);
    expect(plan.charge).toBeCloseTo(0.5, 1);
    expect(plan.hours).toBeCloseTo(7 / (1.4 * 0.85) + 2, 0);
    expect(plan.judgedHours - plan.hours).toBe(2);
    expect(plan).toMatchObject({ slowAmps: expect.closeTo(1.4), fastAmps: expect.closeTo(5.6), volts: 14.8 });
  });

  test("takes a battery of which nothing is known for empty, and never ends without amps", () => {
    expect(chargePlan(sheet, undefined, 2, 1.4).hours).toBeGreaterThan(chargePlan(sheet, 12.24, 2, 1.4).hours);
    expect(chargePlan(sheet, 12.24, 2, 0).hours).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("the wait a job is in", () => {
  const charging = { what: "charge", beganAt: "2026-03-02T10:00:00.000Z", until: "2026-03-02T18:00:00.000Z" } as const;

  test("is the latest begun, in whatever order they arrived, until it is ended", () => {
    const part = { what: "part", beganAt: "2026-03-02T12:00:00.000Z" } as const;
    expect(waitOf([part, charging])).toBe(part);
    expect(waitOf([charging, { what: "nothing", beganAt: "2026-03-02T13:00:00.000Z" }])).toBeUndefined();
    expect(waitOf([])).toBeUndefined();
  });

  test("is over by its own time, and never by itself where nobody knows it", () => {
    expect(isOver(charging, Date.parse("2026-03-02T17:59:00Z"))).toBe(false);
    expect(isOver(charging, Date.parse("2026-03-02T18:00:00Z"))).toBe(true);
    expect(isOver({ what: "part", beganAt: charging.beganAt }, Date.parse("2027-01-01T00:00:00Z"))).toBe(false);
  });
});
