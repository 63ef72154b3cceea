import { StoredBattery } from "./battery";
import { Chance } from "./chance";
import { type Coil, type Dynamo, deliver, type Link, ohmsBetween, type Stood, turnsShorted, unloaded } from "./dynamo";
import { type Asked, draw, type Faults, type Fill, type Hidden, type Label, SAID, type SheetData, SOUND, type Sort, THREE_LEGS } from "./kinds";
import { diodeShown, FIELDED, found, heldLegs, LETTING, misread, round, spoiltBy } from "./shown";

/**
 * The benchmark's own world: machines with hidden faults and the mechanics who measure them. It shares no code with the program:
 * another circuit solver, another battery, other spreads, other frequencies of faults. Only sheets (data) and the names of
 * tests and parts (the published case format) are common to both.
 */

const TAU = 2 * Math.PI;

/** A generator's output at volts at its pins and at the battery. */
export type Source = (pins: number, posts: number) => { amps: number; legs: number[] };

/** One machine on one day, with a mechanic and a meter. */
export class Machine {
  readonly sheet: SheetData;
  readonly hidden: Hidden[];
  readonly complaint: string[] = [];
  readonly ambientC: number;
  readonly ageYears: number;
  readonly meter: { leadOhms: number; ohmsResolution: number; trueRms: boolean; diodeMaxVolts: number };
  protected readonly chance: Chance;
  protected faults: Faults;
  readonly #battery: StoredBattery;
  protected readonly own: {
    emf: number;
    ohms: number;
    henries: number;
    set: number;
    /** V on 12 V by which its unit holds lower with all loads on than with none. */
    droop: number;
    loads: number;
    battery: number;
    rest: number;
    crank: number;
    wire: number;
    cable: number;
    legs: number[];
    sleeping: number;
  };
  protected readonly hand: { volts: number; ac: number; lead: number };
  protected readonly visits = new Map<string, number>();
  protected readonly runs = new Map<string, ReturnType<Machine["run"]>>();
  misreads = 0;
  /** Readings that were misread, by their order. */
  readonly wrong = new Set<number>();
  taken = 0;

  /** @param sort what can fail on such machines, and on how many legs */
  constructor(sheet: SheetData, seed: number, sort: Sort = THREE_LEGS) {
    const c = new Chance(seed);
    this.chance = c;
    this.sheet = sheet;
    this.ambientC = Math.round(c.between(-5, 38));
    this.faults = SOUND(sort.legs);
    const names = draw(c, sort);
    let fill = "full" as Fill;
    const leg = Math.floor(c.next() * sort.legs);
    this.hidden = names.flatMap((name, k): Hidden[] => {
      const kind = sort.kinds.find((kind) => kind.name === name);
      if (!kind) return [];
      // Of a pair, the second sits on the same leg three times in five.
      kind.set(this.faults, c, k === 0 || c.yes(0.6) ? leg : Math.floor(c.next() * sort.legs));
      if (k === 0) fill = kind.fill;
      return [{ name, part: kind.part }];
    });
    if (names[0] === "flat") this.hidden = [{ name: "flat", part: "charge" }];
    for (const { name } of this.hidden) {
      for (const [said, often] of SAID[name] ?? []) if (c.yes(often)) this.complaint.push(said);
    }
    if (this.complaint.length === 0 && fill === "low" && c.yes(0.6)) this.complaint.push("flat-after-ride");
    if (c.yes(0.12)) this.complaint.push(c.pick(["slow-crank", "flat-overnight", "warning-lamp", "lamps-pulse"]));
    const old = this.hidden.some(({ part }) => part === "battery");
    this.ageYears = Math.round(old ? c.between(2, 8) : c.between(0, 6));
    const limit = sheet.bands.find(({ test }) => test === "drain.current")?.high;
    const droops = new Chance(seed ^ 0x165667b1);
    this.own = {
      emf: 1 + c.normal(0.07),
      ohms: 1 + c.normal(0.1),
      henries: 1 + c.normal(0.1),
      set: c.normal(0.14),
      droop: droops.decades(0.03, 0.5),
      loads: 1 + c.normal(0.15),
      battery: 1 + Math.abs(c.normal(0.25)),
      rest: c.normal(0.05),
      crank: 1 + c.normal(0.15),
      wire: c.decades(0.6, 1.8),
      cable: c.decades(0.75, 1.35),
      legs: [1 + c.normal(0.015), 1 + c.normal(0.015), 1 + c.normal(0.015)],
      sleeping: limit === undefined ? c.decades(0.2, 12) : limit * c.decades(0.1, 0.8),
    };
    this.#battery = new StoredBattery(sheet, this.own, this.ambientC, [fill, names[0] === "flat", this.faults, c, new Chance(seed ^ 0x27d4eb2d)]);
    this.hand = { volts: 1 + c.between(-0.03, 0.03), ac: 1 + c.between(-0.03, 0.03), lead: c.normal(0.03) };
    const lead = c.between(0.1, 0.35);
    this.meter = {
      leadOhms: Math.round(lead * 10) / 10 || 0.1,
      ohmsResolution: c.yes(0.5) ? 0.1 : 0.01,
      trueRms: c.yes(0.3),
      diodeMaxVolts: c.between(2.3, 2.9),
    };
    this.hand.lead += lead - this.meter.leadOhms;
    // A short through the unit that fires takes the main fuse with it.
    const shunt = !LETTING.includes(sheet.family) && !FIELDED.includes(sheet.family);
    if (shunt && this.faults.upper.includes("short") && !this.faults.dead && c.yes(0.85)) this.faults.fuseBlown = true;
  }

