/** The arrays behind a sheet: numbers, register code, tables, texts. Grows by doubling. */
import { TEMPORARIES, type CodeSink, type LookupTable } from '../formula';

const WIDTH = 5;

export class CodeStore implements CodeSink {
  values = new Float64Array(2 * TEMPORARIES);
  code = new Int32Array(1024);
  codeLength = 0;
  readonly tables: LookupTable[] = [];
  private nextPlace = TEMPORARIES;
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

  emit = (operation: number, target: number, a: number, b: number, c: number): void => {
    if (this.codeLength + WIDTH > this.code.length) {
      const larger = new Int32Array(this.code.length * 2);
      larger.set(this.code);
      this.code = larger;
    }
    const { code, codeLength: at } = this;
    code[at] = operation;
    code[at + 1] = target;
    code[at + 2] = a;
    code[at + 3] = b;
    code[at + 4] = c;
    this.codeLength += WIDTH;
  };

  /** Gives back the room of code that is no longer run, if it lies at the end. */
  release(from: number, to: number): void {
    if (to > from && to === this.codeLength) this.codeLength = from;
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
