/** A mate as it is being made: its picks, a kind that goes with them, its sense and its values; and the edit that it comes to. */
import { matesFor, thirdFor, type AssemblyPlacement, type MateGeometry } from '@/core/assembly';
import {
  findRecord,
  listRecords,
  mateOwners,
  mateSlots,
  meantNames,
  senseWords,
  takenNames,
  type Document,
  type Edit,
  type EditOf,
  type MateKind,
  type MateRecord,
  nameOfCopy,
  plainId,
  type MateReference,
  type MateSlot,
  type Parameter,
} from '@/core/document';
import { automaticName } from '@/core/formula';
import { cross, dot, type Point3 } from '@/core/geometry';
import { inverse, multiply, relativeTo, rotate, STANDING, type Stance } from '@/core/instances';
import type { MateDraft, MatePick } from '../state/drafts';
import { placesEdit, toPlacement } from '../state/moved-places';
import { splitNamed } from '../state/value-edits';

/** `about`: the component that was selected when it was begun. */
export function newMate(newId: () => string, about?: string): MateDraft {
  return {
    id: newId(),
    about,
    valueIds: [newId(), newId()],
    first: undefined,
    second: undefined,
    third: undefined,
    kind: 'coplanar',
    sense: -1,
    isLimited: false,
    formulas: {},
  };
}

/** The draft with a pick more: the first, the second, then the third where the kind asks for one; one more takes the place of the second. */
export function withPick(draft: MateDraft, pick: MatePick): MateDraft {
  if (!draft.first) return { ...draft, first: pick };
  if (draft.second && wantsThird(draft)) {
    const third = pick.geometry.kind === draft.first.geometry.kind ? pick : undefined;
    return third ? withKind({ ...draft, third }, draft.kind) : draft;
  }
  if (ownerOf(draft.first) === ownerOf(pick)) return { ...draft, first: pick, third: undefined };
  const [first, second] = rankOf(draft.first) < rankOf(pick) ? [pick, draft.first] : [draft.first, pick];
  return withKind({ ...draft, first, second, third: undefined }, matesFor(first.geometry, second.geometry)[0] ?? 'together');
}

/** A plane comes before a line, and a line before a point: mates are told from it. */
function rankOf({ geometry }: MatePick): number {
  return ['point', 'line', 'plane'].indexOf(geometry.kind);
}

function ownerOf({ reference }: MatePick): string {
  return plainId(reference.path[0] ?? '');
}

/** Another kind, with the sense that is usual for it: faces meet, axes run as they do now, gears turn opposite ways, round ones touch from outside, screws are right-handed. */
export function withKind(draft: MateDraft, kind: MateKind): MateDraft {
  const third = needsThird(kind) ? draft.third : undefined;
  const [u, v, w] = [draft.first, draft.second, third].map((pick) => directionOf(pick?.geometry));
  // Faces of material meet; planes of components run as they do now.
  const facesMeet = kind === 'coplanar' && [draft.first, draft.second].every((pick) => pick?.geometry.kind === 'plane' && 'body' in pick.reference);
  const hasUsualSense = kind === 'tangent' || kind === 'screw';
  const follows = kind === 'centred' ? w : v;
  const isAgainst = u !== undefined && follows !== undefined && dot(u, follows) < 0;
  const isOpposed = kind === 'gears' || facesMeet || (isAgainst && !hasUsualSense);
  return { ...draft, third, kind, sense: isOpposed ? -1 : 1, isLimited: false, formulas: {} };
}

function needsThird(kind: MateKind): boolean {
  return kind === 'centred' || kind === 'slot';
}

export function wantsThird({ kind, third }: MateDraft): boolean {
  return needsThird(kind) && !third;
}

/** What is to be picked next, in words; undefined once there is enough. */
export function nextPick(draft: MateDraft): string | undefined {
  if (!draft.first) return 'Click a face, an edge or a corner of a component.';
  if (!draft.second) return 'Click a face, an edge or a corner of another component.';
  return wantsThird(draft) ? `Click ${thirdFor(draft.first.geometry, draft.second.geometry)?.what ?? 'another face'}.` : undefined;
}

export function kindsOf({ first, second }: MateDraft): readonly MateKind[] {
  if (!first || !second) return [];
  const more = thirdFor(first.geometry, second.geometry);
  const kinds = matesFor(first.geometry, second.geometry);
  return more ? [...kinds.filter((kind) => kind !== 'together'), more.kind, 'together'] : kinds;
}

/** What the sense of the draft says, where it makes a difference for what is picked. */
export function senseOf({ kind, first, second, sense }: MateDraft): string | undefined {
  return senseWords(kind, first?.geometry.kind === second?.geometry.kind)?.[sense === 1 ? 0 : 1];
}

