/**
 * The normal matrix of a group of bodies with six unknowns each, filled block by block. What its pattern comes to is found once for each pattern: while
 * something is dragged, every frame has the same.
 */
import { SparseCholesky } from '../numeric';

/** Patterns that are kept: a page moves one assembly at a time, and a conflict tries its mates in turn. */
const MOST_KEPT = 8;
const kept = new Map<string, NormalMatrix>();

/**
 * The matrix for so many bodies, joined in pairs; repeats are fine. It may be the one that somebody had before: it is to be filled anew before it is
 * factored.
 */
export function normalMatrix(bodies: number, joined: Iterable<readonly [number, number]>): NormalMatrix {
  const pairs = new Set<number>();
  for (const [a, b] of joined) if (a !== b) pairs.add(Math.max(a, b) * bodies + Math.min(a, b));
  const sorted = [...pairs].sort((a, b) => a - b);
  const key = `${bodies} ${sorted.join(' ')}`;
  const matrix = kept.get(key) ?? new NormalMatrix(bodies, sorted);
  kept.delete(key);
  kept.set(key, matrix);
  for (const oldest of kept.keys()) {
    if (kept.size <= MOST_KEPT) break;
    kept.delete(oldest);
  }
  return matrix;
}

export class NormalMatrix {
  private readonly matrix: SparseCholesky;
  /** By pair of bodies, the greater first: where each of the 36 products goes; -1 above the diagonal. */
  private readonly blocks = new Map<number, Int32Array>();

  constructor(
    private readonly bodies: number,
    pairs: readonly number[],
  ) {
    const own = Array.from({ length: bodies }, (_, i) => i * bodies + i);
    this.matrix = new SparseCholesky(6 * bodies, entriesOf([...own, ...pairs], bodies));
    for (const pair of [...own, ...pairs]) this.blocks.set(pair, this.placesOf(Math.floor(pair / bodies), pair % bodies));
  }

  clear(): void {
    this.matrix.values.fill(0);
  }

  /** Adds the products of one equation's derivatives: `gradients` has six for each of these bodies, each there once. */
  add(at: readonly number[], gradients: Float64Array): void {
    const { values } = this.matrix;
    for (let m = 0; m < at.length; m++) {
      for (let n = 0; n < at.length; n++) {
        const [a, b] = [at[m] as number, at[n] as number];
        if (b > a) continue;
        const places = this.blocks.get(a * this.bodies + b);
        if (!places) throw new Error('Bug: these bodies are not joined');
        for (let k = 0; k < 6; k++) {
          const own = gradients[6 * m + k] as number;
          if (own === 0) continue;
          for (let l = 0; l < 6; l++) {
            const place = places[6 * k + l] as number;
            if (place >= 0) values[place] = (values[place] as number) + own * (gradients[6 * n + l] as number);
          }
        }
      }
    }
  }

  /** With so much added on the diagonal. False when it is not positive definite. */
  factor(damping: number): boolean {
    return this.matrix.factor(new Float64Array(6 * this.bodies).fill(damping));
  }

  /** With the last factor, in place. */
  solve(right: Float64Array): void {
    this.matrix.solve(right);
  }

  private placesOf(a: number, b: number): Int32Array {
    const places = new Int32Array(36).fill(-1);
    for (let k = 0; k < 6; k++) for (let l = 0; l < 6; l++) if (a !== b || l <= k) places[6 * k + l] = this.matrix.place(6 * a + k, 6 * b + l);
    return places;
  }
}

function* entriesOf(pairs: readonly number[], bodies: number): Generator<[number, number]> {
  for (const pair of pairs) {
    const [a, b] = [Math.floor(pair / bodies), pair % bodies];
    for (let k = 0; k < 6; k++) for (let l = 0; l < (a === b ? k : 6); l++) yield [6 * a + k, 6 * b + l];
  }
}
