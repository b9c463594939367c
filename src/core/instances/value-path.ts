/** Values of components: found by names through snapshots, and what a value that is set from outside must be. */
import {
  findAny,
  findRecord,
  hasName,
  hasShape,
  isNamed,
  isStep,
  isTable,
  listIds,
  slotOf,
  slotOfTaken,
  type Document,
  type DocumentRecord,
} from '../document';
import type { Slot } from '../formula';
import { kindDimension, type QuantityKind } from '../units';
import type { InstanceSource } from './source';

/** A value that can be set from outside, where it stands at home. */
export interface Goal {
  readonly document: Document;
  readonly record: DocumentRecord;
  /** Its name with those of the components on the way, `bearing.bore`. */
  readonly name: string;
}

/** What a path of ids leads to in a document, or why it leads nowhere. */
export function findGoal(document: Document, path: readonly string[], source: InstanceSource): Goal | { readonly problem: string } {
  const [id = '', ...rest] = path;
  const record = findAny(document, id);
  if (!record) return { problem: `it is no longer in ${document.name}` };
  if (rest.length > 0) {
    const component = findRecord(document, id, 'component');
    const inner = component && source.snapshot(component.source, component.revision);
    if (!component || !inner) return { problem: `${component?.sourceName ?? 'its component'} is being loaded` };
    const goal = findGoal(inner, rest, source);
    return 'problem' in goal ? goal : { ...goal, name: `${component.name}.${goal.name}` };
  }
  const problem = reasonNotToSet(record);
  return problem === undefined ? { document, record, name: nameOf(record) } : { problem };
}

function nameOf(record: DocumentRecord): string {
  return 'name' in record ? record.name : record.type;
}

/** Why a value cannot be set from outside; undefined where it can. */
function reasonNotToSet(record: DocumentRecord): string | undefined {
  if (isStep(record) || record.type === 'component') return undefined;
  if (!isNamed(record)) return 'it is not a value';
  if (isTable(record)) return 'it is a table';
  return record.type === 'parameter' && record.measure !== undefined
    ? record.measure.of === 'outside'
      ? 'it is the answer of an outside calculation'
      : 'it is measured'
    : undefined;
}

/** What a value must be that takes the place of another. */
export function slotOfGoal({ record }: Pick<Goal, 'record'>, label: string): Slot {
  if (record.type === 'parameter') {
    const slot = slotOf(record);
    return slot.kind === 'any' ? slot : { ...slot, label };
  }
  if (record.type !== 'take') return { kind: 'yes-no', label };
  return slotOfTaken(record.value, label);
}

/** Values of components that have no name of their own in the document, and what they are. */
export const BUILT_IN = { mass: 'mass', volume: 'volume' } as const satisfies Readonly<Record<string, QuantityKind>>;
export type BuiltInName = keyof typeof BUILT_IN;

export function isBuiltIn(name: string): name is BuiltInName {
  return Object.hasOwn(BUILT_IN, name);
}

export function builtInDimension(name: BuiltInName) {
  return kindDimension(BUILT_IN[name]);
}

/** Everything that can be read of a document by its name, through its components as well, `depth` levels of them. */
export function* listReadable(document: Document, source: InstanceSource, depth = 2): Generator<string> {
  const own = new Set<string>();
  for (const record of Object.values(document.records)) {
    if (!hasName(record)) continue;
    own.add(record.name);
    if (record.type !== 'component') {
      if (!isTable(record)) yield record.name;
      continue;
    }
    const inner = depth > 0 ? source.snapshot(record.source, record.revision) : undefined;
    if (inner) for (const name of listReadable(inner, source, depth - 1)) yield `${record.name}.${name}`;
  }
  if (!hasShape(document)) return;
  for (const name of Object.keys(BUILT_IN)) if (!own.has(name) && (document.kind === 'assembly' || listIds(document, 'bodies').length > 0)) yield name;
}