/** What the value box of a slot holds before anything is typed: for an angle, the one that there is now. */
export function usualFormula(draft: MateDraft, { slot, initial }: MateSlot): string {
  if (slot !== 'angle') return initial;
  const [u, v] = [directionOf(draft.first?.geometry) ?? Z, directionOf(draft.second?.geometry) ?? Z];
  const degrees = (Math.acos(Math.min(1, Math.max(-1, dot(u, v)))) * 180) / Math.PI;
  return `${Math.round(degrees * 1000) / 1000} deg`;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit that makes the mate; with where everything stands then, once that is known. Undefined while a pick is missing. */
export function mateEdit(
  document: Document,
  draft: MateDraft,
  standing: ReadonlyMap<string, Stance>,
  solved?: Pick<AssemblyPlacement, 'stances' | 'turned'>,
): Edit | undefined {
  const { first, second, third, kind, sense, isLimited } = draft;
  if (!first || !second || wantsThird(draft)) return undefined;
  const name = freeName(document, draft);
  const isTaken = takenNames(document);
  const names = new Set<string>();
  const values = mateSlots({ kind, isLimited }).map((slot, i): readonly [MateSlot, Parameter] => {
    const typed = splitNamed(draft.formulas[slot.slot] ?? usualFormula(draft, slot));
    const free = typed.name ?? automaticName(`${name} ${slot.slot}`, (other) => isTaken(other) || names.has(other));
    names.add(free);
    return [slot, { type: 'parameter', id: draft.valueIds[i] ?? '', owner: draft.id, name: free, formula: { text: typed.formula }, kind: slot.kind }];
  });
  const frame = bodyAt(standing, first.reference);
  const mate: MateRecord = {
    type: 'mate',
    id: draft.id,
    name,
    kind,
    first: first.reference,
    second: second.reference,
    ...(third ? { third: third.reference } : {}),
    sense,
    values: Object.fromEntries(values.map(([{ slot }, { id }]) => [slot, id])),
    ...(isLimited ? { isLimited } : {}),
    ...(kind === 'angle' ? { about: aboutOf(draft, frame) } : {}),
    ...(kind === 'together' || kind === 'screw' ? { within: toPlacement(relativeTo(frame, bodyAt(standing, second.reference))) } : {}),
    ...(kind === 'gears' ? gearing(document, [first.reference, second.reference], standing) : {}),
  };
  const edits: SingleEdit[] = [{ type: 'mate.put', mate, values: values.map(([, value]) => value) }];
  for (const [, { id, formula }] of values) {
    edits.push({ type: 'parameter.setFormula', id, formula: { text: formula.text, names: meantNames(document, formula.text) } });
  }
  const places = solved && placesEdit(document, solved);
  if (places) edits.push(places);
  const [only] = edits;
  return edits.length > 1 || !only ? { type: 'batch', edits } : only;
}

const Z: Point3 = [0, 0, 1];

/** Where the body stands that a mate moves: the component, or what is in it where that moves by itself. */
function bodyAt(standing: ReadonlyMap<string, Stance>, { path }: MateReference): Stance {
  for (let length = path.length; length > 0; length--) {
    const found = standing.get(path.slice(0, length).join(' '));
    if (found) return found;
  }
  return STANDING;
}

/** What two gears turn in, and how they stand in it: the component that mates hold both of them to, or the assembly. */
function gearing(document: Document, on: readonly [MateReference, MateReference], standing: ReadonlyMap<string, Stance>): Pick<MateRecord, 'third' | 'starts'> {
  const [one, two] = on.map(({ path }) => {
    const owner = path[0] === undefined ? undefined : plainId(path[0]);
    const mates = listRecords(document, 'mates', 'mate').map(mateOwners);
    return new Set(mates.filter((owners) => owners.includes(owner)).flatMap((owners) => owners.filter((id) => id !== owner)));
  });
  const shared = [...(one ?? [])].find((id) => id !== undefined && two?.has(id) === true);
  const third: MateReference = { path: shared === undefined ? [] : [shared], plane: 'top' };
  const around = inverse(bodyAt(standing, third).turn);
  const [first, second] = on.map((reference) => [...multiply(around, bodyAt(standing, reference).turn)] as [number, number, number, number]);
  return first && second ? { third, starts: [first, second] } : { third };
}

/** The direction that an angle is about, in the space of the first: across both directions as they stand. */
function aboutOf({ first, second }: MateDraft, frame: Stance): [number, number, number] {
  const [u, v] = [directionOf(first?.geometry) ?? Z, directionOf(second?.geometry) ?? Z];
  const across = [cross(u, v), cross(u, [1, 0, 0]), cross(u, [0, 1, 0])].find((one) => Math.hypot(...one) > 1e-6) ?? Z;
  const length = Math.hypot(...across);
  const unit: Point3 = [across[0] / length, across[1] / length, across[2] / length];
  return [...rotate(inverse(frame.turn), unit)];
}

function directionOf(geometry: MateGeometry | undefined): Point3 | undefined {
  return geometry?.kind === 'plane' ? geometry.normal : geometry?.kind === 'line' ? geometry.direction : undefined;
}

/** `pawl on ratchet_wheel`, then `pawl on ratchet_wheel 2`. */
function freeName(document: Document, { id, first, second }: MateDraft): string {
  const nameOf = (pick: MatePick | undefined): string => {
    const [owner = ''] = pick?.reference.path ?? [];
    const component = findRecord(document, plainId(owner), 'component');
    return component ? nameOfCopy(component, owner) : 'the assembly';
  };
  const base = `${nameOf(second)} on ${nameOf(first)}`.slice(0, 70);
  const names = new Set(listRecords(document, 'mates', 'mate').flatMap((mate) => (mate.id === id ? [] : mate.name)));
  let name = base;
  for (let n = 2; names.has(name); n++) name = `${base} ${n}`;
  return name;
}
