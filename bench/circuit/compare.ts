import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Netlist, Probe } from "../../core/circuit/netlist";
import { savedNames, spiceOf } from "../../core/circuit/spice";
import { steady } from "../../core/circuit/steady";
import { Transient } from "../../core/circuit/transient";
import { circuitOf } from "../../core/machine/circuit";
import { conditionOf, stateOf } from "../../core/machine/condition";
import { CASES, type Case, SPEEDS } from "./machines";
import { type NgspiceRun, runNgspice, weigh } from "./ngspice";

/** One machine at one speed, ours beside ngspice's. */
export interface Compared {
  name: string;
  from: "program" | "hand";
  rpm: number;
  volts: [ours: number, theirs: number];
  amps: [number, number];
  ripple: [number, number];
  leg: [number, number];
  pair: [number, number];
  /** ngspice's analysis time over ours for the same simulated time at the same step, both from a cold start. */
  faster: number;
}

/** What is compared as volts: the battery's, one leg's to the unit's negative, those between two points. */
const voltsOf = ({ leg = "1", pair = ["leg:1", "leg:2"] }: Case) => [["battery+", "battery-"], [`unitLeg:${leg}`, "unit-"], pair] as const;

function circuitAt({ sheet, faults, charge }: Case, rpm: number): Netlist {
  const state = stateOf(sheet, conditionOf(faults, charge === undefined ? {} : { charge }), true);
  return circuitOf(state, { engine: "running", key: "on", rpm, loads: "normal", unplug: [], pulled: [] });
}

/** Simulated span of the netlists, s: the same in the hand-written files. */
const span = ({ runs = 0.4 }: Case, rpm: number): number => runs + 240 / rpm;
const KEEP = 0.15;

/** Runs every case by hand-written netlist at every speed, and by the program's own at one speed each. */
export function compareAll(told: (line: string) => void): { results: Compared[]; gaveUp: string[] } {
  const folder = mkdtempSync(join(tmpdir(), "uvrel-oracle-"));
  for (const part of ["parts.inc", "single.inc"]) writeFileSync(join(folder, part), readFileSync(`bench/oracle/${part}`));
  const results: Compared[] = [];
  const gaveUp: string[] = [];
  CASES.forEach((spec, i) => {
    SPEEDS.forEach((rpm, k) => {
      const netlist = circuitAt(spec, rpm);
      const ours = measure(netlist, voltsOf(spec), span(spec, rpm));
      const file = join(folder, "case.cir");
      const compare = (from: Compared["from"], names: readonly string[]): void => {
        const run = attempt(file, folder);
        if (typeof run === "string") {
          gaveUp.push(`${from} ${spec.file} at ${rpm} rpm`);
          return told(run);
        }
        const result = { name: spec.file, from, rpm, ...beside(ours, run, names), faster: run.seconds / ours.seconds };
        results.push(result);
        told(
          `${from.padEnd(8)}${spec.file.padEnd(20)}${rpm} rpm  ${result.volts.map((v) => v.toFixed(3)).join(" / ")} V, ${result.faster.toFixed(0)} times faster`,
        );
      };
      writeFileSync(file, readFileSync(`bench/oracle/${spec.file}.cir`, "utf8").replace(/^\.param rpm=.*$/m, `.param rpm=${rpm}`));
      compare("hand", ["v(show_bat)", "v(show_leg)", "v(show_pair)", "v(show_amps)"]);
      if (k !== i % SPEEDS.length) return;
      const options = {
        title: spec.file,
        seconds: span(spec, rpm),
        keepSeconds: KEEP,
        stepsPerCycle: 198,
        volts: voltsOf(spec),
        amps: ["battery"],
        startVolts: spec.startVolts ?? 0,
      };
      writeFileSync(file, spiceOf(netlist, options));
      compare("program", savedNames(options));
    });
  });
  rmSync(folder, { recursive: true });
  return { results, gaveUp };
}

/** A run, or why ngspice made none. */
function attempt(file: string, folder: string): NgspiceRun | string {
  try {
    return runNgspice(file, folder);
  } catch (error) {
    return error instanceof Error ? error.message : String(error);
  }
}

interface Ours {
  volts: number;
  amps: number;
  ripple: number;
  leg: number;
  pair: number;
  seconds: number;
}

function measure(netlist: Netlist, volts: ReturnType<typeof voltsOf>, seconds: number): Ours {
  const probes: Probe[] = [...volts.map((across): Probe => ({ volts: across })), { amps: "battery" }];
  const run = steady(netlist, { probes, judge: volts[0], fine: true });
  const of = (index: number): { mean: number; rms: number; deviation: number } => {
    const samples = run.samples[index] as Float64Array;
    return weigh(
      Float64Array.from(samples, (_, i) => i),
      samples,
    );
  };
  // Twice: the first run warms the machine code.
  let taken = 0;
  for (let round = 0; round < 2; round++) {
    const from = performance.now();
    const transient = new Transient(netlist, { probes });
    transient.run(Math.round(seconds / transient.step));
    taken = (performance.now() - from) / 1000;
  }
  return { volts: of(0).mean, amps: run.mean[3] as number, ripple: of(0).deviation, leg: of(1).rms, pair: of(2).rms, seconds: taken };
}

function beside(ours: Ours, { vectors }: NgspiceRun, names: readonly string[]): Pick<Compared, "volts" | "amps" | "ripple" | "leg" | "pair"> {
  const times = vectors.get("time") as Float64Array;
  const theirs = names.map((name) => weigh(times, vectors.get(name) as Float64Array));
  const at = (index: number) => theirs[index] as ReturnType<typeof weigh>;
  return {
    volts: [ours.volts, at(0).mean],
    amps: [ours.amps, at(3).mean],
    ripple: [ours.ripple, at(0).deviation],
    leg: [ours.leg, at(1).rms],
    pair: [ours.pair, at(2).rms],
  };
}
