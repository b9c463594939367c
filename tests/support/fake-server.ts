/** A server that keeps one document and its log in memory and applies the same edits, and what a browser keeps of them. */
import type { DocumentReply, Envelope, LoggedEdit, PictureReply, PostEdits } from '@/contract';
import { applyEdit, takeContentsOut, type Document } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import type { ApiFailure } from '@/ui/state/api';
import type { PendingStore, RefusedEdit } from '@/ui/state/pending-store';

export class FakeServer {
  readonly log: LoggedEdit[] = [];
  isDown = false;

  constructor(public document: Document) {}

  reply(): DocumentReply {
    return {
      project: { id: 'p', name: 'P', material: '' },
      document: this.document,
      snapshots: {},
      seq: this.log.length,
      revision: 1,
      savedSeq: 0,
      behind: [],
      unsavedSources: [],
      history: [...this.log],
    };
  }

  apply(sent: Envelope): Result<LoggedEdit, string> {
    // Contents of files are kept apart, as the real one does.
    const envelope = takeContentsOut(sent).data;
    const result = applyEdit(this.document, envelope.edit);
    if (!result.ok) return fail(result.failure.message);
    this.document = result.value.document;
    const logged = { ...envelope, seq: this.log.length + 1, inverse: result.value.inverse };
    this.log.push(logged);
    return succeed(logged);
  }

  readonly api = {
    postEdits: (_: string, { base, envelopes }: PostEdits): Promise<Result<{ seq: number; edits: LoggedEdit[] }, ApiFailure>> => {
      if (this.isDown) return Promise.resolve(fail({ code: 'no-answer', message: 'down' }));
      if (base !== this.log.length) return Promise.resolve(fail({ code: 'stale', message: 'stale', edits: this.log.slice(base), seq: this.log.length }));
      const done: LoggedEdit[] = [];
      for (const envelope of envelopes) {
        const logged = this.apply(envelope);
        if (!logged.ok) return Promise.resolve(fail({ code: 'edit-refused', message: logged.failure, key: envelope.key }));
        done.push(logged.value);
      }
      return Promise.resolve(succeed({ seq: this.log.length, edits: done }));
    },
    readEdits: (_: string, after: number) => Promise.resolve(succeed({ seq: this.log.length, edits: this.log.slice(after) })),
    saveRevision: () => Promise.resolve(succeed({ revision: 2, followed: [], asked: [], nowBehind: [] })),
    readStanding: () => Promise.resolve(succeed({ seq: this.log.length, savedSeq: 0, revision: 1, behind: [], unsavedSources: [] })),
    readPicture: (): Promise<Result<PictureReply, ApiFailure>> => Promise.resolve(fail({ code: 'not-found', message: 'none' })),
    readRevision: () => Promise.resolve(fail({ code: 'no-answer' as const, message: 'down' })),
    askOutside: () => Promise.resolve(succeed({ failures: [] })),
  };
}

/** What a browser keeps, shared by its tabs. */
export function memoryStore(): PendingStore & { readonly kept: readonly Envelope[]; readonly refused: readonly RefusedEdit[] } {
  const entries = new Map<string, { readonly envelope: Envelope; readonly reason?: string }>();
  const put = (envelope: Envelope, more: { readonly reason?: string } = {}) => {
    entries.set(envelope.key, { envelope, ...more });
    return Promise.resolve();
  };
  const pending = () => [...entries.values()].flatMap(({ envelope, reason }) => (reason === undefined ? envelope : []));
  const refused = () => [...entries.values()].flatMap(({ envelope, reason }) => (reason === undefined ? [] : { envelope, reason }));
  return {
    get kept() {
      return pending();
    },
    get refused() {
      return refused();
    },
    load: () => Promise.resolve({ pending: pending(), refused: refused() }),
    keep: (_, envelope) => put(envelope),
    refuse: (_, { envelope, reason }) => put(envelope, { reason }),
    drop: (keys) => {
      for (const key of keys) entries.delete(key);
      return Promise.resolve();
    },
  };
}
