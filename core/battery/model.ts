import type { Cell } from "../circuit/cell";
import { type Chemistry, restVoltsAt, type Storing } from "./charge";

/** A battery as it stands: what is printed on it, how full, how old, how warm. */
export interface Battery {
  chemistry: Chemistry;
  systemVolts: 6 | 12;
  /** Rated capacity, Ah. */
  ah: number;
  /** State of charge, 0 to 1; below nought it was drained past empty. */
  charge: number;
  celsius: number;
  /** Factor on the internal resistance: 1 new, 2 to 5 sulphated. */
  resistance: number;
  /** Capacity left, as a share of the rated. */
  capacity: number;
  /** Cells shorted, each taking its share of the volts. */
  shortedCells: number;
  /** Resistance of a bad joint between cells, Ω. */
  jointOhms: number;
  /** Of a capacitor, F. */
  farads?: number;
  /** Factor on how steeply its volts climb as it is charged past what it takes at 14.4 V; left out: 1, as usual. */
  steepness?: number;
}

/** What a new battery of each chemistry has: ohm-amp-hours of internal resistance, acceptance at 14.4 V as a share of Ah. */
const KIND: Record<Storing, { ohmAh: number; full: number; low: number; voltsFull: number; voltsLow: number }> = {
  flooded: { ohmAh: 0.2, full: 0.05, low: 0.6, voltsFull: 0.6, voltsLow: 0.45 },
  agm: { ohmAh: 0.18, full: 0.05, low: 0.7, voltsFull: 0.6, voltsLow: 0.45 },
  gel: { ohmAh: 0.24, full: 0.04, low: 0.5, voltsFull: 0.6, voltsLow: 0.45 },
  "lithium-iron": { ohmAh: 0.07, full: 0.06, low: 1.5, voltsFull: 0.25, voltsLow: 0.3 },
};

/** State of charge at which the `low` acceptance holds. */
const LOW_CHARGE = 0.4;
/** Charging volts at which acceptance is stated, for 12 V. */
const ACCEPT_AT = 14.4;
/** Growth of the internal resistance as the charge falls below this, and below nought, where the acid is nearly water. */
const EMPTYING = { from: 0.4, past: 10 } as const;
/** Polarisation on discharge as a share of the ohmic resistance. */
const POLAR = 0.7;
/** Growth of the internal resistance per kelvin below 25 °C, and the kelvins over which acceptance doubles. */
const COLD = { perK: 0.012, doubles: 18 };
const LEAD_CELLS = 6;

/**
 * The electrical model of a battery for the circuit: open-circuit volts, ohmic and discharge resistance, and an acceptance
 * that meets the rated current at 14.4 V between full (a twentieth of Ah) and low.
 */
export function cellOf(battery: Battery): Cell {
  if (battery.chemistry === "capacitor") return capacitorCell(battery);
  const kind = KIND[battery.chemistry];
  const scale = battery.systemVolts / 12;
  const cells = battery.chemistry === "lithium-iron" ? 4 : LEAD_CELLS * scale;
  const whole = restVoltsAt(battery.charge, battery.chemistry, battery.systemVolts, battery.celsius);
  const openVolts = whole * Math.max(0, 1 - battery.shortedCells / cells);
  const capacityAh = battery.ah * Math.max(0.05, battery.capacity);
  const emptiness = 1 + Math.max(0, EMPTYING.from - battery.charge) + EMPTYING.past * Math.max(0, -battery.charge);
  const ohms = (kind.ohmAh / battery.ah) * scale * battery.resistance * emptiness * (1 + COLD.perK * Math.max(0, 25 - battery.celsius)) + battery.jointOhms;
  const low = Math.min(1, Math.max(0, (1 - battery.charge) / (1 - LOW_CHARGE)));
  const acceptVolts = (kind.voltsFull + low * (kind.voltsLow - kind.voltsFull)) * scale * (battery.steepness ?? 1);
  const amps = capacityAh * kind.full * (kind.low / kind.full) ** low * 2 ** ((battery.celsius - 25) / COLD.doubles);
  // The acceptance belongs to sound cells; a shorted one changes the volts they see, not what they take at them.
  const eta = Math.max(0.3 * scale, ACCEPT_AT * scale - whole);
  return {
    openVolts,
    ohms,
    polarOhms: POLAR * (ohms - battery.jointOhms) + battery.jointOhms * 0.2,
    acceptAmps: amps / Math.expm1(eta / acceptVolts),
    acceptVolts,
  };
}

/** A common electrolytic capacitor for machines without a battery, F; its series resistance, Ω; and what leaks through it, Ω. */
const CAPACITOR = { farads: 0.022, ohms: 0.02, leakOhms: 5000 } as const;

/** A capacitor is a cell without volts of its own, whose overpotential is all it holds. */
function capacitorCell({ farads = CAPACITOR.farads, capacity }: Battery): Cell {
  const { ohms, leakOhms } = CAPACITOR;
  return { openVolts: 0, ohms, polarOhms: leakOhms, acceptAmps: LINEAR / leakOhms, acceptVolts: LINEAR, farads: farads * capacity };
}

/** Acceptance is exponential; over volts that are few against this it is a plain resistance. */
const LINEAR = 1e4;

/** Conductance as a tester shows it: percent of rated cranking amps, from the internal resistance and the charge. */
export function conductancePercent(battery: Battery): number {
  const sound = cellOf({ ...battery, charge: 1, resistance: 1, capacity: 1, shortedCells: 0, jointOhms: 0 });
  return (100 * sound.ohms) / cellOf(battery).ohms;
}

/** Internal resistance as a tester shows it, mΩ. */
export function innerMilliohms(battery: Battery): number {
  return 1000 * cellOf(battery).ohms;
}

/** Internal resistance of a new full battery at 25 °C, mΩ. */
export function newMilliohms(chemistry: Storing, ah: number, systemVolts: 6 | 12): number {
  return (1000 * KIND[chemistry].ohmAh * systemVolts) / 12 / ah;
}
