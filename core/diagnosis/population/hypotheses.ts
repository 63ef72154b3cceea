import { DEFECTS } from "../../machine/defects";
import { HALVES, leadsOf, namesLead, wayAt } from "../../machine/families/family";
import { familyOf } from "../../machine/families/registry";
import { FAULTS, type FaultId } from "../../machine/faults";
import { placesOf, unfitReason } from "../../machine/places";
import type { Sheet } from "../../machine/sheet";
import { remedyOf, setOf } from "../remedies";
import { turnedPlace, turnOf } from "./blend";
import type { Ailing } from "./gauges";
import { BATTERY_AGE, COMPLAINT_ODDS, RATES, SHOP_WEIGHT, SOUND_RATE, TOGETHER } from "./rates";

/** Faults and where they sit; a severity is not yet chosen. */
export interface Hypothesis {
  faults: { fault: FaultId; at?: string }[];
  /** What mends it, sorted and joined: "", "stator", "regulator+stator", "charge". */
  set: string;
  /** The same for hypotheses that are each other but for which leg comes first: what knows no leg reads alike on them. */
  orbit: string;
  /** Whether a fault sits in magnets, windings, plug or unit: what such a machine does under way is known less well. */
  ailing: Ailing;
  /** Prior probability. */
  prior: number;
}

/** What is known of the machine's past before the first reading. */
export interface History {
  complaint: readonly string[];
  batteryAgeYears: number | null;
  /** The shop's own confirmed repairs of this model, by fault. */
  confirmed: Readonly<Partial<Record<FaultId, number>>>;
}

export const NO_HISTORY: History = { complaint: [], batteryAgeYears: null, confirmed: {} };

/** Faults and where they sit, with how often that is met against all others. */
interface Frequency {
  faults: Hypothesis["faults"];
  weight: number;
}

/** Every hypothesis of a machine: sound, each fault at each of its places, and the pairs that travel together. */
export function hypothesesOf(sheet: Sheet, history: History): Hypothesis[] {
  return sharesOf(frequenciesOf(sheet, history)).map(({ faults, weight }) => ({
    faults,
    set: setOf(faults.map(({ fault }) => remedyOf(fault))),
    orbit: orbitOf(faults, sheet),
    ailing: ailingOf(faults),
    prior: weight,
  }));
}

/** The priors alone of {@link hypothesesOf}, in its order: what a machine's past changes. */
export function priorsOf(sheet: Sheet, history: History): Float64Array {
  return Float64Array.from(sharesOf(frequenciesOf(sheet, history)), ({ weight }) => weight);
}

/** Weights that sum to one. */
function sharesOf(frequencies: readonly Frequency[]): Frequency[] {
  const total = frequencies.reduce((sum, { weight }) => sum + weight, 0);
  return frequencies.map(({ faults, weight }) => ({ faults, weight: weight / total }));
}

function frequenciesOf(sheet: Sheet, history: History): Frequency[] {
  const fitting = FAULTS.flatMap(({ id }) => (unfitReason(id, sheet) ? [] : [id]));
  const byPlace = new Map(fitting.map((id) => [id, variants(id, sheet)]));
  const weightOf = weightsOf(fitting, sheet, history);
  const weighted = fitting.flatMap((id) => {
    const places = byPlace.get(id) ?? [];
    return places.map((faults) => ({ faults, weight: (weightOf(id) * shareOf(faults, sheet)) / places.length }));
  });
  // Of the parts that are brought in by themselves every other one is good.
  const sound = sheet.loose ? weighted.reduce((sum, { weight }) => sum + weight, 0) : SOUND_RATE * oddsOf("sound", history);
  const pairs = TOGETHER.flatMap(({ first, second, rate }) => {
    const [ones, others] = [byPlace.get(first), byPlace.get(second)];
    if (!ones || !others) return [];
    const both =
      first === second
        ? twoDiodes(first, sheet)
        : ones.flatMap((faults) => others.flatMap((other) => (areApart(faults, other) ? [] : [[...faults, ...other]])));
    const weight = rate * Math.sqrt(oddsOf(first, history) * oddsOf(second, history));
    return both.map((faults) => ({ faults, weight: weight / both.length }));
  });
  return [{ faults: [], weight: sound }, ...weighted, ...pairs];
}

function ailingOf(faults: Hypothesis["faults"]): Ailing {
  const there = faults.filter(({ fault }) => AILING.test(fault) && !fault.endsWith("hot"));
  if (there.some(({ fault }) => RUNAWAY.includes(fault))) return "runaway";
  if (there.some(({ fault }) => fault === "stator.burnt")) return "burnt";
  return there.length === 0 ? "no" : there.some(({ fault }) => fault.startsWith("stator.") && !ALIKE.includes(fault)) ? "coils" : "generator";
}

