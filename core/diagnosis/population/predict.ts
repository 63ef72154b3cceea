import { recoveredVolts } from "../../battery/charger";
import { fieldWires, leadsOf } from "../../machine/families/family";
import { familyOf, unitOf } from "../../machine/families/registry";
import type { FaultId } from "../../machine/faults";
import type { Sheet } from "../../machine/sheet";
import { crankingRatingOf, type Field, type MachineState } from "../../machine/state";
import type { TestId } from "../../procedure/catalogue";
import { acPairsOf, type Step, stepKey } from "../../procedure/step";
import { isNumber, isOpen, type ReadingValue } from "../../units";
import { turnedPlace } from "./blend";
import { offScale, onScale } from "./gauges";
import type { Look } from "./look";
import { NO_OFFSETS, type Offsets } from "./nuisance";
import { PARTED_OHMS } from "./parted";
import { rippleVolts } from "./ripple";
import type { Subject } from "./subject";

/**
 * What a look would show on a subject: a figure on the test's own scale with the probability that the meter shows the open
 * line instead, the figure at which a unit would hold it and what the generator has to spare for that; or the probability of each word
 * of the test's list.
 */
type Seen = { at: number; open: number; held?: number | undefined; spare?: number } | { words: readonly number[] };

/** How sure the meter is to show the open line where nothing conducts, and not to where something does; where a ground is broken off, any ohms may creep past. */
const OPEN = { sure: 0.985, stray: 0.015, groundOff: 0.7 } as const;

/** By step object: what the charts call it under each of the names that a machine's wires can have. */
const TURNED = new WeakMap<Step, string[]>();

/** The chart's own names for a step, by the number of the wires' other names. */
function turned(sheet: Sheet, step: Step): string[] {
  const known = TURNED.get(step);
  if (known) return known;
  const keys = familyOf(sheet.family)
    .alike(leadsOf(sheet))
    .map((_, turn) => {
      // Charts hold unloaded volts under the name of the test at the unit's end.
      const test = step.test === "stator.acVolts" ? "stator.acVoltsAtUnit" : step.test;
      return stepKey({ ...step, test, ...(step.at === undefined ? {} : { at: turnedPlace(step.at, turn, sheet) }) });
    });
  TURNED.set(step, keys);
  return keys;
}

/** A charted reading: of the charts that know the step, blended on the test's scale; of the sound machine otherwise. */
function charted(subject: Subject, step: Step, of: "windings" | "unit" | "touch", sound = false): { value: number; open: boolean } {
  const keys = turned(subject.around.sheet, step);
  const charts = sound ? [] : subject[of];
  let sum = 0;
  let weight = 0;
  let open = 0;
  if (charts.length > 0) {
    const key = keys[subject.turns[of]] as string;
    for (const { chart, weight: share } of charts) {
      const value: ReadingValue | undefined = chart.seen[key];
      if (value === undefined) continue;
      if (isOpen(value)) open += share;
      else if (isNumber(value)) {
        sum += share * onScale(step.test, value);
        weight += share;
      }
    }
    if (open + weight > 0) return open > weight ? { value: 0, open: true } : { value: sum / weight, open: false };
  }
  const sounding = subject.around.atlas.sound?.seen[keys[0] as string];
  return isNumber(sounding ?? "") ? { value: onScale(step.test, sounding as number), open: false } : { value: 0, open: true };
}

/**
 * Below this share of the sound volts a pair shows little but what strays: where a leg of it hangs on nothing, what most meters show of
 * the charted volts as a logarithm (many of them next to nothing); where none does, how far apart it lies against that, and how far apart
 * what generators keep of their magnetism does.
 */
const LITTLE = 0.2;
const STRAYS = -0.6;
const KEPT = 0.55;
/** What leaves a leg hanging on nothing on the generator's side of the plug, and what does so at the unit. */
const PARTED: readonly FaultId[] = ["stator.winding-open", "stator.leads-parted"];
const PARTED_ON_THE_WAY: readonly FaultId[] = ["wiring.leg-burnt", "wiring.cable-broken"];

const figure = (at: number, open = 0): Seen => ({ at, open });
const openLine: Seen = { at: 0, open: OPEN.sure };

/** Volts where the probe was: on the post's own lead where that was said, else on the cable's lug. */
const touching = ({ touched }: Look, { volts, post }: { volts: number; post: number }): number => (touched === "post" ? volts + post : volts);

