import type { Command } from "commander";
import { NotForSpice, spiceOf } from "../core/circuit/spice";
import { absurdities } from "../core/machine/absurd";
import { circuitOf } from "../core/machine/circuit";
import { type Condition, conditionOf, stateOf } from "../core/machine/condition";
import { parseFaults } from "../core/machine/parse";
import type { FieldProblem, Sheet } from "../core/machine/sheet";
import { probeNamed, waves } from "../core/machine/wave";
import { ASSUMED_METER } from "../core/meter/meter";
import { CATALOGUE } from "../core/procedure/catalogue";
import { stepProblem } from "../core/procedure/entry";
import { simulateStep, standingFor } from "../core/procedure/simulate";
import { probesOf, type Step, stepFromKey, stepKey, stepsOf } from "../core/procedure/step";
import { faultFromText } from "../core/rig/setup";
import { csvOf } from "../formats/table";
import { type FindSheet, gathered, type Refuse, SHEET_MISSING } from "./command";

interface Options {
  sheet?: string;
  fault: string[];
  test: string[];
  rpm?: string;
  loads?: string;
  ambient: string;
  charge: string;
  lead: string;
  trueRms?: boolean;
  format: string;
  wave?: string;
  spice?: boolean;
}

/** Simulated time of a netlist that is written out, s, and the part of it that is kept. */
const SPICE_SECONDS = { whole: 0.4, kept: 0.05 };
const STEPS_PER_CYCLE = 198;

/** Adds `uvrel simulate`. @param sheetOf finds a sheet by id or file */
export function addSimulate(program: Command, sheetOf: FindSheet, refuse: Refuse): void {
  program
    .command("simulate")
    .description("Simulate a machine with any faults and print what the meter shows")
    .argument("[sheet]", "id of a sheet, or path of a sheet as JSON")
    .option("--sheet <file>", "the same, by its name")
    .option("--fault <fault>", "a fault, as stator.winding-grounded,at=1,along=0.3,severity=0.05; may be given again", gathered, [])
    .option("--test <step>", "a test, as stator.acVolts~1-2~5000; may be given again; all of them when left out", gathered, [])
    .option("--rpm <rpm>", "engine speed for tests taken running")
    .option("--loads <loads>", "off, normal or all")
    .option("--ambient <celsius>", "air temperature", "20")
    .option("--charge <share>", "state of charge, 0 to 1", "0.95")
    .option("--lead <ohms>", "resistance of the meter's leads", String(ASSUMED_METER.leadOhms))
    .option("--true-rms", "the meter is true rms")
    .option("--format <format>", "json or csv", "json")
    .option("--wave <points>", "print waveforms as CSV instead: points as leg:1 or leg:1,leg:2, currents as @battery, separated by spaces")
    .option("--spice", "print the circuit in the SPICE format instead")
    .action((first: string | undefined, options: Options) => {
      const name = first ?? options.sheet;
      if (name === undefined) return refuse([SHEET_MISSING]);
      if (first !== undefined && options.sheet !== undefined) return refuse([{ field: "sheet", error: "was given twice; give it once" }]);
      const found = sheetOf(name);
      if (!found.ok) return refuse(found.problems);
      const read = readOptions(found.sheet, options);
      if ("problems" in read) return refuse(read.problems);
      for (const odd of absurdities(found.sheet, read.condition)) process.stderr.write(`note: ${odd}\n`);
      print(found.sheet, read, options, refuse);
    });
}

interface Read {
  condition: Condition;
  steps: Step[];
}

