import { COUPLING } from "./coupling";
import { endsOf, type FieldPlan, gatesWhile, type Half, leadsOf, wayAt } from "./families/family";
import { circuitFamily, familyOf, isBelted, mistakenFor, unitOf } from "./families/registry";
import type { FaultId } from "./faults";
import type { Sheet } from "./sheet";
import type { Field, MachineState, Way, Winding } from "./state";

/** One fault as it is set on a machine: which, where, how bad, and how far along a winding. */
export interface SetFault {
  fault: FaultId;
  /** A leg, a pair, a diode such as "1>B+", or a fuse; the first one where it is left out. */
  at?: string | undefined;
  severity?: number | undefined;
  /** Share of a winding's length from its lead, 0 to 1. */
  along?: number | undefined;
  /** How closely shorted turns are coupled with the rest of their winding, 0 to 1: closely among the others, hardly on poles of their own. */
  coupling?: number | undefined;
}

/** Where a fault can sit: at a wire out of the engine, at its ways through the unit, in a winding, between two of them, at a wire with a diode of its own, in a way of the unit, a half of it, behind a fuse. */
type Place = "leg" | "unitLeg" | "winding" | "pair" | "innerDiode" | "diode" | "half" | "fuse";

/** One fault's place and severity, in the state's own terms. */
interface Seat {
  /** The place by its name. */
  at: string;
  /** Numbers of the wire, or of the windings, that the place names; the first where it names none. */
  leg: number;
  winding: number;
  other: number;
  severity: number;
  along: number;
  coupling: number;
}

/** What a fault does to a machine's state, and which figures it takes. */
interface Defect {
  at?: Place;
  severity: { what: string; unit: string; low: number; high: number; typical: number };
  along?: true;
  /** Its shorted turns may lie closely among the others or apart. */
  coupled?: true;
  /** Why this machine cannot have it; undefined when it can. */
  unfit?: (sheet: Sheet) => string | undefined;
  apply: (state: MachineState, seat: Seat) => void;
}

const fraction = (what: string, typical: number, low = 0.05, high = 0.95) => ({ what, unit: "share", low, high, typical });
const ohms = (what: string, typical: number, low: number, high: number) => ({ what, unit: "Ω", low, high, typical });
const whole = { what: "there or not", unit: "share", low: 1, high: 1, typical: 1 };
const windingOf = (state: MachineState, { winding }: Seat): Winding => state.windings[winding] as Winding;
const way = (state: MachineState, at: string, becomes: Way): void => {
  if (at in state.unit.ways) state.unit.ways[at] = becomes;
};
/** Every way of the unit that a word is true of dies. */
const kill = (state: MachineState, dies: (end: { half: Half; lead: string }) => boolean): void => {
  for (const name of Object.keys(state.unit.ways)) if (dies(endsOf(name))) state.unit.ways[name] = "open";
};
const BROKEN = 1e8;
/** Why a machine has no field winding in that part. */
const noField =
  (part: FieldPlan["part"]) =>
  ({ family }: Sheet): string | undefined =>
    familyOf(family).field?.part === part ? undefined : `it has no field winding in its ${part}`;
const noMagnets = ({ family }: Sheet): string | undefined => (familyOf(family).field ? "no magnets excite it" : undefined);
const oneCoil = (sheet: Sheet): string | undefined => {
  const { coils, turning } = familyOf(sheet.family);
  const turn = turning?.(leadsOf(sheet)) ?? [];
  const still = coils({ sheet, winding: "wye" }).filter(({ lead }) => !turn.includes(lead));
  return still.length > 1 ? undefined : "it has not several windings that stand still";
};
const notJoined = ({ family }: Sheet): string | undefined => (familyOf(family).joins.length > 0 ? undefined : "its windings do not meet in one point");
const noArmature = ({ family, legs }: Sheet): string | undefined =>
  familyOf(family).turning?.(leadsOf({ legs })).length ? undefined : "it has no armature and no cut-out";
const noBelt = (sheet: Sheet): string | undefined => (isBelted(sheet) ? undefined : "no belt turns its generator");
const field = ({ field: there }: MachineState): Field => there as Field;
/** The ways in which a field winding fails, wherever it sits. */
const fieldDefects = (part: FieldPlan["part"]) => ({
  open: {
    severity: whole,
    unfit: noField(part),
    apply: (state: MachineState) => {
      field(state).ohms = BROKEN;
    },
  },
  shorted: {
    severity: fraction("turns shorted", 0.5),
    unfit: noField(part),
    apply: (state: MachineState, { severity }: Seat) => {
      field(state).ohms *= 1 - severity;
      field(state).turns *= 1 - severity;
    },
  },
  grounded: {
    severity: ohms("resistance of the touch", 0.3, 0, 1e6),
    along: true as const,
    unfit: noField(part),
    apply: (state: MachineState, { severity, along }: Seat) => {
      field(state).touch = { along, ohms: Math.max(0.01, severity) };
    },
  },
});
const [onRotor, onPoles] = [fieldDefects("rotor"), fieldDefects("stator")];

