/** Small dense matrices, row after row in one Float64Array: a circuit here has at most a few dozen nodes. */

/**
 * Inverts an n×n matrix by Gauss–Jordan elimination with partial pivoting (Golub & Van Loan, Matrix Computations).
 * @returns the inverse, or undefined when a pivot vanishes (the matrix is singular)
 */
export function invert(matrix: Float64Array, n: number): Float64Array | undefined {
  const a = matrix.slice();
  const inverse = new Float64Array(n * n);
  for (let i = 0; i < n; i++) inverse[i * n + i] = 1;
  for (let column = 0; column < n; column++) {
    const pivot = pivotOf(a, n, column);
    const size = a[pivot * n + column] as number;
    if (!(Math.abs(size) > 1e-300)) return undefined;
    if (pivot !== column) {
      swapRows(a, n, pivot, column);
      swapRows(inverse, n, pivot, column);
    }
    const scale = 1 / size;
    for (let k = 0; k < n; k++) {
      a[column * n + k] = (a[column * n + k] as number) * scale;
      inverse[column * n + k] = (inverse[column * n + k] as number) * scale;
    }
    for (let row = 0; row < n; row++) {
      const factor = a[row * n + column] as number;
      if (row === column || factor === 0) continue;
      for (let k = 0; k < n; k++) {
        a[row * n + k] = (a[row * n + k] as number) - factor * (a[column * n + k] as number);
        inverse[row * n + k] = (inverse[row * n + k] as number) - factor * (inverse[column * n + k] as number);
      }
    }
  }
  return inverse;
}

/** The row at or below the diagonal whose entry in a column is the largest. */
function pivotOf(matrix: Float64Array, n: number, column: number): number {
  let pivot = column;
  for (let row = column + 1; row < n; row++) {
    if (Math.abs(matrix[row * n + column] as number) > Math.abs(matrix[pivot * n + column] as number)) pivot = row;
  }
  return pivot;
}

function swapRows(matrix: Float64Array, n: number, row: number, other: number): void {
  for (let k = 0; k < n; k++) {
    const kept = matrix[row * n + k] as number;
    matrix[row * n + k] = matrix[other * n + k] as number;
    matrix[other * n + k] = kept;
  }
}

/**
 * Solves A·x = b in place by LU with partial pivoting; A and b are overwritten, b with the solution.
 * @returns false when A is singular
 */
export function solve(a: Float64Array, b: Float64Array, n: number): boolean {
  for (let column = 0; column < n; column++) {
    const pivot = pivotOf(a, n, column);
    const size = a[pivot * n + column] as number;
    if (!(Math.abs(size) > 1e-300)) return false;
    if (pivot !== column) {
      swapRows(a, n, pivot, column);
      const kept = b[pivot] as number;
      b[pivot] = b[column] as number;
      b[column] = kept;
    }
    for (let row = column + 1; row < n; row++) {
      const factor = (a[row * n + column] as number) / size;
      if (factor === 0) continue;
      for (let k = column; k < n; k++) a[row * n + k] = (a[row * n + k] as number) - factor * (a[column * n + k] as number);
      b[row] = (b[row] as number) - factor * (b[column] as number);
    }
  }
  for (let row = n - 1; row >= 0; row--) {
    let sum = b[row] as number;
    for (let k = row + 1; k < n; k++) sum -= (a[row * n + k] as number) * (b[k] as number);
    b[row] = sum / (a[row * n + row] as number);
  }
  return true;
}

/** Adds a conductance between two nodes (−1 is ground) to a nodal matrix. */
export function stamp(matrix: Float64Array, n: number, a: number, b: number, siemens: number): void {
  if (a >= 0) matrix[a * n + a] = (matrix[a * n + a] as number) + siemens;
  if (b >= 0) matrix[b * n + b] = (matrix[b * n + b] as number) + siemens;
  if (a >= 0 && b >= 0) {
    matrix[a * n + b] = (matrix[a * n + b] as number) - siemens;
    matrix[b * n + a] = (matrix[b * n + a] as number) - siemens;
  }
}

/** Adds a current that flows from node `a` through an element to node `b` to the right-hand side. */
export function inject(rhs: Float64Array, a: number, b: number, amps: number): void {
  if (a >= 0) rhs[a] = (rhs[a] as number) - amps;
  if (b >= 0) rhs[b] = (rhs[b] as number) + amps;
}
