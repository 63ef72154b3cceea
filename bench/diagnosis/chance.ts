/** Seeded chance (mulberry32, a public-domain generator by T. Ettinger), so that every case can be made again from its number. */
export class Chance {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** Evenly between 0 and 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  /** Evenly by decades. */
  decades(low: number, high: number): number {
    return low * (high / low) ** this.next();
  }

  /** Normal about nought (Box and Muller), cut at three standard deviations. */
  normal(spread: number): number {
    const size = Math.sqrt(-2 * Math.log(Math.max(1e-12, this.next()))) * Math.cos(2 * Math.PI * this.next());
    return spread * Math.max(-3, Math.min(3, size));
  }

  yes(probability: number): boolean {
    return this.next() < probability;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)] as T;
  }

  /** One of a list by weight. */
  weighted<T>(list: readonly (readonly [T, number])[]): T {
    let at = this.next() * list.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [option, weight] of list) {
      at -= weight;
      if (at <= 0) return option;
    }
    return (list.at(-1) as readonly [T, number])[0];
  }
}
