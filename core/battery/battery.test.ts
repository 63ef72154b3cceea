import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { acceptAmps, steadyVolts } from "../circuit/cell";
import { type Chemistry, chargeFromRest, isDrained, restVoltsAt, surfaceVolts } from "./charge";
import { chargerAmps, chargerCell, recoveredVolts, voltsOnCharger } from "./charger";
import { daysUntilFlat, hoursOfLoad, hoursToCharge, loadLimit, minutesToRepay, startCost } from "./figures";
import { type Battery, cellOf, conductancePercent, innerMilliohms, newMilliohms } from "./model";
import { RATING_IDS, type Rating, saeAmps } from "./ratings";

const KINDS: Chemistry[] = ["flooded", "agm", "gel", "lithium-iron"];
const FRESH: Battery = { chemistry: "agm", systemVolts: 12, ah: 9, charge: 0.95, celsius: 25, resistance: 1, capacity: 1, shortedCells: 0, jointOhms: 0 };

describe("charge from rest volts", () => {
  test("is the way back from volts at a charge, for every chemistry, both systems, any temperature", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS),
        fc.constantFrom(6 as const, 12 as const),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: -20, max: 45 }),
        (kind, volts, charge, celsius) => {
          expect(chargeFromRest(restVoltsAt(charge, kind, volts, celsius), kind, volts, 1000, celsius)).toBeCloseTo(charge, 6);
        },
      ),
    );
  });

  test("drained past empty it falls steeply, and its acid hardly conducts any more", () => {
    for (const kind of KINDS) {
      const empty = restVoltsAt(0, kind, 12);
      expect(restVoltsAt(-0.1, kind, 12)).toBeCloseTo(empty - 2.5, 6);
      expect(restVoltsAt(-0.1, kind, 6)).toBeCloseTo((empty - 2.5) / 2, 6);
      // Lithium falls off its cliff before it is empty.
      if (kind === "lithium-iron") {
        expect([0.04, 0.06].map((charge) => isDrained(restVoltsAt(charge, kind, 12), kind, 12))).toEqual([true, false]);
        continue;
      }
      expect(isDrained(empty - 0.1, kind, 12)).toBe(false);
      expect(isDrained(empty - 0.4, kind, 12)).toBe(true);
      expect(isDrained(empty / 2 - 0.1, kind, 6)).toBe(false);
      expect(isDrained(empty / 2 - 0.2, kind, 6)).toBe(true);
    }
    const at = (charge: number): number =>
      innerMilliohms({ chemistry: "flooded", systemVolts: 12, ah: 12, charge, celsius: 25, resistance: 1, capacity: 1, shortedCells: 0, jointOhms: 0 });
    expect(at(-0.1)).toBeGreaterThan(1.5 * at(0.05));
  });

  test("knows surface charge, and volts that are no battery's", () => {
    expect(chargeFromRest(12.9, "flooded", 12, 0.5)).toBeLessThan(0.95);
    expect(surfaceVolts("agm", 6, 0)).toBeCloseTo(0.2);
    expect(chargeFromRest(9, "flooded", 12)).toBeUndefined();
    expect(chargeFromRest(15.5, "agm", 12)).toBeUndefined();
  });
});

describe("the battery in the circuit", () => {
  test("accepts a twentieth of its Ah when full and far more when low, at charging volts", () => {
    const at = (charge: number) => {
      const cell = cellOf({ ...FRESH, charge });
      return acceptAmps(cell, 14.4 - cell.openVolts);
    };
    expect(at(1)).toBeCloseTo(0.05 * 9, 6);
    expect(at(0.4)).toBeCloseTo(0.7 * 9, 6);
  });

  test("a steeper one takes the same at 14.4 V, and less for every volt above", () => {
    const at = (volts: number, steepness?: number) => {
      const cell = cellOf({ ...FRESH, charge: 1, ...(steepness === undefined ? {} : { steepness }) });
      return acceptAmps(cell, volts - cell.openVolts);
    };
    expect(at(14.4, 1.5)).toBeCloseTo(at(14.4), 6);
    expect(at(16, 1)).toBeCloseTo(at(16), 9);
    expect(at(16, 1.5)).toBeLessThan(0.7 * at(16));
  });

  test("a sulphated one, a cold one and a bad joint sag further; a shorted cell is two volts down", () => {
    const under = (over: Partial<Battery>) => steadyVolts(cellOf({ ...FRESH, ...over }), -60);
    expect(under({ resistance: 4 })).toBeLessThan(under({}) - 3);
    expect(under({ celsius: -15 })).toBeLessThan(under({}));
    expect(under({ jointOhms: 0.1 })).toBeLessThan(under({}) - 5);
    expect(cellOf({ ...FRESH, shortedCells: 1 }).openVolts).toBeCloseTo(cellOf(FRESH).openVolts * (5 / 6), 9);
  });

  test("conductance is a hundred for a new full one and falls as resistance grows", () => {
    expect(conductancePercent({ ...FRESH, charge: 1 })).toBeCloseTo(100);
    expect(conductancePercent({ ...FRESH, charge: 1, resistance: 4 })).toBeCloseTo(25);
  });
});

