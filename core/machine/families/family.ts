import type { Element, Node } from "../../circuit/netlist";
import type { FaultId } from "../faults";
import type { Kind } from "../kind";
import type { Part } from "../part";
import type { Range } from "../ranges";
import type { Sheet } from "../sheet";
import type { Standing } from "../standing";
import type { MachineState, Way, Winding } from "../state";
import type { Looks } from "./looks";
import type { Naming } from "./naming";

/** A wire out of the engine. */
interface Terminal {
  id: string;
  /** What it is, after its name: "a leg", "common to both windings". */
  role: string;
}

/** How a winding is laid: from the wire it begins at to where it ends, and the phase of its EMF in degrees. */
export interface Coil {
  /** The wire it begins at; the winding goes by its name. */
  lead: string;
  from: Node;
  to: Node;
  phase: number;
}

/** What stands in a rectifier's place while it is sound, lasting for one way of the unit. */
export type RectifierKind = "diode" | "thyristor" | "transistor";

/** What a unit is made of, beside its ways' names. */
export interface UnitPlan {
  /** How it keeps the volts down: it shorts the wires to negative, or it lets go of them. */
  holds: "shorting" | "letting-go";
  upper: RectifierKind;
  lower: RectifierKind;
  /** Wires that a thyristor beside their lower way shorts to negative. */
  shunts: "every" | readonly string[];
  /** Which of its halves a drawing marks as switched. */
  switched: readonly Half[];
  /** There is no box: what rectifies is built into a lead. */
  inLead?: true;
}

/** How a generator differs from its sheet, as factors on EMF and inner resistance, and the share of its volts that its field gets. */
export interface Size {
  emf: number;
  ohms: number;
  fieldShare: number;
}

/** A field winding in the place of magnets. */
export interface FieldPlan {
  /** The part that it belongs to: it turns with the rotor, or it is wound on the poles that stand. */
  part: "rotor" | "stator";
  /** Its wires out of the generator: where it is fed, unless that is inside, and where it goes back to the regulator. */
  wires: { feed?: string; back: string };
  /** What feeds it: a wire from the key, or the armature itself. */
  fed: "key" | "armature";
  /** The test that reads its ohms, and what they are where no sheet says, for 12 V. */
  test: "field.resistance" | "generator.field";
  ohms: Range;
  /** Sound brushes on their rings, or on the commutator, Ω. */
  contactOhms: (sheet: Sheet, ratedAmps: number) => number;
  /** EMF that is left in the iron, as a share of the full one. */
  residual: number;
}

export const HALVES = ["upper", "lower"] as const;
export type Half = (typeof HALVES)[number];

/** What a machine of the family shows at a test where no sheet says; figures for 12 V. */
export interface FamilyBand {
  test: string;
  at?: string;
  low?: number;
  high?: number;
  /** The speed at which the figure holds. */
  rpm?: number;
  says: string;
}

/** The wires' names on one machine, in loom order. */
export type Leads = readonly string[];

/**
 * A charging-system family: a circuit and its tests. Everything in which one family differs from another stands in its own
 * file; the rest of the program asks and compares no family's name.
 */
export interface Family {
  id: string;
  title: string;
  blurb: string;
  /** The wires out of the engine, in loom order. */
  terminals: readonly Terminal[];
  /** Whether a sheet may call the wires by names of its own. */
  ownNames: boolean;
  /** The ways its windings may be joined among each other, each with how often it is met; empty where there is one way only. */
  joins: readonly (readonly ["wye" | "delta", number])[];
  /** Undefined where the kind of unit is not known. */
  unit: UnitPlan | undefined;
  /** The families that it may turn out to be, the commonest first, each with how often it is met; empty where it is known. */
  mayBe: readonly (readonly [Family, number])[];
  /** Rated output of what is met, A. */
  amps: (kind: Kind | undefined) => Range;
  /** Where ohms of windings are read: between two wires, "1-2", or from one wire to the engine, "L". */
  pairs: (leads: Leads) => string[];
  /** Where their AC volts are: some ohms tell wires apart and no volts do. */
  acPairs: (leads: Leads) => string[];
  /** Wires with a diode built in, from the winding to the wire. */
  innerDiodes: (leads: Leads) => string[];
  /** Which of the pairs are wound alike, and so must agree on a sound machine. */
  agree: (leads: Leads) => string[][];
  /** Wires that feed lamps and never the battery: what fails there brings no machine in for its charging. */
  lampLeads: (leads: Leads) => string[];
  /** Wires that are switched in with the lights. */
  switchedLeads: (leads: Leads) => string[];
  /** Wires that no sound winding joins to the engine. */
  floating: (leads: Leads) => string[];
  /** Windings that may touch each other, by the wires they begin at. */
  neighbours: (leads: Leads) => string[];
  /** The one-way streets of the unit: "1>B+" from a wire to the output, "B->1" from the unit's negative to a wire. */
  ways: (leads: Leads) => string[];
  /**
   * The other names under which the machine is the same machine: each entry gives, by place, what every wire is called then. The
   * first changes nothing.
   */
  alike: (leads: Leads) => Leads[];
  /** Which wire stands, on charts of two faults, for this one as the seat of the second, the first being at home. */
  secondSeat: (lead: string, leads: Leads) => string;
  /** Where two ways of the unit that die together sit. */
  twoWays: (leads: Leads) => (readonly [string, string])[];
  /** The windings of a sound machine, by the wires they begin at. */
  windings: (sheet: Sheet, ratedAmps: number) => Winding[];
  coils: (state: Pick<MachineState, "sheet" | "winding">) => Coil[];
  /** Its field winding; absent where magnets excite it. */
  field?: FieldPlan;
  /** The fastest that old machines of the family are run for a test where no sheet says, rpm. */
  gentleRpm?: number;
  /** A belt turns it, where no sheet says otherwise. */
  belt?: true;
  /** Windings that turn with the engine and are no stator's: an armature. */
  turning?: (leads: Leads) => string[];
  /** What it gives at some volts behind its unit, A, where a closed sum tells. @param rpm the generator's speed as the engine's would be */
  output?: (state: MachineState, rpm: number, volts: number, size: Size) => number;
  /** From the magnets to the unit's pins: windings, plug, cable, rectifier, control. */
  elements: (state: MachineState, standing: Standing) => Element[];
  /** Faults that it cannot have. */
  lacks: readonly FaultId[];
  /** What it shows where neither sheet nor school says anything of its own. */
  bands: readonly FamilyBand[];
  /** How it looks to who has no sheet. */
  looks: Looks;
  /** How its wires are told apart by ohms, where their colours may not tell. */
  naming?: Naming;
  /** Ids of tests that cannot be taken on it. */
  untested: readonly string[];
  /** What its parts are called where the trade calls them otherwise. */
  partNames?: Partial<Record<Part, string>>;
}

