/** Small documents put together in assemblies, without geometry: for tests of values. */
import { createDocument, type Component, type Document, type DocumentRecord } from '@/core/document';
import { openValues, type BuiltInstance, type InstanceSource } from '@/core/instances';
import { edited } from './demo';

/** A document of user parameters, `name: formula`; with links, `name: source.name`, whose values are those at home. */
export function withParameters(
  kind: Document['kind'],
  id: string,
  formulas: Readonly<Record<string, string>>,
  kinds: Readonly<Record<string, string>> = {},
): Document {
  return edited(
    createDocument(id, kind, id),
    ...Object.entries(formulas).map(([name, text]) => ({
      type: 'parameter.add' as const,
      parameter: { type: 'parameter' as const, id: `${id}-${name}`, name, formula: { text }, kind: kinds[name] ?? 'any', offered: true },
    })),
  );
}

/** A link that takes lengths under the names that they have in their source. */
export function linked(document: Document, source: string, lengths: Readonly<Record<string, number>>): Document {
  const link = { type: 'link' as const, id: `${document.id}-to-${source}`, source, sourceName: source, policy: 'ask' as const, revision: 1, hash: '' };
  return edited(document, {
    type: 'link.put',
    link,
    takes: Object.entries(lengths).map(([name, mm]) => ({
      type: 'take' as const,
      id: `${document.id}-takes-${name}`,
      link: link.id,
      parameter: `${source}-${name}`,
      name,
      sourceName: name,
      value: { kind: 'quantity' as const, dimension: 'length=1', value: mm * 10_000, unit: 'mm' },
    })),
  });
}

export function component(name: string, source: string, options: Partial<Component> = {}): Component {
  const at = { origin: [0, 0, 0], turn: [1, 0, 0, 0] } as const;
  return {
    type: 'component',
    id: name,
    name,
    source,
    sourceName: source,
    policy: 'ask',
    revision: 1,
    hash: '',
    at: { origin: [...at.origin], turn: [...at.turn] },
    ...options,
  };
}

export function withComponents(document: Document, ...components: readonly Component[]): Document {
  return edited(document, ...components.map((one) => ({ type: 'component.put' as const, component: one })));
}

/** Sets a value of a component, `rail.length`, by a formula of the assembly. */
export function driven(document: Document, path: string, text: string, ids?: readonly string[]): Document {
  const [owner = '', ...names] = path.split('.');
  const source = (document.records[owner] as Component).source;
  return edited(document, {
    type: 'drive.put',
    drive: {
      type: 'drive',
      id: `drive-${path.replaceAll('.', '-')}`,
      component: owner,
      path: [...(ids ?? [`${source}-${names.join('.')}`])],
      sourceName: names.join('.'),
      formula: { text },
    },
  });
}

/** The same component without a place: it sets values for the others. */
export function placeless({ at: _, ...rest }: Component): Component {
  return rest;
}

/** Documents by their ids, whatever the revision; `built` tells what was built, by key. */
export function sourceOf(
  documents: readonly Document[],
  built: Readonly<Record<string, BuiltInstance>> | ((key: string) => BuiltInstance | undefined) = {},
): InstanceSource {
  return {
    snapshot: (id) => documents.find((document) => document.id === id),
    built: (key) => (typeof built === 'function' ? built(key) : built[key]),
  };
}

/** What values read, as shown: `12 mm`; or their problem. */
export function shownIn(host: Document, documents: readonly Document[], built: Parameters<typeof sourceOf>[1] = {}): Record<string, string> {
  const values = openValues(host, sourceOf(documents, built));
  const shown: Record<string, string> = {};
  for (const record of Object.values<DocumentRecord>(host.records)) {
    if (record.type !== 'parameter') continue;
    const value = values.show(record.id);
    shown[record.name] = value?.diagnostics[0]?.message ?? value?.shown ?? '';
  }
  return shown;
}
