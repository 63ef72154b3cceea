import type { Chance } from "./chance";
import type { Faults, Fill, SheetData } from "./kinds";

/** How full a battery comes in, by how its machine treats it: at least, at most, and how often it was drained past empty. */
const COMES: Record<Fill, readonly [low: number, high: number, drained: number]> = {
  full: [0.8, 1, 0],
  mixed: [0.55, 1, 0.03],
  low: [0.15, 0.95, 0.12],
};
const FLAT = [0.05, 0.62, 0.2] as const;

/** What differs from one sound battery to the next: a factor on its resistance, and V on its rest. */
interface Own {
  battery: number;
  rest: number;
}

/** A battery of the benchmark's own world: its volts at rest, drawn from and charged. */
export class StoredBattery {
  readonly #sheet: Pick<SheetData, "battery" | "systemVolts">;
  readonly #own: Own;
  readonly #ambientC: number;
  /** Share of a full charge that is in it, and that it takes. */
  stored: number;
  #full: number;
  /** V on 12 V that it lies below an empty one, until it is charged. */
  #past: number;

  /** @param flat whether nothing failed but that it was let go flat */
  constructor(
    sheet: Pick<SheetData, "battery" | "systemVolts">,
    own: Own,
    ambientC: number,
    [fill, flat, faults, c, seed]: [Fill, boolean, Faults, Chance, Chance],
  ) {
    this.#sheet = sheet;
    this.#own = own;
    this.#ambientC = ambientC;
    // A worn battery often takes no full charge any more, and rests the lower for it.
    this.#full = seed.yes(0.4) ? 1 - seed.between(0.1, 0.4) * Math.min(1, (faults.aged - 1) / 5) : 1;
    const [low, high, drained] = flat ? FLAT : COMES[fill];
    this.stored = Math.min(c.between(low, high), this.#full);
    this.#past = seed.yes(drained) ? seed.decades(0.4, 7) : 0;
    if (this.#past > 0) this.stored = 0;
  }

  /** A new one, charged before it goes in. */
  renew(): void {
    this.#full = 1;
  }

  /** On the charger until it takes no more. */
  charge(upTo: number): void {
    this.stored = Math.min(this.#full, upTo);
    this.#past = 0;
  }

  get #scale(): number {
    return this.#sheet.systemVolts / 12;
  }

  #ah(faults: Faults): number {
    return (this.#sheet.battery.ah ?? 12) * faults.size;
  }

  /** Volts of its own with some amps flowing in (out: below nought). */
  volts(amps: number, faults: Faults): number {
    const { chemistry } = this.#sheet.battery;
    const scale = this.#scale;
    const lithium = chemistry === "lithium-iron";
    const s = this.stored;
    const sealed = chemistry === "flooded" ? 0 : 0.12;
    const whole = lithium ? 12.9 + 0.45 * s + (s < 0.1 ? -6 * (0.1 - s) : 0) : 11.65 + sealed * 0.7 + 1.08 * s ** 0.93 + (sealed - 0.05) * s * 0.6;
    const open = (whole - this.#past + this.#own.rest) * scale * (1 - faults.cells / (lithium ? 4 : 6 * scale));
    const ohms = this.ohms(faults);
    if (amps < 0) return open + amps * ohms * 1.6;
    const full = lithium ? 0.08 : 0.055;
    const base = this.#ah(faults) * full * (1 + 11 * (1 - s)) * 1.03 ** (this.#ambientC - 25) * Math.exp(-(14.4 - whole) / 0.55);
    return open + amps * ohms + 0.55 * scale * Math.log1p(amps / Math.max(1e-4, base));
  }

  /** Ohms within it. */
  ohms(faults: Faults): number {
    const cold = 1 + 0.011 * Math.max(0, 25 - this.#ambientC);
    const low = 1 + Math.max(0, 0.5 - this.stored) + 0.6 * this.#past;
    const sound = (this.#sheet.battery.chemistry === "lithium-iron" ? 0.075 : 0.19) / this.#ah(faults);
    return sound * this.#scale * faults.aged * cold * low * this.#own.battery + faults.joint;
  }
}
