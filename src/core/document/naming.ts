/** The one name space of a document. */
import { checkName } from '../formula';
import { hasName } from './access';
import type { Draft } from './draft';
import type { EditFailure } from './edit-failure';
import type { Document } from './schema';

/** Tells the names of a document, but for that of `exceptId`. Built once, for many questions. */
export function takenNames(document: Document, exceptId?: string): (name: string) => boolean {
  const names = new Set(Object.values(document.records).flatMap((record) => (hasName(record) && record.id !== exceptId ? record.name : [])));
  return (name) => names.has(name);
}

/** Why the record `id` cannot have that name, or undefined if it can. */
export function claimName(draft: Draft, id: string, name: string): EditFailure | undefined {
  const problem = checkName(name, takenNames(draft.document, id));
  if (!problem) return undefined;
  return { code: 'bad-name', message: problem.message, ...(problem.repairs ? { repairs: problem.repairs } : {}) };
}
