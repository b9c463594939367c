/** Everything with geometry in an assembly, down through its sub-assemblies, where it stands. */
import { copyId, findRecord, listRecords, plainId, type Component, type Document, type DocumentValues, type PlaneName } from '../document';
import { complete, type CompleteDocument } from './complete';
import { turnOver } from './mirror-assembly';
import { combine, STANDING, type Stance } from './stance';
import type { InstanceKey } from './drive-document';
import { countCopies } from './copies';
import type { Instance } from './instance';
import { Instances } from './instances';
import type { InstanceSource } from './source';

export interface PlacedPart {
  /** Ids of the components from the assembly down to the part; those of copies with their numbers. */
  readonly path: readonly string[];
  /** Their names, joined with dots: `unit.rail[2]`. */
  readonly name: string;
  readonly key: InstanceKey;
  /** The part with the values that it has here, and what it uses. */
  readonly document: CompleteDocument;
  readonly values: DocumentValues;
  readonly at: Stance;
  readonly isMirrored: boolean;
  /** That of the outermost component that has one. */
  readonly colour?: string | undefined;
}

/**
 * Where the components of an assembly stand within it, and their copies, by their ids; those that are not told stand where they were put. The
 * path leads to that assembly from the outermost: one that is flexible stands differently in each place.
 */
export type Standing = (values: DocumentValues, path: readonly string[]) => ReadonlyMap<string, Stance>;

const AS_PUT: Standing = () => new Map();

/** A component that stands in an assembly, or a copy of it. */
export interface Shown {
  readonly component: Component;
  readonly instance: Instance & { readonly values: DocumentValues };
  readonly source: InstanceSource;
  /** With the number of a copy. */
  readonly id: string;
  readonly name: string;
  /** Within the assembly. */
  readonly at: Stance;
}

/** What is shown of one assembly, in the order of the components; what is suppressed or cannot be opened is left out. */
export function* listShown(values: DocumentValues, path: readonly string[], standing: Standing): Generator<Shown> {
  const { components } = values;
  if (!(components instanceof Instances)) return;
  const stances = standing(values, path);
  for (const component of listRecords(values.document, 'components', 'component')) {
    const instance = components.find(component.id);
    if (!component.at || !instance?.values || values.isSuppressed(component.id)) continue;
    const there = { component, instance: { ...instance, values: instance.values }, source: components.source };
    const { id, name, pattern } = component;
    const first = stances.get(id) ?? component.at;
    yield { ...there, id, name: pattern ? `${name}[1]` : name, at: first };
    for (const n of pattern ? countCopies(values, pattern) : [])
      yield { ...there, id: copyId(id, n), name: `${name}[${n}]`, at: stances.get(copyId(id, n)) ?? first };
  }
}

/** Parts that are shown, in the order of the components. */
export function listPlaced(values: DocumentValues, standing: Standing = AS_PUT): PlacedPart[] {
  return [...placedIn(values, { path: [], name: '', at: STANDING }, standing)];
}

function* placedIn(values: DocumentValues, above: Pick<PlacedPart, 'path' | 'name' | 'at' | 'colour'>, standing: Standing): Generator<PlacedPart> {
  for (const { id, name, at, instance, component, source } of listShown(values, above.path, standing)) {
    const place = {
      path: [...above.path, id],
      name: above.name === '' ? name : `${above.name}.${name}`,
      at: combine(above.at, at),
      colour: above.colour ?? component.colour,
    };
    const { document } = instance.values;
    if (document.kind === 'assembly') yield* placedIn(instance.values, place, standing);
    else if (document.kind === 'part')
      yield { ...place, key: instance.key, document: complete(document, source), values: instance.values, isMirrored: component.mirrored !== undefined };
  }
}

/** How what the kernel tells of a part is to be read, that stands in a mirrored assembly. */
export interface InMirror {
  /** The plane of its own that its faces are to be thought of as mirrored in: it is alike on both sides, and stands for its image. */
  readonly over?: PlaneName | undefined;
  /** Whether it was mirrored along, or was mirrored before and no longer is. */
  readonly isTurned?: boolean;
}

/** What a path of components leads to. */
export interface PlaceWithin extends InMirror {
  readonly key: InstanceKey;
  readonly at: Stance;
}

/** Where it stands; undefined where it leads nowhere. */
export function placeWithin(values: DocumentValues, path: readonly string[], standing: Standing): PlaceWithin | undefined {
  let inside = values;
  let found: PlaceWithin | undefined;
  for (const [i, id] of path.entries()) {
    const component = findRecord(inside.document, plainId(id), 'component');
    const instance = inside.components instanceof Instances ? inside.components.find(plainId(id)) : undefined;
    if (!component?.at || !instance?.values) return undefined;
    const at = standing(inside, path.slice(0, i)).get(id) ?? component.at;
    found = {
      key: instance.key,
      at: found ? combine(found.at, found.over ? turnOver(found.over, at, found.over) : at) : at,
      ...inMirror(inside.document, component.id, found),
    };
    inside = instance.values;
  }
  return found;
}

/** Of a component of an assembly that is reached in a mirror, or not. */
export function inMirror({ turnedOver }: Document, component: string, above: InMirror | undefined): InMirror {
  const own = turnedOver?.components[component];
  return { over: above?.over ?? (own?.isAsItIs === true ? own.in : undefined), isTurned: own?.isAsItIs === false };
}
