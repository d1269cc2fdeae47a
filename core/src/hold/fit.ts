/** Straight-line least squares with up to three columns, solved by its normal equations. */

export interface Fit {
  /** One for each column. */
  readonly by: readonly number[];
  /** Inverse of the normal matrix: times the variance of a reading it is the variance of the figures. */
  readonly inverse: readonly (readonly number[])[];
  readonly rss: number;
}

/** Gauss-Jordan with the largest pivot; undefined where the columns say the same. */
const inverseOf = (matrix: readonly (readonly number[])[]): number[][] | undefined => {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...matrix.map((_, j) => (i === j ? 1 : 0))]);
  for (let c = 0; c < n; c++) {
    let best = c;
    for (let r = c + 1; r < n; r++)
      if (Math.abs(rows[r]?.[c] ?? 0) > Math.abs(rows[best]?.[c] ?? 0)) best = r;
    const pivotRow = rows[best] as number[];
    rows[best] = rows[c] as number[];
    rows[c] = pivotRow;
    const pivot = pivotRow[c] as number;
    if (Math.abs(pivot) < 1e-12) return undefined;
    for (let k = 0; k < 2 * n; k++) pivotRow[k] = (pivotRow[k] as number) / pivot;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const row = rows[r] as number[];
      const factor = row[c] as number;
      for (let k = 0; k < 2 * n; k++)
        row[k] = (row[k] as number) - factor * (pivotRow[k] as number);
    }
  }
  return rows.map((row) => row.slice(n));
};

/** @param columns each as long as the readings, of the size of 1 or below so that the equations stay well set */
export const leastSquares = (
  columns: readonly (readonly number[])[],
  values: readonly number[],
): Fit | undefined => {
  const dot = (a: readonly number[], b: readonly number[]): number =>
    a.reduce((sum, x, i) => sum + x * (b[i] as number), 0);
  const inverse = inverseOf(columns.map((a) => columns.map((b) => dot(a, b))));
  if (!inverse) return undefined;
  const right = columns.map((c) => dot(c, values));
  const by = inverse.map((row) => dot(row, right));
  const rss = values.reduce((sum, value, i) => {
    const off = value - by.reduce((s, b, j) => s + b * ((columns[j] as number[])[i] as number), 0);
    return sum + off * off;
  }, 0);
  return { by, inverse, rss };
};
