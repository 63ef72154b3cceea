import type { Chance } from "./chance";
import type { Valve } from "./dynamo";

/** What the world needs of a sheet; the published sheet format has it. */
export interface SheetData {
  id: string;
  family: string;
  systemVolts: number;
  winding: string;
  polePairs?: number | undefined;
  ratedAmps?: number | undefined;
  loadAmps?: { normal: number; all: number } | undefined;
  sense: string;
  legs: readonly { id: string }[];
  fuses: readonly { id: string; amps: number }[];
  battery: { chemistry: string; ah?: number | undefined; cca?: number | undefined };
  idleRpm: number;
  testRpm: number;
  bands: readonly { test: string; at?: string | undefined; low?: number | undefined; high?: number | undefined; rpm?: number | undefined }[];
}

export interface Asked {
  test: string;
  at?: string;
  rpm?: number | "idle";
  loads?: string;
  hot?: boolean;
  charged?: boolean;
}

export type Label = "battery" | "rotor" | "stator" | "regulator" | "wiring" | "loads" | "starter" | "drive" | "charge";

/** A hidden fault by this world's own name, with the part that mends it. */
export interface Hidden {
  name: string;
  part: Label;
}

export interface Faults {
  weak: number;
  slip: number;
  open: number;
  short: [leg: number, share: number] | undefined;
  /** Share of the turns shorted in every winding. */
  burnt: number;
  touch: [leg: number, along: number, ohms: number] | undefined;
  bridge: [leg: number, ohms: number] | undefined;
  turns: number;
  hotOpen: number;
  upper: Valve[];
  lower: Valve[];
  leak: [leg: number, ohms: number] | undefined;
  dead: boolean;
  deadHot: boolean;
  runaway: boolean;
  setVolts: number;
  innerGround: number;
  pins: number[];
  cable: number[];
  out: number;
  ground: number;
  feedCut: boolean;
  fuseBlown: boolean;
  post: number;
  draw: number;
  extra: number;
  starter: number;
  starterCable: number;
  aged: number;
  cells: number;
  joint: number;
  size: number;
  /** The unit's output pin is broken off inside: nothing behind its case reaches it. */
  outputInside: boolean;
  /** Of generators with a field: ohms that the brushes add, the winding open, its turns left, where it touches and over how much, ohms in its feed. */
  brush: number;
  fieldOpen: boolean;
  fieldTurns: number;
  fieldTouch: [along: number, ohms: number] | undefined;
  fieldFeed: number;
  /** Turns left in an armature; whether its poles are magnetised the wrong way; its cut-out; speed that the belt loses, 1 when it is off. */
  armature: number;
  backwards: boolean;
  cutout: Valve;
  belt: number;
}

/** Nothing the matter. */
export const SOUND = (legs = 3): Faults => ({
  weak: 1,
  slip: 1,
  open: -1,
  short: undefined,
  burnt: 0,
  touch: undefined,
  bridge: undefined,
  turns: 1,
  hotOpen: -1,
  upper: Array.from({ length: legs }, () => "good" as const),
  lower: Array.from({ length: legs }, () => "good" as const),
  leak: undefined,
  dead: false,
  deadHot: false,
  runaway: false,
  setVolts: 0,
  innerGround: 0,
  pins: Array.from({ length: legs }, () => 0.003),
  cable: Array.from({ length: legs }, () => 0.006),
  out: 0,
  ground: 0,
  feedCut: false,
  fuseBlown: false,
  post: 0,
  draw: 0,
  extra: 0,
  starter: 1,
  starterCable: 0,
  aged: 1,
  cells: 0,
  joint: 0,
  size: 1,
  outputInside: false,
  brush: 0,
  fieldOpen: false,
  fieldTurns: 1,
  fieldTouch: undefined,
  fieldFeed: 0,
  armature: 1,
  backwards: false,
  cutout: "good",
  belt: 0,
});

/** How full the battery comes in. */
export type Fill = "full" | "mixed" | "low";

export interface Kind {
  name: string;
  part: Label;
  weight: number;
  fill: Fill;
  set: (f: Faults, c: Chance, leg: number) => unknown;
}

/** What can fail on one sort of machine, alone and in pairs, and on how many legs. */
export interface Sort {
  legs: number;
  kinds: readonly Kind[];
  pairs: readonly (readonly [string, string, number])[];
}

