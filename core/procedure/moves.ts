import { openingMinutes, PLACES, type PlaceId } from "../machine/access";
import type { Sheet } from "../machine/sheet";
import type { Connector } from "../machine/standing";
import { type TestId, testOf } from "./catalogue";
import type { Reading, Step } from "./step";

/**
 * How a machine is brought from one state into another, and what that takes: minutes of somebody's hands, and minutes that pass on
 * the clock by themselves. One table serves the planner, the run list and the job's clock.
 */

/** Hands and clock of each kind of move, min, and why so long. */
export const MOVES = {
  /** Half a minute a plug: find the tab, in gloves. */
  part: { hands: 0.5, clock: 0 },
  join: { hands: 0.5, clock: 0 },
  /** Start, and until the speed stands still. */
  start: { hands: 1, clock: 0 },
  stop: { hands: 0.3, clock: 0 },
  /** Kept at speed until the cover is too hot to touch; something else can be done meanwhile. */
  warm: { hands: 1, clock: 10 },
  /** Disable by the maker's method, crank, undo. */
  crank: { hands: 1, clock: 0 },
  /** Key out, cable off, meter in between, range down. */
  "ammeter-in": { hands: 1.5, clock: 0 },
  "ammeter-out": { hands: 1, clock: 0 },
  /** The school's rest goes by on the clock. */
  rest: { hands: 0.2, clock: 120 },
  /** Charger on and off; what lies between is the charger's. */
  charge: { hands: 5, clock: 240 },
  /** Another dial, or the probes moved to another place. */
  dial: { hands: 0.1, clock: 0 },
  open: { hands: 0, clock: 0 },
} as const;

type MoveId = keyof typeof MOVES;

/** One thing to do with the machine before the probes go on. */
export interface Move {
  id: MoveId;
  /** The connector parted or joined, or the place opened. */
  what?: Connector | PlaceId;
  hands: number;
  clock: number;
}

/** The state in which a machine stands on the lift. */
export interface State {
  engine: "stopped" | "running";
  key: "out" | "on";
  parted: ReadonlySet<Connector>;
  open: ReadonlySet<PlaceId>;
  /** Nothing has charged, turned or loaded the battery since it rested. */
  rested: boolean;
  /** The engine has run: what the battery shows under load is that of a battery just charged. */
  run: boolean;
  hot: boolean;
  charged: boolean;
  dial: string;
  /** A part that lies on the bench without its machine: there is nothing to open, part or start. */
  loose?: true;
  /** Minutes until a place is open, where the machine's sheet says. */
  opening?: Partial<Record<PlaceId, number>>;
}

/** A machine as it is wheeled in: everything joined, nothing opened, at rest. */
export const WHEELED_IN: State = {
  engine: "stopped",
  key: "out",
  parted: new Set(),
  open: new Set(),
  rested: true,
  run: false,
  hot: false,
  charged: false,
  dial: "",
};

/** How a job begins: the machine wheeled in, or a part of it laid down. */
export function beginningOf({ loose, access }: Pick<Sheet, "loose" | "access">): State {
  return loose ? { ...WHEELED_IN, loose: true } : access ? { ...WHEELED_IN, opening: openingMinutes({ access }) } : WHEELED_IN;
}

/** What a reading asks of the machine beyond its test's set-up. */
interface Wanted {
  hot?: boolean | undefined;
  charged?: boolean | undefined;
}

/** Places that a step's probes, fingers or eyes have to reach. */
export function placesFor({ test, at }: Pick<Step, "test" | "at">): readonly PlaceId[] {
  if (test === "inspect.connector") return at === "output" ? ["unit"] : ["stator-plug"];
  return PLACES_OF[test] ?? ["battery"];
}

const PLACES_OF: Partial<Record<TestId, readonly PlaceId[]>> = {
  "inspect.tach": [],
  "stator.resistance": ["stator-plug"],
  "stator.toGround": ["stator-plug"],
  "stator.acVolts": ["stator-plug"],
  "stator.acVoltsAtUnit": ["unit"],
  "stator.legDrop": ["stator-plug", "unit"],
  "stator.dcVolts": ["stator-plug"],
  "stator.diode": ["stator-plug"],
  "rotor.pull": ["engine-cover"],
  "inspect.belt": ["generator"],
  "inspect.brushes": ["generator"],
  "field.resistance": ["stator-plug"],
  "field.resistanceAtUnit": ["unit"],
  "field.supply": ["unit", "battery"],
  "field.fullField": ["unit", "battery"],
  "generator.motoring": ["generator", "stator-plug", "battery"],
  "generator.output": ["stator-plug"],
  "generator.field": ["stator-plug"],
  "generator.atUnit": ["unit"],
  "generator.armature": ["stator-plug"],
  "regulator.feedLamp": ["unit"],
  "regulator.groundLamp": ["unit", "battery"],
  "regulator.diode": ["unit"],
  "regulator.feed": ["unit", "battery"],
  "regulator.ground": ["unit", "battery"],
  "charge.outputVolts": ["unit"],
  "charge.positiveDrop": ["unit", "battery"],
  "charge.groundDrop": ["unit", "battery"],
  "drain.unitUnplugged": ["battery", "unit"],
  "drain.fusePulled": ["battery", "fuse-box"],
  "fuse.continuity": ["fuse-box"],
  "swap.unit": ["unit"],
};

