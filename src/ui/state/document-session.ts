/**
 * One open document in the browser: its state, what is tried out, undo, and live notices. No React; components read {@link DocumentSession.store}.
 *
 * The *present* document is what is confirmed plus what is pending (`edit-log.ts`, `edit-sender.ts`). A stale edit is rebased: what was missed is applied
 * to what is confirmed, pending again on top; what no longer fits goes to the tray.
 */
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { DocumentReply, Envelope, LoggedEdit, SaveRevisionReply } from '@/contract';
import { applyEdit, hasShape, type Document, type DocumentValues, type Edit, type EditFailure, type EditOf } from '@/core/document';
import type { Pull } from '@/core/assembly';
import { openValues, type CompleteDocument, type InstanceLibrary, type InstanceSource, type Pin } from '@/core/instances';
import { listSources } from '@/core/links';
import type { RegenerationClient } from '@/workers/client';
import type { Api, ApiFailure } from './api';
import { EditLog } from './edit-log';
import { EditSender } from './edit-sender';
import { FetchedSnapshots } from './fetched-snapshots';
import { newId } from './identity';
import { OutsideAsker } from './outside-asker';
import type { LiveNews } from './live';
import { placesEdit } from './moved-places';
import { PageGeometry, type OpenAssembly } from './page-geometry';
import type { PendingStore } from './pending-store';
import type { SessionState, ShownAs } from './session-state';
import { Trial } from './trial';
import type { RevertibleEdit } from './undo';

const STANDING_MS = 100;

