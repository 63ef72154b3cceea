import type { WiringBreak } from "../../core/diagnosis/words/marks";
import { familyOf } from "../../core/machine/families/registry";
import type { FaultId } from "../../core/machine/faults";
import type { Sheet } from "../../core/machine/sheet";
import { ring } from "./coils";
import { IN, type Layout, legY, type Spot, Y, ZONE_WIDTH, type Zone } from "./layout";

/** A place on the loom where wiring is marked, from its zone's left edge. */
interface BrokenSpot extends Spot {
  zone: Zone;
}

/** The legs that a break lies in: the one that is known, or all of them. */
const legsAt = (sheet: Sheet, at: string | undefined): number[] => {
  const known = sheet.legs.findIndex(({ id }) => id === at);
  return known < 0 ? [...sheet.legs.keys()] : [known];
};

/** Where each fault of the wiring is drawn. */
const SPOTS: Partial<Record<FaultId, (sheet: Sheet, at: string | undefined, parted: boolean) => BrokenSpot[]>> = {
  "wiring.leg-burnt": (sheet, at, parted) => {
    const { part, harness, pinWidth } = IN.connector;
    const x = (parted ? harness : part + pinWidth + 2) + pinWidth / 2;
    return legsAt(sheet, at).map((leg) => ({ zone: "connector", x, y: legY(sheet, leg) }));
  },
  "wiring.cable-broken": (sheet, at) => legsAt(sheet, at).map((leg) => ({ zone: "connector", x: ZONE_WIDTH.connector - 14, y: legY(sheet, leg) })),
  "wiring.output-resistance": ({ isolator }) => [onOutputWire(isolator)],
  "wiring.feed-open": ({ isolator }) => [onOutputWire(isolator)],
  "wiring.ground-resistance": ({ family }) => (familyOf(family).unit?.inLead ? [] : [{ zone: "unit", x: IN.unit.ground, y: (Y.bottom + 20 + Y.rail) / 2 }]),
  "wiring.terminals": () => [IN.battery.plus, IN.battery.minus].map((x) => ({ zone: "battery", x, y: IN.battery.post + 6 })),
  "wiring.fuse-open": () => [{ zone: "output", x: IN.output.fuse + IN.output.fuseWidth / 2, y: Y.wire }],
  "wiring.field-feed": ({ family }) => (familyOf(family).field?.fed === "key" ? [{ zone: "unit", x: IN.unit.exciter, y: Y.bottom + 14 }] : []),
};

/** Between the unit's output and the fuse; behind the fuse where an isolator's diode stands there. */
function onOutputWire(isolator: Sheet["isolator"]): BrokenSpot {
  const { fuse, fuseWidth } = IN.output;
  return { zone: "output", x: isolator === "diode" ? fuse + fuseWidth + 40 : fuse / 2, y: Y.wire };
}

/** Where breaks of the wiring are drawn; nowhere as soon as one of them has no place of its own on this machine's loom. */
export function brokenSpots(sheet: Sheet, breaks: readonly WiringBreak[], parted: boolean): BrokenSpot[] {
  const spots = breaks.map(({ fault, at }) => SPOTS[fault]?.(sheet, at, parted) ?? []);
  return spots.every(({ length }) => length > 0) ? spots.flat() : [];
}

/** Condemned wiring, ringed and struck through where it has failed. */
export function BrokenMarks({ spots, layout }: { spots: readonly BrokenSpot[]; layout: Layout }) {
  const shown = spots.flatMap(({ zone, x, y }) => {
    const left = layout.left[zone];
    return left === undefined ? [] : [{ x: left + x, y }];
  });
  if (shown.length === 0) return null;
  return (
    <g stroke="var(--plum)" data-broken="">
      <path d={shown.map(({ x, y }) => ring(x, y, 12)).join("")} strokeWidth="2.6" />
      <path d={shown.map(({ x, y }) => `M${x - 13} ${y + 13}l26 -26`).join("")} strokeWidth="5" />
    </g>
  );
}
