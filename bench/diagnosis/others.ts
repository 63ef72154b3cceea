import type { Chance } from "./chance";
import { type Coil, type Dynamo, deliver, type Link, ohmsBetween, unloadedBetween } from "./dynamo";
import type { Asked, SheetData } from "./kinds";
import { round } from "./shown";
import { SORTS } from "./sorts";
import { Machine, type Source } from "./world";

/**
 * Machines of the families that are not three-phase on magnets, in the same world: the same battery, hands and meters, other coils. Written
 * for this benchmark alone, as the rest of it.
 */

const TAU = 2 * Math.PI;

/** A coil as it lies: from a pin to another or to the case (−1), where its figures are printed, its share of the output, one way or both. */
interface Lies {
  from: number;
  to: number;
  at: string;
  share: number;
  halves: 1 | 2;
  /** The pin that takes no part while the lights are off. */
  lit?: true;
}

interface Layout {
  coils: Lies[];
  /** Pins with a valve up, and down. */
  upper: number[];
  lower: number[];
  regulated: boolean;
}

const LAYOUTS: Record<string, Layout> = {
  "single-phase-two-wire": { coils: [{ from: 0, to: 1, at: "1-2", share: 1, halves: 2 }], upper: [0, 1], lower: [0, 1], regulated: true },
  "single-phase-common": {
    coils: [
      { from: 1, to: 0, at: "C-M", share: 0.6, halves: 2 },
      { from: 2, to: 0, at: "C-A", share: 0.4, halves: 2, lit: true },
    ],
    upper: [0, 1, 2],
    lower: [0, 1, 2],
    regulated: true,
  },
  "ground-referenced-pair": {
    coils: [
      { from: 0, to: -1, at: "C", share: 1, halves: 1 },
      { from: 1, to: -1, at: "L", share: 1, halves: 1 },
    ],
    upper: [0],
    lower: [],
    regulated: true,
  },
  "dual-output-unregulated": {
    coils: [
      { from: 0, to: -1, at: "D", share: 1, halves: 1 },
      { from: 1, to: -1, at: "A", share: 1, halves: 1 },
    ],
    upper: [0],
    lower: [],
    regulated: false,
  },
  "multi-winding": {
    coils: [
      { from: 0, to: 1, at: "1-2", share: 0.65, halves: 2 },
      { from: 2, to: 3, at: "3-4", share: 0.35, halves: 2 },
    ],
    upper: [0, 1, 2, 3],
    lower: [0, 1, 2, 3],
    regulated: true,
  },
};

/** Volts rms at 5,000 rpm and ohms of coils that no sheet prints, by where they are read. */
const MIDDLING: Record<string, [volts: number, ohms: number]> = { D: [37, 0.42], L: [18, 0.4], A: [22, 0.35], C: [26, 0.6] };

/** Finds the henries that let a coil give some amps at the speed it is rated at, by trying. */
const henriesFor = new Map<string, number>();

/** A machine with plain coils of one phase. */
export class OneMachine extends Machine {
  constructor(sheet: SheetData, seed: number) {
    super(sheet, seed, SORTS[sheet.family]);
    if (!this.layout.regulated) this.faults.runaway = true;
  }

  override mend(part: string): void {
    super.mend(part);
    if (part === "stator" && !this.layout.regulated) {
      this.faults.upper = ["good", "good"];
      this.faults.fuseBlown = false;
    }
    if (!this.layout.regulated) this.faults.runaway = true;
  }

  /** A grounded coil whose way into the battery is shorted gives both halves of its wave: their mean is nothing. */
  protected override alone(aim: number): number {
    const grounded = this.layout.coils.every(({ to }) => to < 0);
    return grounded && this.faults.upper[0] === "short" ? 0 : aim;
  }

  protected get layout(): Layout {
    return LAYOUTS[this.sheet.family] as Layout;
  }

