/**
 * One open document in the browser: its state, the edits on their way to the server, undo, and
 * live notices. No React; components read {@link DocumentSession.store}.
 *
 * Vocabulary: *confirmed* is the document as the server has it; *pending* are envelopes applied here but not
 * acknowledged; the *present* document is confirmed plus pending. A stale edit is rebased: what was missed
 * is applied to confirmed, pending again on top; what no longer fits goes to the tray.
 */
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { DocumentReply, Envelope, LoggedEdit, SaveRevisionReply } from '@/contract';
import { applyEdit, hasShape, type Document, type DocumentValues, type Edit, type EditFailure, type EditOf } from '@/core/document';
import type { Pull } from '@/core/assembly';
import { openValues, type CompleteDocument, type InstanceLibrary, type InstanceSource, type Pin } from '@/core/instances';
import { listSources } from '@/core/links';
import type { RegenerationClient } from '@/workers/client';
import type { Api, ApiFailure } from './api';
import { FetchedSnapshots } from './fetched-snapshots';
import { newId } from './identity';
import { OutsideAsker } from './outside-asker';
import type { LiveNews } from './live';
import { placesEdit } from './moved-places';
import { PageGeometry, type OpenAssembly } from './page-geometry';
import type { PendingStore } from './pending-store';
import type { SessionState, ShownAs } from './session-state';
import { findUndoStacks, type RevertibleEdit } from './undo';

interface Pending {
  readonly envelope: Envelope;
  readonly inverse: Edit;
}

const RETRY_MS = 2_000;
const STANDING_MS = 100;

export class DocumentSession {
  readonly store: StoreApi<SessionState>;
  readonly geometry: PageGeometry;
  readonly asker: OutsideAsker;
  private confirmed: Document;
  private seq: number;
  private savedSeq: number;
  private log: RevertibleEdit[];
  private pending: Pending[] = [];
  /** The state that is being saved, and the key of the request. */
  private saving: { readonly seq: number; readonly key: string } | undefined;
  /** An edit that is shown but not made. */
  private trial: { readonly edit: Edit; readonly inverse: Edit } | undefined;
  private sending: Promise<void> | undefined;
  private retryTimer: ReturnType<typeof setTimeout> | undefined;
  private standingTimer: ReturnType<typeof setTimeout> | undefined;
  private isClosed = false;
  /** What its components stand for. */
  private readonly fetched: FetchedSnapshots;

  constructor(
    reply: DocumentReply,
    private readonly author: string,
    private readonly api: Pick<Api, 'postEdits' | 'readEdits' | 'saveRevision' | 'readStanding' | 'readPicture' | 'readRevision' | 'askOutside'>,
    private readonly pendingStore: PendingStore,
    client: RegenerationClient | undefined,
    openAssembly?: OpenAssembly,
  ) {
    this.confirmed = reply.document;
    this.seq = reply.seq;
    this.savedSeq = reply.savedSeq;
    this.log = [...reply.history];
    this.fetched = new FetchedSnapshots(reply.snapshots, (id, number) => this.api.readRevision(id, number));
    this.store = createStore<SessionState>(() => ({
      project: reply.project,
      document: reply.document,
      values: openValues(reply.document, this.library),
      version: 0,
      revision: reply.revision,
      unsavedEdits: reply.seq - reply.savedSeq,
      behind: reply.behind,
      unsavedSources: reply.unsavedSources,
      pending: 0,
      isOffline: false,
      tray: [],
      canUndo: false,
      canRedo: false,
      regenerated: undefined,
      meshes: new Map(),
      pictures: [],
      placed: [],
      placement: undefined,
      interference: undefined,
      builtTo: undefined,
      before: undefined,
      isPaused: false,
      shownAs: undefined,
      preview: undefined,
      regeneration: client && hasShape(reply.document) ? 'running' : 'idle',
      outside: { isAsking: false, failures: [] },
      notice: undefined,
    }));
    this.geometry = new PageGeometry(this.store, client, (id) => this.api.readPicture(id), this.library, openAssembly);
    this.asker = new OutsideAsker(this.store, api, () => this.trial === undefined);
    this.store.setState(this.standingOfEdits());
  }

