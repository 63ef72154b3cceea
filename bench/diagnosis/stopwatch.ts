import type { Asked } from "./kinds";

/** How the machine stands for each test: engine, key, what is parted. Plain figures of the trade, shared with nobody. */
const STANDS: Record<string, [engine: "stopped" | "running" | "cranking", key: boolean, parted: string, places: string]> = {
  "battery.rest": ["stopped", false, "", "battery"],
  "battery.settled": ["stopped", true, "", "battery"],
  "battery.crank": ["cranking", true, "", "battery"],
  "battery.postDrop": ["cranking", true, "", "battery"],
  "battery.load": ["stopped", false, "", "battery"],
  "battery.conductance": ["stopped", false, "", "battery"],
  "battery.crankingAmps": ["stopped", false, "", "battery"],
  "battery.innerOhms": ["stopped", false, "", "battery"],
  "starter.amps": ["cranking", true, "", "battery"],
  "starter.cableDrop": ["cranking", true, "", "battery"],
  "charge.volts": ["running", true, "", "battery"],
  "charge.current": ["running", true, "", "battery"],
  "charge.outputVolts": ["running", true, "", "unit"],
  "charge.positiveDrop": ["running", true, "", "unit battery"],
  "charge.groundDrop": ["running", true, "", "unit battery"],
  "stator.legDrop": ["running", true, "", "plug unit"],
  "stator.resistance": ["stopped", false, "stator", "plug"],
  "stator.toGround": ["stopped", false, "stator", "plug"],
  "stator.acVolts": ["running", true, "stator", "plug"],
  "stator.acVoltsAtUnit": ["running", true, "unit", "unit"],
  "regulator.diode": ["stopped", false, "output stator", "unit"],
  "regulator.feed": ["stopped", true, "output", "unit battery"],
  "regulator.ground": ["stopped", false, "", "unit battery"],
  "fuse.continuity": ["stopped", false, "", "fuses"],
  "drain.current": ["stopped", false, "negative", "battery"],
  "drain.unitUnplugged": ["stopped", false, "negative output unit", "battery unit"],
  "drain.fusePulled": ["stopped", false, "negative", "battery fuses"],
  "inspect.terminals": ["stopped", false, "", "battery"],
  "inspect.ground": ["stopped", false, "", "battery"],
  "inspect.fluid": ["stopped", false, "", "battery"],
  "stator.dcVolts": ["running", true, "stator", "plug"],
  "stator.diode": ["stopped", false, "stator", "plug"],
  "inspect.belt": ["stopped", false, "", "generator"],
  "inspect.brushes": ["stopped", false, "", "generator"],
  "field.resistance": ["stopped", false, "stator", "plug"],
  "field.resistanceAtUnit": ["stopped", false, "unit", "unit"],
  "field.supply": ["stopped", true, "", "unit battery"],
  "field.fullField": ["running", true, "", "unit battery"],
  "generator.motoring": ["stopped", false, "stator", "generator plug battery"],
  "generator.output": ["running", true, "stator", "plug"],
  "generator.field": ["stopped", false, "stator", "plug"],
  "generator.armature": ["stopped", false, "stator", "plug"],
  "generator.atUnit": ["stopped", false, "unit", "unit"],
  "regulator.feedLamp": ["stopped", true, "", "unit"],
  "regulator.groundLamp": ["stopped", false, "", "unit battery"],
  "rotor.pull": ["stopped", false, "", "cover"],
  "swap.unit": ["running", true, "", "unit"],
};

