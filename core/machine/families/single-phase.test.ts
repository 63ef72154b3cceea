import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../../demo/sheets";
import { ASSUMED_METER, type Meter } from "../../meter/meter";
import { type MeterDial, readMeter } from "../../meter/read";
import { simulateStep } from "../../procedure/simulate";
import type { Step } from "../../procedure/step";
import type { ReadingValue } from "../../units";
import { conditionOf, stateOf } from "../condition";
import type { SetFault } from "../defects";
import type { Point } from "../points";
import type { Sheet } from "../sheet";
import type { Standing } from "../standing";

/** What each family must show by itself: nothing here is written anywhere but follows from its circuit. */

const METER: Meter = { name: "m", leadOhms: 0, ohmsResolution: 0.01, trueRms: true, diodeMaxVolts: 2.6 };

interface Set {
  charge?: number;
  faults?: SetFault[];
}

function machineOf(id: string) {
  const sheet = demoSheet(id) as Sheet;
  const shows = (step: Step, { charge = 0.8, faults = [] }: Set = {}): ReadingValue => simulateStep(sheet, conditionOf(faults, { charge }), step, METER).value;
  const charging = (loads: "off" | "normal" | "all", set: Set = {}): number => Number(shows({ test: "charge.volts", rpm: sheet.testRpm, loads }, set));
  /** A meter between any two points. */
  const across = (dial: MeterDial, red: Point, black: Point, standing: Partial<Standing>, { charge = 0.8, faults = [] }: Set = {}): ReadingValue => {
    const stands: Standing = { engine: "running", key: "on", rpm: sheet.testRpm, loads: "normal", unplug: [], pulled: [], ...standing };
    return readMeter(stateOf(sheet, conditionOf(faults, { charge }), stands.engine === "running"), stands, dial, { red, black }, METER).value;
  };
  return { sheet, shows, charging, across };
}

describe("two wires into a three-terminal unit", () => {
  const { sheet, shows, charging, across } = machineOf("mossgate-cloister-18");
  const ac: Step = { test: "stator.acVolts", at: "1-2", rpm: sheet.testRpm };

  test("one thyristor open hides while little is taken, and shows under all loads and in the ripple", () => {
    const open: Set = { faults: [{ fault: "regulator.diode-open", at: "1>B+" }] };
    expect(charging("normal", open)).toBeGreaterThan(13.5);
    expect(charging("all", open)).toBeLessThan(charging("all") - 0.8);
    const ripple: Step = { test: "charge.ripple", rpm: sheet.testRpm, loads: "normal" };
    expect(Number(shows(ripple, open))).toBeGreaterThan(1.3 * Number(shows(ripple)));
  });

  test("the case's ground broken, nothing is charged though AC and feed are good", () => {
    const loose: Set = { faults: [{ fault: "wiring.ground-resistance", severity: 1e7 }] };
    expect(charging("normal", loose)).toBeLessThan(12.8);
    expect(shows(ac, loose)).toBe(shows(ac));
    expect(Number(shows({ test: "regulator.feed" }, loose))).toBeGreaterThan(12);
    expect(Number(shows({ test: "regulator.ground" }, loose))).toBeGreaterThan(1e6);
  });

  test("a wire that touches the engine shows all its AC on the other wire and none on its own", () => {
    const touches: Set = { faults: [{ fault: "stator.winding-grounded", at: "1", along: 0.01, severity: 0.02 }] };
    const [own, other] = (["leg:1", "leg:2"] as const).map((leg) => Number(across("V AC", leg, "engine", { unplug: ["stator"] }, touches)));
    expect(other).toBeGreaterThan(0.9 * Number(shows(ac)));
    expect(own).toBeLessThan(0.1 * Number(shows(ac)));
  });
});

describe("two windings from a common wire", () => {
  const { sheet, shows, charging } = machineOf("corvane-tern-400");
  const ohms = (at: string, set?: Set): ReadingValue => shows({ test: "stator.resistance", at }, set);

  test("three readings tell the wires: the highest lies across both ends, the main winding is the lower to the common", () => {
    const [main, assist, both] = ["C-M", "C-A", "M-A"].map((at) => Number(ohms(at))) as [number, number, number];
    expect(both).toBeCloseTo(main + assist, 1);
    expect(main).toBeLessThan(0.6 * assist);
  });

  test("the main winding open hides at light load only, and two of three readings are open", () => {
    const open: Set = { faults: [{ fault: "stator.winding-open", at: "M" }] };
    expect(["C-M", "C-A", "M-A"].map((at) => ohms(at, open) === "OL")).toEqual([true, false, true]);
    expect(charging("all") - charging("all", open)).toBeGreaterThan(0.3);
  });

  test("its assisting winding is in with the lights and out without them", () => {
    const without: Set = { faults: [{ fault: "stator.winding-open", at: "A" }], charge: 0.5 };
    expect(charging("normal", without)).toBeLessThan(charging("normal", { charge: 0.5 }));
    expect(charging("off", without)).toBeCloseTo(charging("off", { charge: 0.5 }), 2);
  });

  test("its windings make what the sheet prints", () => {
    for (const at of ["C-M", "C-A"]) expect(Number(shows({ test: "stator.acVolts", at, rpm: sheet.testRpm }))).toBeCloseTo(25, 0);
  });
});

