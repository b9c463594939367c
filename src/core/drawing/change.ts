/** Changing what is drawn: what a change needs, and what it gives. */
import type { Document, Edit, EditOf, Readers } from '../document';
import { fail, succeed, type Result } from '../kit';
import type { DrawnShape } from './drawn-shape';

export interface ChangeContext {
  readonly document: Document;
  readonly sketch: string;
  readonly shape: DrawnShape;
  readonly newId: () => string;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit, for a choice of what becomes of formulas that read dimensions which it erases. */
export type Change = (readers: Readers) => EditOf<'batch'>;

/** The change, or why it cannot be made, in words. */
export type ChangeResult = Result<Change, string>;

export function change(make: (readers: Readers) => readonly SingleEdit[]): ChangeResult {
  return succeed((readers) => ({ type: 'batch', edits: [...make(readers)] }));
}

export function refuseChange(words: string): ChangeResult {
  return fail(words);
}
