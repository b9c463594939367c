/**
 * Which rows of a sparse matrix depend on earlier ones, and which columns the rows leave free.
 *
 * Gaussian elimination of the rows in the order given, each pivoting on its largest remaining entry, so
 * that the *later* one of two equal rows is named as redundant: what a designer expects of the constraint
 * added last. Rows of a sketch touch few unknowns and fill in little; the work is nearly linear. The null
 * space follows by substituting backwards: every pivot column as a combination of the free ones.
 */
export interface RowSpace {
  readonly rank: number;
  /** Rows that are combinations of earlier ones. */
  readonly dependentRows: readonly number[];
  /** Per column: how far it goes, at most, when the free columns move by 1; 0 for what is determined. */
  readonly freedom: Float64Array;
}

interface PivotRow {
  readonly pivot: number;
  /** The other columns and their factors, the pivot's own being 1. */
  readonly columns: readonly number[];
  readonly factors: readonly number[];
}

/**
 * `rows[i]` holds the nonzeros of row i as column, value, column, value …; columns below `columnCount`. A row of
 * which less than `tolerance` times its length is left counts as dependent.
 */
export function analyseRowSpace(rows: readonly (readonly number[])[], columnCount: number, tolerance = 1e-7): RowSpace {
  const pivots: PivotRow[] = [];
  const dependentRows: number[] = [];
  const scratch = new Float64Array(columnCount);
  const isTouched = new Uint8Array(columnCount);
  rows.forEach((row, index) => {
    const touched = scatter(row, scratch, isTouched);
    for (const { pivot, columns, factors } of pivots) {
      const share = scratch[pivot] as number;
      if (share === 0) continue;
      scratch[pivot] = 0;
      for (let k = 0; k < columns.length; k++) {
        const column = columns[k] as number;
        scratch[column] = (scratch[column] as number) - share * (factors[k] as number);
        if (isTouched[column] === 0) {
          isTouched[column] = 1;
          touched.push(column);
        }
      }
    }
    const pivotRow = takePivot(touched, scratch, tolerance);
    if (pivotRow) pivots.push(pivotRow);
    else dependentRows.push(index);
    for (const column of touched) {
      scratch[column] = 0;
      isTouched[column] = 0;
    }
  });
  return { rank: pivots.length, dependentRows, freedom: findFreedom(pivots, columnCount) };
}

/** The row at unit length in the scratch array; the columns that it touches. */
function scatter(row: readonly number[], scratch: Float64Array, isTouched: Uint8Array): number[] {
  const touched: number[] = [];
  let squared = 0;
  for (let p = 0; p + 1 < row.length; p += 2) squared += (row[p + 1] as number) ** 2;
  if (!(squared > 0)) return touched;
  const scale = 1 / Math.sqrt(squared);
  for (let p = 0; p + 1 < row.length; p += 2) {
    const column = row[p] as number;
    scratch[column] = (scratch[column] as number) + (row[p + 1] as number) * scale;
    if (isTouched[column] === 0) {
      isTouched[column] = 1;
      touched.push(column);
    }
  }
  return touched;
}

function takePivot(touched: readonly number[], scratch: Float64Array, tolerance: number): PivotRow | undefined {
  let pivot = -1;
  let largest = tolerance;
  for (const column of touched) {
    const size = Math.abs(scratch[column] as number);
    if (size > largest) {
      largest = size;
      pivot = column;
    }
  }
  if (pivot < 0) return undefined;
  const divisor = scratch[pivot] as number;
  const columns: number[] = [];
  const factors: number[] = [];
  for (const column of touched) {
    const value = scratch[column] as number;
    // What is left of a cancellation is noise, and would only fill the later rows.
    if (column === pivot || Math.abs(value) < 1e-14) continue;
    columns.push(column);
    factors.push(value / divisor);
  }
  return { pivot, columns, factors };
}

function findFreedom(pivots: readonly PivotRow[], columnCount: number): Float64Array {
  const isPivot = new Uint8Array(columnCount);
  for (const { pivot } of pivots) isPivot[pivot] = 1;
  const free: number[] = [];
  for (let column = 0; column < columnCount; column++) if (isPivot[column] === 0) free.push(column);
  const freedom = new Float64Array(columnCount);
  for (const column of free) freedom[column] = 1;
  if (free.length === 0) return freedom;
  // Pivot columns of later rows are known before earlier rows need them.
  const moves = new Map<number, Float64Array>(free.map((column, k) => [column, Float64Array.from(free, (_, i) => (i === k ? 1 : 0))]));
  for (let row = pivots.length - 1; row >= 0; row--) {
    const { pivot, columns, factors } = pivots[row] as PivotRow;
    const move = new Float64Array(free.length);
    columns.forEach((column, k) => {
      const other = moves.get(column);
      if (!other) return;
      const factor = factors[k] as number;
      for (let i = 0; i < move.length; i++) move[i] = (move[i] as number) - factor * (other[i] as number);
    });
    let largest = 0;
    for (const value of move) largest = Math.max(largest, Math.abs(value));
    if (largest > 0) moves.set(pivot, move);
    freedom[pivot] = largest;
  }
  return freedom;
}
