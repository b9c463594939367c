/** A vector as a combination of the rows of a sparse matrix: a Jᵀ λ = g solved by its normal equations, J Jᵀ λ = J g. */
import { SparseCholesky } from './sparse-cholesky';

/** More of a gradient than this is beyond the rows. */
const BEYOND = 1e-7;

/**
 * The factors by which rows add up to a gradient, least squares; undefined where they do not. `rows[i]` holds the nonzeros of row i as column, value, column,
 * value …; the rows are independent.
 */
export function combinationOf(rows: readonly (readonly number[])[], gradient: Float64Array): Float64Array | undefined {
  const byColumn = new Map<number, [row: number, value: number][]>();
  rows.forEach((row, i) => {
    for (let p = 0; p < row.length; p += 2) {
      const column = row[p] ?? 0;
      const entries = byColumn.get(column) ?? [];
      byColumn.set(column, entries);
      entries.push([i, row[p + 1] ?? 0]);
    }
  });
  const matrix = new SparseCholesky(rows.length, pairsOf(byColumn));
  matrix.values.fill(0);
  const factors = new Float64Array(rows.length);
  for (const [column, entries] of byColumn) {
    entries.forEach(([i, a], m) => {
      factors[i] = (factors[i] ?? 0) + a * (gradient[column] ?? 0);
      for (const [j, b] of entries.slice(0, m + 1)) {
        const place = matrix.place(i, j);
        matrix.values[place] = (matrix.values[place] ?? 0) + a * b;
      }
    });
  }
  if (!matrix.factor(new Float64Array(rows.length))) return undefined;
  matrix.solve(factors);
  const left = gradient.slice();
  rows.forEach((row, i) => {
    for (let p = 0; p < row.length; p += 2) left[row[p] ?? 0] = (left[row[p] ?? 0] ?? 0) - (row[p + 1] ?? 0) * (factors[i] ?? 0);
  });
  return Math.hypot(...left) > BEYOND * Math.max(1, Math.hypot(...gradient)) ? undefined : factors;
}

function* pairsOf(byColumn: ReadonlyMap<number, readonly (readonly [row: number, value: number])[]>): Generator<readonly [number, number]> {
  const seen = new Set<string>();
  for (const entries of byColumn.values()) {
    for (const [i] of entries) {
      for (const [j] of entries) {
        if (i <= j || seen.has(`${i} ${j}`)) continue;
        seen.add(`${i} ${j}`);
        yield [i, j];
      }
    }
  }
}
