import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { describe, expect, test } from "@jest/globals";
import { demoSheet } from "../../demo/sheets";
import { circuitOf } from "../machine/circuit";
import { conditionOf, stateOf } from "../machine/condition";
import type { SetFault } from "../machine/defects";
import type { Sheet } from "../machine/sheet";
import type { Standing } from "../machine/standing";
import type { Netlist } from "./netlist";
import { operatingPoint } from "./operating";
import { savedNames, spiceOf } from "./spice";
import { steady } from "./steady";

const sheet = demoSheet("brannoch-corrie-600") as Sheet;
const REST: Standing = { engine: "off", key: "out", rpm: 0, loads: "normal", unplug: ["stator", "output"], pulled: [] };
const RUN: Standing = { engine: "running", key: "on", rpm: 1300, loads: "normal", unplug: [], pulled: [] };

function circuit(standing: Standing, faults: SetFault[] = [], family: string = "three-phase-shunt"): Netlist {
  return circuitOf(stateOf({ ...sheet, family }, conditionOf(faults), standing.engine === "running"), standing);
}

/** Runs a file through stock ngspice and reads the figures it prints. */
function ngspice(text: string): string {
  const folder = mkdtempSync(join(tmpdir(), "uvrel-spice-"));
  const file = join(folder, "machine.cir");
  writeFileSync(file, text);
  const { stdout, stderr } = spawnSync("ngspice", ["-b", file], { encoding: "utf8", cwd: folder });
  rmSync(folder, { recursive: true });
  return `${stdout}${stderr}`;
}

const options = { title: "a machine", seconds: 0.25, keepSeconds: 0.05, stepsPerCycle: 198 };

describe("the file", () => {
  test("names every element once, in letters SPICE takes, and ends", () => {
    const text = spiceOf(circuit(RUN), { ...options, volts: [["battery+", "battery-"]], amps: ["battery"] });
    const lines = text.split("\n").filter((line) => /^[A-Z]/.test(line));
    const names = lines.map((line) => (line.split(" ")[0] as string).toLowerCase());
    expect(new Set(names).size).toBe(names.length);
    for (const name of names) expect(name).toMatch(/^[a-z][a-z0-9_]*$/);
    expect(text).toMatch(/^\* a machine\n/);
    expect(text.trimEnd().endsWith(".end")).toBe(true);
    expect(text).not.toMatch(/NaN|undefined|Infinity/);
  });

  test("saves what was asked for, in its order", () => {
    const wanted = { volts: [["leg:1", "leg:2"] as const, ["B+", "B-"] as const], amps: ["battery", "winding:1"] };
    const text = spiceOf(circuit(RUN), { ...options, ...wanted });
    expect(savedNames(wanted)).toEqual(["v(show0)", "v(show1)", "v(flow0)", "v(flow1)"]);
    expect(text).toContain(".save v(show0) v(show1) v(flow0) v(flow1)");
    expect(text).toContain("Vsense_battery");
    expect(text).toContain("Vsense_winding_1");
  });

  test("a machine at rest is an operating point, a running one a transient from a cold start", () => {
    expect(spiceOf(circuit(REST), { ...options, volts: [["B+", "B-"]], amps: [] })).toMatch(/\n\.op\n/);
    expect(spiceOf(circuit(RUN), { ...options, volts: [["B+", "B-"]], amps: [] })).toMatch(/\n\.tran [\d.e+-]+ 2\.5e-1 2e-1 [\d.e+-]+ uic\n/);
  });
});

describe("stock ngspice", () => {
  test.each<[string, string, string, string, SetFault[]]>([
    ["a sound diode", "unitLeg:1", "B+", "three-phase-shunt", []],
    ["rail to rail", "B-", "B+", "three-phase-shunt", []],
    ["a body diode", "B-", "unitLeg:2", "three-phase-mosfet", []],
    ["a leaky diode backwards", "B+", "unitLeg:3", "three-phase-shunt", [{ fault: "regulator.diode-leaky", at: "3>B+", severity: 500 }]],
    ["a pair of windings", "leg:1", "leg:2", "three-phase-shunt", []],
    ["a winding with shorted turns", "leg:2", "leg:3", "three-phase-shunt", [{ fault: "stator.turns-shorted", at: "2", severity: 0.5 }]],
    ["a touched leg", "leg:1", "engine", "three-phase-shunt", [{ fault: "stator.winding-grounded", at: "1", along: 0.2, severity: 10 }]],
  ])("reads %s at rest as we do", (_what, red, black, family, faults) => {
    const plain = circuit(REST, faults, family);
    const netlist: Netlist = { ...plain, elements: [...plain.elements, { kind: "source", id: "meter", a: red, b: black, amps: 1e-3, complianceVolts: 2.8 }] };
    const ours = operatingPoint(netlist).read({ volts: [red, black] });
    const says = ngspice(spiceOf(netlist, { ...options, volts: [[red, black]], amps: [] }));
    const theirs = Number(/v\(show0\)\s*=\s*([-\d.e+]+)/.exec(says)?.[1] ?? /^0\s+([-\d.e+]+)/m.exec(says)?.[1]);
    expect(Math.abs(ours - theirs)).toBeLessThan(Math.max(0.0005 * Math.abs(theirs), 2e-6));
  });

  test.each([
    ["that cannot quite charge", sheet],
    ["with a capacitor in its battery's place", { ...sheet, battery: { chemistry: "capacitor" as const } }],
  ])("runs a machine %s to the volts that we find", (_what, machine) => {
    const netlist = circuitOf(stateOf(machine, conditionOf(), true), RUN);
    const ours = steady(netlist, { probes: [{ volts: ["battery+", "battery-"] }], judge: ["battery+", "battery-"] }).mean[0] as number;
    const text = spiceOf(netlist, { ...options, volts: [["battery+", "battery-"]], amps: [] }).replace(
      /^\.end$/m,
      ".meas tran seen avg v(show0) from=0.2 to=0.25\n.end",
    );
    const theirs = Number(/seen\s*=\s*([\d.e+-]+)/.exec(ngspice(text))?.[1]);
    expect(Math.abs(ours - theirs)).toBeLessThan(0.01 * theirs);
  });
});
