import { conditionOf, stateOf } from "../core/machine/condition";
import { type CrankWave, crankWave, heldLowest } from "../core/machine/crank";
import { isMirrored } from "../core/machine/families/registry";
import type { FieldProblem, Sheet } from "../core/machine/sheet";
import type { Meter } from "../core/meter/meter";
import type { MeterDial } from "../core/meter/read";
import { testOf } from "../core/procedure/catalogue";
import { stepProblem } from "../core/procedure/entry";
import { simulateStep, standingFor } from "../core/procedure/simulate";
import { acPairsOf, probesAt, type Step, stepFromKey } from "../core/procedure/step";
import { LiveRun } from "../core/rig/run";
import { firstSetup, fromParams, type RigSetup, toParams } from "../core/rig/setup";
import { isNumber, OPEN_LINE, roundTo } from "../core/units";

/** What a meter shows at one moment: a figure, the open line, or that it is still looking for its range. */
export interface Shown {
  value: number | typeof OPEN_LINE | "ranging";
  unit: "V" | "V AC" | "Ω" | "mA" | "A";
}

/** Time after the probes have touched in which the contact bounces, s, and after which a range has been found. */
const BOUNCES = 0.12;
const RANGING = 0.25;
/** How long hands are on their way from one pair of points to another, the leads off, s: a page that is busy sees it as well. */
const ON_THE_WAY = 0.5;
/** A change by more than so many times what was shown makes the meter look for its range anew. */
const OUT_OF_RANGE = 8;
/** Open leads on volts pick up what is in the air: V, and how slowly it wanders, s. */
const WANDERS = { volts: 0.12, seconds: 3 } as const;
/** Noise of a reading, in last digits. */
const NOISE_DIGITS = 0.4;
/** How long the tips are put together before they go to where the open line may be the answer, s; and how often again where nobody took it. */
const TIPS = { together: 1.2, every: 8 } as const;
/** How long a crank lasts before it is given up, s; and how often the key is turned again where what is read under the starter was not taken. */
const CRANK = { seconds: 4, every: 9 } as const;
/** A meter's lowest-hold averages over so long, s: what is over sooner it does not see. */
const HOLD_SECONDS = 0.1;

const UNITS: Record<MeterDial, Shown["unit"]> = { "V DC": "V", "V AC": "V AC", Ω: "Ω", diode: "V", "A DC": "mA", clamp: "A" };

/**
 * A machine with a meter on it, played in real time: engine, key, loads and probes stand as they are set, and the meter shows what such a
 * meter shows: contact that bounces, a range that has to be found, leads that pick up what is in the air, a lowest-hold.
 */
export class PlayedMeter {
  readonly sheet: Sheet;
  readonly #meter: Meter;
  readonly #run: LiveRun;
  readonly #random: () => number;
  #setup: RigSetup;
  #fixed: number | typeof OPEN_LINE | undefined;
  /** It is found as a mechanic would leave it: engine off, its probes on the battery. */
  #lifted = false;
  #touchedAt = Number.NEGATIVE_INFINITY;
  /** Since when hands put the tips together now and then, s. */
  #tipsFrom: number | undefined;
  #rangedAt = Number.NEGATIVE_INFINITY;
  #range = 0;
  /** Something live is touched, then the points, and so on while nobody has taken what they show. */
  #knocking: { live: RigSetup; points: RigSetup; isOnPoints: boolean; until: number } | undefined;
  #crank: { wave: CrankWave; from: number } | undefined;
  /** Hands read something while the starter turns; when they turn the key once more, s. */
  #readsCranking = false;
  #cranksAgainAt: number | undefined;
  #last = 0;
  #hold: { least: number; most: number; sum: number; count: number } | undefined;

  /** @param random figures from 0 to 1, for noise and bounce */
  constructor(sheet: Sheet, faults: RigSetup["faults"], meter: Meter, random: () => number = Math.random) {
    this.sheet = sheet;
    this.#meter = meter;
    this.#random = random;
    this.#run = new LiveRun(sheet, meter);
    this.#setup = { ...firstSetup(sheet), engine: "off", key: "out", faults, channels: [] };
    this.#run.set(this.#setup, this.#condition(), true);
  }

