/** A mate as it is being made: two picks, a kind that goes with them, its sense and its value; and the edit that it comes to. */
import { matesFor, type MateGeometry } from '@/core/assembly';
import {
  findRecord,
  listRecords,
  mateSlots,
  meantNames,
  takenNames,
  type Document,
  type Edit,
  type EditOf,
  type MateKind,
  type MateRecord,
  type MateReference,
  type Parameter,
} from '@/core/document';
import { automaticName } from '@/core/formula';
import { cross, dot, type Point3 } from '@/core/geometry';
import { inverse, relativeTo, rotate, STANDING, type Stance } from '@/core/instances';
import { placesEdit, toPlacement } from '../state/moved-places';
import { splitNamed } from '../state/value-edits';

/** A face, an edge or a plane that was picked, where it stands in the assembly. */
export interface MatePick {
  readonly reference: MateReference;
  readonly geometry: MateGeometry;
  /** `side_frame: face` in words. */
  readonly words: string;
}

export interface MateDraft {
  readonly id: string;
  /** Id of its value, should it have one. */
  readonly valueId: string;
  readonly first: MatePick | undefined;
  readonly second: MatePick | undefined;
  readonly kind: MateKind;
  readonly sense: 1 | -1;
  /** What stands in the value box: a formula, or `name = formula`; the usual one where nothing was typed. */
  readonly formula: string | undefined;
}

export function newMate(newId: () => string): MateDraft {
  return { id: newId(), valueId: newId(), first: undefined, second: undefined, kind: 'coplanar', sense: -1, formula: undefined };
}

/** The draft with a pick more: the first, then the second; a third takes the place of the second. */
export function withPick(draft: MateDraft, pick: MatePick): MateDraft {
  if (!draft.first) return { ...draft, first: pick };
  if (draft.first.reference.path[0] === pick.reference.path[0]) return { ...draft, first: pick };
  // A plane comes before a line or a point: mates are told from it.
  const isSwapped = draft.first.geometry.kind !== 'plane' && pick.geometry.kind === 'plane';
  const [first, second] = isSwapped ? [pick, draft.first] : [draft.first, pick];
  return withKind({ ...draft, first, second }, matesFor(first.geometry, second.geometry)[0] ?? 'together');
}

/** Another kind, with the sense that is usual for it: faces meet, axes run as they do now. */
export function withKind(draft: MateDraft, kind: MateKind): MateDraft {
  const [u, v] = [directionOf(draft.first?.geometry), directionOf(draft.second?.geometry)];
  const facesMeet = kind === 'coplanar' && draft.second?.geometry.kind === 'plane';
  const sense = facesMeet ? -1 : u && v && dot(u, v) < 0 ? -1 : 1;
  return { ...draft, kind, sense, formula: undefined };
}

export function kindsOf({ first, second }: MateDraft): readonly MateKind[] {
  return first && second ? matesFor(first.geometry, second.geometry) : [];
}

/** Whether the sense makes a difference for what is picked. */
export function hasSense({ kind, second }: MateDraft): boolean {
  return kind === 'coaxial' || kind === 'parallel' || (kind === 'coplanar' && second?.geometry.kind === 'plane');
}

/** What the value box holds before anything is typed: for an angle, the one that there is now. */
export function usualFormula(draft: MateDraft): string {
  const [slot] = mateSlots(draft.kind);
  if (!slot) return '';
  if (slot.slot !== 'angle') return slot.initial;
  const degrees =
    (Math.acos(Math.min(1, Math.max(-1, dot(directionOf(draft.first?.geometry) ?? Z, directionOf(draft.second?.geometry) ?? Z)))) * 180) / Math.PI;
  return `${Math.round(degrees * 1000) / 1000} deg`;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit that makes the mate; with where everything stands then, once that is known. Undefined while a pick is missing. */
export function mateEdit(document: Document, draft: MateDraft, standing: ReadonlyMap<string, Stance>, solved?: ReadonlyMap<string, Stance>): Edit | undefined {
  const { first, second, kind, sense } = draft;
  if (!first || !second) return undefined;
  const name = freeName(document, draft);
  const [slot] = mateSlots(kind);
  const typed = splitNamed(draft.formula ?? usualFormula(draft));
  const value: Parameter | undefined = slot && {
    type: 'parameter',
    id: draft.valueId,
    owner: draft.id,
    name: typed.name ?? automaticName(`${name} ${slot.slot}`, takenNames(document)),
    formula: { text: typed.formula },
    kind: slot.kind,
  };
  const frame = standing.get(first.reference.path[0] ?? '');
  const mate: MateRecord = {
    type: 'mate',
    id: draft.id,
    name,
    kind,
    first: first.reference,
    second: second.reference,
    sense,
    values: value && slot ? { [slot.slot]: value.id } : {},
    ...(kind === 'angle' ? { about: aboutOf(draft, frame) } : {}),
    ...(kind === 'together' ? { within: toPlacement(relativeTo(frame ?? STANDING, standing.get(second.reference.path[0] ?? '') ?? STANDING)) } : {}),
  };
  const edits: SingleEdit[] = [{ type: 'mate.put', mate, values: value ? [value] : [] }];
  if (value) edits.push({ type: 'parameter.setFormula', id: value.id, formula: { text: typed.formula, names: meantNames(document, typed.formula) } });
  const places = solved && placesEdit(document, solved);
  if (places) edits.push(places);
  const [only] = edits;
  return edits.length > 1 || !only ? { type: 'batch', edits } : only;
}

const Z: Point3 = [0, 0, 1];

/** The direction that an angle is about, in the space of the first: across both directions as they stand. */
function aboutOf({ first, second }: MateDraft, frame: Stance | undefined): [number, number, number] {
  const [u, v] = [directionOf(first?.geometry) ?? Z, directionOf(second?.geometry) ?? Z];
  const across = [cross(u, v), cross(u, [1, 0, 0]), cross(u, [0, 1, 0])].find((one) => Math.hypot(...one) > 1e-6) ?? Z;
  const length = Math.hypot(...across);
  const unit: Point3 = [across[0] / length, across[1] / length, across[2] / length];
  return [...(frame ? rotate(inverse(frame.turn), unit) : unit)];
}

function directionOf(geometry: MateGeometry | undefined): Point3 | undefined {
  return geometry?.kind === 'plane' ? geometry.normal : geometry?.kind === 'line' ? geometry.direction : undefined;
}

/** `pawl on ratchet_wheel`, then `pawl on ratchet_wheel 2`. */
function freeName(document: Document, { id, first, second }: MateDraft): string {
  const nameOf = (pick: MatePick | undefined): string => findRecord(document, pick?.reference.path[0] ?? '', 'component')?.name ?? 'the assembly';
  const base = `${nameOf(second)} on ${nameOf(first)}`.slice(0, 70);
  const names = new Set(listRecords(document, 'mates', 'mate').flatMap((mate) => (mate.id === id ? [] : mate.name)));
  let name = base;
  for (let n = 2; names.has(name); n++) name = `${base} ${n}`;
  return name;
}
