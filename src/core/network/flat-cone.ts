/**
 * The values of a sheet that need nothing but their code run, in flat arrays by rank: where the code is, where
 * the number goes, and the ranks of the readers. A wide change walks these instead of node objects, at about
 * half the time for each value. Built when a settle turns out to be wide, kept while the formulas stay as they
 * are: scrubbing, sweeps and sampling change numbers only.
 */
import { runCode } from '../formula';
import type { CodeStore } from './code-store';
import type { Node } from './node';
import type { RankQueue } from './rank-queue';

/** Held here: some bundlers go through a getter each time an import is called. */
const run = runCode;

/** Integers for each rank: code from, code to (0 for a value that needs a full look), place, first reader. */
const STRIDE = 4;

export class FlatCone {
  private rows = new Int32Array(0);
  private readers = new Int32Array(0);
  private fresh = false;
  /** Values run since it was last set to 0. */
  computed = 0;

  get isFresh(): boolean {
    return this.fresh;
  }

  /** To be told of every change to formulas, readers, order or the places of code. */
  drop(): void {
    this.fresh = false;
  }

  build(order: Int32Array, nodes: readonly (Node | undefined)[]): void {
    const rows = new Int32Array((order.length + 1) * STRIDE);
    const readers: number[] = [];
    for (let rank = 0; rank < order.length; rank++) {
      const node = nodes[order[rank] as number];
      rows[rank * STRIDE + 3] = readers.length;
      if (!node) continue;
      this.write(rows, rank, node);
      for (const reader of node.readBy) {
        const other = nodes[reader];
        if (other && other.rank > rank) readers.push(other.rank);
      }
    }
    rows[order.length * STRIDE + 3] = readers.length;
    this.rows = rows;
    this.readers = Int32Array.from(readers);
    this.fresh = true;
  }

  /** The node itself changed, but not who reads it. */
  note(node: Node): void {
    if (this.fresh) this.write(this.rows, node.rank, node);
  }

  private write(rows: Int32Array, rank: number, node: Node): void {
    const canRun = node.isPlain && !node.needsCompile;
    rows[rank * STRIDE] = canRun ? node.codeFrom : 0;
    rows[rank * STRIDE + 1] = canRun ? node.codeTo : 0;
    rows[rank * STRIDE + 2] = node.place;
  }

  /** Runs values in order of rank; gives the first rank that needs a full look, taken out of the queue; -1 at the end. */
  run(queue: RankQueue, store: CodeStore): number {
    const { rows, readers } = this;
    const { code, values, tables } = store;
    for (let rank = queue.take(); rank >= 0; rank = queue.take()) {
      const at = rank * STRIDE;
      const to = rows[at + 1] as number;
      if (to === 0) return rank;
      const place = rows[at + 2] as number;
      const before = values[place] as number;
      run(code, rows[at] as number, to, values, tables);
      const value = values[place] as number;
      if (value - value !== 0) {
        values[place] = before;
        return rank;
      }
      this.computed++;
      if (value === before) continue;
      const end = rows[at + STRIDE + 3] as number;
      for (let i = rows[at + 3] as number; i < end; i++) queue.add(readers[i] as number);
    }
    return -1;
  }
}
