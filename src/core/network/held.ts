/** Values that rest on something older than what it was computed from. */
import type { Definition } from './definition';
import type { Node } from './node';

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
  list(nodes: readonly (Node | undefined)[]): ReadonlySet<string> {
    this.reached ??= this.walk(nodes);
    return this.reached;
  }

  private walk(nodes: readonly (Node | undefined)[]): ReadonlySet<string> {
    const seen = new Set(this.inputs);
    const wave = [...seen];
    for (let index = wave.pop(); index !== undefined; index = wave.pop()) {
      for (const reader of nodes[index]?.readBy ?? []) {
        if (seen.has(reader) || nodes[reader]?.unitNames.includes(index) === true) continue;
        seen.add(reader);
        wave.push(reader);
      }
    }
    return new Set([...seen].flatMap((index) => nodes[index]?.id ?? []));
  }
}
