/**
 * A document under change: collects exact operations, each with what it replaces, so that the inverse and
 * the difference fall out of the list. Nothing of the original is touched.
 */
import type { GeneralClass } from '../tolerance';
import { fail, sameData, succeed, type Result } from '../kit';
import { findAny, listIds } from './access';
import type { EditFailure } from './edit-failure';
import { isSameFile } from './file-content';
import type { PatchOp } from './edit-schema';
import type { Document, DocumentRecord } from './schema';

export interface RecordChange {
  readonly id: string;
  readonly before: DocumentRecord | null;
  readonly after: DocumentRecord | null;
}

export type DocumentField = 'name' | 'units' | 'general';

/** What an edit changed: the net change of each record, the lists, and the document's own fields. */
export interface DocumentDiff {
  readonly records: readonly RecordChange[];
  readonly lists: readonly string[];
  readonly fields: readonly DocumentField[];
}

export interface Applied {
  readonly document: Document;
  /** The patch that takes it all back. */
  readonly inverse: { readonly type: 'patch'; readonly ops: PatchOp[] };
  readonly diff: DocumentDiff;
}

export class Draft {
  private current: Document;
  private readonly ops: PatchOp[] = [];
  private readonly touched = new Map<string, DocumentRecord | null>();
  private ownsRecords = false;

  constructor(readonly original: Document) {
    this.current = original;
  }

  get document(): Document {
    return this.current;
  }

  /** Adds, replaces or (with null) drops a record. Writing an equal record is no change. */
  put(id: string, after: DocumentRecord | null): void {
    const before = findAny(this.current, id) ?? null;
    if (sameData(before, after)) return;
    if (!this.touched.has(id)) this.touched.set(id, before);
    this.ops.push({ op: 'put', id, before, after });
    if (!this.ownsRecords) {
      this.current = { ...this.current, records: { ...this.current.records } };
      this.ownsRecords = true;
    }
    const records = this.current.records as Record<string, DocumentRecord>;
    if (after === null) Reflect.deleteProperty(records, id);
    else records[id] = after;
  }

  /** Puts an id into a list behind `after`; null for the head, undefined for the end. */
  insert(list: string, id: string, after?: string | null): void {
    const ids = listIds(this.current, list);
    const at = after === undefined ? ids.length : after === null ? 0 : ids.indexOf(after) + 1;
    const place = after !== undefined && after !== null && at === 0 ? ids.length : at;
    this.setList(list, [...ids.slice(0, place), id, ...ids.slice(place)]);
    this.ops.push({ op: 'insert', list, id, after: ids[place - 1] ?? null });
  }

  removeFromList(list: string, id: string): void {
    const ids = listIds(this.current, list);
    const at = ids.indexOf(id);
    if (at < 0) return;
    this.setList(
      list,
      ids.filter((other) => other !== id),
    );
    this.ops.push({ op: 'remove', list, id, after: ids[at - 1] ?? null });
  }

  setName(after: string): void {
    const before = this.current.name;
    if (before === after) return;
    this.current = { ...this.current, name: after };
    this.ops.push({ op: 'name', before, after });
  }

  setUnits(after: Document['units']): void {
    const before = this.current.units;
    if (sameData(before, after)) return;
    this.current = { ...this.current, units: after };
    this.ops.push({ op: 'units', before, after });
  }

  /** The class of general tolerances; null for none. */
  setGeneral(after: GeneralClass | null): void {
    const { general, ...rest } = this.current;
    const before = general ?? null;
    if (before === after) return;
    this.current = after === null ? rest : { ...rest, general: after };
    this.ops.push({ op: 'general', before, after });
  }

  /** Replays exact operations; refused at the first one whose `before` is not what is there. */
  replay(ops: readonly PatchOp[]): Result<undefined, EditFailure> {
    for (const op of ops) {
      switch (op.op) {
        case 'put':
          if (!isSame(findAny(this.current, op.id) ?? null, op.before)) return fail(changedSince(op.before ?? op.after));
          this.put(op.id, op.after);
          break;
        case 'insert':
          if (listIds(this.current, op.list).includes(op.id)) return fail(changedSince(null));
          this.insert(op.list, op.id, op.after);
          break;
        case 'remove':
          if (!listIds(this.current, op.list).includes(op.id)) return fail(changedSince(null));
          this.removeFromList(op.list, op.id);
          break;
        case 'name':
          if (this.current.name !== op.before) return fail(changedSince(null));
          this.setName(op.after);
          break;
        case 'units':
          if (!sameData(this.current.units, op.before)) return fail(changedSince(null));
          this.setUnits(op.after);
          break;
        case 'general':
          if ((this.current.general ?? null) !== op.before) return fail(changedSince(null));
          this.setGeneral(op.after);
          break;
      }
    }
    return succeed(undefined);
  }

  finish(): Applied {
    const records = [...this.touched].map(([id, before]) => ({ id, before, after: findAny(this.current, id) ?? null }));
    const lists = new Set(this.ops.flatMap((op) => (op.op === 'insert' || op.op === 'remove' ? [op.list] : [])));
    const fields = new Set(this.ops.flatMap((op) => (op.op === 'name' || op.op === 'units' || op.op === 'general' ? [op.op] : [])));
    return {
      document: this.current,
      inverse: { type: 'patch', ops: this.ops.map(invertOp).reverse() },
      diff: { records: records.filter((change) => !sameData(change.before, change.after)), lists: [...lists], fields: [...fields] },
    };
  }

  private setList(list: string, ids: readonly string[]): void {
    const lists = { ...this.current.lists };
    if (ids.length === 0) Reflect.deleteProperty(lists, list);
    else lists[list] = ids;
    this.current = { ...this.current, lists };
  }
}

function invertOp(op: PatchOp): PatchOp {
  switch (op.op) {
    case 'put':
      return { ...op, before: op.after, after: op.before };
    case 'insert':
      return { ...op, op: 'remove' };
    case 'remove':
      return { ...op, op: 'insert' };
    case 'name':
      return { ...op, before: op.after, after: op.before };
    case 'units':
      return { ...op, before: op.after, after: op.before };
    case 'general':
      return { ...op, before: op.after, after: op.before };
  }
}

function changedSince(record: DocumentRecord | null): EditFailure {
  const what = record && 'name' in record ? record.name : 'This';
  return { code: 'changed-since', message: `${what} was changed since; nothing was undone.` };
}

/** A file is the same whether a record holds its content or, as a server gives it back, the hash of it. */
function isSame(one: DocumentRecord | null, other: DocumentRecord | null): boolean {
  return one?.type === 'file' && other?.type === 'file' ? isSameFile(one, other) : sameData(one, other);
}