/** Predicts a look on a subject, its nuisances moved by `z`. */
export function predict(subject: Subject, look: Look, z: Offsets): Seen {
  const { test, at } = look.step;
  const teller = TELLERS[test];
  if (teller) return { words: teller(subject, look) };
  const { sheet, sound } = subject.around;
  const { state } = subject;
  const gain = 1 + (z.volts ?? 0);
  switch (test) {
    case "battery.rest":
      return figure(gain * subject.restVolts(z, look.restHours ?? RESTED_HOURS));
    case "battery.settled":
      return figure(gain * touching(look, subject.settled(z)));
    case "battery.recovery":
      return figure(gain * recoveredVolts(subject.cell(z), state.battery, subject.charging("idle", "normal", z).into));
    case "battery.crank":
      return figure(gain * touching(look, subject.cranking(z)));
    case "battery.firstPull":
      return figure(gain * subject.firstPull(z));
    case "battery.postDrop":
      return figure(onScale(test, gain * subject.cranking(z).post));
    case "starter.cableDrop":
      return figure(onScale(test, gain * subject.cranking(z).drop));
    case "battery.load":
      return figure(gain * Math.max(0, subject.loadedVolts(look.amps, z) - (look.touched === "lug" ? subject.postUnderLoad(look.amps, z) : 0)));
    case "battery.cell":
      return figure(onScale(test, gain * subject.weakestCell(z, look.restHours ?? RESTED_HOURS)));
    case "battery.conductance":
      return figure(onScale(test, subject.conductance(z, look.touched === "lug")));
    case "battery.crankingAmps":
      return figure(onScale(test, (subject.conductance(z, look.touched === "lug") / 100) * crankingRatingOf(sheet) * Math.exp(z.capacity ?? 0)));
    case "battery.innerOhms":
      return figure(onScale(test, subject.milliohms(z, look.touched === "lug")));
    case "starter.amps":
      return figure(onScale(test, subject.cranking(z).amps));
    case "charge.volts":
    case "charge.outputVolts":
    case "charge.positiveDrop":
    case "charge.groundDrop":
    case "charge.current": {
      const run = subject.charging(look.step.rpm ?? sheet.testRpm, look.step.loads ?? "normal", z);
      // What flows into the battery is lost in a bad post on the way: behind it, on the post's own lead, less is seen.
      const behind = look.touched === "post" ? run.into * state.postOhms : 0;
      if (test === "charge.volts") return { ...figure(gain * (run.volts - behind)), held: run.held && gain * run.held.volts, spare: run.spare };
      if (test === "charge.outputVolts") return { ...figure(gain * run.unitVolts), held: run.held && gain * run.held.unitVolts, spare: run.spare };
      if (test === "charge.current") return figure(run.into + (z.clamp ?? 0));
      const ground = run.out * subject.homeOhms(z);
      return figure(gain * (test === "charge.groundDrop" ? ground : run.unitVolts - ground - run.volts));
    }
    case "charge.ripple": {
      const { rpm = sheet.testRpm, loads = "normal" } = look.step;
      return figure(onScale(test, rippleVolts(subject, rpm, loads, z)));
    }
    case "stator.resistance": {
      const seen = charted(subject, look.step, "windings");
      if (seen.open) return openLine;
      const leads = (z.lead ?? 0) + ((look.hot ? z.leadHot : z.leadCold) ?? 0);
      const own = (z.ohms ?? 0) + (z.ohmsOther ?? 0) * otherShare(subject, at);
      return figure(seen.value * subject.around.scale.ohms * subject.copper(look.hot) * Math.exp(own) + leads, OPEN.stray);
    }
    case "stator.toGround": {
      const touched = state.field?.touch && fieldTouch(state.field, at, sheet);
      if (touched !== undefined) return figure(onScale(test, touched), OPEN.stray);
      const seen = charted(subject, look.step, subject.touch.length > 0 ? "touch" : "windings");
      if (seen.open) return openLine;
      return figure(onScale(test, offScale(test, seen.value) + Math.max(0, (z.lead ?? 0) + (z.leadCold ?? 0))), OPEN.stray);
    }
    case "stator.acVolts":
    case "stator.acVoltsAtUnit": {
      const atUnit = test === "stator.acVoltsAtUnit";
      const pinned = subject.pinned;
      // Part side of the plug no broken pin or cable is in the way.
      const seen = charted(subject, look.step, "windings", !atUnit && pinned);
      const rpm = atUnit ? z.rpmUnit : look.step.rpm === "idle" ? z.rpmAcIdle : z.rpmAc;
      const emf = (z.emf ?? 0) + (z.emfOther ?? 0) * otherShare(subject, at);
      const size = subject.strength * subject.grip * Math.exp(emf + (z.ac ?? 0) + (rpm ?? 0));
      const volts = offScale(test, seen.value);
      // A leg that hangs on nothing shows what strays into the meter's leads: some of the volts, nobody knows how much.
      const little = volts < LITTLE * offScale(test, charted(subject, look.step, "windings", true).value);
      const hangs = little && subject.present.some(({ fault }) => PARTED.includes(fault) || (atUnit && PARTED_ON_THE_WAY.includes(fault)));
      return figure(onScale(test, volts * size * (hangs ? Math.exp(STRAYS + (z.stray ?? 0)) : little ? Math.exp(KEPT * (z.stray ?? 0)) : 1)));
    }
    case "stator.dcVolts": {
      const seen = charted(subject, look.step, "windings");
      const size = subject.strength * subject.grip * Math.exp((z.emf ?? 0) + ((look.step.rpm === "idle" ? z.rpmAcIdle : z.rpmAc) ?? 0));
      return figure(onScale(test, offScale(test, seen.value) * size * gain));
    }
    case "stator.diode": {
      const seen = charted(subject, look.step, "windings");
      return seen.open ? openLine : figure(seen.value + (seen.value > JUNCTION ? (z.junction ?? 0) : 0), OPEN.stray);
    }
    case "stator.legDrop": {
      const leg = Math.max(
        0,
        sheet.legs.findIndex((leg) => leg.id === at),
      );
      const whole = (sound.pinOhms[leg] ?? 0) + (sound.cableOhms[leg] ?? 0);
      const ohms = (state.pinOhms[leg] ?? 0) + (state.cableOhms[leg] ?? 0) + whole * (Math.exp(z.legWires ?? 0) - 1);
      const run = subject.charging(sheet.testRpm, "normal", z);
      // A shunt unit keeps its legs loaded whatever the battery takes; a series unit lets go of them.
      const full = subject.amps("test", subject.grip, run.unitVolts, z, "full");
      const taken = unitOf(state.family).holds === "letting-go" ? Math.min(1, Math.max(0, run.out) / Math.max(0.1, full)) : 1;
      // Magnets that hardly move push nothing through them.
      const amps = full > 0 ? subject.legAmps(leg) * Math.exp((z.emf ?? 0) - (z.henries ?? 0)) * taken : 0;
      // A parted leg carries nothing: the whole of its EMF stands across the gap.
      const most = (sound.windings[0]?.voltsPerRpm ?? 0.01) * sheet.testRpm * 0.6;
      return figure(onScale(test, Math.min(most, ohms > PARTED_OHMS ? most : ohms * Math.max(amps, 0.5))));
    }
    case "regulator.diode": {
      const seen = charted(subject, look.step, "unit");
      return seen.open ? openLine : figure(seen.value + (seen.value > JUNCTION ? (z.junction ?? 0) : 0), seen.value > 1.9 ? 0.5 : OPEN.stray);
    }
    case "regulator.feed":
      return figure(subject.outputOpen ? 0.1 : gain * subject.settled(z, "output").volts);
    case "regulator.ground": {
      const wires = Math.exp(z.wires ?? 0);
      const ohms = state.groundOhms + state.strapOhms + (sound.groundOhms + sound.strapOhms) * (wires - 1);
      // A ground that is broken off shows the open line more often than what creeps past it.
      return ohms > 1e7
        ? openLine
        : figure(onScale(test, Math.max(0, ohms + (z.lead ?? 0) + (z.leadGround ?? 0))), ohms > GROUND_OFF ? OPEN.groundOff : OPEN.stray);
    }
    case "field.resistance":
    case "field.resistanceAtUnit":
    case "generator.field":
    case "generator.atUnit":
    case "generator.armature": {
      const ohms = fieldPathOhms(subject, look.step);
      if (ohms > OPEN_FIELD) return openLine;
      const zero = (z.lead ?? 0) + ((look.hot ? z.leadHot : z.leadCold) ?? 0);
      return figure(onScale(test, Math.max(0, ohms * subject.copper(look.hot) * Math.exp(z.ohms ?? 0) + zero)), OPEN.stray);
    }
    case "field.supply": {
      const { volts } = subject.settled(z);
      const { ohms, contactOhms, feedOhms } = state.field as Field;
      const fed = subject.mainFuseOpen ? 0 : volts * ((ohms + contactOhms) / (ohms + contactOhms + feedOhms));
      return figure(gain * fed);
    }
    case "field.fullField":
      return figure(gain * subject.work(look.step.rpm ?? sheet.testRpm, "normal", z, true).volts);
    case "generator.output": {
      const volts = subject.unloadedVolts(z, look.step.rpm);
      // What iron keeps of its magnetism without a field differs from one generator to the next.
      const kept = Math.abs(volts) < RESIDUAL_MOST * (sheet.systemVolts / 12) ? Math.exp(KEPT * (z.stray ?? 0)) : 1;
      return figure(onScale(test, gain * kept * volts));
    }
    case "fuse.continuity": {
      const ohms = state.fuseOhms[at ?? ""] ?? 0;
      return ohms > OPEN_FUSE ? openLine : figure(onScale(test, Math.max(0, ohms + (z.lead ?? 0) + (z.leadGround ?? 0))), OPEN.stray);
    }
    case "drain.current":
    case "drain.unitUnplugged":
    case "drain.fusePulled":
      return figure(onScale(test, drain(subject, look.step, z) + sleeping(subject, look.step) * Math.expm1(z.draw ?? 0)));
    default:
      throw new Error(`${test} is not predicted`);
  }
}

