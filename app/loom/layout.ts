import type { Loose } from "../../core/machine/loose";
import type { Point } from "../../core/machine/points";
import type { Sheet } from "../../core/machine/sheet";
import { testOf } from "../../core/procedure/catalogue";
import { probesOf, type Step } from "../../core/procedure/step";

/** The strip is made of zones, left to right; a folded loom shows only those the test touches. */
export const ZONES = ["generator", "connector", "unit", "output", "battery", "loads"] as const;

export type Zone = (typeof ZONES)[number];

/** Width of each zone in the loom's own units. */
export const ZONE_WIDTH: Record<Zone, number> = { generator: 210, connector: 250, unit: 250, output: 210, battery: 190, loads: 170 };

/** Heights that all zones share. */
export const Y = { tags: 4, name: 76, top: 92, wire: 126, legStep: 30, bottom: 214, meter: 226, rail: 282, height: 306 } as const;

/** Places inside the zones, from each zone's left edge. */
export const IN = {
  generator: { centre: 108, radius: 70 },
  connector: { part: 92, harness: 172, pinWidth: 34, engine: 34 },
  unit: { left: 62, right: 200, pin: 44, cable: 14, output: 222, feed: 242, ground: 130, exciter: 184 },
  output: { fuse: 78, fuseWidth: 58 },
  battery: { left: 42, right: 142, plus: 62, minus: 122, post: 100, box: 112 },
  loads: { starter: 44, lamp: 118 },
} as const;

/** Where each shown zone begins, and how wide the strip is. */
export interface Layout {
  zones: readonly Zone[];
  left: Partial<Record<Zone, number>>;
  width: number;
}

/** Lays zones out side by side. */
export function layOut(zones: readonly Zone[]): Layout {
  let width = 0;
  const left: Partial<Record<Zone, number>> = {};
  for (const zone of ZONES) {
    if (!zones.includes(zone)) continue;
    left[zone] = width;
    width += ZONE_WIDTH[zone];
  }
  return { zones: ZONES.filter((zone) => zones.includes(zone)), left, width };
}

/** The zone in which a probe point lies. */
export function zoneOf(point: Point): Zone {
  const kind = point.split(":")[0];
  switch (kind) {
    case "leg":
    case "harness":
    case "engine":
      return "connector";
    case "cable":
    case "unitLeg":
    case "B+":
    case "feed":
    case "B-":
    case "exciter":
      return "unit";
    case "fuse":
      return "output";
    case "starter+":
      return "loads";
    default:
      return "battery";
  }
}

/** The zone a part is drawn in. */
const NEIGHBOUR: Record<Zone, Zone> = {
  generator: "connector",
  connector: "generator",
  unit: "connector",
  output: "battery",
  battery: "loads",
  loads: "battery",
};

/** The two or three zones that a step touches: its probe points, and a neighbour so that the place is recognised. */
export function zonesOf(step: Step): Zone[] {
  const probes = probesOf(step);
  const test = testOf(step.test);
  if (!probes) {
    if (test.id === "inspect.connector") return step.at === "output" ? ["unit", "output"] : ["generator", "connector"];
    if (test.id === "inspect.tach") return ["connector", "unit"];
    if (test.group === "stator" || test.id === "inspect.belt") return ["generator", "connector"];
    return test.group === "regulator" ? ["unit", "output"] : ["output", "battery"];
  }
  const touched = new Set([zoneOf(probes.red), zoneOf(probes.black)]);
  const [only] = touched;
  if (touched.size === 1 && only) touched.add(NEIGHBOUR[only]);
  const places = [...touched].map((zone) => ZONES.indexOf(zone));
  return ZONES.slice(Math.min(...places), Math.max(...places) + 1);
}

/** The zones in which a part that came without its machine is drawn. */
export const LOOSE_ZONES: Record<Loose, readonly Zone[]> = {
  battery: ["battery"],
  stator: ["generator", "connector"],
  regulator: ["unit"],
  generator: ["generator", "connector"],
};

export interface Spot {
  x: number;
  y: number;
}

/** Height of a leg's wire, the legs centred about the middle of the strip. */
export function legY(sheet: Pick<Sheet, "legs">, index: number): number {
  const count = sheet.legs.length;
  // More than three stand closer, within the same height; five need a little more of it.
  if (count > 4) return Y.wire - 8 + 19 * index;
  return count > 3 ? Y.wire + (2 * Y.legStep * index) / (count - 1) : Y.wire + Y.legStep * (index + (3 - count) / 2);
}

