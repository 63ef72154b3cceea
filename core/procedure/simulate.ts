import { surfaceVolts } from "../battery/charge";
import { recoveredVolts, voltsOnCharger } from "../battery/charger";
import { cellOf, conductancePercent, innerMilliohms } from "../battery/model";
import { ampsInto, steadyVolts } from "../circuit/cell";
import { type Condition, stateOf } from "../machine/condition";
import { firstPullVolts, startingOf } from "../machine/crank";
import type { Sheet } from "../machine/sheet";
import type { Loads, Standing } from "../machine/standing";
import { crankingRatingOf, healthyState, type MachineState, pileAmpsOf } from "../machine/state";
import { ASSUMED_METER, type Meter } from "../meter/meter";
import { type Display, type MeterDial, readMeter } from "../meter/read";
import { isNumber, OPEN_LINE, type ReadingValue, roundTo } from "../units";
import { type TestId, testOf } from "./catalogue";
import { cellsOf, probesOf, type Step, type Touched } from "./step";
import type { Dial } from "./test";

/**
 * Any test of the catalogue taken on a simulated machine: the set-up is brought about in its circuit, the probes go where
 * the test says, and the meter shows what it shows. Tests answered in words follow from the same state.
 */
interface Simulated {
  value: ReadingValue;
  notes: string[];
}

/** How a step's set-up leaves the machine standing. */
export function standingFor(step: Step, sheet: Sheet, loads?: Loads): Standing {
  const { setUp } = testOf(step.test);
  return {
    engine: setUp.engine,
    key: setUp.key === "on" ? "on" : "out",
    rpm: step.rpm === "idle" ? sheet.idleRpm : (step.rpm ?? sheet.testRpm),
    loads: loads ?? step.loads ?? "normal",
    unplug: setUp.unplug,
    fullField: setUp.fullField === true,
    pulled: step.test === "drain.fusePulled" || step.test === "fuse.continuity" ? [step.at ?? ""] : [],
  };
}

/** What is said of one reading beyond its step: rest hours, load-test amps, whether the windings are hot, what the probe touches at the battery. */
interface More {
  restHours?: number;
  amps?: number;
  hot?: boolean;
  touched?: Touched;
}

/** Takes one reading. */
export function simulateStep(sheet: Sheet, condition: Condition, step: Step, meter: Meter, more: More = {}): Simulated {
  const test = testOf(step.test);
  const standing = standingFor(step, sheet);
  const running = standing.engine === "running" || more.hot === true || step.test === "swap.unit" || step.test === "inspect.fluid";
  const state = stateOf(sheet, condition, running);
  const words = WORDS[step.test];
  if (words) return { value: words(state, step, condition), notes: [] };
  const special = SPECIAL[step.test];
  if (special) return { value: special(state, more, step), notes: [] };
  const dial = DIALS[test.dial];
  const places = probesOf(step) ?? { red: "battery+", black: "battery-" };
  const probes = more.touched === "post" && places.red === "battery+" ? { ...places, red: "post+" as const } : places;
  if (!dial) throw new Error(`The test ${test.id} has no dial to simulate.`);
  const clamp = test.tool === "clamp";
  const display: Display = readMeter(state, standing, clamp ? "clamp" : dial, probes, meter, step.test === "starter.amps" ? "starter" : "battery");
  return step.test === "fuse.continuity" ? { value: fuseOhms(state, step, meter), notes: [] } : display;
}

const DIALS: Partial<Record<Dial, MeterDial>> = { "V DC": "V DC", "V AC": "V AC", Ω: "Ω", diode: "diode", "A DC": "A DC" };