function readOptions(sheet: Sheet, options: Options): Read | { problems: FieldProblem[] } {
  const problems: FieldProblem[] = [];
  const figure = (field: keyof Options, low: number, high: number): number => {
    const value = Number(options[field]);
    if (!(value >= low && value <= high)) problems.push({ field, error: `must be a number from ${low} to ${high}` });
    return value;
  };
  const ambientC = figure("ambient", -50, 60);
  const charge = figure("charge", 0, 1);
  figure("lead", 0, 5);
  const rpm = options.rpm === undefined ? undefined : figure("rpm", 100, 20_000);
  if (options.loads !== undefined && !["off", "normal", "all"].includes(options.loads)) problems.push({ field: "loads", error: "must be off, normal or all" });
  if (!["json", "csv"].includes(options.format)) problems.push({ field: "format", error: "must be json or csv" });
  const faults = parseFaults(options.fault.map(faultFromText), sheet);
  if (!faults.ok) problems.push(...faults.problems);
  const steps: Step[] = [];
  for (const [i, key] of options.test.entries()) {
    const step = stepFromKey(key);
    if (!step) {
      problems.push({ field: `test.${i}`, error: `“${key}” is not a test this edition knows (${CATALOGUE.map((test) => test.id).join(", ")})` });
      continue;
    }
    const full = step.at === undefined ? stepsOf(CATALOGUE.find((test) => test.id === step.test) as (typeof CATALOGUE)[number], sheet) : [step];
    const narrowed = full.filter((taken) => step.rpm === undefined || taken.rpm === step.rpm || step.at !== undefined);
    steps.push(...(narrowed.length > 0 ? narrowed : full.slice(0, 1)).map((taken) => ({ ...taken, ...(step.loads ? { loads: step.loads } : {}) })));
  }
  for (const step of steps) {
    const problem = stepProblem(step, sheet);
    if (problem) problems.push({ field: `test ${stepKey(step)}`, error: problem.error });
  }
  if (problems.length > 0) return { problems };
  const every = steps.length > 0 ? steps : CATALOGUE.flatMap((test) => stepsOf(test, sheet));
  const set = every.map((step) => ({
    ...step,
    ...(rpm !== undefined && step.rpm !== undefined ? { rpm } : {}),
    ...(options.loads !== undefined && step.loads !== undefined ? { loads: options.loads as NonNullable<Step["loads"]> } : {}),
  }));
  return { condition: conditionOf(faults.ok ? faults.faults : [], { ambientC, charge }), steps: dedupe(set) };
}

/** Steps that came to be the same under one speed are taken once. */
function dedupe(steps: readonly Step[]): Step[] {
  return [...new Map(steps.map((step) => [stepKey(step), step])).values()];
}

function print(sheet: Sheet, { condition, steps }: Read, options: Options, refuse: Refuse): void {
  const [first] = steps;
  if (!first) return;
  const meter = { ...ASSUMED_METER, leadOhms: Number(options.lead), trueRms: options.trueRms === true };
  if (options.spice || options.wave !== undefined) {
    const standing = { ...standingFor(first, sheet), ...(options.loads ? { loads: options.loads as NonNullable<Step["loads"]> } : {}) };
    const netlist = circuitOf(stateOf(sheet, condition, standing.engine === "running"), standing);
    if (options.spice) {
      try {
        return write(spiceText(sheet, first, netlist));
      } catch (problem) {
        if (problem instanceof NotForSpice) return refuse([{ field: "spice", error: problem.message }]);
        throw problem;
      }
    }
    const names = (options.wave ?? "").split(/\s+/).filter(Boolean);
    const probes = names.map((name) => probeNamed(name, netlist));
    const wrong = names.filter((_, i) => !probes[i]);
    if (names.length === 0 || wrong.length > 0) return refuse([{ field: "wave", error: `“${wrong.join(" ")}” is no point or current of this machine` }]);
    if (standing.engine !== "running") return refuse([{ field: "test", error: `${first.test} is taken with the engine stopped; a waveform needs it running` }]);
    const run = waves(
      netlist,
      probes.filter((probe) => probe !== undefined),
    );
    const rows = Array.from(run.samples[0] as Float64Array, (_, i) => [
      Number((i * run.step).toPrecision(9)),
      ...run.samples.map((samples) => Number((samples[i] as number).toPrecision(7))),
    ]);
    return write(csvOf(["seconds", ...names], rows));
  }
  const readings = steps.map((step) => ({ ...step, ...simulateStep(sheet, condition, step, meter) }));
  if (options.format === "csv") {
    return write(
      csvOf(
        ["test", "at", "rpm", "loads", "value", "notes"],
        readings.map((reading) => [reading.test, reading.at ?? "", reading.rpm ?? "", reading.loads ?? "", reading.value, reading.notes.join("; ")]),
      ),
    );
  }
  write(`${JSON.stringify(readings, null, 2)}\n`);
}

function spiceText(sheet: Sheet, step: Step, netlist: ReturnType<typeof circuitOf>): string {
  const probes = probesOf(step) ?? { red: "battery+" as const, black: "battery-" as const };
  return spiceOf(netlist, {
    title: `${sheet.maker} ${sheet.model}, ${stepKey(step)}`,
    seconds: SPICE_SECONDS.whole,
    keepSeconds: SPICE_SECONDS.kept,
    stepsPerCycle: STEPS_PER_CYCLE,
    volts: [
      [probes.red, probes.black],
      ["battery+", "battery-"],
    ],
    amps: ["battery"],
  });
}

function write(text: string): void {
  process.stdout.write(text);
}
