/** How full a battery is, from its volts and back: rest-volt tables by chemistry, for 12 V; 6 V is half of it. */

/** What stores charge; a capacitor in a battery's place keeps none past the engine's stop. */
export const CHEMISTRIES = ["flooded", "agm", "gel", "lithium-iron", "capacitor"] as const;
export type Chemistry = (typeof CHEMISTRIES)[number];
/** Those that are charged and rest. */
export type Storing = Exclude<Chemistry, "capacitor">;

/** Rest volts at 25 °C against state of charge, rising (typical of makers' charts; lithium iron phosphate four cells). */
const REST_VOLTS: Record<Chemistry, readonly (readonly [charge: number, volts: number])[]> = {
  flooded: [
    [0, 11.6],
    [0.25, 12.03],
    [0.5, 12.24],
    [0.75, 12.46],
    [1, 12.7],
  ],
  agm: [
    [0, 11.7],
    [0.25, 12.08],
    [0.5, 12.34],
    [0.75, 12.58],
    [1, 12.85],
  ],
  gel: [
    [0, 11.7],
    [0.25, 12.05],
    [0.5, 12.35],
    [0.75, 12.62],
    [1, 12.87],
  ],
  "lithium-iron": [
    [0, 11.2],
    [0.05, 12.4],
    [0.1, 12.75],
    [0.2, 12.95],
    [0.4, 13.12],
    [0.7, 13.22],
    [0.9, 13.3],
    [1, 13.45],
  ],
  capacitor: [[0, 0]],
};

/** Change of the rest volts with temperature, V/K for six lead cells (electrolyte EMF, about 0.2 mV/K a cell). */
const REST_VOLTS_PER_K = 0.0012;

/** Surface charge right after charging, V above rest for 12 V, and the hours in which it falls to a third. */
const SURFACE: Record<Chemistry, { volts: number; hours: number }> = {
  flooded: { volts: 0.35, hours: 2 },
  agm: { volts: 0.4, hours: 3 },
  gel: { volts: 0.4, hours: 3 },
  "lithium-iron": { volts: 0.12, hours: 0.5 },
  capacitor: { volts: 0, hours: 1 },
};

/** A battery drained past empty falls by so much for each further share of its capacity, V on 12 V: its weakest cells have nothing left. */
const VOLTS_PAST_EMPTY = 25;
/** A battery rests below empty by so much before it counts as drained, V on 12 V. */
const BELOW_EMPTY = 0.25;

/**
 * Rest volts of a battery.
 * @param charge state of charge, 0 to 1; below nought it was drained past empty
 * @param celsius battery temperature
 */
export function restVoltsAt(charge: number, chemistry: Chemistry, systemVolts: 6 | 12, celsius = 25): number {
  const lead = chemistry !== "lithium-iron";
  const past = VOLTS_PAST_EMPTY * Math.max(0, -charge);
  return (interpolate(REST_VOLTS[chemistry], charge) - past + (lead ? REST_VOLTS_PER_K * (celsius - 25) : 0)) * (systemVolts / 12);
}

/** Below this share of its charge the volts of lithium iron phosphate fall off a cliff: what they are there tells no charge any more. */
const CLIFF = 0.05;

/**
 * True for rest volts clearly below those of an empty battery, or on lithium's cliff: drained, or a cell is dead; until it is charged
 * nobody can tell which.
 */
export function isDrained(volts: number, chemistry: Chemistry, systemVolts: 6 | 12): boolean {
  if (chemistry === "lithium-iron") return volts < restVoltsAt(CLIFF, chemistry, systemVolts);
  return volts < restVoltsAt(0, chemistry, systemVolts) - BELOW_EMPTY * (systemVolts / 12);
}

/** What surface charge adds to the rest volts, `hours` after charging ended. */
export function surfaceVolts(chemistry: Chemistry, systemVolts: 6 | 12, hours: number): number {
  const { volts, hours: falls } = SURFACE[chemistry];
  return volts * Math.exp(-hours / falls) * (systemVolts / 12);
}

/**
 * State of charge from rest volts: the table read backwards, surface charge of a short rest taken off first.
 * @returns 0 to 1; undefined for volts no battery of this kind rests at (more than a volt outside its table)
 */
export function chargeFromRest(volts: number, chemistry: Chemistry, systemVolts: 6 | 12, restHours = 24, celsius = 25): number | undefined {
  const lead = chemistry !== "lithium-iron";
  const settled = (volts - surfaceVolts(chemistry, systemVolts, restHours)) * (12 / systemVolts) - (lead ? REST_VOLTS_PER_K * (celsius - 25) : 0);
  const table = REST_VOLTS[chemistry];
  const [first, last] = [table[0] as readonly [number, number], table.at(-1) as readonly [number, number]];
  if (settled < first[1] - 1 || settled > last[1] + 1) return undefined;
  return Math.min(
    1,
    Math.max(
      0,
      interpolate(
        table.map(([charge, at]) => [at, charge] as const),
        settled,
      ),
    ),
  );
}

/** Straight lines between the points of a rising table; flat beyond its ends. */
export function interpolate(table: readonly (readonly [number, number])[], x: number): number {
  const above = table.findIndex(([at]) => at >= x);
  if (above === 0) return (table[0] as readonly [number, number])[1];
  if (above < 0) return (table.at(-1) as readonly [number, number])[1];
  const [[x0, y0], [x1, y1]] = [table[above - 1] as readonly [number, number], table[above] as readonly [number, number]];
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}
