import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { demoSheet } from "../../demo/sheets";
import { conditionOf, stateOf } from "../machine/condition";
import type { SetFault } from "../machine/defects";
import type { Point } from "../machine/points";
import type { Sheet } from "../machine/sheet";
import type { Standing } from "../machine/standing";
import type { Meter } from "./meter";
import { alternating, type MeterDial, readMeter, shown } from "./read";

const sheet = demoSheet("corvane-ferrel-650") as Sheet;
const METER: Meter = { name: "m", leadOhms: 0, ohmsResolution: 0.001, trueRms: true, diodeMaxVolts: 2.6 };
const REST: Standing = { engine: "off", key: "out", rpm: 0, loads: "normal", unplug: [], pulled: [] };
const RUN: Standing = { engine: "running", key: "on", rpm: 5000, loads: "normal", unplug: [], pulled: [] };

function read(dial: MeterDial, red: Point, black: Point, over: { standing?: Standing; faults?: SetFault[]; meter?: Partial<Meter>; charge?: number } = {}) {
  const standing = over.standing ?? REST;
  const condition = conditionOf(over.faults ?? [], over.charge === undefined ? {} : { charge: over.charge });
  return readMeter(stateOf(sheet, condition, standing.engine === "running"), standing, dial, { red, black }, { ...METER, ...over.meter });
}
const value = (...args: Parameters<typeof read>): number => read(...args).value as number;

describe("volts AC", () => {
  const wave = (shape: (turn: number) => number, offset = 0): Float64Array => Float64Array.from({ length: 3600 }, (_, i) => offset + shape(i / 3600));
  const sine = (turn: number): number => Math.SQRT2 * 10 * Math.sin(2 * Math.PI * turn);
  const chopped = (turn: number): number => (turn % 0.5 > 0.3 ? sine(turn) : 0);

  test("of a sine are the same on both kinds of meter, whatever DC lies under it", () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), (offset) => {
        expect(alternating(wave(sine, offset), true)).toBeCloseTo(10, 2);
        expect(alternating(wave(sine, offset), false)).toBeCloseTo(10, 2);
      }),
    );
  });

  test("of a chopped wave are not: the common meter reads low where true rms does not", () => {
    expect(alternating(wave(chopped), false)).toBeLessThan(0.92 * alternating(wave(chopped), true));
  });

  test("of a square wave the common meter reads eleven hundredths too much", () => {
    const square = (turn: number): number => (turn < 0.5 ? 5 : -5);
    expect(alternating(wave(square), true)).toBeCloseTo(5, 6);
    expect(alternating(wave(square), false)).toBeCloseTo(5 * 1.1107, 3);
  });

  test("of nothing are nothing, not noise", () => {
    expect(
      alternating(
        wave(() => 0.001),
        true,
      ),
    ).toBe(0);
  });

  test("on the running machine's legs depend on the kind of meter", () => {
    const [common, rms] = [false, true].map((trueRms) => value("V AC", "unitLeg:1", "unitLeg:2", { standing: RUN, meter: { trueRms } }));
    expect(Math.abs((common as number) / (rms as number) - 1)).toBeGreaterThan(0.02);
  });
});

describe("ohms", () => {
  const apart: Standing = { ...REST, unplug: ["stator"] };

  test("carry the leads' own resistance, and show no more than the last digit", () => {
    expect(value("Ω", "leg:1", "leg:2", { standing: apart })).toBeCloseTo(0.3, 2);
    expect(value("Ω", "leg:1", "leg:2", { standing: apart, meter: { leadOhms: 0.2 } })).toBeCloseTo(0.5, 2);
    expect(value("Ω", "leg:1", "leg:2", { standing: apart, meter: { leadOhms: 0.2, ohmsResolution: 0.1 } })).toBe(0.5);
    expect(value("Ω", "leg:1", "leg:2", { standing: apart, meter: { leadOhms: 0.26, ohmsResolution: 0.1 } })).toBe(0.6);
  });

  test.each([10, 1000, 47_000, 680_000, 2_200_000])("a touch of %i Ω is found on its range", (ohms) => {
    const seen = value("Ω", "leg:1", "engine", {
      standing: apart,
      faults: [{ fault: "stator.winding-grounded", at: "1", along: 0.5, severity: Math.min(1e6, ohms) }],
    });
    expect(seen / Math.min(1e6, ohms)).toBeCloseTo(1, 1);
  });

  test("a sound winding shows no path to the case", () => {
    for (const leg of ["1", "2", "3"]) expect(read("Ω", `leg:${leg}`, "engine", { standing: apart }).value).toBe("OL");
  });

  test("with the stator plugged in the pairs look alike still: the unit hides nothing below a junction", () => {
    expect(value("Ω", "leg:1", "leg:2")).toBeCloseTo(0.3, 2);
  });

  test("across a live battery mean nothing", () => {
    const backwards = read("Ω", "battery-", "battery+");
    expect(backwards.value === "OL" || backwards.notes.length > 0).toBe(true);
    expect(read("Ω", "battery+", "battery-").value).toBe("OL");
  });

  test("on a running engine say so", () => {
    expect(read("Ω", "leg:1", "leg:2", { standing: RUN }).notes.join()).toMatch(/engine stopped/);
  });
});