/** Ohms of a field with its brushes, or of an armature with its own, and of the wires between: what the probes of a test see. */
function fieldPathOhms({ state, around }: Subject, { test, at }: Step): number {
  const { ohms, contactOhms, touch } = state.field as Field;
  const family = familyOf(state.family);
  const inWires = (wires: readonly string[]): number =>
    around.sheet.legs.reduce((sum, { id }, i) => sum + (wires.includes(id) ? (state.pinOhms[i] ?? 0) + (state.cableOhms[i] ?? 0) : 0), 0);
  if (test === "field.resistance") return ohms + contactOhms;
  if (test === "field.resistanceAtUnit") return ohms + contactOhms + inWires(fieldWires(family));
  const armature = (state.windings[0]?.ohms ?? 0) + contactOhms;
  const wire = test === "generator.atUnit" && at ? inWires([at]) : 0;
  if (test === "generator.armature" || (at && at !== family.field?.wires.back))
    return wire + (touch ? parallel(armature, (1 - touch.along) * ohms + touch.ohms) : armature);
  // A touch lets the current home before it has gone through the rest of the winding and the armature.
  return wire + (touch ? touch.along * ohms + parallel(touch.ohms, (1 - touch.along) * ohms + armature) : ohms + armature);
}

/** Ohms to the engine from one of a field's wires, its winding touching the core; undefined for a wire of the phases. */
function fieldTouch({ ohms, contactOhms, touch }: Field, at: string | undefined, { family }: Sheet): number | undefined {
  const wires = familyOf(family).field?.wires;
  if (!touch || (at !== wires?.feed && at !== wires?.back)) return undefined;
  return touch.ohms + (at === wires?.feed ? (1 - touch.along) * ohms + contactOhms : touch.along * ohms);
}

