import { polePairsOf, printedMiddle, printedVoltsPerRpm } from "../printed";
import { middleOf, type Range } from "../ranges";
import type { Sheet } from "../sheet";
import { type Coil, endsOf, type Family, HALVES, wayAt } from "./family";
import { permanentMagnetElements } from "./permanent-magnet";

/** One winding of a machine whose windings differ: where it lies, and what such windings have where no sheet says. */
interface Wound {
  /** The wire it begins at, and where it ends: another wire, or the engine. */
  lead: string;
  ends: string;
  /** V rms at 5,000 rpm, unloaded, on 12 V. */
  volts: Range;
  ohms: Range;
  /** Share of the rated output that it makes. */
  share: number;
  /** Whether current leaves it one way only. */
  halfWave: boolean;
}

/** The engine, as a winding's end. */
export const ENGINE = "engine";

/** What families of one phase and wires of their own names share. @param wound the windings, in the order of the wires they begin at */
export function singlePhase(
  wound: readonly Wound[],
  own: Pick<Family, "id" | "title" | "blurb" | "terminals" | "unit" | "amps" | "bands" | "looks"> & Partial<Family>,
): Family {
  const grounded = wound.filter(({ ends }) => ends === ENGINE).map(({ lead }) => lead);
  const family: Family = {
    ownNames: false,
    joins: [],
    mayBe: [],
    pairs: () => wound.map(pointOf),
    acPairs: () => wound.map(pointOf),
    innerDiodes: () => [],
    lampLeads: () => [],
    switchedLeads: () => [],
    agree: () => [],
    floating: (leads) => leads.filter((lead) => !grounded.includes(lead)),
    neighbours: () => wound.slice(1).map(({ lead }, i) => `${wound[i]?.lead}-${lead}`),
    ways: (leads) => HALVES.flatMap((half) => leads.map((lead) => wayAt(lead, half))),
    alike: (leads) => [leads],
    secondSeat: (lead) => lead,
    twoWays: (leads) => twoWays(family.ways(leads)),
    windings: (sheet, amps) => wound.map((wound) => windingOf(wound, sheet, amps)),
    coils: () => wound.map(({ lead, ends }): Coil => ({ lead, from: `leg:${lead}`, to: ends === ENGINE ? ENGINE : `leg:${ends}`, phase: 0 })),
    elements: (state, standing) => permanentMagnetElements(family, state, standing),
    lacks: [],
    untested: [],
    ...own,
  };
  return family;
}

/** Where a winding is read: between its wires, or from its wire to the engine. */
const pointOf = ({ lead, ends }: Pick<Wound, "lead" | "ends">): string => (ends === ENGINE ? lead : `${lead}-${ends}`);

/** Every two ways of the unit that do not serve the same wire. */
function twoWays(ways: readonly string[]): [string, string][] {
  const lead = (way: string): string => endsOf(way).lead;
  return ways.flatMap((way, i) => ways.slice(i + 1).flatMap((other): [string, string][] => (lead(way) === lead(other) ? [] : [[way, other]])));
}

/**
 * A coil into a rectifier that holds square volts of amplitude V against it: E² = V₁² + (ωL·I)² with V₁ = (4/π)·V (first harmonic),
 * and a mean of (2/π)·I comes out full wave. Half wave V stands against it for half of the time, and of what then swings about a
 * third of I comes out (found by running the circuit).
 */
const FIRST_HARMONIC = 4 / Math.PI;
const MEAN = { fullWave: 2 / Math.PI, halfWave: 0.33 } as const;
/** Volts at a rectifier's input while it charges, on 12 V: the battery's and those of two junctions. */
const HELD_VOLTS = 15.6;
/** A coil whose volts are hardly above the battery's is taken to reach this share of them all the same. */
const LEAST_REACH = 0.5;

function windingOf({ lead, ends, volts, ohms, share, halfWave }: Wound, sheet: Sheet, amps: number): ReturnType<Family["windings"]>[number] {
  const at = pointOf({ lead, ends });
  const scale = sheet.systemVolts / 12;
  const voltsPerRpm = Math.SQRT2 * printedVoltsPerRpm(sheet, middleOf(volts) * scale, at);
  const peak = voltsPerRpm * sheet.testRpm;
  const against = (halfWave ? 0.5 : 1) * FIRST_HARMONIC * HELD_VOLTS * scale;
  const reach = Math.max(LEAST_REACH * peak, Math.sqrt(Math.max(0, peak ** 2 - against ** 2)));
  const radians = (2 * Math.PI * polePairsOf(sheet) * sheet.testRpm) / 60;
  return {
    voltsPerRpm,
    ohms: printedMiddle(sheet, "stator.resistance", middleOf(ohms), at),
    henries: (MEAN[halfWave ? "halfWave" : "fullWave"] * reach) / (radians * share * amps),
    open: false,
  };
}
