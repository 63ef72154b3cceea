/** What kind of machine it is; a kind adds its own cautions to the tests under way. */
export const KINDS = {
  motorcycle: "Motorcycle",
  scooter: "Scooter",
  atv: "ATV",
  snowmobile: "Snowmobile",
  outboard: "Outboard",
  boat: "Boat",
  mower: "Ride-on mower",
} as const;

export type Kind = keyof typeof KINDS;

export const KIND_IDS = Object.keys(KINDS) as [Kind, ...Kind[]];