const parallel = (ohms: number, other: number): number => (ohms * other) / (ohms + other);

/** From here on a field counts as open, Ω. */
const OPEN_FIELD = 1e6;

/** By machine and point: see {@link otherShare}. */
const OTHERS = new WeakMap<Sheet, Map<string, number>>();

/**
 * How much of a point's winding is another than the first, where windings are not alike: none, all, or half where both lie between its
 * wires. Beside a rotor's winding, whose ohms a sheet prints first, the phases are another.
 */
function otherShare({ state, around }: Subject, at = ""): number {
  const { sheet } = around;
  let known = OTHERS.get(sheet);
  if (!known) {
    known = new Map();
    OTHERS.set(sheet, known);
  }
  const share = known.get(at) ?? shareOfOthers(state, at);
  known.set(at, share);
  return share;
}

function shareOfOthers(state: MachineState, at: string): number {
  const { agree, coils, field } = familyOf(state.family);
  if (field?.part === "rotor") return 1;
  if (agree(leadsOf(state.sheet)).length > 0) return 0;
  const wires = at.split("-");
  const [first, ...others] = coils(state).map(({ lead }) => wires.includes(lead));
  return others.includes(true) ? (first ? 0.5 : 1) : 0;
}

/** A junction reads more than this on the diode dial, V; a short or a coil less. */
const JUNCTION = 0.2;
/** From here on a unit's ground counts as broken off, Ω. */
const GROUND_OFF = 80;
/** Below this a generator by itself gives no more than its iron kept, V on 12 V. */
const RESIDUAL_MOST = 2.5;
/** Hours a battery is taken to have rested when nobody says. */
const RESTED_HOURS = 12;

