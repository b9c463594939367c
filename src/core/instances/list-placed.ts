/** Everything with geometry in an assembly, down through its sub-assemblies, where it stands. */
import { listRecords, type Document, type DocumentValues } from '../document';
import { combine, STANDING, type Stance } from './stance';
import type { InstanceKey } from './drive-document';
import { Instances } from './instances';

export interface PlacedPart {
  /** Ids of the components from the assembly down to the part. */
  readonly path: readonly string[];
  /** Their names, joined with dots. */
  readonly name: string;
  readonly key: InstanceKey;
  /** The part with the values that it has here. */
  readonly document: Document;
  readonly values: DocumentValues;
  readonly at: Stance;
}

/** Where the components of an assembly stand, by their ids; those that are not told stand where they were put. */
export type Standing = (values: DocumentValues) => ReadonlyMap<string, Stance>;

const AS_PUT: Standing = () => new Map();

/** Parts that are shown, in the order of the components; what is suppressed or cannot be opened is left out. */
export function listPlaced(values: DocumentValues, standing: Standing = AS_PUT): PlacedPart[] {
  return [...placedIn(values, { path: [], name: '', at: STANDING }, standing)];
}

function* placedIn(values: DocumentValues, above: Pick<PlacedPart, 'path' | 'name' | 'at'>, standing: Standing): Generator<PlacedPart> {
  const { components } = values;
  if (!(components instanceof Instances)) return;
  const stances = standing(values);
  for (const component of listRecords(values.document, 'components', 'component')) {
    const instance = components.find(component.id);
    if (!component.at || !instance?.values || values.isSuppressed(component.id)) continue;
    const place = {
      path: [...above.path, component.id],
      name: above.name === '' ? component.name : `${above.name}.${component.name}`,
      at: combine(above.at, stances.get(component.id) ?? component.at),
    };
    const { document } = instance.values;
    if (document.kind === 'assembly') yield* placedIn(instance.values, place, standing);
    else if (document.kind === 'part') yield { ...place, key: instance.key, document, values: instance.values };
  }
}
