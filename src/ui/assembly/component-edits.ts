/** What is done with components, as edits. */
import {
  findRecord,
  hasShape,
  listRecords,
  meantNames,
  takenNames,
  type Component,
  type Document,
  type Drive,
  type Edit,
  type EditOf,
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

/** Another component of the same document with the same values, beside it. */
export function copyComponent(document: Document, id: string, from: number): Edit | undefined {
  const component = findRecord(document, id, 'component');
  if (!component) return undefined;
  const copy: Component = {
    ...component,
    id: newId(),
    name: freeName(component.name.replace(/_\d+$/, ''), takenNames(document)),
    ...(component.at ? { at: { ...component.at, origin: [from, component.at.origin[1], component.at.origin[2]] } } : {}),
  };
  const drives = listRecords(document, `${id}/drives`, 'drive').map((drive): SingleEdit => ({
    type: 'drive.put',
    drive: { ...drive, id: newId(), component: copy.id },
    names: meantNames(document, drive.formula.text),
  }));
  const { isAnchored: _, ...free } = copy;
  return { type: 'batch', edits: [{ type: 'component.put', component: free, after: id }, ...drives] };
}
