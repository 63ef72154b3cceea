import type { FaultId } from "../../machine/faults";

/**
 * What workshops meet before anything is measured: how often each fault comes in, how bad it then is, and how full its battery
 * stands. The rates are relative; they are this program's own estimates from the order in which the trade's manuals and
 * teachers list what they see, and a shop's own confirmed repairs are counted on top of them.
 */

/** How full the battery is when such a machine comes in: low where nothing charges it. */
type Fill = "full" | "usual" | "low" | "drained";

interface Rate {
  /** Relative frequency of the fault by itself. */
  rate: number;
  /** Severities met, evenly spread between; by decades, or by decades of what a share leaves, where the third field says so. */
  severity?: readonly [low: number, high: number, spread?: "log" | "left"];
  fill: Fill;
}

/** State of charge by fill, from its lowest to its highest. */
export const FILLS: Record<Fill, readonly [number, number]> = { full: [0.82, 1], usual: [0.6, 1], low: [0.12, 0.92], drained: [0.08, 0.85] };

export const RATES: Record<FaultId, Rate> = {
  "battery.discharged": { rate: 12, severity: [0.02, 0.7], fill: "full" },
  "battery.sulphated": { rate: 13, severity: [1.9, 9, "log"], fill: "usual" },
  "battery.shorted-cell": { rate: 4, severity: [0.5, 1.3], fill: "usual" },
  "battery.open-joint": { rate: 1.5, severity: [0.08, 30, "log"], fill: "usual" },
  "battery.charger-on": { rate: 0.4, severity: [12.9, 15.5], fill: "usual" },
  "battery.capacitor-dry": { rate: 8, severity: [0.005, 0.1, "log"], fill: "full" },
  "battery.undersized": { rate: 0.5, severity: [0.35, 0.7], fill: "usual" },
  "rotor.weak": { rate: 3, severity: [0.2, 0.7], fill: "low" },
  "rotor.magnet-shed": { rate: 0.3, severity: [1, 4], fill: "usual" },
  "rotor.key-sheared": { rate: 0.15, severity: [0.15, 0.8, "left"], fill: "low" },
  "rotor.turns-free": { rate: 0.35, severity: [0.94, 0.999, "left"], fill: "low" },
  "stator.winding-open": { rate: 5, fill: "low" },
  "stator.turns-shorted": { rate: 7, severity: [0.08, 0.75], fill: "low" },
  "stator.winding-grounded": { rate: 7, severity: [0.02, 2e5, "log"], fill: "low" },
  "stator.leads-parted": { rate: 0.6, fill: "low" },
  "stator.burnt": { rate: 1.3, severity: [0.1, 0.38], fill: "low" },
  "stator.windings-bridged": { rate: 1, severity: [0.02, 20, "log"], fill: "low" },
  "stator.joint-resists": { rate: 0.4, severity: [0.4, 25, "log"], fill: "low" },
  "stator.joint-opens-hot": { rate: 2.5, fill: "low" },
  "stator.wrong-fit": { rate: 1.2, severity: [0.45, 0.82], fill: "low" },
  "stator.diode-open": { rate: 6, fill: "low" },
  "stator.diode-shorted": { rate: 3, fill: "drained" },
  "regulator.diode-open": { rate: 5, fill: "low" },
  "regulator.diode-shorted": { rate: 6, fill: "low" },
  "regulator.diode-leaky": { rate: 3.5, severity: [5, 2000, "log"], fill: "drained" },
  "regulator.half-open": { rate: 1.5, fill: "low" },
  "regulator.leg-open": { rate: 1, fill: "low" },
  "regulator.output-open": { rate: 1, fill: "low" },
  "regulator.wrong-unit": { rate: 0.3, fill: "usual" },
  "regulator.other-system": { rate: 0.2, severity: [0.5, 2, "log"], fill: "usual" },
  "regulator.no-output": { rate: 8, fill: "low" },
  "regulator.set-high": { rate: 2.5, severity: [0.7, 3.5], fill: "full" },
  "regulator.set-low": { rate: 2.5, severity: [0.6, 2.5], fill: "low" },
  "regulator.never-regulates": { rate: 3.5, fill: "full" },
  "regulator.sense-open": { rate: 1, fill: "full" },
  "regulator.ground-open": { rate: 0.8, severity: [0.3, 1e4, "log"], fill: "low" },
  "regulator.fails-hot": { rate: 2, fill: "low" },
  "wiring.leg-burnt": { rate: 7, severity: [0.15, 300, "log"], fill: "low" },
  "wiring.cable-broken": { rate: 2.5, severity: [5, 3000, "log"], fill: "low" },
  "wiring.output-resistance": { rate: 4, severity: [0.05, 2, "log"], fill: "low" },
  "wiring.ground-resistance": { rate: 4.5, severity: [0.05, 6, "log"], fill: "low" },
  "wiring.feed-open": { rate: 1.5, fill: "low" },
  "wiring.terminals": { rate: 3.5, severity: [0.012, 1.5, "log"], fill: "usual" },
  "wiring.fuse-open": { rate: 3, fill: "low" },
  "loads.parasitic": { rate: 6, severity: [20, 1500, "log"], fill: "drained" },
  "loads.too-much": { rate: 2, severity: [5, 22], fill: "low" },
  "starter.draws-too-much": { rate: 2.5, severity: [1.4, 2.8], fill: "usual" },
  "starter.cable": { rate: 1.5, severity: [0.006, 0.12, "log"], fill: "usual" },
  "rotor.field-open": { rate: 4, fill: "low" },
  "rotor.field-shorted": { rate: 1.5, severity: [0.3, 0.93], fill: "usual" },
  "rotor.field-grounded": { rate: 1, severity: [0.05, 30, "log"], fill: "full" },
  "rotor.brushes-worn": { rate: 6, severity: [2, 300, "log"], fill: "low" },
  "rotor.armature-shorted": { rate: 3, severity: [0.25, 0.8], fill: "low" },
  "stator.field-open": { rate: 4, fill: "low" },
  "stator.field-shorted": { rate: 1.5, severity: [0.3, 0.93], fill: "usual" },
  "stator.field-grounded": { rate: 2, severity: [0.05, 30, "log"], fill: "full" },
  "stator.polarity-reversed": { rate: 3, fill: "low" },
  "regulator.cutout-open": { rate: 3, fill: "low" },
  "regulator.cutout-welded": { rate: 2, fill: "drained" },
  "wiring.field-feed": { rate: 4, severity: [1.5, 1e4, "log"], fill: "low" },
  "drive.belt-slack": { rate: 7, severity: [0.25, 0.8], fill: "low" },
  "drive.belt-missing": { rate: 1.5, fill: "low" },
};