describe("the diode dial", () => {
  const out: Standing = { ...REST, unplug: ["stator", "output"] };

  test("gives up at the meter's own volts", () => {
    expect(read("diode", "B+", "unitLeg:1", { standing: out }).value).toBe("OL");
    expect(read("diode", "unitLeg:1", "B+", { standing: out, meter: { diodeMaxVolts: 0.4 } }).value).toBe("OL");
  });

  test("with the stator left plugged in every leg shows the one shorted diode, and the place is lost", () => {
    const faults: SetFault[] = [{ fault: "regulator.diode-shorted", at: "B->2" }];
    const plugged = ["1", "2", "3"].map((leg) => value("diode", `unitLeg:${leg}`, "B-", { standing: { ...REST, unplug: ["output"] }, faults }));
    for (const seen of plugged) expect(seen).toBeLessThan(0.05);
    const parted = ["1", "2", "3"].map((leg) => read("diode", `unitLeg:${leg}`, "B-", { standing: out, faults }).value);
    expect(parted[0]).toBe("OL");
    expect(parted[1]).toBeLessThan(0.05);
  });

  test("rail to rail one open diode cannot be seen: three legs share the current", () => {
    const sound = value("diode", "B-", "B+", { standing: out });
    const open = value("diode", "B-", "B+", { standing: out, faults: [{ fault: "regulator.diode-open", at: "1>B+" }] });
    expect(Math.abs(open - sound)).toBeLessThan(0.03);
  });

  test("a leak of a kilohm reads about a volt backwards", () => {
    expect(value("diode", "B+", "unitLeg:3", { standing: out, faults: [{ fault: "regulator.diode-leaky", at: "3>B+", severity: 1000 }] })).toBeCloseTo(1, 1);
  });
});

describe("amps", () => {
  const off: Standing = { ...REST, unplug: ["negative"] };

  test("in series show the drain with its sign by the probes", () => {
    expect(value("A DC", "cable-", "battery-", { standing: off })).toBeCloseTo(0.3, 1);
    expect(value("A DC", "battery-", "cable-", { standing: off })).toBeCloseTo(-0.3, 1);
  });

  test("in series carry the whole machine when the key is turned on", () => {
    expect(value("A DC", "cable-", "battery-", { standing: { ...off, key: "on" } })).toBeGreaterThan(6000);
  });

  test("round the cable show charge going in, or coming out when nothing is made", () => {
    expect(value("clamp", "battery+", "battery-", { standing: RUN, charge: 0.5 })).toBeGreaterThan(1);
    expect(value("clamp", "battery+", "battery-", { standing: RUN, faults: [{ fault: "regulator.no-output" }] })).toBeLessThan(-7);
  });
});

describe("the set-up counts", () => {
  test("a parted output plug leaves the unit's side dead and the harness fed", () => {
    const standing: Standing = { ...REST, key: "on", unplug: ["output"] };
    expect(value("V DC", "feed", "battery-", { standing })).toBeGreaterThan(12);
    expect(Math.abs(value("V DC", "B+", "battery-", { standing }))).toBeLessThan(1);
  });

  test("a pulled fuse, an open one and a cut feed all starve the unit", () => {
    const key: Standing = { ...REST, key: "on", unplug: ["output"] };
    expect(Math.abs(value("V DC", "feed", "battery-", { standing: { ...key, pulled: ["main"] } }))).toBeLessThan(1);
    for (const fault of ["wiring.fuse-open", "wiring.feed-open"] as const)
      expect(Math.abs(value("V DC", "feed", "battery-", { standing: key, faults: [{ fault }] }))).toBeLessThan(1.5);
  });

  test("cranking sags by battery and cable; a bad cable stands between post and starter", () => {
    const crank: Standing = { ...REST, engine: "cranking", key: "on" };
    const faults: SetFault[] = [{ fault: "starter.cable", severity: 0.03 }];
    expect(value("V DC", "battery+", "starter+", { standing: crank, faults })).toBeGreaterThan(5 * value("V DC", "battery+", "starter+", { standing: crank }));
    expect(value("V DC", "battery+", "battery-", { standing: crank, faults })).toBeGreaterThan(value("V DC", "battery+", "battery-", { standing: crank }));
  });

  test("more loads, fewer volts to spare; more speed, more", () => {
    const at = (over: Partial<Standing>): number => value("V DC", "battery+", "battery-", { standing: { ...RUN, ...over }, charge: 0.6 });
    expect(at({ rpm: 1200, loads: "all" })).toBeLessThan(at({ rpm: 1200, loads: "off" }));
    expect(at({ rpm: 1000 })).toBeLessThan(at({ rpm: 2500 }));
  });

  test("probes the other way round turn the sign", () => {
    expect(value("V DC", "battery-", "battery+")).toBe(-value("V DC", "battery+", "battery-"));
  });
});

test.each<[number, MeterDial, number]>([
  [12.8149, "V DC", 12.81],
  [61.4711, "V AC", 61.5],
  [0.2049, "V AC", 0.2],
  [0.08612, "A DC", 86.1],
  [6.512, "A DC", 6512],
  [3.1449, "clamp", 3.1],
  [44.449, "V DC", 44.4],
])("%f on %s shows as %f", (raw, dial, display) => expect(shown(raw, dial)).toBe(display));