/** Tests that are read off the battery's own state rather than at two points of the circuit. */
const SPECIAL: Partial<Record<TestId, (state: MachineState, more: More, step: Step) => ReadingValue>> = {
  "battery.rest": (state, { restHours = 12 }) => {
    const { openVolts } = cellOf(state.battery);
    const { chemistry, systemVolts, charge } = state.battery;
    if (state.chargerVolts !== undefined) return roundTo(voltsOnCharger(cellOf(state.battery), state.chargerVolts), 0.01);
    return roundTo(openVolts + Math.max(0, charge) * surfaceVolts(chemistry, systemVolts, restHours), 0.01);
  },
  "battery.cell": ({ battery, sheet }, _more, { at }) => {
    const cells = cellsOf(sheet);
    const sound = cellOf({ ...battery, shortedCells: 0 }).openVolts / cells;
    const place = (Number(at) - FIRST_TO_FAIL + cells) % cells;
    return roundTo(sound * (1 - Math.min(1, Math.max(0, battery.shortedCells - place))), 0.01);
  },
  "battery.load": (state, { amps, touched }) => {
    const load = amps ?? pileAmpsOf(state.sheet);
    const cell = cellOf(state.battery);
    const volts = state.chargerVolts === undefined ? steadyVolts(cell, -load) : voltsOnCharger(cell, state.chargerVolts, load);
    return roundTo(Math.max(0, volts - load * through(state, touched)), 0.01);
  },
  "battery.conductance": (state, more) => Math.round(conductancePercent(clampedOn(state, more))),
  "battery.crankingAmps": (state, more) => Math.round((conductancePercent(clampedOn(state, more)) / 100) * crankingRatingOf(state.sheet)),
  "battery.innerOhms": (state, more) => roundTo(innerMilliohms(clampedOn(state, more)), 0.01),
  "battery.firstPull": (state) => roundTo(firstPullVolts(startingOf(state)), 0.01),
  "battery.recovery": (state) => {
    const cell = cellOf(state.battery);
    const standing: Standing = { engine: "running", key: "on", rpm: state.sheet.idleRpm, loads: "normal", unplug: [], fullField: false, pulled: [] };
    const { value } = readMeter(state, standing, "V DC", { red: "battery+", black: "battery-" }, ASSUMED_METER);
    return roundTo(recoveredVolts(cell, state.battery, isNumber(value) ? ampsInto(cell, value) : 0), 0.01);
  },
};

/** The cell that is dead where one is, counted from the plus post: in the middle of the box it is hottest. */
const FIRST_TO_FAIL = 3;

/** Ohms of the post in a tester's way: its clamp on the cable's lug measures through it. */
const through = ({ postOhms }: MachineState, touched: Touched | undefined): number => (touched === "lug" ? postOhms : 0);

/** The battery as a tester's clamps find it. */
const clampedOn = (state: MachineState, { touched }: More): MachineState["battery"] => ({
  ...state.battery,
  jointOhms: state.battery.jointOhms + through(state, touched),
});

/** Resistance at which eyes find a plug green, and cooked; at a post loose. */
const SEEN = { green: 0.08, melted: 0.5, corroded: 0.02, loose: 0.05, broken: 1, slips: 0.15, worn: 1.5 } as const;

/** Up to which brushes a generator turns as a motor, with how much of a field, and with which share of its armature's turns. */
const MOTORS = { contactOhms: 3, fieldOhms: 200, soundTurns: 0.8 } as const;

/** A test lamp's own resistance, Ω (21 W on 12 V), and the shares of its volts at which it is bright, and not yet dark. */
const LAMP = { ohms: 6.9, bright: 0.85, dim: 0.3 } as const;

/** How a test lamp burns with some ohms in its way. */
const lampLooks = (ohms: number): string => {
  const share = LAMP.ohms / (LAMP.ohms + ohms);
  return share >= LAMP.bright ? "bright" : share >= LAMP.dim ? "dim" : "dark";
};

/** Share of a bad output path that is looked at when its plug is: the rest is wire, fuse holder and lug. */
const IN_PLUG = 0.25;

const plugLooks = (ohms: number): string => (ohms >= SEEN.melted ? "melted" : ohms >= SEEN.green ? "green" : "clean");