  /** Brings in edits that an earlier page could not send, and regenerates for the first time. */
  async start(): Promise<void> {
    void this.geometry.showKeptPicture();
    const kept = await this.pendingStore.load(this.id);
    const known = new Set(this.log.map(({ key }) => key));
    const done = kept.pending.flatMap(({ key }) => (known.has(key) ? key : []));
    void this.pendingStore.drop(done);
    this.store.setState({ tray: kept.refused.map(({ envelope, reason }) => ({ key: envelope.key, edit: envelope.edit, reason })) });
    this.applyPending(kept.pending.filter(({ key }) => !known.has(key)));
    this.geometry.regenerate();
    void this.fetchSnapshots();
    void this.flush();
  }

  get id(): string {
    return this.confirmed.id;
  }

  get document(): Document {
    return this.store.getState().document;
  }

  /** The document as it is, whatever is tried out. */
  get documentAsItIs(): Document {
    const back = this.trial && applyEdit(this.document, this.trial.inverse);
    return back?.ok ? back.value.document : this.document;
  }

  get values(): DocumentValues {
    return this.store.getState().values;
  }

  /**
   * Shows an edit as if it were made, values and geometry, while a value is being dragged: each call takes the
   * place of the one before. It ends with {@link endTrial}; any other edit ends it too. `shownAs` says what it is where it stays for longer.
   */
  tryOut(edit: Edit, shownAs?: ShownAs): EditFailure | undefined {
    this.takeBackTrial();
    const result = applyEdit(this.document, edit);
    if (!result.ok) return result.failure;
    this.geometry.assembly?.holdStances();
    const { document, diff, inverse } = result.value;
    this.trial = { edit, inverse };
    this.values.apply(document, diff);
    this.store.setState((state) => ({ document, version: state.version + 1, shownAs }));
    this.geometry.regenerate();
    return undefined;
  }

  /** Drags a component of an assembly, as far as its mates let it: nothing is changed before {@link endDrag}. */
  dragTo(pull: Pull): void {
    this.takeBackTrial();
    this.geometry.assembly?.holdStances();
    this.geometry.assembly?.dragTo(pull);
  }

  /** Keeps where a drag has led to, or takes everything back to where it stood. */
  endDrag(isKept: boolean): void {
    const places = placesEdit(this.document, this.store.getState().placement);
    this.geometry.assembly?.dragTo(undefined);
    if (isKept && places) {
      this.geometry.assembly?.keepStances();
      this.edit(places);
      return;
    }
    this.geometry.assembly?.returnStances();
    this.geometry.regenerate();
  }

  /** Makes what was tried out last an edit, or takes it back. */
  endTrial(isKept: boolean): void {
    const edit = this.trial?.edit;
    if (!edit) return;
    // What a drag has led to is where the next solve begins.
    const places = placesEdit(this.document, this.store.getState().placement);
    this.takeBackTrial();
    if (isKept) this.edit(withPlaces(edit, places));
    else this.geometry.regenerate();
  }

  private takeBackTrial(): void {
    const { trial } = this;
    this.trial = undefined;
    const back = trial && applyEdit(this.document, trial.inverse);
    if (!back?.ok) return;
    this.geometry.assembly?.returnStances();
    this.values.apply(back.value.document, back.value.diff);
    this.store.setState((state) => ({ document: back.value.document, version: state.version + 1, shownAs: undefined }));
  }