/** Minutes at the point, without the way there. */
const POINT: Record<string, number> = {
  "battery.settled": 1.5,
  "battery.load": 2,
  "drain.current": 3,
  "charge.positiveDrop": 0.5,
  "charge.groundDrop": 0.5,
  "stator.resistance": 0.5,
  "stator.toGround": 0.5,
  "regulator.diode": 0.25,
  "regulator.ground": 0.5,
  "fuse.continuity": 0.5,
  "drain.fusePulled": 0.5,
  "inspect.terminals": 0.5,
  "inspect.ground": 0.5,
  "swap.unit": 10,
  "inspect.belt": 0.5,
  "field.resistance": 0.5,
  "field.resistanceAtUnit": 0.5,
  "field.supply": 0.5,
  "generator.motoring": 4,
  "generator.output": 2,
  "generator.field": 0.5,
  "generator.armature": 0.5,
  "generator.atUnit": 0.5,
  "regulator.feedLamp": 0.5,
  "regulator.groundLamp": 0.5,
};
const OPEN: Record<string, number> = { battery: 1, plug: 3, unit: 3, fuses: 1, generator: 3, cover: 30 };
const [PLUG, START, STOP, WARM, CRANK, AMMETER_IN, AMMETER_OUT, CHARGE, DIAL] = [0.5, 1, 0.3, 1, 1, 1.5, 1, 5, 0.1];
/** Tests that need no tool beyond a multimeter and a lamp are not named here. */
const TOOL = ["battery.load", "battery.conductance", "battery.crankingAmps", "battery.innerOhms", "starter.amps", "charge.current", "swap.unit"];
const CALM = /^(inspect\.|battery\.rest$)/;

/** What a job's readings have asked of somebody's hands, counted the same way for engine and flowchart. */
export class Stopwatch {
  minutes = 0;
  starts = 0;
  plugMoves = 0;
  restAfterRun = 0;
  foreignTools = 0;
  calmStart: boolean | undefined;
  #engine: "stopped" | "running" = "stopped";
  #parted = new Set<string>();
  readonly #open = new Set<string>();
  #ran = false;
  #hot = false;
  #charged = false;
  #test = "";

  /** One reading, in the state of the job in which it is taken. */
  read(asked: Asked): void {
    const { test } = asked;
    const [engine, , parted, places] =
      test === "inspect.connector"
        ? (["stopped", false, "", asked.at === "output" ? "unit" : "plug"] as const)
        : ((STANDS[test] ?? STANDS["battery.rest"]) as NonNullable<(typeof STANDS)[string]>);
    this.calmStart ??= CALM.test(test);
    if (TOOL.includes(test)) this.foreignTools++;
    for (const place of places.split(" ")) {
      if (this.#open.has(place)) continue;
      this.#open.add(place);
      this.minutes += OPEN[place] ?? 0;
    }
    const wanted = new Set(parted.split(" ").filter(Boolean));
    const charges = asked.charged === true && !this.#charged;
    const replugs = wanted.size !== this.#parted.size || [...wanted].some((plug) => !this.#parted.has(plug));
    if (this.#engine === "running" && (engine !== "running" || replugs || charges)) this.#stop();
    if (charges) {
      this.#replug(new Set());
      this.minutes += CHARGE;
      this.#charged = true;
      this.#ran = false;
    }
    if (asked.hot && !this.#hot) {
      if (this.#engine === "stopped") {
        this.#replug(new Set());
        this.#start();
      }
      this.minutes += WARM;
      this.#hot = true;
      if (engine !== "running" || wanted.size > 0) this.#stop();
    }
    this.#replug(wanted);
    if (engine === "running" && this.#engine === "stopped") this.#start();
    if (engine === "cranking") this.minutes += CRANK;
    if (test === "battery.rest" && this.#ran) this.restAfterRun++;
    if (test !== this.#test) this.minutes += DIAL;
    this.#test = test;
    this.minutes += POINT[test] ?? 1;
  }

  #start(): void {
    this.minutes += START;
    this.starts++;
    this.#engine = "running";
    this.#ran = true;
  }

  #stop(): void {
    this.minutes += STOP;
    this.#engine = "stopped";
  }

  #replug(wanted: ReadonlySet<string>): void {
    for (const connector of [...this.#parted]) if (!wanted.has(connector)) this.#move(connector, AMMETER_OUT, (plug) => this.#parted.delete(plug));
    for (const connector of wanted) if (!this.#parted.has(connector)) this.#move(connector, AMMETER_IN, (plug) => this.#parted.add(plug));
  }

  #move(plug: string, ammeter: number, done: (plug: string) => void): void {
    this.minutes += plug === "negative" ? ammeter : PLUG;
    if (plug !== "negative") this.plugMoves++;
    done(plug);
  }
}