/** Nothing failed, and nothing flat: a machine brought in for what is no fault. */
export const SOUND_RATE = 6.5;

/** Pairs that travel together: what burns one takes the other, and what is never charged sulphates. */
export const TOGETHER: readonly { first: FaultId; second: FaultId; rate: number }[] = [
  // Heat that takes the varnish off a winding shorts its turns and lets it touch the core, there or everywhere.
  { first: "stator.turns-shorted", second: "stator.winding-grounded", rate: 1 },
  { first: "stator.burnt", second: "stator.winding-grounded", rate: 5 },
  ...(["regulator.diode-open", "regulator.diode-shorted"] as const).flatMap((second) => [
    { first: "stator.winding-open" as const, second, rate: 0.9 },
    { first: "stator.turns-shorted" as const, second, rate: 1.2 },
    { first: "stator.winding-grounded" as const, second, rate: 1.2 },
    { first: "wiring.leg-burnt" as const, second, rate: 1.4 },
  ]),
  ...(["stator.winding-open", "stator.turns-shorted", "stator.winding-grounded", "wiring.leg-burnt"] as const).map((first) => ({
    first,
    second: "regulator.no-output" as const,
    rate: 1.0,
  })),
  ...(["battery.sulphated", "battery.shorted-cell"] as const).flatMap((second) => [
    { first: "regulator.set-high" as const, second, rate: 0.9 },
    { first: "regulator.never-regulates" as const, second, rate: 1.4 },
  ]),
  ...(
    [
      "stator.winding-open",
      "stator.turns-shorted",
      "stator.winding-grounded",
      "stator.burnt",
      "regulator.no-output",
      "regulator.diode-open",
      "regulator.diode-shorted",
      "wiring.leg-burnt",
      "rotor.weak",
      "wiring.output-resistance",
      "loads.parasitic",
    ] as const
  ).map((first) => ({ first, second: "battery.sulphated" as const, rate: 1.1 })),
  // What is never charged sulphates, whatever kept it from charging; a regulator that meets a short does not live long.
  ...(["rotor.field-open", "rotor.brushes-worn", "stator.field-open", "wiring.field-feed", "drive.belt-slack", "regulator.cutout-open"] as const).map(
    (first) => ({ first, second: "battery.sulphated" as const, rate: 0.8 }),
  ),
  ...(["rotor.field-shorted", "stator.field-shorted"] as const).map((first) => ({ first, second: "regulator.no-output" as const, rate: 0.6 })),
  // A chip that dies seldom dies alone.
  { first: "regulator.diode-open", second: "regulator.diode-open", rate: 1.2 },
  // And what burnt it open has often taken the gates as well: the unit gives nothing, or too little.
  { first: "regulator.diode-open", second: "regulator.no-output", rate: 1.2 },
  { first: "regulator.diode-open", second: "regulator.set-low", rate: 0.8 },
  // A generator that lost some of its strength is found out by what was added to it, a draw hides behind a poor charge.
  ...(["stator.turns-shorted", "stator.winding-open", "regulator.diode-open", "rotor.weak"] as const).map((first) => ({
    first,
    second: "loads.too-much" as const,
    rate: 0.25,
  })),
  ...(["stator.turns-shorted", "regulator.no-output", "wiring.output-resistance"] as const).map((first) => ({
    first,
    second: "loads.parasitic" as const,
    rate: 0.2,
  })),
];

