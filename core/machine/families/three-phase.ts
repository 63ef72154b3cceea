import { polePairsOf, printedMiddle, printedVoltsPerRpm } from "../printed";
import { middleOf, type Range, rangesOf } from "../ranges";
import type { Sheet } from "../sheet";
import type { Winding } from "../state";
import { type Coil, type Family, HALVES, type Leads, wayAt } from "./family";
import { permanentMagnetElements } from "./permanent-magnet";

/** What the three-phase permanent-magnet families share: three equal legs, in wye or delta, into six ways. */
export function threePhase(own: Pick<Family, "id" | "title" | "blurb" | "unit"> & Partial<Family>): Family {
  const family: Family = {
    terminals: ["1", "2", "3"].map((id) => ({ id, role: "a leg" })),
    ownNames: true,
    joins: [
      ["wye", 0.65],
      ["delta", 0.35],
    ],
    mayBe: [],
    amps: (kind) => rangesOf(kind).amps,
    pairs: round,
    acPairs: round,
    innerDiodes: () => [],
    lampLeads: () => [],
    switchedLeads: () => [],
    agree: (leads) => [round(leads)],
    floating: (leads) => [...leads],
    neighbours: round,
    ways: (leads) => HALVES.flatMap((half) => leads.map((lead) => wayAt(lead, half))),
    alike: (leads) => leads.map((_, turn) => leads.map((_lead, i) => leads[(i - turn + leads.length) % leads.length] as string)),
    secondSeat: (lead, leads) => (lead === leads[0] ? lead : (leads[1] as string)),
    twoWays,
    windings,
    coils: ({ sheet: { legs }, winding }) =>
      legs.map(
        ({ id }, i): Coil => ({
          lead: id,
          from: `leg:${id}`,
          to: winding === "delta" ? `leg:${legs[(i + 1) % legs.length]?.id}` : "neutral",
          phase: (-360 * i) / legs.length,
        }),
      ),
    elements: (state, standing) => permanentMagnetElements(family, state, standing),
    lacks: [],
    bands: [],
    looks: { wires: [3], unit: ["finned"], generator: "flywheel", earthed: "none" },
    untested: [],
    ...own,
  };
  return family;
}

/** Each leg with the next. */
function round(leads: Leads): string[] {
  return leads.map((lead, i) => `${lead}-${leads[(i + 1) % leads.length]}`);
}

/** In one half, a leg and the next; across the halves, a leg and either other. Both of one leg are a fault of their own. */
function twoWays(leads: Leads): [string, string][] {
  return leads.flatMap((lead, i): [string, string][] => {
    const others = leads.slice(1).map((_, k) => leads[(i + 1 + k) % leads.length] as string);
    const [next = lead] = others;
    return [
      [wayAt(lead, "upper"), wayAt(next, "upper")],
      [wayAt(lead, "lower"), wayAt(next, "lower")],
      ...others.map((other): [string, string] => [wayAt(lead, "upper"), wayAt(other, "lower")]),
    ];
  });
}

/** Volts between two legs, unloaded, at 5,000 rpm, for 12 V: much the same on small and large machines. */
const PAIR_VOLTS: Range = [32, 90];

/** Ohms of a pair: less copper where more current flows. */
const pairOhmsAt = (amps: number): number => Math.min(1.3, Math.max(0.12, 0.36 * (24 / amps) ** 1.1));

/** Peak of one phase over the rms between two legs of a wye: √2 / √3·… = 1/1.2247 (IEC 60034 line and phase quantities). */
const PAIR_TO_PEAK = Math.sqrt(1.5);

/**
 * EMF from the unplugged AC band, copper from the pair ohms, inductance from the rated amps: a permanent-magnet machine into a
 * rectifier tends to Idc = (3/π)·E/(ωL) with speed, so L = (90/π²)·Ke/(p·Imax).
 */
function windings(sheet: Sheet, amps: number): Winding[] {
  const pairVoltsPerRpm = printedVoltsPerRpm(sheet, middleOf(PAIR_VOLTS) * (sheet.systemVolts / 12));
  const pairOhms = printedMiddle(sheet, "stator.resistance", pairOhmsAt(amps));
  const delta = sheet.winding === "delta";
  const peak = pairVoltsPerRpm / PAIR_TO_PEAK;
  const henries = ((90 / Math.PI ** 2) * peak) / (polePairsOf(sheet) * amps);
  return sheet.legs.map(() => ({
    voltsPerRpm: delta ? peak * Math.sqrt(3) : peak,
    ohms: delta ? 1.5 * pairOhms : pairOhms / 2,
    henries: delta ? 3 * henries : henries,
    open: false,
  }));
}