  /** Makes an edit here and now; it is sent to the server in the background. */
  edit(edit: Edit, reverts?: string): EditFailure | undefined {
    this.takeBackTrial();
    const { document, values, version } = this.store.getState();
    const result = applyEdit(document, edit);
    if (!result.ok) {
      this.store.setState({ notice: result.failure.message });
      return result.failure;
    }
    const envelope: Envelope = { key: newId(), edit, author: this.author, ...(reverts === undefined ? {} : { reverts }) };
    this.pending.push({ envelope, inverse: result.value.inverse });
    values.apply(result.value.document, result.value.diff);
    this.geometry.endPreview();
    // Told once: whoever listens looks at it once.
    this.store.setState({ document: result.value.document, version: version + 1, notice: undefined, ...this.standingOfEdits() });
    void this.pendingStore.keep(this.id, envelope);
    this.geometry.regenerate();
    void this.fetchSnapshots();
    void this.flush();
    return undefined;
  }

  /** The edits that the document is made of, the newest last; undefined while something is only tried out. */
  madeEdits(most: number): readonly { readonly inverse: Edit }[] | undefined {
    if (this.trial) return undefined;
    return this.fullLog()
      .slice(-most)
      .map(({ inverse }) => ({ inverse }));
  }

  undo(): void {
    this.revert(findUndoStacks(this.fullLog(), this.author).undo.at(-1), 'undone');
  }

  redo(): void {
    this.revert(findUndoStacks(this.fullLog(), this.author).redo.at(-1), 'done again');
  }

  /** Saves a revision once everything is at the server; the documents that are behind then. */
  async save(message: string): Promise<SaveRevisionReply | ApiFailure> {
    await this.flush();
    if (this.pending.length > 0) return { code: 'no-answer', message: 'Some edits have not reached the server yet; nothing was saved.' };
    // An answer that was lost is asked for again under the same key: the revision is not made twice.
    if (this.saving?.seq !== this.seq) this.saving = { seq: this.seq, key: newId() };
    const reply = await this.api.saveRevision(this.id, { seq: this.seq, message, author: this.author, key: this.saving.key });
    if (!reply.ok) {
      if (reply.failure.code === 'stale') await this.fetchMissing();
      return reply.failure;
    }
    this.savedSeq = this.seq;
    this.store.setState({ revision: reply.value.revision, unsavedEdits: 0 });
    return reply.value;
  }

  /** Something happened at the server. */
  hear(event: LiveNews): void {
    if (event.type === 'reconnected') {
      // Whatever was told meanwhile was not heard here.
      if (!this.sending) void this.fetchMissing();
      void this.refreshStanding();
      void this.fetchSnapshots();
      void this.flush();
      // A file that could not be fetched can be now.
      if (this.store.getState().regenerated?.steps.some(({ status }) => status === 'waiting')) this.geometry.regenerate();
      return;
    }
    if (event.type === 'edited' && event.document === this.id && event.seq > this.seq && !this.sending) void this.fetchMissing();
    if (event.project !== this.store.getState().project.id) return;
    const isSource = event.type === 'edited' && listSources(this.document).some(({ source }) => source === event.document);
    if (event.type !== 'saved' && !isSource) return;
    if (event.type === 'saved' && event.documents.some(({ id, seq }) => id === this.id && seq > this.seq) && !this.sending) void this.fetchMissing();
    // One answer for whatever comes close together.
    clearTimeout(this.standingTimer);
    this.standingTimer = setTimeout(() => void this.refreshStanding(), STANDING_MS);
  }

  dismissRefused(key: string): void {
    void this.pendingStore.drop([key]);
    this.store.setState((state) => ({ tray: state.tray.filter((entry) => entry.key !== key) }));
  }

  /** A word for the one who works here, until the next edit. */
  notify(notice: string): void {
    this.store.setState({ notice });
  }

  clearNotice(): void {
    this.store.setState({ notice: undefined });
  }

  close(): void {
    this.isClosed = true;
    clearTimeout(this.retryTimer);
    clearTimeout(this.standingTimer);
    this.geometry.close();
    this.asker.close();
  }

