/**
 * A battery as the circuit sees it: v = open-circuit volts + R0·i + η, i counted into the plus post. The overpotential η
 * follows C·dη/dt = i − accept(η): on charge acceptance grows exponentially with η, on discharge η is a plain resistance.
 */
export interface Cell {
  openVolts: number;
  /** Ohmic resistance, Ω. */
  ohms: number;
  /** Discharge polarisation, Ω. */
  polarOhms: number;
  /** Acceptance on charge: amps = acceptAmps·(exp(η/acceptVolts) − 1). */
  acceptAmps: number;
  acceptVolts: number;
  /** What the overpotential is stored in, F: a capacitor's own. Left out: a battery's, which only smooths. */
  farads?: number;
}

/** The exponent stops growing here; beyond it the battery is boiling and the sum must stay finite. */
const STEEPEST = 40;

/** Current that the overpotential accounts for, A: accepted on charge, given on discharge (negative). */
export function acceptAmps(cell: Cell, eta: number): number {
  return eta >= 0 ? cell.acceptAmps * Math.expm1(Math.min(STEEPEST, eta / cell.acceptVolts)) : eta / cell.polarOhms;
}

/** Overpotential at which a steady current flows, V: the inverse of {@link acceptAmps}. */
export function etaAt(cell: Cell, amps: number): number {
  return amps >= 0 ? cell.acceptVolts * Math.log1p(amps / cell.acceptAmps) : amps * cell.polarOhms;
}

/** Volts at the posts under a steady current into the plus post (negative: out of it). */
export function steadyVolts(cell: Cell, amps: number): number {
  return cell.openVolts + cell.ohms * amps + etaAt(cell, amps);
}

/** Steady current that volts at the posts drive into the plus post, A: {@link steadyVolts} inverted by Newton's method; its slope is positive everywhere. */
export function ampsInto(cell: Cell, volts: number): number {
  if (volts <= cell.openVolts) return (volts - cell.openVolts) / (cell.ohms + cell.polarOhms);
  let amps = 0;
  for (let round = 0; round < NEWTON_ROUNDS; round++) {
    const slope = cell.ohms + cell.acceptVolts / (amps + cell.acceptAmps);
    const next = Math.max(0, amps - (steadyVolts(cell, amps) - volts) / slope);
    if (Math.abs(next - amps) < 1e-12 + 1e-10 * next) return next;
    amps = next;
  }
  return amps;
}

const NEWTON_ROUNDS = 60;
