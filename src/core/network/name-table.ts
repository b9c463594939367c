/** Names of a sheet's values, and the formulas that are waiting for a name to appear. */
export class NameTable {
  private readonly byName = new Map<string, number>();
  /** Nodes that mention a name which nothing has, by that name. */
  private readonly missing = new Map<string, Set<number>>();
  /** Nodes whose text does not parse: `2 b` reads otherwise once there is a value called b. */
  private readonly unparsed = new Set<number>();

  find(name: string): number | undefined {
    return this.byName.get(name);
  }

  has(name: string): boolean {
    return this.byName.has(name);
  }

  names(): Iterable<string> {
    return this.byName.keys();
  }

  claim(name: string, node: number): void {
    this.byName.set(name, node);
    this.missing.delete(name);
  }

  forget(name: string, node: number): void {
    if (this.byName.get(name) === node) this.byName.delete(name);
  }

  noteMissing(name: string, reader: number): void {
    const readers = this.missing.get(name);
    if (readers) readers.add(reader);
    else this.missing.set(name, new Set([reader]));
  }

  noteUnparsed(reader: number): void {
    this.unparsed.add(reader);
  }

  /** The node waits for nothing any more. */
  dropReader(reader: number): void {
    for (const readers of this.missing.values()) readers.delete(reader);
    this.unparsed.delete(reader);
  }

  hasWaiting(): boolean {
    return this.missing.size > 0 || this.unparsed.size > 0;
  }

  /** Formulas with an unknown name: it may be known after a change, or another name be nearer to it. */
  waiting(): number[] {
    return [...[...this.missing.values()].flatMap((readers) => [...readers]), ...this.unparsed];
  }
}