/** What leaks milliamps shows on no running machine. */
const AILING = /^(rotor|stator)\.|^regulator\.(?!diode-leaky)|^wiring\.(leg|cable)/;
/** Another stator altogether, and what shows under current only: its coils measure each other as sound ones do. */
const ALIKE: readonly FaultId[] = ["stator.wrong-fit", "stator.joint-resists"];
const RUNAWAY: readonly FaultId[] = ["regulator.never-regulates", "regulator.sense-open", "regulator.set-high"];

/** A hypothesis's faults with their places as they are called once the first that names a wire lies at home. */
function orbitOf(faults: Hypothesis["faults"], sheet: Sheet): string {
  const leads = leadsOf(sheet);
  const turn = turnOf(faults.find(({ at }) => at !== undefined && namesLead(at, leads))?.at, sheet);
  return faults.map(({ fault, at }) => `${fault}@${at === undefined ? "" : turnedPlace(at, turn, sheet)}`).join("+");
}

/** A fault's places, each as the list of what it sets: a leaking chip leaks in both of its halves, or in one. */
function variants(fault: FaultId, sheet: Sheet): Hypothesis["faults"][] {
  if (fault === "wiring.fuse-open") return [[{ fault, at: sheet.fuses[0]?.id ?? "main" }]];
  const places = placesOf(fault, sheet);
  if (places.length === 0) return [[{ fault }]];
  const singles = places.map((at) => [{ fault, at }]);
  if (fault !== "regulator.diode-leaky") return singles;
  const chips = leadsOf(sheet).map((lead) => HALVES.map((half) => ({ fault, at: wayAt(lead, half) })));
  return [...chips.filter((both) => both.every(({ at }) => places.includes(at))), ...singles];
}

/** Two faults of different windings: what burns one of them through is no reason for the other. */
function areApart([fault]: Hypothesis["faults"], [other]: Hypothesis["faults"]): boolean {
  return (
    fault?.at !== undefined && fault.at !== other?.at && DEFECTS[fault.fault].at === "winding" && other !== undefined && DEFECTS[other.fault].at === "winding"
  );
}

/** Two diodes of different wires. */
function twoDiodes(fault: FaultId, sheet: Sheet): Hypothesis["faults"][] {
  return familyOf(sheet.family)
    .twoWays(leadsOf(sheet))
    .map((both) => both.map((at) => ({ fault, at })));
}

/** What fails on a wire that feeds lamps alone, against the same on a wire that charges: such a machine comes in for its lamps. */
const LAMPS_ONLY = 0.12;

/** How often a fault sits at a place, against its other places: both halves of a chip leak far more often than one. */
function shareOf(faults: Hypothesis["faults"], sheet: Sheet): number {
  if (faults.some(({ at }) => at !== undefined && familyOf(sheet.family).lampLeads(leadsOf(sheet)).includes(at))) return LAMPS_ONLY;
  if (faults[0]?.fault !== "regulator.diode-leaky") return 1;
  return faults.length === 2 ? 2.4 : 0.3;
}

/** What fails pin by pin and wire by wire, at rates met on machines of so many. */
const BY_WIRE: readonly FaultId[] = ["wiring.leg-burnt", "wiring.cable-broken"];
const USUAL_WIRES = 3;

/** How often a fault is met: fewer wires burn and break less often. */
function rateOf(fault: FaultId, { legs }: Sheet): number {
  return RATES[fault].rate * (BY_WIRE.includes(fault) ? legs.length / USUAL_WIRES : 1);
}

/** A fault's weight among those that fit: its rate, leaned by what the owner says and the battery's age, and by what this shop has confirmed. */
function weightsOf(fitting: readonly FaultId[], sheet: Sheet, history: History): (fault: FaultId) => number {
  const total = Object.values(history.confirmed).reduce((sum, count) => sum + count, 0);
  const rates = fitting.reduce((sum, id) => sum + rateOf(id, sheet), 0);
  return (fault) => {
    const counted = (rateOf(fault, sheet) * SHOP_WEIGHT + (history.confirmed[fault] ?? 0) * rates) / (SHOP_WEIGHT + total);
    return counted * oddsOf(fault, history);
  };
}

function oddsOf(fault: FaultId | "sound", { complaint, batteryAgeYears }: History): number {
  let odds = 1;
  for (const id of complaint) for (const { factor, faults } of COMPLAINT_ODDS[id] ?? []) if (faults.includes(fault)) odds *= factor;
  if (batteryAgeYears !== null && (fault === "battery.sulphated" || fault === "battery.shorted-cell")) {
    const { from, perYear, most, young } = BATTERY_AGE;
    odds *= batteryAgeYears < from ? young : Math.min(most, perYear ** (batteryAgeYears - from));
  }
  return odds;
}
