import { describe, expect, test } from "@jest/globals";
import { reading } from "../../tests/support/readings";
import { isOfNow, mendedBy, withMended } from "./mended";

/** Repairs of these parts; one of no part was cleaning or charging. */
const repairs = (...parts: string[]): { part: string }[] => parts.map((part) => ({ part }));

describe("what repairs have mended", () => {
  test("is every part once, in the loom's order, whatever the order of the repairs", () => {
    expect(mendedBy(repairs("regulator", "battery", "regulator"))).toEqual(["battery", "regulator"]);
    expect(mendedBy(repairs("battery", "regulator"))).toEqual(mendedBy(repairs("regulator", "battery")));
  });

  test("counts only the repairs so far", () => {
    expect(mendedBy(repairs("stator", "battery", "wiring"), 2)).toEqual(["battery", "stator"]);
    expect(mendedBy(repairs("stator"), 0)).toEqual([]);
  });

  test("is nothing where nothing was changed", () => {
    expect(mendedBy(repairs("none"))).toEqual([]);
    expect(mendedBy([])).toEqual([]);
  });
});

describe("readings", () => {
  const before = reading("battery.rest", 12.1);
  const first = { ...reading("charge.volts", 12.4, { rpm: 5000, afterRepair: true }), repairs: 1 };
  const second = { ...reading("charge.volts", 14.2, { rpm: 5000, afterRepair: true }), repairs: 2 };

  test("taken before any repair are left as they are", () => {
    expect(withMended([before], repairs("stator"))).toEqual([before]);
  });

  test("know what had been mended when each was taken", () => {
    const [, reading, two] = withMended([before, first, second], repairs("stator", "battery"));
    expect(reading?.mended).toEqual(["stator"]);
    expect(two?.mended).toEqual(["battery", "stator"]);
    expect(reading?.charged).toBeUndefined();
  });

  test("after a repair of no part are those of a charged battery", () => {
    expect(withMended([first], repairs("none"))[0]).toMatchObject({ mended: [], charged: true });
  });

  test("kept before repairs were counted belong to the first", () => {
    const old = reading("charge.volts", 14.1, { rpm: 5000, afterRepair: true });
    expect(withMended([old], repairs("stator", "battery"))[0]?.mended).toEqual(["stator"]);
  });

  test("speak of the machine as it stands now, or of an earlier one", () => {
    const two = repairs("stator", "battery");
    const [earlier, other] = withMended([first, second], two);
    if (!earlier || !other) throw new Error("none");
    expect(isOfNow(before, [])).toBe(true);
    expect(isOfNow(before, two)).toBe(false);
    expect(isOfNow(earlier, two)).toBe(false);
    expect(isOfNow(other, two)).toBe(true);
    expect(isOfNow(earlier, two.slice(0, 1))).toBe(true);
    expect(isOfNow(first, [])).toBe(false);
  });
});