  #printed(test: string, at: string): number | undefined {
    const row = this.sheet.bands.find(
      (band) => band.test === test && (band.at === undefined || band.at === at) && band.low !== undefined && band.high !== undefined,
    );
    return row && ((row.low as number) + (row.high as number)) / 2;
  }

  /** EMF peak a rpm and ohms of a coil as built. */
  #wound(at: string): { peak: number; ohms: number } {
    const rpm = this.sheet.bands.find((band) => band.test === "stator.acVolts")?.rpm ?? 5000;
    const [volts, ohms] = MIDDLING[at] ?? [30, 0.4];
    const ac = this.#printed("stator.acVolts", at);
    return { peak: (Math.SQRT2 * (ac ?? volts)) / (ac ? rpm : 5000), ohms: this.#printed("stator.resistance", at) ?? ohms };
  }

  #henries(coil: Lies): number {
    const { sheet } = this;
    const key = `${sheet.id}${coil.at}`;
    const known = henriesFor.get(key);
    if (known) return known;
    const { peak, ohms } = this.#wound(coil.at);
    const wanted = coil.share * (sheet.ratedAmps ?? 10);
    const rpm = sheet.testRpm;
    const hertz = (rpm * (sheet.polePairs ?? 6)) / 60;
    let [low, high] = [1e-5, 0.05];
    for (let k = 0; k < 14; k++) {
      const henries = Math.sqrt(low * high);
      const made = deliver(
        {
          nodes: 2,
          coils: [{ from: 0, to: coil.halves === 2 ? 1 : -1, peak: peak * rpm, phase: 0, ohms, henries }],
          links: [],
          upper: ["good", coil.halves === 2 ? "good" : "none"],
          lower: coil.halves === 2 ? ["good", "good"] : ["none", "none"],
          tied: false,
        },
        hertz,
        14 * this.scale,
      ).amps;
      if (made > wanted) low = henries;
      else high = henries;
    }
    const found = Math.sqrt(low * high);
    henriesFor.set(key, found);
    return found;
  }

  protected override dynamo(rpm: number, side: "unit" | "part", warm: boolean, loads = "normal"): Dynamo {
    const { sheet, faults: f, layout } = this;
    const count = sheet.legs.length;
    const links: Link[] = [];
    const coils: Coil[] = [];
    let nodes = side === "unit" ? 2 * count : count;
    const pin = (leg: number): number => (leg < 0 ? -1 : side === "unit" ? count + leg : leg);
    const dark = new Set(layout.coils.filter(({ lit }) => lit && loads === "off").map(({ from }) => from));
    if (side === "unit") {
      for (let leg = 0; leg < count; leg++) {
        const way = (f.pins[leg] as number) + (f.cable[leg] as number);
        links.push({ from: leg, to: pin(leg), ohms: dark.has(leg) ? 1e8 : way });
      }
    }
    const omega = (TAU * rpm * f.slip * (sheet.polePairs ?? 6)) / 60;
    const copper = (1 + 0.0039 * ((warm ? 75 : this.ambientC) - 20)) * this.own.ohms * f.turns;
    layout.coils.forEach((lies, k) => {
      const { peak, ohms } = this.#wound(lies.at);
      const [from, to] = [pin(lies.from), pin(lies.to)];
      const hit = (leg: number): boolean => Math.min(layout.coils.length - 1, Math.floor((leg * layout.coils.length) / count)) === k;
      const part = {
        peak: peak * rpm * f.slip * this.own.emf * f.weak * f.turns * (this.own.legs[k] as number),
        phase: 0,
        ohms: ohms * copper,
        henries: this.#henries(lies) * this.own.henries * f.turns ** 2,
      };
      if ((f.open >= 0 && hit(f.open)) || (warm && f.hotOpen >= 0 && hit(f.hotOpen))) {
        coils.push({ from, to, ...part, ohms: 1e8 });
        return;
      }
      const s = f.burnt || (f.short && hit(f.short[0]) ? f.short[1] : 0);
      if (s > 0) {
        // Shorted turns take their share of EMF and copper with them and damp the rest.
        const left = 1 - s;
        part.peak *= left * (omega > 0 ? 0.85 : 1);
        part.ohms *= left * (omega > 0 ? 1.3 : 1);
        part.henries *= left ** 2;
      }
      const cut = f.touch && hit(f.touch[0]) ? f.touch[1] : f.bridge ? 0.5 : 0;
      if (cut === 0) {
        coils.push({ from, to, ...part });
        return;
      }
      const middle = nodes++;
      const piece = (share: number) => ({ peak: part.peak * share, phase: 0, ohms: part.ohms * share, henries: part.henries * share });
      coils.push({ from, to: middle, ...piece(cut) }, { from: middle, to, ...piece(1 - cut) });
      if (f.touch) links.push({ from: middle, to: -1, ohms: f.touch[2] });
      else if (f.bridge && k > 0) links.push({ from: middle, to: middle - 1, ohms: f.bridge[1] });
    });
    const ways = (pins: number[], of: "upper" | "lower") => sheet.legs.map((_, leg) => (pins.includes(leg) ? (f[of][leg] ?? "good") : ("none" as const)));
    return { nodes, coils, links, upper: ways(layout.upper, "upper"), lower: ways(layout.lower, "lower"), tied: false };
  }

  protected override source(rpm: number, loads: string, warm: boolean): Source {
    const dynamo = this.dynamo(rpm, "unit", warm, loads);
    const hertz = (rpm * this.faults.slip * (this.sheet.polePairs ?? 6)) / 60;
    return (pins) => deliver(dynamo, hertz, Math.max(1, pins));
  }

  protected override truth(asked: Asked): number | string {
    const f = this.faults;
    const legs = this.sheet.legs.map(({ id }) => id);
    const [a = -1, b = -1] = (asked.at ?? "").split("-").map((id) => legs.indexOf(id));
    const warm = asked.hot === true;
    const c: Chance = this.chance;
    switch (asked.test) {
      case "stator.resistance":
        return this.shownOhms(ohmsBetween(this.dynamo(0, "part", warm), a, b), asked);
      case "stator.toGround":
        return this.shownOhms(ohmsBetween(this.dynamo(0, "part", warm), a, -1), asked);
      case "stator.acVolts":
      case "stator.acVoltsAtUnit": {
        const rpm = this.speed(asked);
        const volts = unloadedBetween(
          this.dynamo(rpm, asked.test === "stator.acVolts" ? "part" : "unit", warm),
          (rpm * f.slip * (this.sheet.polePairs ?? 6)) / 60,
          a,
          b,
        );
        return round(Math.max(volts, c.between(0, 0.4)) * this.hand.ac * (1 + c.normal(0.012)), 0.1);
      }
      case "stator.dcVolts": {
        const rpm = this.speed(asked);
        const volts = unloadedBetween(this.dynamo(rpm, "part", warm), (rpm * f.slip * (this.sheet.polePairs ?? 6)) / 60, 0, -1);
        // Half of each wave through the diode into the meter: the mean of a rectified sine.
        const mean = f.upper[0] === "good" ? (Math.SQRT2 * volts) / Math.PI - 0.3 : f.upper[0] === "short" ? 0 : 0.05;
        return round(Math.max(0, mean * this.hand.volts * (1 + c.normal(0.012))), 0.01);
      }
      case "stator.diode": {
        if (f.upper[0] === "short") return round(c.between(0, 0.02), 0.001);
        if (f.upper[0] === "open" || f.open === 0) return "OL";
        return asked.at?.startsWith("G>") ? round(0.5 + c.normal(0.015) - 0.0018 * (this.ambientC - 25), 0.001) : "OL";
      }
      case "regulator.diode": {
        // A wire that no way leads from: what is asked is between rails.
        const at = asked.at ?? "";
        if (at === "B->B+" && this.sheet.family === "ground-referenced-pair") return "OL";
        return super.truth(asked);
      }
      default:
        return super.truth(asked);
    }
  }
}
