/**
 * Inverts a symmetric positive definite matrix in place by Cholesky's method.
 * @param a n×n, row after row; becomes its inverse
 * @returns the logarithm of the determinant
 */
export function invert(a: Float64Array, n: number): number {
  let logDet = 0;
  for (let j = 0; j < n; j++) {
    let sum = a[j * n + j] as number;
    for (let k = 0; k < j; k++) sum -= (a[j * n + k] as number) ** 2;
    const root = Math.sqrt(Math.max(sum, 1e-12));
    a[j * n + j] = root;
    logDet += 2 * Math.log(root);
    for (let i = j + 1; i < n; i++) {
      let cross = a[i * n + j] as number;
      for (let k = 0; k < j; k++) cross -= (a[i * n + k] as number) * (a[j * n + k] as number);
      a[i * n + j] = cross / root;
    }
  }
  // The lower factor inverted, then its transpose times itself.
  for (let j = 0; j < n; j++) {
    a[j * n + j] = 1 / (a[j * n + j] as number);
    for (let i = j + 1; i < n; i++) {
      let sum = 0;
      for (let k = j; k < i; k++) sum -= (a[i * n + k] as number) * (a[k * n + j] as number);
      a[i * n + j] = sum / (a[i * n + i] as number);
    }
  }
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = 0;
      for (let k = i; k < n; k++) sum += (a[k * n + i] as number) * (a[k * n + j] as number);
      a[j * n + i] = sum;
    }
  }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) a[i * n + j] = a[j * n + i] as number;
  return logDet;
}

/**
 * What leaving some figures out of a Gaussian adds to its logarithm: ½·vᵀ·A⁻¹·v − ½·log det A, by Cholesky's factor and one substitution.
 * @param a n×n, row after row, the figures' block of the inverse covariance; its lower half is overwritten
 * @param v C⁻¹·r of the figures; overwritten
 */
export function gainOfLeavingOut(a: Float64Array, v: Float64Array, n: number): number {
  let sum = 0;
  for (let j = 0; j < n; j++) {
    let diagonal = a[j * n + j] as number;
    let error = v[j] as number;
    for (let k = 0; k < j; k++) {
      const factor = a[j * n + k] as number;
      diagonal -= factor * factor;
      error -= factor * (v[k] as number);
    }
    const root = Math.sqrt(Math.max(diagonal, 1e-12));
    v[j] = error / root;
    sum += 0.5 * (error / root) ** 2 - Math.log(root);
    for (let i = j + 1; i < n; i++) {
      let cross = a[i * n + j] as number;
      for (let k = 0; k < j; k++) cross -= (a[i * n + k] as number) * (a[j * n + k] as number);
      a[i * n + j] = cross / root;
    }
  }
  return sum;
}

/** Probability that a normal variable lies below x: the logistic form with a cubic term (Page, 1977), within 0.0002. */
export function normalBelow(x: number): number {
  if (x > 4) return 1;
  if (x < -4) return 0;
  return 1 / (1 + Math.exp(-1.5976 * x - 0.07056 * x * x * x));
}
