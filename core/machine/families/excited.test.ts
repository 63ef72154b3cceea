import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../../demo/sheets";
import type { Netlist, Probe } from "../../circuit/netlist";
import { NotForSpice, spiceOf } from "../../circuit/spice";
import { steady } from "../../circuit/steady";
import { ASSUMED_METER } from "../../meter/meter";
import { simulateStep } from "../../procedure/simulate";
import { probesAt, type Step } from "../../procedure/step";
import type { ReadingValue } from "../../units";
import { circuitOf } from "../circuit";
import { conditionOf, stateOf } from "../condition";
import type { SetFault } from "../defects";
import { pointName } from "../points";
import type { Sheet } from "../sheet";
import type { Standing } from "../standing";
import type { MachineState } from "../state";

const RUNNING: Omit<Standing, "rpm"> = { engine: "running", key: "on", loads: "normal", unplug: [], pulled: [] };
/** Closed equations and circuit agree to this. */
const WITHIN = 0.015;

const shelf = (id: string): Sheet => {
  const sheet = demoSheet(id);
  if (!sheet) throw new Error(`no sheet ${id}`);
  return sheet;
};

/** A machine's battery held at some volts, whatever flows. */
function stiff(netlist: Netlist, volts: number): Netlist {
  const cell = { openVolts: volts, ohms: 0.0005, polarOhms: 0.0005, acceptAmps: 1e6, acceptVolts: 1e-4 };
  return { ...netlist, elements: netlist.elements.map((element) => (element.kind === "battery" ? { ...element, cell } : element)) };
}

function takerOf(id: string) {
  const sheet = shelf(id);
  return (step: Step, ...faults: SetFault[]): ReadingValue => simulateStep(sheet, conditionOf(faults), step, ASSUMED_METER).value;
}

/** Root of a falling function, by halving. */
function rootOf(f: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high];
  for (let i = 0; i < 80; i++) {
    const middle = (a + b) / 2;
    if (f(middle) > 0) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}

describe("a DC generator follows its equations", () => {
  const sheet = shelf("corvane-merle-250");
  const volts = 6.9;

  /** Out of the generator, A: Vt = E(If) − (I + If)·R and If = Vt/Rf, with Fröhlich's curve; written without the program's own sums. */
  function expected(state: MachineState, rpm: number): number {
    const field = state.field as NonNullable<MachineState["field"]>;
    const full = (state.windings[0]?.voltsPerRpm ?? 0) * rpm;
    const knee = 6.75 / field.ratedOhms;
    const inner = (state.windings[0]?.ohms ?? 0) * (1 + 0.00393 * 60) + field.contactOhms;
    const fieldOhms = field.ohms + 0.05 + state.unit.innerGroundOhms + (state.pinOhms[1] ?? 0) + (state.cableOhms[1] ?? 0);
    const wires =
      (state.pinOhms[0] ?? 0) + (state.cableOhms[0] ?? 0) + state.outputOhms + 0.0008 * 2 + 0.006 + 0.001 + (state.fuseOhms.main ?? 0) + state.strapOhms;
    const out = (terminal: number): number => {
      const x = (field.turns * terminal) / fieldOhms / knee;
      return ((full * 2 * x) / (1 + x) + field.residual * full - terminal) / inner - terminal / fieldOhms;
    };
    // The cut-out loses 20 mV at 1 mA and 8 mV more each e-fold.
    const contact = (amps: number): number => 0.02 + 0.008 * Math.log(Math.max(1e-3, amps) / 0.001);
    const terminal = rootOf((at) => out(at) * wires + volts + contact(out(at)) - at, volts, 40);
    return out(terminal);
  }

  const ailing: [string, SetFault[]][] = [
    ["sound", []],
    ["worn brushes", [{ fault: "rotor.brushes-worn", severity: 0.3 }]],
    ["a shorted armature", [{ fault: "rotor.armature-shorted", severity: 0.3 }]],
    ["a shorted field", [{ fault: "stator.field-shorted", severity: 0.5 }]],
    ["a burnt wire", [{ fault: "wiring.leg-burnt", at: "A", severity: 0.4 }]],
    ["a poor field wire", [{ fault: "wiring.leg-burnt", at: "F", severity: 2 }]],
  ];

  test.each(ailing.flatMap(([name, faults]) => [2200, 3000, 4200].map((rpm) => [name, rpm, faults] as const)))("%s at %d rpm", (_name, rpm, faults) => {
    const state = stateOf(sheet, conditionOf([...faults, { fault: "regulator.never-regulates" }]), true);
    state.sheet = { ...sheet, fuses: [{ ...(sheet.fuses[0] as Sheet["fuses"][number]), amps: 200 }] };
    state.fuseOhms = { main: 0.002 };
    const run = steady(stiff(circuitOf(state, { ...RUNNING, rpm }), volts), { probes: [{ amps: "outputWire" }], judge: ["battery+", "battery-"] });
    const amps = expected(state, rpm);
    expect(amps).toBeGreaterThan(1);
    expect(Math.abs((run.mean[0] as number) / amps - 1)).toBeLessThan(WITHIN);
  });
});