export class DocumentSession {
  readonly store: StoreApi<SessionState>;
  readonly geometry: PageGeometry;
  readonly asker: OutsideAsker;
  private readonly log: EditLog;
  private readonly sender: EditSender;
  private readonly trial: Trial;
  /** The state that is being saved, and the key of the request. */
  private saving: { readonly seq: number; readonly key: string } | undefined;
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
    this.log = new EditLog(reply);
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
    this.trial = new Trial(this.store, () => this.geometry.assembly);
    this.asker = new OutsideAsker(this.store, api, () => this.trial.edit === undefined);
    this.sender = new EditSender(this.id, this.log, api, {
      onTaken: (keys, hasForeign) => this.taken(keys, hasForeign),
      onBehind: (edits) => this.integrate(edits),
      onRefused: (key, reason) => this.refuse(key, reason),
      onReach: (isOffline) => {
        if (this.store.getState().isOffline !== isOffline) this.store.setState({ isOffline });
      },
    });
    this.store.setState(this.standingOfEdits());
  }

  /** Brings in edits that an earlier page could not send, and regenerates for the first time. */
  async start(): Promise<void> {
    const picture = this.geometry.showKeptPicture();
    const kept = await this.pendingStore.load(this.id);
    void this.pendingStore.drop(kept.pending.flatMap(({ key }) => (this.log.isConfirmed(key) ? key : [])));
    this.store.setState({ tray: kept.refused.map(({ envelope, reason }) => ({ key: envelope.key, edit: envelope.edit, reason })) });
    this.applyPending(kept.pending.filter(({ key }) => !this.log.isConfirmed(key)));
    void this.sender.flush();
    // Meshes that come with the picture are not asked for twice.
    await picture;
    this.geometry.regenerate();
    void this.fetchSnapshots();
  }

  get id(): string {
    return this.log.confirmed.id;
  }

  get document(): Document {
    return this.store.getState().document;
  }

  /** The document as it is, whatever is tried out. */
  get documentAsItIs(): Document {
    return this.trial.documentAsItIs;
  }

  get values(): DocumentValues {
    return this.store.getState().values;
  }

  /**
   * Shows an edit as if it were made, values and geometry, while a value is being dragged: each call takes the
   * place of the one before. It ends with {@link endTrial}; any other edit ends it too. `shownAs` says what it is where it stays for longer.
   */
  tryOut(edit: Edit, shownAs?: ShownAs): EditFailure | undefined {
    const wasTrying = this.trial.edit !== undefined;
    const failure = this.trial.show(edit, shownAs);
    // What was shown before is taken back, whatever takes its place.
    if (!failure || wasTrying) this.geometry.regenerate();
    return failure;
  }

  /** Drags a component of an assembly, as far as its mates let it: nothing is changed before {@link endDrag}. */
  dragTo(pull: Pull): void {
    this.trial.takeBack();
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
    const { edit } = this.trial;
    if (!edit) return;
    // What a drag has led to is where the next solve begins.
    const places = placesEdit(this.document, this.store.getState().placement);
    this.trial.takeBack();
    if (isKept) this.edit(withPlaces(edit, places));
    else this.geometry.regenerate();
  }

  /** Makes an edit here and now; it is sent to the server in the background. */
  edit(edit: Edit, reverts?: string): EditFailure | undefined {
    this.trial.takeBack();
    const { document, values, version } = this.store.getState();
    const result = applyEdit(document, edit);
    if (!result.ok) {
      this.store.setState({ notice: result.failure.message });
      return result.failure;
    }
    const envelope: Envelope = { key: newId(), edit, author: this.author, ...(reverts === undefined ? {} : { reverts }) };
    this.log.add({ envelope, inverse: result.value.inverse });
    values.apply(result.value.document, result.value.diff);
    this.geometry.endPreview();
    // Told once: whoever listens looks at it once.
    this.store.setState({ document: result.value.document, version: version + 1, notice: undefined, ...this.standingOfEdits() });
    void this.pendingStore.keep(this.id, envelope);
    this.geometry.regenerate();
    void this.fetchSnapshots();
    void this.sender.flush();
    return undefined;
  }

  /** The edits that the document is made of, the newest last; undefined while something is only tried out. */
  madeEdits(most: number): readonly { readonly inverse: Edit }[] | undefined {
    if (this.trial.edit) return undefined;
    return this.log
      .all()
      .slice(-most)
      .map(({ inverse }) => ({ inverse }));
  }

  undo(): void {
    this.revert(this.log.undoStacks(this.author).undo.at(-1), 'undone');
  }

  redo(): void {
    this.revert(this.log.undoStacks(this.author).redo.at(-1), 'done again');
  }

  /** Saves a revision once everything is at the server; the documents that are behind then. */
  async save(message: string): Promise<SaveRevisionReply | ApiFailure> {
    await this.sender.flush();
    if (this.log.pending.length > 0) return { code: 'no-answer', message: 'Some edits have not reached the server yet; nothing was saved.' };
    // An answer that was lost is asked for again under the same key: the revision is not made twice.
    if (this.saving?.seq !== this.log.seq) this.saving = { seq: this.log.seq, key: newId() };
    const reply = await this.api.saveRevision(this.id, { seq: this.log.seq, message, author: this.author, key: this.saving.key });
    if (!reply.ok) {
      if (reply.failure.code === 'stale') await this.fetchMissing();
      return reply.failure;
    }
    this.log.savedSeq = this.log.seq;
    this.store.setState({ revision: reply.value.revision, unsavedEdits: 0 });
    return reply.value;
  }

  /** Something happened at the server. */
  hear(event: LiveNews): void {
    if (event.type === 'reconnected') {
      // Whatever was told meanwhile was not heard here.
      if (!this.sender.isSending) void this.fetchMissing();
      void this.refreshStanding();
      void this.fetchSnapshots();
      void this.sender.flush();
      // A file that could not be fetched can be now.
      if (this.store.getState().regenerated?.steps.some(({ status }) => status === 'waiting')) this.geometry.regenerate();
      return;
    }
    if (event.type === 'edited' && event.document === this.id && event.seq > this.log.seq && !this.sender.isSending) void this.fetchMissing();
    if (event.project !== this.store.getState().project.id) return;
    const isSource = event.type === 'edited' && listSources(this.document).some(({ source }) => source === event.document);
    if (event.type !== 'saved' && !isSource) return;
    if (event.type === 'saved' && event.documents.some(({ id, seq }) => id === this.id && seq > this.log.seq) && !this.sender.isSending)
      void this.fetchMissing();
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
    clearTimeout(this.standingTimer);
    this.sender.close();
    this.geometry.close();
    this.asker.close();
  }

  private revert(target: RevertibleEdit | undefined, word: string): void {
    if (!target) return;
    const failure = this.edit(target.inverse, target.key);
    if (failure) this.store.setState({ notice: `Nothing was ${word}: ${failure.message}` });
  }

  private taken(keys: ReadonlySet<string>, hasForeign: boolean): void {
    void this.pendingStore.drop([...keys]);
    if (hasForeign) this.rebuild();
    this.tellPending();
  }

  private async fetchMissing(): Promise<void> {
    const reply = await this.api.readEdits(this.id, this.log.seq);
    if (reply.ok) this.integrate(reply.value.edits);
  }

  /** Takes in edits that others made, and puts what is pending on top again. */
  private integrate(edits: readonly LoggedEdit[]): void {
    const missed = this.log.takeIn(edits);
    if (missed.size === 0) return;
    void this.pendingStore.drop([...missed]);
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

  private rebuild(): void {
    this.trial.forget();
    const waiting = this.log.withdrawAll();
    const document = this.log.confirmed;
    const values = openValues(document, this.library);
    this.store.setState((state) => ({ document, values, version: state.version + 1, shownAs: undefined }));
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
      this.log.add({ envelope, inverse: result.value.inverse });
      values.apply(result.value.document, result.value.diff);
      this.store.setState({ document: result.value.document, version: version + 1 });
    }
    this.tellPending();
  }

  private refuse(key: string, reason: string): void {
    const envelope = this.log.withdraw(key);
    if (!envelope) return;
    this.toTray(envelope, reason);
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
    this.log.savedSeq = savedSeq;
    const known = new Map(this.store.getState().behind.map((change) => [change.id, change.after]));
    const news = behind.filter(({ id, after }) => known.get(id) !== after);
    this.store.setState({ behind, revision, unsavedSources, ...(news.length > 0 ? { notice: tellNews(news) } : {}) });
    this.tellPending();
  }

  private tellPending(): void {
    this.store.setState(this.standingOfEdits());
  }

  private standingOfEdits(): Pick<SessionState, 'pending' | 'unsavedEdits' | 'canUndo' | 'canRedo'> {
    const { undo, redo } = this.log.undoStacks(this.author);
    return {
      pending: this.log.pending.length,
      unsavedEdits: this.log.unsaved,
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