  private revert(target: RevertibleEdit | undefined, word: string): void {
    if (!target) return;
    const failure = this.edit(target.inverse, target.key);
    if (failure) this.store.setState({ notice: `Nothing was ${word}: ${failure.message}` });
  }

  private fullLog(): RevertibleEdit[] {
    return [...this.log, ...this.pending.map(({ envelope, inverse }) => ({ ...envelope, inverse }))];
  }

  /** Sends what is pending; resolves when it is all at the server, or the server cannot be reached. */
  private flush(): Promise<void> {
    this.sending ??= this.sendAll();
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    clearTimeout(this.retryTimer);
    // The first round waits too, so that `sending` is set before it can be cleared. No longer than that: a page that is
    // left at once has sent what was typed.
    await Promise.resolve();
    let goesOn = true;
    while (goesOn && this.pending.length > 0 && !this.isClosed) goesOn = await this.sendBatch();
    this.sending = undefined;
  }

  /** Whether there is use in sending more. */
  private async sendBatch(): Promise<boolean> {
    const batch = this.pending.slice(0, 100);
    const reply = await this.api.postEdits(this.id, { base: this.seq, envelopes: batch.map(({ envelope }) => envelope) });
    if (reply.ok) {
      this.acknowledge(batch, reply.value.edits, reply.value.seq);
      return true;
    }
    const { failure } = reply;
    if (failure.code === 'stale') {
      this.integrate(failure.edits ?? []);
      return true;
    }
    if (failure.code === 'edit-refused' && failure.key !== undefined) {
      this.refuse(failure.key, failure.message);
      return true;
    }
    if (failure.code === 'bad-request' || failure.code === 'too-large' || failure.code === 'not-found') {
      for (const { envelope } of batch) this.refuse(envelope.key, failure.message);
      return true;
    }
    this.store.setState({ isOffline: true });
    if (!this.isClosed) this.retryTimer = setTimeout(() => void this.flush(), RETRY_MS);
    return false;
  }

  private acknowledge(batch: readonly Pending[], edits: readonly LoggedEdit[], seq: number): void {
    const sent = new Set(batch.map(({ envelope }) => envelope.key));
    const foreign = edits.filter(({ key }) => !sent.has(key));
    this.pending = this.pending.filter(({ envelope }) => !sent.has(envelope.key));
    void this.pendingStore.drop([...sent]);
    for (const edit of edits) this.confirm(edit);
    this.seq = seq;
    if (this.store.getState().isOffline) this.store.setState({ isOffline: false });
    if (foreign.length > 0) this.rebuild();
    this.tellPending();
  }

  private async fetchMissing(): Promise<void> {
    const reply = await this.api.readEdits(this.id, this.seq);
    if (reply.ok) this.integrate(reply.value.edits);
  }

  /** Takes in edits that others made, and puts what is pending on top again. */
  private integrate(edits: readonly LoggedEdit[]): void {
    const missed = edits.filter((edit) => edit.seq > this.seq);
    if (missed.length === 0) return;
    const mine = new Set(missed.map(({ key }) => key));
    void this.pendingStore.drop(this.pending.flatMap(({ envelope: { key } }) => (mine.has(key) ? key : [])));
    this.pending = this.pending.filter(({ envelope }) => !mine.has(envelope.key));
    for (const edit of missed) this.confirm(edit);
    this.rebuild();
    this.tellPending();
    this.geometry.regenerate();
    void this.fetchSnapshots();
    void this.refreshStanding();
  }

  private get library(): InstanceLibrary {
    return this.fetched.library;
  }

  /** What components stand for, as far as it is at hand. */
  get snapshots(): InstanceSource {
    return this.library;
  }

  addSnapshot(pin: Pin, document: Document): void {
    this.library.add(pin, document);
  }

  /** Another state of the document, or another document, with what it stands on: to be handed to a worker. */
  complete(document: Document): Promise<CompleteDocument> {
    return this.fetched.complete(document);
  }

