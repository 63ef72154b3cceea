/** The cautions, each standing beside the steps it belongs to. Local codes and the maker's procedure go first. */
export const CAUTIONS = {
  hydrogen: "Batteries give off hydrogen: ventilate, no flame or spark near the posts.",
  acid: "Acid: goggles and gloves; rinse with water at once.",
  "negative-first": "Disconnect the earthed post of the battery first, negative on most machines; connect it last.",
  "no-sparks": "No sparks at the battery: make the last connection away from it.",
  capacitor: "A charged capacitor burns and welds: discharge it through a lamp. The wrong way round it bursts: plus to the output wire.",
  exhaust: "Exhaust holds carbon monoxide: doors open or extraction on.",
  "moving-parts": "Stand, neutral, brake, tether in place; clear of chain, belt, track, propeller, flywheel. Rear lifted: shielded, nobody behind.",
  "high-volts": "Unplugged, it makes up to 100 V AC: insulated probes, one hand, no bare skin.",
  "hot-engine": "Hot cases and exhaust: gloves, leads clear.",
  crank: "Stop it from starting by the maker's method. An open plug lead can destroy electronic ignition.",
  "load-tester": "A carbon-pile tester gets very hot: 15 seconds, then let it cool.",
  ammeter: "Never turn the key or crank with the ammeter in series: it blows the meter's fuse.",
  "battery-running": "Never disconnect the battery while the engine runs.",
  marine: "Boats: blower and bilge check before any spark; cooling water on, nobody near the propeller; marine codes go first.",
  polarise: "A generator is polarised after every time it was apart, for a moment only and by the maker's procedure; the wrong way round burns the cut-out.",
  "generator-fixed": "Motoring it pulls it round with a jerk: clamp it, keep fingers and sleeves clear, seconds only.",
  "full-field": "Fed in full nothing holds the volts down: a moment only, watch the meter, stop at 16 V (8 V on 6 V).",
  lithium: "Lithium pack: only the maker's charger and limits; stop if it swells or is warm.",
  track: "Track: rear lifted on its stand and shielded, nobody behind it, tether clipped on.",
  ignition: "High-voltage ignition windings can sit on this stator: name every wire before a probe goes on.",
  mower: "Mower blades disengaged and the operator-presence switch working.",
} as const;

export type CautionId = keyof typeof CAUTIONS;
export const CAUTION_IDS = Object.keys(CAUTIONS) as [CautionId, ...CautionId[]];

/** Cautions of what injures at once; whoever works there says once a job that they have been read. */
const INJURING: readonly CautionId[] = [
  "hydrogen",
  "load-tester",
  "crank",
  "moving-parts",
  "high-volts",
  "full-field",
  "generator-fixed",
  "marine",
  "track",
  "mower",
  "ignition",
  "lithium",
];

/** Which of some cautions are still to be said to have been read in this job. */
export function toBeSeen(ids: readonly CautionId[], seen: readonly CautionId[]): CautionId[] {
  return ids.filter((id) => INJURING.includes(id) && !seen.includes(id));
}

/** Said wherever work is advised: what goes before anything Uvrel says. */
export const PRECEDENCE =
  "Local codes, licensed practice and the maker's procedure take precedence over Uvrel. Where they ask for a licence, hand the work to someone who holds it.";