/** How much likelier a fault is when the owner says this; faults not named keep their rate. */
export const COMPLAINT_ODDS: Record<string, { factor: number; faults: readonly (FaultId | "sound")[] }[]> = {
  "flat-overnight": [
    { factor: 4, faults: ["loads.parasitic", "regulator.diode-leaky"] },
    { factor: 1.6, faults: ["battery.sulphated", "battery.shorted-cell", "battery.discharged"] },
    { factor: 0.5, faults: ["regulator.never-regulates", "regulator.set-high", "starter.draws-too-much", "starter.cable"] },
  ],
  "flat-after-ride": [
    { factor: 0.4, faults: ["loads.parasitic", "regulator.diode-leaky", "starter.draws-too-much", "starter.cable", "battery.discharged", "sound"] },
    { factor: 0.5, faults: ["regulator.set-high", "regulator.never-regulates", "regulator.sense-open"] },
  ],
  "slow-crank": [{ factor: 2.2, faults: ["battery.sulphated", "battery.undersized", "starter.draws-too-much", "starter.cable", "wiring.terminals"] }],
  "no-crank": [{ factor: 1.8, faults: ["battery.open-joint", "battery.shorted-cell", "wiring.terminals", "battery.discharged", "starter.cable"] }],
  "boiled-battery": [
    { factor: 8, faults: ["regulator.set-high", "regulator.never-regulates", "regulator.sense-open"] },
    { factor: 0.3, faults: ["stator.winding-open", "stator.winding-grounded", "regulator.no-output", "battery.discharged", "sound"] },
  ],
  "lamps-burn-out": [{ factor: 8, faults: ["regulator.set-high", "regulator.never-regulates", "regulator.sense-open", "wiring.feed-open"] }],
  "lamps-pulse": [{ factor: 4, faults: ["battery.capacitor-dry"] }],
  "when-warm": [{ factor: 8, faults: ["stator.joint-opens-hot", "regulator.fails-hot"] }],
  "sat-long": [
    { factor: 4, faults: ["battery.discharged", "battery.sulphated"] },
    { factor: 2, faults: ["loads.parasitic"] },
  ],
  "new-accessory": [{ factor: 4, faults: ["loads.parasitic", "loads.too-much"] }],
  "warning-lamp": [{ factor: 0.5, faults: ["loads.parasitic", "battery.discharged", "starter.draws-too-much", "starter.cable", "sound"] }],
};

/** Growth of the odds of a worn battery for each year past its third, and at most. */
export const BATTERY_AGE = { from: 3, perYear: 1.35, most: 4, young: 0.6 } as const;

/** Confirmed repairs of the same model that weigh as much as the general rates do. */
export const SHOP_WEIGHT = 60;
