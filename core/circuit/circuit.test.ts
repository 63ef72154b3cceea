import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { acceptAmps, ampsInto, type Cell, etaAt, steadyVolts } from "./cell";
import { chordOf, conduct, forwardVolts, junctionOf } from "./junction";
import { invert, solve } from "./matrix";
import type { Element, Netlist } from "./netlist";
import { operatingPoint, restVolts } from "./operating";
import { steady } from "./steady";
import { Transient } from "./transient";

const JUNCTION = junctionOf(0.49, 0.0347, 0.008, 30);
const CELL: Cell = { openVolts: 12.6, ohms: 0.02, polarOhms: 0.014, acceptAmps: 0.03, acceptVolts: 0.6 };
const resistor = (id: string, a: string, b: string, ohms: number): Element => ({ kind: "resistor", id, a, b, ohms });
const net = (elements: Element[], hertz = 0): Netlist => ({ elements, ground: "0", hertz });

describe("a junction", () => {
  test("shows on the diode dial what its data sheet says, less when warm", () => {
    expect(forwardVolts(JUNCTION, 0.001)).toBeCloseTo(0.49, 4);
    expect(forwardVolts(junctionOf(0.49, 0.0347, 0.008, 30, 60), 0.001)).toBeCloseTo(0.42, 4);
  });

  test("conducts at its own forward volts just the current they belong to", () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-6, max: 200, noNaN: true }), (amps) => {
        const { amps: back, siemens } = conduct(JUNCTION, forwardVolts(JUNCTION, amps));
        expect(back / amps).toBeCloseTo(1, 5);
        expect(siemens).toBeGreaterThan(0);
      }),
    );
    expect(conduct(JUNCTION, -20).amps).toBeCloseTo(0, 7);
  });

  test("its chord meets the curve at a fifth and at most of the working current", () => {
    const { volts, ohms } = chordOf(JUNCTION);
    for (const amps of [6, 25.5]) expect(volts + ohms * amps).toBeCloseTo(forwardVolts(JUNCTION, amps), 9);
  });
});

describe("a battery", () => {
  test("takes on charge what belongs to its overpotential, and gives on discharge through a resistance", () => {
    fc.assert(
      fc.property(fc.double({ min: -100, max: 60, noNaN: true }), (amps) => {
        expect(acceptAmps(CELL, etaAt(CELL, amps))).toBeCloseTo(amps, 6);
      }),
    );
    expect(steadyVolts(CELL, -50)).toBeCloseTo(12.6 - 50 * 0.034, 9);
    expect(steadyVolts(CELL, 20)).toBeGreaterThan(16);
    for (const amps of [0.2, 3, 20]) expect(ampsInto(CELL, steadyVolts(CELL, amps))).toBeCloseTo(amps, 3);
    expect(ampsInto(CELL, steadyVolts(CELL, -4))).toBeCloseTo(-4, 9);
  });
});

describe("matrices", () => {
  const matrixOf = (n: number, numbers: readonly number[]): Float64Array =>
    Float64Array.from({ length: n * n }, (_, i) => (numbers[i] as number) + (i % (n + 1) === 0 ? 20 : 0));

  test("a matrix times its inverse is one, and solving agrees with inverting", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 7 }), fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 56, maxLength: 56 }), (n, numbers) => {
        const matrix = matrixOf(n, numbers);
        const inverse = invert(matrix, n) as Float64Array;
        const rhs = Float64Array.from({ length: n }, (_, i) => numbers[49 + i] as number);
        const solved = rhs.slice();
        expect(solve(matrix.slice(), solved, n)).toBe(true);
        for (let row = 0; row < n; row++) {
          let sum = 0;
          for (let k = 0; k < n; k++) sum += (inverse[row * n + k] as number) * (rhs[k] as number);
          expect(solved[row]).toBeCloseTo(sum, 9);
        }
      }),
    );
  });

  test("a singular one is refused", () => {
    expect(invert(new Float64Array([1, 2, 2, 4]), 2)).toBeUndefined();
    expect(solve(new Float64Array([1, 2, 2, 4]), new Float64Array([1, 1]), 2)).toBe(false);
  });
});

describe("the operating point", () => {
  const battery: Element = { kind: "battery", id: "battery", a: "plus", b: "0", cell: CELL };

  test("a divider divides, a battery sags", () => {
    const point = operatingPoint(net([battery, resistor("top", "plus", "mid", 2), resistor("low", "mid", "0", 1)]));
    const amps = 12.6 / (3 + 0.034);
    expect(point.read({ volts: ["mid", "0"] })).toBeCloseTo(amps, 6);
    expect(point.read({ amps: "battery" })).toBeCloseTo(-amps, 6);
    expect(point.read({ amps: "top" })).toBeCloseTo(amps, 6);
  });

  test("a meter's source reads a resistance, a junction, and gives up at its compliance", () => {
    const source: Element = { kind: "source", id: "meter", a: "tip", b: "0", amps: 0.001, complianceVolts: 2.8 };
    expect(restVolts(net([source, resistor("coil", "tip", "0", 0.35)]), "tip", "0")).toBeCloseTo(0.00035, 9);
    expect(restVolts(net([source, { kind: "diode", id: "d", a: "tip", b: "0", junction: JUNCTION }]), "tip", "0")).toBeCloseTo(0.49, 4);
    expect(restVolts(net([source, { kind: "diode", id: "d", a: "0", b: "tip", junction: JUNCTION }]), "tip", "0")).toBeCloseTo(2.8, 2);
  });

  test("thyristors block at rest, transistors show their body diode, parted pieces float without harm", () => {
    const source = (a: string, b: string): Element => ({ kind: "source", id: "meter", a, b, amps: 0.001, complianceVolts: 2.8 });
    const scr: Element = { kind: "scr", id: "s", a: "x", b: "y", junction: JUNCTION, gate: "off" };
    const mosfet: Element = { kind: "mosfet", id: "m", a: "x", b: "y", body: JUNCTION, channel: JUNCTION, gate: "off" };
    expect(restVolts(net([battery, resistor("r", "plus", "0", 9), source("x", "y"), scr]), "x", "y")).toBeCloseTo(2.8, 2);
    expect(restVolts(net([battery, resistor("r", "plus", "0", 9), source("y", "x"), mosfet]), "y", "x")).toBeCloseTo(0.49, 3);
  });
});

