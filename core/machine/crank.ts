import { cellOf } from "../battery/model";
import type { Cell } from "../circuit/cell";
import type { Sheet } from "./sheet";
import { healthyState, type MachineState } from "./state";

/** An engine cranked from standing: volts at the battery's posts and amps of the starter, evenly over time. */
export interface CrankWave {
  /** Seconds between two samples. */
  step: number;
  volts: Float64Array;
  amps: Float64Array;
}

/** A starter on its battery. */
interface Starting {
  systemVolts: number;
  cell: Pick<Cell, "openVolts" | "ohms" | "polarOhms">;
  /** Resistance of the battery's posts, and of cable and strap, Ω. */
  postOhms: number;
  cableOhms: number;
  /** What a sound starter takes at 10.5 V while it turns the engine, and what this one takes, A. */
  soundAmps: number;
  crankAmps: number;
}

/**
 * The starter as a DC machine with permanent field: v = R·i + e, torque as the current, e as the speed. Its resistance is this share of
 * what a sound one takes when it turns, so that it draws nearly three times as much before it does. One that drags needs more torque;
 * its windings are what they were, and so is its first pull.
 */
const ARMATURE = 0.35;
/** Mechanical time constant of starter and crankshaft, s. */
const SPIN_UP = 0.09;
/** Compression strokes a second at the speed at which a sound battery turns it. */
const STROKES = 5;
/** Torque of the engine as shares of its mean: rubbing, and the top of a compression stroke. */
const TORQUE = { rubbing: 0.5, stroke: 2 } as const;
/** Time constant of the battery's polarisation under load, s. */
const POLARISES = 0.6;
/** Volts on 12 V at which a starter's current is stated. */
const STATED = 10.5;

/** The starter of a machine on its battery. */
export function startingOf({ starter, postOhms, strapOhms, battery }: MachineState): Starting {
  return { ...starter, cableOhms: starter.cableOhms + strapOhms, postOhms, cell: cellOf(battery), systemVolts: battery.systemVolts };
}

/**
 * Cranks an engine for some seconds, step by step (explicit Euler at a fiftieth of the spin-up): the dip of the first pull, then one
 * dip a compression stroke.
 */
export function crankWave(state: MachineState, seconds: number, step = 0.001): CrankWave {
  const { cell, postOhms, cableOhms, soundAmps, crankAmps, systemVolts } = startingOf(state);
  const stated = STATED * (systemVolts / 12);
  const ohms = ARMATURE * (stated / soundAmps);
  const turning = (1 - ARMATURE) * stated;
  const count = Math.round(seconds / step);
  const [volts, amps] = [new Float64Array(count), new Float64Array(count)];
  let [emf, angle, eta] = [0, 0, 0];
  for (let k = 0; k < count; k++) {
    const current = Math.max(0, (cell.openVolts - eta - emf) / (cell.ohms + cableOhms + postOhms + ohms));
    volts[k] = cell.openVolts - eta - cell.ohms * current - postOhms * current;
    amps[k] = current;
    const load = crankAmps * (TORQUE.rubbing + TORQUE.stroke * Math.max(0, Math.sin(angle)) ** 2);
    // What rubs holds a standing engine, and drives none backwards.
    emf = Math.max(0, emf + ((current - (emf > 0 || current > load ? load : current)) * ohms * step) / SPIN_UP);
    angle += 2 * Math.PI * STROKES * (emf / turning) * step;
    eta += ((cell.polarOhms * current - eta) * step) / POLARISES;
  }
  return { step, volts, amps };
}

/** The first pull of a starter is over after so long, s. */
const FIRST_PULL = 0.3;

/** Volts at the posts as the starter's contact closes and nothing turns yet: what a battery is pulled to by the starter's windings alone, however hard it turns. */
export function firstPullVolts({ cell, postOhms, cableOhms, soundAmps, systemVolts }: Starting): number {
  const motor = cableOhms + ARMATURE * ((STATED * (systemVolts / 12)) / soundAmps);
  return (cell.openVolts * motor) / (cell.ohms + postOhms + motor);
}

/** The lowest volts of the first pull, and of what follows it once it turns. */
export function lowestOfCrank({ step, volts }: CrankWave): { first: number; turning: number } {
  const at = Math.round(FIRST_PULL / step);
  const least = (values: Float64Array): number => values.reduce((low, value) => Math.min(low, value), Number.POSITIVE_INFINITY);
  return { first: least(volts.subarray(0, at)), turning: least(volts.subarray(at)) };
}

/**
 * The lowest that a slow meter's hold catches: its means over so long, one after another.
 * @param over seconds that the meter averages over
 */
export function heldLowest({ step, volts }: CrankWave, over: number): number {
  const each = Math.max(1, Math.round(over / step));
  let least = Number.POSITIVE_INFINITY;
  for (let from = 0; from + each <= volts.length; from += each) {
    let sum = 0;
    for (let k = from; k < from + each; k++) sum += volts[k] as number;
    least = Math.min(least, sum / each);
  }
  return least;
}

/** How long a common handheld averages over before its hold sees anything, s. */
const SLOW_HOLD = 0.25;
/** Seconds of a crank in which its lowest has been seen. */
const SEEN = 2;

/** What a slow meter's lowest-hold misses of the first pull on this machine, sound and charged, V. */
export function holdMisses(sheet: Sheet): number {
  const wave = crankWave(healthyState(sheet), SEEN);
  const { first, turning } = lowestOfCrank(wave);
  return heldLowest(wave, SLOW_HOLD) - Math.min(first, turning);
}
