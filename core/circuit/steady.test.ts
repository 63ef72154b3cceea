import { describe, expect, test } from "@jest/globals";
import type { Cell } from "./cell";
import { junctionOf } from "./junction";
import { type Element, elementsOf, type Gate, type Netlist, numberNodes, type Probe } from "./netlist";
import { operatingPoint } from "./operating";
import { steady } from "./steady";
import { Transient } from "./transient";

const DIODE = junctionOf(0.49, 0.0347, 0.008, 20, 60);
const SCR = junctionOf(0.61, 0.036, 0.009, 20, 60);
const CELL: Cell = { openVolts: 12.7, ohms: 0.02, polarOhms: 0.014, acceptAmps: 0.04, acceptVolts: 0.58 };

/** A one-phase machine with no family's name: a floating coil, a bridge, a battery with a load, and a control if it has one. */
function single(law: "shunt" | "series" | "none", gate: Gate, setVolts: number, hertz = 120): Netlist {
  const upper = (leg: string): Element =>
    law === "series"
      ? { kind: "scr", id: `up:${leg}`, a: leg, b: "plus", junction: SCR, gate }
      : { kind: "diode", id: `up:${leg}`, a: leg, b: "plus", junction: DIODE };
  const legs = ["x", "y"];
  const elements: Element[] = [
    { kind: "winding", id: "coil", a: "x", b: "y", ohms: 0.3, henries: 0.8e-3, peakVolts: 42, phaseDegrees: 0 },
    ...legs.map(upper),
    ...legs.map((leg): Element => ({ kind: "diode", id: `low:${leg}`, a: "minus", b: leg, junction: DIODE })),
    ...(law === "shunt" ? legs.map((leg): Element => ({ kind: "scr", id: `shunt:${leg}`, a: leg, b: "minus", junction: SCR, gate })) : []),
    { kind: "battery", id: "battery", a: "plus", b: "minus", cell: CELL },
    { kind: "resistor", id: "load", a: "plus", b: "minus", ohms: 4 },
    ...(law === "none" ? [] : [{ kind: "control", id: "control", a: "plus", b: "minus", law, setVolts } satisfies Element]),
  ];
  return { elements, ground: "minus", hertz };
}

const plus: Probe = { volts: ["plus", "minus"] };
const volts = (netlist: Netlist): number => steady(netlist, { probes: [plus], judge: ["plus", "minus"] }).mean[0] as number;

describe("a control", () => {
  test.each(["shunt", "series"] as const)("%s holds the volts it is set to, on any circuit and not just a three-phase one", (law) => {
    for (const set of [13.6, 14.2, 14.8]) expect(volts(single(law, { control: "control" }, set))).toBeCloseTo(set, 1);
  });

  test("gates that never open leave a shunt machine unregulated and a series one dead", () => {
    expect(volts(single("shunt", "off", 14.2))).toBeGreaterThan(15);
    expect(volts(single("series", "off", 14.2))).toBeLessThan(12.7);
  });

  test("gates that are always open short a shunt machine and free a series one", () => {
    expect(volts(single("shunt", "on", 14.2))).toBeLessThan(12.7);
    expect(volts(single("series", "on", 14.2))).toBeGreaterThan(15);
  });
});

