import { type Cell, etaAt, steadyVolts } from "../circuit/cell";
import { surfaceVolts } from "./charge";
import type { Battery } from "./model";

/** A small workshop charger or a jump pack gives up a volt for every three amps it delivers. */
const INNER_OHMS = 0.3;
/** Its output is a rectifier: next to nothing flows back into it. */
const BACKWARDS = { amps: 1e-6, volts: 1 } as const;

/** A charger with some volts at its clips, as the circuit sees it: a source that delivers and takes nothing back. */
export function chargerCell(volts: number): Cell {
  return { openVolts: volts, ohms: INNER_OHMS, polarOhms: 0.001, acceptAmps: BACKWARDS.amps, acceptVolts: BACKWARDS.volts };
}

/** What a charger delivers into something that stands at some volts, A. @param charger volts at its clips; undefined where none is on */
export function chargerAmps(charger: number | undefined, volts: number): number {
  return charger === undefined ? 0 : Math.max(0, charger - volts) / INNER_OHMS;
}

/**
 * Volts of a battery with a charger on it: where what the charger gives is what battery and load take.
 * @param load current drawn beside it, A
 */
export function voltsOnCharger(cell: Cell, charger: number, load = 0): number {
  let [low, high] = [-load, Math.max(-load, chargerAmps(charger, 0) - load)];
  for (let round = 0; round < HALVINGS; round++) {
    const into = 0.5 * (low + high);
    if (chargerAmps(charger, steadyVolts(cell, into)) - load > into) low = into;
    else high = into;
  }
  return steadyVolts(cell, low);
}

const HALVINGS = 30;

/** Of what charging had raised a battery by, this share is left some seconds after the engine stops. */
const STAYS_UP = 1 / 3;

/**
 * Volts some seconds after charging has ended: open-circuit volts, and a share of what the current had raised the plates by, which is no
 * more than their surface charge. @param amps that flowed into the battery; none or less raised nothing
 */
export function recoveredVolts(cell: Cell, { chemistry, systemVolts }: Pick<Battery, "chemistry" | "systemVolts">, amps: number): number {
  return cell.openVolts + STAYS_UP * Math.min(etaAt(cell, Math.max(0, amps)), surfaceVolts(chemistry, systemVolts, 0));
}
