/** Who reads which value, by indexes. */
import { NO_READS } from './entry';

/** Short lists are copied, so that they have no room to spare; long ones grow as lists do. */
const COPY_BELOW = 8;

export class Readers {
  readonly all: (readonly number[])[] = [];
  /** Another one with every change. */
  version = 0;

  of(index: number): readonly number[] {
    return this.all[index] ?? NO_READS;
  }

  /** A new value; who read the one that had its index before is bound again. */
  open(index: number): void {
    this.all[index] ??= NO_READS;
    this.version++;
  }

  /** A value reads others than before. */
  move(index: number, before: readonly number[], after: readonly number[]): void {
    this.version++;
    for (const read of before) if (!after.includes(read)) this.all[read] = this.of(read).filter((reader) => reader !== index);
    for (const read of after) if (!before.includes(read)) this.add(read, index);
  }

  private add(read: number, reader: number): void {
    const known = this.of(read);
    if (known.length < COPY_BELOW) this.all[read] = [...known, reader];
    else (known as number[]).push(reader);
  }
}