describe("running until steady", () => {
  test("a fine step and a coarse one agree", () => {
    const netlist = single("shunt", { control: "control" }, 14.2);
    const run = (fine: boolean) => steady(netlist, { probes: [plus, { amps: "battery" }, { volts: ["x", "y"] }], judge: ["plus", "minus"], fine });
    const [coarse, fine] = [run(false), run(true)];
    expect(coarse.mean[0]).toBeCloseTo(fine.mean[0] as number, 1);
    expect(Math.abs((coarse.mean[1] as number) - (fine.mean[1] as number))).toBeLessThan(0.2);
    expect(fine.step).toBeCloseTo(coarse.step / 2, 9);
  });

  test("what the coil makes is what everything else takes", () => {
    for (const law of ["none", "shunt", "series"] as const) {
      const netlist = single(law, { control: "control" }, 14);
      const parts = netlist.elements.filter((element) => element.kind !== "control" && element.kind !== "coupling");
      const probes = parts.flatMap((element): Probe[] => [{ amps: element.id }, { volts: [element.a, element.b] }]);
      const run = steady(netlist, { probes, judge: ["plus", "minus"] });
      let balance = 0;
      let made = 0;
      parts.forEach((element, k) => {
        const amps = run.samples[2 * k] as Float64Array;
        const across = run.samples[2 * k + 1] as Float64Array;
        const watts = amps.reduce((sum, current, i) => sum + current * (across[i] as number), 0) / amps.length;
        if (element.kind === "winding") made = -watts;
        balance += watts;
      });
      expect(made).toBeGreaterThan(10);
      expect(Math.abs(balance) / made).toBeLessThan(0.02);
    }
  });

  test("rectifiers that carry next to nothing sit at the low end of their curve, not at the working knee", () => {
    const netlist: Netlist = {
      elements: [
        { kind: "winding", id: "coil", a: "x", b: "0", ohms: 0.2, henries: 1e-3, peakVolts: 6, phaseDegrees: 0 },
        { kind: "diode", id: "d", a: "x", b: "y", junction: DIODE },
        { kind: "resistor", id: "trickle", a: "y", b: "0", ohms: 50_000 },
        { kind: "battery", id: "battery", a: "far", b: "0", cell: CELL },
        { kind: "resistor", id: "tie", a: "far", b: "0", ohms: 1e6 },
      ],
      ground: "0",
      hertz: 100,
    };
    const run = steady(netlist, { probes: [{ volts: ["y", "0"] }], judge: ["far", "0"] });
    const peak = Math.max(...(run.samples[0] as Float64Array));
    expect(6 - peak).toBeGreaterThan(0.3);
    expect(6 - peak).toBeLessThan(0.5);
  });

  test("a fuse that carries too much without end melts, and the rest goes on without it", () => {
    const netlist = single("none", "off", 14);
    const fused: Netlist = {
      ...netlist,
      elements: [
        ...netlist.elements.filter((element) => element.id !== "load"),
        { kind: "fuse", id: "main", a: "plus", b: "mid", ohms: 0.01, amps: 2 },
        { kind: "resistor", id: "load", a: "mid", b: "minus", ohms: 3 },
      ],
    };
    const run = steady(fused, { probes: [{ amps: "load" }], judge: ["plus", "minus"] });
    expect(run.melted).toEqual(["main"]);
    expect(run.mean[0]).toBeCloseTo(0, 3);
  });

  test("a short across the battery settles as well, and says nothing is a number that isn't", () => {
    const netlist = single("none", "off", 14);
    const run = steady(
      { ...netlist, elements: [...netlist.elements, { kind: "resistor", id: "spanner", a: "plus", b: "minus", ohms: 0.001 }] },
      { probes: [plus], judge: ["plus", "minus"] },
    );
    expect(Number.isFinite(run.mean[0])).toBe(true);
    expect(run.mean[0]).toBeLessThan(2);
  });
});

describe("at rest and in time alike", () => {
  test("a machine that stands reads the same by both solvers", () => {
    const netlist = single("none", "off", 14, 0);
    const still = operatingPoint(netlist).read(plus);
    const transient = new Transient(netlist, { probes: [plus] });
    transient.run(4000);
    expect(transient.read(0)).toBeCloseTo(still, 2);
  });

  test("elements are found by kind, nodes are numbered once, ground apart", () => {
    const netlist = single("shunt", { control: "control" }, 14);
    expect(elementsOf(netlist, "scr").map((element) => element.id)).toEqual(["shunt:x", "shunt:y"]);
    const nodes = numberNodes(netlist);
    expect(nodes.get("minus")).toBe(-1);
    expect([...nodes.values()].sort((a, b) => a - b)).toEqual([-1, 0, 1, 2]);
  });
});
