/** The parts that a part starts from: their shapes as nodes of its sheet, and what was measured on them. */
import { listRecords, shapeNode, wholeNode, type DocumentValues, type MeasuredValue } from '../document';
import { quantityType } from '../formula';
import { sameData } from '../kit';
import type { Definition, InputDefinition } from '../network';
import { PLAIN } from '../units';
import type { Instance } from './instance';
import { reach, shapeNodes } from './nodes';
import type { BuiltInName } from './value-path';

export class PartShapes {
  private readonly nodes = new Map<string, InputDefinition>();
  private readonly measured = new Map<string, Readonly<Record<string, MeasuredValue>>>();

  constructor(private readonly host: DocumentValues) {}

  /** What was measured on a part, by the ids that it has there; whether anything is another. */
  take(component: string, values: Readonly<Record<string, MeasuredValue>>): boolean {
    if (sameData(this.measured.get(component), values)) return false;
    this.measured.set(component, values);
    return true;
  }

  measuredOf(component: string): Readonly<Record<string, MeasuredValue>> | undefined {
    return this.measured.get(component);
  }

  forget(component: string): void {
    this.measured.delete(component);
  }

  /** Mass or volume of a part, called by the name of its document: it is built with the one that starts from it, or not at all. */
  readWhole(component: string, name: string, what: BuiltInName): MeasuredValue {
    const isBuilt = this.listSteps().some((step) => step.component === component && !this.host.isSuppressed(step.id));
    if (!isBuilt) return { problem: `${name} is not built here: no step starts from a body of it.` };
    return this.measured.get(component)?.[wholeNode(what)] ?? { problem: `${name} is being built.` };
  }

  /** Brings the shapes up to date: they come from the values that are set in their parts. */
  update(instances: ReadonlyMap<string, Instance>, changed: Map<string, Definition | undefined>): void {
    const there = new Set(this.listSteps().map(({ component }) => component));
    for (const id of this.nodes.keys()) if (!there.has(id)) this.nodes.delete(id);
    for (const id of there) {
      const instance = instances.get(id);
      const nodes = instance?.values ? shapeNodes(instance.values.document) : [];
      const held = nodes.some((node) => instance?.values?.isHeld(node)) ? { isHeld: true } : {};
      const reads = instance ? reach(instance, nodes) : [];
      const definition: InputDefinition = { kind: 'input', name: `shape ${id}`, type: quantityType(PLAIN), value: 0, reads, ...held };
      if (sameData(this.nodes.get(id), definition)) continue;
      this.nodes.set(id, definition);
      changed.set(shapeNode(id), definition);
    }
  }

  private listSteps() {
    return listRecords(this.host.document, 'steps', 'from-part');
  }
}
