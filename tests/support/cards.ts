/** Documents and values of a project as a server would list them, for tests of components. */
import type { DocumentCard, OfferedValue, OffersReply, ProjectReply } from '@/contract';

export const card = (id: string, name: string, kind: DocumentCard['kind']): DocumentCard => ({
  id,
  name,
  kind,
  revision: 1,
  unsavedEdits: 0,
  behind: 0,
  failing: 0,
  brokenGuards: 0,
  links: [],
  bodies: [],
  hasThumbnail: false,
});

export const projectOf = (...documents: readonly DocumentCard[]): ProjectReply => ({ id: 'p', name: 'P', material: '', documents, broken: [], deleted: [] });

/** A length that is offered, under an id `s-<name>`. */
export const offeredLength = (name: string, millimetres: number, isOffered = true): OfferedValue => ({
  id: `s-${name}`,
  name,
  shown: `${millimetres} mm`,
  value: { kind: 'quantity', dimension: 'length=1', value: millimetres * 10_000, unit: 'mm' },
  isOffered,
  isPinned: false,
});

export const offersOf = (id: string, name: string, ...values: readonly OfferedValue[]): OffersReply => ({
  id,
  name,
  revision: 3,
  hash: 'h',
  unsavedEdits: 0,
  values,
  notSaved: [],
});
