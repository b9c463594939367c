/**
 * Sparse Cholesky factorization of A + shift, A symmetric positive semidefinite of fixed pattern.
 *
 * The pattern is analysed once: minimum-degree ordering (A. George, J. Liu, "The evolution of the minimum
 * degree ordering algorithm", SIAM Review 31, 1989; plain form, by elimination on sets), elimination tree,
 * row patterns of L. The numeric phase is the up-looking algorithm of T. Davis, "Direct Methods for Sparse
 * Linear Systems", SIAM 2006, section 4.7.
 *
 * Layout of A: lower triangle by columns in the *permuted* order; {@link SparseCholesky.place} gives the
 * index into `values` for an original pair.
 */
export class SparseCholesky {
  /** Values of the lower triangle of A, to be filled by the caller at the places given by `place`. */
  readonly values: Float64Array;
  private readonly n: number;
  private readonly order: Int32Array;
  private readonly rank: Int32Array;
  private readonly rowStart: Int32Array;
  private readonly rowColumn: Int32Array;
  private readonly lStart: Int32Array;
  private readonly lRow: Int32Array;
  private readonly lValue: Float64Array;
  private readonly pattern: readonly Int32Array[];
  private readonly work: Float64Array;
  private readonly next: Int32Array;
  private readonly placeOf = new Map<number, number>();

  /** `pairs` lists the off-diagonal places of A that can be nonzero, as i, j, i, j …; repeats are fine. */
  constructor(n: number, pairs: Iterable<readonly [number, number]>) {
    this.n = n;
    const neighbours = Array.from({ length: n }, () => new Set<number>());
    for (const [i, j] of pairs) {
      if (i === j) continue;
      neighbours[i]?.add(j);
      neighbours[j]?.add(i);
    }
    this.order = minimumDegree(neighbours.map((set) => new Set(set)));
    this.rank = new Int32Array(n);
    this.order.forEach((node, position) => (this.rank[node] = position));

    // Rows of the permuted lower triangle, the diagonal last in each row.
    this.rowStart = new Int32Array(n + 1);
    const columns: number[] = [];
    for (let k = 0; k < n; k++) {
      const below = [...(neighbours[this.order[k] as number] ?? [])].map((node) => this.rank[node] as number).filter((r) => r < k);
      below.sort((a, b) => a - b);
      for (const column of [...below, k]) {
        this.placeOf.set(k * n + column, columns.length);
        columns.push(column);
      }
      this.rowStart[k + 1] = columns.length;
    }
    this.rowColumn = Int32Array.from(columns);
    this.values = new Float64Array(columns.length);

    const parent = this.eliminationTree();
    this.pattern = this.rowPatterns(parent);
    const counts = new Int32Array(n).fill(1);
    for (const row of this.pattern) for (const column of row) counts[column] = (counts[column] as number) + 1;
    this.lStart = new Int32Array(n + 1);
    for (let k = 0; k < n; k++) this.lStart[k + 1] = (this.lStart[k] as number) + (counts[k] as number);
    this.lRow = new Int32Array(this.lStart[n] as number);
    this.lValue = new Float64Array(this.lStart[n] as number);
    this.work = new Float64Array(n);
    this.next = new Int32Array(n);
  }

  /** Index into `values` for the original pair (i, j), whichever way round. */
  place(i: number, j: number): number {
    const [a, b] = [this.rank[i] as number, this.rank[j] as number];
    const place = this.placeOf.get(a > b ? a * this.n + b : b * this.n + a);
    if (place === undefined) throw new Error(`Bug: (${i}, ${j}) is not in the pattern`);
    return place;
  }

