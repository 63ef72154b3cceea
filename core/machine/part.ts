/** The parts a mechanic can buy or mend; every verdict names one of them, or `none`. */
export const PARTS = ["battery", "rotor", "stator", "regulator", "wiring", "loads", "starter", "drive"] as const;

export type Part = (typeof PARTS)[number];

export const PART_NAMES: Record<Part | "none", string> = {
  battery: "Battery",
  rotor: "Rotor",
  stator: "Stator",
  regulator: "Regulator/rectifier",
  wiring: "Wiring",
  loads: "Loads",
  starter: "Starter",
  drive: "Belt",
  none: "Nothing failed",
};
