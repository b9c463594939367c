/**
 * The edits that an open document is made of: *confirmed* is the document as the server has it, *pending* are edits that were made here and are not
 * acknowledged. No store, no server; what follows from a change is its owner's.
 */
import type { DocumentReply, Envelope, LoggedEdit } from '@/contract';
import { applyEdit, type Document, type Edit } from '@/core/document';
import { findUndoStacks, type RevertibleEdit, type UndoStacks } from './undo';

export interface PendingEdit {
  readonly envelope: Envelope;
  /** What takes it back, from the document as it is with all before it. */
  readonly inverse: Edit;
}

export class EditLog {
  private document: Document;
  private lastSeq: number;
  private readonly log: RevertibleEdit[];
  private waiting: readonly PendingEdit[] = [];
  /** The number of the last edit that is in a revision. */
  savedSeq: number;

  constructor({ document, seq, savedSeq, history }: Pick<DocumentReply, 'document' | 'seq' | 'savedSeq' | 'history'>) {
    this.document = document;
    this.lastSeq = seq;
    this.savedSeq = savedSeq;
    this.log = [...history];
  }

  get confirmed(): Document {
    return this.document;
  }

  /** The number of the last edit that is confirmed. */
  get seq(): number {
    return this.lastSeq;
  }

  get pending(): readonly PendingEdit[] {
    return this.waiting;
  }

  /** How many edits no revision has yet. */
  get unsaved(): number {
    return this.lastSeq - this.savedSeq + this.waiting.length;
  }

  isConfirmed(key: string): boolean {
    return this.log.some((edit) => edit.key === key);
  }

  add(edit: PendingEdit): void {
    this.waiting = [...this.waiting, edit];
  }

  /** Takes what the server answered to `sent`, up to its number; whether there were edits of others among them. */
  acknowledge(sent: ReadonlySet<string>, edits: readonly LoggedEdit[], seq: number): boolean {
    this.drop(sent);
    for (const edit of edits) this.confirm(edit);
    this.lastSeq = seq;
    return edits.some(({ key }) => !sent.has(key));
  }

  /** Takes edits that the server has beyond those confirmed; the keys of all that were missed. */
  takeIn(edits: readonly LoggedEdit[]): ReadonlySet<string> {
    const missed = edits.filter(({ seq }) => seq > this.lastSeq);
    const keys = new Set(missed.map(({ key }) => key));
    this.drop(keys);
    for (const edit of missed) this.confirm(edit);
    return keys;
  }

  /** Takes one out of those that are pending; undefined where it is none of them. */
  withdraw(key: string): Envelope | undefined {
    const entry = this.waiting.find(({ envelope }) => envelope.key === key);
    this.waiting = this.waiting.filter((other) => other !== entry);
    return entry?.envelope;
  }

  /** Takes out all that are pending, to be made anew upon what is confirmed. */
  withdrawAll(): Envelope[] {
    const envelopes = this.waiting.map(({ envelope }) => envelope);
    this.waiting = [];
    return envelopes;
  }

  /** All edits, the newest last. */
  all(): RevertibleEdit[] {
    return [...this.log, ...this.waiting.map(({ envelope, inverse }) => ({ ...envelope, inverse }))];
  }

  undoStacks(author: string): UndoStacks {
    return findUndoStacks(this.all(), author);
  }

  private drop(keys: ReadonlySet<string>): void {
    this.waiting = this.waiting.filter(({ envelope }) => !keys.has(envelope.key));
  }

  private confirm(edit: LoggedEdit): void {
    const result = applyEdit(this.document, edit.edit);
    if (result.ok) this.document = result.value.document;
    this.lastSeq = Math.max(this.lastSeq, edit.seq);
    this.log.push(edit);
  }
}