describe("two coils with one end on the engine", () => {
  const { sheet, shows, charging, across } = machineOf("corvane-dabchick-50");

  test("a good coil reads its own ohms to the engine, never open; an open one reads open", () => {
    expect(Number(shows({ test: "stator.resistance", at: "C" }))).toBeCloseTo(0.65, 1);
    expect(Number(shows({ test: "stator.resistance", at: "L" }))).toBeCloseTo(0.4, 1);
    expect(shows({ test: "stator.resistance", at: "C" }, { faults: [{ fault: "stator.winding-open", at: "C" }] })).toBe("OL");
  });

  test("the charging coil dead, the lamps burn on and nothing is charged", () => {
    const dead: Set = { faults: [{ fault: "stator.winding-open", at: "C" }] };
    expect(charging("normal", dead)).toBeLessThan(12.8);
    const lamps = (set?: Set): number => Number(across("V AC", "unitLeg:L", "B-", {}, set));
    expect(lamps(dead)).toBeCloseTo(lamps(), 1);
    expect(lamps()).toBeGreaterThan(7);
  });

  test("lamps are clipped at speed: what they would get without it is far more", () => {
    const running = Number(across("V AC", "unitLeg:L", "B-", { rpm: 1.6 * sheet.testRpm }));
    const free = Number(across("V AC", "leg:L", "engine", { rpm: 1.6 * sheet.testRpm, unplug: ["stator"] }));
    expect(running).toBeLessThan(15);
    expect(free).toBeGreaterThan(1.7 * running);
  });
});

describe("a DC lead with its diode, an AC lead for the lamps, nothing regulates", () => {
  const { sheet, shows, charging, across } = machineOf("mossgate-pavilion-12");
  const lead: Step = { test: "stator.dcVolts", at: "D", rpm: sheet.testRpm };

  test("charges to volts that would condemn a regulator, and that is healthy", () => {
    expect(charging("off", { charge: 0.95 })).toBeGreaterThan(14.5);
    expect(charging("off", { charge: 0.95 })).toBeLessThan(15.6);
  });

  test("the diode open: no volts at the lead, the coil behind it is fine and so are the lamps", () => {
    const open: Set = { faults: [{ fault: "stator.diode-open" }] };
    expect(Number(shows(lead))).toBeGreaterThan(9);
    expect(Math.abs(Number(shows(lead, open)))).toBeLessThan(0.5);
    expect(Number(across("V AC", "inner:D" as Point, "engine", { unplug: ["stator"] }, open))).toBeGreaterThan(20);
    expect(shows({ test: "stator.acVolts", at: "A", rpm: sheet.testRpm }, open)).toBe(shows({ test: "stator.acVolts", at: "A", rpm: sheet.testRpm }));
    expect(shows({ test: "stator.diode", at: "G>D" }, open)).toBe("OL");
  });

  test("the diode shorted: AC at the lead, and at rest the battery empties itself through the coil until the fuse melts", () => {
    const short: Set = { faults: [{ fault: "stator.diode-shorted" }] };
    expect(Number(across("V AC", "leg:D", "engine", { unplug: ["stator"] }, short))).toBeGreaterThan(20);
    expect(Math.abs(Number(shows(lead, short)))).toBeLessThan(1);
    const drain = simulateStep(sheet, conditionOf(short.faults ?? []), { test: "drain.current" }, ASSUMED_METER);
    expect(drain).toEqual({ value: 0, notes: ["fuse main has melted"] });
    expect(Number(shows({ test: "stator.diode", at: "D>G" }, short))).toBeLessThan(0.1);
  });
});

describe("two windings on four pins", () => {
  const { sheet, shows, charging } = machineOf("brannoch-tor-440");

  test.each([
    ["1", "1-2", "3-4"],
    ["3", "3-4", "1-2"],
  ])("the winding at %s dead, its pair reads open and makes nothing, the other is as it was", (at, own, other) => {
    const dead: Set = { faults: [{ fault: "stator.winding-open", at }], charge: 0.5 };
    expect(shows({ test: "stator.resistance", at: own }, dead)).toBe("OL");
    expect(shows({ test: "stator.resistance", at: other }, dead)).toBe(shows({ test: "stator.resistance", at: other }));
    const ac = (pair: string, set?: Set): number => Number(shows({ test: "stator.acVolts", at: pair, rpm: sheet.testRpm }, set));
    expect(ac(own, dead)).toBeLessThan(0.2 * ac(own));
    expect(ac(other, dead)).toBeCloseTo(ac(other), 0);
    expect(charging("all", dead)).toBeLessThan(charging("all", { charge: 0.5 }) - 0.05);
  });
});
