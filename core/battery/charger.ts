import { type Cell, steadyVolts } from "../circuit/cell";

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