  /** Reads what components stand for and is not at hand, down through sub-assemblies. */
  private async fetchSnapshots(): Promise<void> {
    const isOther = await this.fetched.fetch(this.document);
    if (!isOther || this.isClosed) return;
    this.values.settle();
    this.store.setState((state) => ({ version: state.version + 1 }));
    this.geometry.regenerate();
    await this.fetchSnapshots();
  }

  private confirm(edit: LoggedEdit): void {
    const result = applyEdit(this.confirmed, edit.edit);
    if (result.ok) this.confirmed = result.value.document;
    this.seq = Math.max(this.seq, edit.seq);
    this.log.push(edit);
  }

  private rebuild(): void {
    this.trial = undefined;
    const waiting = this.pending.map(({ envelope }) => envelope);
    this.pending = [];
    const values = openValues(this.confirmed, this.library);
    this.store.setState((state) => ({ document: this.confirmed, values, version: state.version + 1, shownAs: undefined }));
    this.geometry.takeMeasured();
    this.applyPending(waiting);
  }

  private applyPending(envelopes: readonly Envelope[]): void {
    for (const envelope of envelopes) {
      const { document, values, version } = this.store.getState();
      const result = applyEdit(document, envelope.edit);
      if (!result.ok) {
        this.toTray(envelope, result.failure.message);
        continue;
      }
      this.pending.push({ envelope, inverse: result.value.inverse });
      values.apply(result.value.document, result.value.diff);
      this.store.setState({ document: result.value.document, version: version + 1 });
    }
    this.tellPending();
  }

  private refuse(key: string, reason: string): void {
    const entry = this.pending.find(({ envelope }) => envelope.key === key);
    if (!entry) return;
    this.pending = this.pending.filter((other) => other !== entry);
    this.toTray(entry.envelope, reason);
    this.rebuild();
    this.geometry.regenerate();
  }

  /** Kept there across reloads, until somebody has looked at it. */
  private toTray(envelope: Envelope, reason: string): void {
    void this.pendingStore.refuse(this.id, { envelope, reason });
    this.store.setState((state) => ({ tray: [...state.tray.filter(({ key }) => key !== envelope.key), { key: envelope.key, edit: envelope.edit, reason }] }));
  }

  private async refreshStanding(): Promise<void> {
    const reply = await this.api.readStanding(this.id);
    if (!reply.ok || this.isClosed) return;
    const { savedSeq, revision, behind, unsavedSources } = reply.value;
    this.savedSeq = savedSeq;
    const known = new Map(this.store.getState().behind.map((change) => [change.id, change.after]));
    const news = behind.filter(({ id, after }) => known.get(id) !== after);
    this.store.setState({ behind, revision, unsavedSources, ...(news.length > 0 ? { notice: tellNews(news) } : {}) });
    this.tellPending();
  }

  private tellPending(): void {
    this.store.setState(this.standingOfEdits());
  }

  private standingOfEdits(): Pick<SessionState, 'pending' | 'unsavedEdits' | 'canUndo' | 'canRedo'> {
    const { undo, redo } = findUndoStacks(this.fullLog(), this.author);
    return {
      pending: this.pending.length,
      unsavedEdits: this.seq - this.savedSeq + this.pending.length,
      canUndo: undo.length > 0,
      canRedo: redo.length > 0,
    };
  }
}

/** The edit, with where components stand after it. */
function withPlaces(edit: Edit, places: EditOf<'component.place'> | undefined): Edit {
  return places ? { type: 'batch', edits: [...(edit.type === 'batch' ? edit.edits : [edit]), places] } : edit;
}

/** `weaving_width is 480 mm at its source now, 400 mm here.` */
function tellNews(news: DocumentReply['behind']): string {
  const [first] = news;
  if (!first) return '';
  const more = news.length > 1 ? `, and ${news.length - 1} more` : '';
  return `At its source ${first.name} is ${first.after || 'an error'} now, ${first.before} here${more}. The preview shows what would follow.`;
}
