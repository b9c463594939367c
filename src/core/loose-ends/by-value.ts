/**
 * Values of one dimension in one state, in the order of their numbers: those that are equal to a number, or give it
 * together, are found without looking at all pairs.
 */

export interface Numbered {
  readonly value: number;
}

/** Equal but for what rounding does. */
export function isSame(a: number | undefined, b: number): boolean {
  return a !== undefined && Math.abs(a - b) <= nearness(b);
}

function nearness(value: number): number {
  return 1e-9 * Math.max(Math.abs(value), 1);
}

export class ByValue<T extends Numbered> {
  private readonly sorted: readonly T[];
  /** The numbers of `sorted`, side by side. */
  private readonly numbers: Float64Array;

  constructor(values: Iterable<T>) {
    this.sorted = [...values].sort((a, b) => a.value - b.value);
    this.numbers = Float64Array.from(this.sorted, ({ value }) => value);
  }

  /** Those that are equal to a number. */
  equalTo(wanted: number): readonly T[] {
    const { numbers } = this;
    const least = wanted - nearness(wanted);
    let low = 0;
    let high = numbers.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((numbers[middle] as number) < least) low = middle + 1;
      else high = middle;
    }
    const most = wanted + nearness(wanted);
    let end = low;
    while (end < numbers.length && (numbers[end] as number) <= most) end++;
    return this.sorted.slice(low, end);
  }

  /**
   * Pairs of which the second is equal to what `partner` makes of the first's number, until `visit` gives false.
   * `partner` must rise or fall with its number all the way: then every value is passed once or twice in all.
   */
  visitPairs(partner: (value: number) => number, visit: (first: T, second: T) => boolean): void {
    const { sorted, numbers } = this;
    const count = numbers.length;
    let at = 0;
    for (let i = 0; i < count; i++) {
      const wanted = partner(numbers[i] as number);
      const near = nearness(wanted);
      while (at > 0 && (numbers[at - 1] as number) >= wanted - near) at--;
      while (at < count && (numbers[at] as number) < wanted - near) at++;
      for (let k = at; k < count && (numbers[k] as number) <= wanted + near; k++) {
        if (k !== i && !visit(sorted[i] as T, sorted[k] as T)) return;
      }
    }
  }
}