/** How a unit's switches stand while it gives all it can, or while it holds everything back. */
export function gatesWhile({ holds }: UnitPlan, what: "giving" | "holding"): "on" | "off" {
  return (holds === "letting-go") === (what === "giving") ? "on" : "off";
}

/** Wires that carry a field's current and never the output. */
export const fieldWires = ({ field }: Pick<Family, "field">): string[] =>
  field ? [field.wires.feed, field.wires.back].filter((wire) => wire !== undefined) : [];

/** The wires' names of a sheet, in loom order. */
export const leadsOf = ({ legs }: Pick<Sheet, "legs">): string[] => legs.map(({ id }) => id);

/** The way between a wire and the output, or between the unit's negative and a wire. */
export const wayAt = (lead: string, half: Half): string => (half === "upper" ? `${lead}>B+` : `B->${lead}`);

/** The half of the unit in which a way lies, and the wire that it serves. */
export function endsOf(way: string): { half: Half; lead: string } {
  return way.endsWith(">B+") ? { half: "upper", lead: way.slice(0, -3) } : { half: "lower", lead: way.slice(3) };
}

/** The unit's ways, all sound. */
export function soundWays({ ways }: Family, leads: Leads): Record<string, Way> {
  return Object.fromEntries(ways(leads).map((way) => [way, "sound"]));
}

/** The directions in which a unit is tested: every way forward and backward, then rail to rail. */
export function directionsOf({ ways }: Family, leads: Leads): string[] {
  const turned = (way: string): string => way.replace(/^(.+)>(.+)$/, "$2>$1");
  const half = (which: Half): string[] => ways(leads).filter((way) => endsOf(way).half === which);
  return [...HALVES.flatMap((which) => [...half(which), ...half(which).map(turned)]), "B->B+", "B+>B-"];
}

/** A name in a place: a rail of the unit, or a wire. */
const NAME = /B\+|B-(?=>|$)|[A-Za-z0-9]+/g;

/** A place such as "1-2" or "B->3" with its wires called otherwise. */
export function renamed(at: string, leads: Leads, names: Leads): string {
  return at.replace(NAME, (name) => names[leads.indexOf(name)] ?? name);
}

/** The first wire that a place names, by its number; −1 where it names none. */
function firstLead(at: string, leads: Leads): number {
  for (const [name] of at.matchAll(NAME)) if (leads.includes(name)) return leads.indexOf(name);
  return -1;
}

/** True for a place at some wire. */
export const namesLead = (at: string, leads: Leads): boolean => firstLead(at, leads) >= 0;

/**
 * How the wires have to be called for a place to lie at home, where charts are drawn: among {@link Family.alike} the one under which its
 * first wire comes first. @returns its number; 0 for a place that names no wire
 */
export function turnHome(at: string | undefined, family: Family, leads: Leads): number {
  const lead = at === undefined ? -1 : firstLead(at, leads);
  if (lead < 0) return 0;
  const placed = family.alike(leads).map((names) => leads.indexOf(names[lead] as string));
  return placed.indexOf(Math.min(...placed));
}

/** The places of a list that lie at home. */
export function atHome(places: readonly string[], family: Family, leads: Leads): string[] {
  return places.filter((at) => turnHome(at, family, leads) === 0);
}

/** Which of a family's groups of pairs that are wound alike ({@link Family.agree}) a pair is of; -1 where it has no like. */
export function groupAlike(groups: readonly (readonly string[])[], at: string | undefined): number {
  return groups.findIndex((pairs) => pairs.some((pair) => samePoint(pair, at)));
}

/** True for points that are one place: a pair read either way round is the same pair. */
export function samePoint(point: string | undefined, at: string | undefined): boolean {
  return point === at || (!!point && !!at && point.includes("-") && !point.includes(">") && point.split("-").reverse().join("-") === at);
}