describe("the time domain", () => {
  /** A coil with an EMF into a diode and a resistor, by the dullest method there is: explicit steps a hundred times finer. */
  function dull(peak: number, hertz: number, ohms: number, henries: number): number {
    const { volts, ohms: on } = chordOf(JUNCTION);
    const steps = 20_000;
    const h = 1 / (hertz * steps);
    let amps = 0;
    let sum = 0;
    for (let i = 0; i < 6 * steps; i++) {
      const emf = peak * Math.sin(2 * Math.PI * hertz * i * h);
      amps = Math.max(0, amps + (h * (emf - volts - (ohms + on) * amps)) / henries);
      if (i >= 5 * steps) sum += amps;
    }
    return sum / steps;
  }

  test("a half-wave rectifier agrees with the dullest method, whatever its coil", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 10, max: 80 }),
        fc.integer({ min: 50, max: 900 }),
        fc.double({ min: 0.05, max: 2, noNaN: true }),
        (peak, hertz, millihenries) => {
          const coil: Element = { kind: "winding", id: "coil", a: "x", b: "0", ohms: 0.2, henries: millihenries / 1000, peakVolts: peak, phaseDegrees: 0 };
          const netlist = net([coil, { kind: "diode", id: "d", a: "x", b: "y", junction: JUNCTION }, resistor("load", "y", "0", 2)], hertz);
          const transient = new Transient(netlist, { probes: [{ amps: "load" }] });
          transient.run(5 * transient.stepsPerCycle);
          const mean = transient.run(transient.stepsPerCycle)[0] as number;
          const slow = dull(peak, hertz, 2.2, millihenries / 1000);
          expect(Math.abs(mean - slow)).toBeLessThan(0.01 * slow + 0.01);
        },
      ),
      { numRuns: 25 },
    );
  });

  const battery: Element = { kind: "battery", id: "battery", a: "b", b: "0", cell: CELL };

  test("a fuse across a battery melts in its time and stays open", () => {
    const transient = new Transient(net([battery, { kind: "fuse", id: "main", a: "b", b: "x", ohms: 0.002, amps: 20 }, resistor("short", "x", "0", 0.01)]), {
      probes: [{ amps: "main" }, { volts: ["b", "0"] }],
    });
    transient.run(1);
    expect(transient.read(0)).toBeGreaterThan(200);
    transient.run(200);
    expect([...transient.melted]).toEqual(["main"]);
    expect(transient.read(0)).toBe(0);
    expect(transient.read(1)).toBeGreaterThan(12);
  });

  test("another run of the same circuit goes on where one stands", () => {
    const coil: Element = { kind: "winding", id: "coil", a: "x", b: "0", ohms: 0.2, henries: 1e-3, peakVolts: 40, phaseDegrees: 30 };
    const netlist = net([coil, { kind: "diode", id: "d", a: "x", b: "b", junction: JUNCTION }, battery], 200);
    const first = new Transient(netlist, { probes: [{ amps: "coil" }] });
    first.run(1000);
    const second = new Transient(netlist, { probes: [{ amps: "coil" }] });
    second.adopt(first);
    first.run(300);
    second.run(300);
    expect(second.time).toBeCloseTo(first.time, 9);
    expect(second.read(0)).toBeCloseTo(first.read(0), 1);
  });

  test("what names nothing is a mistake of the netlist, said so", () => {
    const scr: Element = { kind: "scr", id: "s", a: "x", b: "0", junction: JUNCTION, gate: { control: "none" } };
    expect(() => new Transient(net([scr]), { probes: [] })).toThrow(/gate of s names the control none/);
    expect(() => new Transient(net([battery]), { probes: [{ volts: ["nowhere", "0"] }] })).toThrow(/No element touches the node nowhere/);
    expect(() => new Transient(net([battery]), { probes: [{ amps: "nobody" }] })).toThrow(/No current can be read in nobody/);
    expect(() => new Transient(net([battery, { kind: "coupling", id: "k", of: ["p", "q"], factor: 0.9 }]), { probes: [] })).toThrow(
      /names a winding that is not there/,
    );
  });

  test("the same circuit gives the same figures to the last digit", () => {
    const coil: Element = { kind: "winding", id: "coil", a: "x", b: "0", ohms: 0.2, henries: 1e-3, peakVolts: 40, phaseDegrees: 0 };
    const netlist = net([coil, { kind: "diode", id: "d", a: "x", b: "b", junction: JUNCTION }, battery, resistor("load", "b", "0", 2)], 150);
    const run = () => steady(netlist, { probes: [{ volts: ["b", "0"] }, { amps: "battery" }], judge: ["b", "0"] });
    expect([...run().mean]).toEqual([...run().mean]);
    expect(run().unsteady).toBeUndefined();
  });
});
