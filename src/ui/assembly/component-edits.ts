/** What is done with components, as edits. */
import {
  copyId,
  copyNumber,
  findRecord,
  hasShape,
  listRecords,
  mateOwners,
  meantNames,
  plainId,
  takenNames,
  type Component,
  type ComponentPattern,
  type Document,
  type Drive,
  type Edit,
  type EditOf,
  type MateReference,
  type Parameter,
  type Placement,
} from '@/core/document';
import { multiply, normalise, turnAbout } from '@/core/instances';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';

/** A document at a revision, to be put into an assembly. */
export interface ChosenDocument {
  readonly document: Document;
  readonly revision: number;
  readonly hash: string;
  /** How far it reaches from its origin along x, to both sides, in millimetres; unknown while it has not been built. */
  readonly reach?: readonly [from: number, to: number];
}

/** Millimetres between what is put down and what stands there already. */
const GAP = 20;
const UNKNOWN_REACH = [0, 100] as const;

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/**
 * Puts documents into an assembly, each under a free name after its own: the first part that has a place is anchored where it stands, the
 * others are put down beside everything, from `from` millimetres along x. A document without geometry sets values for the others.
 */
export function addComponents(
  document: Document,
  chosen: readonly ChosenDocument[],
  from: number,
): { readonly edit: Edit; readonly ids: readonly string[] } | undefined {
  const isTaken = takenNames(document);
  const names = new Set<string>();
  let hasPlaced = listRecords(document, 'components', 'component').some(({ at }) => at !== undefined);
  let x = from;
  const edits = chosen.map(({ document: source, revision, hash, reach: [low, high] = UNKNOWN_REACH }): SingleEdit => {
    const name = freeName(source.name, (other) => isTaken(other) || names.has(other));
    names.add(name);
    const component: Component = { type: 'component', id: newId(), name, source: source.id, sourceName: source.name, policy: 'ask', revision, hash };
    if (!hasShape(source)) return { type: 'component.put', component };
    const at: Placement = { origin: [hasPlaced ? x - low : 0, 0, 0], turn: [1, 0, 0, 0] };
    x = at.origin[0] + high + GAP;
    const placed = { ...component, at, ...(hasPlaced ? {} : { isAnchored: true }) };
    hasPlaced = true;
    return { type: 'component.put', component: placed };
  });
  const [first] = edits;
  if (!first) return undefined;
  const ids = edits.flatMap((edit) => (edit.type === 'component.put' ? edit.component.id : []));
  return { edit: edits.length > 1 ? { type: 'batch', edits } : first, ids };
}

/** Where something new may stand free of what is there: beyond the largest x of all corners, in millimetres. */
export function freePlace(largest: number | undefined): number {
  return largest === undefined ? 0 : Math.ceil(largest / GAP) * GAP + GAP;
}

export function moveTo(component: Component, axis: 0 | 1 | 2, millimetres: number): Edit | undefined {
  const { at, id } = component;
  if (!at) return undefined;
  const origin: [number, number, number] = [...at.origin];
  origin[axis] = millimetres;
  return { type: 'component.place', places: { [id]: { ...at, origin } } };
}

const AXES = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
] as const;

/** Turned about an axis of the assembly through its own origin, by degrees. */
export function turnBy(component: Component, axis: 0 | 1 | 2, degrees: number): Edit | undefined {
  const { at, id } = component;
  if (!at) return undefined;
  const turn = normalise(multiply(turnAbout(AXES[axis], (degrees * Math.PI) / 180), at.turn));
  return { type: 'component.place', places: { [id]: { origin: at.origin, turn: [...turn] } } };
}

/** Sets a value of a component by a formula of the assembly, or by another one. */
export function setFromHere(document: Document, wanted: Pick<Drive, 'component' | 'path' | 'sourceName'>, text: string): Edit {
  const known = findDrive(document, wanted.component, wanted.path);
  const drive: Drive = { type: 'drive', id: known?.id ?? newId(), ...wanted, formula: { text } };
  return { type: 'drive.put', drive, names: meantNames(document, text) };
}

/** The drive of that value, if it is set from here. */
export function findDrive(document: Document, component: string, path: readonly string[]): Drive | undefined {
  return listRecords(document, `${component}/drives`, 'drive').find((drive) => drive.path.join(' ') === path.join(' '));
}

/**
 * Copies of components with what is set in them and the mates between them, standing to one another as these do: the least along x of their origins comes
 * to stand `from` millimetres along it. Mates to others are not copied. Undefined where none is there.
 */