  get parts(): Label[] {
    return [...new Set(this.hidden.map(({ part }) => part))];
  }

  /** Mends a part for good; the mechanic charges the battery at that. */
  mend(part: string): void {
    const sound = SOUND(this.faults.pins.length);
    const f = this.faults;
    const keep = (keys: (keyof Faults)[]): void => {
      for (const key of keys) (f as Record<keyof Faults, unknown>)[key] = sound[key];
    };
    if (part === "battery") {
      keep(["aged", "cells", "joint", "size"]);
      this.#battery.renew();
    }
    if (part === "rotor") keep(["weak", "slip"]);
    if (part === "stator") keep(["open", "short", "burnt", "touch", "bridge", "turns", "hotOpen"]);
    if (part === "regulator") keep(["upper", "lower", "leak", "dead", "deadHot", "runaway", "setVolts", "innerGround", "fuseBlown", "outputInside"]);
    if (part === "wiring") {
      keep(["pins", "cable", "out", "ground", "feedCut", "post"]);
      // A new fuse goes the way of the old one while what melted it is still there.
      f.fuseBlown &&= f.upper.includes("short");
    }
    if (part === "loads") keep(["draw", "extra"]);
    if (part === "starter") keep(["starter", "starterCable"]);
    if (f.cells === 0 && f.joint < 1) this.#battery.charge(this.chance.between(0.9, 1));
    this.runs.clear();
  }

