/** How a machine stands while it is looked at: engine, key, speed, loads, and what is parted. */

export type Engine = "off" | "cranking" | "running" | "just-stopped";
export type Key = "out" | "on" | "any";
export type Loads = "off" | "normal" | "all";

/** Connectors that can be parted: stator plug, the unit's plug on the legs, its output plug, the negative cable off its post. */
export const CONNECTORS = ["stator", "unit", "output", "negative"] as const;
export type Connector = (typeof CONNECTORS)[number];

export interface Standing {
  engine: Engine;
  key: Key;
  /** Engine speed while running. */
  rpm: number;
  loads: Loads;
  unplug: readonly Connector[];
  /** Ids of the fuses that are pulled. */
  pulled: readonly string[];
  /** Of a machine that wakes late: whether it has. Left out, it has. */
  awake?: boolean;
  /** The field is fed in full past its regulator, by a wire held there. */
  fullField?: boolean;
}
