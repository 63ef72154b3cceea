import { copyFileSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Netlist } from "../../core/circuit/netlist";
import { operatingPoint } from "../../core/circuit/operating";
import { savedNames, spiceOf } from "../../core/circuit/spice";
import { circuitOf } from "../../core/machine/circuit";
import { conditionOf, stateOf } from "../../core/machine/condition";
import type { SetFault } from "../../core/machine/defects";
import type { Sheet } from "../../core/machine/sheet";
import type { Standing } from "../../core/machine/standing";
import { WYE } from "./machines";
import { runNgspice } from "./ngspice";

/** A reading of a machine at rest, in the meter's own volts at 1 mA: ours beside ngspice's. */
interface RestCompared {
  name: string;
  from: "program" | "hand";
  ours: number;
  theirs: number;
}

interface Rest {
  name: string;
  /** The hand-written file and the vector in it. */
  file: string;
  vector: string;
  sheet: Sheet;
  faults: SetFault[];
  unplug: Standing["unplug"];
  red: string;
  black: string;
}

const TOUCH: SetFault[] = [{ fault: "stator.winding-grounded", at: "1", along: 0.3, severity: 0.05 }];
const unit = { file: "rest-diode", sheet: WYE, faults: [], unplug: ["stator", "output"] as const };
const coil = { file: "rest-ohms", sheet: WYE, faults: TOUCH, unplug: ["stator"] as const };

const RESTS: readonly Rest[] = [
  { ...unit, name: "diode, leg 1 to B+", vector: "v(ua)", red: "unitLeg:1", black: "B+" },
  { ...unit, name: "diode, B- to B+", vector: "v(nb)", red: "B-", black: "B+" },
  {
    ...unit,
    name: "diode, leak of 1 kΩ backwards",
    vector: "v(pc)",
    faults: [{ fault: "regulator.diode-leaky", at: "1>B+", severity: 1000 }],
    red: "B+",
    black: "unitLeg:1",
  },
  { ...unit, name: "diode, synchronous unit, B- to B+", vector: "v(nd)", sheet: { ...WYE, family: "three-phase-mosfet" }, red: "B-", black: "B+" },
  { ...coil, name: "pair 1-2", vector: "v(a1)", red: "leg:1", black: "leg:2" },
  { ...coil, name: "leg 1 to a touch", vector: "v(b1)", red: "leg:1", black: "engine" },
  { ...coil, name: "leg 2 to a touch", vector: "v(c2)", red: "leg:2", black: "engine" },
];

/** Reads each at rest: by our operating point, by the hand-written netlist, by the program's netlist. */
export function compareResting(): RestCompared[] {
  const folder = mkdtempSync(join(tmpdir(), "uvrel-rest-"));
  copyFileSync("bench/oracle/parts.inc", join(folder, "parts.inc"));
  const results = RESTS.flatMap((rest): RestCompared[] => {
    const netlist = resting(rest);
    const ours = operatingPoint(netlist).read({ volts: [rest.red, rest.black] });
    const hand = join(folder, "hand.cir");
    copyFileSync(`bench/oracle/${rest.file}.cir`, hand);
    const options = { title: rest.name, seconds: 0, keepSeconds: 0, stepsPerCycle: 1, volts: [[rest.red, rest.black]] as const, amps: [] };
    const own = join(folder, "own.cir");
    writeFileSync(own, spiceOf(netlist, options));
    const last = (file: string, vector: string): number => runNgspice(file, folder).vectors.get(vector)?.[0] as number;
    return [
      { name: rest.name, from: "hand", ours, theirs: last(hand, rest.vector) },
      { name: rest.name, from: "program", ours, theirs: last(own, savedNames(options)[0] as string) },
    ];
  });
  rmSync(folder, { recursive: true });
  return results;
}

function resting({ sheet, faults, unplug, red, black }: Rest): Netlist {
  const state = stateOf(sheet, conditionOf(faults), false);
  const netlist = circuitOf(state, { engine: "off", key: "out", rpm: 0, loads: "normal", unplug, pulled: [] });
  return { ...netlist, elements: [...netlist.elements, { kind: "source", id: "meter", a: red, b: black, amps: 1e-3, complianceVolts: 2.8 }] };
}
