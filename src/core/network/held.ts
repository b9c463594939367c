/** Values that rest on something older than what it was computed from. */
import type { Definition } from './definition';
import type { Entry } from './entry';

/** The inputs that are held, by their indexes, and all that they reach: found when it is asked for, kept until something moves. */
export class HeldCone {
  private readonly inputs = new Set<number>();
  private reached: ReadonlySet<string> | undefined;

  note(index: number, definition: Definition | undefined): void {
    if (definition?.kind === 'input' && definition.isHeld) this.inputs.add(index);
    else this.inputs.delete(index);
  }

  /** What reads what may be another now. */
  forget(): void {
    this.reached = undefined;
  }

  /** Ids of the held inputs, and of everything that reads them, directly or through others. */
  list(entries: readonly (Entry | undefined)[], readBy: readonly (readonly number[])[]): ReadonlySet<string> {
    this.reached ??= this.walk(entries, readBy);
    return this.reached;
  }

  private walk(entries: readonly (Entry | undefined)[], readBy: readonly (readonly number[])[]): ReadonlySet<string> {
    const seen = new Set(this.inputs);
    const wave = [...seen];
    for (let index = wave.pop(); index !== undefined; index = wave.pop()) {
      for (const reader of readBy[index] ?? []) {
        if (seen.has(reader) || entries[reader]?.unitNames.includes(index) === true) continue;
        seen.add(reader);
        wave.push(reader);
      }
    }
    return new Set([...seen].flatMap((index) => entries[index]?.id ?? []));
  }
}