/** Tests that mean something only while the battery is at rest, and those that a run of the engine spoils. */
const AT_REST: readonly TestId[] = ["battery.rest"];
const BEFORE_A_RUN: readonly TestId[] = ["battery.settled", "battery.crank", "battery.load"];

/** What is lost for a test when the machine is moved on: its rest, or that its engine has not run yet. */
export function perishes(test: TestId): "rest" | "run" | undefined {
  return AT_REST.includes(test) ? "rest" : BEFORE_A_RUN.includes(test) ? "run" : undefined;
}

const move = (id: MoveId, what?: Connector | PlaceId): Move => ({ id, ...(what ? { what } : {}), hands: MOVES[id].hands, clock: MOVES[id].clock });

/**
 * The moves that bring a machine from a state to where a step can be read, in the order in which hands make them, and the state it
 * is then in. @param restHours the school's rest
 */
export function movesTo(
  step: Pick<Step, "test" | "at">,
  { hot = false, charged = false }: Wanted,
  from: State,
  restHours: number,
): { moves: Move[]; state: State } {
  const test = testOf(step.test);
  const { setUp } = test;
  const moves: Move[] = [];
  const parted = new Set(from.parted);
  let { engine, rested, run } = from;
  let heat = from.hot;
  const wanted = new Set(from.loose ? [] : test.asItStands ? from.parted : setUp.unplug);
  const turns = setUp.engine === "running" ? "running" : "stopped";
  const differs = wanted.size !== parted.size || [...wanted].some((connector) => !parted.has(connector));
  const stop = (): void => {
    if (engine === "running") moves.push(move("stop"));
    engine = "stopped";
  };
  const replug = (to: ReadonlySet<Connector>): void => {
    for (const connector of [...parted].sort(byCare)) {
      if (to.has(connector)) continue;
      moves.push(connector === "negative" ? move("ammeter-out") : move("join", connector));
      parted.delete(connector);
    }
    for (const connector of [...to].sort(byCare)) {
      if (parted.has(connector)) continue;
      moves.push(connector === "negative" ? move("ammeter-in") : move("part", connector));
      parted.add(connector);
    }
  };
  const warms = hot && !heat;
  const charges = charged && !from.charged;
  const open = new Set(from.open);
  for (const place of placesFor(step)) {
    if (from.loose || open.has(place)) continue;
    const minutes = from.opening?.[place] ?? PLACES[place].minutes;
    moves.push({ id: "open", what: place, hands: minutes, clock: minutes });
    open.add(place);
  }
  if (turns === "stopped" || differs || charges) stop();
  if (charges) {
    replug(new Set());
    moves.push(move("charge"));
    // Fresh off the charger it reads too high at rest; under load that is gone at once.
    rested = false;
    run = false;
  }
  if (warms) {
    if (engine === "stopped") {
      replug(new Set());
      moves.push(move("start"));
    }
    moves.push(move("warm"));
    heat = true;
    [engine, rested, run] = ["running", false, true];
    if (turns === "stopped" || wanted.size > 0) stop();
  }
  replug(wanted);
  if (step.test === "battery.rest" && !rested) {
    moves.push({ ...move("rest"), clock: 60 * restHours });
    rested = true;
  }
  if (turns === "running" && engine === "stopped") {
    moves.push(move("start"));
    engine = "running";
  }
  if (setUp.engine === "cranking") moves.push(move("crank"));
  if (test.dial !== from.dial && test.dial !== "eyes") moves.push(move("dial"));
  if (engine === "running") [rested, run] = [false, true];
  if (setUp.key === "on" || setUp.engine === "cranking") rested = false;
  return {
    moves,
    state: {
      engine,
      key: setUp.key === "on" ? "on" : "out",
      parted,
      open,
      rested,
      run,
      hot: heat,
      charged: from.charged || charged,
      dial: test.dial === "eyes" ? from.dial : test.dial,
      ...(from.loose ? { loose: true as const } : {}),
      ...(from.opening ? { opening: from.opening } : {}),
    },
  };
}

/** The negative cable comes off first and goes on last. */
const byCare = (connector: Connector, other: Connector): number => Number(connector !== "negative") - Number(other !== "negative");

/** Hands-on and clock minutes of a list of moves. */
export function timeOf(moves: readonly Move[]): { hands: number; clock: number } {
  return moves.reduce((sum, { hands, clock }) => ({ hands: sum.hands + hands, clock: sum.clock + clock }), { hands: 0, clock: 0 });
}

/** What the readings of a job have taken so far, and how the machine stands after the last of them. */
interface Worked {
  state: State;
  hands: number;
  /** Minutes that went by with nobody's hands on the machine. */
  waiting: number;
}

/** Works through readings in the order taken, making every move between them. */
export function worked(readings: readonly Pick<Reading, "test" | "at" | "hot" | "charged">[], restHours: number, from: State): Worked {
  let state = from;
  let [hands, waiting] = [0, 0];
  for (const reading of readings) {
    // "After a full charge" stays said of every reading that follows one.
    const wanted = { hot: reading.hot, charged: reading.charged };
    const { moves, state: then } = movesTo(reading, wanted, state, restHours);
    const time = timeOf(moves);
    hands += time.hands + testOf(reading.test).minutes;
    waiting += Math.max(0, time.clock - time.hands);
    state = then;
  }
  return { state, hands, waiting };
}
