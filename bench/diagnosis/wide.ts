import { Chance } from "./chance";
import type { SheetData } from "./kinds";

/** What is told of a machine that nobody has a sheet for: what eyes see. */
export interface Seen {
  family: string;
  systemVolts: 12;
  kind: string;
}

/** Kinds of machine with how often they come, their batteries and the speeds they are tested at. */
const COMES: [kind: string, often: number, ah: [number, number], idle: [number, number], test: number][] = [
  ["motorcycle", 36, [5, 22], [1000, 1500], 5000],
  ["scooter", 14, [4, 11], [1400, 1900], 5000],
  ["atv", 20, [8, 32], [1100, 1600], 5000],
  ["snowmobile", 12, [8, 22], [1300, 1900], 5000],
  ["outboard", 14, [25, 100], [650, 950], 3000],
  ["mower", 4, [14, 40], [1300, 1900], 3600],
];

/** A figure as a sheet would print it, the true one somewhere inside. */
const band = (test: string, middle: number, share: number, rpm?: number) => ({
  test,
  low: middle * (1 - share),
  high: middle * (1 + share),
  ...(rpm ? { rpm } : {}),
});

/**
 * A machine drawn from wide ranges: 10 to 60 A, 4 to 100 Ah, 0.1 to 1.5 Ω, 30 to 90 V, wye or delta, three kinds of unit. Its sheet
 * is this world's own knowledge; the program is told what {@link Seen} holds.
 */
export function wideMachine(seed: number): { sheet: SheetData; seen: Seen } {
  const c = new Chance(seed ^ 0x5bd1e995);
  const [kind, , ahRange, idleRange, testRpm] = COMES[c.weighted(COMES.map(([, often], i) => [i, often] as const))] as (typeof COMES)[number];
  const small = kind === "scooter" || kind === "mower";
  const amps = c.decades(small ? 10 : 12, small ? 25 : 60);
  // Any sound machine carries its loads at the speed it is tested at.
  const volts = c.between(33, 88) * Math.max(1, Math.sqrt(5000 / testRpm));
  const ohms = Math.min(1.5, Math.max(0.1, 0.36 * (24 / amps) * Math.exp(c.normal(0.4))));
  const ah = c.decades(...ahRange);
  const normal = amps * c.between(0.2, 0.42);
  const all = Math.min(0.62 * amps, normal * c.between(1.2, 1.8));
  const family = c.weighted([
    ["three-phase-shunt", 0.6],
    ["three-phase-series", 0.28],
    ["three-phase-mosfet", 0.12],
  ] as const);
  const set = c.between(14.0, 14.75);
  const sheet: SheetData = {
    id: `wide-${seed}`,
    family,
    systemVolts: 12,
    winding: c.yes(0.65) ? "wye" : "delta",
    polePairs: Math.round(c.between(4, 12)),
    ratedAmps: amps,
    loadAmps: { normal, all },
    sense: c.yes(0.4) ? "battery" : "output",
    legs: ["1", "2", "3"].map((id) => ({ id })),
    fuses: [{ id: "main", amps: 30 }],
    battery: { chemistry: c.yes(0.5) ? "flooded" : "agm", ah, cca: ah * c.between(10, 16) },
    idleRpm: Math.round(c.between(...idleRange)),
    testRpm,
    bands: [band("charge.volts", set, 0.02), band("stator.resistance", ohms, 0.2), band("stator.acVolts", volts, 0.12, 5000)],
  };
  return { sheet, seen: { family: "three-phase", systemVolts: 12, kind } };
}
