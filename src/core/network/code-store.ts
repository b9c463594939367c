/**
 * The arrays behind programs: places with the numbers that are given, register code, tables. Grows by doubling. What a program was handed is
 * not written to again: its numbers are a copy, and code is only added behind it.
 */
import { TEMPORARIES, WIDTH, type CodeSink, type LookupTable } from '../formula';
import type { Entry } from './entry';
import type { Program } from './program';

/** Less waste than this is not worth the move, in integers. */
const COMPACT_ABOVE = 50_000;

export class CodeStore implements CodeSink {
  /** By place. */
  private given = new Float64Array(2 * TEMPORARIES);
  /** Whether a program has it: then the next number is written to a copy. */
  private isSealed = false;
  code = new Int32Array(1024);
  codeLength = 0;
  readonly tables: LookupTable[] = [];
  private nextPlace = TEMPORARIES;
  private readonly freePlaces: number[] = [];
  /** Code before this belongs to programs that were handed out. */
  private sealedLength = 0;
  private wasted = 0;
  /** Whether code lies elsewhere than it did in the last program. */
  hasMoved = false;
  private readonly constants = new Map<number | '-0', number>();

  /** For a value; one that another has given back first. */
  reservePlace(): number {
    const place = this.freePlaces.pop() ?? this.newPlace();
    this.give(place, NaN);
    return place;
  }

  releasePlace(place: number): void {
    this.freePlaces.push(place);
  }

  private newPlace(): number {
    return this.nextPlace++;
  }

  /** The number that lies at a place from the start. */
  give(place: number, value: number): void {
    if (this.isSealed || place >= this.given.length) {
      const copy = new Float64Array(place < this.given.length ? this.given.length : this.given.length * 2);
      copy.set(this.given);
      this.given = copy;
      this.isSealed = false;
    }
    this.given[place] = value;
  }

  /** What a program holds of all this; it is written to no more. */
  seal(): Pick<Program, 'code' | 'tables' | 'given' | 'places'> {
    this.sealedLength = this.codeLength;
    this.isSealed = true;
    return { code: this.code, tables: this.tables, given: this.given, places: this.nextPlace };
  }

  placeConstant = (value: number): number => {
    // A map takes 0 and -0 as one key; atan2 tells them apart.
    const key = Object.is(value, -0) ? '-0' : value;
    let place = this.constants.get(key);
    if (place === undefined) {
      // Never one that was given back: a state that lives on takes the constants of a new program from behind its own.
      place = this.newPlace();
      this.give(place, value);
      this.constants.set(key, place);
    }
    return place;
  };

  placeTable = (table: LookupTable): number => {
    const known = this.tables.indexOf(table);
    return known >= 0 ? known : this.tables.push(table) - 1;
  };

  emit = (operation: number, target: number, a: number, b: number): void => {
    if (this.codeLength + WIDTH > this.code.length) {
      const larger = new Int32Array(this.code.length * 2 + WIDTH);
      larger.set(this.code);
      this.code = larger;
    }
    const { code, codeLength: at } = this;
    code[at] = operation;
    code[at + 1] = target;
    code[at + 2] = a;
    code[at + 3] = b;
    this.codeLength += WIDTH;
  };

  /** Gives back the room of code that is no longer run: at once at the end, else when there is much of it. */
  release(from: number, to: number): void {
    if (to > from && to === this.codeLength && from >= this.sealedLength) this.codeLength = from;
    else this.wasted += to - from;
  }

  /** Whether most of the code is run by nobody. */
  get isWasteful(): boolean {
    return this.wasted > COMPACT_ABOVE && this.wasted > this.codeLength / 2;
  }

  /** Copies the code that is run to a new array, in order; the entries with where their own lies now. */
  compact(entries: readonly (Entry | undefined)[]): (Entry | undefined)[] {
    const code = new Int32Array(this.code.length);
    let end = 0;
    const moved = entries.map((entry) => {
      if (!entry || entry.codeTo === entry.codeFrom) return entry;
      code.set(this.code.subarray(entry.codeFrom, entry.codeTo), end);
      const codeFrom = end;
      end += entry.codeTo - entry.codeFrom;
      return { ...entry, codeFrom, codeTo: end };
    });
    this.code = code;
    this.codeLength = end;
    this.sealedLength = 0;
    this.wasted = 0;
    this.hasMoved = true;
    return moved;
  }

  /**
   * Lets go of most of the room that doubling left over, and of the index of constants: a later formula
   * with the same number gets a place of its own.
   */
  trim(): void {
    this.constants.clear();
    this.code = this.code.slice(0, Math.ceil(this.codeLength * 1.1) + 64);
    this.given = this.given.slice(0, Math.ceil(this.nextPlace * 1.1) + 64);
    this.isSealed = false;
  }
}