const OPEN_FUSE = 1e6;

/** Draw of everything but faults behind the fuses that are in, mA. */
function sleeping({ around }: Subject, step: Step): number {
  const pulled = step.test === "drain.fusePulled" ? step.at : undefined;
  const [main] = around.sheet.fuses;
  return around.sound.draws.reduce((sum, { fuse, milliamps }) => sum + ((fuse ?? main?.id) === pulled ? 0 : milliamps), 0);
}

/** A leak below this is none, mA. */
const LEAST_LEAK = 0.01;

/** Draw with the key out, mA: what each fuse feeds, and what leaks backwards through the unit while it is plugged in. */
function drain(subject: Subject, step: Step, z: Offsets): number {
  const { state, around } = subject;
  const pulled = step.test === "drain.fusePulled" ? step.at : undefined;
  const [main] = around.sheet.fuses;
  const feeds = (id: string | undefined): boolean => (id ?? main?.id) !== pulled && (state.fuseOhms[id ?? main?.id ?? ""] ?? 0) < OPEN_FUSE;
  const draws = state.draws.reduce((sum, { fuse, milliamps }) => sum + (feeds(fuse) ? milliamps : 0), 0);
  if (step.test === "drain.unitUnplugged" || !feeds(main?.id) || subject.outputOpen || around.sheet.isolator === "diode") return draws;
  const key = "drain.current";
  const sound = Number(around.atlas.sound?.seen[key] ?? 0);
  let decades = 0;
  let weighed = 0;
  for (const { chart, weight } of subject.unit) {
    const seen = chart.seen[key];
    if (typeof seen !== "number") continue;
    decades += weight * Math.log10(Math.max(LEAST_LEAK, seen - sound));
    weighed += weight;
  }
  const leak = weighed > 0 ? 10 ** (decades / weighed) : 0;
  return draws + leak + 1000 * subject.backAmps(subject.restVolts(NO_OFFSETS, RESTED_HOURS)) * Math.exp(z.back ?? 0);
}

/** How a test lamp of some 7 Ω burns with ohms in its way: bright, dim, dark. */
function lampLooks(ohms: number): readonly number[] {
  return ohms < 0.8 ? [0.965, 0.025, 0.01] : ohms < 2 ? [0.5, 0.47, 0.03] : ohms < 12 ? [0.05, 0.8, 0.15] : ohms < 25 ? [0.02, 0.4, 0.58] : [0.02, 0.03, 0.95];
}

/** A touch of fewer ohms takes a winding's swing away while its unit grounds the other end. */
const HARD_TOUCH = 2;

