import type { Sheet } from "./sheet";

/** What has to be opened once before anything there can be touched: minutes, where the sheet says nothing. */
export const PLACES = {
  battery: { title: "the battery", minutes: 1 },
  "stator-plug": { title: "the stator plug", minutes: 3 },
  unit: { title: "the regulator/rectifier", minutes: 3 },
  generator: { title: "the generator", minutes: 3 },
  "fuse-box": { title: "the fuse box", minutes: 1 },
  "engine-cover": { title: "the engine cover", minutes: 30 },
} as const;

export type PlaceId = keyof typeof PLACES;

export const PLACE_IDS = Object.keys(PLACES) as [PlaceId, ...PlaceId[]];

/** How a place is reached on a model, as far as its sheet says. */
type Access = NonNullable<Sheet["access"]>[number];

/** What a sheet says of the way to a place. */
export function accessOf(sheet: Pick<Sheet, "access">, place: PlaceId): Access | undefined {
  return sheet.access?.find((spot) => spot.place === place);
}

/** Minutes until each place that a sheet speaks of is open. */
export function openingMinutes({ access = [] }: Pick<Sheet, "access">): Partial<Record<PlaceId, number>> {
  return Object.fromEntries(access.flatMap(({ place, minutes }) => (minutes === undefined ? [] : [[place, minutes]])));
}
