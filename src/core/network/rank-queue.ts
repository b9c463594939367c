/**
 * Set of small integers that gives the smallest first: bits in two levels, so that adding is O(1) and
 * finding the next one skips 1,024 empty places at a time. Used for the ranks of nodes that must be looked
 * at; ranks added while it is drained must be greater than the last one taken.
 */
export class RankQueue {
  private bits = new Int32Array(0);
  private summary = new Int32Array(0);
  private firstWord = Number.MAX_SAFE_INTEGER;

  /** Makes room for ranks below `count` in a queue that is empty. */
  fit(count: number): void {
    const words = (count >> 5) + 1;
    if (this.bits.length >= words) return;
    this.bits = new Int32Array(words * 2);
    this.summary = new Int32Array(((words * 2) >> 5) + 1);
  }

  add(rank: number): void {
    const word = rank >> 5;
    const bits = this.bits;
    bits[word] = (bits[word] as number) | (1 << (rank & 31));
    const block = word >> 5;
    if (block < this.firstWord) this.firstWord = block;
    this.summary[block] = (this.summary[block] as number) | (1 << (word & 31));
  }

  /** The smallest rank, taken out; -1 when there is none. */
  take(): number {
    const { bits, summary } = this;
    for (let block = this.firstWord; block < summary.length; block++) {
      const blockBits = summary[block] as number;
      if (blockBits === 0) continue;
      this.firstWord = block;
      const word = (block << 5) + lowestBit(blockBits);
      const wordBits = bits[word] as number;
      const bit = lowestBit(wordBits);
      const left = wordBits & (wordBits - 1);
      bits[word] = left;
      if (left === 0) summary[block] = blockBits & (blockBits - 1);
      return (word << 5) + bit;
    }
    this.firstWord = summary.length;
    return -1;
  }
}

function lowestBit(word: number): number {
  return 31 - Math.clz32(word & -word);
}