  /** Factors A + diag(shift), shift in original order. False when it is not positive definite. */
  factor(shift: Float64Array): boolean {
    const { n, values, rowStart, rowColumn, lStart, lRow, lValue, work, next, order } = this;
    for (let k = 0; k < n; k++) {
      const rowFrom = rowStart[k] as number;
      const rowTo = rowStart[k + 1] as number;
      for (let p = rowFrom; p < rowTo; p++) work[rowColumn[p] as number] = values[p] as number;
      let diagonal = (work[k] as number) + (shift[order[k] as number] as number);
      work[k] = 0;
      const pattern = this.pattern[k] as Int32Array;
      for (let p = 0; p < pattern.length; p++) {
        const i = pattern[p] as number;
        const start = lStart[i] as number;
        const lki = (work[i] as number) / (lValue[start] as number);
        work[i] = 0;
        const end = next[i] as number;
        for (let q = start + 1; q < end; q++) {
          const row = lRow[q] as number;
          work[row] = (work[row] as number) - (lValue[q] as number) * lki;
        }
        diagonal -= lki * lki;
        lRow[end] = k;
        lValue[end] = lki;
        next[i] = end + 1;
      }
      if (!(diagonal > 0)) {
        work.fill(0);
        return false;
      }
      const start = lStart[k] as number;
      lRow[start] = k;
      lValue[start] = Math.sqrt(diagonal);
      next[k] = start + 1;
    }
    return true;
  }

  /** Solves with the last factor, in place, in original order. */
  solve(b: Float64Array): void {
    const { n, lStart, lRow, lValue, work, order } = this;
    for (let k = 0; k < n; k++) work[k] = b[order[k] as number] as number;
    for (let k = 0; k < n; k++) {
      const start = lStart[k] as number;
      const x = (work[k] as number) / (lValue[start] as number);
      work[k] = x;
      const end = lStart[k + 1] as number;
      for (let q = start + 1; q < end; q++) {
        const row = lRow[q] as number;
        work[row] = (work[row] as number) - (lValue[q] as number) * x;
      }
    }
    for (let k = n - 1; k >= 0; k--) {
      const start = lStart[k] as number;
      const end = lStart[k + 1] as number;
      let x = work[k] as number;
      for (let q = start + 1; q < end; q++) x -= (lValue[q] as number) * (work[lRow[q] as number] as number);
      work[k] = x / (lValue[start] as number);
    }
    for (let k = 0; k < n; k++) b[order[k] as number] = work[k] as number;
    work.fill(0);
  }

  private eliminationTree(): Int32Array {
    const { n, rowStart, rowColumn } = this;
    const parent = new Int32Array(n).fill(-1);
    const ancestor = new Int32Array(n).fill(-1);
    for (let k = 0; k < n; k++) {
      for (let p = rowStart[k] as number; p < (rowStart[k + 1] as number); p++) {
        for (let i = rowColumn[p] as number; i !== -1 && i < k;) {
          const up = ancestor[i] as number;
          ancestor[i] = k;
          if (up === -1) parent[i] = k;
          i = up;
        }
      }
    }
    return parent;
  }

  /** For each row k of L, its columns below k in an order in which each comes before its tree parent. */
  private rowPatterns(parent: Int32Array): Int32Array[] {
    const { n, rowStart, rowColumn } = this;
    const mark = new Int32Array(n).fill(-1);
    const patterns: Int32Array[] = [];
    for (let k = 0; k < n; k++) {
      mark[k] = k;
      let pattern: number[] = [];
      for (let p = rowStart[k] as number; p < (rowStart[k + 1] as number); p++) {
        const path: number[] = [];
        for (let i = rowColumn[p] as number; i < k && mark[i] !== k; i = parent[i] as number) {
          path.push(i);
          mark[i] = k;
        }
        pattern = [...path, ...pattern];
      }
      patterns.push(Int32Array.from(pattern));
    }
    return patterns;
  }
}

/** Eliminates the node with the fewest neighbours first; the lowest index among equals. Consumes the sets. */
function minimumDegree(neighbours: readonly Set<number>[]): Int32Array {
  const n = neighbours.length;
  const order = new Int32Array(n);
  const buckets: Set<number>[] = Array.from({ length: n + 1 }, () => new Set<number>());
  neighbours.forEach((set, node) => buckets[set.size]?.add(node));
  let lowest = 0;
  for (let k = 0; k < n; k++) {
    while (buckets[lowest]?.size === 0) lowest++;
    const [node = 0] = buckets[lowest] ?? [];
    buckets[lowest]?.delete(node);
    order[k] = node;
    const around = [...(neighbours[node] ?? [])];
    for (const i of around) {
      const set = neighbours[i] as Set<number>;
      buckets[set.size]?.delete(i);
      set.delete(node);
      for (const j of around) if (j !== i) set.add(j);
      buckets[set.size]?.add(i);
      lowest = Math.min(lowest, set.size);
    }
  }
  return order;
}
