/** Where a value of an assembly leads inside its components, and where inside them it comes from: what the same walk tells across documents at home. */
import { findRecord, isNamed, isStep, type DocumentValues } from '../document';
import { isHandedDown } from './drive-document';
import type { Instance } from './instance';
import { Instances } from './instances';
import { driven, readBy } from './nodes';

/** What is reached in one component, by the names on the way to it: `unit.rail`. */
export interface ReachedInside {
  readonly path: readonly string[];
  readonly name: string;
  readonly document: { readonly id: string; readonly name: string };
  readonly values: readonly { readonly id: string; readonly name: string }[];
  readonly steps: readonly { readonly id: string; readonly name: string }[];
}

/** What a value drives in the components of its assembly, at any depth. */
export function drivenInside(values: DocumentValues, id: string): ReachedInside[] {
  const found: ReachedInside[] = [];
  const visit = (host: DocumentValues, nodes: ReadonlySet<string>, above: Above): void => {
    for (const { instance, inside, there } of componentsOf(host, above)) {
      const set = [...instance.setBy].flatMap(([node, drives]) => (drives.some((drive) => nodes.has(drive)) ? [node] : []));
      if (set.length === 0) continue;
      const reached = driven(inside, set);
      note(found, inside, reached, there);
      visit(inside, reached, there);
    }
  };
  visit(values, driven(values, [id]), TOP);
  return found;
}

/** What a value comes from in the components of its assembly, at any depth. */
export function sourcesInside(values: DocumentValues, id: string): ReachedInside[] {
  const found: ReachedInside[] = [];
  const visit = (host: DocumentValues, from: readonly string[], above: Above): void => {
    const nodes = sourcesOf(host, from);
    if (above !== TOP) note(found, host, nodes, above);
    for (const { component, inside, there } of componentsOf(host, above)) {
      const read = [...nodes].flatMap((node) => (node.startsWith(`${component}>`) ? [node.slice(component.length + 1)] : []));
      if (read.length > 0) visit(inside, read, there);
    }
  };
  visit(values, [id], TOP);
  return found;
}

interface Above {
  readonly path: readonly string[];
  readonly names: readonly string[];
}

const TOP: Above = { path: [], names: [] };

interface Inside {
  readonly component: string;
  readonly instance: Instance;
  readonly inside: DocumentValues;
  readonly there: Above;
}

function* componentsOf({ components, document }: DocumentValues, { path, names }: Above): Generator<Inside> {
  if (!(components instanceof Instances)) return;
  for (const id of document.lists['components'] ?? []) {
    const instance = components.find(id);
    const record = findRecord(document, id, 'component');
    if (!instance?.values || !record || isHandedDown(record)) continue;
    yield { component: id, instance, inside: instance.values, there: { path: [...path, id], names: [...names, record.name] } };
  }
}

function sourcesOf(values: DocumentValues, from: readonly string[]): Set<string> {
  const { sheet, document } = values;
  // The mass of a part comes from all that decides its shape.
  const last = (document.lists['steps'] ?? []).slice(-1).map((step) => `${step}/built`);
  return readBy(
    values,
    from.flatMap((node) => (sheet.read(node) ? [node] : last)),
  );
}

function note(found: ReachedInside[], { document }: DocumentValues, nodes: ReadonlySet<string>, { path, names }: Above): void {
  const named: { readonly id: string; readonly name: string }[] = [];
  const owners = new Set<string>();
  for (const id of nodes) {
    const record = document.records[id];
    if (!record || !isNamed(record)) continue;
    named.push({ id, name: record.name });
    if (record.type === 'parameter' && record.owner !== undefined) owners.add(record.owner);
  }
  if (named.length === 0) return;
  const steps = (document.lists['steps'] ?? []).flatMap((id) => {
    const step = owners.has(id) ? document.records[id] : undefined;
    return step && isStep(step) ? [{ id, name: step.name }] : [];
  });
  found.push({ path, name: names.join('.'), document: { id: document.id, name: document.name }, values: named, steps });
}