/** Kinds of fault, how often (relative), what mends them, and what each does. */
export const KINDS: Kind[] = [
  { name: "aged", part: "battery", weight: 14, fill: "mixed", set: (f, c) => Object.assign(f, { aged: c.between(2.2, 8) }) },
  { name: "dead cell", part: "battery", weight: 5, fill: "mixed", set: (f, c) => Object.assign(f, { cells: c.yes(0.7) ? 1 : c.between(0.45, 1) }) },
  { name: "joint", part: "battery", weight: 1.5, fill: "mixed", set: (f, c) => Object.assign(f, { joint: c.decades(0.12, 20) }) },
  { name: "weak magnets", part: "rotor", weight: 4, fill: "low", set: (f, c) => Object.assign(f, { weak: c.between(0.35, 0.78) }) },
  { name: "winding open", part: "stator", weight: 5, fill: "low", set: (f, _c, leg) => Object.assign(f, { open: leg }) },
  { name: "turns shorted", part: "stator", weight: 7, fill: "low", set: (f, c, leg) => Object.assign(f, { short: [leg, c.between(0.12, 0.7)] }) },
  {
    name: "touches case",
    part: "stator",
    weight: 7,
    fill: "low",
    set: (f, c, leg) => Object.assign(f, { touch: [leg, c.between(0.05, 0.95), c.decades(0.03, 20_000)] }),
  },
  // Varnish burnt off everywhere: turns gone in every winding, which mostly touch the core by then.
  {
    name: "burnt",
    part: "stator",
    weight: 3,
    fill: "low",
    set: (f, c, leg) => {
      f.burnt = c.between(0.04, 0.45);
      if (c.yes(0.65)) f.touch = [leg, c.between(0.05, 0.95), c.decades(0.03, 30)];
    },
  },
  { name: "bridged", part: "stator", weight: 1, fill: "low", set: (f, c, leg) => Object.assign(f, { bridge: [leg, c.decades(0.03, 3)] }) },
  { name: "opens hot", part: "stator", weight: 2.5, fill: "low", set: (f, _c, leg) => Object.assign(f, { hotOpen: leg }) },
  { name: "wrong stator", part: "stator", weight: 1.5, fill: "low", set: (f, c) => Object.assign(f, { turns: c.between(0.5, 0.78) }) },
  { name: "diode open", part: "regulator", weight: 6, fill: "low", set: (f, c, leg) => (c.yes(0.5) ? f.upper : f.lower).splice(leg, 1, "open") },
  { name: "diode shorted", part: "regulator", weight: 6, fill: "low", set: (f, c, leg) => (c.yes(0.4) ? f.upper : f.lower).splice(leg, 1, "short") },
  {
    name: "half dead",
    part: "regulator",
    weight: 2,
    fill: "low",
    set: (f, c) => Object.assign(f, c.yes(0.6) ? { upper: ["open", "open", "open"] } : { lower: ["open", "open", "open"] }),
  },
  {
    name: "leg of unit dead",
    part: "regulator",
    weight: 1.2,
    fill: "low",
    set: (f, _c, leg) => {
      f.upper.splice(leg, 1, "open");
      f.lower.splice(leg, 1, "open");
    },
  },
  {
    name: "two diodes open",
    part: "regulator",
    weight: 1.5,
    fill: "low",
    set: (f, c, leg) => {
      (c.yes(0.5) ? f.upper : f.lower).splice(leg, 1, "open");
      (c.yes(0.5) ? f.upper : f.lower).splice((leg + (c.yes(0.5) ? 1 : 2)) % 3, 1, "open");
    },
  },
  { name: "output broken inside", part: "regulator", weight: 1, fill: "low", set: (f) => Object.assign(f, { outputInside: true }) },
  { name: "leaks", part: "regulator", weight: 4, fill: "low", set: (f, c, leg) => Object.assign(f, { leak: [leg, c.decades(20, 500)] }) },
  { name: "dead", part: "regulator", weight: 8, fill: "low", set: (f) => Object.assign(f, { dead: true }) },
  { name: "dead when hot", part: "regulator", weight: 2, fill: "low", set: (f) => Object.assign(f, { deadHot: true }) },
  { name: "set high", part: "regulator", weight: 3, fill: "full", set: (f, c) => Object.assign(f, { setVolts: c.between(0.9, 3) }) },
  { name: "set low", part: "regulator", weight: 2.5, fill: "low", set: (f, c) => Object.assign(f, { setVolts: -c.between(0.8, 2.2) }) },
  { name: "runaway", part: "regulator", weight: 4, fill: "full", set: (f) => Object.assign(f, { runaway: true }) },
  { name: "inner ground", part: "regulator", weight: 0.8, fill: "low", set: (f, c) => Object.assign(f, { innerGround: c.decades(0.5, 100) }) },
  { name: "pin burnt", part: "wiring", weight: 8, fill: "low", set: (f, c, leg) => f.pins.splice(leg, 1, c.yes(0.35) ? 1e7 : c.decades(0.3, 30)) },
  { name: "cable broken", part: "wiring", weight: 3, fill: "low", set: (f, _c, leg) => f.cable.splice(leg, 1, 1e7) },
  { name: "output wire", part: "wiring", weight: 4, fill: "low", set: (f, c) => Object.assign(f, { out: c.decades(0.08, 1) }) },
  { name: "ground wire", part: "wiring", weight: 3, fill: "low", set: (f, c) => Object.assign(f, { ground: c.decades(0.08, 2) }) },
  { name: "feed cut", part: "wiring", weight: 2, fill: "low", set: (f) => Object.assign(f, { feedCut: true }) },
  { name: "fuse", part: "wiring", weight: 3, fill: "low", set: (f) => Object.assign(f, { fuseBlown: true }) },
  { name: "post", part: "wiring", weight: 3, fill: "mixed", set: (f, c) => Object.assign(f, { post: c.decades(0.025, 0.8) }) },
  { name: "draw", part: "loads", weight: 7, fill: "low", set: (f, c) => Object.assign(f, { draw: c.decades(20, 1000) }) },
  { name: "too many loads", part: "loads", weight: 2, fill: "low", set: (f, c) => Object.assign(f, { extra: c.between(0.5, 1.1) }) },
  { name: "starter", part: "starter", weight: 3, fill: "mixed", set: (f, c) => Object.assign(f, { starter: c.between(1.5, 2.6) }) },
  { name: "starter cable", part: "starter", weight: 1.5, fill: "mixed", set: (f, c) => Object.assign(f, { starterCable: c.decades(0.008, 0.08) }) },
];