describe("an alternator's field follows its equations", () => {
  const sheet = shelf("tidewright-farway-29");
  const volts = 12.6;

  const ailing: [string, SetFault[]][] = [
    ["sound", []],
    ["worn brushes", [{ fault: "rotor.brushes-worn", severity: 9 }]],
    ["shorted turns", [{ fault: "rotor.field-shorted", severity: 0.5 }]],
    ["a poor feed", [{ fault: "wiring.field-feed", severity: 3 }]],
    ["a burnt pin at the second brush", [{ fault: "wiring.leg-burnt", at: "F2", severity: 5 }]],
  ];

  test.each(ailing.flatMap(([name, faults]) => [900, 2000, 3600].map((rpm) => [name, rpm, faults] as const)))("%s at %d rpm", (_name, rpm, faults) => {
    // With its output broken inside, what the phases make stands at them unloaded.
    const state = stateOf(sheet, conditionOf([...faults, { fault: "regulator.output-open" }, { fault: "regulator.never-regulates" }]), true);
    const field = state.field as NonNullable<MachineState["field"]>;
    const probes: Probe[] = [{ amps: "field" }, { volts: ["leg:1", "leg:2"] }];
    const run = steady(stiff(circuitOf(state, { ...RUNNING, rpm, loads: "off" }), volts), { probes, judge: ["battery+", "battery-"], fine: true });
    const ohms = field.ohms + field.contactOhms + field.feedOhms + 0.1 + (state.pinOhms[3] ?? 0) + (state.pinOhms[4] ?? 0) + 2 * 0.004;
    const amps = volts / ohms;
    expect(Math.abs((run.mean[0] as number) / amps - 1)).toBeLessThan(WITHIN);
    const x = (field.turns * amps) / (13.5 / field.ratedOhms);
    const full = (state.windings[0]?.voltsPerRpm ?? 0) * rpm;
    const line = Math.sqrt(3) * ((full * 2 * x) / (1 + x) + field.residual * full);
    const seen = Math.max(...(run.samples[1] as Float64Array));
    expect(Math.abs(seen / line - 1)).toBeLessThan(WITHIN);
  });
});

describe("what an alternator shows by itself", () => {
  const take = takerOf("tidewright-farway-29");
  const charging = (loads: "off" | "normal" | "all", ...faults: SetFault[]): number => Number(take({ test: "charge.volts", rpm: 3000, loads }, ...faults));
  const full: Step = { test: "field.fullField", rpm: 3000 };

  test("the three steps: rest, fast, all loads", () => {
    const rest = Number(take({ test: "battery.rest" }));
    expect(charging("normal") - rest).toBeGreaterThan(1);
    expect(charging("normal") - rest).toBeLessThan(2.5);
    expect(charging("all") - rest).toBeGreaterThan(0.5);
  });

  test("its field fed in full, volts climb at once: then it is the regulator", () => {
    const dead: SetFault = { fault: "regulator.no-output" };
    expect(charging("normal", dead)).toBeLessThan(12.8);
    expect(Number(take(full, dead))).toBeGreaterThan(14.8);
  });

  test("an open field gives nothing at any speed, nor by feeding it", () => {
    const open: SetFault = { fault: "rotor.field-open" };
    expect(take({ test: "field.resistance" }, open)).toBe("OL");
    expect(charging("normal", open)).toBeLessThan(12.8);
    expect(Number(take(full, open))).toBeLessThan(12.8);
  });

  test("without its feed neither, though the rotor reads right", () => {
    const cut: SetFault = { fault: "wiring.field-feed" };
    expect(Number(take({ test: "field.supply" }, cut))).toBeLessThan(0.5);
    expect(take({ test: "field.resistance" }, cut)).toBe(take({ test: "field.resistance" }));
    expect(Number(take(full, cut))).toBeLessThan(12.8);
  });

  test("a rotor that touches its shaft is fed past the regulator: the volts run away", () => {
    const touch: SetFault = { fault: "rotor.field-grounded", along: 0.1, severity: 0.2 };
    expect(charging("normal", touch)).toBeGreaterThan(15);
    expect(Number(take({ test: "stator.toGround", at: "F2" }, touch))).toBeLessThan(5);
    expect(take({ test: "stator.toGround", at: "F2" })).toBe("OL");
  });

  test("a slack belt is fine with little on and falls with everything on; one that is off gives nothing", () => {
    const slack: SetFault = { fault: "drive.belt-slack", severity: 0.7 };
    expect(charging("off", slack)).toBeGreaterThan(14);
    expect(charging("all", slack)).toBeLessThan(13.4);
    expect(take({ test: "inspect.belt" }, slack)).toBe("slack");
    expect(charging("off", { fault: "drive.belt-missing" })).toBeLessThan(12.8);
  });

  test("SPICE has no element for it, and that is said", () => {
    const sheet = shelf("tidewright-farway-29");
    const netlist = circuitOf(stateOf(sheet, conditionOf(), true), { ...RUNNING, rpm: 3000 });
    expect(() => spiceOf(netlist, { title: "x", seconds: 1, keepSeconds: 0.1, stepsPerCycle: 100, volts: [], amps: [] })).toThrow(NotForSpice);
  });
});

