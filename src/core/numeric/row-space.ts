/**
 * Which rows of a matrix depend on earlier ones, and which columns the row space leaves free.
 *
 * Gram-Schmidt on the rows in the order given, each row orthogonalised twice (Kahan's "twice is enough",
 * in Parlett, "The Symmetric Eigenvalue Problem", SIAM 1998, section 6.9). In that order the *later* one of
 * two equal rows is named as redundant, which is what a designer expects of the constraint added last.
 */
export interface RowSpace {
  readonly rank: number;
  /** Rows that are combinations of earlier ones. */
  readonly dependentRows: readonly number[];
  /** Per column: how far a unit move of it can go within the null space, squared, 0 to 1. */
  readonly freedom: Float64Array;
}

/**
 * `rows[i]` holds the nonzeros of row i as column, value, column, value …; columns below `columnCount`. A row whose
 * part outside the earlier ones is smaller than `tolerance` times its length counts as dependent.
 */
export function analyseRowSpace(rows: readonly (readonly number[])[], columnCount: number, tolerance = 1e-7): RowSpace {
  const basis: Float64Array[] = [];
  const dependentRows: number[] = [];
  const freedom = new Float64Array(columnCount).fill(1);
  rows.forEach((row, index) => {
    const vector = new Float64Array(columnCount);
    let squared = 0;
    for (let p = 0; p + 1 < row.length; p += 2) {
      const column = row[p] as number;
      vector[column] = (vector[column] as number) + (row[p + 1] as number);
    }
    for (const value of vector) squared += value * value;
    if (!(squared > 0)) {
      dependentRows.push(index);
      return;
    }
    scale(vector, 1 / Math.sqrt(squared));
    orthogonalise(vector, basis);
    orthogonalise(vector, basis);
    const left = Math.sqrt(dot(vector, vector));
    if (left < tolerance) {
      dependentRows.push(index);
      return;
    }
    scale(vector, 1 / left);
    basis.push(vector);
    for (let c = 0; c < columnCount; c++) freedom[c] = (freedom[c] as number) - (vector[c] as number) ** 2;
  });
  for (let c = 0; c < columnCount; c++) freedom[c] = Math.max(0, freedom[c] as number);
  return { rank: basis.length, dependentRows, freedom };
}

function orthogonalise(vector: Float64Array, basis: readonly Float64Array[]): void {
  for (const other of basis) {
    const share = dot(vector, other);
    if (share === 0) continue;
    for (let c = 0; c < vector.length; c++) vector[c] = (vector[c] as number) - share * (other[c] as number);
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let c = 0; c < a.length; c++) sum += (a[c] as number) * (b[c] as number);
  return sum;
}

function scale(vector: Float64Array, factor: number): void {
  for (let c = 0; c < vector.length; c++) vector[c] = (vector[c] as number) * factor;
}