/** Probabilities of a test's words in the order of its list: what eyes and fingers make of what is there. */
const TELLERS: Partial<Record<TestId, (subject: Subject, look: Look) => readonly number[]>> = {
  // tight, loose, corroded
  "inspect.terminals": ({ state }) => (state.postOhms >= 0.015 ? [0.3, 0.35, 0.35] : [0.91, 0.03, 0.06]),
  // clean, green, melted
  "inspect.connector": ({ state }, { step }) => {
    const ohms = step.at === "output" ? 0.3 * state.outputOhms : Math.max(...state.pinOhms);
    if (ohms >= 0.5) return [0.3, 0.25, 0.45];
    // Green is soon said; plastic that has run seldom of a plug that carries its current well.
    return ohms >= 0.08 ? [0.4, 0.4, 0.2] : [0.87, 0.118, 0.012];
  },
  // sound, broken
  "inspect.ground": ({ state }) => {
    const ohms = Math.max(state.groundOhms, state.strapOhms);
    return ohms >= 0.5 ? [0.4, 0.6] : ohms >= 0.1 ? [0.8, 0.2] : [0.99, 0.01];
  },
  // ok, low
  "inspect.fluid": (subject) => {
    const { battery, unit } = subject.state;
    if (battery.chemistry !== "flooded") return [0.95, 0.05];
    // What nothing holds down stays below what boils it, where that is how the machine is made.
    if (unitOf(subject.state.family).inLead) return [0.82, 0.18];
    return subject.controls && unit.setVolts < subject.around.sound.unit.setVolts + 0.6 ? [0.82, 0.18] : [0.35, 0.65];
  },
  // even, weak-one, weak-all
  "rotor.pull": ({ present }) => {
    const has = (id: string) => present.some(({ fault }) => fault === id);
    if (has("rotor.magnet-shed")) return [0.15, 0.8, 0.05];
    return has("rotor.weak") ? [0.2, 0.1, 0.7] : [0.92, 0.03, 0.05];
  },
  // steady, jumps, dead
  "inspect.tach": (subject, { step }) => {
    const { at = "", rpm } = step;
    const { sheet } = subject.around;
    // A shunt unit that holds every gate on leaves the wires no swing.
    if (subject.state.unit.gates === "on" && unitOf(subject.state.family).holds !== "letting-go") return [0.05, 0.1, 0.85];
    const heldDown = subject.present.some(
      ({ fault, at: place = "", severity = 0 }) =>
        (fault === "regulator.diode-shorted" && place.split(">").includes(at)) || (fault === "stator.winding-grounded" && severity < HARD_TOUCH),
    );
    if (heldDown) return [0.35, 0.2, 0.45];
    // What stands at the unit with its plug parted, the pair that gives most: a wire of a delta has two windings.
    const most = Math.max(
      ...acPairsOf(sheet)
        .filter((pair) => pair.split("-").includes(at))
        .map((pair) => {
          // Which share of its volts a wire still has is the same at every speed; it is charted at two.
          const look = { test: "stator.acVoltsAtUnit" as const, at: pair, rpm: rpm === "idle" ? rpm : sheet.testRpm };
          const [own, whole] = [charted(subject, look, "windings"), charted(subject, look, "windings", true)];
          return (offScale(look.test, own.value) * subject.strength * subject.grip) / Math.max(0.1, offScale(look.test, whole.value));
        }),
    );
    return most > 0.5 ? [0.93, 0.04, 0.03] : most > 0.3 ? [0.6, 0.25, 0.15] : most > 0.15 ? [0.2, 0.3, 0.5] : [0.05, 0.1, 0.85];
  },
  // ok, slack, missing
  "inspect.belt": ({ state }) => (state.beltSlip >= 1 ? [0.02, 0.03, 0.95] : state.beltSlip >= 0.15 ? [0.24, 0.72, 0.04] : [0.934, 0.065, 0.001]),
  // ok, worn
  "inspect.brushes": ({ state, around }) => ((state.field?.contactOhms ?? 0) - (around.sound.field?.contactOhms ?? 0) >= 1.5 ? [0.25, 0.75] : [0.85, 0.15]),
  // turns, hums, nothing
  "generator.motoring": ({ state, around }) => {
    const [armature, sound] = [state.windings[0], around.sound.windings[0]];
    if (!state.field || !armature || !sound || state.field.contactOhms > 3) return [0.1, 0.15, 0.75];
    if (state.field.ohms > 200 || armature.voltsPerRpm < 0.8 * sound.voltsPerRpm) return [0.12, 0.76, 0.12];
    return [0.93, 0.04, 0.03];
  },
  // bright, dim, dark
  "regulator.feedLamp": (subject) => lampLooks(subject.state.outputOhms + (subject.mainFuseOpen ? 1e8 : 0)),
  "regulator.groundLamp": ({ state }) => lampLooks(state.groundOhms + state.strapOhms),
  // fixed, same
  "swap.unit": ({ candidate }) => {
    const unit = candidate.faults.some(({ fault }) => fault.startsWith("regulator.") && fault !== "regulator.diode-leaky");
    const others = candidate.faults.some(({ fault }) => !fault.startsWith("regulator.") && !fault.startsWith("battery."));
    if (unit) return others ? [0.3, 0.7] : [0.93, 0.07];
    return [0.05, 0.95];
  },
};