describe("what a DC generator shows by itself", () => {
  const take = takerOf("corvane-merle-250");
  const charging = (...faults: SetFault[]): number => Number(take({ test: "charge.volts", rpm: 3000, loads: "normal" }, ...faults));
  const alone: Step = { test: "generator.output", rpm: "idle" };

  test("it turns as a motor and does not charge: the regulator", () => {
    const dead: SetFault = { fault: "regulator.no-output" };
    expect(charging()).toBeGreaterThan(6.9);
    expect(charging(dead)).toBeLessThan(6.4);
    expect(take({ test: "generator.motoring" }, dead)).toBe("turns");
    expect(take(alone, dead)).toBe(take(alone));
  });

  test("it hums, or does nothing: the generator", () => {
    expect(take({ test: "generator.motoring" }, { fault: "stator.field-open" })).toBe("hums");
    expect(take({ test: "generator.motoring" }, { fault: "rotor.armature-shorted", severity: 0.5 })).toBe("hums");
    expect(take({ test: "generator.motoring" }, { fault: "rotor.brushes-worn", severity: 50 })).toBe("nothing");
    expect(Number(take(alone, { fault: "stator.field-open" }))).toBeLessThan(0.6);
  });

  test("magnetised the wrong way it builds up backwards, and its cut-out never closes", () => {
    const backwards: SetFault = { fault: "stator.polarity-reversed" };
    expect(Number(take(alone, backwards))).toBeCloseTo(-Number(take(alone)), 1);
    expect(charging(backwards)).toBeLessThan(6.4);
  });

  test("a welded cut-out empties the battery through the armature at rest; one that never closes keeps it from charging", () => {
    expect(Number(take({ test: "drain.current" }))).toBeLessThan(1);
    expect(Number(take({ test: "drain.current" }, { fault: "regulator.cutout-welded" }))).toBeGreaterThan(10_000);
    expect(Number(take({ test: "drain.unitUnplugged" }, { fault: "regulator.cutout-welded" }))).toBeLessThan(1);
    expect(charging({ fault: "regulator.cutout-open" })).toBeLessThan(6.4);
  });

  test("a field that touches the housing cannot be held back", () => {
    expect(charging({ fault: "stator.field-grounded", along: 0.1, severity: 0.05 })).toBeGreaterThan(7.8);
  });

  test("a broken wire reads open at the regulator's end and right at the generator", () => {
    const broken: SetFault = { fault: "wiring.cable-broken", at: "F" };
    expect(take({ test: "generator.field" }, broken)).toBe(take({ test: "generator.field" }));
    expect(take({ test: "generator.atUnit", at: "F" }, broken)).toBe("OL");
    expect(take({ test: "generator.atUnit", at: "A" }, broken)).toBe(take({ test: "generator.armature" }));
  });

  test("positive earth is the same machine with every pole turned round", () => {
    const sheet = shelf("corvane-merle-250");
    const other: Sheet = { ...sheet, earth: "negative" };
    const [plus, minus] = [sheet, other].map(
      (machine) => simulateStep(machine, conditionOf(), { test: "charge.volts", rpm: 3000, loads: "all" }, ASSUMED_METER).value,
    );
    expect([sheet.earth, plus]).toEqual(["positive", minus]);
    expect(pointName("battery+", sheet)).toBe("battery minus terminal");
    expect(pointName("battery-", sheet)).toBe("battery plus terminal");
    expect(probesAt(alone, sheet)).toEqual({ red: "engine", black: "leg:A" });
    expect(probesAt(alone, other)).toEqual({ red: "leg:A", black: "engine" });
  });

  test("the current coil keeps it near its rating, whatever is switched on", () => {
    const sheet = { ...shelf("corvane-merle-250"), loadAmps: { normal: 4, all: 25 } };
    const { value } = simulateStep(sheet, conditionOf([], { charge: 0.3 }), { test: "charge.volts", rpm: 3000, loads: "all" }, ASSUMED_METER);
    expect(Number(value)).toBeLessThan(6.5);
  });
});
