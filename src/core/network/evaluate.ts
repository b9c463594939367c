/**
 * The numbers of a program, brought up to date.
 *
 * A walk over the ranks, upwards from what changed: a value is computed once, and only if it came out different are its readers looked at
 * (early cut-off). So one walk computes no more than the cone of what changed. What the walk writes depends on the program, the numbers that
 * are there, and what is said to have changed; it writes nothing but the state that it is given. A state is forked by copying its array.
 */
import { runCode } from '../formula';
import type { Entry } from './entry';
import { STRIDE, type Program } from './program';
import { RankQueue } from './rank-queue';
import { boundOf } from './bounds';
import { hasRules, judge } from './rules';

/** Held here: some bundlers go through a getter each time an import is called. */
const run = runCode;

/** By place: the numbers of all values, and the constants and scratch of their code. Not a number where a value is refused. */
export interface State {
  numbers: Float64Array;
}

export interface Evaluated {
  /** How many values were computed. */
  readonly computed: number;
  /** Indexes of those that came out without a number. */
  readonly refused: readonly number[];
}

/** A state in which nothing is computed yet. */
export function startState(program: Program): State {
  return { numbers: program.given.slice(0, program.places) };
}

/** Computes what depends on the values of these indexes, and they themselves. `queue` may be handed in to be used again. */
export function evaluate(program: Program, state: State, changed: Iterable<number>, queue = new RankQueue()): Evaluated {
  const { rows, readers, code, tables, order, rankOf } = program;
  const { numbers } = state;
  const refused: number[] = [];
  let computed = 0;
  queue.fit(order.length);
  for (const index of changed) queue.add(rankOf[index] as number);
  for (let rank = queue.take(); rank >= 0; rank = queue.take()) {
    const at = rank * STRIDE;
    const place = rows[at + 2] as number;
    const to = rows[at + 1] as number;
    const before = numbers[place] as number;
    computed++;
    if (to > 0) run(code, rows[at] as number, to, numbers, tables);
    else {
      const entry = program.entries[order[rank] as number];
      if (entry) numbers[place] = computeOne(program, entry, numbers);
    }
    const value = numbers[place] as number;
    if (value - value !== 0) {
      numbers[place] = NaN;
      refused.push(order[rank] as number);
      if (before !== before) continue;
    } else if (isSame(value, before)) continue;
    const end = rows[at + STRIDE + 3] as number;
    for (let i = rows[at + 3] as number; i < end; i++) queue.add(readers[i] as number);
  }
  return { computed, refused };
}

/** The two zeros are equal, and atan2 tells them apart. */
function isSame(value: number, before: number): boolean {
  return value === before && (value !== 0 || Object.is(value, before));
}

/** The number of a value for which more counts than its code: what was typed, its limits and choices. Not a number where it is refused. */
function computeOne(program: Program, entry: Entry, numbers: Float64Array): number {
  const { how, place, definition } = entry;
  if (how === 'refused') return NaN;
  if (how === 'run') run(program.code, entry.codeFrom, entry.codeTo, numbers, program.tables);
  const value = (how === 'given' ? program.given[place] : numbers[place]) as number;
  if (definition.kind !== 'formula' || !hasRules(definition) || value - value !== 0) return value;
  const verdict = judge(definition, value, boundOf(program, entry, definition.least, numbers), boundOf(program, entry, definition.most, numbers));
  return typeof verdict === 'number' ? verdict : NaN;
}
