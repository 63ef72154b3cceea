import type { Asked, SheetData } from "./kinds";
import { round } from "./shown";
import { SORTS } from "./sorts";
import { Machine, type Source } from "./world";

/** Generators whose field is a winding, in the benchmark's own world: other laws of magnetisation, belt and brushes than the program's. */

/** Share of a slack belt's slip by what is switched on. */
const SLIP: Record<string, number> = { off: 0.3, normal: 0.6, all: 1 };

/** What alternator and DC generator have in common. */
abstract class Excited extends Machine {
  /** Ohms of the sound field, and its amps at the volts it is made for. */
  readonly fieldOhms: number;
  readonly #fullAmps: number;

  constructor(sheet: SheetData, seed: number, printed: string, middling: number) {
    super(sheet, seed, SORTS[sheet.family]);
    const row = sheet.bands.find(({ test, low, high }) => test === printed && low !== undefined && high !== undefined);
    const sound = row ? ((row.low as number) + (row.high as number)) / 2 : middling * this.scale;
    this.fieldOhms = sound * this.own.ohms ** 0.5;
    this.#fullAmps = (13.5 * this.scale) / sound;
  }

  override mend(part: string): void {
    super.mend(part);
    const f = this.faults;
    if (part === "rotor") Object.assign(f, { brush: 0, armature: 1, ...(this.fieldTurns ? SOUND_FIELD : {}) });
    if (part === "stator" && !this.fieldTurns) Object.assign(f, SOUND_FIELD, { backwards: false });
    if (part === "regulator") f.cutout = "good";
    if (part === "wiring") f.fieldFeed = 0;
    if (part === "drive") f.belt = 0;
  }

  /** Whether the field turns with the rotor. */
  protected abstract get fieldTurns(): boolean;

  protected get field(): number {
    const f = this.faults;
    return f.fieldOpen ? 1e9 : this.fieldOhms * f.fieldTurns;
  }

  /** EMF at a field current against the full one: a knee of this world's own. */
  protected excited(amps: number): number {
    const x = (this.faults.fieldTurns * amps) / this.#fullAmps;
    return (1.8 * x) / (0.8 + x) + 0.02;
  }

  /** Share of the field's ampere-turns that no regulator can take away. */
  protected get least(): number {
    const touch = this.faults.fieldTouch;
    if (!touch) return 0;
    const fed = (1 - touch[0]) * this.fieldOhms;
    return fed / (fed + touch[1]);
  }

  protected grip(loads: string): number {
    const { belt } = this.faults;
    return belt >= 1 ? 0.001 : 1 - belt * (SLIP[loads] ?? 0.6);
  }

  /** The volts with a field that is held at its least, or fed in full past the regulator. */
  protected freed(rpm: number, loads: string, warm: boolean, share: number): ReturnType<Machine["run"]> {
    const f = this.faults;
    const kept = { dead: f.dead, deadHot: f.deadHot, runaway: f.runaway };
    Object.assign(f, { dead: false, deadHot: false, runaway: true });
    this.share = share;
    const run = super.run(rpm, loads, warm);
    this.share = 1;
    Object.assign(f, kept);
    return run;
  }

  protected share = 1;

  override run(rpm: number, loads: string, warm: boolean): ReturnType<Machine["run"]> {
    const held = super.run(rpm, loads, warm);
    if (this.least === 0) return held;
    const leaking = this.freed(rpm, loads, warm, this.least);
    return leaking.posts > held.posts ? leaking : held;
  }
}

const SOUND_FIELD = { fieldOpen: false, fieldTurns: 1, fieldTouch: undefined };

/** Where its phases, fully excited, reach the battery's volts, as a share of the idle speed: this world prints it on no sheet. */
const BEGINS = 0.6;

/** A three-phase alternator with a rotor on two rings. */
export class Alternator extends Excited {
  constructor(sheet: SheetData, seed: number) {
    const volts = ((14.4 * sheet.systemVolts) / 12 / Math.SQRT2 / (BEGINS * sheet.idleRpm)) * 5000;
    super({ ...sheet, bands: [...sheet.bands, { test: "stator.acVolts", low: 0.95 * volts, high: 1.05 * volts, rpm: 5000 }] }, seed, "field.resistance", 3.9);
  }

  protected override get fieldTurns(): boolean {
    return true;
  }

