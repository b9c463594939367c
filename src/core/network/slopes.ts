/**
 * How fast one value moves when another does: exact derivatives of the formula code, forward mode, one way for each of the values that move.
 * Where there is a corner the two sides differ: the steeper one is told.
 */
import { INTERPOLATE, isWide, LOOKUP, moveInterpolation, moveLookup, moveOperation, operationAt, WIDTH, type Moving } from '../formula';
import { ranksBetween } from './cone';
import type { Entry } from './entry';
import type { State } from './evaluate';
import type { Program } from './program';

export interface Slope {
  /** Units of what moves for each unit of what moves it, internal ones; not a number where there is none. */
  readonly value: number;
  /** Whether it is another the other way. */
  readonly isCorner: boolean;
}

const STILL: Moving = { value: 0, slope: 0, isCorner: false };

/** Of values that are computed elsewhere, by their indexes: how fast each moves by others, by theirs. */
export type SlopesElsewhere = ReadonlyMap<number, ReadonlyMap<number, number>>;

/**
 * By each of the values `by`, all others of them held, whatever they are computed from. Indexes. What is computed elsewhere is still, but for what
 * `elsewhere` tells of it.
 */
export function slopesOf(program: Program, state: State, by: readonly number[], of: number, elsewhere: SlopesElsewhere = new Map()): Slope[] {
  const ranks = ranksBetween(program, by, [of]);
  const placeOf = (index: number): number => program.entries[index]?.place ?? -1;
  const code = ranks.flatMap((rank): Piece[] => {
    const index = program.order[rank] as number;
    const entry = program.entries[index];
    const known = elsewhere.get(index);
    if (entry && known) return [{ place: entry.place, by: [...known].map(([other, slope]) => [placeOf(other), slope] as const) }];
    return entry?.how === 'run' ? [entry] : [];
  });
  const place = placeOf(of);
  return by.map((one) => {
    const from = placeOf(one);
    if (from === place) return { value: 1, isCorner: false };
    const up = run(program, state, code, from, 1);
    const isCorner = up.isCorner(place);
    const value = up.slopes[place] ?? NaN;
    if (!isCorner) return { value, isCorner };
    const down = run(program, state, code, from, -1).slopes[place] ?? NaN;
    return { value: Math.abs(down) > Math.abs(value) ? down : value, isCorner };
  });
}

/** A formula, or a value that is computed elsewhere with its slopes by others, by their places. */
type Piece = Entry | { readonly place: number; readonly by: readonly (readonly [place: number, slope: number])[] };

function run(program: Program, { numbers }: State, pieces: readonly Piece[], from: number, direction: 1 | -1) {
  const { code, tables } = program;
  const values = numbers.slice();
  const slopes = new Float64Array(numbers.length);
  const corners = new Uint8Array(numbers.length);
  slopes[from] = 1;
  const read = (place: number): Moving => ({ value: values[place] ?? NaN, slope: slopes[place] ?? 0, isCorner: false });
  for (const piece of pieces) {
    if ('by' in piece) {
      slopes[piece.place] = piece.by.reduce((sum, [place, slope]) => sum + slope * (slopes[place] ?? 0), 0);
      corners[piece.place] = piece.by.some(([place, slope]) => slope !== 0 && corners[place] === 1) ? 1 : 0;
      continue;
    }
    const { codeFrom, codeTo } = piece;
    for (let at = codeFrom; at < codeTo; at += WIDTH) {
      const operation = code[at] as number;
      const [target, a, b] = [code[at + 1] as number, code[at + 2] as number, code[at + 3] as number];
      const third = isWide(operation) ? (code[at + WIDTH] as number) : -1;
      if (third >= 0) at += WIDTH;
      const arity = operationAt(operation)?.arity;
      const table = operation === LOOKUP || operation === INTERPOLATE ? tables[b] : undefined;
      const moved = table
        ? operation === LOOKUP
          ? moveLookup(table, third, read(a))
          : moveInterpolation(table, third, read(a), direction)
        : moveOperation(operation, read(a), arity === 1 ? STILL : read(b), third < 0 ? STILL : read(third), direction);
      // Of one argument the second place says nothing, of a lookup it is the table.
      const reads = table || arity === 1 ? [a] : third < 0 ? [a, b] : [a, b, third];
      // A corner counts in what is made of it.
      const isCorner = moved.isCorner || reads.some((place) => corners[place] === 1);
      values[target] = moved.value;
      slopes[target] = moved.slope;
      corners[target] = isCorner ? 1 : 0;
    }
  }
  return { slopes, isCorner: (place: number): boolean => corners[place] === 1 };
}
