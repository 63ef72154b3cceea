import type { SetFault } from "../../core/machine/defects";
import type { Sheet } from "../../core/machine/sheet";
import { demoSheet } from "../../demo/sheets";

/** The two machines of the hand-written netlists, as sheets: their figures are fixed here, whatever the demo workshop prints. */
function machine(base: string, over: Partial<Sheet>): Sheet {
  return { ...(demoSheet(base) as Sheet), ...over };
}

export const WYE = machine("corvane-ferrel-650", {
  winding: "wye",
  polePairs: 9,
  ratedAmps: 30,
  sense: "output",
  loadAmps: { normal: 9, all: 14 },
  battery: { chemistry: "agm", ah: 9, cca: 135 },
  fuses: [{ id: "main", amps: 30, feeds: "battery and charge line" }],
  bands: [
    { test: "charge.volts", rpm: 5000, low: 13.8, high: 14.9 },
    { test: "stator.resistance", low: 0.2, high: 0.4 },
    { test: "stator.acVolts", rpm: 5000, low: 51, high: 72 },
  ],
});

const DELTA = machine("brannoch-corrie-600", {
  winding: "delta",
  polePairs: 6,
  ratedAmps: 25,
  sense: "output",
  loadAmps: { normal: 7, all: 12 },
  battery: { chemistry: "flooded", ah: 14, cca: 170 },
  fuses: [{ id: "main", amps: 20, feeds: "battery and charge line" }],
  bands: [
    { test: "charge.volts", rpm: 5000, low: 13.6, high: 14.8 },
    { test: "stator.resistance", low: 0.28, high: 0.52 },
    { test: "stator.acVolts", rpm: 5000, low: 49, high: 70 },
  ],
});

/** One state of one machine; `file` names the hand-written netlist of the same. */
export interface Case {
  file: string;
  sheet: Sheet;
  faults: SetFault[];
  charge?: number;
  /** Overpotential the program's netlist starts with, V, where ngspice would take seconds to charge. */
  startVolts?: number;
}

const wye = (file: string, faults: SetFault[] = [], over: Partial<Case> = {}): Case => ({ file, sheet: WYE, faults, ...over });

export const CASES: readonly Case[] = [
  wye("healthy-shunt"),
  wye("healthy-series", [], { sheet: { ...WYE, family: "three-phase-series" } }),
  wye("healthy-mosfet", [], { sheet: { ...WYE, family: "three-phase-mosfet" } }),
  wye("diode-open", [{ fault: "regulator.diode-open", at: "1>B+" }]),
  wye("diode-shorted", [{ fault: "regulator.diode-shorted", at: "B->2" }]),
  wye("diode-leaky", [{ fault: "regulator.diode-leaky", at: "3>B+", severity: 20 }]),
  wye("never-regulates", [{ fault: "regulator.never-regulates" }]),
  wye("stuck-shunting", [{ fault: "regulator.no-output" }]),
  wye("winding-open", [{ fault: "stator.winding-open", at: "1" }]),
  wye("turns-shorted", [{ fault: "stator.turns-shorted", at: "2", severity: 0.35 }]),
  wye("winding-grounded", [{ fault: "stator.winding-grounded", at: "1", along: 0.3, severity: 0.05 }], { startVolts: 0.8 }),
  wye("pin-burnt", [{ fault: "wiring.leg-burnt", at: "1", severity: 1 }]),
  wye("output-resistance", [{ fault: "wiring.output-resistance", severity: 0.15 }]),
  wye("magnets-weak", [{ fault: "rotor.weak", severity: 0.35 }]),
  wye("battery-low", [], { charge: 0.3 }),
  { file: "healthy-delta", sheet: DELTA, faults: [] },
  { file: "winding-open-delta", sheet: DELTA, faults: [{ fault: "stator.winding-open", at: "1" }] },
];

export const SPEEDS = [1200, 2500, 5000] as const;
