/** The arrays behind a sheet: numbers, register code, tables, texts. Grows by doubling. */
import { TEMPORARIES, WIDTH, type CodeSink, type LookupTable } from '../formula';

/** Less waste than this is not worth the move, in integers. */
const COMPACT_ABOVE = 50_000;

/** Whose code lies where. */
interface CodeHolder {
  codeFrom: number;
  codeTo: number;
}

export class CodeStore implements CodeSink {
  values = new Float64Array(2 * TEMPORARIES);
  code = new Int32Array(1024);
  codeLength = 0;
  readonly tables: LookupTable[] = [];
  private nextPlace = TEMPORARIES;
  private wasted = 0;
  private readonly constants = new Map<number, number>();
  private readonly texts: string[] = [];
  private readonly textNumbers = new Map<string, number>();

  reservePlace(): number {
    if (this.nextPlace >= this.values.length) {
      const larger = new Float64Array(this.values.length * 2);
      larger.set(this.values);
      this.values = larger;
    }
    const place = this.nextPlace++;
    this.values[place] = NaN;
    return place;
  }

  placeConstant = (value: number): number => {
    // Map treats 0 and -0 as one key; a formula cannot tell them apart but by dividing, which is refused.
    let place = this.constants.get(value);
    if (place === undefined) {
      place = this.reservePlace();
      this.values[place] = value;
      this.constants.set(value, place);
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
    if (to > from && to === this.codeLength) this.codeLength = from;
    else this.wasted += to - from;
  }

  /** Where most of the code is run by nobody, moves that of its holders together; whether it did. */
  compactIfWasteful(holders: readonly (CodeHolder | undefined)[]): boolean {
    const isWasteful = this.wasted > COMPACT_ABOVE && this.wasted > this.codeLength / 2;
    if (isWasteful) this.compact(holders.flatMap((holder) => (holder && holder.codeTo > holder.codeFrom ? holder : [])));
    return isWasteful;
  }

  /** Moves the code of its holders together, in order, and tells each where its own lies now. */
  private compact(holders: readonly CodeHolder[]): void {
    let end = 0;
    for (const holder of [...holders].sort((a, b) => a.codeFrom - b.codeFrom)) {
      const length = holder.codeTo - holder.codeFrom;
      this.code.copyWithin(end, holder.codeFrom, holder.codeTo);
      holder.codeFrom = end;
      end += length;
      holder.codeTo = end;
    }
    this.codeLength = end;
    this.wasted = 0;
  }

  /**
   * Lets go of most of the room that doubling left over, and of the index of constants: a later formula
   * with the same number gets a place of its own.
   */
  trim(): void {
    this.constants.clear();
    this.code = this.code.slice(0, Math.ceil(this.codeLength * 1.1) + 64);
    this.values = this.values.slice(0, Math.ceil(this.nextPlace * 1.1) + 64);
  }

  textNumber(text: string): number {
    let number = this.textNumbers.get(text);
    if (number === undefined) {
      number = this.texts.push(text) - 1;
      this.textNumbers.set(text, number);
    }
    return number;
  }

  textOf(value: number): string {
    return this.texts[value] ?? '';
  }
}