/** Height of the middle between the wires. */
export const middleY = (sheet: Pick<Sheet, "legs">): number => (legY(sheet, 0) + legY(sheet, sheet.legs.length - 1)) / 2;

/** Where a point is drawn; undefined when its zone is folded away or the sheet has no such leg or fuse. */
export function spotOf(point: Point, sheet: Pick<Sheet, "legs" | "fuses">, layout: Layout): Spot | undefined {
  const left = layout.left[zoneOf(point)];
  if (left === undefined) return undefined;
  const [kind, id] = point.split(":");
  const leg = sheet.legs.findIndex((leg) => leg.id === id);
  switch (kind) {
    case "leg":
      return leg < 0 ? undefined : { x: left + IN.connector.part + IN.connector.pinWidth / 2, y: legY(sheet, leg) };
    case "harness":
      return leg < 0 ? undefined : { x: left + IN.connector.harness + IN.connector.pinWidth / 2, y: legY(sheet, leg) };
    case "cable":
      return leg < 0 ? undefined : { x: left + IN.unit.cable, y: legY(sheet, leg) };
    case "unitLeg":
      return leg < 0 ? undefined : { x: left + IN.unit.pin, y: legY(sheet, leg) };
    case "engine":
      return { x: left + IN.connector.engine, y: Y.rail };
    case "B+":
      return { x: left + IN.unit.output, y: Y.wire };
    case "feed":
      return { x: left + IN.unit.feed, y: Y.wire };
    case "B-":
      return { x: left + IN.unit.ground, y: Y.bottom + 14 };
    case "exciter":
      return { x: left + IN.unit.exciter, y: Y.bottom + 14 };
    case "fuse":
      return { x: left + IN.output.fuse + (point.endsWith("in") ? IN.output.fuseWidth : 0), y: Y.wire };
    case "battery+":
      return { x: left + IN.battery.plus, y: IN.battery.post - 4 };
    case "post+":
      return { x: left + IN.battery.plus, y: IN.battery.box + 14 };
    case "battery-":
      return { x: left + IN.battery.minus, y: IN.battery.post - 4 };
    case "cable-":
      return { x: left + IN.battery.right + 16, y: Y.rail - 26 };
    default:
      return { x: left + IN.loads.starter, y: Y.top + 4 };
  }
}

/** A label hanging on the loom: the readings of one test in few figures, at the point where they were taken. */
export interface ReadingTag {
  zone: Zone;
  text: string;
  bad: boolean;
  /** The test that a tap on it leads to. */
  step: Step;
}

/** From where to where a zone's tags may reach: over the zones beside it, as far as none of those has tags of its own. */
export function tagReach(zone: Zone, layout: Layout, tags: readonly ReadingTag[]): { from: number; to: number } {
  const at = layout.zones.indexOf(zone);
  const isFree = (other: Zone | undefined): boolean => other !== undefined && tags.every((tag) => tag.zone !== other);
  let [first, last] = [at, at];
  while (isFree(layout.zones[first - 1])) first--;
  while (isFree(layout.zones[last + 1])) last++;
  const [from, end] = [layout.zones[first] as Zone, layout.zones[last] as Zone];
  return { from: layout.left[from] ?? 0, to: (layout.left[end] ?? 0) + ZONE_WIDTH[end] };
}

/** Where the meter of the active test stands: below the parts, near its probes, clear of the ground wires. */
export function meterX(red: Spot, black: Spot, layout: Layout, width: number): number {
  const blocked = [
    layout.left.unit === undefined ? undefined : layout.left.unit + IN.unit.ground,
    layout.left.battery === undefined ? undefined : layout.left.battery + IN.battery.right + 16,
    layout.left.loads === undefined ? undefined : layout.left.loads + IN.loads.starter,
    layout.left.loads === undefined ? undefined : layout.left.loads + IN.loads.lamp,
  ].filter((x) => x !== undefined);
  const wanted = (red.x + black.x) / 2 - width / 2;
  const clear = (x: number) => x >= 6 && x + width <= layout.width - 6 && blocked.every((wire) => wire < x - 8 || wire > x + width + 8);
  for (let shift = 0; shift < layout.width; shift += 8) {
    if (clear(wanted + shift)) return wanted + shift;
    if (clear(wanted - shift)) return wanted - shift;
  }
  return Math.max(6, Math.min(wanted, layout.width - width - 6));
}
