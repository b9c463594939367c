/**
 * The equations of a sketch and their sparse least-squares solution.
 *
 * Levenberg-Marquardt (K. Levenberg 1944; D. Marquardt 1963; damping control after H. B. Nielsen, "Damping
 * parameter in Marquardt's method", IMM-REP-1999-05) on the normal equations, with a sparse Cholesky
 * factor whose pattern is analysed once. Where unknowns outnumber equations the damping picks a step near
 * the shortest one, so what is free moves least.
 */
import { SparseCholesky } from '../numeric';
import type { Equation } from './equations/equation';

/** A residual below this counts as zero, in millimetres. */
export const RESIDUAL_TOLERANCE = 1e-9;
const MAX_ITERATIONS = 60;
/** Weakest damping, relative to the largest diagonal entry: far below what bends a solution. */
const LEAST_DAMPING = 1e-12;

export class SketchSystem {
  private readonly jacobian: Float64Array;
  private readonly residual: Float64Array;
  private readonly rowStart: Int32Array;
  private readonly column: Int32Array;
  private readonly cholesky: SparseCholesky;
  /** For each row: places in the normal matrix of the products of its entries, row by row. */
  private readonly productPlace: Int32Array;
  private readonly gradient: Float64Array;
  private readonly step: Float64Array;
  private readonly damping: Float64Array;
  private readonly trial: Float64Array;

  /** Unknowns are those below `count`; equations may read constants past them. */
  constructor(
    readonly equations: readonly Equation[],
    readonly count: number,
    length: number,
  ) {
    const starts = [0];
    const columns: number[] = [];
    for (const { variables } of equations) {
      columns.push(...variables);
      starts.push(columns.length);
    }
    this.rowStart = Int32Array.from(starts);
    this.column = Int32Array.from(columns);
    this.jacobian = new Float64Array(columns.length);
    this.residual = new Float64Array(equations.length);
    this.cholesky = new SparseCholesky(count, this.pairs());
    const places: number[] = [];
    this.eachProduct((i, j) => places.push(i >= count || j >= count ? -1 : this.cholesky.place(i, j)));
    this.productPlace = Int32Array.from(places);
    this.gradient = new Float64Array(count);
    this.step = new Float64Array(count);
    this.damping = new Float64Array(count);
    this.trial = new Float64Array(length);
  }

  /**
   * Improves `x` in place until every residual is below the tolerance; whether that was reached. A system that cannot be
   * met in full, such as one that is pulled at, is left once a step is shorter than `leastStep`; it starts nearly undamped.
   */
  solve(x: Float64Array, leastStep = 0): boolean {
    let error = this.evaluate(x);
    let lambda = leastStep > 0 ? 1e-9 : 1e-3;
    let growth = 2;
    let isSettled = false;
    for (let iteration = 0; iteration < MAX_ITERATIONS && !isSettled; iteration++) {
      if (this.largestResidual() < RESIDUAL_TOLERANCE) return true;
      this.assemble(x);
      const largest = this.largestDiagonal();
      for (let tries = 0; tries < 30; tries++) {
        this.damping.fill(Math.max(lambda, LEAST_DAMPING) * largest);
        if (!this.cholesky.factor(this.damping)) {
          lambda = Math.max(lambda, LEAST_DAMPING) * 10;
          continue;
        }
        this.step.set(this.gradient);
        this.cholesky.solve(this.step);
        this.trial.set(x);
        for (let i = 0; i < this.count; i++) this.trial[i] = (x[i] as number) - (this.step[i] as number);
        const tried = this.evaluate(this.trial);
        if (tried < error || this.largestResidual() < RESIDUAL_TOLERANCE) {
          isSettled = leastStep > 0 && this.longestStep() < leastStep;
          x.set(this.trial);
          // The better the step did, the closer to Gauss-Newton the next one.
          lambda = tried < error * 0.25 ? lambda * 0.01 : lambda * 0.3;
          growth = 2;
          error = tried;
          break;
        }
        lambda = Math.max(lambda, LEAST_DAMPING) * growth;
        growth *= 2;
        if (lambda > 1e12) break;
      }
      if (lambda > 1e12) break;
    }
    this.evaluate(x);
    return this.largestResidual() < RESIDUAL_TOLERANCE;
  }

  /** Rows of the Jacobian at `x` over the unknowns, as column, value pairs. */
  rows(x: Float64Array): number[][] {
    this.evaluate(x);
    this.differentiate(x);
    return this.equations.map((_, row) => {
      const entries: number[] = [];
      for (let p = this.rowStart[row] as number; p < (this.rowStart[row + 1] as number); p++) {
        const column = this.column[p] as number;
        if (column < this.count) entries.push(column, this.jacobian[p] as number);
      }
      return entries;
    });
  }

  /** Residuals at `x`, by equation. */
  residuals(x: Float64Array): Float64Array {
    this.evaluate(x);
    return this.residual.slice();
  }

  private evaluate(x: Float64Array): number {
    let sum = 0;
    for (let row = 0; row < this.equations.length; row++) {
      const equation = this.equations[row] as Equation;
      const value = equation.measure(x) - equation.target;
      this.residual[row] = value;
      sum += value * value;
    }
    return sum;
  }

  private differentiate(x: Float64Array): void {
    for (let row = 0; row < this.equations.length; row++) {
      (this.equations[row] as Equation).differentiate(x, this.jacobian, this.rowStart[row] as number);
    }
  }

  /** Fills the normal matrix and the gradient; the residuals are those of the last evaluation at `x`. */
  private assemble(x: Float64Array): void {
    this.evaluate(x);
    this.differentiate(x);
    const { jacobian, rowStart, column, count, productPlace, gradient, residual } = this;
    const { values } = this.cholesky;
    values.fill(0);
    gradient.fill(0);
    let product = 0;
    for (let row = 0; row < residual.length; row++) {
      const from = rowStart[row] as number;
      const to = rowStart[row + 1] as number;
      const r = residual[row] as number;
      for (let p = from; p < to; p++) {
        const value = jacobian[p] as number;
        const i = column[p] as number;
        if (i < count) gradient[i] = (gradient[i] as number) + value * r;
        for (let q = from; q <= p; q++) {
          const place = productPlace[product++] as number;
          if (place >= 0) values[place] = (values[place] as number) + value * (jacobian[q] as number);
        }
      }
    }
  }

  private largestResidual(): number {
    let largest = 0;
    for (const value of this.residual) largest = Math.max(largest, Math.abs(value));
    return largest;
  }

  private longestStep(): number {
    let longest = 0;
    for (let i = 0; i < this.count; i++) longest = Math.max(longest, Math.abs(this.step[i] as number));
    return longest;
  }

  private largestDiagonal(): number {
    let largest = 1e-6;
    for (let i = 0; i < this.count; i++) largest = Math.max(largest, this.cholesky.values[this.cholesky.place(i, i)] as number);
    return largest;
  }

  private *pairs(): Generator<readonly [number, number]> {
    const found: [number, number][] = [];
    this.eachProduct((i, j) => {
      if (i < this.count && j < this.count && i !== j) found.push([i, j]);
    });
    yield* found;
  }

  private eachProduct(visit: (i: number, j: number) => void): void {
    for (let row = 0; row < this.equations.length; row++) {
      const to = this.rowStart[row + 1] as number;
      for (let p = this.rowStart[row] as number; p < to; p++) {
        for (let q = this.rowStart[row] as number; q <= p; q++) visit(this.column[p] as number, this.column[q] as number);
      }
    }
  }
}