/** Every fault as an alteration of the circuit; no symptom is written here, all of them follow. */
export const DEFECTS: Record<FaultId, Defect> = {
  "battery.discharged": {
    severity: { what: "state of charge, below nought drained past empty", unit: "share", low: -0.15, high: 0.8, typical: 0.3 },
    apply: (state, { severity }) => {
      state.battery.charge = severity;
    },
  },
  "battery.sulphated": {
    severity: { what: "factor on its internal resistance", unit: "times", low: 1.5, high: 12, typical: 4 },
    apply: (state, { severity }) => {
      state.battery.resistance *= severity;
      state.battery.capacity /= Math.sqrt(severity);
    },
  },
  "battery.shorted-cell": {
    severity: { what: "cells shorted", unit: "cells", low: 0.3, high: 2, typical: 1 },
    apply: (state, { severity }) => {
      state.battery.shortedCells += severity;
    },
  },
  "battery.open-joint": {
    severity: ohms("resistance of the joint", 0.8, 0.05, 1000),
    apply: (state, { severity }) => {
      state.battery.jointOhms += severity;
    },
  },
  "battery.undersized": {
    severity: fraction("its size against the sheet's", 0.5, 0.2, 0.9),
    apply: (state, { severity }) => {
      state.battery.ah *= severity;
    },
  },
  "battery.capacitor-dry": {
    severity: fraction("what is left of it", 0.02, 0.005, 0.3),
    apply: (state, { severity }) => {
      state.battery.capacity *= severity;
    },
  },
  "battery.charger-on": {
    severity: { what: "volts at its clips, on 12 V", unit: "V", low: 12.6, high: 16, typical: 14.4 },
    apply: (state, { severity }) => {
      state.chargerVolts = severity * (state.sheet.systemVolts / 12);
    },
  },
  "rotor.weak": {
    unfit: noMagnets,
    severity: fraction("magnetism lost", 0.35),
    apply: (state, { severity }) => {
      for (const winding of state.windings) winding.voltsPerRpm *= 1 - severity;
    },
  },
  "rotor.magnet-shed": {
    unfit: noMagnets,
    severity: { what: "magnets lost", unit: "magnets", low: 1, high: 4, typical: 1 },
    apply: (state, { severity }) => {
      const lost = severity / (2 * (state.sheet.polePairs ?? 9));
      for (const winding of state.windings) winding.voltsPerRpm *= Math.max(0, 1 - lost);
    },
  },
  "rotor.turns-free": {
    unfit: noMagnets,
    severity: fraction("speed lost", 0.98, 0.9, 1),
    apply: (state, { severity }) => {
      state.grip *= 1 - severity;
    },
  },
  "rotor.key-sheared": {
    unfit: noMagnets,
    severity: fraction("speed lost", 0.3, 0.02, 1),
    apply: (state, { severity }) => {
      state.grip *= 1 - severity;
    },
  },
  "stator.winding-open": {
    at: "winding",
    severity: whole,
    apply: (state, seat) => {
      windingOf(state, seat).open = true;
    },
  },
  "stator.turns-shorted": {
    at: "winding",
    coupled: true,
    severity: fraction("turns shorted", 0.35, 0.02, 0.98),
    apply: (state, seat) => {
      windingOf(state, seat).shorted = { share: seat.severity, coupling: seat.coupling };
    },
  },
  "stator.leads-parted": {
    unfit: notJoined,
    severity: whole,
    apply: (state) => {
      for (const winding of state.windings) winding.open = true;
    },
  },
  "stator.burnt": {
    unfit: oneCoil,
    severity: fraction("turns shorted in each winding", 0.25, 0.02, 0.9),
    apply: (state, { severity }) => {
      // Varnish that is burnt everywhere leaves no pole to itself.
      const coupling = COUPLING.closely;
      for (const winding of state.windings) if ((winding.shorted?.share ?? 0) < severity) winding.shorted = { share: severity, coupling };
    },
  },
  "stator.winding-grounded": {
    at: "winding",
    along: true,
    severity: ohms("resistance of the touch", 0.05, 0, 1e6),
    apply: (state, seat) => {
      windingOf(state, seat).touch = { along: seat.along, ohms: Math.max(0.001, seat.severity) };
    },
  },
  "stator.windings-bridged": {
    at: "pair",
    severity: ohms("resistance of the bridge", 0.05, 0, 1000),
    apply: (state, { winding, other, severity }) => {
      state.bridges.push({ from: winding, to: other, ohms: Math.max(0.001, severity) });
    },
  },
  "stator.joint-resists": {
    at: "winding",
    severity: ohms("resistance of the joint", 4, 0.1, 1000),
    apply: (state, seat) => {
      windingOf(state, seat).ohms += seat.severity;
    },
  },
  "stator.joint-opens-hot": {
    at: "winding",
    severity: { what: "winding temperature at which it opens", unit: "°C", low: 30, high: 150, typical: 60 },
    apply: (state, seat) => {
      if (state.windingC >= seat.severity) windingOf(state, seat).open = true;
    },
  },
  "stator.wrong-fit": {
    severity: { what: "turns against the right one's", unit: "times", low: 0.4, high: 2, typical: 0.65 },
    apply: (state, { severity }) => {
      for (const winding of state.windings) {
        winding.voltsPerRpm *= severity;
        winding.ohms *= severity;
        winding.henries *= severity ** 2;
      }
    },
  },
  "stator.diode-open": { at: "innerDiode", severity: whole, apply: (state, { at }) => way(state, wayAt(at, "upper"), "open") },
  "stator.diode-shorted": { at: "innerDiode", severity: whole, apply: (state, { at }) => way(state, wayAt(at, "upper"), "shorted") },
  "regulator.diode-open": { at: "diode", severity: whole, apply: (state, { at }) => way(state, at, "open") },
  "regulator.diode-shorted": { at: "diode", severity: whole, apply: (state, { at }) => way(state, at, "shorted") },
  "regulator.diode-leaky": {
    at: "diode",
    severity: ohms("leak across the diode", 60, 1, 1e5),
    apply: (state, { at, severity }) => way(state, at, { leakOhms: severity }),
  },
  "regulator.half-open": {
    at: "half",
    severity: whole,
    apply: (state, { at }) => kill(state, ({ half }) => half === at),
  },
  "regulator.leg-open": {
    at: "unitLeg",
    severity: whole,
    apply: (state, { at }) => kill(state, ({ lead }) => lead === at),
  },
  "regulator.output-open": {
    severity: whole,
    apply: (state) => {
      state.unit.outputBroken = true;
    },
  },
  "regulator.wrong-unit": {
    severity: whole,
    unfit: (sheet) => (mistakenFor(circuitFamily(sheet.family).id) ? undefined : "no unit that holds the volts another way fits its plug"),
    apply: (state) => {
      state.family = mistakenFor(state.family)?.id ?? state.family;
    },
  },
  "regulator.other-system": {
    severity: { what: "its set volts against the right ones", unit: "times", low: 0.4, high: 2.5, typical: 2 },
    apply: (state, { severity }) => {
      state.unit.setVolts *= severity;
    },
  },
  "regulator.no-output": {
    severity: whole,
    apply: (state) => {
      state.unit.gates = gatesWhile(unitOf(state.family), "holding");
    },
  },
  "regulator.set-high": {
    severity: { what: "set point above the right one", unit: "V", low: 0.3, high: 6, typical: 1.5 },
    apply: (state, { severity }) => {
      state.unit.setVolts += severity * (state.sheet.systemVolts / 12);
    },
  },
  "regulator.set-low": {
    severity: { what: "set point below the right one", unit: "V", low: 0.3, high: 4, typical: 1 },
    apply: (state, { severity }) => {
      state.unit.setVolts -= severity * (state.sheet.systemVolts / 12);
    },
  },
  "regulator.never-regulates": {
    severity: whole,
    apply: (state) => {
      state.unit.gates = gatesWhile(unitOf(state.family), "giving");
    },
  },
  "regulator.sense-open": {
    severity: whole,
    unfit: (sheet) => (sheet.sense !== "output" ? undefined : "its unit senses at its own output and has no sense wire"),
    apply: (state) => {
      state.unit.senseOpen = true;
    },
  },
  "regulator.ground-open": {
    severity: ohms("resistance of the inner ground", 1000, 0.05, 1e6),
    apply: (state, { severity }) => {
      state.unit.innerGroundOhms = severity;
    },
  },
  "regulator.fails-hot": {
    severity: { what: "ambient temperature at which it stops", unit: "°C", low: -20, high: 60, typical: 10 },
    apply: (state, { severity }) => {
      if (state.ambientC >= severity) state.unit.gates = gatesWhile(unitOf(state.family), "holding");
    },
  },
  "wiring.leg-burnt": {
    at: "leg",
    severity: ohms("resistance of the pin", 1, 0.05, BROKEN),
    apply: (state, { leg, severity }) => {
      state.pinOhms[leg] = (state.pinOhms[leg] ?? 0) + severity;
    },
  },
  "wiring.cable-broken": {
    at: "leg",
    severity: ohms("resistance of the break", BROKEN, 0.05, BROKEN),
    apply: (state, { leg, severity }) => {
      state.cableOhms[leg] = (state.cableOhms[leg] ?? 0) + severity;
    },
  },
  "wiring.output-resistance": {
    severity: ohms("resistance added to the output wire", 0.15, 0.01, 100),
    apply: (state, { severity }) => {
      state.outputOhms += severity;
    },
  },
  "wiring.ground-resistance": {
    severity: ohms("resistance added to the unit's ground", 0.15, 0.01, BROKEN),
    apply: (state, { severity }) => {
      state.groundOhms += severity;
    },
  },
  "wiring.feed-open": {
    severity: whole,
    apply: (state) => {
      state.outputOhms += BROKEN;
    },
  },
  "wiring.terminals": {
    severity: ohms("resistance at the battery's post", 0.05, 0.005, 100),
    apply: (state, { severity }) => {
      state.postOhms += severity;
    },
  },
  "wiring.fuse-open": {
    at: "fuse",
    severity: whole,
    apply: (state, { at }) => {
      state.fuseOhms[at] = BROKEN;
    },
  },
  "loads.parasitic": {
    at: "fuse",
    severity: { what: "draw with the key out", unit: "mA", low: 2, high: 5000, typical: 85 },
    apply: (state, { severity, at }) => {
      state.draws.push({ fuse: at, milliamps: severity });
    },
  },
  "loads.too-much": {
    severity: { what: "amps added", unit: "A", low: 1, high: 60, typical: 10 },
    apply: (state, { severity }) => {
      state.loadAmps.normal += severity;
      state.loadAmps.all += severity;
    },
  },
  "starter.draws-too-much": {
    severity: { what: "factor on its current", unit: "times", low: 1.2, high: 4, typical: 2 },
    apply: (state, { severity }) => {
      state.starter.crankAmps *= severity;
    },
  },
  "starter.cable": {
    severity: ohms("resistance added to the cable", 0.02, 0.002, 10),
    apply: (state, { severity }) => {
      state.starter.cableOhms += severity;
    },
  },
  "rotor.field-open": onRotor.open,
  "rotor.field-shorted": onRotor.shorted,
  "rotor.field-grounded": onRotor.grounded,
  "stator.field-open": onPoles.open,
  "stator.field-shorted": onPoles.shorted,
  "stator.field-grounded": onPoles.grounded,
  "rotor.brushes-worn": {
    severity: ohms("resistance that the brushes add", 8, 0.2, BROKEN),
    unfit: ({ family }) => (familyOf(family).field ? undefined : "it has no brushes"),
    apply: (state, { severity }) => {
      field(state).contactOhms += severity;
    },
  },
  "rotor.armature-shorted": {
    severity: fraction("turns shorted", 0.4),
    unfit: noArmature,
    apply: (state, { severity }) => {
      for (const winding of state.windings) {
        winding.voltsPerRpm *= 1 - severity;
        winding.ohms *= 1 - 0.8 * severity;
      }
    },
  },
  "stator.polarity-reversed": {
    severity: whole,
    unfit: noArmature,
    apply: (state) => {
      field(state).residual *= -1;
    },
  },
  "regulator.cutout-open": {
    severity: whole,
    unfit: noArmature,
    apply: (state) => kill(state, ({ half }) => half === "upper"),
  },
  "regulator.cutout-welded": {
    severity: whole,
    unfit: noArmature,
    apply: (state) => {
      for (const name of Object.keys(state.unit.ways)) state.unit.ways[name] = "shorted";
    },
  },
  "wiring.field-feed": {
    severity: ohms("resistance added to the field's feed", BROKEN, 0.2, BROKEN),
    unfit: ({ family }) => (familyOf(family).field?.fed === "key" ? undefined : "no wire from the key feeds its field"),
    apply: (state, { severity }) => {
      field(state).feedOhms += severity;
    },
  },
  "drive.belt-slack": {
    severity: fraction("speed lost with all loads on", 0.4, 0.05, 0.95),
    unfit: noBelt,
    apply: (state, { severity }) => {
      state.beltSlip = severity;
    },
  },
  "drive.belt-missing": {
    severity: whole,
    unfit: noBelt,
    apply: (state) => {
      state.beltSlip = 1;
    },
  },
};