export function copyComponents(document: Document, ids: readonly string[], from: number): { readonly edit: Edit; readonly ids: readonly string[] } | undefined {
  const components = ids.flatMap((id) => findRecord(document, id, 'component') ?? []);
  const [first] = components;
  if (!first) return undefined;
  const isTaken = takenNames(document);
  const names = new Set<string>();
  const fresh = (base: string): string => {
    const name = freeName(base, (other) => isTaken(other) || names.has(other));
    names.add(name);
    return name;
  };
  const copyOf = new Map(components.map(({ id }) => [id, newId()]));
  const least = Math.min(...components.flatMap(({ at }) => at?.origin[0] ?? []));
  const values = (owner: string, copy: string): ReadonlyMap<string, Parameter> =>
    new Map(
      listRecords(document, `${owner}/values`, 'parameter').map((value) => [
        value.id,
        { ...value, id: newId(), owner: copy, name: fresh(value.name.replace(/_\d+$/, '')), formula: { text: value.formula.text } },
      ]),
    );
  const edits: SingleEdit[] = [];
  const formulas: Parameter[] = [];
  let after = components.at(-1)?.id ?? first.id;
  for (const component of components) {
    const { isAnchored: _, pattern, ...free } = component;
    const id = copyOf.get(component.id) ?? '';
    const at = free.at && { ...free.at, origin: [free.at.origin[0] - least + from, free.at.origin[1], free.at.origin[2]] as [number, number, number] };
    edits.push({ type: 'component.put', component: { ...free, id, name: fresh(component.name.replace(/_\d+$/, '')), ...(at ? { at } : {}) }, after });
    after = id;
    for (const drive of listRecords(document, `${component.id}/drives`, 'drive'))
      edits.push({ type: 'drive.put', drive: { ...drive, id: newId(), component: id }, names: meantNames(document, drive.formula.text) });
    if (!pattern) continue;
    const own = values(component.id, id);
    edits.push({ type: 'component.repeat', id, pattern: withCopied(pattern, own, copyOf), values: [...own.values()] });
    formulas.push(...own.values());
  }
  for (const mate of listRecords(document, 'mates', 'mate')) {
    if (!mateOwners(mate).every((owner) => owner === undefined || copyOf.has(owner)) || mateOwners(mate).includes(undefined)) continue;
    const id = newId();
    const own = values(mate.id, id);
    const moved = ({ path: [owner = '', ...below], ...reference }: MateReference): MateReference => {
      const copy = copyId(copyOf.get(plainId(owner)) ?? '', copyNumber(owner));
      return { ...reference, path: [copy, ...below] };
    };
    const { first: one, second, third } = mate;
    const kept = Object.fromEntries(Object.entries(mate.values).flatMap(([slot, value]) => (own.get(value) ? [[slot, own.get(value)?.id ?? '']] : [])));
    edits.push({
      type: 'mate.put',
      mate: {
        ...mate,
        id,
        name: freeMateName(document, mate.name, names),
        first: moved(one),
        second: moved(second),
        ...(third ? { third: moved(third) } : {}),
        values: kept,
      },
      values: [...own.values()],
    });
    formulas.push(...own.values());
  }
  for (const { id, formula } of formulas)
    edits.push({ type: 'parameter.setFormula', id, formula: { text: formula.text, names: meantNames(document, formula.text) } });
  return { edit: { type: 'batch', edits }, ids: [...copyOf.values()] };
}

/** A pattern with the values of a copy, along what was copied where that was. */
function withCopied(pattern: ComponentPattern, values: ReadonlyMap<string, Parameter>, copyOf: ReadonlyMap<string, string>): ComponentPattern {
  const along = <T extends { readonly path: readonly string[] }>(one: T): T => ({
    ...one,
    path: one.path.map((id, i) => (i === 0 ? (copyOf.get(id) ?? id) : id)),
  });
  if (pattern.form === 'followed') return { ...pattern, along: along(pattern.along) };
  const valueOf = (id: string): string => values.get(id)?.id ?? id;
  return {
    ...pattern,
    along: 'path' in pattern.along ? along(pattern.along) : pattern.along,
    values: { count: valueOf(pattern.values.count), span: valueOf(pattern.values.span) },
  };
}

function freeMateName(document: Document, name: string, taken: Set<string>): string {
  const base = name.replace(/ \d+$/, '');
  const names = new Set([...listRecords(document, 'mates', 'mate').map((mate) => mate.name), ...taken]);
  let free = base;
  for (let n = 2; names.has(free); n++) free = `${base} ${n}`;
  taken.add(free);
  return free;
}
