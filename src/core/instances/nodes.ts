/** Nodes of the values of instances, and small facts about them. */
import { listIds, listRecords, listSizes, listSteps, type Component, type Document, type DocumentValues } from '../document';
import type { InputDefinition } from '../network';
import type { InstanceKey } from './drive-document';
import type { Instance } from './instance';

/** The part of a key that tells the snapshot. */
export function pinnedPart(key: InstanceKey): string {
  return key.split('?', 1)[0] ?? key;
}

/** The nodes themselves and everything that reads them, directly or through others. */
export function driven({ sheet }: DocumentValues, nodes: Iterable<string>): Set<string> {
  return walk(nodes, (node) => sheet.listReaders(node));
}

/** The nodes themselves and everything that they read, directly or through others. */
export function readBy({ sheet }: DocumentValues, nodes: Iterable<string>): Set<string> {
  return walk(nodes, (node) => sheet.listReads(node));
}

function walk(nodes: Iterable<string>, next: (node: string) => readonly string[]): Set<string> {
  const wave = [...nodes];
  const found = new Set(wave);
  for (let node = wave.pop(); node !== undefined; node = wave.pop()) {
    for (const other of next(node)) {
      if (found.has(other)) continue;
      found.add(other);
      wave.push(other);
    }
  }
  return found;
}

/** Nodes that decide the shape and the mass of a document; for an assembly, everything that it sets. */
export function shapeNodes(document: Document): string[] {
  if (document.kind === 'assembly') {
    return listRecords(document, 'components', 'component').flatMap(({ id }) => [`${id}/suppressed`, ...listIds(document, `${id}/drives`)]);
  }
  const last = listSteps(document).at(-1);
  return [...(last ? [`${last.id}/built`] : []), ...listIds(document, 'bodies').map((id) => `${id}/density`)];
}

/** An input that is refused, and why. */
export function refused(name: string, problem: string): InputDefinition {
  return { kind: 'input', name, type: undefined, value: NaN, problem };
}

/** Why a component has not the size that it asks for. */
export function sizeProblem({ name, size }: Component, snapshot: Document, wanted: string | undefined): string {
  if (wanted === undefined) return `The size of ${name}, ${size?.text ?? ''}, has an error.`;
  const names = listSizes(snapshot).map((one) => one.name);
  return `${snapshot.name} has no size "${wanted}".${names.length > 0 ? ` There are ${names.join(', ')}.` : ''}`;
}

/** Stands for the node of a drive that has had no value yet, further down: whatever is read waits for it. */
export const ANYWHERE = '';

const NONE: readonly string[] = [];

/** The drives that reach any of these nodes inside an instance, in the order in which they are met. */
export function reach({ values, setBy }: Pick<Instance, 'values' | 'setBy'>, nodes: readonly string[]): readonly string[] {
  if (!values || setBy.size === 0) return NONE;
  const found = new Set(setBy.get(ANYWHERE));
  const seen = new Set(nodes);
  const wave = [...nodes];
  for (let node = wave.pop(); node !== undefined; node = wave.pop()) {
    for (const drive of setBy.get(node) ?? NONE) found.add(drive);
    for (const next of values.sheet.listReads(node)) {
      if (seen.has(next)) continue;
      seen.add(next);
      wave.push(next);
    }
  }
  return [...found];
}
