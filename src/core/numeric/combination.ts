/** A vector as a combination of the rows of a sparse matrix: a Jᵀ λ = g solved by its normal equations, J Jᵀ λ = J g. */
import { SparseCholesky } from './sparse-cholesky';

/** More of a gradient than this is beyond the rows. */
const BEYOND = 1e-7;

/** Rows that vectors are told by; `rows[i]` holds the nonzeros of row i as column, value, column, value …; they are independent. */
export class RowSpan {
  private readonly matrix: SparseCholesky;
  private readonly isSound: boolean;

  constructor(private readonly rows: readonly (readonly number[])[]) {
    const byColumn = new Map<number, [row: number, value: number][]>();
    rows.forEach((row, i) => {
      for (let p = 0; p < row.length; p += 2) {
        const column = row[p] ?? 0;
        const entries = byColumn.get(column) ?? [];
        byColumn.set(column, entries);
        entries.push([i, row[p + 1] ?? 0]);
      }
    });
    this.matrix = new SparseCholesky(rows.length, pairsOf(byColumn));
    this.matrix.values.fill(0);
    for (const entries of byColumn.values()) {
      entries.forEach(([i, a], m) => {
        for (const [j, b] of entries.slice(0, m + 1)) {
          const place = this.matrix.place(i, j);
          this.matrix.values[place] = (this.matrix.values[place] ?? 0) + a * b;
        }
      });
    }
    this.isSound = this.matrix.factor(new Float64Array(rows.length));
  }

  /** The factors by which the rows come nearest to a vector, and what of it is across all of them; undefined where the rows are not independent. */
  split(vector: Float64Array): { readonly factors: Float64Array; readonly across: Float64Array } | undefined {
    if (!this.isSound) return undefined;
    const factors = Float64Array.from(this.rows, (row) => {
      let sum = 0;
      for (let p = 0; p < row.length; p += 2) sum += (row[p + 1] ?? 0) * (vector[row[p] ?? 0] ?? 0);
      return sum;
    });
    this.matrix.solve(factors);
    const across = vector.slice();
    this.rows.forEach((row, i) => {
      for (let p = 0; p < row.length; p += 2) across[row[p] ?? 0] = (across[row[p] ?? 0] ?? 0) - (row[p + 1] ?? 0) * (factors[i] ?? 0);
    });
    return { factors, across };
  }
}

/** The factors by which rows add up to a gradient, least squares; undefined where they do not. */
export function combinationOf(rows: readonly (readonly number[])[], gradient: Float64Array): Float64Array | undefined {
  const found = new RowSpan(rows).split(gradient);
  return !found || Math.hypot(...found.across) > BEYOND * Math.max(1, Math.hypot(...gradient)) ? undefined : found.factors;
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