  #inField(past: boolean): number {
    const f = this.faults;
    const wires = [3, 4].reduce((sum, leg) => sum + (f.pins[leg] as number) + (f.cable[leg] as number), 0);
    return this.field + f.brush + f.fieldFeed + wires + 0.15 + (past ? 0 : f.innerGround);
  }

  protected override source(rpm: number, loads: string, warm: boolean): Source {
    const f = this.faults;
    f.slip = this.grip(loads);
    // Behind a fuse that is blown its feed is dead as well.
    return (pins, posts) => {
      f.weak = f.fuseBlown ? 0.02 : this.excited((this.share * posts) / this.#inField(this.past));
      const made = super.source(rpm, loads, warm)(pins, posts);
      f.weak = 1;
      return made;
    };
  }

  protected past = false;

  protected override truth(asked: Asked): number | string {
    const f = this.faults;
    const touch = f.fieldTouch;
    switch (asked.test) {
      case "field.resistance":
        return this.shownOhms(this.field + f.brush + 0.1, asked);
      case "field.resistanceAtUnit":
        return this.shownOhms(this.#inField(true) - f.fieldFeed - 0.05, asked);
      case "field.supply":
        return this.shownVolts(
          f.fuseBlown ? 0 : (this.keyOn(this.sheet.loadAmps?.normal ?? 8) * (this.field + f.brush)) / (this.field + f.brush + f.fieldFeed + 0.05),
        );
      case "field.fullField": {
        this.past = true;
        const run = this.freed(this.speed(asked), "normal", false, 1);
        this.past = false;
        return this.shownVolts(run.posts);
      }
      case "stator.toGround":
        if (asked.at?.startsWith("F"))
          return this.shownOhms(
            touch ? touch[1] + (asked.at === "F2" ? touch[0] : 1 - touch[0]) * this.fieldOhms + (asked.at === "F1" ? f.brush : 0) : 1e9,
            asked,
          );
        return super.truth(asked);
      default:
        return super.truth(asked);
    }
  }
}

/** Share of the idle speed at which it builds up to 13.5 V, volts it loses inside at its rating, and at which its coils let no more through. */
const BUILDS = 1.3;
const INSIDE = 4.2;
const MOST = 1.08;

/** A DC generator with cut-out, voltage coil and current coil. */
export class Generator extends Excited {
  constructor(sheet: SheetData, seed: number) {
    super(sheet, seed, "generator.field", 3.5);
    if (this.faults.cutout === "short" && this.#backAmps() > 1.35 * (sheet.fuses[0]?.amps ?? 15)) this.faults.fuseBlown = true;
  }

  protected override get fieldTurns(): boolean {
    return false;
  }

  get #rated(): number {
    return this.sheet.ratedAmps ?? 10;
  }

  get #inner(): number {
    return (INSIDE * this.scale * this.own.ohms * (0.3 + 0.7 * this.faults.armature)) / this.#rated + this.faults.brush;
  }

  #backAmps(): number {
    return this.batteryVolts(0) / (this.#inner + 0.03);
  }

  #emf(rpm: number, fieldAmps: number): number {
    const full = (13.5 * this.scale) / (BUILDS * this.sheet.idleRpm);
    return full * rpm * this.own.emf * this.faults.armature * this.excited(fieldAmps);
  }

  protected override source(rpm: number, loads: string, _warm: boolean): Source {
    const f = this.faults;
    const wire = (leg: number): number => (f.pins[leg] as number) + (f.cable[leg] as number);
    const turn = rpm * this.grip(loads);
    return (pins) => {
      if (f.cutout === "open" || (f.backwards && f.cutout !== "short")) return { amps: 0, legs: [] };
      // What leaves A is found by halving: more of it raises A, which raises the field.
      const inField = this.field + wire(1) + f.innerGround + 0.05;
      let [low, high] = [-60, 200];
      for (let k = 0; k < 40; k++) {
        const amps = 0.5 * (low + high);
        const at = pins + 0.05 * this.scale + amps * (wire(0) + 0.01);
        const into = (this.share * at) / inField;
        if (this.#emf(turn, into) - at > (amps + into) * this.#inner) low = amps;
        else high = amps;
      }
      const free = f.cutout === "short" ? low : Math.max(0, low);
      return { amps: f.runaway || this.least > 0 ? free : Math.min(free, MOST * this.#rated), legs: [] };
    };
  }

  /** By itself, its field grounded: volts at which it carries nothing but its field. */
  #alone(rpm: number): number {
    let [low, high] = [0, 120 * this.scale];
    for (let k = 0; k < 40; k++) {
      const at = 0.5 * (low + high);
      const into = at / (this.field + 0.05);
      if (this.#emf(rpm, into) - into * this.#inner > at) low = at;
      else high = at;
    }
    return low;
  }

  protected override truth(asked: Asked): number | string {
    const f = this.faults;
    const touch = f.fieldTouch;
    const wire = (leg: number): number => (f.pins[leg] as number) + (f.cable[leg] as number);
    const armature = (0.75 * INSIDE * this.scale * this.own.ohms * (0.3 + 0.7 * f.armature)) / this.#rated + 0.02 + f.brush;
    const beside = (a: number, b: number): number => 1 / (1 / a + 1 / b);
    const toF = touch ? touch[0] * this.fieldOhms + beside(touch[1], (1 - touch[0]) * this.fieldOhms + armature) : this.field + armature;
    const toA = touch ? beside(armature, (1 - touch[0]) * this.fieldOhms + touch[1]) : armature;
    switch (asked.test) {
      case "generator.field":
        return this.shownOhms(toF, asked);
      case "generator.armature":
        return this.shownOhms(toA, asked);
      case "generator.atUnit":
        return this.shownOhms(asked.at === "A" ? toA + wire(0) : toF + wire(1), asked);
      case "generator.output":
        return this.shownVolts((f.backwards ? -1 : 1) * this.#alone(this.speed(asked) * this.grip("normal")));
      case "drain.current": {
        const drawn = Number(super.truth(asked));
        return f.cutout === "short" && !f.fuseBlown && !f.feedCut ? round(drawn + 1000 * this.#backAmps(), 1) : drawn;
      }
      default:
        return super.truth(asked);
    }
  }
}