  charge(): void {
    if (this.#battery.stored < 0.9) this.#battery.charge(this.chance.between(0.93, 1));
    this.runs.clear();
  }

  protected get ah(): number {
    return this.sheet.battery.ah ?? 12;
  }

  protected get scale(): number {
    return this.sheet.systemVolts / 12;
  }

  protected band(test: string): [number, number] | undefined {
    const band = this.sheet.bands.find((band) => band.test === test && band.low !== undefined && band.high !== undefined);
    return band && [band.low as number, band.high as number];
  }

  /** The network of coils, seen at the unit's pins or on the stator's own side of the plug. */
  protected dynamo(rpm: number, side: "unit" | "part", warm: boolean, _loads?: string): Dynamo {
    const { sheet } = this;
    const f = this.faults;
    const delta = sheet.winding === "delta";
    const [low, high] = this.band("stator.acVolts") ?? [50, 70];
    const acRpm = sheet.bands.find((band) => band.test === "stator.acVolts")?.rpm ?? 5000;
    const [ohmLow, ohmHigh] = this.band("stator.resistance") ?? [0.3, 0.5];
    const linePeak = ((low + high) / 2) * Math.SQRT2 * (rpm / acRpm) * f.slip * this.own.emf * f.weak * f.turns;
    const omega = (TAU * rpm * f.slip * (sheet.polePairs ?? 9)) / 60;
    // The rating is what reaches the battery at speed: rectified, the short-circuit peak of a leg times 3/π, a twentieth lost.
    const peakAmps = ((sheet.ratedAmps ?? 25) / 0.95) * (Math.PI / 3);
    const full = (((low + high) / 2) * Math.SQRT2 * ((TAU * (sheet.polePairs ?? 9)) / 60)) / ((TAU * (sheet.polePairs ?? 9)) / 60) / acRpm;
    const henries = (full / Math.sqrt(3) / peakAmps / ((TAU * (sheet.polePairs ?? 9)) / 60)) * this.own.henries * f.turns ** 2;
    const copper = (1 + 0.0039 * ((warm ? 75 : this.ambientC) - 20)) * this.own.ohms * f.turns;
    const pairOhms = ((ohmLow + ohmHigh) / 2) * copper;
    const coils: Coil[] = [];
    const links: Link[] = [];
    let nodes = side === "unit" ? 6 : 3;
    const pin = (leg: number): number => (side === "unit" ? 3 + leg : leg);
    if (side === "unit") for (const leg of [0, 1, 2]) links.push({ from: leg, to: pin(leg), ohms: (f.pins[leg] as number) + (f.cable[leg] as number) });
    const neutral = delta ? -2 : nodes++;
    const middles: number[] = [];
    for (const leg of [0, 1, 2]) {
      const [from, to] = [pin(leg), delta ? pin((leg + 1) % 3) : neutral];
      const whole = {
        peak: (delta ? linePeak : linePeak / Math.sqrt(3)) * (this.own.legs[leg] as number),
        phase: (-TAU * leg) / 3,
        ohms: (delta ? 1.5 : 0.5) * pairOhms * (this.own.legs[leg] as number),
        henries: (delta ? 3 : 1) * henries,
      };
      const broken = f.open === leg || (warm && f.hotOpen === leg);
      if (broken) {
        coils.push({ from, to, ...whole, ohms: 1e8 });
        middles.push(from);
        continue;
      }
      const s = f.burnt || (f.short?.[0] === leg ? f.short[1] : 0);
      const part = s > 0 ? turnsShorted(whole, s, omega) : whole;
      const cut = f.touch?.[0] === leg ? f.touch[1] : f.bridge && (f.bridge[0] === leg || (f.bridge[0] + 1) % 3 === leg) ? 0.5 : 0;
      if (cut === 0) {
        coils.push({ from, to, ...part });
        middles.push(from);
        continue;
      }
      const middle = nodes++;
      middles.push(middle);
      coils.push({ from, to: middle, peak: part.peak * cut, phase: part.phase, ohms: part.ohms * cut, henries: part.henries * cut });
      coils.push({ from: middle, to, peak: part.peak * (1 - cut), phase: part.phase, ohms: part.ohms * (1 - cut), henries: part.henries * (1 - cut) });
      if (f.touch?.[0] === leg) links.push({ from: middle, to: -1, ohms: f.touch[2] });
    }
    if (f.bridge) links.push({ from: middles[f.bridge[0]] as number, to: middles[(f.bridge[0] + 1) % 3] as number, ohms: f.bridge[1] });
    // Rectifiers stand behind the phases alone: what lies behind the field's two wires is no way to the battery.
    return { nodes, coils, links, upper: f.upper.slice(0, 3), lower: f.lower.slice(0, 3), tied: false };
  }

  /** The battery's volts at a current into it, by this world's own law. */
  protected batteryVolts(amps: number): number {
    return this.#battery.volts(amps, this.faults);
  }

  protected restOhms(): number {
    return this.#battery.ohms(this.faults);
  }

  /** Posts with key and lights on: lamps are resistors. */
  protected keyOn(amps: number): number {
    // What was added comes on with key and lights.
    const lamps = (13.5 * this.scale) / (amps * this.own.loads + this.faults.extra * (this.sheet.ratedAmps ?? 25) * 0.8);
    return (this.batteryVolts(0) * lamps) / (lamps + 1.6 * this.restOhms() + this.faults.post);
  }

  /** What the generator gives with nothing held back: amps, and rms amps of each leg, at volts at its pins and at the battery. */
  protected source(rpm: number, _loads: string, warm: boolean): Source {
    const dynamo = this.dynamo(rpm, "unit", warm);
    const hertz = (rpm * this.faults.slip * (this.sheet.polePairs ?? 9)) / 60;
    let stood: Stood | undefined;
    return (pins) => {
      const made = deliver(dynamo, hertz, Math.max(1, pins), stood);
      stood = made.stood;
      return made;
    };
  }

  /** DC volts of a unit that hangs on nothing. @param aim those that it holds */
  protected alone(aim: number): number {
    return aim;
  }

  /** The running machine in balance. */
  run(rpm: number, loads: string, warm: boolean): { posts: number; out: number; into: number; amps: number; legs: number[] } {
    const { sheet } = this;
    const f = this.faults;
    const dead = f.dead || (warm && f.deadHot);
    const given = (sheet.loadAmps ?? { normal: 8, all: 12 }) as { normal: number; all: number };
    const normal = given.normal * this.own.loads + f.extra * (sheet.ratedAmps ?? 25) * 0.8;
    // Behind a blown main fuse nothing is left on the battery: lamps and drain say so as well.
    const takes = f.fuseBlown
      ? 0
      : loads === "all"
        ? given.all * this.own.loads + f.extra * (sheet.ratedAmps ?? 25) * 0.8
        : loads === "off"
          ? 0.35 * normal
          : normal;
    const wireOut = ((0.16 * this.own.wire) / (sheet.ratedAmps ?? 25)) * this.scale + f.out;
    const wireBack = ((0.09 * this.own.wire) / (sheet.ratedAmps ?? 25)) * this.scale + f.ground + f.innerGround;
    const cut = f.feedCut || f.fuseBlown || f.outputInside || dead;
    const source = this.source(rpm, loads, warm);
    const balanceAt = (posts: number): { into: number; load: number; amps: number } => {
      let [low, high] = [-80, 300];
      for (let k = 0; k < 40; k++) {
        const middle = 0.5 * (low + high);
        if (this.batteryVolts(middle) + middle * f.post < posts) low = middle;
        else high = middle;
      }
      const load = (takes * posts) / (13.5 * this.scale);
      return { into: low, load, amps: low + load };
    };
    const restVolts = this.batteryVolts(0);
    const solve = (): { posts: number; legs: number[] } => {
      // The more the posts are raised the less the generator gives and the more the battery takes: one crossing.
      let [low, high] = [restVolts - 4 * this.scale, restVolts + 9 * this.scale];
      let legs = [0, 0, 0];
      for (let k = 0; k < 9; k++) {
        const posts = 0.5 * (low + high);
        const { amps } = balanceAt(posts);
        const pins = posts + Math.max(0, amps) * (wireOut + wireBack);
        const made = source(pins, posts);
        legs = made.legs;
        if (made.amps > amps) low = posts;
        else high = posts;
      }
      return { posts: 0.5 * (low + high), legs };
    };
    const shown = this.band("charge.volts");
    const droops = this.own.droop * (loads === "all" ? 1 : loads === "off" ? 0 : 0.45);
    const aim = ((shown ? (shown[0] + shown[1]) / 2 : 14.3 * this.scale) as number) + (this.own.set + f.setVolts - droops) * this.scale;
    let posts: number;
    let legs: number[];
    // With nothing from the unit the battery carries the loads: no regulator can hold its posts lower than that.
    let [least, above] = [restVolts - 6 * this.scale, restVolts];
    for (let k = 0; k < 30; k++) {
      const middle = 0.5 * (least + above);
      if (balanceAt(middle).amps < 0) least = middle;
      else above = middle;
    }
    if (cut) {
      posts = least;
      legs = dead || sheet.family === "three-phase-series" ? [1, 1, 1] : source(aim, aim).legs;
    } else {
      const free = solve();
      posts = free.posts;
      legs = free.legs;
      if (!f.runaway) {
        // Sensed at the battery or at the unit; what the ground path loses is always in what the unit sees.
        const seen = (at: number): number =>
          at +
          balanceAt(at).amps * (sheet.sense === "battery" ? wireBack - 0.09 / (sheet.ratedAmps ?? 25) : wireOut + wireBack - 0.25 / (sheet.ratedAmps ?? 25));
        if (seen(posts) > aim) {
          let [low, high] = [restVolts - 3, posts];
          for (let k = 0; k < 30; k++) {
            const middle = 0.5 * (low + high);
            if (seen(middle) < aim) low = middle;
            else high = middle;
          }
          posts = Math.max(least, 0.5 * (low + high));
          // A unit that is half shorted upwards cannot let go of that half.
          if (f.upper.includes("short")) posts = 0.5 * (posts + free.posts);
          legs = heldLegs(sheet.family, legs, balanceAt(posts).amps / Math.max(0.1, balanceAt(free.posts).amps));
        }
      }
    }
    const { into, amps } = balanceAt(posts);
    const through = cut ? 0 : Math.max(0, amps);
    return {
      posts,
      out: cut ? ((dead || f.outputInside) && !f.feedCut && !f.fuseBlown ? posts : this.alone(aim)) : posts + through * (wireOut + wireBack - f.innerGround),
      into,
      amps: through,
      legs,
    };
  }

  /** The mechanic takes a reading; sometimes wrongly, and sometimes a whole visit wrongly: a bad contact at the probe that stays put. */
  take(asked: Asked): number | string {
    const true_ = this.truth(asked);
    const c = this.chance;
    const order = this.taken++;
    const visit = `spoilt${asked.test}${asked.rpm}${asked.hot}`;
    if (!this.visits.has(visit)) this.visits.set(visit, c.yes(0.012) ? c.next() : -1);
    const alike = this.visits.get(visit) as number;
    const wrong = alike >= 0 ? spoiltBy(asked, true_, alike) : c.yes(0.025) ? misread(asked, true_, c) : true_;
    if (wrong === true_) return true_;
    this.misreads++;
    this.wrong.add(order);
    return wrong;
  }

  protected speed(asked: Asked): number {
    const aim = asked.rpm === "idle" ? this.sheet.idleRpm : (asked.rpm ?? this.sheet.testRpm);
    // One throttle hand a test visit: the error is common to its readings.
    const visit = `${asked.test}${asked.rpm}`;
    if (!this.visits.has(visit)) this.visits.set(visit, 1 + this.chance.normal(asked.rpm === "idle" ? 0.05 : 0.035));
    return aim * (this.visits.get(visit) as number);
  }

  protected visitLead(test: string, hot: boolean): number {
    const visit = `lead${test}${hot}`;
    if (!this.visits.has(visit)) this.visits.set(visit, this.chance.normal(0.02));
    return this.meter.leadOhms + this.hand.lead + (this.visits.get(visit) as number);
  }

  protected shownOhms(value: number, asked: Asked): number | string {
    if (value > 2.2e7) return "OL";
    const shown = value + this.visitLead(asked.test, asked.hot === true);
    return round(Math.max(0, shown * (1 + this.chance.normal(0.008))), value > 1000 ? value / 200 : this.meter.ohmsResolution);
  }

  protected shownVolts(value: number): number {
    return round(value * this.hand.volts + this.chance.normal(0.015), 0.01);
  }

  protected truth(asked: Asked): number | string {
    const c = this.chance;
    const f = this.faults;
    const { sheet } = this;
    const warm = asked.hot === true;
    const legs = sheet.legs.map((leg) => leg.id);
    const legOf = (id: string | undefined): number => Math.max(0, legs.indexOf(id ?? ""));
    const pairOf = (at: string | undefined): [number, number] => {
      const [a, b] = (at ?? "").split("-");
      return [legOf(a), legOf(b)];
    };
    const scale = this.scale;
    const loads = (sheet.loadAmps ?? { normal: 8, all: 12 }) as { normal: number; all: number };
    const cca = sheet.battery.cca ?? 12 * this.ah;
    const crank = (): { volts: number; flows: number; drop: number; post: number } => {
      const sound = 0.38 * cca * this.own.crank;
      const motor = (10.4 * scale) / (sound * f.starter);
      // The cable is as thick as it is, whatever the starter takes.
      const cable = (0.2 * scale * this.own.cable) / (0.38 * cca) + f.starterCable;
      const inner = this.restOhms() * 1.6 + f.post;
      const flows = this.batteryVolts(0) / (motor + cable + inner + 0.002);
      return { volts: this.batteryVolts(0) - flows * inner - 0.15, flows, drop: flows * cable, post: flows * (f.post + 0.0006) };
    };
    const healthOf = (): number => Math.min(130, 100 / (this.restOhms() / ((0.19 / this.ah) * scale)));
    const sleeps = this.own.sleeping;
    const leakAmps = f.leak && !f.outputInside && !f.feedCut && !f.fuseBlown ? (1000 * this.batteryVolts(0)) / (2 * f.leak[1]) : 0;
    switch (asked.test) {
      case "battery.rest":
        return this.shownVolts(this.batteryVolts(0) + c.between(0, 0.03));
      case "battery.settled":
        return this.shownVolts(f.fuseBlown ? this.batteryVolts(-0.05) : this.keyOn(loads.normal));
      case "battery.crank":
        return this.shownVolts(crank().volts + c.normal(0.12));
      case "battery.firstPull": {
        // Standing it is a resistor, its windings' own, however hard it turns later.
        const windings = (3.8 * scale) / (0.38 * cca * this.own.crank);
        const cable = (0.2 * scale * this.own.cable) / (0.38 * cca) + f.starterCable;
        const inner = this.restOhms() + f.post;
        return this.shownVolts((this.batteryVolts(0) * (windings + cable)) / (windings + cable + inner) + c.normal(0.1));
      }
      case "battery.load":
        return this.shownVolts(Math.max(0, this.batteryVolts(-cca / 2)));
      case "battery.conductance":
        return Math.round(healthOf());
      case "battery.crankingAmps":
        return Math.round((healthOf() / 100) * cca);
      case "battery.innerOhms":
        return round(1000 * this.restOhms(), 0.1);
      case "starter.amps":
        return round(crank().flows, 1);
      case "battery.postDrop":
        return this.shownVolts(crank().post);
      case "starter.cableDrop":
        return this.shownVolts(crank().drop);
      case "charge.volts":
      case "charge.outputVolts":
      case "charge.positiveDrop":
      case "charge.groundDrop":
      case "charge.current":
      case "stator.legDrop": {
        const rpm = this.speed(asked);
        // The engine was warmed up, as the step asks, more often than not to the heat at which hot faults show.
        if (!this.visits.has("warm")) this.visits.set("warm", c.yes(0.5) ? 1 : 0);
        const hot = warm || this.visits.get("warm") === 1;
        const key = `${rpm}${asked.loads}${hot}`;
        const run = this.runs.get(key) ?? this.run(rpm, asked.loads ?? "normal", hot);
        this.runs.set(key, run);
        const ground = run.amps * (((0.09 * this.own.wire) / (sheet.ratedAmps ?? 25)) * scale + f.ground);
        if (asked.test === "charge.volts") return this.shownVolts(run.posts + c.normal(0.02));
        if (asked.test === "charge.outputVolts") return this.shownVolts(run.out + c.normal(0.02));
        if (asked.test === "charge.positiveDrop") return this.shownVolts(run.out - ground - run.posts);
        if (asked.test === "charge.groundDrop") return this.shownVolts(ground);
        if (asked.test === "charge.current") return round(run.into + c.normal(0.4), 0.1);
        const leg = legOf(asked.at);
        const ohms = (f.pins[leg] as number) + (f.cable[leg] as number);
        return round((ohms > 1000 ? 0.5 * ((this.band("stator.acVolts") ?? [50, 70])[0] as number) : ohms * (run.legs[leg] as number)) * this.hand.ac, 0.01);
      }
      case "stator.resistance": {
        const [a, b] = pairOf(asked.at);
        return this.shownOhms(ohmsBetween(this.dynamo(0, "part", warm), a, b), asked);
      }
      case "stator.toGround":
        return this.shownOhms(f.touch ? ohmsBetween(this.dynamo(0, "part", warm), legOf(asked.at), -1) : 1e9, asked);
      case "stator.acVolts":
      case "stator.acVoltsAtUnit": {
        const rpm = this.speed(asked);
        const dynamo = this.dynamo(rpm, asked.test === "stator.acVolts" ? "part" : "unit", warm);
        const volts = unloaded(dynamo, (rpm * f.slip * (sheet.polePairs ?? 9)) / 60);
        const [a, b] = pairOf(asked.at);
        const which = a + b === 1 ? 0 : a + b === 3 ? 1 : 2;
        // What hangs on an open end picks up a fraction by capacitance.
        const broken = [a, b].some(
          (leg) => f.open === leg || (warm && f.hotOpen === leg) || (asked.test.endsWith("Unit") && (f.pins[leg] as number) + (f.cable[leg] as number) > 1e5),
        );
        const seen = sheet.winding !== "delta" && broken ? volts[which] * c.between(0.02, 0.15) : volts[which];
        return round(seen * this.hand.ac * (1 + c.normal(0.012)), 0.1);
      }
      case "regulator.diode":
        return diodeShown(asked.at ?? "", f, c, sheet, this.ambientC, this.meter.diodeMaxVolts);
      case "regulator.feed":
        return f.feedCut || f.fuseBlown ? round(c.between(0, 0.4), 0.01) : this.shownVolts(this.keyOn(loads.normal));
      case "regulator.ground":
        return this.shownOhms(((0.09 * this.own.wire) / (sheet.ratedAmps ?? 25)) * scale + f.ground, asked);
      case "fuse.continuity":
        return asked.at === sheet.fuses[0]?.id && f.fuseBlown ? "OL" : this.shownOhms(0.004, asked);
      case "drain.current":
        return round((f.fuseBlown ? sleeps * 0.3 : sleeps + leakAmps + f.draw) * (1 + c.normal(0.02)), 0.1);
      case "drain.unitUnplugged":
        return round((f.fuseBlown ? sleeps * 0.3 : sleeps + f.draw) * (1 + c.normal(0.02)), 0.1);
      case "drain.fusePulled": {
        const second = sheet.fuses[1]?.id;
        const main = asked.at === sheet.fuses[0]?.id;
        const left = main ? (second ? f.draw : 0) : second ? leakAmps : sleeps + leakAmps + f.draw;
        return round(left * (1 + c.normal(0.02)), 0.1);
      }
      default:
        return found(asked, f, c, sheet.battery.chemistry);
    }
  }
}