/** Pairs that come together. */
export const PAIRS: [string, string, number][] = [
  ["winding open", "diode open", 1],
  ["winding open", "diode shorted", 1],
  ["turns shorted", "diode shorted", 1.4],
  ["turns shorted", "diode open", 1],
  ["touches case", "diode shorted", 1.2],
  ["touches case", "diode open", 1.2],
  ["pin burnt", "diode open", 1.2],
  ["pin burnt", "diode shorted", 1.2],
  ["winding open", "dead", 0.8],
  ["turns shorted", "dead", 0.8],
  ["touches case", "dead", 0.8],
  ["pin burnt", "dead", 0.8],
  ["set high", "aged", 1],
  ["runaway", "aged", 1.5],
  ["runaway", "dead cell", 0.8],
  ["dead", "aged", 1],
  ["winding open", "aged", 0.8],
  ["turns shorted", "aged", 0.8],
  ["touches case", "aged", 0.8],
  ["pin burnt", "aged", 0.8],
  ["diode open", "aged", 0.8],
  ["diode shorted", "aged", 0.8],
  ["draw", "aged", 0.8],
];

/** What owners say of it, by cause, and how often they do. */
export const SAID: Record<string, [string, number][]> = {
  draw: [["flat-overnight", 0.65]],
  leaks: [["flat-overnight", 0.65]],
  aged: [
    ["slow-crank", 0.5],
    ["flat-overnight", 0.2],
  ],
  "dead cell": [
    ["no-crank", 0.4],
    ["slow-crank", 0.3],
  ],
  starter: [["slow-crank", 0.6]],
  "starter cable": [["slow-crank", 0.6]],
  post: [["no-crank", 0.4]],
  runaway: [
    ["boiled-battery", 0.4],
    ["lamps-burn-out", 0.35],
  ],
  "set high": [
    ["boiled-battery", 0.35],
    ["lamps-burn-out", 0.2],
  ],
  "opens hot": [["when-warm", 0.75]],
  "dead when hot": [["when-warm", 0.75]],
  "too many loads": [["new-accessory", 0.6]],
  flat: [["sat-long", 0.5]],
};

export const THREE_LEGS: Sort = { legs: 3, kinds: KINDS, pairs: PAIRS };

/** Which faults a machine has. */
export function draw(c: Chance, { kinds, pairs }: Sort): string[] {
  const kind = c.weighted<"none" | "flat" | "one" | "two">([
    ["none", 6],
    ["flat", 8],
    ["one", 68],
    ["two", 18],
  ]);
  if (kind === "none") return [];
  if (kind === "flat") return ["flat"];
  if (kind === "one") return [c.weighted(kinds.map(({ name, weight }) => [name, weight] as const))];
  const [first, second] = c.weighted(pairs.map(([a, b, weight]) => [[a, b] as const, weight] as const));
  return [first, second];
}