describe("what testers show", () => {
  test("inner resistance is a new battery's when it is new, and grows as conductance falls", () => {
    const fresh = { ...FRESH, charge: 1 };
    expect(innerMilliohms(fresh)).toBeCloseTo(newMilliohms("agm", 9, 12), 9);
    const worn = { ...fresh, resistance: 2.5 };
    expect(innerMilliohms(worn) * conductancePercent(worn)).toBeCloseTo(100 * newMilliohms("agm", 9, 12), 6);
    expect(newMilliohms("agm", 9, 6)).toBeCloseTo(newMilliohms("agm", 9, 12) / 2, 9);
  });

  test("amps of every standard come to those of one: the harder a standard asks, the fewer it gives", () => {
    const ofAll = RATING_IDS.map((rating) => saeAmps(100, rating));
    expect(saeAmps(100, "sae")).toBe(100);
    expect(saeAmps(60, "din")).toBeCloseTo(100, 9);
    expect(saeAmps(125, "ca")).toBeCloseTo(100, 9);
    expect([...ofAll].sort((a, b) => b - a)).toEqual(["din", "iec", "en", "sae", "ca"].map((rating) => saeAmps(100, rating as Rating)));
  });
});

describe("chargers, and what is left on", () => {
  test("a load left on stops it from starting well before it is flat", () => {
    expect(hoursOfLoad(4, 12).toNoStart).toBeCloseTo(1.8, 9);
    expect(hoursOfLoad(4, 12).toFlat).toBe(3);
    expect(hoursOfLoad(4, 12, 0.3).toNoStart).toBe(0);
    expect(hoursOfLoad(0, 12).toFlat).toBe(Number.POSITIVE_INFINITY);
  });

  test("an empty battery on its slow rate is full after half a day; a lithium pack sooner; more amps, less time", () => {
    const slow = hoursToCharge("flooded", 12, 0, 1.2);
    expect(slow).toBeGreaterThan(11);
    expect(slow).toBeLessThan(15);
    expect(hoursToCharge("lithium-iron", 4, 0, 2)).toBeLessThan(3);
    expect(hoursToCharge("agm", 12, 0.5, 2.4)).toBeLessThan(hoursToCharge("agm", 12, 0.5, 1.2));
    expect(hoursToCharge("agm", 12, 1, 1.2)).toBe(0);
    expect(hoursToCharge("agm", 12, 0.5, 0)).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("arithmetic at the battery", () => {
  test.each([
    [21, 12, 9.6],
    [30, 12, 9.6],
    [10, 12, 9.4],
    [-18, 12, 8.5],
    [-40, 12, 8.5],
    [21, 6, 4.8],
  ] as const)("at %i °C a %i V battery must hold %f V under load", (celsius, volts, limit) => {
    expect(loadLimit(celsius, volts)).toBeCloseTo(limit, 9);
  });

  test("a drain empties in days, a start is repaid in minutes, or never", () => {
    expect(daysUntilFlat(100, 10)).toBeCloseTo(2.5);
    expect(daysUntilFlat(0, 10)).toBe(Number.POSITIVE_INFINITY);
    expect(startCost(90, 4)).toBeCloseTo(0.1);
    expect(minutesToRepay(0.1, 2)).toBeCloseTo(3.53, 2);
    expect(minutesToRepay(0.1, -1)).toBe(Number.POSITIVE_INFINITY);
  });
});

describe("a charger left on", () => {
  test("holds a battery between its own volts and the charger's, and gives what the battery takes there", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...KINDS),
        fc.double({ min: 0.05, max: 1, noNaN: true }),
        fc.double({ min: 13.5, max: 15.5, noNaN: true }),
        (chemistry, charge, charger) => {
          const cell = cellOf({ ...FRESH, chemistry, charge });
          const volts = voltsOnCharger(cell, charger);
          expect(volts).toBeGreaterThanOrEqual(cell.openVolts);
          expect(volts).toBeLessThanOrEqual(charger);
          const amps = chargerAmps(charger, volts);
          if (charger > cell.openVolts) expect(steadyVolts(cell, amps)).toBeCloseTo(volts, 2);
        },
      ),
    );
  });

  test("takes nothing back out of a battery above its volts, in the circuit and in the sum", () => {
    const cell = cellOf(FRESH);
    expect(voltsOnCharger(cell, 12)).toBe(cell.openVolts);
    expect(chargerAmps(12, cell.openVolts)).toBe(0);
    expect(chargerAmps(undefined, 5)).toBe(0);
    expect(acceptAmps(chargerCell(12), cell.openVolts - 12)).toBeLessThan(1e-4);
  });

  test("some seconds after it has ended a battery stands above its rest by a share of what it was raised by, never by more than its surface charge", () => {
    const cell = cellOf(FRESH);
    expect(recoveredVolts(cell, FRESH, 0)).toBe(cell.openVolts);
    expect(recoveredVolts(cell, FRESH, -5)).toBe(cell.openVolts);
    const [little, much, absurd] = [1e-4, 1e-3, 500].map((amps) => recoveredVolts(cell, FRESH, amps) - cell.openVolts);
    expect(little).toBeGreaterThan(0);
    expect(much).toBeGreaterThan(little as number);
    expect(absurd).toBeCloseTo(surfaceVolts("agm", 12, 0) / 3, 9);
  });
});
