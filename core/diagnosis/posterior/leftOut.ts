/** Share of its first value below which a figure's place on C⁻¹'s diagonal is rounding: it says the same as one that is left out. */
const ROUNDING = 1e-9;

/** Figures of a Gaussian of which some are left out, one after another: each is a rank-one downdate of C⁻¹. */
export class LeftOut {
  /** C⁻¹·r of the figures that are left; nought for those left out. */
  alpha = new Float64Array(0);
  /** C⁻¹'s diagonal of the figures that are left; nought for those left out, and for what says the same as they. */
  diagonal = new Float64Array(0);
  /** By which vectors C⁻¹ is less. */
  readonly downdates: Float64Array[] = [];
  readonly #rooms: Float64Array[] = [];
  #n = 0;
  #inverse: Float64Array = new Float64Array(0);

  /** With all figures in. @param inverse C⁻¹, n×n, row after row @param alpha C⁻¹·r */
  begin(n: number, inverse: Float64Array, alpha: Float64Array): void {
    this.#n = n;
    this.#inverse = inverse;
    this.downdates.length = 0;
    if (this.alpha.length < n) [this.alpha, this.diagonal] = [new Float64Array(2 * n), new Float64Array(2 * n)];
    for (let a = 0; a < n; a++) {
      this.alpha[a] = alpha[a] as number;
      this.diagonal[a] = inverse[a * n + a] as number;
    }
  }

  /** Leaves one more figure out. */
  leaveOut(place: number): void {
    const { alpha, diagonal, downdates } = this;
    const [n, inverse] = [this.#n, this.#inverse];
    const scale = 1 / Math.sqrt(diagonal[place] as number);
    const off = (alpha[place] as number) * scale;
    const next = this.#room(downdates.length);
    for (let b = 0; b < n; b++) {
      if (diagonal[b] === 0) {
        next[b] = 0;
        continue;
      }
      let column = inverse[b * n + place] as number;
      for (const downdate of downdates) column -= (downdate[b] as number) * (downdate[place] as number);
      const less = column * scale;
      const left = (diagonal[b] as number) - less * less;
      next[b] = less;
      alpha[b] = (alpha[b] as number) - off * less;
      diagonal[b] = left < ROUNDING * (inverse[b * n + b] as number) ? 0 : left;
    }
    alpha[place] = 0;
    diagonal[place] = 0;
    downdates.push(next);
  }

  /** An array for all figures, which keeps what is in it until the figures are all in again. */
  #room(which: number): Float64Array {
    const kept = this.#rooms[which];
    if (kept && kept.length >= this.#n) return kept;
    const room = new Float64Array(2 * this.#n);
    this.#rooms[which] = room;
    return room;
  }
}