/** Tests answered in words: what eyes, fingers and a known-good unit find. */
const WORDS: Partial<Record<TestId, (state: MachineState, step: Step, condition: Condition) => string>> = {
  "inspect.terminals": ({ postOhms }) => (postOhms >= SEEN.loose ? "loose" : postOhms >= SEEN.corroded ? "corroded" : "tight"),
  "inspect.connector": (state, { at }) => plugLooks(at === "output" ? IN_PLUG * state.outputOhms : Math.max(...state.pinOhms)),
  "inspect.ground": ({ groundOhms, strapOhms }) => (Math.max(groundOhms, strapOhms) >= SEEN.broken ? "broken" : "sound"),
  "inspect.fluid": (state) => (state.battery.chemistry === "flooded" && chargingVolts(state) > BOILS * (state.sheet.systemVolts / 12) ? "low" : "ok"),
  "rotor.pull": (_state, _step, { faults }) =>
    faults.some(({ fault }) => fault === "rotor.magnet-shed") ? "weak-one" : faults.some(({ fault }) => fault === "rotor.weak") ? "weak-all" : "even",
  "inspect.tach": (state, { at = "" }) => {
    const volts = pulsing(state, at) / (state.sheet.systemVolts / 12);
    return volts >= COUNTS.all ? "steady" : volts >= COUNTS.some ? "jumps" : "dead";
  },
  "inspect.belt": ({ beltSlip }) => (beltSlip >= 1 ? "missing" : beltSlip >= SEEN.slips ? "slack" : "ok"),
  "inspect.brushes": ({ field, sheet }) => ((field?.contactOhms ?? 0) - (healthyState(sheet).field?.contactOhms ?? 0) >= SEEN.worn ? "worn" : "ok"),
  "generator.motoring": ({ field, windings, sheet }) => {
    const [armature, sound] = [windings[0], healthyState(sheet).windings[0]];
    if (!field || !armature || !sound || field.contactOhms > MOTORS.contactOhms) return "nothing";
    // Without a field it has no torque; an armature with many shorted turns holds itself.
    return field.ohms > MOTORS.fieldOhms || armature.voltsPerRpm < MOTORS.soundTurns * sound.voltsPerRpm ? "hums" : "turns";
  },
  "regulator.feedLamp": ({ outputOhms, fuseOhms, sheet }) => lampLooks(outputOhms + (fuseOhms[sheet.fuses[0]?.id ?? ""] ?? 0)),
  "regulator.groundLamp": ({ groundOhms, strapOhms }) => lampLooks(groundOhms + strapOhms),
  "swap.unit": (state) => {
    const aim = chargingVolts(healthyState(state.sheet));
    const off = (machine: MachineState): boolean => Math.abs(chargingVolts(machine) - aim) > AS_RIGHT * (state.sheet.systemVolts / 12);
    return off(state) && !off({ ...state, unit: healthyState(state.sheet).unit }) ? "fixed" : "same";
  },
};

/** Charging volts that boil a 12 V battery's fluid away, and how near the right ones a swapped unit must bring them. */
const BOILS = 15.2;
const AS_RIGHT = 0.4;

/** The engine at the sheet's rpm, as ridden. */
const ridden = ({ sheet }: MachineState): Standing => ({ engine: "running", key: "on", rpm: sheet.testRpm, loads: "normal", unplug: [], pulled: [] });

/** Volts at the posts as ridden. */
function chargingVolts(state: MachineState): number {
  return Number(readMeter(state, ridden(state), "V DC", { red: "battery+", black: "battery-" }, ASSUMED_METER).value);
}

/** AC volts on 12 V from which a tachometer counts every pulse of its wire, and some of them. */
const COUNTS = { all: 3, some: 1.7 } as const;

/** AC volts at one of the unit's wires as ridden: what a tachometer counts there. */
function pulsing(state: MachineState, lead: string): number {
  return Number(readMeter(state, ridden(state), "V AC", { red: `unitLeg:${lead}`, black: "battery-" }, { ...ASSUMED_METER, trueRms: true }).value);
}

/** A fuse out of its holder: its own metal and the leads. */
function fuseOhms(state: MachineState, step: Step, meter: Meter): ReadingValue {
  const ohms = state.fuseOhms[step.at ?? ""] ?? 0;
  return ohms > 1e6 ? OPEN_LINE : roundTo(ohms + meter.leadOhms, meter.ohmsResolution);
}
