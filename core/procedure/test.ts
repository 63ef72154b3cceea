import type { Point } from "../machine/points";
import type { Connector, Engine, Key, Loads } from "../machine/standing";
import type { Unit } from "../units";
import type { CautionId } from "./cautions";
import type { ToolId } from "./tools";

/** The stages of the job, in the order that most shops work. */
export const GROUPS = {
  walk: "Walk up",
  battery: "Battery",
  charge: "Charging",
  stator: "Stator",
  regulator: "Regulator/rectifier",
  wiring: "Wiring under charge",
  drain: "Drain",
} as const;

export type GroupId = keyof typeof GROUPS;

/** How a test's points are laid out on a machine: none, one a leg, one a leg that carries the output, one a leg that no sound winding joins to the engine, one where ohms or AC volts of windings are read, one a cell of the battery, one a lead with a diode built in and its two directions, the diode directions, one a fuse, named places, a place that whoever reads it names, or the wire that a tachometer counts. */
type PointKind =
  | "none"
  | "leg"
  | "carrying"
  | "floating"
  | "pair"
  | "acPair"
  | "innerLead"
  | "innerDiode"
  | "diode"
  | "cell"
  | "fuse"
  | "place"
  | "named"
  | "tach";

export type Dial = "V DC" | "V AC" | "Ω" | "diode" | "A DC" | "eyes" | "tester";

/** How the machine stands while a test is taken. */
export interface SetUp {
  engine: Engine;
  key: Key;
  /** Which connectors are parted. */
  unplug: readonly Connector[];
  /** The field is fed in full past its regulator. */
  fullField?: true;
  /** What to do in words, each sentence starting with its verb. */
  do: string;
}

/**
 * A test: one row of the catalogue. `{a}` and `{b}` in titles and points stand for the legs of the point.
 * `possible` bounds what a meter could show at all (outside it an entry is refused); `plausible` bounds what
 * such a machine shows (outside it an entry is kept after one question).
 */
export interface Test {
  id: string;
  group: GroupId;
  title: string;
  /** What it tells, in one sentence. */
  tells: string;
  unit: Unit;
  dial: Dial;
  points: PointKind;
  /** Named places of a `place` test. */
  places?: readonly string[];
  choices?: readonly string[];
  red?: Point;
  black?: Point;
  setUp: SetUp;
  /** Speeds at which the test is taken, and with which loads. */
  runs?: readonly { rpm: "idle" | "test"; loads?: Loads; onlyWhenAsked?: true }[];
  possible: readonly [number, number];
  plausible: readonly [number, number];
  /** Whether the open line is an answer to this test. */
  openAllowed: boolean;
  /** Whether the resistance of the meter's own leads is part of what the meter shows. */
  leadZero?: boolean;
  /** What probe or clamp usually touches at the battery, for tests in which a bad post shows: its own lead, or the cable's lug. */
  touches?: "post" | "lug";
  /** Half a minute and up, per point; what it takes to get there is in `moves.ts`. */
  minutes: number;
  /** What it takes beyond a multimeter. */
  tool?: ToolId;
  /** What a machine must have for it: a field winding, one that turns on rings, an armature, a belt, a unit of its own, a way from the battery to its output, a battery and not a capacitor in its place, one that may have caps, a tachometer that counts one of its wires. */
  needs?: "field" | "ring-field" | "armature" | "belt" | "unit" | "feed" | "battery" | "caps" | "tach";
  cautions: readonly CautionId[];
  /** Both probes are on one conductor: a sound one shows next to nothing, as leads that are off do. */
  alongConductor?: true;
  /** The open line is what a sound part shows, so that tips put together look like the worst of faults. */
  openWhenSound?: true;
  /** Keep the lowest figure seen rather than the one at the end. */
  keepLowest?: boolean;
  /** Eyes find it whatever is parted: no plug is joined again for it. */
  asItStands?: boolean;
  /** Not on the run list unless an earlier reading asks for it. */
  onlyWhenAsked?: boolean;
  /** A word of craft beside the step. */
  hint?: string;
}