  get dial(): MeterDial {
    return this.#setup.dial;
  }

  #condition() {
    return conditionOf(this.#setup.faults, { ambientC: this.#setup.ambientC, charge: this.#setup.charge });
  }

  /** Turns the dial. */
  turn(dial: MeterDial, now: number): void {
    if (dial === this.#setup.dial) return;
    this.#change({ ...this.#setup, dial }, now);
  }

  /**
   * Sets how the machine stands and where the probes are, as a rig's address says it: `rpm=5000 loads=all red=battery+ black=battery-`.
   * What is not named stays as it is (a speed without an engine is one that runs); `lift=yes` takes the probes off.
   */
  stand(text: string, now: number): FieldProblem[] {
    const words = text.trim().split(/\s+/).filter(Boolean);
    const wrong = words.filter((word) => !/^[A-Za-z]+=.+$/.test(word));
    if (wrong.length > 0) return [{ field: "set", error: `“${wrong.join(" ")}” must be name=value` }];
    const params = toParams(this.#setup, this.sheet);
    params.delete("scope");
    const named = new Set<string>();
    for (const word of words) {
      const at = word.indexOf("=");
      const [name, value] = [word.slice(0, at), word.slice(at + 1)];
      if (name === "lift") continue;
      if (!KNOWN.includes(name)) return [{ field: name, error: `is nothing that can be set; there are ${[...KNOWN, "lift"].join(", ")}` }];
      if (!named.has(name)) params.delete(name);
      named.add(name);
      // Lists are parted by commas, a word having no spaces; an empty one is said as such.
      if (value !== "none") params.append(name, LISTS.includes(name) ? value.replaceAll(",", " ") : value);
    }
    // A speed is an engine's that runs.
    if (named.has("rpm") && !named.has("engine")) params.set("engine", "running");
    const { setup, problems } = fromParams(params, this.sheet);
    if (problems.length > 0) return problems;
    this.#fixed = undefined;
    this.#tipsFrom = undefined;
    this.#knocking = undefined;
    this.#readsCranking = false;
    this.#change({ ...setup, channels: [] }, now);
    this.#lifted = /(^|\s)lift=yes(\s|$)/.test(text);
    if (!this.#lifted) this.#touchedAt = now;
    return [];
  }

  /** Stands as a step of the catalogue asks for, the probes on its points: what a mechanic's hands would do. */
  standFor(key: string, now: number): FieldProblem[] {
    const step = stepFromKey(key);
    const problem = step ? stepProblem(step, this.sheet) : { error: `“${key}” is no test` };
    if (!step || problem) return [{ field: "step", error: problem?.error ?? "is no test" }];
    const test = testOf(step.test);
    const standing = standingFor(step, this.sheet);
    const probes = probesAt(step, this.sheet);
    const dial = DIALS[test.dial];
    const setup: RigSetup = {
      ...this.#setup,
      engine: standing.engine === "running" ? "running" : standing.engine === "cranking" ? "cranking" : "off",
      key: standing.key === "on" ? "on" : "out",
      rpm: standing.rpm,
      loads: standing.loads,
      unplug: standing.unplug,
      pulled: standing.pulled,
      field: standing.fullField ? "full" : "regulated",
      ...(dial ? { dial } : {}),
      ...(probes ?? {}),
    };
    // Along a conductor next to nothing is shown, as by leads that are off: something live is touched first.
    const live = test.alongConductor && setup.engine === "running" ? { ...setup, ...this.#livePoints(setup) } : undefined;
    this.#move(live ?? setup, now);
    this.#readsCranking = setup.engine === "cranking";
    this.#knocking = live && { live, points: setup, isOnPoints: false, until: this.#touchedAt + TIPS.together };
    // What no probe shows — a rest after hours, a clamp, a tester — is what the simulator says of the same machine.
    const clamps = test.tool !== undefined || !probes || test.id === "battery.rest" || test.id === "battery.recovery";
    const { value } = simulateStep(this.sheet, this.#condition(), step, this.#meter);
    // The open line is an answer only of probes that were seen to touch: the tips are put together first.
    this.#tipsFrom = test.openAllowed && (test.dial === "Ω" || test.dial === "diode") ? now : undefined;
    this.#fixed = clamps && (isNumber(value) || value === OPEN_LINE) ? (value as number | typeof OPEN_LINE) : undefined;
    this.#lifted = false;
    return [];
  }

  lift(): void {
    this.#lifted = true;
  }

  /** Takes the probes to other points, the leads off on the way. */
  #move(setup: RigSetup, now: number): void {
    const moved = setup.red !== this.#setup.red || setup.black !== this.#setup.black;
    this.#touchedAt = moved ? now + ON_THE_WAY : now;
    this.#change(setup, now);
  }

  /** Points between which the dial shows volts while the engine runs: two legs, or the battery's posts. */
  #livePoints({ dial }: RigSetup): Partial<Pick<RigSetup, "red" | "black">> {
    const live: Step = dial === "V AC" ? { test: "stator.acVolts", at: acPairsOf(this.sheet)[0] } : { test: "charge.volts" };
    return probesAt(live, this.sheet) ?? {};
  }

  /** What hands do next by themselves: from the live touch to the points and back again, the key turned once more. */
  #goOn(now: number): void {
    const knocking = this.#knocking;
    if (knocking && now >= knocking.until) {
      knocking.isOnPoints = !knocking.isOnPoints;
      this.#move(knocking.isOnPoints ? knocking.points : knocking.live, now);
      knocking.until = this.#touchedAt + (knocking.isOnPoints ? TIPS.every : TIPS.together);
    }
    if (this.#cranksAgainAt !== undefined && now >= this.#cranksAgainAt) this.#change({ ...this.#setup, engine: "cranking" }, now);
  }

  #change(setup: RigSetup, now: number): void {
    const cranks = setup.engine === "cranking" && this.#setup.engine !== "cranking";
    const turned = setup.dial !== this.#setup.dial;
    this.#setup = setup;
    this.#cranksAgainAt = undefined;
    if (cranks) {
      this.#crank = { wave: crankWave(stateOf(this.sheet, this.#condition(), false), CRANK.seconds), from: Math.max(now, this.#touchedAt) };
      this.#hold = undefined;
    } else if (setup.engine !== "cranking") this.#crank = undefined;
    if (turned) this.#rangedAt = now;
    this.#run.set(this.#setup, this.#condition());
  }

  /** Forgets what was held. */
  clearHold(): void {
    this.#hold = undefined;
  }

  /** Lowest, highest and mean since the hold was cleared; undefined where nothing was shown since. */
  held(now: number): { least: number; most: number; mean: number } | undefined {
    this.show(now);
    return this.#hold && { least: this.#hold.least, most: this.#hold.most, mean: this.#hold.sum / this.#hold.count };
  }

  /** What the display shows. @param now s */
  show(now: number): Shown {
    const passed = Math.min(0.2, Math.max(0.002, now - this.#last));
    this.#last = now;
    this.#goOn(now);
    const unit = UNITS[this.#setup.dial];
    if (this.#lifted) return { value: this.#open(now), unit };
    if (now < this.#touchedAt || (now - this.#touchedAt < BOUNCES && this.#random() < 0.5)) return { value: this.#open(now), unit };
    const raw = this.#raw(now, passed);
    if (raw === OPEN_LINE) return { value: OPEN_LINE, unit };
    const size = Math.max(Math.abs(raw), 0.01);
    if (size > OUT_OF_RANGE * Math.max(this.#range, 0.05) || size < this.#range / (40 * OUT_OF_RANGE)) {
      this.#range = size;
      this.#rangedAt = now;
    }
    if (now - this.#rangedAt < RANGING) return { value: "ranging", unit };
    const digit = this.#digit(size);
    const value = roundTo(raw + NOISE_DIGITS * digit * (this.#random() - 0.5) * 2, digit);
    if (isNumber(value)) this.#keep(value, now);
    return { value, unit };
  }

  /** The strokes of a crank are the battery's volts; what a cable or a post keeps for itself is the circuit's mean. */
  get #isOnBattery(): boolean {
    const [plus, minus] = isMirrored(this.sheet) ? ["battery-", "battery+"] : ["battery+", "battery-"];
    return this.#setup.red === plus && this.#setup.black === minus;
  }

  #keep(value: number, now: number): void {
    // A crank is over before a slow hold has seen all of it: it keeps the lowest of its own means.
    const seen = this.#crank && this.#isOnBattery ? this.#heldCrank(now) : value;
    const hold = this.#hold ?? { least: seen, most: value, sum: 0, count: 0 };
    this.#hold = { least: Math.min(hold.least, seen), most: Math.max(hold.most, value), sum: hold.sum + value, count: hold.count + 1 };
  }

  #heldCrank(now: number): number {
    const { wave, from } = this.#crank as { wave: CrankWave; from: number };
    const to = Math.min(wave.volts.length, Math.round((now - from) / wave.step));
    const least = heldLowest({ ...wave, volts: wave.volts.subarray(0, to) }, HOLD_SECONDS);
    return Number.isFinite(least) ? roundTo(least, 0.01) : (wave.volts[Math.max(0, to - 1)] as number);
  }

  #raw(now: number, passed: number): number | typeof OPEN_LINE {
    const shown = this.#onPoints(now, passed);
    const { dial } = this.#setup;
    if (this.#tipsFrom === undefined || (dial !== "Ω" && dial !== "diode")) return shown;
    // A figure stays for as long as it is looked at; an open line that nobody has taken is shown to be one once more.
    const since = now - this.#tipsFrom;
    const together = since < TIPS.together || (shown === OPEN_LINE && since % TIPS.every < TIPS.together);
    if (!together) return shown;
    return dial === "Ω" ? this.#meter.leadOhms : 0.001;
  }

  #onPoints(now: number, passed: number): number | typeof OPEN_LINE {
    if (this.#fixed !== undefined && !this.#crank) return this.#fixed;
    if (this.#crank && this.#setup.dial === "V DC") {
      const { wave, from } = this.#crank;
      const volts = wave.volts[Math.max(0, Math.round((now - from) / wave.step))];
      if (volts !== undefined && this.#isOnBattery) return volts;
      if (volts === undefined) {
        // The starter was let go.
        this.#change({ ...this.#setup, engine: "off", key: "on" }, now);
        if (this.#readsCranking) this.#cranksAgainAt = from + CRANK.every;
      }
    }
    const { display } = this.#run.frame(passed);
    return display.value;
  }

  #open(now: number): number | typeof OPEN_LINE {
    if (this.#setup.dial === "Ω" || this.#setup.dial === "diode") return OPEN_LINE;
    if (this.#setup.dial === "V DC" || this.#setup.dial === "V AC")
      return roundTo(Math.abs(WANDERS.volts * Math.sin((2 * Math.PI * now) / WANDERS.seconds)) + 0.02 * this.#random(), 0.001);
    return 0;
  }

  #digit(size: number): number {
    switch (this.#setup.dial) {
      case "Ω":
        return this.#meter.ohmsResolution * 10 ** Math.max(0, Math.ceil(Math.log10(size / (600 * this.#meter.ohmsResolution))));
      case "diode":
        return 0.001;
      case "A DC":
      case "clamp":
        return size < 400 ? 0.1 : 1;
      default:
        return size < 40 ? 0.01 : 0.1;
    }
  }
}

const LISTS: readonly string[] = ["unplug", "pulled"];
const KNOWN: readonly string[] = ["engine", "key", "rpm", "loads", "field", "dial", "red", "black", "ambientC", "charge", "unplug", "pulled", "fault"];

const DIALS: Partial<Record<string, MeterDial>> = { "V DC": "V DC", "V AC": "V AC", Ω: "Ω", diode: "diode", "A DC": "A DC" };
