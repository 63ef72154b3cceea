import { expose } from "comlink";
import { spiceOf } from "../core/circuit/spice";
import { circuitOf } from "../core/machine/circuit";
import { type Condition, conditionOf, stateOf } from "../core/machine/condition";
import type { Sheet } from "../core/machine/sheet";
import type { Meter } from "../core/meter/meter";
import { type Change, changeAt, comparable } from "../core/rig/changed";
import { LiveRun, type RunFrame } from "../core/rig/run";
import { type RigSetup, standingOf } from "../core/rig/setup";

/** Time that one frame may take to work out, ms; a faster machine is slowed down rather than shown less often. */
const FRAME_BUDGET_MS = 16;
const LEAST_SECONDS = 0.002;

/** What the rig's page gets at every update. */
export interface RigFrame {
  ailing: RunFrame;
  sound: RunFrame | undefined;
}

/** The rig's own thread: two live machines, the ailing one and its sound twin. */
class RigWorker {
  #sheet: Sheet | undefined;
  #meter: Meter | undefined;
  #setup: RigSetup | undefined;
  #ailing: LiveRun | undefined;
  #sound: LiveRun | undefined;
  #seconds = 0.03;

  open(sheet: Sheet, meter: Meter): void {
    this.#sheet = sheet;
    this.#meter = meter;
    this.#ailing = new LiveRun(sheet, meter);
    this.#sound = new LiveRun(sheet, meter);
  }

  set(setup: RigSetup, fresh: boolean): void {
    this.#setup = setup;
    this.#ailing?.set(setup, conditionFor(setup), fresh);
    this.#sound?.set(setup, conditionFor({ ...setup, faults: [] }), fresh);
  }

  /** @param seconds of machine time wanted; as much of it as the time for a frame allows is run */
  frame(seconds: number, withSound: boolean): RigFrame | undefined {
    if (!this.#ailing || !this.#setup) return undefined;
    const from = performance.now();
    const run = Math.min(seconds, this.#seconds);
    const ailing = this.#ailing.frame(run);
    const sound = withSound ? this.#sound?.frame(run) : undefined;
    const took = performance.now() - from;
    this.#seconds = Math.max(LEAST_SECONDS, Math.min(0.04, this.#seconds * Math.min(1.2, FRAME_BUDGET_MS / Math.max(0.1, took))));
    return { ailing, sound };
  }

  /** Every test on both machines; what reads differently comes back, most striking first. Frames go on in between. */
  async changed(progress: (done: number, of: number) => void): Promise<Change[]> {
    const [sheet, meter, setup] = [this.#sheet, this.#meter, this.#setup];
    if (!sheet || !meter || !setup) return [];
    const steps = comparable(sheet);
    const found: Change[] = [];
    for (const [i, step] of steps.entries()) {
      const change = changeAt(step, sheet, conditionFor(setup), meter);
      if (change) found.push(change);
      if (i % 3 === 0) {
        progress(i, steps.length);
        await new Promise((resolve) => setTimeout(resolve));
      }
    }
    return found.sort((change, other) => other.size - change.size);
  }

  /** The set-up as a SPICE netlist. */
  netlist(): string {
    const [sheet, setup] = [this.#sheet, this.#setup];
    if (!sheet || !setup) return "";
    const standing = standingOf(setup);
    const netlist = circuitOf(stateOf(sheet, conditionFor(setup), standing.engine === "running"), standing);
    return spiceOf(netlist, {
      title: `${sheet.maker} ${sheet.model}, ${standing.engine}${standing.engine === "running" ? `, ${standing.rpm} rpm` : ""}`,
      seconds: 0.4,
      keepSeconds: 0.05,
      stepsPerCycle: 198,
      volts: [
        [setup.red, setup.black],
        ["battery+", "battery-"],
      ],
      amps: ["battery"],
    });
  }
}

function conditionFor(setup: RigSetup): Condition {
  return conditionOf(setup.faults, { ambientC: setup.ambientC, charge: setup.charge });
}

export type { RigWorker };

expose(new RigWorker());
