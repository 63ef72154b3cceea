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
  /** The wire whose volts to the unit's negative are compared, and the two points between which volts are; leg 1, and leg 1 to leg 2, where left out. */
  leg?: string;
  pair?: readonly [string, string];
  /** Overpotential that the netlists start with, V, and seconds they run before they are looked at, where a small current would take long to charge. */
  startVolts?: number;
  runs?: number;
}

/** Figures of the machines of one phase; the battery is the wye machine's. */
const single = (id: string): Sheet => machine(id, { battery: { chemistry: "agm", ah: 9, cca: 135 } });
const OPEN_OUTPUT: SetFault = { fault: "wiring.output-resistance", severity: 0.15 };
const WEAK: SetFault = { fault: "rotor.weak", severity: 0.35 };
const turns = (at: string): SetFault => ({ fault: "stator.turns-shorted", at, severity: 0.35 });
const burnt = (at: string): SetFault => ({ fault: "wiring.leg-burnt", at, severity: 1 });

/** Half waves of a few amps. */
const SLOW = { startVolts: 0.9, runs: 1.5 } as const;

/** The cases of one family: its machine sound, and with each of some faults, by the names of their netlists. */
function family(id: string, name: string, show: Pick<Case, "leg" | "pair" | "startVolts" | "runs">, faults: Readonly<Record<string, SetFault>>): Case[] {
  const sheet = single(id);
  return [
    { file: name, sheet, faults: [], ...show },
    ...Object.entries(faults).map(([what, fault]): Case => ({ file: `${name}-${what}`, sheet, faults: [fault], ...show })),
  ];
}

const OTHERS: readonly Case[] = [
  ...family("mossgate-cloister-18", "two-wire", {}, { "turns-shorted": turns("1"), "magnets-weak": WEAK }),
  {
    file: "common-diode-open",
    sheet: single("corvane-tern-400"),
    faults: [{ fault: "regulator.diode-open", at: "C>B+" }],
    leg: "M",
    pair: ["leg:M", "leg:C"],
    startVolts: 0.6,
  },
  {
    file: "two-wire-thyristor-open",
    sheet: single("mossgate-cloister-18"),
    faults: [{ fault: "regulator.diode-open", at: "1>B+" }],
    startVolts: SLOW.startVolts,
  },
  { file: "two-wire-pin-burnt", sheet: single("mossgate-cloister-18"), faults: [burnt("2")], startVolts: SLOW.startVolts },
  ...family(
    "corvane-tern-400",
    "common",
    { leg: "M", pair: ["leg:M", "leg:C"] },
    {
      "main-open": { fault: "stator.winding-open", at: "M" },
      "turns-shorted": turns("A"),
      "pin-burnt": burnt("M"),
    },
  ),
  ...family(
    "corvane-dabchick-50",
    "pair",
    { leg: "C", pair: ["leg:C", "engine"], ...SLOW },
    { "turns-shorted": turns("C"), "pin-burnt": burnt("C"), "magnets-weak": WEAK, "output-resistance": OPEN_OUTPUT },
  ),
  ...family(
    "mossgate-pavilion-12",
    "dual",
    { leg: "D", pair: ["leg:A", "engine"], ...SLOW },
    {
      "turns-shorted": turns("D"),
      "pin-burnt": burnt("D"),
      "magnets-weak": WEAK,
      "output-resistance": OPEN_OUTPUT,
      "diode-open": { fault: "stator.diode-open", at: "D" },
    },
  ),
  ...family(
    "brannoch-tor-440",
    "multi",
    { pair: ["leg:3", "leg:4"] },
    {
      "charging-open": { fault: "stator.winding-open", at: "1" },
      "diode-open": { fault: "regulator.diode-open", at: "3>B+" },
      "turns-shorted": turns("3"),
      "pin-burnt": burnt("2"),
    },
  ),
];

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
  ...OTHERS,
];

export const SPEEDS = [1200, 2500, 5000] as const;
